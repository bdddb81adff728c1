"""Read one line of a card as people write it: which ingredient, how much, and what to ask.

Nothing is ever changed silently: where two amounts contradict each other the weight is used and
the contradiction kept; where a name or amount is unsure, the line carries a question.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass, replace
from fractions import Fraction

from finebatch.core.formula.dough import Line
from finebatch.core.formula.names import Named, Names
from finebatch.core.formula.purpose import Purpose, purpose_of, use_of_the_rest
from finebatch.core.formula.said import UNKNOWN_EGG, Scales, WrittenAmount, left_over
from finebatch.core.larder.ingredient import Larder
from finebatch.core.larder.measuring import Measuring
from finebatch.core.measures.amounts import parse_amount, write_amount
from finebatch.core.measures.figures import grams
from finebatch.core.measures.quantities import Quantity, find_quantities
from finebatch.core.measures.spoken import plain_text
from finebatch.core.values import Range

MOST_LETTERS = 500
MOST_SHARED = 2
"""So many ingredients at most share the words of a line, unless it says “each”."""

_STATES = ("softened", "melted", "beaten", "cold", "browned", "toasted", "room temperature")
_HEAD_ENDS = re.compile(
    r"[,;:–—]| - |\b(?:or|until|as needed|to taste|for|to|plus)\b", re.IGNORECASE
)
"""Where a line stops to name and begins to explain."""
_LIKED = re.compile(
    r"\b(?:I (?:like|use|used|prefer|take|took|find)|prefer(?:ably|red|ence)?|ideally|usually"
    r"|best(?: with| at)?|better(?: with| at)?)\b:?\s*(?P<amount>\d[\d\s/.,]*)(?P<unit>[a-z]+\b)?",
    re.IGNORECASE,
)
"""What a baker says of a range: “80–110 g sugar, I like 90”."""
_EACH = re.compile(r"^(?P<amount>.*?\d.*?)\s+each(?: of)?:?\s+(?P<names>.+)$", re.IGNORECASE)
_EGG_WEIGHT = re.compile(
    r"(?:as much as )?(?:the )?(?:same )?(?:weight|mass) (?:of|as) "
    r"(\d[\d /.]*) eggs?"
    r"(?: in (?:their|the) shells?)?(?: (?:of|in)(?= ))?"
    r"|as much as (\d[\d /.]*) eggs? weighs?"
    r"|(\d[\d /.]*) eggs?['’]? (?:weight|mass)(?: (?:of|in)(?= ))?"
    r"|(?:the )?(?:same )?weight (?:of|as) (?:all )?the eggs(?: (?:of|in)(?= ))?"
    r"|as much as the eggs weigh",
    re.IGNORECASE,
)
"""“The weight of three eggs in flour”, “sugar, as much as 4 eggs weigh”."""
_SHARED = re.compile(
    r"^1 (?P<what>(?:(?:small|medium|large) )?egg(?: (?:yolk|white))?)\b[^,;:(]*[,;:(]?\s*"
    r"(?:half|1/2) (?:of it )?(?:for|in|into|goes in(?:to)?) the dough,?\s*(?:and )?(?:the other )?"
    r"(?:half|1/2) (?:of it )?(?P<use>(?:to|for) [^)]+)",
    re.IGNORECASE,
)
"""“1 egg, half for the dough, half to brush”: two uses of one."""
_OF_BOTH = re.compile(r"\b(?:mixed|combined|both|together)\b|,\s*(?:to|for)\b", re.IGNORECASE)
"""What is said of both ingredients of a line: “3 tbsp sugar and 1 tbsp cinnamon, to roll in”."""
_LISTED = re.compile(r"\s*[,;]\s+(?=\d)")
"""“150 g rye flour, 125 g butter, 1 egg”: a whole list in one line."""
_JOINED = re.compile(r"\s+(?:plus|and|\+|&)\s+(?=\d)", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class OtherReading:
    """What a written line can mean as well: as a line of a dough, and in g."""

    line: Line
    grams: float


@dataclass(frozen=True, slots=True)
class ReadLine:
    """A line as understood. `range_g` is kept when the card leaves room for taste.

    `name` is the part of the line that names the ingredient. `asks` are the questions to the
    baker; `conflict` says that two amounts contradict each other. `line` is the same as a line of
    a dough: in the unit written where that says as much, else in grams; without an amount while
    none is known. `purpose` is what it is for, where the line says so; `others` are what else it
    can mean.
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
    purpose: Purpose = "dough"
    others: tuple[OtherReading, ...] = ()


@dataclass(frozen=True, slots=True)
class _Written:
    """A line taken apart: its plain text without what the baker likes of a range, that, and the
    quantities in it, those that say the same amount together."""

    text: str
    liked: re.Match[str] | None
    groups: list[list[Quantity]]


@dataclass(frozen=True, slots=True)
class Reader:
    """All that reading needs to know; `measuring` decides where a card says nothing of it."""

    larder: Larder
    names: Names
    measuring: Measuring

    def read_all(self, line: str) -> tuple[ReadLine, ...]:
        """Understand a line that may name several: “1/2 tsp each cinnamon and nutmeg”."""
        plain = plain_text(line[:MOST_LETTERS])
        shared = _SHARED.match(plain)
        if shared:
            halves = (f"1/2 {shared['what']}", f"1/2 {shared['what']} {shared['use']}")
            found = [self.read(half) for half in halves]
            if all(read.grams is not None for read in found):
                return tuple(replace(r, line=replace(r.line, text=line.strip())) for r in found)
        pieces = self._pieces(plain)
        if len(pieces) == 1:
            return self._with_the_rest(self._understand(line, plain), plain)
        found = [self.read(piece) for piece in pieces]
        if any(read.ingredient is None for read in found):
            return (self._understand(line, plain),)
        if len(pieces) > MOST_SHARED and not _EACH.match(plain):
            return tuple(found)  # a list in one line: each has its own words
        use = found[-1].purpose
        if use != "dough" and _OF_BOTH.search(plain):
            found = [replace(read, purpose=use) for read in found]
        return tuple(replace(read, line=replace(read.line, text=line.strip())) for read in found)

    def _with_the_rest(self, read: ReadLine, plain: str) -> tuple[ReadLine, ...]:
        """A line, and what is kept back of it for another use, of which no amount is known."""
        if read.ingredient is None:
            return (read,)
        use = use_of_the_rest(plain, self.larder[read.ingredient])
        if use is None:
            return (read,)
        kept = Line("", read.line.unit, read.ingredient, text=read.line.text)
        rest = replace(read, grams=None, range_g=None, asks=(), line=kept, purpose=use)
        return read, rest

    def _pieces(self, text: str) -> list[str]:
        """The plain text in pieces that name an ingredient each; it alone where it names one."""
        each = _EACH.match(text)
        if each:
            named = re.split(r"\s*,\s*(?:and\s+)?|\s+and\s+|\s*&\s*", each["names"])
            return [
                f"{each['amount']} {self._in_full(name, named[-1])}"
                for name in named
                if name.strip()
            ]
        listed = _LISTED.split(text)
        if len(listed) > 1 and self._each_its_own(listed):
            return listed
        halves = _JOINED.split(text)
        named_halves = [self._name(half, find_quantities(half))[0] for half in halves]
        keys = {named.key for named in named_halves if named}
        # “1 tbsp plus 1 tsp cornflour” is one amount of one thing.
        return halves if None not in named_halves and len(keys) == len(halves) else [text]

    def _in_full(self, name: str, last: str) -> str:
        """One of several names that share their last word: “white and brown sugar”."""
        full = f"{name} {last.rpartition(' ')[2]}"
        named = self.names.find(full)
        if name != last and self.names.find(name) is None and named is not None:
            return full
        return name

    def _each_its_own(self, pieces: list[str]) -> bool:
        """Whether each piece of a line is an amount of another ingredient."""
        named = [self._name(piece, find_quantities(piece))[0] for piece in pieces]
        keys = {one.key for one in named if one}
        return None not in named and len(keys) == len(pieces)

    def read(self, line: str) -> ReadLine:
        """Understand one line, as far as it can be understood."""
        return self._understand(line, plain_text(line[:MOST_LETTERS]))

    def _understand(self, line: str, plain: str) -> ReadLine:
        """The same of a line whose plain text is known."""
        read = self._read(line, plain)
        known = self.larder[read.ingredient] if read.ingredient else None
        purpose = purpose_of(plain, known)
        read = self._with_alternatives(read, plain)
        asks = read.asks if purpose == "dough" else tuple(a for a in read.asks if a != HOW_MUCH)
        return replace(read, purpose=purpose, asks=asks)

    def _read(self, line: str, plain: str) -> ReadLine:
        written = _take_apart(plain)
        if by_eggs := _EGG_WEIGHT.search(written.text):
            return self._by_eggs(line, written, by_eggs)
        named, name = self._name(written.text, written.groups)
        if named is None:
            asks = ["Which ingredient is this?"] + [HOW_MUCH] * (not written.groups)
            return _read(line, written, asks, Line("", "g", None), name=name)
        scales = self._scales(named.key)
        said = scales.all_said(written.text, written.groups)
        chosen = min(said, key=lambda one: one.trust, default=None)
        asks = [named.ask] if named.ask else []
        if chosen is None:
            return _read(line, written, [*asks, HOW_MUCH], Line("", "g", named.key), name=name)
        conflict = bool(scales.disagreeing(chosen, said))
        asks += _doubts(written, chosen, conflict=conflict)
        if chosen.egg == UNKNOWN_EGG:
            chosen = replace(chosen, egg=None)
        kept = self._line(named.key, chosen)
        understood = _read(line, written, asks, kept, chosen, name, conflict=conflict)
        others = [(o, self._line(named.key, o)) for o in scales.other_readings(chosen, said)]
        taken = self._as_liked(understood, written, chosen)
        return replace(
            taken,
            others=tuple(
                OtherReading(replace(kept, text=taken.line.text), one.grams)
                for one, kept in others
                if abs(one.grams - chosen.grams) > SAME_G
            ),
        )

    def _with_alternatives(self, read: ReadLine, plain: str) -> ReadLine:
        """The same with what stands behind an “or”: another amount, another ingredient, or both."""
        parts = _OR.split(plain.replace("(", " ").replace(")", " "), maxsplit=1)
        if len(parts) < 2 or read.grams is None:
            return read
        before, after = parts
        groups = find_quantities(after)
        named, _ = self._name(after, groups)
        if not groups:
            amount = _LEADING.match(before)
            after = f"{amount[0] if amount else ''} {after}"
        elif named is None:
            after = f"{after} {read.name}"
        other = self._read(after, after)
        if other.grams is None or other.ingredient is None:
            return read
        if other.ingredient == read.ingredient and abs(other.grams - read.grams) <= SAME_G:
            return read
        line = replace(other.line, text=read.line.text)
        others = (*read.others, OtherReading(line, other.grams))
        asks = tuple(ask for ask in read.asks if not ask.endswith(MORE_OF_THE_SAME))
        return replace(read, others=others, asks=asks)

    def _by_eggs(self, line: str, written: _Written, found: re.Match[str]) -> ReadLine:
        """As much as so many eggs weigh: the kitchen's usual ones, until these are weighed."""
        rest = f"{written.text[: found.start()]} {written.text[found.end() :]}"
        named, name = self._name(rest, [])
        eggs = next((number for number in found.groups() if number), None)
        each = self.measuring.egg_g
        if eggs is None:
            kept = Line("1", "of_eggs", named.key if named else None)
            return _read(line, _Written(rest, None, []), [], kept, name=name)
        kept = Line(eggs, "egg_weight", named.key if named else None)
        asks = [named.ask] if named and named.ask else []
        asks += ["Which ingredient is this?"] * (named is None)
        asks += [f"An egg is taken to weigh {grams(each)} without its shell: weigh yours."]
        read = _read(line, _Written(rest, None, []), asks, kept, name=name)
        return replace(read, grams=float(parse_amount(eggs).middle) * each if named else None)

    def amounts(self, text: str, key: str) -> list[WrittenAmount]:
        """All that a written line says of the amount of one ingredient."""
        plain = plain_text(text[:MOST_LETTERS])
        return self._scales(key).all_said(plain, find_quantities(plain))

    def disagreeing(
        self, chosen: WrittenAmount, said: list[WrittenAmount], key: str
    ) -> list[WrittenAmount]:
        """Those amounts of an ingredient that contradict the one that is used."""
        return self._scales(key).disagreeing(chosen, said)

    def _scales(self, key: str) -> Scales:
        return Scales(self.larder[key], self.measuring)

    def _line(self, key: str, chosen: WrittenAmount) -> Line:
        """The line as a dough keeps it: in the unit written where that says as much, else in g."""
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

    def _as_liked(self, read: ReadLine, written: _Written, chosen: WrittenAmount) -> ReadLine:
        """A range with what the baker likes of it chosen, or a question where that is outside."""
        if written.liked is None or not chosen.quantity.is_range:
            return read
        wish = self._liked_g(written.liked, written.text, chosen, read.line.ingredient or "")
        if wish is None:
            return replace(read, asks=(*read.asks, OUTSIDE))
        line = replace(read.line, chosen=self._as_chosen(wish, read.line))
        return replace(read, grams=wish, line=line)

    def _liked_g(
        self, liked: re.Match[str], text: str, chosen: WrittenAmount, key: str
    ) -> float | None:
        """Grams of what the baker likes within a range; none when it is outside."""
        said = text[chosen.quantity.start : chosen.quantity.end]
        unit = liked["unit"] or re.sub(r"^.*\d", "", said)
        quantities = [q for group in find_quantities(f"{liked['amount']}{unit}") for q in group]
        weighed = self._scales(key).weigh(quantities[0], text) if quantities else None
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


_OR = re.compile(r"\s+or\s+(?!to taste|more|so\b|less)", re.IGNORECASE)
_LEADING = re.compile(r"^\s*[\d./ ]+(?:[a-z]+\b)?")
SAME_G = 0.05
HOW_MUCH = "No amount: it counts as nothing until there is one."
MORE_OF_THE_SAME = "Is it more of the same?"
OUTSIDE = "What is liked is outside of the range: choose an amount."


def _take_apart(text: str) -> _Written:
    liked = _LIKED.search(text)
    if liked is not None:
        text = f"{text[: liked.start()]} {text[liked.end() :]}".strip(" ,;(")
    return _Written(text, liked, find_quantities(text))


def _read(
    line: str,
    written: _Written,
    asks: list[str],
    kept: Line,
    chosen: WrittenAmount | None = None,
    name: str = "",
    *,
    conflict: bool = False,
) -> ReadLine:
    ranged = chosen is not None and chosen.quantity.is_range
    return ReadLine(
        text=line,
        ingredient=kept.ingredient,
        grams=chosen.grams if chosen else None,
        range_g=(chosen.low_g, chosen.high_g) if chosen and ranged else None,
        conflict=conflict,
        state=next((s for s in _STATES if s in written.text.casefold()), None),
        asks=tuple(asks),
        line=replace(kept, text=line.strip()[:MOST_LETTERS]),
        name=name,
    )


def _doubts(written: _Written, chosen: WrittenAmount, *, conflict: bool) -> Iterator[str]:
    """What to ask about an amount that was understood."""
    if chosen.egg == UNKNOWN_EGG:
        yield "No egg of that size is known here: the kitchen's usual one is taken."
    if chosen.quantity.either is not None:
        one, other = (
            write_amount(Fraction(n).limit_denominator(24)) for n in chosen.quantity.either
        )
        yield f"Is that {one} or {other}? {one} is taken."
    if chosen.quantity.unsure:
        yield "Is that the size of each, or of all together? All together is taken."
    over = left_over(written.text, written.groups)
    if over:
        yield f"“{over}” is not counted. {MORE_OF_THE_SAME}"
    if conflict:
        yield "Its two amounts contradict each other: the weight is used. Is it right?"


def _range_text(low: float, high: float) -> str | None:
    """An amount or range as a cook writes it; none where it does not come out even."""
    texts = []
    for value in (low, high):
        fraction = Fraction(value).limit_denominator(24)
        if abs(float(fraction) - value) > 0.002 * value:
            return None
        texts.append(write_amount(fraction))
    return texts[0] if high <= low * 1.0001 else "–".join(texts)
