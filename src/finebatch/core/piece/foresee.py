"""Foresee one piece: everything that a baker wants to know of it before it is baked."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Protocol

from finebatch.core.formula.composition import Composition
from finebatch.core.formula.dough import Colour, Doneness, Family
from finebatch.core.heat.colour import ColourSteps, colour_shift
from finebatch.core.heat.minutes import (
    DONE_AT_C,
    USUAL_DONENESS,
    HeatModel,
    bake_minutes,
    oven_drive,
    sheet_factor,
)
from finebatch.core.heat.oven import conventional_c
from finebatch.core.piece.effects import BakeConditions, measure_effects
from finebatch.core.piece.evidence import SILENT, MinutesKnown, OnCard, Sources, weigh_minutes
from finebatch.core.piece.portion import Portion, RawPiece, shape_piece
from finebatch.core.piece.spread import SpreadModel, Teaching, Width, predict_width
from finebatch.core.piece.thickness import (
    LiftModel,
    Thickness,
    even_height_mm,
    exposure,
    predict_thickness,
)
from finebatch.core.piece.timing import bake_terms
from finebatch.core.refusal import refuse

LEAST_STRUCTURE = 0.06
"""Below this share of flour, or what stands in for it, nothing holds a piece together."""
EGG_HOLDS, PIECES_HELD = 0.5, 0.2
"""Egg that sets about nuts or chocolate stands in for this much flour, and for no more than this
share of what it holds together (low-flour chocolate drops, nuts in egg white)."""

MOST_WATER = 1.3
"""Grams of added water a gram of structure above which it is a batter, not a dough."""
WATER_FOR_SUGAR = 0.2
"""Grams of that water which a gram of sugar thickens to a syrup."""
WATER_FOR_PIECES = 0.2
"""Grams of it that lie about a gram of nuts or chocolate without running (household recipes)."""


@dataclass(frozen=True, slots=True)
class Models:
    """The fitted models that a prediction uses, and of which colours (steps of the strip) pieces of
    a family usually are when they are that far done."""

    spread: SpreadModel
    lift: LiftModel
    heat: HeatModel
    colours: Mapping[tuple[Family, Doneness], ColourSteps] = field(default_factory=dict)


class Learnt(Teaching, Protocol):
    """What the book has taught about one dough in this kitchen."""

    @property
    def minutes(self) -> MinutesKnown:
        """What is known of its minutes."""

    def portion_cv(self, usual: float) -> float:
        """How uneven its portions are, where a habit's are `usual`ly so (deviation over mean)."""


@dataclass(frozen=True, slots=True)
class Foreseen:
    """One piece, raw and baked, for one tray at a time, on one shelf."""

    raw: RawPiece
    width: Width
    thickness: Thickness
    sources: Sources
    doneness: Doneness

    @property
    def minutes(self) -> float:
        """Minutes in the oven."""
        return self.sources.used


def check_dough(dough: Composition) -> None:
    """Raise `Refusal` when no piece can be foreseen from this dough."""
    pieces_g = dough.total_g - dough.paste_g
    holds = dough.structure_g + min(EGG_HOLDS * dough.egg_g, PIECES_HELD * pieces_g)
    if holds < LEAST_STRUCTURE * dough.total_g:
        raise refuse(
            "lines", "Nothing here holds a piece together. Add flour, oats, starch or ground nuts."
        )
    thickened = WATER_FOR_SUGAR * dough.sugar_g + WATER_FOR_PIECES * pieces_g
    if dough.water_added_g > MOST_WATER * dough.structure_g + thickened:
        raise refuse(
            "lines",
            "This is a batter: it runs instead of keeping a shape. Add flour or take liquid out.",
        )


def foresee(
    models: Models,
    dough: Composition,
    family: Family,
    piece: Portion | RawPiece,
    how: BakeConditions,
    *,
    doneness: Doneness | None = None,
    portion_cv: float = 0.03,
    shelves: int = 1,
    learnt: Learnt | None = None,
    card: OnCard = SILENT,
    colour: Colour | None = None,
    explained: bool = True,
) -> Foreseen:
    """Foresee width, thickness and minutes of one piece, portioned or as it lies; `Refusal` when
    that makes no sense.

    `card` is what its card says of minutes and width, `colour` the one that is wanted where that is
    not as usual. What moves the width is left out where it is not `explained`.
    """
    check_dough(dough)
    raw = piece if isinstance(piece, RawPiece) else shape_piece(piece, dough.density_g_cm3)
    measured = measure_effects(dough, raw, how)
    width = predict_width(
        models.spread,
        measured,
        raw,
        portion_cv=portion_cv,
        learnt=learnt,
        said=card.width,
        by=card.width_by,
        explained=explained,
    )
    wanted = doneness or USUAL_DONENESS[family]
    drive = oven_drive(conventional_c(how.oven_c, how.oven_mode), DONE_AT_C[wanted])
    terms = bake_terms(measured, raw, width.middle_mm, wanted)
    sooner = colour_shift(colour, models.colours.get((family, wanted)))
    alone = bake_minutes(models.heat, terms, drive) * math.exp(sooner)
    thickness = predict_thickness(
        models.lift,
        measured,
        raw,
        width.middle_mm,
        water_share=dough.water_g / dough.total_g,
        dried=exposure(alone, drive, even_height_mm(raw, width.middle_mm)),
    )
    plain = alone * sheet_factor(how.surface, shelves)
    known = learnt.minutes if learnt else MinutesKnown()
    sources = weigh_minutes(plain, known, card.minutes, card.minutes_by)
    return Foreseen(raw, _as_cut(width, raw), thickness, sources, wanted)


def _as_cut(width: Width, raw: RawPiece) -> Width:
    """The width across the piece as it was cut, for one that is not round."""
    if not raw.beyond_mm:
        return width
    return replace(
        width,
        middle_mm=width.middle_mm + raw.beyond_mm,
        low_mm=width.low_mm + raw.beyond_mm,
        high_mm=width.high_mm + raw.beyond_mm,
    )
