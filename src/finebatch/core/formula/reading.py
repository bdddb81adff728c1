"""Read one line of a card as people write it: which ingredient, how much, and what to ask.

Nothing is ever changed silently: where two amounts contradict each other the weight is used and
the contradiction kept; where a name or amount is unsure, the line carries a question.
"""

import re
from dataclasses import dataclass, replace
from fractions import Fraction

from finebatch.core.formula.dough import Line
from finebatch.core.formula.names import Named, Names
from finebatch.core.larder.ingredient import Ingredient, Larder
from finebatch.core.larder.measuring import CupHabit, Measuring
from finebatch.core.measures.amounts import write_amount
from finebatch.core.measures.quantities import Quantity, find_quantities, plain_text
from finebatch.core.values import Range

HABITS_MARGIN, OUNCES_MARGIN, COUNT_MARGIN = 0.08, 0.06, 0.15
"""How far two amounts of a line may be apart and still agree: cups beyond the sifted and dipped
weight, ounces rounded to grams, eggs and sticks."""

MOST_LETTERS = 500
UNKNOWN_EGG = "?"

_MARKETS = {"eu": "EU/UK", "uk": "EU/UK", "us": "US", "usa": "US", "au": "AU", "ca": "CA"}
_SIZES = {
    r"(?:extra|x)[ -]?la?rge?|xl": "extra large",
    r"very[ -]large": "very large",
    r"small|sm": "small",
    r"medium|med": "medium",
    r"large|lge?|lrg": "large",
    r"jumbo": "jumbo",
}
"""Sizes of eggs by the ways in which they are written, the longer ones first."""
_STATES = ("softened", "melted", "beaten", "cold", "browned", "toasted", "room temperature")
_HEAD_ENDS = re.compile(r"[,;:–—]| - |\b(?:or|until|as needed|to taste|for|plus)\b", re.IGNORECASE)
"""Where a line stops to name and begins to explain."""
_LIKED = re.compile(
    r"\b(?:I (?:like|use|used|prefer|take|took|find)|prefer(?:ably|red|ence)?|ideally|usually"
    r"|best(?: with| at)?|better(?: with| at)?)\b:?\s*(?P<amount>\d[\d\s/.,]*)(?P<unit>[a-z]+\b)?",
    re.IGNORECASE,
)
"""What a baker says of a range: “80–110 g sugar, I like 90”."""
_EACH = re.compile(r"^(?P<amount>.*?\d.*?)\s+each(?: of)?:?\s+(?P<names>.+)$", re.IGNORECASE)
_JOINED = re.compile(r"\s+(?:plus|and|\+|&)\s+(?=\d)", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class ReadLine:
    """A line as understood. `range_g` is kept when the card leaves room for taste.

    `name` is the part of the line that names the ingredient. `asks` are the questions to the
    baker; `conflict` says that two amounts contradict each other. `line` is the same as a line of
    a dough: in the unit written where that says as much, else in grams; without an amount while
    none is known.
    """

    text: str
    ingredient: str | None
    grams: float | None
    range_g: Range | None
    conflict: bool
    state: str | None
    asks: tuple[str, ...]
    line: Line
    name: str = ""


@dataclass(frozen=True, slots=True)
class Said:
    """One amount of a line: what it weighs, in grams, and the habit or egg it rests on."""

    quantity: Quantity
    low_g: float
    high_g: float
    cup: CupHabit | None = None
    egg: str | None = None


@dataclass(frozen=True, slots=True)
class Reader:
    """All that reading needs to know; `measuring` decides where a card says nothing of it."""

    larder: Larder
    names: Names
    measuring: Measuring

    def read_all(self, line: str) -> tuple[ReadLine, ...]:
        """Understand a line that may name several: “1/2 tsp each cinnamon and nutmeg”."""
        pieces = self._pieces(line[:MOST_LETTERS])
        if len(pieces) == 1:
            return (self.read(line),)
        found = [self.read(piece) for piece in pieces]
        if any(read.ingredient is None for read in found):
            return (self.read(line),)
        return tuple(replace(read, line=replace(read.line, text=line.strip())) for read in found)

    def _pieces(self, line: str) -> list[str]:
        text = plain_text(line)
        each = _EACH.match(text)
        if each:
            named = re.split(r"\s*,\s*(?:and\s+)?|\s+and\s+|\s*&\s*", each["names"])
            return [f"{each['amount']} {name}" for name in named if name.strip()]
        halves = _JOINED.split(text)
        named_halves = [self._name(half, find_quantities(half))[0] for half in halves]
        keys = {named.key for named in named_halves if named}
        # “1 tbsp plus 1 tsp cornflour” is one amount of one thing.
        return halves if None not in named_halves and len(keys) == len(halves) else [line]

    def read(self, line: str) -> ReadLine:
        """Understand one line, as far as it can be understood."""
        text, liked = _without_liked(plain_text(line[:MOST_LETTERS]))
        groups = find_quantities(text)
        named, name = self._name(text, groups)
        asks = [named.ask] if named and named.ask else []
        if named is None:
            asks.append("Which ingredient is this?")
        said = self._said(text, groups, self.larder[named.key]) if named else []
        chosen = min(said, key=lambda s: _trust(s.quantity)) if said else None
        conflict = False
        if named and chosen:
            conflict = bool(self.disagreeing(chosen, said, self.larder[named.key]))
        if chosen and chosen.egg == UNKNOWN_EGG:
            asks.append("No egg of that size is known here: the kitchen's usual one is taken.")
            chosen = replace(chosen, egg=None)
        if chosen and chosen.quantity.unsure:
            asks.append("Is that the size of each, or of all together? All together is taken.")
        if said and (over := _left_over(text, groups)):
            asks.append(f"“{over}” is not counted. Is it more of the same?")
        if conflict:
            asks.append("Its two amounts contradict each other: the weight is used. Is it right?")
        if chosen is None and (named is not None or not groups):
            asks.append("How much of it? It is not in the dough until there is an amount.")
        state = next((s for s in _STATES if s in text.casefold()), None)
        key = named.key if named else None
        ranged = chosen is not None and chosen.quantity.is_range
        line_read, grams = self._line(key, chosen), None
        if chosen is not None:
            grams = (chosen.low_g + chosen.high_g) / 2
        if named and chosen and ranged and liked:
            wish = self._liked(liked, text, chosen, self.larder[named.key])
            if wish is None:
                asks.append("What is liked is outside of the range: choose an amount.")
            else:
                line_read, grams = replace(line_read, chosen=self._as_chosen(wish, line_read)), wish
        return ReadLine(
            text=line,
            ingredient=key,
            grams=grams,
            range_g=(chosen.low_g, chosen.high_g) if chosen and ranged else None,
            conflict=conflict,
            state=state,
            asks=tuple(asks),
            line=replace(line_read, text=line.strip()[:MOST_LETTERS]),
            name=name,
        )

    def amounts(self, text: str, key: str) -> list[Said]:
        """All that a written line says of the amount of one ingredient."""
        plain = plain_text(text[:MOST_LETTERS])
        return self._said(plain, find_quantities(plain), self.larder[key])

    def disagreeing(self, chosen: Said, said: list[Said], ingredient: Ingredient) -> list[Said]:
        """Those amounts that contradict the one that is used."""
        grams = (chosen.low_g + chosen.high_g) / 2
        return [s for s in said if s is not chosen and not _agree(grams, s, ingredient)]

    def _said(self, text: str, groups: list[list[Quantity]], ingredient: Ingredient) -> list[Said]:
        weighed = [self._weigh(q, ingredient, text) for q in _amounts(groups, text)]
        said = [one for one in weighed if one is not None]
        for group in _added(groups):
            more = [one for q in group if (one := self._weigh(q, ingredient, text)) is not None]
            if more:
                best = min(more, key=lambda one: _trust(one.quantity))
                said = [
                    replace(one, low_g=one.low_g + best.low_g, high_g=one.high_g + best.high_g)
                    for one in said
                ]
        return said

    def _line(self, key: str | None, chosen: Said | None) -> Line:
        """The line as a dough keeps it."""
        if key is None or chosen is None:
            return Line("", "g", key)
        ingredient, quantity = self.larder[key], chosen.quantity
        unit = next((u for u in ingredient.units if u == quantity.unit), None)
        if quantity.unit == "each" and ingredient.natural_unit is not None:
            unit = ingredient.natural_unit.unit
        if unit is not None:
            here = self.measuring.where(chosen.cup, chosen.egg)
            each = ingredient.grams(1, unit, here)
            amount = _range_text(chosen.low_g / each, chosen.high_g / each)
            if amount is not None:
                return Line(amount, unit, key, cup=chosen.cup, egg=chosen.egg)
        low, high = (f"{g:.3g}" if g < 100 else f"{g:.0f}" for g in (chosen.low_g, chosen.high_g))
        return Line(f"{low}–{high}" if quantity.is_range else low, "g", key)

    def _liked(
        self, liked: re.Match[str], text: str, chosen: Said, ingredient: Ingredient
    ) -> float | None:
        """Grams of what the baker likes within a range; none when it is outside."""
        said = text[chosen.quantity.start : chosen.quantity.end]
        unit = liked["unit"] or re.sub(r"^.*\d", "", said)
        quantities = [q for group in find_quantities(f"{liked['amount']}{unit}") for q in group]
        weighed = self._weigh(quantities[0], ingredient, text) if quantities else None
        if weighed is None or not chosen.low_g <= weighed.low_g * 1.0001 <= chosen.high_g * 1.0002:
            return None
        return weighed.low_g

    def _as_chosen(self, grams: float, line: Line) -> str:
        """A chosen weight in the unit of its line."""
        each = 1.0
        if line.ingredient is not None and line.unit != "g":
            here = self.measuring.where(line.cup, line.egg)
            each = self.larder[line.ingredient].grams(1, line.unit, here)
        return _range_text(grams / each, grams / each) or f"{grams / each:.3g}"

    def _name(self, text: str, groups: list[list[Quantity]]) -> tuple[Named | None, str]:
        """The ingredient that a line names, and the words that name it."""
        bare = text
        for quantity in sorted((q for g in groups for q in g), key=lambda q: -q.start):
            bare = f"{bare[: quantity.start]} {bare[quantity.end :]}"
        bare = re.sub(r"\s+", " ", bare)
        outside = re.sub(r"\([^)]*\)", " ", bare)
        head = _HEAD_ENDS.split(outside.strip(" ,;:–—-.*•"), maxsplit=1)[0].strip()
        for words in (head, outside, bare):
            named = self.names.find(words)
            if named is not None:
                return named, words.strip()
        return None, head

    def _weigh(self, q: Quantity, ingredient: Ingredient, text: str) -> Said | None:
        if q.dimension == "mass":
            return Said(q, q.low, q.high)
        if q.dimension == "volume":
            cup = _sifted(ingredient, text, q)
            each = ingredient.cup_g(cup or self.measuring.cup)
            return Said(q, q.low * each, q.high * each, cup=cup)
        natural = ingredient.natural_unit
        if natural is None or (q.unit == "stick" and natural.unit != "stick"):
            return None
        if q.unit not in ("stick", "each") or (q.unit == "each" and natural.unit == "stick"):
            return None
        egg = self._egg(text) if ingredient.role == "egg" else None
        known = None if egg == UNKNOWN_EGG else egg
        each = ingredient.grams(1, natural.unit, self.measuring.where(None, known))
        return Said(q, q.low * each, q.high * each, egg=egg)

    def _egg(self, text: str) -> str | None:
        """The market and size of egg that a line names; none when it leaves that to the kitchen.

        A size that no market of the table has is `UNKNOWN_EGG`.
        """
        written = text.casefold()
        own_market, _, own_size = self.measuring.egg.partition(" ")
        markets = (m for word, m in _MARKETS.items() if re.search(rf"\b{word}\b", written))
        market = next(markets, None)
        size = next((s for w, s in _SIZES.items() if re.search(rf"\b(?:{w})\b", written)), None)
        if market is None and size is None:
            return None
        size = size or own_size
        named = (f"{market or own_market} {size}", f"US {size}")
        egg = next((key for key in named if key in self.measuring.egg_sizes), UNKNOWN_EGG)
        return None if egg == self.measuring.egg else egg


def _without_liked(text: str) -> tuple[str, re.Match[str] | None]:
    """A line without what it says of the baker's own choice, and that."""
    liked = _LIKED.search(text)
    if liked is None:
        return text, None
    return f"{text[: liked.start()]} {text[liked.end() :]}".strip(" ,;("), liked


def _sifted(ingredient: Ingredient, text: str, q: Quantity) -> CupHabit | None:
    """A cup of what is sifted before it is measured holds less."""
    before = re.search(r"\bsifted\b", text[q.end :].split(",", maxsplit=1)[0])
    return "sifted" if before and ingredient.g_per_cup_sifted is not None else None


def _agree(grams: float, other: Said, ingredient: Ingredient) -> bool:
    low, high = other.low_g, other.high_g
    margin = OUNCES_MARGIN if other.quantity.dimension == "mass" else COUNT_MARGIN
    if other.quantity.dimension == "volume":
        cup, margin = ingredient.cup_g(other.cup or "spooned"), HABITS_MARGIN
        low *= (ingredient.g_per_cup_sifted or ingredient.g_per_cup) / cup
        high *= (ingredient.g_per_cup_dipped or ingredient.g_per_cup) / cup
    return low * (1 - margin) <= grams <= high * (1 + margin)


def _range_text(low: float, high: float) -> str | None:
    """An amount or range as a cook writes it; none where it does not come out even."""
    texts = []
    for value in (low, high):
        fraction = Fraction(value).limit_denominator(24)
        if abs(float(fraction) - value) > 0.002 * value:
            return None
        texts.append(write_amount(fraction))
    return texts[0] if high <= low * 1.0001 else "–".join(texts)


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
        for q in group if not group[0].adds else ():
            bare = q.dimension == "count" and q.unit == "each"
            at_edge = not text[: q.start].strip(" -*•") or not text[q.end :].strip(" .)")
            after_of = text[: q.start].rstrip().endswith(("of", ":"))
            if bare and not (at_edge or after_of):
                continue
            if number == 0 or not found or q.dimension == "mass":
                found.append(q)
    return found


def _added(groups: list[list[Quantity]]) -> list[list[Quantity]]:
    """The groups that come on top of the first: “1/2 cup (1 stick) plus 1 tbsp”."""
    return [group for group in groups[1:] if group[0].adds and group[0].unit != "each"]


def _left_over(text: str, groups: list[list[Quantity]]) -> str | None:
    """A measured amount behind the name that nothing was made of: “100 g butter, plus 2 tbsp”."""
    for group in groups[1:]:
        q = group[0]
        if q.dimension == "volume" and not q.adds:
            return text[q.start : q.end].strip()
    return None
