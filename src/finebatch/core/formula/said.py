"""What the amounts of a written line weigh: cups, spoons, sticks and eggs in grams, and whether two
of them agree."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from finebatch.core.larder.ingredient import Ingredient
from finebatch.core.larder.measuring import CupHabit, Measuring
from finebatch.core.measures.quantities import Quantity

HABITS_MARGIN, OUNCES_MARGIN, COUNT_MARGIN = 0.08, 0.06, 0.15
"""How far two amounts of a line may be apart and still agree: cups beyond the sifted and dipped
weight, ounces rounded to grams, eggs and sticks."""
UNKNOWN_EGG = "?"

_MARKETS = {
    "eu": "EU/UK",
    "uk": "EU/UK",
    "us": "US",
    "usa": "US",
    "au": "AU",
    "ca": "CA",
    "nz": "NZ",
}
_SIZES = {
    r"(?:extra|x)[ -]?la?rge?|xl": "extra large",
    r"very[ -]large": "very large",
    r"small|sm": "small",
    r"medium|med": "medium",
    r"large|lge?|lrg": "large",
    r"jumbo": "jumbo",
    r"peewee": "peewee",
    r"king[ -]size": "king size",
    **{rf"size[ -]?{number}": f"size {number}" for number in range(5, 9)},
}
"""Sizes of eggs by the ways in which they are written, the longer ones first."""
_ANY_SIZE, _ANY_MARKET = ("(?:" + "|".join(words) + ")" for words in (_SIZES, _MARKETS))


@dataclass(frozen=True, slots=True)
class WrittenAmount:
    """One amount of a line: what it weighs, in grams, and the habit or egg it rests on."""

    quantity: Quantity
    low_g: float
    high_g: float
    cup: CupHabit | None = None
    egg: str | None = None

    @property
    def grams(self) -> float:
        """The middle of it."""
        return (self.low_g + self.high_g) / 2

    @property
    def trust(self) -> int:
        """Grams come before ounces, weight before volume, volume before a count."""
        if self.quantity.dimension == "mass":
            return 0 if self.quantity.unit == "g" else 1
        return 2 if self.quantity.dimension == "volume" else 3

    def plus(self, more: "WrittenAmount") -> "WrittenAmount":
        """The same with another amount on top."""
        return replace(self, low_g=self.low_g + more.low_g, high_g=self.high_g + more.high_g)


@dataclass(frozen=True, slots=True)
class Scales:
    """Weighs what a line says of one ingredient; `measuring` decides where it says nothing."""

    ingredient: Ingredient
    measuring: Measuring

    def all_said(self, text: str, groups: Sequence[Sequence[Quantity]]) -> list[WrittenAmount]:
        """Each amount of the line, with what is added on top of it."""
        said = self._weigh_all(_amounts(groups, text), text)
        for group in _added(groups):
            more = min(self._weigh_all(group, text), key=lambda one: one.trust, default=None)
            if more is not None:
                said = [one.plus(more) for one in said]
        return said

    def _weigh_all(self, quantities: Sequence[Quantity], text: str) -> list[WrittenAmount]:
        weighed = (self.weigh(quantity, text) for quantity in quantities)
        return [one for one in weighed if one is not None]

    def weigh(self, q: Quantity, text: str) -> WrittenAmount | None:
        """What one quantity of the line weighs; none for a count that the ingredient has not."""
        match q.dimension:
            case "mass":
                return WrittenAmount(q, q.low, q.high)
            case "volume":
                cup = self._sifted(text, q)
                each = self.ingredient.cup_g(cup or self.measuring.cup)
                return WrittenAmount(q, q.low * each, q.high * each, cup=cup)
            case _:
                return self._counted(q, text)

    def _sifted(self, text: str, q: Quantity) -> CupHabit | None:
        """A cup of what is sifted before it is measured holds less."""
        before = re.search(r"\bsifted\b", text[q.end :].split(",", maxsplit=1)[0])
        return "sifted" if before and self.ingredient.g_per_cup_sifted is not None else None

    def _counted(self, q: Quantity, text: str) -> WrittenAmount | None:
        """Eggs, sticks and whatever else an ingredient is counted in; sticks are never “each”."""
        natural = self.ingredient.natural_unit
        if natural is None or q.unit != ("stick" if natural.unit == "stick" else "each"):
            return None
        egg = egg_named(text, self.measuring) if self.ingredient.role == "egg" else None
        known = None if egg == UNKNOWN_EGG else egg
        each = self.ingredient.grams(1, natural.unit, self.measuring.where(None, known))
        return WrittenAmount(q, q.low * each, q.high * each, egg=egg)

    def other_readings(
        self, chosen: WrittenAmount, said: Sequence[WrittenAmount]
    ) -> list[WrittenAmount]:
        """What the line's amount can be as well: the other reading of a number, packets of that
        size each, and amounts that contradict the one that is used."""
        found, q = [], chosen.quantity
        if q.either is not None:
            times = q.either[1] / q.either[0]
            found.append(replace(chosen, low_g=chosen.low_g * times, high_g=chosen.high_g * times))
        if q.unsure:
            count = q.packets
            found.append(replace(chosen, low_g=chosen.low_g * count, high_g=chosen.high_g * count))
        return [*found, *self.disagreeing(chosen, said)]

    def disagreeing(
        self, used: WrittenAmount, said: Sequence[WrittenAmount]
    ) -> list[WrittenAmount]:
        """Those amounts that contradict the one that is used."""
        return [one for one in said if one is not used and not self._agree(used, one)]

    def _agree(self, used: WrittenAmount, other: WrittenAmount) -> bool:
        """Whether two amounts can be the same, measured one way or another."""
        low, high = other.low_g, other.high_g
        margin = OUNCES_MARGIN if other.quantity.dimension == "mass" else COUNT_MARGIN
        if other.quantity.dimension == "volume":
            own, margin = self.ingredient, HABITS_MARGIN
            cup = own.cup_g(other.cup or "spooned")
            low *= (own.g_per_cup_sifted or own.g_per_cup) / cup
            high *= (own.g_per_cup_dipped or own.g_per_cup) / cup
        return low * (1 - margin) <= used.grams <= high * (1 + margin)


def egg_named(text: str, measuring: Measuring) -> str | None:
    """The market and size of egg that a line names; none when it leaves that to the kitchen.

    A size that no market of the table has is `UNKNOWN_EGG`.
    """
    written = text.casefold()
    own_market, _, own_size = measuring.egg.partition(" ")
    markets = (m for word, m in _MARKETS.items() if re.search(rf"\b{word}\b", written))
    market = next(markets, None)
    # “medium (large in the US)” is one size of egg with two names: the one of the market counts.
    beside = re.search(
        rf"\b({_ANY_SIZE})(?: eggs?)?,? (?:in|by|for) (?:the )?{_ANY_MARKET}\b", written
    )
    said = beside[1] if beside else written
    size = next((s for w, s in _SIZES.items() if re.search(rf"\b(?:{w})\b", said)), None)
    if market is None and size is None:
        return None
    size = size or own_size
    named = (f"{market or own_market} {size}", f"US {size}", f"NZ {size}")
    egg = next((key for key in named if key in measuring.egg_sizes), UNKNOWN_EGG)
    return None if egg == measuring.egg else egg


def _amounts(groups: Sequence[Sequence[Quantity]], text: str) -> list[Quantity]:
    """All that the line says of the amount: its first group, and weights said elsewhere."""
    found: list[Quantity] = []
    for number, group in enumerate(groups):
        for q in group if not group[0].adds else ():
            if _is_an_amount(q, text) and (number == 0 or not found or q.dimension == "mass"):
                found.append(q)
    return found


def _is_an_amount(q: Quantity, text: str) -> bool:
    """A bare number counts only where an amount stands: at the start, the end, or after “of”."""
    if q.dimension != "count" or q.unit != "each":
        return True
    before, after = text[: q.start], text[q.end :]
    at_edge = not before.strip(" -*•") or not after.strip(" .)")
    return at_edge or before.rstrip().endswith(("of", ":"))


def _added(groups: Sequence[Sequence[Quantity]]) -> list[Sequence[Quantity]]:
    """The groups that come on top of the first: “1/2 cup (1 stick) plus 1 tbsp”."""
    return [group for group in groups[1:] if group[0].adds and group[0].unit != "each"]


def left_over(text: str, groups: Sequence[Sequence[Quantity]]) -> str | None:
    """A measured amount behind the name that nothing was made of: “100 g butter, plus 2 tbsp”."""
    for group in groups[1:]:
        q = group[0]
        if q.dimension == "volume" and not q.adds:
            return text[q.start : q.end].strip()
    return None
