"""Slips of the pen: a line written twice, a unit or a decimal point that makes no dough at all.

A dough that lies far outside its family is only questioned where one single change of one line
makes an ordinary dough of it.
"""

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import get_args

from finebatch.core.formula.balance import Band, figures_g
from finebatch.core.formula.checks.check import Check, Mend, in_words
from finebatch.core.formula.dough import Card, WeighedDough
from finebatch.core.formula.method import short_name
from finebatch.core.larder.ingredient import Larder
from finebatch.core.measures.amounts import scale_amount
from finebatch.core.measures.figures import grams
from finebatch.core.measures.units import CountUnit, Unit

FAR_ABOVE, FAR_BELOW = 1.5, 0.5
"""So many times the most, or the least, of its family: no dough that anyone means."""
LEAST_STRUCTURE = 0.18
"""With less of flour and its like than this share a dropped dough is a lace or a fudge: more of it
is no slip of a decimal point."""
LEAST_FLOUR = 0.3
"""With less flour and grain than this of what holds it together, nothing is known of its kind."""
_OTHER_UNITS: tuple[tuple[Unit, Unit, float], ...] = (
    ("oz", "g", 1 / 28.35),
    ("g", "oz", 28.35),
    ("kg", "g", 1 / 1000),
    ("g", "kg", 1000.0),
    ("lb", "oz", 1 / 16),
    ("oz", "lb", 16.0),
    ("cup", "tbsp", 1 / 16),
    ("tbsp", "cup", 16.0),
    ("cup", "tsp", 1 / 48),
    ("tsp", "cup", 48.0),
    ("tsp", "tbsp", 3.0),
    ("tbsp", "tsp", 1 / 3),
    ("dl", "ml", 1 / 100),
    ("ml", "dl", 100.0),
)
_POUNDS = re.compile(r"\b(?:lbs?|pounds?)\b", re.IGNORECASE)
_TENFOLD = (Fraction(1, 10), Fraction(10))
MAIN_ROLES = frozenset(
    {"flour", "starch", "grain", "nutmeal", "fat", "oil", "sugar", "icing_sugar", "syrup", "egg"}
    | {"liquid", "nut_butter"}
)


def _same(one: str, other: str) -> bool:
    def bare(text: str) -> str:
        return " ".join(re.findall(r"\w+", text.casefold()))

    return bare(one) == bare(other)


def doubled(card: Card, weighed: WeighedDough, larder: Larder) -> list[Check]:
    """Lines that stand on the card twice, with the same words or the same amount."""
    found: list[Check] = []
    for n, line in enumerate(card.lines):
        ingredient = larder.known(line.ingredient)
        if ingredient is None or weighed.lines[n].grams is None:
            continue
        for m, other in enumerate(card.lines[:n]):
            alike = (other.ingredient, other.amount, other.unit) == (
                *(line.ingredient, line.amount, line.unit),
            )
            if not alike or not (not line.text or _same(line.text, other.text)):
                continue
            found.append(
                Check(
                    f"double:{line.ingredient}:{line.amount}:{line.unit}",
                    f"lines.{n}",
                    f"The {short_name(ingredient)} stands there twice",
                    f"Lines {m + 1} and {n + 1} say the same: {line.text or in_words(line)}.",
                    "Written twice by mistake; or the second is for something else.",
                    Mend("Take the second out", n, remove=True),
                )
            )
            break
    return found


@dataclass(frozen=True, slots=True)
class _Slip:
    """One change of one line: what would stand there instead, by which factor."""

    line: int
    amount: str
    unit: Unit
    factor: float
    tenfold: bool = False


Grams = Mapping[str, float]
"""A figure's grams, and those of flour and its like (``structure``) and of all (``total``)."""


def slipped(
    card: Card, weighed: WeighedDough, larder: Larder, bands: Sequence[Band]
) -> list[Check]:
    """An amount that is far out of proportion to all others, and the unit or the decimal point
    that was likely meant."""
    family = [band for band in bands if band.family == card.family]
    whole = figures_g(_formula(card, weighed, larder), larder)
    flourless = whole["base"] < LEAST_FLOUR * whole["structure"]
    if flourless or not _far_out(whole, family):
        return []
    odd = card.family == "drop" and whole["structure"] < LEAST_STRUCTURE * whole["total"]
    found: list[tuple[float, _Slip]] = []
    for n in range(len(card.lines)):
        own = None
        for slip in _slips(card, n, larder) if weighed.lines[n].grams else ():
            if odd and slip.tenfold and slip.factor > 1:
                continue
            own = own or figures_g(
                {card.lines[n].ingredient or "": weighed.lines[n].grams or 0}, larder
            )
            after = {name: g + (slip.factor - 1) * own[name] for name, g in whole.items()}
            if not _far_out(after, family):
                # A unit is misread more often than a decimal point is lost.
                found.append((_strange(after, family) + 0.3 * slip.tenfold, slip))
    if not found:
        return []
    return [_check(card, weighed, larder, min(found, key=lambda one: one[0])[1])]


def _check(card: Card, weighed: WeighedDough, larder: Larder, slip: _Slip) -> Check:
    line, now = card.lines[slip.line], weighed.lines[slip.line].grams or 0.0
    name, then = short_name(larder[line.ingredient or ""]), slip.factor * now
    after = in_words(replace(line, amount=slip.amount, unit=slip.unit))
    much = now > then
    return Check(
        f"{'dose' if slip.tenfold else 'units'}:{line.ingredient}:{line.amount}:{line.unit}",
        f"lines.{slip.line}",
        f"So {'much' if much else 'little'} {name}?",
        f"{in_words(line)} is {grams(now)}: no dough of this kind has that much beside the rest."
        if much
        else f"{in_words(line)} is only {grams(now)} beside the rest.",
        f"Another {'decimal point' if slip.tenfold else 'unit'}: {after}, {grams(then)}.",
        Mend(
            f"Make it {after}",
            slip.line,
            slip.amount,
            slip.unit,
            before=f"{in_words(line)}, {grams(now)}",
            after=f"{after}, {grams(then)}",
            tenfold=slip.tenfold,
        ),
    )


def _slips(card: Card, n: int, larder: Larder) -> Iterator[_Slip]:
    line = card.lines[n]
    ingredient = larder.known(line.ingredient)
    if ingredient is None or ingredient.role not in MAIN_ROLES:
        return
    others = {one.unit for m, one in enumerate(card.lines) if m != n}
    for unit, other, factor in _OTHER_UNITS:
        # The unit that was meant is one that the card measures by.
        if unit == line.unit and other in ingredient.units and other in others:
            yield _Slip(n, line.amount, other, factor)
    if line.unit == "oz" and _POUNDS.search(line.text):
        # A pound is kept as sixteen ounces.
        yield _Slip(n, scale_amount(line.amount, Fraction(1, 16), unit="oz"), "oz", 1 / 16)
    counted = line.unit in get_args(CountUnit)
    for tenfold in _TENFOLD:
        amount = scale_amount(line.amount, tenfold, unit=line.unit)
        if counted and (tenfold > 1 or not amount.isdecimal()):
            continue  # nobody writes a fifth of an egg
        yield _Slip(n, amount, line.unit, float(tenfold), tenfold=True)


def _formula(card: Card, weighed: WeighedDough, larder: Larder) -> dict[str, float]:
    return {key: g for key, g in weighed.known_g().items() if key in larder}


def _percent(grams: Grams, figure: str) -> float | None:
    return 100 * grams[figure] / grams["structure"] if grams["structure"] > 0 else None


def _far_out(grams: Grams, family: Sequence[Band]) -> bool:
    """Whether sugar, fat, egg or water stands far outside all doughs of the family."""
    for band in family:
        percent = _percent(grams, band.figure)
        if band.figure not in ("sugar", "fat", "egg", "water") or percent is None:
            continue
        if percent > FAR_ABOVE * band.most or percent < FAR_BELOW * band.least:
            return True
    return False


def _strange(grams: Grams, family: Sequence[Band]) -> float:
    """How far the dough lies from what is usual, all figures together; 0 where all are usual."""
    strange = 0.0
    for band in family:
        percent = _percent(grams, band.figure)
        if percent is not None:
            strange += max(band.low - percent, percent - band.high, 0.0) / (band.high - band.low)
    return strange
