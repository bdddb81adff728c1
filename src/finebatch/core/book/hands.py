"""How long these hands take, from what they took before."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from statistics import median

from finebatch.core.method.steps import STEP

LEAST_RATIO, MOST_RATIO = 0.4, 2.5
"""What lies outside was no work of that length: the baker pressed late, or did something else."""
Steps = Mapping[int, float]
"""How long steps take, by their places in their job."""
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
        apart = (portioning(""), STEP)
        own = sum(p.jobs for job, p in self.others.items() if not job.startswith(apart))
        return self.portion.jobs + self.mix.jobs + own

    def times(self, job: str) -> float:
        """How long a job of that kind takes, against the usual."""
        return self.others.get(job, USUAL).times

    def steps(self) -> Mapping[str, float]:
        """How long each kind of step takes within its job, by the key that its pace goes by."""
        return {key: pace.times for key, pace in self.others.items() if key.startswith(STEP)}

    def portioning(self, kind: str) -> Pace:
        """How long it takes to portion pieces of that kind: as all others where no bake taught
        it."""
        return self.others.get(portioning(kind), self.portion)


def portioning(kind: str) -> str:
    """By what the pace of portioning pieces of a kind goes."""
    return f"portion {kind}"


USUAL_HANDS = Hands()


def between_ticks(
    begun: float | None, ticks: Mapping[int, float], done: float, steps: int
) -> Steps:
    """How long each step of a job took that is told by the ticks on either side of it, in the unit
    of these times; the job itself ends the last, and begins the first where that is known. `ticks`
    are times by the place of a step."""
    at = {steps - 1: done, **ticks}
    if begun is not None:
        at[-1] = begun
    return {
        place: at[place] - at[place - 1]
        for place in range(steps)
        if place in at and place - 1 in at and at[place] > at[place - 1]
    }


def within_job(taken: Steps, usual: Steps) -> Mapping[int, float]:
    """How long each step took against the others of its job, each against its usual minutes; of
    fewer than two that are known nothing."""
    known = [place for place in taken if usual.get(place, 0) > 0]
    if len(known) < 2:
        return {}
    whole = sum(taken[place] for place in known) / sum(usual[place] for place in known)
    return {place: taken[place] / usual[place] / whole for place in known}


def learn_pace(ratios: Iterable[float], usual: float = 1.0) -> Pace:
    """The pace from minutes taken over the common ones: their median, drawn to this baker's `usual`
    pace where they are few."""
    kept = [ratio for ratio in ratios if LEAST_RATIO <= ratio <= MOST_RATIO]
    if not kept:
        return Pace(usual)
    share = len(kept) / (len(kept) + PRIOR)
    return Pace(usual ** (1 - share) * median(kept) ** share, len(kept))
