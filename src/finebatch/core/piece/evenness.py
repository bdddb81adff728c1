"""How even portions are, by what each of them weighed."""

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import mean, stdev
from typing import Literal

OFF = 0.06
"""A portion that is off its target by more bakes visibly unlike the others: a width follows about
the third root of the mass, and so by 2 percent."""
LOOKED_AT = 6
LEAST_FOR_SD = 4
"""Of fewer portions no spread is told."""


@dataclass(frozen=True, slots=True)
class OffPortion:
    """A portion that is too heavy or too light: its number, counted from 1, and its mass in g."""

    number: int
    grams: float
    how: Literal["heavy", "light"]


@dataclass(frozen=True, slots=True)
class Portions:
    """Portions weighed one by one, in g.

    `cv` is their standard deviation over their mean, None for too few; `off` the ones among the
    last few that are too heavy or too light.
    """

    weighed_g: tuple[float, ...]
    target_g: float
    mean_g: float | None
    cv: float | None
    off: tuple[OffPortion, ...]


def judge_portions(weighed_g: Sequence[float], target_g: float) -> Portions:
    """The running mean and evenness of portions, and which of the last few are off."""
    numbered = list(enumerate(weighed_g, start=1))[-LOOKED_AT:]
    off = tuple(
        OffPortion(number, grams, "heavy" if grams > target_g else "light")
        for number, grams in numbered
        if abs(grams - target_g) > OFF * target_g
    )
    average = mean(weighed_g) if weighed_g else None
    cv = None
    if average and len(weighed_g) >= LEAST_FOR_SD:
        cv = stdev(weighed_g) / average
    return Portions(tuple(weighed_g), target_g, average, cv, off)
