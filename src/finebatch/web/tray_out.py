"""What the Tray screen shows of a foreseen tray. Lengths in mm, masses in g, temperatures in °C."""

from finebatch.core.formula.dough import Doneness
from finebatch.core.heat.minutes import DONE_AT_C, out_at_c
from finebatch.core.heat.oven import OvenSettings, dial_c, equivalents
from finebatch.core.piece.evidence import Sources
from finebatch.core.piece.kinds.every import AnyKind, AnyMaking
from finebatch.core.piece.kinds.portioning import Extra
from finebatch.core.piece.kinds.says import Says
from finebatch.core.piece.layout import Layout
from finebatch.core.piece.lying import Lies
from finebatch.core.piece.portion import RawPiece
from finebatch.core.piece.rows import Footprint
from finebatch.core.piece.sizes import Sized, Sizes
from finebatch.core.piece.spread import Width
from finebatch.core.piece.thickness import Thickness
from finebatch.core.piece.tray import TrayAnswer, Yield
from finebatch.core.plan.prepare import bake_of
from finebatch.core.tray import question as trays
from finebatch.core.tray.from_card import Started
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.facts import tables
from finebatch.web.types import Out


class InsideC(Out):
    """The middle of a piece in °C as its tray comes out, and where the hot sheet brings it."""

    out: float
    done: float


class SecondOut(Out):
    """Slices laid out for the second bake, turned over after `turn_after` minutes."""

    pieces: int
    whole_minutes: int
    turn_after: int | None
    dried_g: float
    footprint: Footprint
    trays: list[int]
    layouts: list[Layout]


class AlsoOut(Out):
    """Pieces of another size or form: what they are called and how they are made; each in g, how
    wide, high and long they bake, on which sheets."""

    word: str
    piece: AnyKind
    making: AnyMaking | None
    height_mm: float
    piece_g: float
    pieces: int
    width: Width
    whole_minutes: int
    footprint: Footprint
    trays: list[int]
    layouts: list[Layout]


class TrayOut(Out):
    """All that the Tray screen shows. `piece_g` is the raw dough of one piece, log or pan,
    `each_g` that of one piece as a baker counts it (of a pan one of those scored), `baked_g` what
    that weighs baked; `says` has the words of its kind, `lies` how it lies on the sheet; `dial_c`
    is what to set this oven's dial to; `inside_c` are the middle's temperatures, out and done;
    `sources` are the minutes by law, card and bakes. `begun` is what the card says of the tray."""

    piece_g: float
    each_g: float
    baked_g: float
    raw: RawPiece
    width: Width
    thickness: Thickness
    minutes: float
    sources: Sources
    whole_minutes: int
    look_from: int
    turn_after: int | None
    doneness: Doneness
    inside_c: InsideC | None
    oven: OvenSettings
    yields: Yield
    footprint: Footprint
    layouts: list[Layout]
    says: Says
    lies: Lies
    making: AnyMaking | None
    second: SecondOut | None
    extras: list[Extra]
    total_g: float
    density_g_cm3: float
    also: list[AlsoOut]
    dial_c: float
    kitchen: KitchenSetting
    begun: Started


def _layouts(layouts: tuple[Layout, ...]) -> list[Layout]:
    """The layout of each size of tray, fullest first; equal trays share one."""
    by_count = {len(layout.centres): layout for layout in layouts}
    return [by_count[n] for n in sorted(by_count, reverse=True)]


def _second_out(found: TrayAnswer) -> SecondOut | None:
    second = found.second
    if second is None:
        return None
    bake = bake_of(second.minutes)
    return SecondOut(
        pieces=second.pieces,
        whole_minutes=bake.minutes,
        turn_after=bake.turn_after,
        dried_g=second.dried_g,
        footprint=second.footprint,
        trays=list(second.trays),
        layouts=_layouts(second.layouts),
    )


def _also_out(sized: Sized) -> AlsoOut:
    other = sized.answer
    return AlsoOut(
        word=sized.word,
        piece=sized.piece,
        making=other.making,
        height_mm=other.foreseen.thickness.height_mm,
        piece_g=other.foreseen.raw.grams,
        pieces=other.yields.pieces,
        width=other.foreseen.width,
        whole_minutes=bake_of(other.foreseen.minutes).minutes,
        footprint=other.footprint,
        trays=list(other.yields.trays),
        layouts=_layouts(other.layouts),
    )


def tray_out(asked: trays.TrayQuestion, sized: Sizes, total_g: float, begun: Started) -> TrayOut:
    """The answer of the Tray screen."""
    found = sized.usual
    turns = asked.kitchen.planning.turning != "leave"
    out_c = out_at_c(found.foreseen.doneness)
    bake, piece = bake_of(found.foreseen.minutes, turns=turns), found.foreseen
    return TrayOut(
        piece_g=piece.raw.grams,
        each_g=found.each_g,
        baked_g=piece.thickness.baked_g * found.each_g / piece.raw.grams,
        raw=piece.raw,
        width=piece.width,
        thickness=piece.thickness,
        minutes=piece.minutes,
        sources=piece.sources,
        whole_minutes=bake.minutes,
        look_from=min(trays.first_look(asked, found, tables.models()), bake.minutes),
        turn_after=bake.turn_after,
        doneness=piece.doneness,
        inside_c=None if out_c is None else InsideC(out=out_c, done=DONE_AT_C[piece.doneness]),
        oven=equivalents(asked.setting.oven_c, asked.kitchen.oven_mode),
        yields=found.yields,
        footprint=found.footprint,
        layouts=_layouts(found.layouts),
        says=asked.setting.piece.SAYS,
        lies=asked.setting.piece.lies(piece.raw, piece.width.middle_mm),
        making=found.making,
        second=_second_out(found),
        extras=list(asked.setting.piece.extras(found.yields.pieces)),
        total_g=total_g,
        density_g_cm3=piece.raw.grams / piece.raw.volume_cm3,
        also=[_also_out(other) for other in sized.others],
        dial_c=dial_c(asked.setting.oven_c, asked.kitchen.planning.oven),
        kitchen=asked.kitchen,
        begun=begun,
    )
