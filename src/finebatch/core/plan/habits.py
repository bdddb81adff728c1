"""The kitchen as the planner wants it: ovens, room, helpers and habits."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval, MaxLen

from finebatch.core.care.warm import WARM_MOST_MIN
from finebatch.core.heat.oven import STEADY, OvenAir, OvenMode, OvenNature, SecondOven
from finebatch.core.plan.keys import JobKind
from finebatch.core.plan.work import (
    COOL_JOBS,
    HAND_JOBS,
    Bowls,
    HabitMinutes,
    Kitchen,
    Means,
    Oven,
    Span,
    Worker,
    merged,
)
from finebatch.core.refusal import refuse
from finebatch.core.values import FromOutside, Name, values_of

Turning = Literal["turn", "swap", "leave"]
"""At half time a tray is turned, changes shelves with another, or is left as it is."""

Task = Literal["mix", "portion", "oven", "knife", "finish"]
"""What a helper may be trusted with."""

TASK_JOBS: dict[Task, frozenset[JobKind]] = {
    "mix": frozenset({"ready", "mix", "form", "take", "fetch", "wash", "part", "clear"}),
    "portion": frozenset({"portion", "freeze"}),
    "oven": frozenset({"load", "turn", "out", "shape", "rack"}),
    "knife": frozenset({"slice"}),
    "finish": frozenset({"finish"}),
}
HOT_TASKS: frozenset[Task] = frozenset({"oven", "knife"})
"""Hot or sharp: not for a child."""


@dataclass(frozen=True, slots=True)
class Helper(FromOutside):
    """Somebody who helps, and with what (none named: with all). A child takes no hot or sharp
    job."""

    name: Name
    child: bool = False
    tasks: Annotated[tuple[Task, ...], MaxLen(5)] = ()

    @property
    def jobs(self) -> frozenset[JobKind]:
        """The jobs that the helper takes; `Refusal` when there is none."""
        own = frozenset[JobKind]().union(*(TASK_JOBS[task] for task in self.tasks or TASK_JOBS))
        jobs = own & COOL_JOBS if self.child else own
        if not jobs:
            raise refuse("helpers", f"{self.name} would have nothing to do: tick a cool job.")
        return jobs


@dataclass(frozen=True, slots=True, kw_only=True)
class Planning(Means):
    """What the planner takes of a kitchen beside its sheets and shelves.

    `cold_on_sheet`: pieces stay on the sheet until they are cold. `fridge_places` and
    `freezer_places` are doughs that they hold, `mixer_g` the dough that a mixer holds (g). `pace`
    is how long this baker takes to portion, against the usual; `learns_hands` corrects it from
    bakes.
    """

    oven: OvenNature = STEADY
    second: SecondOven | None = None
    turning: Turning = "turn"
    cold_on_sheet: bool = False
    fridge_places: Annotated[int, Interval(ge=1, le=30)] = 6
    freezer_places: Annotated[int, Interval(ge=0, le=60)] = 6
    mixer_g: Annotated[float, Interval(ge=200, le=50_000)] = 2000.0
    bowls: Bowls = 6
    pace: Annotated[float, Interval(ge=0.3, le=4)] = 1.0
    learns_hands: bool = True
    wash_min: HabitMinutes = 4
    clear_min: HabitMinutes = 10
    # No longer than a dough with egg or dairy may be warm in all.
    raw_wait_min: Annotated[int, Interval(ge=5, le=WARM_MOST_MIN)] = 45
    helpers: Annotated[tuple[Helper, ...], MaxLen(4)] = ()

    def kitchen(
        self, pools: Sequence[int], shelves: int, mode: OvenMode, away: Sequence[Span]
    ) -> Kitchen:
        """The kitchen that the planner places work in: `pools` are how many there are of each kind
        of sheet and pan, `mode` the first oven's; the baker is away in those spans."""
        ovens = [_oven(shelves, mode, self.oven)]
        if self.second is not None:
            ovens.append(_oven(self.second.shelves, self.second.mode, self.second.nature))
        workers = [Worker("you", HAND_JOBS, merged(away))]
        workers += [Worker(helper.name, helper.jobs) for helper in self.helpers]
        return Kitchen(
            pools[0],
            tuple(ovens),
            tuple(workers),
            other_sheets=tuple(pools[1:]),
            fridge=self.fridge_places,
            swaps=self.turning == "swap",
            **values_of(Means, self),
        )


def _oven(shelves: int, mode: OvenMode, nature: OvenNature) -> Oven:
    return Oven(shelves, fan=mode == "fan", **values_of(OvenAir, nature))
