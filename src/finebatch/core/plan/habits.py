"""The kitchen as the planner wants it: ovens, room, helpers and habits."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval, MaxLen

from finebatch.core.heat.oven import STEADY, OvenMode, OvenNature, SecondOven
from finebatch.core.plan.keys import Kind
from finebatch.core.plan.work import COOL_JOBS, HAND_JOBS, Kitchen, Oven, Span, Worker
from finebatch.core.refusal import refuse
from finebatch.core.values import FromOutside, Name

JobMinutes = Annotated[int, Interval(ge=1, le=15)]
Turning = Literal["turn", "swap", "leave"]
"""At half time a tray is turned, changes shelves with another, or is left as it is."""

Task = Literal["mix", "portion", "oven", "knife", "finish"]
"""What a helper may be trusted with."""

TASK_JOBS: dict[Task, frozenset[Kind]] = {
    "mix": frozenset({"mix", "take", "part"}),
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
    def jobs(self) -> frozenset[Kind]:
        """The jobs that the helper takes; `Refusal` when there is none."""
        own = frozenset[Kind]().union(*(TASK_JOBS[task] for task in self.tasks or TASK_JOBS))
        jobs = own & COOL_JOBS if self.child else own
        if not jobs:
            raise refuse("helpers", f"{self.name} would have nothing to do: tick a cool job.")
        return jobs


@dataclass(frozen=True, slots=True)
class Planning(FromOutside):
    """What the planner takes of a kitchen beside its sheets and shelves.

    Settings of the oven within `tolerance_c` count as one. `slides`: trays are portioned on
    parchment and slid across; `interrupts`: portioning is broken off for the oven; `cold_on_sheet`:
    pieces stay on the sheet until they are cold. `racks` are trays that the rack holds,
    `fridge_places` and `freezer_places` doughs, `mixers` doughs mixed at once, `mixer_g` the dough
    that one holds (g), `bowls` doughs that wait unchilled. `pace` is how long this baker takes to
    portion, against the usual; `learns_hands` corrects it from bakes. The rest are minutes a job
    takes.
    """

    oven: OvenNature = STEADY
    second: SecondOven | None = None
    tolerance_c: Annotated[int, Interval(ge=0, le=25)] = 5
    turning: Turning = "turn"
    slides: bool = False
    interrupts: bool = False
    cold_on_sheet: bool = False
    racks: Annotated[int, Interval(ge=1, le=60)] = 12
    fridge_places: Annotated[int, Interval(ge=1, le=30)] = 6
    freezer_places: Annotated[int, Interval(ge=0, le=60)] = 6
    mixers: Annotated[int, Interval(ge=1, le=6)] = 1
    mixer_g: Annotated[float, Interval(ge=200, le=50_000)] = 2000.0
    bowls: Annotated[int, Interval(ge=1, le=30)] = 6
    pace: Annotated[float, Interval(ge=0.3, le=4)] = 1.0
    learns_hands: bool = True
    load_min: JobMinutes = 1
    turn_min: JobMinutes = 1
    out_min: JobMinutes = 1
    rack_min: JobMinutes = 1
    sheet_ready_min: Annotated[int, Interval(ge=0, le=60)] = 8
    raw_wait_min: Annotated[int, Interval(ge=5, le=120)] = 45
    helpers: Annotated[tuple[Helper, ...], MaxLen(4)] = ()

    def kitchen(
        self, pools: Sequence[int], shelves: int, mode: OvenMode, away: Sequence[Span]
    ) -> Kitchen:
        """The kitchen that the planner places work in: `pools` are how many there are of each kind
        of sheet and pan, `mode` the first oven's; the baker is away in those spans."""
        ovens = [_oven(shelves, mode, self.oven)]
        if self.second is not None:
            ovens.append(_oven(self.second.shelves, self.second.mode, self.second.nature))
        workers = [Worker("you", HAND_JOBS, tuple(sorted(away)))]
        workers += [Worker(helper.name, helper.jobs) for helper in self.helpers]
        return Kitchen(
            sheets=pools[0],
            other_sheets=tuple(pools[1:]),
            ovens=tuple(ovens),
            workers=tuple(workers),
            tolerance_c=self.tolerance_c,
            sheet_ready_min=self.sheet_ready_min,
            load_min=self.load_min,
            turn_min=self.turn_min,
            out_min=self.out_min,
            rack_min=self.rack_min,
            raw_wait_min=self.raw_wait_min,
            slides=self.slides,
            racks=self.racks,
            fridge=self.fridge_places,
            mixers=self.mixers,
            bowls=self.bowls,
            interrupts=self.interrupts,
            swaps=self.turning == "swap",
        )


def _oven(shelves: int, mode: OvenMode, nature: OvenNature) -> Oven:
    return Oven(
        shelves, nature.rise_c_min, nature.fall_c_min, fan=mode == "fan", offset_c=nature.offset_c
    )
