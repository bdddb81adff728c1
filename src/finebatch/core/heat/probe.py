"""What a thermometer in the oven tells: when it is really ready, its mean, swing and offset."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from statistics import median

Sample = tuple[float, float]
"""Minutes, and °C."""

LEAST_MIN = 8.0
"""An oven is judged from this long a look at it, warm-up left out."""
TURNED_C = 1.0
"""A trace has turned once it is so far below its highest, or above its lowest."""
DIP_C_MIN = 12.0
"""No closed oven loses that much in a minute: somebody opened it."""
BACK_MIN = 5.0
"""After an opening the trace says nothing of the oven for so long, or until it is back."""


@dataclass(frozen=True, slots=True)
class OvenReading:
    """An oven by its thermometer: °C in the mean, from lowest to highest, and above its dial.

    `ready_min` is when it was really ready, in minutes of the trace; `watched_min` how long it
    was watched since, openings left out.
    """

    mean_c: float
    swing_c: float
    offset_c: float
    ready_min: float
    watched_min: float


def ready_at(trace: Sequence[Sample]) -> float | None:
    """The minute at which the oven has stopped warming up: its first turn down, or the first of
    four minutes in which it stays level. None while it still rises."""
    highest, when = -273.0, 0.0
    for minute, celsius in trace:
        if celsius > highest + TURNED_C / 2:
            highest, when = celsius, minute
        elif celsius <= highest - TURNED_C or minute - when >= 4.0:
            return when
    return None


def _undisturbed(trace: Sequence[Sample]) -> list[Sample]:
    """The trace without what an open door did to it."""
    kept: list[Sample] = []
    opened: Sample | None = None
    for n, (minute, celsius) in enumerate(trace):
        ago = next((s for s in trace[max(n - 8, 0) : n] if minute - s[0] <= 0.6), None)
        if opened is None and ago and ago[1] - celsius > DIP_C_MIN * (minute - ago[0]) > 0:
            opened = ago
            kept = [s for s in kept if s[0] <= ago[0]]
        if opened is not None:
            ago_min = minute - opened[0]
            back = ago_min >= BACK_MIN and celsius >= opened[1] - 2 * TURNED_C
            if not back and ago_min < 3 * BACK_MIN:
                continue
            opened = None
        kept.append((minute, celsius))
    return kept


def _turns(trace: Sequence[Sample]) -> tuple[list[Sample], list[Sample]]:
    """The highest and lowest points between turns, the ends left out."""
    highs: list[Sample] = []
    lows: list[Sample] = []
    extreme, rising = trace[0], True
    for sample in trace:
        further = sample[1] > extreme[1] if rising else sample[1] < extreme[1]
        if further:
            extreme = sample
        elif abs(sample[1] - extreme[1]) >= TURNED_C:
            (highs if rising else lows).append(extreme)
            extreme, rising = sample, not rising
    return highs, lows


def judge_oven(trace: Sequence[Sample], dial_c: float) -> OvenReading | None:
    """Judge an oven from its trace (minutes and °C, oldest first) at one setting of the dial.

    The mean is over whole cycles, so that half a cycle more on one side does not count. None while
    there is too little to judge.
    """
    ready = ready_at(trace)
    if ready is None:
        return None
    level = _undisturbed([s for s in trace if s[0] >= ready])
    if len(level) < 3:
        return None
    steps = [later[0] - sooner[0] for sooner, later in pairwise(level)]
    usual = 2 * median(steps)
    watched = sum(step for step in steps if step <= usual)
    if watched < LEAST_MIN:
        return None
    highs, lows = _turns(level)
    if len(highs) >= 2 and lows:
        whole = [s for s in level if highs[0][0] <= s[0] < highs[-1][0]]
        swing = median(c for _, c in highs) - median(c for _, c in lows)
    else:
        whole = list(level)
        swing = max(c for _, c in whole) - min(c for _, c in whole)
    mean = sum(c for _, c in whole) / len(whole)
    return OvenReading(mean, swing, mean - dial_c, ready, watched)
