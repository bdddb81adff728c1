"""Quantities as they stand in a written line: numbers, ranges, units, and how they join.

``2 1/4 cups``, ``80–110 g``, ``1 tbsp plus 1 tsp``, ``1 cup (160 g)``, ``250g/9oz``,
``a 300 g bag``, ``2 x 100 g``. Volumes are US customary unless the unit says otherwise.
"""

import re
from dataclasses import dataclass, replace
from typing import Literal

from finebatch.core.measures.spoken import EITHER
from finebatch.core.measures.written_units import ANY_HEAP, HEAPS, UNITS, Dimension

Joint = Literal["plus", "less", "times", "or"]

_NUMBER = r"\d+\s+\d+\s*/\s*\d+|\d+\s*/\s*\d+|\d+(?:[.,]\d+)?|[.,]\d+"
_UNIT = "|".join(f"(?P<u{n}>{pattern})" for n, pattern in enumerate(UNITS))
_QUANTITY = re.compile(
    rf"(?<![\w.,])(?<!\d/)(?:(?P<before>{ANY_HEAP})\s+)?"
    r"(?:about |approx\.? |approximately |ca\.? |around |~ ?)?"
    rf"(?P<low>{_NUMBER})(?P<either>{EITHER})?(?:\s*(?:[-–—]|to|or)\s*(?P<high>{_NUMBER}))?"
    rf"(?:\s*-?\s*(?:(?P<heap>{ANY_HEAP})\s+)?(?:{_UNIT})\b\.?)?(?!\w)(?!\s*%)",
    re.IGNORECASE,
)
_POINT_IN_THOUSANDS = re.compile(r"\d{1,3}\.\d{3}")
"""``1.250 g`` is a thousand and more in half of Europe, and a little over one elsewhere."""
_GLUED = re.compile(r"([1-9])([1-3])/([2348])")
"""A mixed number whose space was lost, or a fraction above one."""
_EACH_ONE = re.compile(r"\s*(?:each|ea\b|apiece|a piece)", re.IGNORECASE)
_IN_ALL = re.compile(r"\s*(?:in all|in total|total|together|altogether)\b", re.IGNORECASE)
_JOINTS: tuple[tuple[Joint, str], ...] = (
    ("plus", r"\s*\)?,?\s*(?:plus|and|\+|&)\s*"),
    ("less", r"\s*,?\s*(?:less|minus)\s*"),
    ("times", r"\s*(?:x|×|times)?\s*\(?\s*(?:(?:of|each|each of)\s+)?"),
    ("or", r"\s*(?:\(|/|=|,|or|;)\s*(?:or\s+)?"),
)


@dataclass(frozen=True, slots=True)
class Quantity:
    """An amount with its unit: grams, cups, or a count. `low` and `high` differ for a range.

    `unit` is the unit's name as written, in short; `start` and `end` are places in the line.
    `adds` says that it comes on top of the amount before it, of another kind,
    ``1/2 cup (1 stick) plus 1 tbsp``. `unsure` says that the line leaves it open whether it is the
    size of one of several packets or of all of them together; `either` are both readings of a
    number that can be meant in two ways, the one that is taken first (``11/4``); `packets` how many
    packets it comes in.
    """

    dimension: Dimension
    low: float
    high: float
    unit: str
    start: int
    end: int
    adds: bool = False
    unsure: bool = False
    either: tuple[float, float] | None = None
    packets: float = 1.0

    @property
    def is_range(self) -> bool:
        """Whether the baker left room for taste."""
        return self.high > self.low * 1.0001


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
    dimension: Dimension
    dimension, size, unit = "count", 1.0, "each"
    for n, found in enumerate(UNITS.values()):
        if match[f"u{n}"]:
            dimension, size, unit = found
    heap = match["heap"] or match["before"]
    size *= HEAPS[heap.lower()] if heap else 1.0
    if high < low:  # "1-1/2 cups" means one and a half
        low = high = low + high
    either = None
    if high == low and (glued := _GLUED.fullmatch(match["low"])):
        mixed = int(glued[1]) + int(glued[2]) / int(glued[3])
        either, low, high = (mixed, low), mixed, mixed
    elif match["either"]:
        either = (low, low % 1)
    elif _POINT_IN_THOUSANDS.fullmatch(match["low"]) and unit in ("g", "ml") and high == low:
        either, low = (1000 * low, low), 1000 * low
        high = low
    return Quantity(
        dimension,
        low * size,
        high * size,
        unit,
        match.start(),
        match.end(),
        either=either,
    )


def _joint(between: str) -> Joint | None:
    for name, pattern in _JOINTS:
        if re.fullmatch(pattern, between, re.IGNORECASE):
            return name
    return None


_GOES_ON = frozenset({("lb", "oz"), ("cup", "tbsp"), ("cup", "tsp"), ("tbsp", "tsp")})
"""A larger unit with the smaller one in which the rest of an amount is told."""


def _goes_on(one: Quantity, other: Quantity, between: str) -> bool:
    """Whether the second is the rest of the first: ``1 lb 4 oz``, ``1 cup 2 tbsp``."""
    return (one.unit, other.unit) in _GOES_ON and not between.strip()


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


def _in_packets(one: Quantity, other: Quantity, between: str, after: str) -> Quantity | None:
    """What packets hold whose size is said behind them: ``2 packets (7 g each)``."""
    if one.unit != "container" or other.dimension not in ("mass", "volume"):
        return None
    each = _EACH_ONE.match(after) is not None or "each" in between
    times = one.low if each else 1.0
    return replace(
        other,
        low=times * other.low,
        high=times * other.high,
        start=one.start,
        unsure=one.low > 1 and not each and not _IN_ALL.match(after),
        packets=one.low,
    )


def has_quantity(text: str) -> bool:
    """Whether there is any quantity in a plain line."""
    return any(_read(match).low > 0 for match in _QUANTITY.finditer(text))


def starts_with_quantity(text: str) -> bool:
    """Whether a plain line begins with one."""
    found = _QUANTITY.match(text)
    return found is not None and _read(found).low > 0


def find_quantities(text: str) -> list[list[Quantity]]:
    """Groups of quantities in a plain line: those of a group are the same amount said twice."""
    groups: list[list[Quantity]] = []
    for match in _QUANTITY.finditer(text):
        found = _read(match)
        if found.low <= 0:
            continue
        if groups:
            before = groups[-1][-1]
            between = text[before.end : found.start]
            joint = "plus" if _goes_on(before, found, between) else _joint(between)
            joined = _join(before, found, joint) if joint else None
            if joint in ("or", "times"):
                joined = joined or _in_packets(
                    before, found, text[before.end : found.start], text[found.end :]
                )
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
