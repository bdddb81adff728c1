"""How long these hands take, from what they took before."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
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


USUAL = Pace()


@dataclass(frozen=True, slots=True)
class Hands:
    """The paces of one baker: to portion whatever it is, to mix, and in `others` of each further
    kind of job that bakes taught. A kind of piece that was portioned has a pace of its own."""

    portion: Pace = Pace()
    mix: Pace = Pace()
    others: Mapping[str, Pace] = field(default_factory=dict)

    @property
    def jobs(self) -> int:
        """How many jobs taught any of it."""
        own = sum(p.jobs for job, p in self.others.items() if not job.startswith("portion "))
        return self.portion.jobs + self.mix.jobs + own

    def times(self, job: str) -> float:
        """How long a job of that kind takes, against the usual."""
        return self.others.get(job, USUAL).times

    def portioning(self, kind: str) -> Pace:
        """How long it takes to portion pieces of that kind: as all others where no bake taught
        it."""
        return self.others.get(portioning(kind), self.portion)


def portioning(kind: str) -> str:
    """By what the pace of portioning pieces of a kind goes."""
    return f"portion {kind}"


USUAL_HANDS = Hands()


def learn_pace(ratios: Iterable[float], usual: float = 1.0) -> Pace:
    """The pace from minutes taken over the common ones: their median, drawn to this baker's `usual`
    pace where they are few."""
    kept = [ratio for ratio in ratios if LEAST_RATIO <= ratio <= MOST_RATIO]
    if not kept:
        return Pace(usual)
    share = len(kept) / (len(kept) + PRIOR)
    return Pace(usual ** (1 - share) * median(kept) ** share, len(kept))
