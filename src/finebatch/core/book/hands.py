"""How long these hands take, from what they took before."""

from collections.abc import Iterable
from dataclasses import dataclass
from statistics import median

LEAST_RATIO, MOST_RATIO = 0.4, 2.5
"""What lies outside was no work of that length: the baker pressed late, or did something else."""
PRIOR = 3.0
"""The usual time counts like so many jobs."""


@dataclass(frozen=True, slots=True)
class Pace:
    """How long a kind of job takes against the usual, and how many jobs taught it."""

    times: float = 1.0
    jobs: int = 0


@dataclass(frozen=True, slots=True)
class Hands:
    """The paces of one baker."""

    portion: Pace = Pace()
    mix: Pace = Pace()


USUAL = Pace()
USUAL_HANDS = Hands()


def learn_pace(ratios: Iterable[float], usual: float = 1.0) -> Pace:
    """The pace from minutes taken over the common ones: their median, drawn to this baker's `usual`
    pace where they are few."""
    kept = [ratio for ratio in ratios if LEAST_RATIO <= ratio <= MOST_RATIO]
    if not kept:
        return Pace(usual)
    share = len(kept) / (len(kept) + PRIOR)
    return Pace(usual ** (1 - share) * median(kept) ** share, len(kept))
