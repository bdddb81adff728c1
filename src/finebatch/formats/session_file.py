"""The session as a JSON file: what is to be done, by whom, by when, and the plan if there is one.

Its JSON Schema is published in `docs/session.schema.json` (`finebatch schema`). Lengths are whole
minutes, moments ISO 8601 with their offset from UTC, temperatures °C as a still oven's setting.
"""

import json
from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, ValidationError, model_validator

from finebatch.core.care.keeping import KeptAs
from finebatch.core.formula.dough import MOST_PARTS
from finebatch.core.plan.keys import JobKey, Kind
from finebatch.core.plan.prepare import Joins
from finebatch.core.plan.work import (
    COOL_JOBS,
    HAND_JOBS,
    MOST_TRAYS,
    Bake,
    DoughWork,
    Kitchen,
    Make,
    Oven,
    PartWork,
    Pin,
    TrayWork,
    Work,
    Worker,
)
from finebatch.core.refusal import Fault, Refusal, refuse

MOST_LETTERS = 1_000_000
MOST_MAKES = 5000
"""As many as a card has steps, for each bowl that its dough fills."""
A_DAY = 24 * 60

Minutes = Annotated[int, Field(ge=0, le=10 * A_DAY)]
Hands = Annotated[int, Field(ge=1, le=A_DAY)]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Letter = Annotated[str, Field(pattern=r"^[A-Z]$")]
Key = Annotated[str, Field(pattern=r"^[A-Z][A-Za-z0-9]{0,8}$")]
HandJob = Literal[
    "mix",
    "take",
    "part",
    "freeze",
    "portion",
    "load",
    "turn",
    "out",
    "shape",
    "slice",
    "rack",
    "finish",
]
Celsius = Annotated[int, Field(ge=50, le=350)]


def _in_our_time(moment: datetime) -> datetime:
    # At the ends of the calendar nothing can be reckoned with.
    if not 1970 < moment.year < 2200:
        raise ValueError("Nobody bakes in that year.")
    return moment


Moment = Annotated[datetime, AfterValidator(_in_our_time)]


class _Part(BaseModel):
    model_config = ConfigDict(extra="forbid")


class FileBake(_Part):
    """One stay in the oven."""

    minutes: Hands
    turn_after: Minutes | None = None
    oven_c: Celsius = 180


class FileTray(_Part):
    """One tray of a dough. `pool` is its kind of sheet or pan: 0 are the kitchen's `sheets`, 1 the
    first of its `other_sheets`."""

    name: Key
    pieces: Annotated[int, Field(ge=1, le=2000)] = 1
    portion_min: Hands
    bakes: Annotated[list[FileBake], Field(min_length=1, max_length=2)]
    rest_min: Minutes = 3
    cool_min: Minutes = 20
    slice_min: Minutes = 0
    shape_min: Minutes = 0
    shape_within: Minutes = 2
    finish_min: Minutes = 0
    set_min: Minutes = 0
    scraps: bool = False
    sharp: bool = False
    shelf: Annotated[int, Field(ge=1, le=8)] | None = None
    pool: Annotated[int, Field(ge=0, le=40)] = 0
    size: Annotated[str, Field(max_length=20)] = ""


class FilePart(_Part):
    """A wash, filling or icing."""

    label: Name
    hands_min: Hands
    wanted: Literal["portion", "finish"] = "finish"


class FileDough(_Part):
    """One dough of the session. `pieces` and `joins` are what the baker asked for.

    `form` is in what shape one out of the cold was kept. Of `makes` those of the kind "take" are
    done with such a one; `first_within` is how long it may lie, once tempered, before its first
    tray. One that is `ready` lies mixed and chilled before the session begins.
    """

    letter: Letter
    name: Name = "Dough"
    pieces: Annotated[int, Field(ge=1, le=2000)] | None = None
    joins: Joins = "fresh"
    form: KeptAs | None = None
    ready: bool = False
    makes: Annotated[list[Make], Field(max_length=MOST_MAKES)] = []
    chill_min: Minutes = 0
    chill_most: Minutes | None = None
    temper_min: Minutes = 0
    first_within: Minutes | None = None
    bake_within: Minutes | None = None
    freeze_min: Minutes = 0
    parts: Annotated[list[FilePart], Field(max_length=MOST_PARTS)] = []
    trays: Annotated[list[FileTray], Field(min_length=1, max_length=MOST_TRAYS)]

    @model_validator(mode="after")
    def _steps(self) -> "FileDough":
        if self.joins == "fresh" and bool(self.makes) == self.ready:
            raise ValueError(
                f"Dough {self.letter} is ready and is to be mixed: take its makes out."
                if self.ready
                else f"Dough {self.letter} has no steps: give its makes, or say that it is ready "
                "or joins from the fridge or freezer."
            )
        return self


class FileOven(_Part):
    """An oven; its air is `offset_c` hotter than its dial."""

    shelves: Annotated[int, Field(ge=1, le=8)]
    rise_c_min: Annotated[float, Field(ge=1, le=60)] = 8.0
    fall_c_min: Annotated[float, Field(ge=0.5, le=60)] = 5.0
    fan: bool = False
    offset_c: Annotated[float, Field(ge=-60, le=60)] = 0.0


class FileAway(_Part):
    """A time at which somebody is away."""

    start: Moment
    end: Moment


class FileWorker(_Part):
    """A pair of hands. A child takes no hot or sharp job; `jobs` are those taken (all, when none
    is named)."""

    name: Name
    child: bool = False
    jobs: Annotated[list[HandJob], Field(max_length=20)] = []
    away: Annotated[list[FileAway], Field(max_length=40)] = []


class FileKitchen(_Part):
    """What there is to bake with."""

    sheets: Annotated[int, Field(ge=1, le=40)]
    ovens: Annotated[list[FileOven], Field(min_length=1, max_length=4)]
    workers: Annotated[list[FileWorker], Field(min_length=1, max_length=6)] = [
        FileWorker(name="you")
    ]
    tolerance_c: Annotated[int, Field(ge=0, le=50)] = 5
    sheet_ready_min: Minutes = 8
    load_min: Hands = 1
    turn_min: Hands = 1
    out_min: Hands = 1
    rack_min: Hands = 1
    raw_wait_min: Minutes = 45
    rest_over_min: Minutes = 30
    slides: bool = False
    racks: Annotated[int, Field(ge=1, le=100)] = 12
    fridge: Annotated[int, Field(ge=1, le=100)] = 6
    mixers: Annotated[int, Field(ge=1, le=10)] = 1
    bowls: Annotated[int, Field(ge=1, le=60)] = 12
    other_sheets: Annotated[list[Annotated[int, Field(ge=0, le=40)]], Field(max_length=40)] = []
    interrupts: bool = False
    swaps: bool = False


class FilePin(_Part):
    """A job that starts at a moment."""

    job: Annotated[str, Field(max_length=40)]
    start: Moment


class FileActivity(_Part):
    """One activity of the plan. `window` is the earliest and latest start left to it, `pause` when
    it is broken off for the oven, `to_shelf` where a tray goes at half time, `dial_c` what the
    oven's dial is set to (°C), for its heating and for a tray that goes in."""

    id: str
    kind: str
    dough: str | None
    tray: str | None
    place: str
    start: datetime
    end: datetime
    who: str | None
    sheet: int | None
    oven: int | None
    shelf: int | None
    to_shelf: int | None
    dial_c: int | None = None
    pause: tuple[datetime, datetime] | None
    window: tuple[datetime, datetime | None] | None


class FilePlan(_Part):
    """A plan: its activities, when all is ready, and the soonest that anybody could prove."""

    finish: datetime
    bound: datetime
    proven: bool
    by_hand: datetime
    activities: list[FileActivity]


class SessionFile(_Part):
    """A session. Without a start or a ready-by it starts when it is planned."""

    finebatch: Literal["session"]
    version: Literal[1] = 1
    name: Name = "Session"
    start: Moment | None = None
    ready_by: Moment | None = None
    kitchen: FileKitchen
    doughs: Annotated[list[FileDough], Field(min_length=1, max_length=12)]
    pins: Annotated[list[FilePin], Field(max_length=40)] = []
    plan: FilePlan | None = None

    @model_validator(mode="after")
    def _sense(self) -> "SessionFile":
        if self.start is not None and self.ready_by is not None:
            raise ValueError("Give a start or a ready_by, not both.")
        for what, names in (
            ("doughs", [d.letter for d in self.doughs]),
            ("trays", [t.name for d in self.doughs for t in d.trays]),
        ):
            if len(set(names)) < len(names):
                raise ValueError(f"Two {what} have the same name.")
        if sum(len(d.trays) for d in self.doughs) > MOST_TRAYS:
            raise ValueError(f"At most {MOST_TRAYS} trays are planned at once.")
        for moment in _moments(self):
            if moment.tzinfo is None:
                raise ValueError("Give moments with their offset: 2026-10-10T10:30+02:00.")
        return self

    def work(self, base: datetime) -> Work:
        """What the planner is asked, with minute 0 at `base`."""
        k = self.kitchen
        workers = tuple(
            Worker(
                w.name,
                _jobs(w),
                tuple(
                    sorted(
                        (max(_minute(a.start, base), 0), _minute(a.end, base))
                        for a in w.away
                        if a.end > max(a.start, base)
                    )
                ),
            )
            for w in k.workers
        )
        plain = k.model_dump(exclude={"ovens", "workers", "other_sheets"})
        ovens = tuple(Oven(**oven.model_dump()) for oven in k.ovens)
        others = tuple(k.other_sheets)
        kitchen = Kitchen(**plain, workers=workers, ovens=ovens, other_sheets=others)
        return Work(
            tuple(_dough(d) for d in self.doughs),
            tuple(_tray(t, d.letter) for d in self.doughs for t in d.trays),
            kitchen,
            None if self.ready_by is None else _minute(self.ready_by, base),
            tuple(Pin(JobKey.read(p.job), max(_minute(p.start, base), 0)) for p in self.pins),
        )


def _jobs(worker: FileWorker) -> frozenset[Kind]:
    own = frozenset[Kind](worker.jobs) or HAND_JOBS
    return own & COOL_JOBS if worker.child else own


def _moments(file: SessionFile) -> list[datetime]:
    found = [m for m in (file.start, file.ready_by) if m is not None]
    found += [m for w in file.kitchen.workers for a in w.away for m in (a.start, a.end)]
    return found + [pin.start for pin in file.pins]


def _minute(moment: datetime, base: datetime) -> int:
    return int((moment - base).total_seconds() // 60)


def _dough(d: FileDough) -> DoughWork:
    fresh = d.joins == "fresh"
    kind = "mix" if fresh else "take"
    return DoughWork(
        d.letter,
        tuple(make for make in d.makes if make.kind == kind),
        d.chill_min if fresh else 0,
        d.chill_most,
        d.temper_min,
        d.bake_within if fresh else None,
        d.freeze_min,
        tuple(PartWork(p.label, p.hands_min, p.wanted) for p in d.parts),
        first_within=None if fresh else d.first_within,
    )


def _tray(t: FileTray, letter: str) -> TrayWork:
    plain = t.model_dump(exclude={"bakes"})
    bakes = tuple(Bake(b.minutes, b.turn_after, b.oven_c) for b in t.bakes)
    return TrayWork(**plain, dough=letter, bakes=bakes)


def read_session(text: str) -> SessionFile:
    """Read a session file; `Refusal` with what is wrong and where."""
    if len(text) > MOST_LETTERS:
        raise refuse("file", "That file is larger than 1 MB.")
    try:
        value = json.loads(text)
    except json.JSONDecodeError as error:
        raise refuse(
            "file", f"That is no JSON: {error.msg} in line {error.lineno}. Mend it there."
        ) from error
    except RecursionError as error:
        raise refuse("file", "That file is nested too deeply to be a session.") from error
    except ValueError as error:
        raise refuse("file", "There is a number of thousands of digits. Mend it.") from error
    if not isinstance(value, dict) or value.get("finebatch") != "session":
        raise refuse("file", 'That is no session: it has no "finebatch": "session".')
    try:
        return SessionFile.model_validate(value)
    except ValidationError as error:
        faults = [
            Fault(".".join(map(str, e["loc"])) or "file", e["msg"].removeprefix("Value error, "))
            for e in error.errors()[:20]
        ]
        raise Refusal(*faults) from error


def schema() -> dict[str, Any]:
    """The JSON Schema of a session file."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **SessionFile.model_json_schema(),
    }
