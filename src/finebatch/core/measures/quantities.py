"""Quantities as they stand in a written line: numbers, ranges, units, and how they join.

``2 1/4 cups``, ``80–110 g``, ``1 tbsp plus 1 tsp``, ``1 cup (160 g)``, ``250g/9oz``,
``a 300 g bag``, ``2 x 100 g``. Volumes are US customary unless the unit says otherwise.
"""

import re
from dataclasses import dataclass, replace
from typing import Literal

from finebatch.core.measures.amounts import spell_out
from finebatch.core.measures.units import PINCH_CUPS

Dimension = Literal["mass", "volume", "count"]
Joint = Literal["plus", "less", "times", "or"]

ML_IN_CUP = 236.588

_UNITS: dict[str, tuple[Dimension, float, str]] = {
    # Mass in grams.
    "g|gr|gms?|grams?|grammes?": ("mass", 1.0, "g"),
    "kg|kgs|kilos?|kilograms?": ("mass", 1000.0, "g"),
    "oz|ozs|ounces?": ("mass", 28.349523, "oz"),
    "lbs?|pounds?": ("mass", 453.59237, "oz"),
    # Volume in US cups.
    "cups?|c": ("volume", 1.0, "cup"),
    "(?-i:T)|tbsps?|tbs|tblsp|tablespoons?|tablespoonfuls?": ("volume", 1 / 16, "tbsp"),
    "(?-i:t)|tsps?|teaspoons?|teaspoonfuls?": ("volume", 1 / 48, "tsp"),
    "dessertspoons?|dsp": ("volume", 10 / ML_IN_CUP, "tbsp"),
    "fl\\.? ?oz|fluid ounces?": ("volume", 1 / 8, "cup"),
    "pints?|pt": ("volume", 2.0, "cup"),
    "ml|mls|millilit(?:er|re)s?": ("volume", 1 / ML_IN_CUP, "ml"),
    "cl|centilit(?:er|re)s?": ("volume", 10 / ML_IN_CUP, "ml"),
    "dl|decilit(?:er|re)s?": ("volume", 100 / ML_IN_CUP, "ml"),
    "l|lit(?:er|re)s?": ("volume", 1000 / ML_IN_CUP, "ml"),
    "pinch(?:es)?": ("volume", PINCH_CUPS, "pinch"),
    "dash(?:es)?": ("volume", 2 * PINCH_CUPS, "pinch"),
    # Things that are counted.
    "sticks?": ("count", 1.0, "stick"),
    "bags?|packets?|packs?|packages?|pkgs?|pkts?|sachets?": ("count", 1.0, "container"),
    "bars?|tins?|cans?|jars?|tubs?|boxes|box": ("count", 1.0, "container"),
}
"""Units by the ways in which they are written: dimension, size in grams or cups, and name. A pinch
is taken as 1/16 and a dash as 1/8 teaspoon (usual measuring-spoon sets)."""

_HEAPS = {
    "well rounded": 1.25,
    "well-rounded": 1.25,
    "heaped": 1.5,
    "heaping": 1.5,
    "rounded": 1.25,
    "generous": 1.1,
    "good": 1.1,
    "scant": 0.9,
    "level": 1.0,
    "flat": 1.0,
    "packed": 1.0,
    "firmly packed": 1.0,
    "lightly packed": 1.0,
    "struck": 1.0,
}
"""How full a measure is, against level (household practice)."""

_WORDS = {
    "a dozen": "12",
    "half a dozen": "6",
    "half an": "1/2",
    "half a": "1/2",
    "a half": "1/2",
    "a quarter": "1/4",
    "an": "1",
    "a": "1",
    "one": "1",
    "two": "2",
    "three": "3",
    "four": "4",
    "five": "5",
    "six": "6",
    "seven": "7",
    "eight": "8",
    "nine": "9",
    "ten": "10",
    "twelve": "12",
    "half": "1/2",
}

_NUMBER = r"\d+\s+\d+\s*/\s*\d+|\d+\s*/\s*\d+|\d+(?:[.,]\d+)?|[.,]\d+"
_HEAP = "|".join(sorted(_HEAPS, key=len, reverse=True))
_UNIT = "|".join(f"(?P<u{n}>{pattern})" for n, pattern in enumerate(_UNITS))
_QUANTITY = re.compile(
    rf"(?<![\w.,])(?<!\d/)(?:(?P<before>{_HEAP})\s+)?"
    r"(?:about |approx\.? |approximately |ca\.? |around |~ ?)?"
    rf"(?P<low>{_NUMBER})(?:\s*(?:[-–—]|to|or)\s*(?P<high>{_NUMBER}))?"
    rf"(?:\s*-?\s*(?:(?P<heap>{_HEAP})\s+)?(?:{_UNIT})\b\.?)?(?!\w)(?!\s*%)",
    re.IGNORECASE,
)
_DOZEN = re.compile(r"(\d+) dozen\s*", re.IGNORECASE)
_BARE_UNIT = re.compile(
    rf"^(?:(?:{_HEAP})\s+)?(?:pinch|dash|cup|tablespoon|tbsp|teaspoon|tsp|stick)\b", re.IGNORECASE
)
_ANY_UNIT = "|".join(_UNITS)
_THOUSANDS = re.compile(
    r"(?<![\d.,])\d{1,3}(?:,\d{3})+"
    r"(?=(?:\s*(?:[-–—]|to|or)\s*[\d,]+)?\s*-?\s*(?:g|gr|gms?|gram(?:me)?s?|ml|mls|millilit(?:er|re)s?)\b)"
    r"|(?<![\d.,])\d{1,3}(?:,\d{3}){2,}(?![\d,])",
    re.IGNORECASE,
)
"""Nobody weighs a thousandth of a gram: ``1,250 g`` is 1250. In kilograms or cups the same mark may
be a decimal one."""
_HALF_OF_ONE = re.compile(rf"(?<![\w/.,-])(?:1|one)\s+half(?=\s+(?:{_ANY_UNIT})\b)", re.IGNORECASE)
_UNIT_AND_PART = re.compile(
    rf"(?<![\w/.,-])(\d{{1,3}})\s+({_ANY_UNIT})\s+(?:and|&)\s+([123]/[2348])\b"
    rf"(?!\s*-?\s*(?:{_ANY_UNIT})\b)",
    re.IGNORECASE,
)
_AND_PART = re.compile(
    rf"(?<![\w/.,-])(\d{{1,3}})\s+(?:and|&)\s+([123]/[2348])(?=\s*-?\s*(?:{_ANY_UNIT})\b)",
    re.IGNORECASE,
)
"""A cup and a half; two and a half cups."""
_EACH_ONE = re.compile(r"\s*(?:each|ea\b|apiece|a piece)", re.IGNORECASE)
_IN_ALL = re.compile(r"\s*(?:in all|in total|total|together|altogether)\b", re.IGNORECASE)
_JOINTS: tuple[tuple[Joint, str], ...] = (
    ("plus", r"\s*\)?,?\s*(?:plus|and|\+|&)\s*"),
    ("less", r"\s*,?\s*(?:less|minus)\s*"),
    ("times", r"\s*(?:x|×|times)?\s*\(?\s*"),
    ("or", r"\s*(?:\(|/|=|,|or|;)\s*(?:or\s+)?"),
)


@dataclass(frozen=True, slots=True)
class Quantity:
    """An amount with its unit: grams, cups, or a count. `low` and `high` differ for a range.

    `unit` is the unit's name as written, in short; `start` and `end` are places in the line.
    `adds` says that it comes on top of the amount before it, which is of another kind:
    ``1/2 cup (1 stick) plus 1 tbsp``. `unsure` says that the line leaves it open whether it is the
    size of one of several packets or of all of them together.
    """

    dimension: Dimension
    low: float
    high: float
    unit: str
    start: int
    end: int
    adds: bool = False
    unsure: bool = False

    @property
    def is_range(self) -> bool:
        """Whether the baker left room for taste."""
        return self.high > self.low * 1.0001


def plain_text(line: str) -> str:
    """A line with fraction signs, dashes and number words written plainly."""
    text = re.sub(r"\s+", " ", spell_out(line)).strip()
    text = _THOUSANDS.sub(lambda found: found[0].replace(",", ""), text)
    text = _BARE_UNIT.sub(r"1 \g<0>", text)
    text = _HALF_OF_ONE.sub("1/2", text)
    text = re.sub(r"(?i)\band a half$", "and 1/2", text)
    for word in sorted(_WORDS, key=len, reverse=True):
        text = re.sub(rf"(?i)(?<![\w-]){word}(?=[\s-])(?!\s+few)", _WORDS[word], text)
    text = _UNIT_AND_PART.sub(r"\1 \3 \2", text)
    text = _AND_PART.sub(r"\1 \2", text)
    return _DOZEN.sub(lambda found: f"{12 * int(found[1])} ", text)


def _number(text: str) -> float:
    total = 0.0
    for part in re.sub(r"\s*/\s*", "/", text).split():
        top, _, bottom = part.replace(",", ".").partition("/")
        if bottom and not float(bottom):
            return 0.0
        total += float(top) / float(bottom) if bottom else float(top)
    return total


def _read(match: re.Match[str]) -> Quantity:
    low = _number(match["low"])
    high = _number(match["high"]) if match["high"] else low
    dimension, size, unit = "count", 1.0, "each"
    for n, found in enumerate(_UNITS.values()):
        if match[f"u{n}"]:
            dimension, size, unit = found
    heap = match["heap"] or match["before"]
    size *= _HEAPS[heap.lower()] if heap else 1.0
    if high < low:  # "1-1/2 cups" means one and a half
        low = high = low + high
    return Quantity(dimension, low * size, high * size, unit, match.start(), match.end())  # type: ignore[arg-type]


def _joint(between: str) -> Joint | None:
    for name, pattern in _JOINTS:
        if re.fullmatch(pattern, between, re.IGNORECASE):
            return name
    return None


def _join(one: Quantity, other: Quantity, joint: Joint) -> Quantity | None:
    """One quantity from two that belong together; none when they are alternatives."""
    low, high = one.low, one.high
    counted = one.dimension == "count" and one.unit == "each"
    if joint in ("plus", "less") and one.dimension == other.dimension != "count":
        sign = 1 if joint == "plus" else -1
        low, high, kind = low + sign * other.low, high + sign * other.high, one
    elif joint == "times" and counted and other.dimension in ("mass", "volume"):
        low, high, kind = low * other.low, high * other.high, other
    else:
        return None
    return replace(kind, low=low, high=high, start=one.start, end=other.end)


def _in_packets(one: Quantity, other: Quantity, after: str) -> Quantity | None:
    """What packets hold whose size is said behind them: ``2 packets (7 g each)``."""
    if one.unit != "container" or other.dimension not in ("mass", "volume"):
        return None
    each = _EACH_ONE.match(after) is not None
    times = one.low if each else 1.0
    return replace(
        other,
        low=times * other.low,
        high=times * other.high,
        start=one.start,
        unsure=one.low > 1 and not each and not _IN_ALL.match(after),
    )


def find_quantities(text: str) -> list[list[Quantity]]:
    """Groups of quantities in a plain line: those of a group are the same amount said twice."""
    groups: list[list[Quantity]] = []
    for match in _QUANTITY.finditer(text):
        found = _read(match)
        if found.low <= 0:
            continue
        if groups:
            before = groups[-1][-1]
            joint = _joint(text[before.end : found.start])
            joined = _join(before, found, joint) if joint else None
            if joint in ("or", "times"):
                joined = joined or _in_packets(before, found, text[found.end :])
            if joined is not None:
                groups[-1][-1] = joined
                continue
            if joint == "plus":
                if len(groups[-1]) > 1 and ")" not in text[before.end : found.start]:
                    groups[-1].pop()  # the same amount in mixed units: "125 g (1 stick + 1 tbsp)"
                    continue
                found = replace(found, adds=True)
            if joint in ("or", "times"):
                groups[-1].append(found)
                continue
        groups.append([found])
    return groups
