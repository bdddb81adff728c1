"""What has to be done: the doughs and trays of a session, the kitchen, and what has happened.

All times are whole minutes after the session's start.
"""

import math
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import KW_ONLY, dataclass, field
from functools import reduce
from typing import Annotated, Literal

from annotated_types import Interval, Len, MaxLen

from finebatch.core.care.warm import WARM_MOST_MIN
from finebatch.core.formula.dough import MOST_PARTS
from finebatch.core.heat.oven import OvenAir, dial_c, setting_c
from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.refusal import refuse
from finebatch.core.values import FromOutside, Matching

MOST_TRAYS = 60
MOST_DOUGHS = 12
HORIZON_SLACK = 240
A_DAY = 24 * 60
HALF_A_DAY = A_DAY // 2
LONG_CHILL_MIN = 4 * 60
"""Dough that is chilled for so long may lie overnight (household practice)."""
LONGEST = 14 * 24 * 60
"""No session is planned over more than a fortnight."""

PLAIN_MIX = "Mix the dough"
"""The words of a mixing that has none of its own."""
BREAK_MOST_MIN = 4
"""For how long portioning may be broken off where the baker allows it: a door job or two."""

COOL_JOBS: frozenset[JobKind] = frozenset(
    {
        "ready",
        "mix",
        "form",
        "take",
        "fetch",
        "wash",
        "part",
        "freeze",
        "portion",
        "finish",
        "clear",
    }
)
"""Jobs that are neither hot nor sharp: those that a child may do."""
HOT_JOBS: frozenset[JobKind] = frozenset({"load", "turn", "out", "shape", "slice"})
"""Jobs at the oven or at what is just out of it, that cannot wait."""
HAND_JOBS: frozenset[JobKind] = COOL_JOBS | HOT_JOBS | {"rack"}
MAY_BE_LEFT_OUT: frozenset[JobKind] = frozenset(
    {"ready", "wash", "turn", "finish", "freeze", "clear"}
)
"""What can be left out; everything else has to be done for what follows."""


Minutes = Annotated[int, Interval(ge=0, le=10 * A_DAY)]
JobMinutes = Annotated[int, Interval(ge=1, le=A_DAY)]
Letter = Annotated[str, Matching("^[A-Z]$")]
TrayName = Annotated[str, Matching("^[A-Z][A-Za-z0-9]{0,8}$")]
HabitMinutes = Annotated[int, Interval(ge=0, le=120)]
Bowls = Annotated[int, Interval(ge=1, le=60)]
Share = Annotated[float, Interval(gt=0, le=1)]
Label = Annotated[str, Len(1, 120)]
Pieces = Annotated[int, Interval(ge=1, le=2000)]
MOST_MAKES = 5000
"""As many as a card has steps, for each bowl that its dough fills."""


@dataclass(frozen=True, slots=True)
class Bake(FromOutside):
    """One stay in the oven, at `oven_c` as a still oven's setting (°C).

    `turn_after` is when the tray is turned, none when it is too short. `extra` is what the baker
    added ("three more minutes").
    """

    minutes: JobMinutes
    turn_after: Minutes | None = None
    oven_c: Annotated[int, Interval(ge=50, le=350)] = 180
    extra: int = 0

    @property
    def length(self) -> int:
        """Minutes in the oven in all."""
        return self.minutes + self.extra


@dataclass(frozen=True, slots=True)
class Make(FromOutside):
    """A job before any tray: `hands_min` of work, then `wait_min` until the next can begin.

    A dough is got ready for, mixed, formed, or taken out of the cold; `cold` says that it waits in
    the fridge.
    """

    NEEDED = ("hands_min",)

    label: Label = PLAIN_MIX
    hands_min: JobMinutes = 15
    wait_min: Minutes = 0
    kind: Literal["ready", "mix", "form", "take"] = "mix"
    cold: bool = False


Makes = Annotated[tuple[Make, ...], MaxLen(MOST_MAKES)]


@dataclass(frozen=True, slots=True)
class PartWork(FromOutside):
    """A wash, filling or icing: made in `hands_min`, in time for portioning or for finishing, and
    no more than `within_min` before the first tray."""

    label: Label
    hands_min: JobMinutes
    wanted: Literal["portion", "finish"] = "finish"
    within_min: Minutes | None = None


@dataclass(frozen=True, slots=True)
class DoughWork(FromOutside):
    """What comes before the first tray of a dough.

    `letter` names it. What is got ready `before` it is mixed is done in any order. It is mixed and
    formed, or taken out of the cold, in `makes` (none: it is there to be portioned), chilled for at
    least `chill_min` and at most `chill_most`, fetched from the cold in `fetch_min` (0: as it is
    portioned), and tempered for `temper_min`; once fetched and tempered its first tray is portioned
    within `fetched_within`. `first_within` is the same for one that was taken out of the cold. In
    all it is warm for `warm_most` minutes.
    `bake_within` is how long after mixing its trays have to be in the oven (a batter that sinks,
    a dough that may not wait warm); none where it can wait in the cold. Where one tray alone takes
    longer, it is what that takes, and `sinks_after` what it should be. `freeze_min` is the time
    to portion what is kept for another day, `night_temper_min` the minutes on the bench that it
    wants after a night in the fridge. A batter too large for its window is mixed in several `lots`:
    its `makes` are those of one after the other, and each tray takes of its own. No tray is
    portioned before minute `bake_from`: its pieces would be too old by the time they are wanted.
    `shares` are those of the bowls that it is mixed in, where they are not equal.
    """

    letter: Letter
    makes: Makes = (Make(PLAIN_MIX, 15),)
    chill_min: Minutes = 0
    chill_most: Minutes | None = None
    temper_min: Minutes = 0
    bake_within: Minutes | None = None
    freeze_min: Minutes = 0
    parts: Annotated[tuple[PartWork, ...], MaxLen(MOST_PARTS)] = ()
    scrap_chill_min: Minutes = 15
    first_within: Minutes | None = None
    night_temper_min: Minutes = 0
    before: Makes = ()
    fetch_min: Minutes = 0
    fetched_within: Minutes = 30
    warm_most: Minutes = WARM_MOST_MIN
    lots: Annotated[int, Interval(ge=1, le=MOST_TRAYS)] = 1
    bake_from: Annotated[int, Interval(ge=0, le=LONGEST)] = 0
    sinks_after: Minutes | None = None
    shares: Annotated[tuple[Share, ...], MaxLen(60)] = ()

    @property
    def begin_from(self) -> int:
        """The minute before which nothing is done of it: one that lies in the cold for hours may be
        mixed up to half a day before it has to be."""
        if self.chill_min < LONG_CHILL_MIN:
            return self.bake_from
        return max(self.bake_from - self.ready_min - HALF_A_DAY, 0)

    @property
    def made(self) -> tuple[JobKey, ...]:
        """The jobs with which it is mixed and formed, or taken out of the cold, in order."""
        rounds: Counter[JobKind] = Counter()
        found = []
        for make in self.makes:
            found.append(JobKey(self.letter, make.kind, rounds[make.kind]))
            rounds[make.kind] += 1
        return tuple(found)

    @property
    def at_once(self) -> bool:
        """Whether it is mixed and portioned without lying in the cold for long in between, so that
        it may be mixed in lots."""
        rests = self.chill_min or self.fetch_min or self.temper_min
        return bool(self.makes) and not rests and not self.from_cold

    def lot(self, number: int) -> Sequence[tuple[Make, JobKey]]:
        """The jobs with which one of its lots is made, counted from 0."""
        jobs = list(zip(self.makes, self.made, strict=True))
        each = len(jobs) // self.lots
        return jobs[number * each : (number + 1) * each]

    @property
    def ready_min(self) -> int:
        """Minutes from the first job to where the first tray can be portioned, with nothing in the
        way."""
        before = max((make.hands_min + make.wait_min for make in self.before), default=0)
        made = sum(make.hands_min + make.wait_min for make, _ in self.lot(0))
        return before + made + self.chill_min + self.fetch_min + self.temper_min

    @property
    def cold_from(self) -> JobKey | None:
        """The job after which it may lie in the fridge first; none for one that was mixed before.
        From then on its place is its own: it comes back between trays where it would get warm."""
        if not self.makes or self.from_cold:
            return None
        cold = [key for make, key in zip(self.makes, self.made, strict=True) if make.cold]
        return cold[0] if cold else self.made[-1]

    @property
    def may_not_wait(self) -> bool:
        """Whether it has to be baked, or leave the cold, soon after it is mixed or taken out."""
        windows = (self.bake_within, self.chill_most, self.first_within)
        return bool(self.makes) and any(window is not None for window in windows)

    @property
    def last_mix(self) -> JobKey | None:
        """The last job with which it is mixed; none for one that was mixed another day."""
        return next((key for key in reversed(self.made) if key.step == "mix"), None)

    @property
    def from_cold(self) -> bool:
        """Whether it was mixed another day and is taken out of the cold."""
        return bool(self.makes) and self.makes[0].kind == "take"


@dataclass(frozen=True, slots=True)
class TrayWork(FromOutside):
    """One tray from portioning to the tin. Two bakes when its log is sliced and dried again.

    It is loaded no sooner than `stand_min` after it was portioned: it is firm or dry by then.
    `shape_min` is hot work that has to begin within `shape_within` minutes of taking out (re-cut,
    curve). `rest_min` is the least time on the sheet, `cut_rest_min` that before it is sliced where
    it is another. `finish_min` is icing or dusting once cold, and `set_min` what that takes to set.
    A tray of `scraps` follows all others of its dough; one that is `sharp` is portioned with a
    knife. `pool` is the kind of sheet or pan that it takes (see `Kitchen.pools`), `size` a word
    where a dough's trays differ in it, `lot` the mixing of a batter that it takes.
    """

    name: TrayName
    dough: Letter
    pieces: Pieces
    portion_min: JobMinutes
    bakes: Annotated[tuple[Bake, ...], Len(1, 2)]
    rest_min: Minutes = 3
    cool_min: Minutes = 20
    slice_min: Minutes = 0
    shape_min: Minutes = 0
    shape_within: Minutes = 2
    finish_min: Minutes = 0
    set_min: Minutes = 0
    scraps: bool = False
    shelf: Annotated[int, Interval(ge=1, le=8)] | None = None
    sharp: bool = False
    pool: Annotated[int, Interval(ge=0, le=40)] = 0
    size: Annotated[str, MaxLen(20)] = ""
    stand_min: Minutes = 0
    cut_rest_min: Minutes | None = None
    lot: Annotated[int, Interval(ge=0, le=MOST_TRAYS)] = 0

    @property
    def portion_skill(self) -> JobKind:
        """What one has to be allowed to do to portion it: a log is sliced with a knife."""
        return "slice" if self.sharp else "portion"

    @property
    def before_cut_min(self) -> int:
        """The least minutes from the oven to the knife."""
        return self.rest_min if self.cut_rest_min is None else self.cut_rest_min

    @property
    def tail_min(self) -> int:
        """Minutes from the rack to ready, hands not counted as waiting."""
        return self.cool_min + (self.finish_min + self.set_min if self.finish_min else 0)


@dataclass(frozen=True, slots=True)
class Oven(OvenAir):
    """An oven as the planner wants it: its shelves, whether it blows, and its air."""

    shelves: Annotated[int, Interval(ge=1, le=8)]
    room_c: float = 20.0
    fan: bool = False

    def dial_c(self, still_c: float) -> float:
        """What to set this oven's dial to for a still oven's setting (°C)."""
        return dial_c(setting_c(still_c, "fan" if self.fan else "conventional"), self)

    def heat_min(self, oven_c: float) -> int:
        """Minutes from cold to `oven_c`."""
        return math.ceil((oven_c - self.room_c) / self.rise_c_min)

    def change_min(self, before_c: int, after_c: int, tolerance_c: int) -> int:
        """Minutes from one setting to another; none within the baker's tolerance."""
        step = after_c - before_c
        if -tolerance_c <= step <= tolerance_c:
            return 0
        return math.ceil(step / self.rise_c_min if step > 0 else -step / self.fall_c_min)


Span = tuple[int, int]
"""From one minute to another."""

BATTER_WITHIN_MIN = 45
"""A whisked batter sinks: it is in the oven within this (household practice)."""
OVEN_OFF_MIN = 30
"""With nobody there for so long the oven is turned off, as its manual asks, and heated anew."""


def merged(spans: Iterable[Span]) -> tuple[Span, ...]:
    """The same time in spans that do not touch."""
    found: list[Span] = []
    for start, end in sorted(spans):
        if found and start <= found[-1][1]:
            found[-1] = (found[-1][0], max(found[-1][1], end))
        else:
            found.append((start, end))
    return tuple(found)


def in_both(one: Sequence[Span], other: Sequence[Span]) -> tuple[Span, ...]:
    """The time that lies in spans of both."""
    both = ((max(a, c), min(b, d)) for a, b in one for c, d in other)
    return tuple((start, end) for start, end in both if start < end)


@dataclass(frozen=True, slots=True)
class Worker:
    """A pair of hands: which kinds of job it takes, and when it is away."""

    name: str = "you"
    jobs: frozenset[JobKind] = HAND_JOBS
    away: tuple[Span, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Means(FromOutside):
    """What a kitchen has beside sheets and ovens, and how long each small job takes, in minutes.

    Two settings of an oven within `tolerance_c` count as one. `raw_wait_min` is how long a
    portioned tray may wait for the oven before it gets too warm. `slides`: trays are portioned on
    parchment and slid across, so that a sheet is needed only for the bake; `interrupts`:
    portioning may be broken off for the oven. `racks` are trays that the rack holds, `mixers` how
    many doughs can be mixed at once, `bowls` how many can be unchilled at once. `wash_min` is what
    it takes to wash the bowl between two doughs, `clear_min` to clear up at the end; 0 leaves them
    out of the plan.
    """

    tolerance_c: Annotated[int, Interval(ge=0, le=50)] = 5
    sheet_ready_min: Minutes = 8
    load_min: JobMinutes = 1
    turn_min: JobMinutes = 1
    out_min: JobMinutes = 1
    rack_min: JobMinutes = 1
    raw_wait_min: Minutes = 45
    slides: bool = False
    interrupts: bool = False
    racks: Annotated[int, Interval(ge=1, le=100)] = 12
    mixers: Annotated[int, Interval(ge=1, le=10)] = 1
    bowls: Bowls = 12
    wash_min: HabitMinutes = 0
    clear_min: HabitMinutes = 0


@dataclass(frozen=True, slots=True)
class Places(Means):
    """Sheets, and what else holds doughs and trays.

    `other_sheets` are how many there are of each further kind of sheet or pan, `fridge` how many
    doughs it holds; `rest_over_min` is how much longer than its least rest a tray may stay on its
    sheet. `swaps`: two trays turned together change shelves.
    """

    sheets: Annotated[int, Interval(ge=1, le=40)]
    _: KW_ONLY
    other_sheets: Annotated[tuple[Annotated[int, Interval(ge=0, le=40)], ...], MaxLen(40)] = ()
    fridge: Annotated[int, Interval(ge=1, le=100)] = 6
    rest_over_min: Minutes = 30
    swaps: bool = False


@dataclass(frozen=True, slots=True)
class Kitchen(Places):
    """All that work is placed in: sheets, ovens and hands."""

    ovens: Annotated[tuple[Oven, ...], Len(1, 4)] = (Oven(1),)
    workers: Annotated[tuple[Worker, ...], Len(1, 6)] = (Worker(),)

    @property
    def pools(self) -> tuple[int, ...]:
        """How many there are of each kind of sheet and pan, the usual kind first."""
        return (self.sheets, *self.other_sheets)

    @property
    def nobody(self) -> tuple[Span, ...]:
        """When nobody is there who may do hot jobs."""
        return reduce(in_both, (merged(w.away) for w in self.workers if "load" in w.jobs))

    @property
    def unattended(self) -> tuple[Span, ...]:
        """When nobody is there for so long, or from the start, that the oven is off."""
        return tuple((a, b) for a, b in self.nobody if b - a >= OVEN_OFF_MIN or a == 0)

    @property
    def shelves(self) -> int:
        """Shelves of all ovens together."""
        return sum(oven.shelves for oven in self.ovens)


@dataclass(frozen=True, slots=True)
class Pin:
    """A wish of the baker's: this job starts at that minute."""

    job: JobKey
    start: int


@dataclass(frozen=True, slots=True)
class Work:
    """One session's work: its doughs, their trays in order, one kitchen.

    `ready_by` is the minute at which all has to be ready, when there is one; `pins` are jobs that
    the baker has put at a time; `first_c` is the oven's setting to begin with, when that is wanted.
    """

    doughs: tuple[DoughWork, ...]
    trays: tuple[TrayWork, ...]
    kitchen: Kitchen
    ready_by: int | None = None
    pins: tuple[Pin, ...] = ()
    first_c: int | None = None

    def __post_init__(self) -> None:
        if not self.trays:
            raise refuse("trays", "There is nothing to bake: make at least one tray.")
        if len(self.trays) > MOST_TRAYS:
            raise refuse("trays", f"At most {MOST_TRAYS} trays are planned at once.")
        if len(self.doughs) > MOST_DOUGHS:
            raise refuse("doughs", f"At most {MOST_DOUGHS} doughs are planned at once.")
        if self.kitchen.sheets < 1:
            raise refuse("sheets", "At least one sheet is needed.")
        if not self.kitchen.ovens or min(oven.shelves for oven in self.kitchen.ovens) < 1:
            raise refuse("shelves", "At least one oven shelf is needed.")
        self._check_lots()
        if any(
            not 0 <= tray.pool < len(self.kitchen.pools) or not self.kitchen.pools[tray.pool]
            for tray in self.trays
        ):
            raise refuse("sheets", "A tray has no sheet or pan to lie on: add one of its kind.")
        if not any(worker.jobs >= HAND_JOBS for worker in self.kitchen.workers):
            raise refuse("workers", "Somebody has to do the hot jobs: add a grown-up.")

    def _check_lots(self) -> None:
        for dough in self.doughs:
            if dough.lots > 1 and not (dough.at_once and len(dough.makes) % dough.lots == 0):
                raise refuse(
                    "lots",
                    f"Dough {dough.letter} cannot be mixed in {dough.lots} lots: give each its own "
                    "mixing, and no chilling or tempering.",
                )
            if any(tray.lot >= dough.lots for tray in self.trays_of(dough.letter)):
                raise refuse(
                    "lots",
                    f"A tray of dough {dough.letter} is of a lot that is not mixed: there are lots "
                    f"0 to {dough.lots - 1}.",
                )

    def dough(self, letter: str) -> DoughWork:
        """The dough of that letter."""
        return next(dough for dough in self.doughs if dough.letter == letter)

    @property
    def settings_c(self) -> tuple[int, ...]:
        """The oven's settings that the session needs, each once, coolest first."""
        return tuple(sorted({bake.oven_c for tray in self.trays for bake in tray.bakes}))

    @property
    def washes(self) -> Mapping[JobKey, JobKey]:
        """The washing of the bowl after each dough's last mixing, by that; none for one dough
        alone, which is cleared up after."""
        mixes = [mix for dough in self.doughs if (mix := dough.last_mix) is not None]
        if not self.kitchen.wash_min or len(mixes) < 2:
            return {}
        return {mix: JobKey(mix.whose, "wash") for mix in mixes}

    def trays_of(self, letter: str) -> tuple[TrayWork, ...]:
        """The trays of a dough, in order."""
        return tuple(tray for tray in self.trays if tray.dough == letter)

    @property
    def horizon(self) -> int:
        """A length in minutes that any sensible plan stays under."""
        total = HORIZON_SLACK + max(self.ready_by or 0, 0)
        total += max((end for w in self.kitchen.workers for _, end in w.away), default=0)
        total += max((pin.start for pin in self.pins), default=0)
        total += max((dough.bake_from for dough in self.doughs), default=0)
        for dough in self.doughs:
            total += sum(make.hands_min + make.wait_min for make in (*dough.before, *dough.makes))
            total += dough.chill_min + dough.fetch_min + dough.temper_min + dough.freeze_min
            total += sum(part.hands_min for part in dough.parts)
        for tray in self.trays:
            total += (
                tray.portion_min + tray.stand_min + tray.slice_min + tray.shape_min + tray.tail_min
            )
            for bake in tray.bakes:
                total += bake.length + max(tray.rest_min, tray.before_cut_min) + 10
                total += max(oven.heat_min(bake.oven_c) for oven in self.kitchen.ovens)
            total += self.kitchen.sheet_ready_min
        total += self.kitchen.clear_min + self.kitchen.wash_min * len(self.doughs)
        return min(total, 2 * LONGEST)


@dataclass(frozen=True, slots=True)
class Happened:
    """What is already so: minutes at which hand jobs ended, by activity id, and the time now.

    `begun` holds the start of a job that is in hand but not done; its end is still open. Nothing
    goes into an oven before its minute in `oven_from` (the first oven's first): it was slow to get
    hot, or turned on late. A dough is not portioned before its minute in `held`: it was too soft
    or too hard.
    """

    now: int = 0
    oven_from: tuple[int, ...] = ()
    done: Mapping[JobKey, int] = field(default_factory=dict)
    begun: Mapping[JobKey, int] = field(default_factory=dict)
    held: Mapping[str, int] = field(default_factory=dict)


NOTHING_YET = Happened()
