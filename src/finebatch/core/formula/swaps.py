"""Swaps that bakers make, worked out on the dough: fat, water and salt made even."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from finebatch.core.formula.balance import SALTED_BUTTER_SALT
from finebatch.core.formula.dough import Card, Line, WeighedDough
from finebatch.core.formula.method import short_name
from finebatch.core.larder.ingredient import Larder
from finebatch.core.measures.figures import grams as in_grams

Basis = Literal["mass", "fat", "salt", "lean", "add"]

LEAST_G = 0.5
"""Less than this is not worth a line."""

LIQUIDS = ("water", "milk_whole")
"""Where water that a swap brings too much is taken from, in this order."""


@dataclass(frozen=True, slots=True)
class Swap:
    """One swap. `takes` are the keys it stands in for (none: it only adds); `gives` the shares.

    On a `fat` basis one ingredient takes the place of another with fat and water made even; on a
    `salt` basis with the salt made even; `lean` keeps salted butter salted.
    """

    key: str
    label: str
    takes: tuple[str, ...]
    gives: tuple[tuple[str, float], ...]
    basis: Basis
    note: str
    caution: str


@dataclass(frozen=True, slots=True)
class Offer:
    """A swap of one line (none: of the whole dough), and the card as it would be."""

    swap: Swap
    line: int | None
    card: Card
    said: str


def _grams_text(grams: float) -> str:
    return f"{grams:.0f}" if grams >= 10 else f"{grams:.1f}"


def _line(key: str, grams: float) -> Line:
    return Line(_grams_text(grams), "g", key)


class _Lines:
    """A card's lines while a swap works on them, with what each weighs."""

    def __init__(self, card: Card, weighed: WeighedDough) -> None:
        self.lines = list(card.lines)
        self.grams = [w.grams or 0.0 for w in weighed.lines]

    def replace(self, n: int, lines: Sequence[Line]) -> None:
        self.lines[n : n + 1] = lines
        self.grams[n : n + 1] = [float(line.amount) for line in lines]

    def change(self, key: str, by_g: float) -> float:
        """More or less of an ingredient; the grams that could not be taken away."""
        for n, line in enumerate(self.lines):
            if line.ingredient == key and self.grams[n] > 0:
                left = self.grams[n] + by_g
                if left < LEAST_G:
                    self.replace(n, ())
                    return -min(left, 0.0)
                self.replace(n, [_line(key, left)])
                return 0.0
        if by_g >= LEAST_G:
            self.lines.append(_line(key, by_g))
            self.grams.append(by_g)
            return 0.0
        return max(-by_g, 0.0)


def _even_fat(lines: _Lines, n: int, grams: float, key: str, new: str, larder: Larder) -> str:
    """One fat for another, fat and water even."""
    old, other = larder[key], larder[new]
    wanted = grams * old.fat_pct / other.fat_pct
    water = (grams * old.water_pct - wanted * other.water_pct) / 100
    lines.replace(n, [_line(new, wanted)])
    if water > 0:
        lines.change("water", water)
        return f"{in_grams(water)} of water makes up for what the {short_name(old)} held."
    left = -water
    for liquid in LIQUIDS:
        if left >= LEAST_G:
            left = lines.change(liquid, -left)
    if left >= LEAST_G:
        return f"It brings {in_grams(left)} of water that nothing else can give up."
    return ""


def _apply(
    swap: Swap, n: int | None, card: Card, weighed: WeighedDough, larder: Larder
) -> tuple[Card, str]:
    lines = _Lines(card, weighed)
    said = ""
    if n is None:
        for key, share in swap.gives:
            lines.change(key, share * weighed.total_g)
        return replace(card, lines=tuple(lines.lines)), said
    key, grams = card.lines[n].ingredient or "", lines.grams[n]
    if swap.basis == "fat":
        said = _even_fat(lines, n, grams, key, swap.gives[0][0], larder)
    else:
        gives: Mapping[str, float] = dict(swap.gives)
        if swap.basis == "lean" and key == "butter_salted":
            gives = {"butter_salted": gives["butter_unsalted"], "water": gives["water"]}
        lines.replace(n, [_line(k, share * grams) for k, share in gives.items()])
    if swap.basis == "salt":
        salt = SALTED_BUTTER_SALT * grams * (1 if key == "butter_salted" else -1)
        left = lines.change("salt_fine", salt)
        said = f"{in_grams(abs(salt) - left)} of salt {'added' if salt > 0 else 'taken out'}."
        if left >= LEAST_G:
            said += f" {in_grams(left)} more salt than before stays."
    return replace(card, lines=tuple(lines.lines)), said


def offers(card: Card, weighed: WeighedDough, swaps: Sequence[Swap], larder: Larder) -> list[Offer]:
    """Every swap that applies to this dough, each with the card as it would be."""
    found = []
    for swap in swaps:
        places: list[int | None] = [
            n
            for n, line in enumerate(card.lines)
            if line.ingredient in swap.takes and (weighed.lines[n].grams or 0) >= LEAST_G
        ]
        if not swap.takes and weighed.total_g > 0:
            places = [None]
        for n in places:
            after, said = _apply(swap, n, card, weighed, larder)
            found.append(Offer(swap, n, after, said))
    return found
