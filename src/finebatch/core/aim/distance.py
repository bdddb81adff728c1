"""How far one dough and its tray are from another, in changes that most doughs bear.

One is a tenth more or less of what does one job in the dough (of all its sugars, say), 10 °C of
oven or dough, a fifth more or less of a piece, one step of doneness or colour. A swap of one thing
for another is three, whatever it takes of it; what is changed beyond is counted from there.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass

from finebatch.core.formula.dough import Colour, Family, Mixing
from finebatch.core.heat.minutes import DONE_AT_C, USUAL_DONENESS
from finebatch.core.larder.ingredient import Ingredient, Larder, Role
from finebatch.core.piece.kinds.portioning import Portioning, at
from finebatch.core.piece.kinds.says import Handle
from finebatch.core.piece.lot import Lot
from finebatch.core.tray.setting import TraySetting

JOBS: Mapping[str, tuple[Role, ...]] = {
    "flour": ("flour", "starch"),
    "grain": ("grain", "nutmeal"),
    "cocoa": ("cocoa",),
    "sugar": ("sugar", "icing_sugar", "polyol", "syrup"),
    "fat": ("fat", "oil"),
    "egg": ("egg",),
    "liquid": ("liquid",),
    "nut_butter": ("nut_butter",),
    "pieces": ("piece", "chip", "fruit", "melting_candy"),
    "leavening": ("leavener",),
}
"""Ingredients that do one job in a dough: more of one and less of another is a small change."""

TENTH = math.log(1.1)
SWAP, NEW = 3.0, 1.5
"""What one ingredient in place of another counts, and each that comes or goes."""
PIECE = 0.5
"""What a tenth of a handle counts: a piece is made larger without weighing anything anew."""
STEP_C = 10.0
MIXED, RESTED, LAID = 2.0, 1.0, 1.0
COLOURS: tuple[Colour, ...] = ("pale", "golden", "brown")
USUAL_COLOUR: Colour = "golden"


@dataclass(frozen=True, slots=True)
class Stand:
    """A dough in grams with how it is mixed, portioned and baked."""

    formula_g: Mapping[str, float]
    family: Family
    mixing: Mixing
    setting: TraySetting
    lot: Lot


def job_of(ingredient: Ingredient) -> str:
    """What an ingredient does in a dough; its own role where nothing else does that."""
    return next((job for job, roles in JOBS.items() if ingredient.role in roles), ingredient.role)


def weights(formula_g: Mapping[str, float], larder: Larder) -> Mapping[str, float]:
    """What share of its job each ingredient does, by mass."""
    jobs: dict[str, float] = {}
    for key, grams in formula_g.items():
        job = job_of(larder[key])
        jobs[job] = jobs.get(job, 0.0) + grams
    return {key: grams / (jobs[job_of(larder[key])] or 1.0) for key, grams in formula_g.items()}


def _formulas(
    before: Mapping[str, float], after: Mapping[str, float], share: Mapping[str, float]
) -> float:
    """How far one formula is from another."""
    one = {key: grams for key, grams in before.items() if grams > 0}
    other = {key: grams for key, grams in after.items() if grams > 0}
    moved = sum(
        share[key] * abs(math.log(other[key] / one[key])) / TENTH for key in one if key in other
    )
    return moved + NEW * len(one.keys() ^ other.keys())


def swapped(before: Mapping[str, float], after: Mapping[str, float], larder: Larder) -> float:
    """What a swap counts: each ingredient that comes or goes; where none does, as any other change
    of amounts."""
    new = len(before.keys() ^ after.keys())
    return NEW * new if new else _formulas(before, after, weights(before, larder))


def handle_at(piece: Portioning, handle: Handle, lot: Lot) -> float:
    """A handle's figure; where it only comes out, as it comes out."""
    if handle.clears:
        return piece.raw(lot).grams
    return float(at(piece, handle.field))


def _pieces(before: Stand, after: Stand) -> float:
    one, other = before.setting.piece, after.setting.piece
    if one.kind != other.kind:
        return SWAP
    return PIECE * sum(
        abs(math.log(handle_at(other, h, after.lot) / handle_at(one, h, before.lot))) / TENTH
        for h in one.HANDLES
    )


def _done(stand: Stand) -> int:
    return list(DONE_AT_C).index(stand.setting.doneness or USUAL_DONENESS[stand.family])


def _colour(setting: TraySetting) -> int:
    return COLOURS.index(setting.colour or USUAL_COLOUR)


def distance(before: Stand, after: Stand, share: Mapping[str, float]) -> float:
    """How far a dough is from what it was, as this module's first lines count it; `share` are the
    `weights` of what it was."""
    one, other = before.setting, after.setting
    found = _formulas(before.formula_g, after.formula_g, share) + _pieces(before, after)
    found += abs(one.oven_c - other.oven_c) / STEP_C
    found += abs(one.dough_temp_c - other.dough_temp_c) / STEP_C
    found += abs(_done(before) - _done(after)) + abs(_colour(one) - _colour(other))
    found += MIXED * (before.mixing != after.mixing)
    return found + RESTED * (one.rested != other.rested) + LAID * (one.surface != other.surface)
