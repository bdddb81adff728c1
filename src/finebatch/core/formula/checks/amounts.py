"""Amounts that contradict each other, and amounts that cannot be."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Annotated

from annotated_types import Interval

from finebatch.core.formula.checks.check import Check, Mend, in_words
from finebatch.core.formula.dough import Card, WeighedDough
from finebatch.core.formula.method import short_name
from finebatch.core.formula.reading import Reader
from finebatch.core.formula.said import WrittenAmount
from finebatch.core.larder.ingredient import Ingredient, Larder
from finebatch.core.measures.amounts import scale_amount
from finebatch.core.measures.figures import grams as in_grams
from finebatch.core.measures.figures import grams_between
from finebatch.core.measures.units import MASS_UNITS, VOLUME_UNITS, cups_in, grams_in

SAME = 0.02
LEAST_BASE = 0.35
"""Where flour and grain are less than this share of a dough, what is strong is counted against so
much of it."""


@dataclass(frozen=True, slots=True)
class Dose:
    """How much of something strong is usual and most, in percent of the flour.

    `figure` is an ingredient's key, or its role (salt) or trait (soda, powder).
    """

    figure: str
    label: str
    usual_pct: Annotated[float, Interval(ge=0, le=100)]
    most_pct: Annotated[float, Interval(ge=0, le=100)]
    too_much: str

    def is_of(self, ingredient: Ingredient) -> bool:
        """Whether this dose is about that ingredient."""
        return self.figure in (ingredient.key, ingredient.role) or self.figure in ingredient.traits


def _words(said: WrittenAmount, text_amount: str) -> str:
    if said.low_g == said.high_g:
        return f"{text_amount} ({in_grams(said.low_g, 0)})"
    return f"{text_amount} ({grams_between(said.low_g, said.high_g)})"


def _written(said: WrittenAmount) -> str:
    unit = said.quantity.unit
    each = cups_in(unit) if unit in VOLUME_UNITS else grams_in(unit) if unit in MASS_UNITS else 1
    value = said.quantity.low / each
    return f"{value:.3g} {'' if unit == 'each' else unit}".strip()


def _cup_words(ingredient: Ingredient) -> str:
    low = ingredient.g_per_cup_sifted or ingredient.g_per_cup
    high = ingredient.g_per_cup_dipped or ingredient.g_per_cup
    weight = grams_between(low, high) if high > low else in_grams(low, 0)
    return f"A cup of {short_name(ingredient)} weighs {weight}."


def contradictions(card: Card, weighed: WeighedDough, reader: Reader) -> list[Check]:
    """Lines whose written amounts do not agree: cups against grams, ounces against grams."""
    found = []
    for n, (line, w) in enumerate(zip(card.lines, weighed.lines, strict=True)):
        ingredient = reader.larder.known(line.ingredient)
        if not line.text or ingredient is None or w.grams is None:
            continue
        said = reader.amounts(line.text, ingredient.key)
        used = [s for s in said if abs(s.grams - w.grams) <= SAME * w.grams]
        others = reader.disagreeing(used[0], said, ingredient.key) if used else []
        if others and len(reader.read_all(line.text)) > 1:
            continue  # the other amount is of the other ingredient in that line
        for other in others:
            volume = other.quantity.dimension == "volume"
            title = "Cups and grams" if volume else "Two amounts"
            if other.quantity.dimension == "mass":
                title = "Ounces and grams"
                reason = f"{_written(other)} is {in_grams(other.low_g, 0)}."
            else:
                reason = _cup_words(ingredient) if volume else f"{_words(other, _written(other))}."
            grams = f"{other.grams:.0f}"
            found.append(
                Check(
                    key=f"amounts:{line.text}",
                    where=f"lines.{n}",
                    title=f"{title} contradict each other",
                    evidence=f"“{line.text}”. {reason}",
                    likely=f"The weight, {in_grams(w.grams, 0)}: a scale errs less. It is what is "
                    "used.",
                    mend=Mend(
                        f"Use {_written(other)}, {in_grams(other.grams, 0)}",
                        n,
                        grams,
                        "g",
                        before=in_grams(w.grams, 0),
                        after=in_grams(other.grams, 0),
                    ),
                )
            )
    return found


def _mend(card: Card, n: int, grams: float, ratio: float, dose: Dose) -> tuple[str, Mend | None]:
    """What is likely meant by an amount that is `ratio` times the most: a smaller unit or digit."""
    line = card.lines[n]
    before = f"{in_words(line)}, {in_grams(grams)}"
    if line.unit == "tbsp" and ratio <= 4:
        spoon = replace(line, unit="tsp")
        after = f"{in_words(spoon)}, {in_grams(grams / 3)}"
        mend = Mend(in_words(spoon), n, line.amount, "tsp", before=before, after=after)
        return "Teaspoons, not tablespoons.", mend
    if ratio <= 10:
        tenth = replace(line, amount=scale_amount(line.amount, Fraction(1, 10), unit=line.unit))
        after = f"{in_words(tenth)}, {in_grams(grams / 10)}"
        words = in_words(tenth)
        mend = Mend(words, n, tenth.amount, line.unit, before=before, after=after, tenfold=True)
        return "A slipped decimal point.", mend
    return f"Usual is about {dose.usual_pct:g} % of the flour.", None


def impossible(
    card: Card,
    weighed: WeighedDough,
    larder: Larder,
    doses: Sequence[Dose],
    soda_per_g: Mapping[str, float],
) -> list[Check]:
    """Salt, leavening and spices in amounts that cannot be meant. Soda that an acid takes up is not
    counted; of a dough with little flour, the whole of it is."""
    found: list[Check] = []
    base_g = max(weighed.base_g, LEAST_BASE * weighed.total_g)
    if weighed.base_g <= 0:
        return found
    acid = sum(soda_per_g.get(key, 0.0) * g for key, g in weighed.known_g().items())
    for dose in doses:
        lines = [
            n
            for n, line in enumerate(card.lines)
            if (ingredient := larder.known(line.ingredient))
            and dose.is_of(ingredient)
            and weighed.lines[n].grams is not None
        ]
        grams = [weighed.lines[n].grams or 0.0 for n in lines]
        taken_up = min(acid, sum(grams)) if dose.figure == "soda" else 0.0
        percent = 100 * (sum(grams) - taken_up) / base_g
        if not lines or percent <= dose.most_pct:
            continue
        worst = max(zip(grams, lines, strict=True))[1]
        line = card.lines[worst]
        likely, mend = _mend(card, worst, max(grams), percent / dose.most_pct, dose)
        found.append(
            Check(
                key=f"dose:{dose.figure}:{line.amount}:{line.unit}",
                where=f"lines.{worst}",
                title=f"Too much {dose.label}",
                evidence=(
                    f"{in_grams(sum(grams))} is {percent:.1f} % of the flour; above "
                    f"{dose.most_pct:g} % it {dose.too_much}."
                ),
                likely=likely,
                mend=mend,
            )
        )
    return found
