"""Amounts as people write them: 2, 2.5, 2,5, 1/2, 2 1/4, ½, 2½."""

import math
import re
import unicodedata

from finebatch.core.refusal import refuse

MOST = 1e6
FRACTION_SLASH = "\N{FRACTION SLASH}"

_FRACTION = re.compile(r"(\d+)\s*/\s*(\d+)")
_NUMBER = re.compile(r"\d+(?:[.,]\d+)?|[.,]\d+")


def spell_out(text: str) -> str:
    """Write a fraction sign as digits: ``2½`` becomes ``2 1/2``."""
    spelt = ""
    for sign in text:
        plain = unicodedata.normalize("NFKC", sign)
        spelt += f" {plain}" if len(plain) > 1 and FRACTION_SLASH in plain else sign
    return spelt.replace(FRACTION_SLASH, "/").strip()


def parse_amount(text: str, *, field: str = "amount") -> float:
    """The number that a baker wrote, above zero and at most a million.

    Raises `Refusal` at `field` when it is empty, not a number, or out of range.
    """
    written = spell_out(text)
    if not written:
        raise refuse(field, "Give an amount.")
    value = 0.0
    parts = re.sub(r"\s*/\s*", "/", written).split()
    for place, part in enumerate(parts):
        fraction = _FRACTION.fullmatch(part)
        if fraction and int(fraction[2]) and place == len(parts) - 1 and len(parts) <= 2:
            value += int(fraction[1]) / int(fraction[2])
        elif _NUMBER.fullmatch(part) and part.isascii() and place == 0:
            value += float(part.replace(",", "."))
        else:
            raise refuse(field, f"“{text.strip()}” is not an amount. Write 250, 2.5 or 2 1/4.")
    if len(parts) == 2 and not _FRACTION.fullmatch(parts[1]):
        raise refuse(field, f"“{text.strip()}” is not an amount. Write 250, 2.5 or 2 1/4.")
    if not math.isfinite(value) or value > MOST:
        raise refuse(field, "That is more than any kitchen holds. Check the amount.")
    if value <= 0:
        raise refuse(field, "Give an amount above zero, or take the line out.")
    return value
