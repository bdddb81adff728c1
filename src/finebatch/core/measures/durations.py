"""Times as cards write and say them: ``10–12 minutes``, ``half an hour``, ``2 h or overnight``; and
the limits that they set: ``within 45 minutes``."""

import re
from dataclasses import dataclass

from finebatch.core.measures.spoken import plain_text

OVERNIGHT_MIN = (480.0, 720.0)
"""From late evening to early morning: eight to twelve hours (household practice)."""

_NUMBER = r"\d{1,3}(?:[.,]\d{1,2})?(?:\s+\d/\d)?|\d/\d"
_UNITS = {
    r"seconds?|secs?": 1 / 60,
    r"minutes?|mins?|min|'": 1.0,
    r"hours?|hrs?|h": 60.0,
    r"days?": 1440.0,
}
_UNIT = "|".join(f"(?P<u{n}>{pattern})" for n, pattern in enumerate(_UNITS))
_SPAN = re.compile(
    rf"(?<![\w.,/])(?:(?P<low>{_NUMBER})(?:\s*(?:[-–—]|to|or)\s*(?P<high>{_NUMBER}))?\s*(?:more\s+)?"
    rf"(?:{_UNIT})(?![\w])\.?(?:\s+and\s+(?P<part>\d/\d)(?![\w/]))?"
    r"|(?P<night>overnight|over night))",
    re.IGNORECASE,
)
_OR = re.compile(r"\s*[,(]?\s*(?:[-–—]|to|or|up to|and up to)\s*(?:up to\s*)?", re.IGNORECASE)
_AND = re.compile(r"\s*(?:and|,)?\s*", re.IGNORECASE)

_ABOUT = r"(?:for )?(?:(?:only|about|around|at most|up to|no (?:longer|more) than) ){0,2}"
_LIES = r"(?:stand|wait|sit|lie|keep|leave|stay|be left|hold)"
_LIMIT = re.compile(
    rf"(?:\bwithin (?:about |around |at most )?"
    rf"|\b(?:not|never|cannot|(?:do|must|should|can)n.t) (?!.*\b(?:sheet|tray|rack|tin)s?\b)"
    rf"(?:\w+ ){{0,5}}?{_LIES} (?:\w+ ){{0,3}}?(?:(?:longer|more) than|over|beyond) (?:about )?"
    rf"|\b(?:batter|dough|mixture|mix) (?:only )?"
    rf"(?:keeps|holds|lasts|(?:can|may|will) (?:only )?{_LIES}) {_ABOUT})$",
    re.IGNORECASE,
)
"""What stands before a time that is not to pass, or that something does no longer than."""
_LOOKED_AT = 120
_ON_SHEET = re.compile(
    r"^[^.;]{0,30}\b(?:on|in) (?:the|its|their|a) (?:hot )?(?:sheet|tray|tin|pan|rack)", re.I
)
_THE_HOUR = re.compile(r"\bwithin the hour\b", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Duration:
    """A time in minutes, from `low` to `high`, and its place in the plain text."""

    low: float
    high: float
    start: int
    end: int


def mixed_number(text: str) -> float:
    """A plain number as written: ``1 1/2``, ``0.5``, ``2,5``."""
    total = 0.0
    for part in text.replace(",", ".").split():
        top, _, bottom = part.partition("/")
        total += float(top) / (float(bottom) or 1.0) if bottom else float(top)
    return total


def _read(found: re.Match[str]) -> Duration:
    if found["night"]:
        return Duration(*OVERNIGHT_MIN, found.start(), found.end())
    size = next(size for n, size in enumerate(_UNITS.values()) if found[f"u{n}"])
    part = mixed_number(found["part"]) if found["part"] else 0.0
    low = mixed_number(found["low"]) + part
    high = mixed_number(found["high"]) + part if found["high"] else low
    return Duration(low * size, max(low, high) * size, found.start(), found.end())


def _is_limit(text: str, start: int, end: int) -> bool:
    """Whether the words around a time make it one that is not to pass. How long pieces stay on
    their sheet at most is how long they rest there."""
    if _ON_SHEET.search(text[end : end + _LOOKED_AT]):
        return False
    return _LIMIT.search(text[max(start - _LOOKED_AT, 0) : start]) is not None


def find_durations(text: str) -> list[Duration]:
    """The times that a text gives something, in order; ``1 hour 30 minutes`` and ``2 hours or
    overnight`` are one. What something has to be done within is none of them."""
    plain = _plain(text)
    return [one for one in _find(plain) if not _is_limit(plain, one.start, one.end)]


def find_limits(text: str) -> list[Duration]:
    """The times within which something has to be done, or that it lies at most."""
    plain = _plain(text)
    return [one for one in _find(plain) if _is_limit(plain, one.start, one.end)]


def _plain(text: str) -> str:
    return _THE_HOUR.sub("within 1 hour", plain_text(text))


def _find(plain: str) -> list[Duration]:
    found: list[Duration] = []
    for match in _SPAN.finditer(plain):
        one = _read(match)
        before = found[-1] if found else None
        if before is not None and one.high > 0:
            between = plain[before.end : one.start]
            if _OR.fullmatch(between):
                found[-1] = Duration(before.low, max(one.high, before.high), before.start, one.end)
                continue
            if _AND.fullmatch(between) and one.high < 60 <= before.low:
                low, high = before.low + one.low, before.high + one.high
                found[-1] = Duration(low, high, before.start, one.end)
                continue
        if one.high > 0:
            found.append(one)
    return found


_MINUTES = re.compile(
    r"(\d{1,3})(?:\s*(?:[-–—]|to|or)\s*(\d{1,3}))?\s*(?:min\b|mins\b|minutes?\b|')", re.IGNORECASE
)


def find_minutes(text: str) -> list[tuple[float, float]]:
    """Times in minutes as written: ``10–12 minutes`` is (10, 12); what is a limit is none."""
    return [
        (float(m[1]), float(m[2] or m[1]))
        for m in _MINUTES.finditer(text)
        if float(m[1]) > 0 and not _is_limit(text, m.start(), m.end())
    ]
