"""The kitchen as the planner wants it: ovens, room, helpers and habits."""

from collections.abc import Sequence
from dataclasses import dataclass

from finebatch.core.plan.work import COOL_JOBS, HAND_JOBS, Kitchen, Oven, Span, Worker


@dataclass(frozen=True, slots=True)
class Helper:
    """Somebody who helps. A child takes no hot or sharp job."""

    name: str
    child: bool = False


@dataclass(frozen=True, slots=True)
class Planning:
    """What the planner takes of a kitchen beside its sheets and shelves.

    `second_oven` is the shelves of a second oven (0: there is none). `rise_c_min` and
    `fall_c_min` are how fast the air changes, door shut, in °C a minute; settings within
    `tolerance_c` count as one. `slides`: trays are portioned on parchment and slid across. `racks`
    are trays that the rack holds, `fridge_places` doughs, `mixers` doughs mixed at once. `pace` is
    how long this baker takes to portion, against the usual; the rest are minutes a job takes.
    """

    second_oven: int = 0
    rise_c_min: float = 8.0
    fall_c_min: float = 5.0
    tolerance_c: int = 5
    slides: bool = False
    racks: int = 12
    fridge_places: int = 6
    mixers: int = 1
    pace: float = 1.0
    load_min: int = 1
    turn_min: int = 1
    out_min: int = 1
    rack_min: int = 1
    sheet_ready_min: int = 8
    raw_wait_min: int = 45
    helpers: tuple[Helper, ...] = ()

    def kitchen(self, sheets: int, shelves: int, away: Sequence[Span]) -> Kitchen:
        """The kitchen that the planner places work in; the baker is away in those spans."""
        oven = Oven(shelves, self.rise_c_min, self.fall_c_min)
        second = Oven(self.second_oven, self.rise_c_min, self.fall_c_min)
        workers = [Worker("you", HAND_JOBS, tuple(sorted(away)))]
        workers += [
            Worker(helper.name, COOL_JOBS if helper.child else HAND_JOBS) for helper in self.helpers
        ]
        return Kitchen(
            sheets=sheets,
            ovens=(oven, second) if self.second_oven else (oven,),
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
        )
