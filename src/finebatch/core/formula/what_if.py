"""Trying an effect: a small change of the dough or its baking, seen before it is made."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Annotated

from annotated_types import Interval

from finebatch.core.formula.dough import Card, Line, Mixing
from finebatch.core.formula.scaling import scale_line
from finebatch.core.larder.ingredient import Ingredient, Larder


@dataclass(frozen=True, slots=True)
class WhatIf:
    """One change to try for one effect.

    Lines of an ingredient with one of the `roles` or `traits` are taken times `factor`; `mixing`
    is another way of mixing. `setting` changes how it is baked: a figure or word to set, or with
    ``_by`` a figure to add.
    """

    key: str
    effect: str
    label: str
    roles: tuple[str, ...]
    traits: tuple[str, ...]
    factor: Annotated[float, Interval(gt=0, le=4)]
    mixing: Mixing | None
    setting: Mapping[str, str]


def _meant(line: Line, tried: WhatIf, larder: Larder) -> bool:
    ingredient: Ingredient | None = larder.get(line.ingredient) if line.ingredient else None
    if ingredient is None:
        return False
    return ingredient.role in tried.roles or bool(ingredient.traits & set(tried.traits))


def card_if(card: Card, tried: WhatIf, larder: Larder) -> Card:
    """The card as it would be; itself when the change has nothing to take hold of."""
    factor = Fraction(tried.factor).limit_denominator(100)
    lines = tuple(
        scale_line(line, factor) if factor != 1 and _meant(line, tried, larder) else line
        for line in card.lines
    )
    if lines == card.lines and tried.mixing in (None, card.mixing):
        return card
    return replace(card, lines=lines, mixing=tried.mixing or card.mixing)


def said(what_ifs: Sequence[WhatIf]) -> str:
    """What was tried, as the reason of a version."""
    return "Tried: " + ", ".join(tried.label[0].lower() + tried.label[1:] for tried in what_ifs)
