"""Learning from bakes: a conjugate Gaussian update of the effects, this kitchen and each dough.

Before that all readings of a dough are looked at together, whatever came first: those that most of
the others and what is usual speak against are set aside (`together`).

ln of the flow's scale is linear in what is unknown: the effects (known from the fit), an offset
of this kitchen and one of each dough. Each measured bake shifts them all by as much as it can
tell; effects are already known well and so move slowly, a dough's own offset moves fast.
Minutes are learnt the same way from one offset for the kitchen and one for each dough.
"""

import math
from collections import Counter, defaultdict
from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt

from finebatch.core.piece.portion import RawPiece
from finebatch.core.piece.spread import Offset, SpreadModel, baked_width_mm

Vector = npt.NDArray[np.float64]

KITCHEN_SD, DOUGH_SD, BAKE_SD = 0.03, 0.02, 0.012
"""How far one kitchen, one dough and one bake stray from the model, in ln of width (typical
home spread of 3, 2 and about 1 percent)."""
MEASURED_SD = 0.012
"""Reading one piece with a ruler, about a millimetre in eight centimetres."""
MINUTES_KITCHEN_SD, MINUTES_DOUGH_SD, MINUTES_BAKE_SD = 0.10, 0.08, 0.06
STEPS = 6
LEAST_SENSITIVITY = 0.02
"""Of a piece whose width follows the flow less than this, its width tells nothing of it."""
ABSURD = 3.5
"""A reading this many standard deviations from what its dough's readings come to together is set
aside, in sight."""
TAILS = 4.0
"""Degrees of freedom of Student's t: how readily one reading is taken for a slip when the others
say something else (a usual choice for robust regression)."""
FARTHEST = 1.5
"""How far, in ln of the flow's scale or of minutes, anything is looked for."""


Counts = Literal["auto", "in", "out"]


@dataclass(frozen=True, slots=True)
class MeasuredBake:
    """One bake as the book keeps it, beside what the model alone foresaw for it.

    `row` (n,) are the effects, `raw` the raw piece; `plain_minutes` leave out all learning.
    `counts` says whether it is learnt from: unless it is absurd, in any case, or not at all.
    """

    dough: Hashable
    row: Vector
    raw: RawPiece
    plain_minutes: float
    portion_cv: float
    widths_mm: tuple[float, ...]
    minutes: float | None
    counts: Counts = "auto"


class _Gaussian:
    """Mean and covariance of named unknowns, updated one observation at a time."""

    def __init__(self, mean: Vector, covariance: Vector) -> None:
        self.mean, self.covariance = mean, covariance

    def observe(self, h: Vector, value: float, variance: float) -> None:
        total = float(h @ self.covariance @ h) + variance
        gain = self.covariance @ h / total
        self.mean = self.mean + gain * (value - float(h @ self.mean))
        self.covariance = self.covariance - np.outer(gain, h @ self.covariance)


@dataclass(frozen=True, slots=True)
class DoughLessons:
    """What all bakes say about one dough here; fits `foresee.Learnt`. `timed` bakes of it taught
    its minutes."""

    mean: Vector
    covariance: Vector
    at: Vector
    bakes: int
    minutes_shift: float
    timed: int

    def width_offset(self, row: Vector) -> Offset:
        """The shift of ln scale, and what is still unknown, for a piece with effects `row`."""
        h = self.at.copy()
        h[: len(row)] = row
        variance = float(h @ self.covariance @ h)
        return Offset(float(h @ self.mean), variance, BAKE_SD, self.bakes)


@dataclass(frozen=True, slots=True)
class Lessons:
    """All that the book has taught; `set_aside` are the numbers of the bakes whose width is
    absurd, `minutes_aside` of those whose minutes are."""

    _width: tuple[Vector, Vector]
    _minutes: tuple[Vector, Vector]
    _doughs: dict[Hashable, int]
    _bakes: dict[Hashable, int]
    _timed: dict[Hashable, int]
    _effects: int
    set_aside: frozenset[int]
    minutes_aside: frozenset[int]

    @property
    def bakes(self) -> int:
        """How many bakes something was learnt from."""
        return sum(self._bakes.values())

    def kitchen_width(self) -> tuple[float, float]:
        """What this kitchen shifts a width's scale by in all, ln, and its standard deviation."""
        mean, covariance = self._width
        at = self._effects
        return float(mean[at]), math.sqrt(float(covariance[at, at]))

    def dough_width(self, dough: Hashable) -> tuple[float, float]:
        """What a dough's own nature shifts it by beside that, ln, and its standard deviation."""
        mean, covariance = self._width
        at = self._effects + 1 + self._doughs.get(dough, 0)
        return float(mean[at]), math.sqrt(float(covariance[at, at]))

    def kitchen_minutes(self) -> float:
        """What this kitchen as a whole shifts minutes by, ln."""
        return float(self._minutes[0][0])

    def of_dough(self, dough: Hashable) -> DoughLessons:
        """The lessons for one dough; one that was never baked profits from the kitchen's."""
        mean, covariance = self._width
        at = _unit(len(mean), self._effects, self._effects + 1 + self._doughs.get(dough, 0))
        minutes, _ = self._minutes
        place = 1 + self._doughs.get(dough, 0)
        return DoughLessons(
            mean,
            covariance,
            at,
            self._bakes.get(dough, 0),
            float(minutes[0] + minutes[place]),
            self._timed.get(dough, 0),
        )


def _unit(n: int, *places: int) -> Vector:
    h = np.zeros(n)
    h[list(places)] = 1.0
    return h


def together(values: Vector, sds: Vector, prior_sd: float) -> tuple[float, float]:
    """What readings (n,) of one unknown with these standard deviations come to, and its variance,
    when it is about 0 within `prior_sd`.

    The unknown is sought where all of them together are likeliest, each with Student's tails: one
    far from the others then hardly counts, whether it came first or last.
    """
    grid = np.linspace(-FARTHEST, FARTHEST, 601)
    grid = np.concatenate([grid, np.clip(values, -FARTHEST, FARTHEST)])
    off = (values[:, None] - grid[None, :]) / sds[:, None]
    unlikely = 0.5 * (TAILS + 1) * np.log1p(off**2 / TAILS).sum(axis=0)
    at = float(grid[int(np.argmin(unlikely + 0.5 * (grid / prior_sd) ** 2))])
    weights = np.ones(len(values))
    for _ in range(STEPS):
        weights = (TAILS + 1) / (TAILS + ((values - at) / sds) ** 2)
        sure = float((weights / sds**2).sum()) + 1 / prior_sd**2
        at = float((weights * values / sds**2).sum()) / sure
    return at, 1 / (float((weights / sds**2).sum()) + 1 / prior_sd**2)


def _seen(bake: MeasuredBake) -> float:
    """ln of the mean measured width."""
    return math.log(sum(bake.widths_mm) / len(bake.widths_mm))


def _flow_of(bake: MeasuredBake, plain: float) -> tuple[float, float]:
    """The shift of ln scale with which the piece comes out as wide as measured, and how surely."""
    seen = _seen(bake)
    shift, most = 0.0, LEAST_SENSITIVITY
    for _ in range(STEPS):
        foreseen, sensitivity = baked_width_mm(bake.raw, plain + shift)
        # A cut piece that is narrower than its cutter follows no flow: it is no less odd for that.
        most = max(most, sensitivity)
        step = (seen - math.log(foreseen)) / max(sensitivity, LEAST_SENSITIVITY)
        shift = min(max(shift + step, -FARTHEST), FARTHEST)
    return shift, math.sqrt(_width_noise(bake, most)) / most


def _width_noise(bake: MeasuredBake, sensitivity: float) -> float:
    """Variance of ln of the mean measured width around what is foreseen for this bake."""
    each = MEASURED_SD**2 + (0.4 * bake.portion_cv) ** 2
    return (sensitivity * BAKE_SD) ** 2 + each / len(bake.widths_mm)


def _learn_width(width: _Gaussian, h: Vector, bake: MeasuredBake, plain: float) -> None:
    """Learn from measured widths.

    A wide raw piece hardly follows the flow, and the more it spreads the more it does; so the
    law is made linear anew around each better answer (an iterated Gaussian update).
    """
    seen = _seen(bake)
    before, covariance = width.mean, width.covariance
    for _ in range(STEPS):
        shift = float(h @ width.mean)
        foreseen, sensitivity = baked_width_mm(bake.raw, plain + shift)
        value = seen - math.log(foreseen) + sensitivity * shift
        width.mean, width.covariance = before, covariance
        width.observe(sensitivity * h, value, _width_noise(bake, sensitivity))


@dataclass(frozen=True, slots=True)
class _Reading:
    """What one bake says of its dough's unknown: the value and its standard deviation; and how far
    off it is, in standard deviations, from a middle of that variance."""

    value: float
    sd: float
    off: Callable[[float, float], float]


def _of_width(bake: MeasuredBake, plain: float) -> _Reading:
    seen = _seen(bake)

    def off(middle: float, variance: float) -> float:
        # In width: where that hardly follows the flow, no flow is too far.
        foreseen, sensitivity = baked_width_mm(bake.raw, plain + middle)
        spread = _width_noise(bake, sensitivity) + sensitivity**2 * variance
        return abs(seen - math.log(foreseen)) / math.sqrt(spread)

    return _Reading(*_flow_of(bake, plain), off)


def _of_minutes(bake: MeasuredBake, minutes: float) -> _Reading:
    value = math.log(minutes / bake.plain_minutes)

    def off(middle: float, variance: float) -> float:
        return abs(value - middle) / math.sqrt(MINUTES_BAKE_SD**2 + variance)

    return _Reading(value, MINUTES_BAKE_SD, off)


def _aside(
    bakes: Sequence[MeasuredBake],
    readings: Mapping[int, _Reading],
    prior_sd: Mapping[Hashable, float],
) -> frozenset[int]:
    """The numbers of the bakes whose reading is a slip, each dough looked at for itself. What the
    baker wants to count does."""
    by_dough: dict[Hashable, dict[int, _Reading]] = defaultdict(dict)
    for n, one in readings.items():
        by_dough[bakes[n].dough][n] = one
    found: set[int] = set()
    for dough, own in by_dough.items():
        values, sds = np.array([(one.value, one.sd) for one in own.values()]).T
        middle, variance = together(values, sds, prior_sd[dough])
        found |= {n for n, one in own.items() if one.off(middle, variance) > ABSURD}
    return frozenset(n for n in found if bakes[n].counts == "auto")


def learn(model: SpreadModel, bakes: Sequence[MeasuredBake]) -> Lessons:
    """Learn from all bakes, oldest first. The first place among doughs is for unknown ones."""
    doughs = {d: n + 1 for n, d in enumerate(dict.fromkeys(b.dough for b in bakes))}
    firsts = {bake.dough: bake for bake in reversed(bakes)}
    n, places = len(model.mean), len(doughs) + 1
    covariance = np.zeros((n + 1 + places, n + 1 + places))
    covariance[:n, :n] = model.covariance
    covariance[n, n] = KITCHEN_SD**2
    # A dough unlike any measured one may be further off the law, and so is learnt faster.
    strays = [0.0] + [model.unseen_sd(firsts[dough].row) for dough in doughs]
    own = range(n + 1, n + 1 + places)
    covariance[own, own] = np.square(strays) + DOUGH_SD**2
    width = _Gaussian(np.zeros(n + 1 + places), covariance)
    minutes = _Gaussian(
        np.zeros(1 + places), np.diag([MINUTES_KITCHEN_SD**2] + [MINUTES_DOUGH_SD**2] * places)
    )

    def place_of(bake: MeasuredBake) -> Vector:
        h = _unit(n + 1 + places, n, n + 1 + doughs[bake.dough])
        h[:n] = bake.row
        return h

    heard = {k: bake for k, bake in enumerate(bakes) if bake.counts != "out"}
    usual_sd = {
        dough: math.sqrt(float((h := place_of(firsts[dough])) @ covariance @ h)) for dough in doughs
    }
    widths = {
        k: _of_width(bake, float(bake.row @ model.mean))
        for k, bake in heard.items()
        if bake.widths_mm
    }
    aside = _aside(bakes, widths, usual_sd)
    # What was measured of a bake that is set aside is of another piece, and so are its minutes.
    took = {
        k: _of_minutes(bake, bake.minutes)
        for k, bake in heard.items()
        if bake.minutes is not None and k not in aside
    }
    minutes_sd = math.hypot(MINUTES_KITCHEN_SD, MINUTES_DOUGH_SD)
    minutes_aside = _aside(bakes, took, dict.fromkeys(doughs, minutes_sd))
    counts: Counter[Hashable] = Counter()
    timed: Counter[Hashable] = Counter()
    for k, bake in heard.items():
        if k in widths and k not in aside:
            _learn_width(width, place_of(bake), bake, float(bake.row @ model.mean))
            counts[bake.dough] += 1
        if k in took and k not in minutes_aside:
            h = _unit(1 + places, 0, 1 + doughs[bake.dough])
            minutes.observe(h, took[k].value, MINUTES_BAKE_SD**2)
            timed[bake.dough] += 1
    return Lessons(
        (width.mean, width.covariance),
        (minutes.mean, minutes.covariance),
        doughs,
        dict(counts),
        dict(timed),
        n,
        aside,
        minutes_aside,
    )
