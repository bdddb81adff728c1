"""Make more or less of a dough: by factor, pieces, mass, what there is, or the bowl."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from fractions import Fraction

from finebatch.core.formula.dough import Card, Line, WeighedDough
from finebatch.core.formula.kitchen_amounts import NOTED_ERROR_PCT, UnitSystem, kitchen_amount
from finebatch.core.formula.weigh import weigh
from finebatch.core.larder.ingredient import Larder
from finebatch.core.larder.measuring import Measuring
from finebatch.core.measures.amounts import parse_amount, scale_amount, write_amount
from finebatch.core.measures.units import MASS_UNITS, Unit
from finebatch.core.refusal import Fault, Refusal, refuse

LEAST, MOST = Fraction(1, 100), Fraction(100)
BOWL_FILL = 2 / 3
"""A bowl is filled to two thirds at most, or the mixer throws flour out."""

NEAR = 0.35
"""A factor at which the eggs come out whole is offered within this share of the wanted one."""

_STEPS: Mapping[Unit, Fraction] = {
    "cup": Fraction(1, 4),
    "tbsp": Fraction(1, 2),
    "tsp": Fraction(1, 4),
    "pinch": Fraction(1),
    "egg": Fraction(1),
    "yolk": Fraction(1),
    "white": Fraction(1),
    "stick": Fraction(1, 2),
    "zest": Fraction(1, 2),
    "each": Fraction(1, 2),
    "egg_weight": Fraction(1, 2),
    "ml": Fraction(5),
    "dl": Fraction(1, 4),
    "oz": Fraction(1, 4),
    "lb": Fraction(1, 8),
    "kg": Fraction(1, 100),
}
"""The smallest step that a cook measures in each unit."""


@dataclass(frozen=True, slots=True)
class Limit:
    """How far what there is goes: the factor that one ingredient allows, and what stays of it."""

    ingredient: str
    have_g: float
    factor: float
    left_g: float


@dataclass(frozen=True, slots=True)
class EggAdvice:
    """Eggs in a scaled dough: how many to beat, grams to weigh in, and grams to spare."""

    eggs: float
    beat: int
    use_g: float
    spare_g: float


@dataclass(frozen=True, slots=True)
class NearFactor:
    """A factor near the wanted one at which whole eggs go in."""

    factor: Fraction
    eggs: int
    total_g: float


@dataclass(frozen=True, slots=True)
class ScaledLine:
    """A line scaled; `kitchen` is the amount in the cook's own units, off by `error_pct`."""

    line: Line
    grams: float | None
    kitchen: str
    error_pct: float

    @property
    def noted(self) -> bool:
        """Whether its rounding error is worth saying."""
        return abs(self.error_pct) > NOTED_ERROR_PCT


@dataclass(frozen=True, slots=True)
class Scaling:
    """A scaled dough. `mixes` are equal mixes that the bowl holds, of `mix_g` each."""

    factor: Fraction
    card: Card
    total_g: float
    lines: tuple[ScaledLine, ...]
    limits: tuple[Limit, ...]
    eggs: EggAdvice | None
    near: tuple[NearFactor, ...]
    mixes: int
    mix_g: float


def parse_factor(text: str) -> Fraction:
    """A factor as typed: 2, 1/2, 1 1/2, 0.75. `Refusal` outside 1/100 to 100."""
    factor = parse_amount(text, field="factor").middle
    if not LEAST <= factor <= MOST:
        raise refuse("factor", "Make it between a hundredth and a hundred times the card.")
    return factor


def factor_to_mass(total_g: float, wanted_g: float) -> Fraction:
    """The factor at which a dough of `total_g` weighs `wanted_g`; `Refusal` when absurd."""
    if total_g <= 0:
        raise refuse("lines", "There is nothing to scale yet: add ingredients.")
    factor = Fraction(wanted_g / total_g).limit_denominator(10_000)
    if not LEAST <= factor <= MOST:
        raise refuse("total_g", "Make it between a hundredth and a hundred times the card.")
    return factor


def limits_of(dough: WeighedDough, have: WeighedDough, larder: Larder) -> tuple[Limit, ...]:
    """What each thing there is allows, the scarcest first.

    Raises `Refusal` for what the dough does not use, and when nothing is named.
    """
    need = dough.formula_g()
    stock = have.formula_g()
    faults = [
        Fault(f"have.{n}.ingredient", f"This dough has no {larder[line.ingredient or ''].name}.")
        for n, line in enumerate(have.lines)
        if line.ingredient not in need
    ]
    if faults:
        raise Refusal(*faults)
    least = min(grams / need[key] for key, grams in stock.items())
    found = [
        Limit(key, grams, grams / need[key], grams - least * need[key])
        for key, grams in stock.items()
    ]
    return tuple(sorted(found, key=lambda limit: limit.factor))


def egg_advice(grams: float, one_egg_g: float) -> EggAdvice | None:
    """How to come by that much whole egg, weighed; none when the dough has none."""
    if grams <= 0:
        return None
    eggs = grams / one_egg_g
    beat = max(math.ceil(eggs - 0.02), 1)
    spare = max(beat * one_egg_g - grams, 0.0)
    return EggAdvice(eggs, beat, grams, spare if spare > 0.02 * one_egg_g else 0.0)


def _near(
    factor: Fraction, egg_g: float, one_egg_g: float, total_g: float
) -> tuple[NearFactor, ...]:
    """Whole eggs just below and just above what the factor asks for."""
    if egg_g <= 0:
        return ()
    eggs = float(factor) * egg_g / one_egg_g
    if abs(eggs - round(eggs)) < 0.02:
        return ()
    found = []
    for count in (math.floor(eggs), math.ceil(eggs)):
        other = Fraction(count * one_egg_g / egg_g).limit_denominator(10_000)
        if count >= 1 and abs(float(other / factor) - 1) <= NEAR:
            found.append(NearFactor(other, count, float(other) * total_g))
    return tuple(found)


def _in_fractions(unit: Unit) -> bool:
    """Whether a cook measures that unit in fractions; a scale and a jug show decimals."""
    return unit not in (*MASS_UNITS, "ml")


def step_of(line: Line, amount: float) -> Fraction:
    """The smallest step that a cook measures of a line's unit, about that amount."""
    step = _STEPS.get(line.unit)
    if step is None:  # grams
        return Fraction(1) if amount >= 10 else Fraction(1, 10)
    return step


def _rounded(line: Line) -> Line:
    """A line's amount to the step that a cook measures; at least one step."""
    try:
        amount = parse_amount(line.amount, unit=line.unit)
    except ValueError:
        return line
    if line.unit == "of_eggs":
        return line
    step = step_of(line, float(amount.middle))
    low, high = (max(round(value / step), 1) * step for value in (amount.low, amount.high))
    low_text, high_text = (
        write_amount(value, fractions=_in_fractions(line.unit)) for value in (low, high)
    )
    return replace(line, amount=f"{low_text}–{high_text}" if high > low else low_text)


def measured_line(line: Line, amount: Fraction) -> Line:
    """A line of another amount, as its unit is written; what was on the paper card no longer
    holds."""
    text = write_amount(amount, fractions=_in_fractions(line.unit))
    return replace(line, amount=text, chosen="", text="")


def scale_line(line: Line, factor: Fraction) -> Line:
    """A line times `factor`, as exactly as its unit is written."""
    if line.unit == "of_eggs":  # it follows the eggs
        return line
    amount, chosen = (
        scale_amount(text, factor, fractions=_in_fractions(line.unit), unit=line.unit)
        for text in (line.amount, line.chosen)
    )
    return replace(line, amount=amount, chosen=chosen, text="")


def scale_card(card: Card, factor: Fraction, *, rounded: bool = False) -> Card:
    """The card times `factor`, exactly, or `rounded` to what a cook measures in each unit.

    What was written on the paper card no longer holds for a line, so its text goes. Parts follow
    the yield and stay as they are.
    """
    lines = tuple(scale_line(line, factor) for line in card.lines)
    if rounded:
        lines = tuple(_rounded(line) for line in lines)
    pieces = round(card.stated_pieces * factor) if card.stated_pieces else None
    return replace(card, lines=lines, stated_pieces=pieces or None)


def scale(
    card: Card,
    factor: Fraction,
    larder: Larder,
    measuring: Measuring,
    system: UnitSystem,
    *,
    rounded: bool = False,
    limits: tuple[Limit, ...] = (),
    bowl_cm3: float | None = None,
    density_g_cm3: float = 1.25,
) -> Scaling:
    """A card scaled, with what the cook has to know: eggs, kitchen amounts, mixes for the bowl."""
    here = measuring.where(card.cup, card.egg)
    before = weigh(card.lines, larder, here)
    evenly = scale_card(card, factor)
    exact = weigh(evenly.lines, larder, here)
    scaled = scale_card(card, factor, rounded=True) if rounded else evenly
    after = weigh(scaled.lines, larder, here) if rounded else exact
    lines = []
    for line, w, wanted in zip(scaled.lines, after.lines, exact.lines, strict=True):
        kitchen, error = "", 0.0
        ingredient = larder.known(line.ingredient)
        if w.grams is not None and wanted.grams and ingredient is not None:
            said = kitchen_amount(w.grams, ingredient, system, here)
            kitchen = said.text
            error = 100 * (said.grams / wanted.grams - 1)
        lines.append(ScaledLine(line, w.grams, kitchen, error))
    mixes = 1
    if bowl_cm3:
        mixes = max(math.ceil(after.total_g / density_g_cm3 / (bowl_cm3 * BOWL_FILL) - 1e-9), 1)
    eggs = before.known_g().get("egg_whole", 0.0)
    return Scaling(
        factor=factor,
        card=scaled,
        total_g=after.total_g,
        lines=tuple(lines),
        limits=limits,
        eggs=egg_advice(after.known_g().get("egg_whole", 0.0), here.egg_g),
        near=_near(factor, eggs, here.egg_g, before.total_g),
        mixes=mixes,
        mix_g=after.total_g / mixes,
    )
