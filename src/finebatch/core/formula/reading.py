"""Read one line of a card as people write it: which ingredient, how much, and what to ask.

Nothing is ever changed silently: where two amounts contradict each other the weight is used and
the contradiction kept; where a name or amount is unsure, the line carries a question.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction

from finebatch.core.formula.dough import Line
from finebatch.core.formula.names import Named, Names
from finebatch.core.larder.ingredient import Ingredient, Larder
from finebatch.core.measures.quantities import Quantity, find_quantities, plain_text

EggSizes = Mapping[tuple[str, str], float]
"""Grams of an egg's contents by market and size."""

HABITS_MARGIN, OUNCES_MARGIN, COUNT_MARGIN = 0.08, 0.06, 0.15
"""How far two amounts of a line may be apart and still agree: cups beyond the sifted and dipped
weight, ounces rounded to grams, eggs and sticks."""

_MARKETS = {"eu": "EU/UK", "uk": "EU/UK", "us": "US", "usa": "US", "au": "AU", "ca": "CA"}
_SIZES = ("extra large", "very large", "small", "medium", "large", "jumbo")
_STATES = ("softened", "melted", "beaten", "cold", "browned", "toasted", "room temperature")
_LARGE_EGG_G = 50.0
_HEAD_ENDS = re.compile(r"[,;:–—]| - |\b(?:or|until|as needed|to taste|for|plus)\b", re.IGNORECASE)
"""Where a line stops to name and begins to explain."""


@dataclass(frozen=True, slots=True)
class ReadLine:
    """A line as understood. `range_g` is kept when the card leaves room for taste.

    `asks` are the questions to the baker; `conflict` says that two amounts contradict each other.
    `line` is the same as a line of a dough: in the unit written where that says as much, else in
    grams; without an amount while none is known.
    """

    text: str
    ingredient: str | None
    grams: float | None
    range_g: tuple[float, float] | None
    conflict: bool
    state: str | None
    asks: tuple[str, ...]
    line: Line


@dataclass(frozen=True, slots=True)
class Reader:
    """All that reading needs to know; `market` decides the eggs of a card that names none."""

    larder: Larder
    names: Names
    egg_sizes: EggSizes
    market: str = "US"

    def read(self, line: str) -> ReadLine:
        """Understand one line, as far as it can be understood."""
        text = plain_text(line)
        groups = find_quantities(text)
        amounts = _amounts(groups, text)
        named = self._name(text, groups)
        asks = [named.ask] if named and named.ask else []
        if named is None:
            asks.append("Which ingredient is this?")
        grams, range_g, conflict, chosen = None, None, False, None
        if named is not None:
            ingredient = self.larder[named.key]
            weighed = [(q, self._grams(q, ingredient, text)) for q in amounts]
            known = [(q, g) for q, g in weighed if g is not None]
            if known:
                chosen, (low, high) = min(known, key=lambda found: _trust(found[0]))
                grams = (low + high) / 2
                range_g = (low, high) if chosen.is_range else None
                conflict = any(
                    not self._agree(grams, q, g, ingredient) for q, g in known if q is not chosen
                )
        if conflict:
            asks.append("Its two amounts contradict each other: the weight is used. Is it right?")
        if grams is None:
            asks.append("How much of it? It is not in the dough until there is an amount.")
        state = next((s for s in _STATES if s in text.casefold()), None)
        named_key = named.key if named else None
        plain = self._line(named_key, grams, chosen)
        return ReadLine(line, named_key, grams, range_g, conflict, state, tuple(asks), plain)

    def _line(self, key: str | None, grams: float | None, chosen: Quantity | None) -> Line:
        """The line as a dough keeps it."""
        if key is None or grams is None or chosen is None:
            return Line("", "g", key)
        ingredient = self.larder[key]
        unit = next((u for u in ingredient.units if u == chosen.unit), None)
        if chosen.unit == "each" and ingredient.natural_unit is not None:
            unit = ingredient.natural_unit.unit
        if unit is not None and not chosen.is_range:
            amount = grams / ingredient.grams(1, unit)
            # Sifted cups and eggs of another size do not come out even: those are weighed.
            if abs(amount * 24 - round(amount * 24)) < 0.01 * amount:
                return Line(_amount_text(amount), unit, key)
        return Line(f"{grams:.3g}" if grams < 100 else f"{grams:.0f}", "g", key)

    def _name(self, text: str, groups: list[list[Quantity]]) -> Named | None:
        bare = text
        for quantity in sorted((q for g in groups for q in g), key=lambda q: -q.start):
            bare = f"{bare[: quantity.start]} {bare[quantity.end :]}"
        bare = re.sub(r"\s+", " ", bare)
        outside = re.sub(r"\([^)]*\)", " ", bare)
        head = _HEAD_ENDS.split(outside.strip(" ,;:–—-.*•"), maxsplit=1)[0]
        return self.names.find(head) or self.names.find(outside) or self.names.find(bare)

    def _grams(self, q: Quantity, ingredient: Ingredient, text: str) -> tuple[float, float] | None:
        if q.dimension == "mass":
            each = 1.0
        elif q.dimension == "volume":
            each = self._cup_g(ingredient, text, q)
        elif q.unit == "stick":
            natural = ingredient.natural_unit
            if natural is None or natural.unit != "stick":
                return None
            each = natural.grams
        elif q.unit == "each" and ingredient.natural_unit is not None:
            each = self._each_g(ingredient, text)
        else:
            return None
        return q.low * each, q.high * each

    def _cup_g(self, ingredient: Ingredient, text: str, q: Quantity) -> float:
        """A cup of it; one that is sifted before it is measured holds less."""
        sifted = re.search(r"\bsifted\b", text[q.end :].split(",", maxsplit=1)[0])
        if sifted and ingredient.g_per_cup_sifted is not None:
            return ingredient.g_per_cup_sifted
        return ingredient.g_per_cup

    def _each_g(self, ingredient: Ingredient, text: str) -> float:
        """One of it; an egg by its size and market, its yolk and white in proportion."""
        natural = ingredient.natural_unit
        assert natural is not None
        if ingredient.role != "egg":
            return natural.grams
        written = text.casefold()
        market = next(
            (m for word, m in _MARKETS.items() if re.search(rf"\b{word}\b", written)), self.market
        )
        size = next((s for s in _SIZES if re.search(rf"\b{s}\b", written)), "large")
        egg = self.egg_sizes.get((market, size), self.egg_sizes.get(("US", size), _LARGE_EGG_G))
        return natural.grams * egg / _LARGE_EGG_G

    def _agree(
        self, grams: float, q: Quantity, other: tuple[float, float], ingredient: Ingredient
    ) -> bool:
        low, high = other
        margin = OUNCES_MARGIN if q.dimension == "mass" else COUNT_MARGIN
        if q.dimension == "volume":
            cup, margin = ingredient.g_per_cup, HABITS_MARGIN
            low *= (ingredient.g_per_cup_sifted or cup) / cup
            high *= (ingredient.g_per_cup_dipped or cup) / cup
        return low * (1 - margin) <= grams <= high * (1 + margin)


def _amount_text(amount: float) -> str:
    """An amount in whole numbers and fractions where it is one, else with decimals."""
    whole, part = divmod(Fraction(amount).limit_denominator(24), 1)
    if part.denominator not in (1, 2, 3, 4, 6, 8):
        return f"{amount:.4g}"
    return " ".join(filter(None, [str(whole) if whole else "", str(part) if part else ""]))


def _trust(q: Quantity) -> int:
    """Grams before ounces, weight before volume, volume before a count."""
    if q.dimension == "mass":
        return 0 if q.unit == "g" else 1
    return 2 if q.dimension == "volume" else 3


def _amounts(groups: list[list[Quantity]], text: str) -> list[Quantity]:
    """All that the line says of the amount: its first group, and weights said elsewhere.

    A bare number counts only where an amount stands: at the start, at the end, or after “of”.
    """
    found: list[Quantity] = []
    for number, group in enumerate(groups):
        for q in group:
            bare = q.dimension == "count" and q.unit == "each"
            at_edge = not text[: q.start].strip(" -*•") or not text[q.end :].strip(" .)")
            after_of = text[: q.start].rstrip().endswith(("of", ":"))
            if bare and not (at_edge or after_of):
                continue
            if number == 0 or not found or q.dimension == "mass":
                found.append(q)
    return found
