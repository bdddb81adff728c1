"""How many pieces a yield says: “2 dozen”, “1,200 pieces”, “8 servings, 24 cookies”."""

import re
from collections.abc import Iterable

from finebatch.core.measures.durations import mixed_number
from finebatch.core.measures.spoken import plain_text

MOST_PIECES = 100_000
_COUNT = re.compile(
    r"(?<![\d.,/])(?P<low>\d{1,3}(?:[,.  ]\d{3})+|\d{1,6}(?:\.\d)?)(?![\d/])"
    r"(?:\s+(?P<part>\d/\d)(?![\d/]))?"
    r"(?:\s*(?:[-–—]|to)\s*(?P<high>\d{1,6}))?"
    r"(?:\s*(?P<dozen>doz(?:en)?\b))?"
    r"(?P<after>[^\d,;]{0,40})",
    re.IGNORECASE,
)
_NO_COUNT = re.compile(
    r"^[\s-]*(?:(?:g|kg|ml|mm|cm|in|inch(?:es)?|oz|lb|min\w*|hours?|days?)\b|[°\"”%])", re.I
)
_SERVED = re.compile(r"\b(?:serv\w*|portions?|people|persons?|guests)\b", re.IGNORECASE)
_TRAYS = re.compile(r"\b(?:trays?|sheets?|batch\w*|loa\w+|logs?|pans?|tins?)\b", re.IGNORECASE)


def pieces_in(said: Iterable[str]) -> int | None:
    """The pieces of a yield, said in one or several ways: what counts pieces comes before a bare
    number, that before servings; trays and grams are none. None where nothing is counted."""
    best: tuple[int, int] | None = None
    for text in said:
        for found in _COUNT.finditer(plain_text(text)):
            count, rank = _count(found), _rank(found["after"])
            if count and rank is not None and (best is None or rank < best[0]):
                best = (rank, count)
    return best[1] if best else None


def _count(found: re.Match[str]) -> int:
    written = found["low"]
    low = float(written if re.fullmatch(r"\d+\.\d", written) else re.sub(r"\D", "", written))
    low += mixed_number(found["part"]) if found["part"] else 0
    high = int(found["high"]) if found["high"] else low
    count = round((low + max(high, low)) / 2 * (12 if found["dozen"] else 1))
    return count if count <= MOST_PIECES else 0


def _rank(after: str) -> int | None:
    if _NO_COUNT.match(after) or _TRAYS.search(after):
        return None
    if _SERVED.search(after):
        return 2
    return 0 if re.search(r"[^\W\d_]{3}", after) else 1
