"""Grams as a cook measures them out: cups, spoons, eggs, ounces, or grams that a scale can show."""

from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from finebatch.core.larder.ingredient import Ingredient
from finebatch.core.larder.measuring import USUAL, Measuring
from finebatch.core.measures.amounts import write_amount
from finebatch.core.measures.units import cups_in, grams_in
from finebatch.core.values import Tells

UnitSystem = Literal["grams", "ounces", "cups"]

NOTED_ERROR_PCT = 3.0
"""From this rounding error on, it is shown."""

_CUPS = sorted({Fraction(n, d) for d in (2, 3, 4) for n in range(1, 12 * d + 1)})
_TBSP = [Fraction(n, 2) for n in range(2, 9)]
_TSP = [Fraction(1, 8), *(Fraction(n, 4) for n in range(1, 13))]
_LEAST_CUP = Fraction(1, 4)


@dataclass(frozen=True, slots=True)
class KitchenAmount(Tells):
    """An amount in words (``1 cup + 1 tbsp``) and how far it is from the grams, in percent."""

    text: str
    grams: float
    error_pct: float

    TOLD = ("noted",)

    @property
    def noted(self) -> bool:
        """Whether the error is large enough to say."""
        return abs(self.error_pct) > NOTED_ERROR_PCT


def _amount(text: str, grams: float, wanted: float) -> KitchenAmount:
    return KitchenAmount(text, grams, 100 * (grams / wanted - 1) if wanted else 0.0)


def _grams(grams: float) -> KitchenAmount:
    """To 0.1 g under ten grams, whole grams above (what a kitchen scale shows)."""
    rounded = round(grams, 1) if grams < 10 else float(round(grams))
    return _amount(f"{rounded:g} g", rounded, grams)


def _ounces(grams: float) -> KitchenAmount:
    ounces = grams / grams_in("oz")
    rounded = round(ounces, 2) if ounces < 1 else round(ounces, 1)
    return _amount(f"{rounded:g} oz", rounded * grams_in("oz"), grams)


def _nearest(value: float, steps: list[Fraction]) -> Fraction:
    return min(steps, key=lambda step: abs(float(step) - value))


def _below(value: float, steps: list[Fraction]) -> Fraction | None:
    return next((step for step in reversed(steps) if float(step) <= value + 1e-9), None)


def _spoons(cups: float) -> tuple[str, float] | None:
    """The nearest in spoons: one measure, or a larger and a smaller one."""
    tbsp, tsp = cups_in("tbsp"), cups_in("tsp")
    if cups >= float(_TBSP[0]) * tbsp * 0.97:
        whole = _nearest(cups / tbsp, _TBSP)
        if abs(float(whole) * tbsp / cups - 1) <= NOTED_ERROR_PCT / 100:
            return f"{write_amount(whole)} tbsp", float(whole) * tbsp
        base = _below(cups / tbsp, _TBSP)
        if base is not None:
            rest = _nearest((cups - float(base) * tbsp) / tsp, _TSP)
            text = f"{write_amount(base)} tbsp + {write_amount(rest)} tsp"
            return text, float(base) * tbsp + float(rest) * tsp
    if cups < float(_TSP[0]) * tsp / 2:
        return None
    few = _nearest(cups / tsp, _TSP)
    return f"{write_amount(few)} tsp", float(few) * tsp


def _cups(grams: float, ingredient: Ingredient, measuring: Measuring) -> KitchenAmount:
    each = ingredient.cup_g(measuring.cup)
    cups = grams / each
    if cups > float(_CUPS[-1]):
        return _grams(grams)
    if cups < float(_LEAST_CUP) * 0.97:
        spoons = _spoons(cups)
        return _amount(spoons[0], spoons[1] * each, grams) if spoons else _grams(grams)
    whole = _nearest(cups, _CUPS)
    if abs(float(whole) / cups - 1) <= NOTED_ERROR_PCT / 100:
        return _amount(f"{write_amount(whole)} cup", float(whole) * each, grams)
    base = _below(cups, _CUPS) or _LEAST_CUP
    rest = _spoons(cups - float(base))
    if rest is None:
        return _amount(f"{write_amount(base)} cup", float(base) * each, grams)
    return _amount(f"{write_amount(base)} cup + {rest[0]}", (float(base) + rest[1]) * each, grams)


def _counted(grams: float, ingredient: Ingredient, measuring: Measuring) -> KitchenAmount | None:
    """In eggs or sticks, to the half, where that is near enough."""
    natural = ingredient.natural_unit
    if natural is None:
        return None
    each = ingredient.grams(1.0, natural.unit, measuring)
    halves = Fraction(round(2 * grams / each), 2)
    if halves <= 0 or abs(float(halves) * each / grams - 1) > NOTED_ERROR_PCT / 100:
        return None
    return _amount(f"{write_amount(halves)} {natural.unit}", float(halves) * each, grams)


def kitchen_amount(
    grams: float, ingredient: Ingredient, system: UnitSystem, measuring: Measuring = USUAL
) -> KitchenAmount:
    """Grams of an ingredient in the baker's own units.

    Cups go in halves, thirds and quarters with spoons for the rest, teaspoons in quarters, grams
    to 0.1 g under ten. Eggs and sticks are counted where they come out to the half.
    """
    if grams <= 0:
        return KitchenAmount("0 g", 0.0, 0.0)
    if system == "cups":
        counted = _counted(grams, ingredient, measuring)
        return counted or _cups(grams, ingredient, measuring)
    return _ounces(grams) if system == "ounces" else _grams(grams)
