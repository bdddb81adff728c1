"""What the Tray screen shows of a foreseen tray. Lengths in mm, masses in g, temperatures in °C."""

from typing import Literal

from finebatch.core.heat.minutes import Doneness
from finebatch.core.heat.oven import dial_c, equivalents
from finebatch.core.piece.layout import Layout
from finebatch.core.piece.rows import Pattern
from finebatch.core.piece.sizes import TwoSizes
from finebatch.core.piece.tray import TrayAnswer, extras
from finebatch.core.plan.prepare import bake_of
from finebatch.core.tray import question as trays
from finebatch.facts import tables
from finebatch.web.makings import MakingOut, making_out
from finebatch.web.pieces import RawOut, ThicknessOut, WidthOut
from finebatch.web.routers.kitchen import KitchenBody
from finebatch.web.types import Out


class YieldOut(Out):
    """Pieces, leftover and trays."""

    pieces: int
    leftover_g: float
    bowl_loss_g: float
    most_on_sheet: int
    trays: list[int]


class FootprintOut(Out):
    """Room for one piece up to the upper edge of its band, in mm."""

    across_mm: float
    down_mm: float
    is_round: bool


class PointOut(Out):
    """A place on the sheet in mm from its upper left inner corner."""

    x: float
    y: float


class LayoutOut(Out):
    """Where the pieces lie on a sheet, in mm from its upper left inner corner."""

    pattern: Pattern
    centres: list[PointOut]
    rows: list[int]
    nearest_mm: float | None
    turned: bool


class SecondOut(Out):
    """Slices laid out for the second bake, turned over after `turn_after` minutes."""

    pieces: int
    whole_minutes: int
    turn_after: int | None
    footprint: FootprintOut
    trays: list[int]
    layouts: list[LayoutOut]


class ExtraOut(Out):
    """What goes on or into each piece beside the dough, in g."""

    what: Literal["filling", "coat", "topping"]
    each_g: float
    total_g: float


class OvenOut(Out):
    """The oven's setting in every way that ovens are marked."""

    still_c: float
    fan_c: float
    still_f: float
    fan_f: float
    gas: str


class AlsoOut(Out):
    """The pieces of another size: each in g, how wide and long they bake, on which sheets."""

    piece_g: float
    pieces: int
    width: WidthOut
    whole_minutes: int
    footprint: FootprintOut
    trays: list[int]
    layouts: list[LayoutOut]


class TrayOut(Out):
    """All that the Tray screen shows. `piece_g` is the raw dough of one piece, `dial_c` what to
    set this oven's dial to; `minutes_learnt` of the minutes were taught by bakes, `timed` of this
    dough."""

    piece_g: float
    raw: RawOut
    width: WidthOut
    thickness: ThicknessOut
    minutes: float
    minutes_learnt: float
    timed: int
    whole_minutes: int
    look_from: int
    turn_after: int | None
    doneness: Doneness
    oven: OvenOut
    yields: YieldOut
    footprint: FootprintOut
    layouts: list[LayoutOut]
    making: MakingOut | None
    second: SecondOut | None
    extras: list[ExtraOut]
    total_g: float
    density_g_cm3: float
    also: AlsoOut | None
    dial_c: int
    kitchen: KitchenBody


def _layout_out(layout: Layout) -> LayoutOut:
    fields = {name: getattr(layout, name) for name in LayoutOut.model_fields}
    fields["centres"] = [PointOut(x=x, y=y) for x, y in layout.centres]
    return LayoutOut.model_validate(fields)


def _layouts(layouts: tuple[Layout, ...]) -> list[LayoutOut]:
    """The layout of each size of tray, fullest first; equal trays share one."""
    by_count = {len(layout.centres): layout for layout in layouts}
    return [_layout_out(by_count[n]) for n in sorted(by_count, reverse=True)]


def _second_out(found: TrayAnswer) -> SecondOut | None:
    second = found.second
    if second is None:
        return None
    bake = bake_of(second.minutes)
    return SecondOut(
        pieces=second.pieces,
        whole_minutes=bake.minutes,
        turn_after=bake.turn_after,
        footprint=FootprintOut.model_validate(second.footprint),
        trays=list(second.trays),
        layouts=_layouts(second.layouts),
    )


def _also_out(other: TrayAnswer | None) -> AlsoOut | None:
    if other is None:
        return None
    return AlsoOut(
        piece_g=other.foreseen.raw.grams,
        pieces=other.yields.pieces,
        width=WidthOut.model_validate(other.foreseen.width),
        whole_minutes=bake_of(other.foreseen.minutes).minutes,
        footprint=FootprintOut.model_validate(other.footprint),
        trays=list(other.yields.trays),
        layouts=_layouts(other.layouts),
    )


def tray_out(asked: trays.TrayQuestion, both: TwoSizes, total_g: float) -> TrayOut:
    """The answer of the Tray screen."""
    found = both.usual
    turns = asked.kitchen.planning.turning != "leave"
    bake, piece = bake_of(found.foreseen.minutes, turns=turns), found.foreseen
    return TrayOut(
        piece_g=piece.raw.grams,
        raw=RawOut.model_validate(piece.raw),
        width=WidthOut.model_validate(piece.width),
        thickness=ThicknessOut.model_validate(piece.thickness),
        minutes=piece.minutes,
        minutes_learnt=piece.minutes_learnt,
        timed=piece.timed,
        whole_minutes=bake.minutes,
        look_from=min(trays.first_look(asked, found, tables.models()), bake.minutes),
        turn_after=bake.turn_after,
        doneness=piece.doneness,
        oven=OvenOut.model_validate(equivalents(asked.setting.oven_c, asked.kitchen.oven_mode)),
        yields=YieldOut.model_validate(found.yields),
        footprint=FootprintOut.model_validate(found.footprint),
        layouts=_layouts(found.layouts),
        making=making_out(found.making),
        second=_second_out(found),
        extras=[
            ExtraOut.model_validate(extra)
            for extra in extras(asked.setting.piece, found.yields.pieces)
        ],
        total_g=total_g,
        density_g_cm3=piece.raw.grams / piece.raw.volume_cm3,
        also=_also_out(both.other),
        dial_c=dial_c(asked.setting.oven_c, asked.kitchen.planning.oven),
        kitchen=KitchenBody.model_validate(asked.kitchen),
    )
