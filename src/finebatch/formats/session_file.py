"""The session as a JSON file: what is to be done, by whom, by when, and the plan if there is one.

Its JSON Schema is published in `docs/session.schema.json` (`finebatch schema`). Lengths are whole
minutes, moments ISO 8601 with their offset from UTC, temperatures °C as a still oven's setting.
"""

import json
from dataclasses import dataclass, field
from datetime import datetime
from typing import Annotated, Any, Literal, TypeVar

from annotated_types import Interval, Len
from pydantic import AfterValidator, BaseModel, ConfigDict, Field, ValidationError, model_validator
from pydantic.json_schema import SkipJsonSchema

from finebatch.core.care.keeping import KeptAs, RawAs, RawIn
from finebatch.core.measures.faults import refusal_of
from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.prepare import Joins
from finebatch.core.plan.told import MOST_AWAY, ToldKind
from finebatch.core.plan.work import (
    COOL_JOBS,
    HAND_JOBS,
    MOST_DOUGHS,
    MOST_TRAYS,
    Bake,
    DoughWork,
    Kitchen,
    Label,
    Makes,
    Oven,
    Pieces,
    Pin,
    Places,
    TrayWork,
    Work,
    Worker,
)
from finebatch.core.refusal import Fault, Refusal, refuse
from finebatch.core.tray.scaled import LEAST_TIMES, MOST_TIMES
from finebatch.core.values import part_of, values_of

MOST_LETTERS = 1_000_000
MOST_EVENTS, MOST_ACTIVITIES = 2000, 5000
HandJob = Literal[
    "ready",
    "mix",
    "form",
    "fetch",
    "take",
    "wash",
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
    "clear",
]


def _in_our_time(moment: datetime) -> datetime:
    # At the ends of the calendar nothing can be reckoned with.
    if not 1970 < moment.year < 2200:
        raise ValueError("Nobody bakes in that year.")
    return moment


FileMoment = Annotated[datetime, AfterValidator(_in_our_time)]


class _Part(BaseModel):
    model_config = ConfigDict(extra="forbid")


# A file says no more than a baker would: what the planner works out beside it is left out.
T = TypeVar("T")
LeftOut = Annotated[T, Field(exclude=True), SkipJsonSchema()]


@dataclass(frozen=True, slots=True)
class FileBake(Bake):
    """One stay in the oven."""

    extra: LeftOut[int] = field(default=0, init=False)


@dataclass(frozen=True, slots=True)
class FileTray(TrayWork):
    """One tray of a dough. `pool` is its kind of sheet or pan: 0 are the kitchen's `sheets`, 1 the
    first of its `other_sheets`."""

    dough: LeftOut[str] = field(default="", init=False)
    pieces: Pieces = field(default=1, kw_only=True)
    bakes: Annotated[tuple[FileBake, ...], Len(1, 2)]

    def work(self, letter: str) -> TrayWork:
        """The tray as the planner wants it."""
        bakes = tuple(part_of(Bake, bake) for bake in self.bakes)
        return part_of(TrayWork, self, dough=letter, bakes=bakes)


@dataclass(frozen=True, slots=True, kw_only=True)
class FileDough(DoughWork):
    """One dough of the session. `pieces` and `joins` are what the baker asked for, made `times`
    over in pieces of `each_g` (g), that bake `wide_mm` wide (mm), or of which it gives
    `share_into`, where not as its Tray screen has them.

    `form` is in what shape one out of the cold was kept, `keep_as` and `keep_in` how and where what
    is not baked is kept. Nothing of it is portioned before `bake_from_at` (or minute `bake_from`).
    Of `makes` those of the kind "take" are done with one out of the cold; `first_within` is how
    long it may lie, once tempered, before its first tray. One that is `ready` lies mixed and
    chilled before the session begins.
    """

    name: Label = "Dough"
    pieces: Pieces | None = None
    joins: Joins = "fresh"
    form: KeptAs | None = None
    keep_as: RawAs | None = None
    keep_in: RawIn | None = None
    bake_from_at: FileMoment | None = None
    times: Annotated[float, Interval(ge=LEAST_TIMES, le=MOST_TIMES)] = 1.0
    each_g: Annotated[float, Interval(ge=1, le=5000)] | None = None
    wide_mm: Annotated[float, Interval(ge=5, le=600)] | None = None
    share_into: Pieces | None = None
    ready: bool = False
    makes: Makes = ()
    trays: Annotated[tuple[FileTray, ...], Len(1, MOST_TRAYS)]
    scrap_chill_min: LeftOut[int] = field(default=15, init=False)
    night_temper_min: LeftOut[int] = field(default=0, init=False)

    def __post_init__(self) -> None:
        if self.joins == "fresh" and bool(self.makes) == self.ready:
            raise ValueError(
                f"Dough {self.letter} is ready and is to be mixed: take its makes out."
                if self.ready
                else f"Dough {self.letter} has no steps: give its makes, or say that it is ready "
                "or joins from the fridge or freezer."
            )

    def work(self, base: datetime) -> DoughWork:
        """The dough as the planner wants it, with minute 0 at `base`: what does not go with how it
        joins is left."""
        fresh, begin = self.joins == "fresh", self.bake_from
        if self.bake_from_at is not None:
            begin = max(minute_of(self.bake_from_at, base), 0)
        return part_of(
            DoughWork,
            self,
            makes=tuple(make for make in self.makes if (make.kind == "take") != fresh),
            before=self.before if fresh else (),
            bake_from=begin,
            fetch_min=self.fetch_min if fresh else 0,
            chill_min=self.chill_min if fresh else 0,
            bake_within=self.bake_within if fresh else None,
            first_within=None if fresh else self.first_within,
        )


@dataclass(frozen=True, slots=True)
class FileOven(Oven):
    """An oven; its air is `offset_c` hotter than its dial."""

    room_c: LeftOut[float] = field(default=20.0, init=False)


class FileAway(_Part):
    """A time at which somebody is away."""

    start: FileMoment
    end: FileMoment


class FileWorker(_Part):
    """A pair of hands. A child takes no hot or sharp job; `jobs` are those taken (all, when none
    is named)."""

    name: Label
    child: bool = False
    jobs: Annotated[list[HandJob], Field(max_length=20)] = []
    away: Annotated[list[FileAway], Field(max_length=40)] = []


@dataclass(frozen=True, slots=True)
class FileKitchen(Places):
    """What there is to bake with."""

    ovens: Annotated[tuple[FileOven, ...], Len(1, 4)]
    workers: Annotated[tuple[FileWorker, ...], Len(1, 6)] = (FileWorker(name="you"),)

    def work(self, base: datetime) -> Kitchen:
        """The kitchen as the planner wants it, with minute 0 at `base`."""
        return Kitchen(
            **values_of(Places, self),
            ovens=tuple(part_of(Oven, oven) for oven in self.ovens),
            workers=tuple(_worker(worker, base) for worker in self.workers),
        )


def _worker(worker: FileWorker, base: datetime) -> Worker:
    own = frozenset[JobKind](worker.jobs) or HAND_JOBS
    away = (
        (max(minute_of(a.start, base), 0), minute_of(a.end, base))
        for a in worker.away
        if a.end > max(a.start, base)
    )
    return Worker(worker.name, own & COOL_JOBS if worker.child else own, tuple(sorted(away)))


class FilePin(_Part):
    """A job that starts at a moment."""

    job: Annotated[str, Field(max_length=40)]
    start: FileMoment


class FileActivity(_Part):
    """One activity of the plan. `window` is the earliest and latest start left to it, `pause` when
    it is broken off for the oven, `to_shelf` where a tray goes at half time, `dial_c` what the
    oven's dial is set to (°C), for its heating and for a tray that goes in."""

    id: str
    kind: str
    dough: str | None
    tray: str | None
    place: str
    start: FileMoment
    end: FileMoment
    who: str | None
    sheet: int | None
    oven: int | None
    shelf: int | None
    to_shelf: int | None
    dial_c: float | None = None
    pause: tuple[datetime, datetime] | None
    window: tuple[datetime, datetime | None] | None


class FilePlan(_Part):
    """A plan: its activities, when all is ready, and the soonest that anybody could prove."""

    finish: datetime
    bound: datetime
    proven: bool
    by_hand: datetime
    activities: Annotated[list[FileActivity], Field(min_length=1, max_length=MOST_ACTIVITIES)]


class FileEvent(_Part):
    """One thing that was said while baking, as the API takes it: a job that was `done`, left out
    (`skip`) or `felt`, a bake that needs `minutes` more, a tray that was `dropped`; the baker is
    `away`, or the oven `slow`, for so many. Of what was weighed, `grams` and `what`; `by` the
    tablet or phone on which it was said."""

    at: FileMoment
    kind: ToldKind
    activity: Annotated[str, Field(max_length=40)] = ""
    minutes: Annotated[int, Field(ge=1, le=MOST_AWAY)] | None = None
    grams: Annotated[float, Field(ge=-1e6, le=1e6)] | None = None
    what: Annotated[str, Field(max_length=80)] | None = None
    by: Annotated[str, Field(max_length=40)] | None = None


class SessionFile(_Part):
    """A session. Without a start or a ready-by it starts when it is planned. `first_c` is what the
    oven is set to first (°C), `calm` asks the screen for the calmer plan."""

    finebatch: Literal["session"]
    version: Literal[1] = 1
    name: Label = "Session"
    start: FileMoment | None = None
    ready_by: FileMoment | None = None
    first_c: Annotated[int, Field(ge=50, le=350)] | None = None
    calm: bool = False
    kitchen: FileKitchen
    doughs: Annotated[list[FileDough], Field(min_length=1, max_length=MOST_DOUGHS)]
    pins: Annotated[list[FilePin], Field(max_length=40)] = []
    plan: FilePlan | None = None
    events: Annotated[list[FileEvent], Field(max_length=MOST_EVENTS)] = []

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
        if self.events and self.plan is None:
            raise ValueError("What happened goes with the plan in which it did: give that too.")
        for moment in _moments(self):
            if moment.tzinfo is None:
                raise ValueError("Give moments with their offset: 2026-10-10T10:30+02:00.")
        return self

    def work(self, base: datetime) -> Work:
        """What the planner is asked, with minute 0 at `base`."""
        return Work(
            tuple(dough.work(base) for dough in self.doughs),
            tuple(tray.work(dough.letter) for dough in self.doughs for tray in dough.trays),
            self.kitchen.work(base),
            None if self.ready_by is None else minute_of(self.ready_by, base),
            tuple(Pin(JobKey.read(p.job), max(minute_of(p.start, base), 0)) for p in self.pins),
            first_c=self.first_c,
        )


def _moments(file: SessionFile) -> list[datetime]:
    found = [m for m in (file.start, file.ready_by) if m is not None]
    found += [d.bake_from_at for d in file.doughs if d.bake_from_at is not None]
    found += [m for w in file.kitchen.workers for a in w.away for m in (a.start, a.end)]
    found += [event.at for event in file.events]
    if file.plan is not None and file.events:
        found += [moment for a in file.plan.activities for moment in (a.start, a.end)]
    return found + [pin.start for pin in file.pins]


def minute_of(moment: datetime, base: datetime) -> int:
    """A moment in whole minutes after another."""
    return int((moment - base).total_seconds() // 60)


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
        found = refusal_of(error.errors())
        raise Refusal(*(Fault(f.field or "file", f.message) for f in found.faults)) from error


def schema() -> dict[str, Any]:
    """The JSON Schema of a session file."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **SessionFile.model_json_schema(),
    }
