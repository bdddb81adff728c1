"""From a foreseen tray to the work that the planner places: how long each job takes these hands."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from finebatch.core.formula.dough import Family
from finebatch.core.measures.rounding import whole_minutes
from finebatch.core.piece.kinds import Portioning
from finebatch.core.piece.tray import TrayAnswer
from finebatch.core.plan.work import Bake, DoughWork, Kitchen, TrayWork, Work

LAY_SHEET_MIN = 1
LEAST_TURN_MIN = 6
SLICE_LOG_MIN = 4
OVEN_MIN_PER_C = 1 / 8
ROOM_C = 20.0


@dataclass(frozen=True, slots=True)
class FamilyHabits:
    """A family's usual portion, dough and oven (°C) and times (minutes, seconds)."""

    family: Family
    label: str
    piece: Portioning
    dough_temp_c: float
    oven_c: float
    chill_min: int
    portion_s: float
    rest_min: int
    cool_min: int
    source: str


def heating_minutes(oven_c: float) -> int:
    """Minutes for a cold oven to reach `oven_c`, about one for each 8 °C."""
    return math.ceil((oven_c - ROOM_C) * OVEN_MIN_PER_C)


def bake_of(minutes: float) -> Bake:
    """A stay in the oven in whole minutes, turned at half unless it is too short for that."""
    whole = whole_minutes(minutes)
    return Bake(whole, whole // 2 if whole >= LEAST_TURN_MIN else None)


def prepare(
    answer: TrayAnswer,
    habits: FamilyHabits,
    *,
    mix_min: int,
    chill_min: int,
    oven_c: float,
    sheets: int,
    shelves: int,
    trays: Sequence[int] | None = None,
) -> Work:
    """The work of baking these trays. `trays` are pieces on each; the answer's when not given."""
    bakes = [bake_of(answer.foreseen.minutes)]
    twice = answer.second is not None
    if answer.second is not None:
        bakes.append(bake_of(answer.second.minutes))
    work = tuple(
        TrayWork(
            name=f"A{number + 1}",
            pieces=pieces,
            portion_min=LAY_SHEET_MIN + math.ceil(pieces * habits.portion_s / 60),
            bakes=tuple(bakes),
            rest_min=habits.rest_min,
            cool_min=habits.cool_min,
            slice_min=SLICE_LOG_MIN * pieces if twice else 0,
        )
        for number, pieces in enumerate(answer.yields.trays if trays is None else trays)
    )
    kitchen = Kitchen(sheets, shelves, heating_minutes(oven_c))
    return Work(DoughWork(mix_min, chill_min), work, kitchen)
