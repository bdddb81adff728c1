"""A dough that joins a session out of the cold: how it gets to where it can be worked."""

from dataclasses import dataclass, replace
from typing import Literal

from finebatch.core.care.keeping import KeptAs
from finebatch.core.heat.chilling import (
    Tempering,
    tempering,
)
from finebatch.core.larder.ingredient import Larder
from finebatch.core.plan.prepare import TAKE_MIN
from finebatch.core.plan.work import Make
from finebatch.core.tray.question import TrayQuestion, shape_as


@dataclass(frozen=True, slots=True)
class OutOfCold:
    """The steps out of the cold, the minutes on the bench then, the pieces as they are foreseen;
    `laid` ones were portioned before."""

    question: TrayQuestion
    out: tuple[Make, ...]
    temper_min: int
    laid: bool


def night_temper_min(asked: TrayQuestion, larder: Larder) -> int:
    """Minutes on the bench after a night in the fridge, in the shape that it is chilled in."""
    return _tempering(asked.setting.piece.KEPT_AS, "fridge", asked, larder).bench_min


def _tempering(
    form: KeptAs,
    place: Literal["fridge", "freezer"],
    asked: TrayQuestion,
    larder: Larder,
    slower: float = 1.0,
) -> Tempering:
    if form in asked.setting.piece.LAID_AS:
        return Tempering(0, 0)
    shape, job = shape_as(form, asked, larder)
    kitchen = asked.kitchen
    return tempering(
        shape,
        job,
        place,
        fridge_c=kitchen.fridge_c,
        freezer_c=kitchen.freezer_c,
        room_c=kitchen.room_c,
        slower=slower,
    )


def out_of_cold(
    asked: TrayQuestion,
    larder: Larder,
    place: Literal["fridge", "freezer"],
    form: KeptAs | None,
    slower: float = 1.0,
) -> OutOfCold:
    """How a dough comes out of the cold: portions are laid out and baked as cold as they are, all
    else is tempered, and thawed before where that takes long, in a fridge that takes `slower`
    times the usual minutes."""
    kept = form or asked.setting.piece.KEPT_AS
    laid, found = (
        kept in asked.setting.piece.LAID_AS,
        _tempering(kept, place, asked, larder, slower),
    )
    cold_c = asked.kitchen.fridge_c if place == "fridge" else asked.kitchen.freezer_c
    setting = replace(asked.setting, rested=True)
    if laid:
        setting = replace(setting, dough_temp_c=cold_c)
    out: tuple[Make, ...]
    if found.thaw_min:
        out = (
            Make("Move it from the freezer to the fridge", TAKE_MIN, found.thaw_min, "take"),
            Make("Take it out of the fridge", TAKE_MIN, kind="take"),
        )
    else:
        out = (Make(f"Take it out of the {place}", TAKE_MIN, kind="take"),)
    return OutOfCold(replace(asked, setting=setting), out, found.bench_min, laid)
