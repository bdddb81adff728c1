"""A plan as a value: every activity placed in time, with its place, sheet, shelf and hands."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.work import HAND_JOBS, Span

Station = Literal["hands", "cold", "bench", "oven", "rack"]
Cold = Literal["thaws", "waits"]
"""A dough from the freezer thaws in the fridge; one that would be warm for too long waits there."""


@dataclass(frozen=True, slots=True)
class Placed:
    """One activity from `start` to `end` (minutes). `shelf`, `sheet` and `oven` count from 1.

    `dough` is its dough's letter; `who` the pair of hands, 0 the baker's own. `dial_c` is what the
    oven's dial is at (°C), for its heating and for a tray that goes in; `partner` the tray with
    which one changes shelves, and `to_shelf` where it goes then; `what` the step's own words, or
    what the part is called; `cold` why a dough lies in the cold beside being chilled. `pause` is
    when a job is broken off for the oven, `off_min` for how long it is off while it stands
    empty: from a take-out on, and until it is heated again.
    """

    id: JobKey
    tray: str | None
    place: Station
    start: int
    end: int
    sheet: int | None = None
    shelf: int | None = None
    critical: bool = False
    dough: str | None = None
    oven: int | None = None
    who: int | None = None
    dial_c: float | None = None
    partner: str | None = None
    what: str = ""
    cold: Cold | None = None
    pause: Span | None = None
    to_shelf: int | None = None
    off_min: int = 0

    @property
    def kind(self) -> JobKind:
        """Which step it is."""
        return self.id.step

    @property
    def hands(self) -> bool:
        """Whether it takes hands."""
        return self.kind in HAND_JOBS

    @property
    def told(self) -> bool:
        """Whether somebody has to be told of it: a job of the hands, or the oven's dial."""
        return self.hands or self.kind == "heat"


@dataclass(frozen=True, slots=True)
class JobTime:
    """When a job of the hands starts and ends, whose hands, and when it is broken off."""

    start: int
    end: int
    who: int = 0
    pause: Span | None = None


@dataclass(frozen=True, slots=True)
class Times:
    """What decides all else: the jobs' times, and the oven and shelf (from 0) of each bake.

    A shelf of none is given out when the plan is placed.
    """

    jobs: Mapping[JobKey, JobTime]
    ovens: Mapping[JobKey, int]
    shelves: Mapping[JobKey, int]


@dataclass(frozen=True, slots=True)
class Plan:
    """A plan with its finish and the bound below which no plan can finish (minutes)."""

    activities: tuple[Placed, ...]
    finish: int
    bound: int

    @property
    def proven(self) -> bool:
        """Whether no plan can finish earlier."""
        return self.bound >= self.finish

    @property
    def begin(self) -> int:
        """When it begins: with the first job of the hands, or the oven that is turned on before."""
        return min(a.start for a in self.activities if a.told)


@dataclass(frozen=True, slots=True)
class PlanBefore:
    """A plan, the line that was said of it, and of how many events it knew."""

    plan: Plan
    said: str | None
    planned_after: int
