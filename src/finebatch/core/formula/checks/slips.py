"""Slips of the pen: a line written twice, a unit or a decimal point that makes no dough at all.

A dough that lies far outside its family is only questioned where one single change of one line
makes an ordinary dough of it.
"""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from finebatch.core.formula.balance import Band, standings_of
from finebatch.core.formula.checks.check import Check, Mend, in_words
from finebatch.core.formula.dough import Card, WeighedDough
from finebatch.core.formula.method import short_name
from finebatch.core.larder.ingredient import Larder
from finebatch.core.measures.amounts import scale_amount
from finebatch.core.measures.units import Unit

FAR_ABOVE, FAR_BELOW = 1.5, 0.5
"""So many times the most, or the least, of its family: no dough that anyone means."""
LEAST_STRUCTURE = 0.18
"""With less of flour and its like than this share a dropped dough is a lace or a fudge: more of it
is no slip of a decimal point."""
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
    """One change of one line: what would stand there, and how far from usual the dough is then."""

    line: int
    amount: str
    unit: Unit
    factor: float
    strange: float
    tenfold: bool


def slipped(
    card: Card, weighed: WeighedDough, larder: Larder, bands: Sequence[Band]
) -> list[Check]:
    """An amount that is far out of proportion to all others, and the unit or the decimal point
    that was likely meant."""
    grams = [w.grams or 0.0 for w in weighed.lines]
    if not _far_out(card, grams, larder, bands):
        return []
    odd = card.family == "drop" and _structure(card, grams, larder) < LEAST_STRUCTURE
    slips = [
        slip
        for slip in _slips(card, grams, larder, bands)
        if not (odd and slip.tenfold and slip.factor > 1)
        and not _far_out(card, _changed(grams, slip), larder, bands)
    ]
    if not slips:
        return []
    # A unit is misread more often than a decimal point is lost.
    best = min(slips, key=lambda slip: slip.strange + 0.3 * slip.tenfold)
    line, ingredient = card.lines[best.line], larder[card.lines[best.line].ingredient or ""]
    after = replace(line, amount=best.amount, unit=best.unit)
    now, then = grams[best.line], best.factor * grams[best.line]
    what = "decimal point" if best.tenfold else "unit"
    return [
        Check(
            f"{'dose' if best.tenfold else 'units'}:{line.ingredient}:{line.amount}:{line.unit}",
            f"lines.{best.line}",
            f"So much {short_name(ingredient)}?"
            if now > then
            else f"So little {short_name(ingredient)}?",
            f"{in_words(line)} is {now:.0f} g: no dough of this kind has that much beside the rest."
            if now > then
            else f"{in_words(line)} is only {now:.1f} g beside the rest.",
            f"Another {what}: {in_words(after)}, {then:.0f} g.",
            Mend(
                f"Make it {in_words(after)}",
                best.line,
                best.amount,
                best.unit,
                before=f"{in_words(line)}, {now:.4g} g",
                after=f"{in_words(after)}, {then:.4g} g",
                tenfold=best.tenfold,
            ),
        )
    ]


def _changed(grams: Sequence[float], slip: _Slip) -> list[float]:
    return [g * slip.factor if n == slip.line else g for n, g in enumerate(grams)]


def _slips(
    card: Card, grams: Sequence[float], larder: Larder, bands: Sequence[Band]
) -> Iterator[_Slip]:
    for n, line in enumerate(card.lines):
        ingredient = larder.known(line.ingredient)
        if ingredient is None or not grams[n] or ingredient.role not in MAIN_ROLES:
            continue
        others = {one.unit for m, one in enumerate(card.lines) if m != n}
        for unit, other, factor in _OTHER_UNITS:
            # The unit that was meant is one that the card measures by.
            if unit == line.unit and other in ingredient.units and other in others:
                slip = _Slip(n, line.amount, other, factor, 0.0, tenfold=False)
                yield replace(slip, strange=_strange(card, _changed(grams, slip), larder, bands))
        if line.unit == "oz" and _POUNDS.search(line.text):
            # A pound is kept as sixteen ounces.
            amount = scale_amount(line.amount, Fraction(1, 16), unit="oz")
            slip = _Slip(n, amount, "oz", 1 / 16, 0.0, tenfold=False)
            yield replace(slip, strange=_strange(card, _changed(grams, slip), larder, bands))
        for tenfold in _TENFOLD:
            amount = scale_amount(line.amount, tenfold, unit=line.unit)
            slip = _Slip(n, amount, line.unit, float(tenfold), 0.0, tenfold=True)
            yield replace(slip, strange=_strange(card, _changed(grams, slip), larder, bands))


def _formula(card: Card, grams: Sequence[float], larder: Larder) -> dict[str, float]:
    found: dict[str, float] = {}
    for line, g in zip(card.lines, grams, strict=True):
        if line.ingredient is not None and line.ingredient in larder and g > 0:
            found[line.ingredient] = found.get(line.ingredient, 0.0) + g
    return found


def _far_out(card: Card, grams: Sequence[float], larder: Larder, bands: Sequence[Band]) -> bool:
    """Whether sugar, fat, egg or water stands far outside all doughs of the family."""
    formula = _formula(card, grams, larder)
    standings, _ = standings_of(formula, larder)
    mine = {band.figure: band for band in bands if band.family == card.family}
    for figure in ("sugar", "fat", "egg", "water"):
        if figure not in standings:
            continue
        band, percent = mine[figure], standings[figure]
        if percent > FAR_ABOVE * band.most or percent < FAR_BELOW * band.least:
            return True
    return False


def _structure(card: Card, grams: Sequence[float], larder: Larder) -> float:
    return standings_of(_formula(card, grams, larder), larder)[1]


def _strange(card: Card, grams: Sequence[float], larder: Larder, bands: Sequence[Band]) -> float:
    """How far the dough lies from what is usual, all figures together; 0 where all are usual."""
    standings, _ = standings_of(_formula(card, grams, larder), larder)
    strange = 0.0
    for band in bands:
        if band.family == card.family and band.figure in standings:
            wide = band.high - band.low
            percent = standings[band.figure]
            strange += max(band.low - percent, percent - band.high, 0.0) / wide
    return strange
