"""How long this fridge takes to make dough firm, from how dough felt when it was worked.

A baker says of a dough that was so many minutes in the cold whether it was still too soft, just
right or too hard. The model foresees its temperature for that moment; a fridge that is full, or
opened often, takes so many times the minutes. What is felt is a temperature within a degree or
two, and one answer in twenty says nothing, so that a slip does not spoil the rest.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt

from finebatch.core.book.hands import Pace
from finebatch.core.heat.chilling import Curve

Vector = npt.NDArray[np.float64]

Firmness = Literal["soft", "right", "hard"]
PRIOR_SD = 0.25
"""How far one fridge strays from the usual, in ln of minutes: full or near empty, wrapped twice or
once (engineering tables give still air at 5 to 12 W/m²K)."""
FELT_SD_K = 1.5
"""How well hands tell a dough's temperature (judgement)."""
SLIP = 0.05
FARTHEST = 0.9
GRID = np.linspace(-FARTHEST, FARTHEST, 181)


@dataclass(frozen=True, slots=True)
class Felt:
    """How a dough felt `minutes` after it went into the cold; `cooling` is what is foreseen, `to_c`
    between which temperatures it is right (°C)."""

    minutes: float
    firmness: Firmness
    cooling: Curve
    to_c: tuple[float, float]


def learn_cold(felts: Sequence[Felt]) -> Pace:
    """How many times the usual minutes this fridge takes, and from how many doughs."""
    weight: Vector = np.exp(-0.5 * (GRID / PRIOR_SD) ** 2)
    for felt in felts:
        weight = weight * _likely(felt)
    mean = float(np.sum(GRID * weight) / np.sum(weight))
    return Pace(math.exp(mean), len(felts))


def _likely(felt: Felt) -> Vector:
    """How likely that firmness is for each pace of the grid."""
    temps = np.asarray(felt.cooling.temps_c)
    steps = np.arange(len(temps)) * felt.cooling.step_min
    there_c = np.interp(felt.minutes / np.exp(GRID), steps, temps)
    low, high = felt.to_c
    from scipy.special import ndtr  # it takes time to load

    soft: Vector = ndtr((there_c - high) / FELT_SD_K)
    hard: Vector = ndtr((low - there_c) / FELT_SD_K)
    likely: Vector = {"soft": soft, "hard": hard, "right": 1 - soft - hard}[felt.firmness]
    return np.asarray((1 - SLIP) * np.clip(likely, 0, 1) + SLIP / 3)
