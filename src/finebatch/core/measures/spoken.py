"""Numbers as people say them, written as digits: ``one and a half``, ``three-fourths of a``,
``a cup and a half``, ``a couple of``.

What can be meant in two ways keeps both readings: it is marked (`EITHER`), and asked about.
"""

import re
from collections.abc import Callable
from functools import lru_cache

from finebatch.core.measures.amounts import spell_out
from finebatch.core.measures.written_units import ANY_HEAP, ANY_UNIT

EITHER = "\N{DOUBLE VERTICAL LINE}"
"""Stands behind a number that can be meant in two ways: ``1.5 a cup`` is 1½ cups or half of one."""

_ONES = [
    *("zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"),
    *("eleven", "twelve", "thirteen", "fourteen", "fifteen", "sixteen", "seventeen", "eighteen"),
    "nineteen",
]
_TENS = ["twenty", "thirty", "forty", "fifty", "sixty", "seventy", "eighty", "ninety"]
_CARDINALS = {word: n for n, word in enumerate(_ONES) if n} | {
    word: 10 * (n + 2) for n, word in enumerate(_TENS)
}
_PARTS = {
    r"hal(?:f|ves)": 2,
    "thirds?": 3,
    "quarters?|fourths?": 4,
    "fifths?": 5,
    "sixths?": 6,
    "eighths?": 8,
}

_SMALL = "|".join(_CARDINALS)
_PART = "|".join(_PARTS)
_UNIT = rf"(?:(?:{ANY_HEAP})\s+)?(?:{ANY_UNIT})\b"
_START = r"(?<![\w/.,-])"

_THOUSANDS = re.compile(
    r"(?<![\d.,])\d{1,3}(?:,\d{3})+"
    r"(?=(?:\s*(?:[-–—]|to|or)\s*[\d,]+)?\s*-?\s*(?:g|gr|gms?|gram(?:me)?s?|ml|mls|millilit(?:er|re)s?)\b)"
    r"|(?<![\d.,])\d{1,3}(?:,\d{3}){2,}(?![\d,])",
    re.IGNORECASE,
)
"""Nobody weighs a thousandth of a gram: ``1,250 g`` is 1250. In kilograms or cups the same mark may
be a decimal one."""
_NAMES = re.compile(r"\b(?:half[ -]and[ -]half|(?:five|seven)[ -]spices?|one[ -]bowl)\b", re.I)
"""Names that have a number in them."""
_VAGUE = (
    "few|little|bit|touch|splash|drizzle|handful|knob|sprinkl(?:e|ing)|dusting|grating|grind|squeeze|"
    "drop|lot|good bit|generous handful|small handful|large handful"
)
"""What is no amount, though it is said with “a”."""

_BELOW_HUNDRED = rf"(?:{_SMALL})(?:[ -](?:{_SMALL}))?"
_HUNDREDS = re.compile(
    rf"{_START}(?P<n>a|{_SMALL}|\d)[ -]hundred"
    rf"(?:(?:[ -]and)?[ -](?P<rest>{_BELOW_HUNDRED}))?(?![\w])",
    re.IGNORECASE,
)
_CARDINAL = re.compile(
    rf"{_START}(?P<ten>{'|'.join(_TENS)})[ -]?(?P<one>{'|'.join(_ONES[1:10])})?(?=[\s-])"
    rf"|{_START}(?P<small>{'|'.join(_ONES[1:])})(?=\s|-(?:{ANY_UNIT}|{_PART})\b)"
    r"|(?<=\bor )(?P<last>two|three)$",
    re.IGNORECASE,
)
_DOZENS: tuple[tuple[str, str], ...] = (
    (rf"{_START}(?:half a|a half|half) dozen(?: of)?(?=\s)", "6"),
    (rf"{_START}a dozen(?: of)?(?=\s)", "12"),
    (rf"{_START}a couple(?: of)?(?=\s)", "2"),
)
_MANY_DOZEN = re.compile(r"(?<![\d/.,])(\d{1,4}) dozen\s*", re.IGNORECASE)
_SOME_PARTS = re.compile(
    rf"{_START}(?P<top>\d{{1,2}}|an?)[ -](?P<part>{_PART})\b"
    r"(?:(?:\s+of)?\s+(?:an?|the)\b|\s+of\b)?",
    re.IGNORECASE,
)
"""``3 quarters of a``, ``a third of a``, ``two thirds``."""
_HALF = re.compile(
    rf"{_START}(?P<part>half)(?:(?:\s+of)?\s+an?\b|(?=\s)(?!\s+(?:way|hour)))", re.IGNORECASE
)
_BARE_PART = re.compile(
    rf"{_START}(?P<part>{_PART})(?:(?:\s+of)?\s+an?(?=\s)|(?=\s+{_UNIT}))", re.IGNORECASE
)
"""A part without a number is an amount only where a unit follows: who quarters dates has a knife to
hand."""
_AND_PART = re.compile(rf"{_START}(\d{{1,3}})\s*(?:and|&|\+)\s*(\d/\d)(?![\w/])", re.IGNORECASE)
_UNIT_AND_PART = re.compile(
    rf"{_START}(\d{{1,3}}|an?)\s+({_UNIT}\.?)\s+(?:and|&)\s+(\d/\d)(?![\w/])(?!\s*-?\s*{_UNIT})",
    re.IGNORECASE,
)
"""A cup and a half, two cups and a quarter; not “a cup and a quarter teaspoon”."""
_PART_OF_A = re.compile(
    rf"(?<![\w.,-])((?:\d{{1,3}} )?\d/\d{{1,2}})"
    rf"(?:(?:\s+of)?\s+(?:an?|the)\s+(?={_UNIT}|egg)|\s+of\s+an?\s+(?=\w))",
    re.IGNORECASE,
)
_DECIMAL_OF_A = re.compile(
    rf"(?<![\w/.,-])([1-9]\d?[.,](?:5|25|75))\s+(?:of\s+)?an?\s+(?={_UNIT})", re.IGNORECASE
)
_OR_TWO = re.compile(rf"{_START}(?:an?|1)\s+((?:{_UNIT}|egg))\s+or\s+2(?![\w/])", re.IGNORECASE)
_ARTICLE = re.compile(rf"{_START}an?(?=[\s-])(?!\s+(?:{_VAGUE})\b)", re.IGNORECASE)
_BARE_UNIT = re.compile(
    rf"^(?:(?:{ANY_HEAP})\s+)?(?:pinch|dash|cup|tablespoon|tbsp|teaspoon|tsp|stick)\b",
    re.IGNORECASE,
)


def _below(part: str) -> int:
    """What a part is a part of: four for “quarters”."""
    return next(n for pattern, n in _PARTS.items() if re.fullmatch(pattern, part, re.IGNORECASE))


def _small(words: str) -> int:
    return sum(_CARDINALS[word] for word in re.split(r"[ -]", words.casefold()))


def _hundreds(found: re.Match[str]) -> str:
    many = found["n"].casefold()
    times = 1 if many == "a" else int(many) if many.isdigit() else _CARDINALS[many]
    return str(100 * times + (_small(found["rest"]) if found["rest"] else 0))


def _cardinal(found: re.Match[str]) -> str:
    words = [word for word in found.groupdict().values() if word]
    return str(sum(_CARDINALS[word.casefold()] for word in words))


def _some_parts(found: re.Match[str]) -> str:
    top = found["top"]
    return f"{top if top.isdigit() else 1}/{_below(found['part'])}"


def _one_part(found: re.Match[str]) -> str:
    return f"1/{_below(found['part'])}"


_STEPS: tuple[tuple[re.Pattern[str], str | Callable[[re.Match[str]], str]], ...] = (
    (_THOUSANDS, lambda found: found[0].replace(",", "")),
    (_BARE_UNIT, r"1 \g<0>"),
    *((re.compile(pattern, re.IGNORECASE), number) for pattern, number in _DOZENS),
    (_HUNDREDS, _hundreds),
    (_CARDINAL, _cardinal),
    (_SOME_PARTS, _some_parts),
    (_HALF, _one_part),
    (_BARE_PART, _one_part),
    (re.compile(r"\ban? half$", re.IGNORECASE), "1/2"),
    (_AND_PART, r"\1 \2"),
    (_UNIT_AND_PART, r"\1 \3 \2"),
    (_PART_OF_A, r"\1 "),
    (_DECIMAL_OF_A, rf"\1{EITHER} "),
    (_OR_TWO, r"1-2 \1"),
    (_ARTICLE, "1"),
    (_MANY_DOZEN, lambda found: f"{12 * int(found[1])} "),
)
"""Each in the light of those before it: words are numbers before parts are counted."""


@lru_cache(maxsize=2048)
def plain_text(line: str) -> str:
    """A line with fraction signs, dashes and number words written plainly."""
    text = re.sub(r"\s+", " ", spell_out(line.replace(EITHER, " "))).strip()
    names = _NAMES.findall(text)
    text = _NAMES.sub("\0", text.replace("\0", " "))
    for pattern, plain in _STEPS:
        text = pattern.sub(plain, text)
    for name in names:
        text = text.replace("\0", name, 1)
    return text
