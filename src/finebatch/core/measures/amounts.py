"""Amounts as people write them: 2, 2.5, 2,5, 1/2, 2 1/4, ½, 2½, and ranges: 80–110, 1 to 2."""

import re
import unicodedata
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction
from functools import lru_cache

from finebatch.core.refusal import refuse

MOST = 10**6
FRACTION_SLASH = "\N{FRACTION SLASH}"
KITCHEN_DENOMINATORS = frozenset({1, 2, 3, 4, 6, 8})
"""Fractions that a cook writes as such; the rest are decimals."""

_FRACTION = re.compile(r"(\d{1,12})\s*/\s*(\d{1,12})")
_NUMBER = re.compile(r"\d{1,30}(?:[.,]\d{1,30})?|[.,]\d{1,30}")
_BETWEEN = re.compile(r"(?<=[\d\s])(?:\s*[-–—]\s*|\s+(?:to|or)\s+)(?=[\d.,])")
_SPACED_DECIMALS = 6
WHOLE_UNITS = frozenset({"g", "ml"})
_THOUSANDS = re.compile(r"(?<![\d.,])\d{1,3}(?:,\d{3})+(?![\d.,])")


@dataclass(frozen=True, slots=True)
class Amount:
    """A number, or a range that leaves room for taste (`low` below `high`)."""

    low: Fraction
    high: Fraction

    @property
    def is_range(self) -> bool:
        """Whether the baker left room for taste."""
        return self.high > self.low

    @property
    def middle(self) -> Fraction:
        """What is taken while nothing was chosen."""
        return (self.low + self.high) / 2


def spell_out(text: str) -> str:
    """Write a fraction sign as digits: ``2½`` becomes ``2 1/2``."""
    spelt = ""
    for sign in text:
        plain = unicodedata.normalize("NFKC", sign)
        spelt += f" {plain}" if len(plain) > 1 and FRACTION_SLASH in plain else sign
    return spelt.replace(FRACTION_SLASH, "/").strip()


def _exact(written: str, whole_text: str, field: str) -> Fraction:
    """One number as written, exactly."""
    wrong = refuse(field, f"“{whole_text.strip()}” is not an amount. Write 250, 2.5 or 2 1/4.")
    value = Fraction(0)
    parts = re.sub(r"\s*/\s*", "/", written).split()
    for place, part in enumerate(parts):
        fraction = _FRACTION.fullmatch(part)
        if fraction and int(fraction[2]) and place == len(parts) - 1 and len(parts) <= 2:
            value += Fraction(int(fraction[1]), int(fraction[2]))
        elif _NUMBER.fullmatch(part) and part.isascii() and place == 0:
            value += Fraction(Decimal(part.replace(",", ".")))
        else:
            raise wrong
    if len(parts) == 2 and not _FRACTION.fullmatch(parts[1]):
        raise wrong
    if value > MOST:
        raise refuse(field, "That is more than any kitchen holds. Check the amount.")
    if value <= 0:
        raise refuse(field, "Give an amount above zero, or take the line out.")
    return value


@lru_cache(maxsize=4096)
def parse_amount(text: str, *, field: str = "amount", unit: str = "") -> Amount:
    """What a baker wrote, each number above zero and at most a million.

    ``1-1/2`` means one and a half, as it does on cards, and ``1,250`` of a `unit` of which nobody
    measures thousandths 1250. Raises `Refusal` at `field` when it is
    empty, not a number, or out of range.
    """
    written = spell_out(text)
    if unit in WHOLE_UNITS:
        written = _THOUSANDS.sub(lambda found: found[0].replace(",", ""), written)
    if not written:
        raise refuse(field, "Give an amount.")
    found = [_exact(part, text, field) for part in _BETWEEN.split(written)]
    if len(found) == 1:
        return Amount(found[0], found[0])
    if len(found) > 2:
        raise refuse(field, f"“{text.strip()}” is not an amount. Write 250, 2.5 or 80–110.")
    low, high = found
    if high < low:
        if high >= 1:
            raise refuse(field, f"“{text.strip()}” runs backwards. Write the smaller one first.")
        low = high = low + high
    return Amount(low, high)


def write_amount(value: Fraction, *, fractions: bool = True) -> str:
    """An amount as text that reads back the same: whole, mixed, or up to six decimals.

    Without `fractions` it is always a decimal, as a scale shows it.
    """
    exact = value.limit_denominator(10**9)
    if exact.denominator in KITCHEN_DENOMINATORS and (fractions or exact.denominator == 1):
        whole, part = divmod(exact, 1)
        return " ".join(filter(None, [str(whole) if whole else "", str(part) if part else ""]))
    text = f"{float(exact):.{_SPACED_DECIMALS}f}".rstrip("0").rstrip(".")
    return text if text.strip("0.") else f"{float(exact):.12f}".rstrip("0")


def scale_amount(text: str, factor: Fraction, *, fractions: bool = True, unit: str = "") -> str:
    """The same amount or range times `factor`; text that is no amount stays as it is."""
    try:
        amount = parse_amount(text, unit=unit)
    except ValueError:
        return text
    low, high = (write_amount(v * factor, fractions=fractions) for v in (amount.low, amount.high))
    return f"{low}–{high}" if amount.is_range else low
