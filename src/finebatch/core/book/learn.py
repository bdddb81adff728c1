"""Learning from bakes: a conjugate Gaussian update of the effects, this kitchen and each dough.

ln of the flow's scale is linear in what is unknown: the effects (known from the fit), an offset
of this kitchen and one of each dough. Each measured bake shifts them all by as much as it can
tell; effects are already known well and so move slowly, a dough's own offset moves fast.
Minutes are learnt the same way from one offset for the kitchen and one for each dough.
"""

import math
from collections.abc import Hashable, Sequence
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
RULER_SD = 0.012
"""Reading one piece with a ruler, about a millimetre in eight centimetres."""
MINUTES_KITCHEN_SD, MINUTES_DOUGH_SD, MINUTES_BAKE_SD = 0.10, 0.08, 0.06
STEPS = 6
ABSURD = 3.5
"""A bake this many standard deviations from what was foreseen is set aside, in sight."""


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

    def surprise(self, h: Vector, value: float, variance: float) -> float:
        """How many standard deviations `value` is from what is expected of `h` (n,)."""
        spread = math.sqrt(float(h @ self.covariance @ h) + variance)
        return (value - float(h @ self.mean)) / spread

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
    """All that the book has taught; `set_aside` are the numbers of the absurd bakes."""

    _width: tuple[Vector, Vector]
    _minutes: tuple[Vector, Vector]
    _doughs: dict[Hashable, int]
    _bakes: dict[Hashable, int]
    _timed: dict[Hashable, int]
    _effects: int
    set_aside: frozenset[int]

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
            mean, covariance, at, self._bakes.get(dough, 0),
            float(minutes[0] + minutes[place]), self._timed.get(dough, 0),
        )  # fmt: skip


def _unit(n: int, *places: int) -> Vector:
    h = np.zeros(n)
    h[list(places)] = 1.0
    return h


def _learn_width(width: _Gaussian, h: Vector, bake: MeasuredBake, plain: float) -> bool:
    """Learn from measured widths; False when they are absurd and nothing was learnt.

    A wide raw piece hardly follows the flow, and the more it spreads the more it does; so the
    law is made linear anew around each better answer (an iterated Gaussian update).
    """
    seen = math.log(sum(bake.widths_mm) / len(bake.widths_mm))
    each = RULER_SD**2 + (0.4 * bake.portion_cv) ** 2
    before, covariance = width.mean, width.covariance
    for step in range(STEPS):
        shift = float(h @ width.mean)
        foreseen, sensitivity = baked_width_mm(bake.raw, plain + shift)
        noise = (sensitivity * BAKE_SD) ** 2 + each / len(bake.widths_mm)
        value = seen - math.log(foreseen) + sensitivity * shift
        if (
            step == 0
            and bake.counts == "auto"
            and abs(width.surprise(sensitivity * h, value, noise)) > ABSURD
        ):
            return False
        width.mean, width.covariance = before, covariance
        width.observe(sensitivity * h, value, noise)
    return True


def _first(bakes: Sequence[MeasuredBake], dough: Hashable) -> MeasuredBake:
    return next(bake for bake in bakes if bake.dough == dough)


def learn(model: SpreadModel, bakes: Sequence[MeasuredBake]) -> Lessons:
    """Learn from all bakes, oldest first. The first place among doughs is for unknown ones."""
    doughs = {d: n + 1 for n, d in enumerate(dict.fromkeys(b.dough for b in bakes))}
    n, places = len(model.mean), len(doughs) + 1
    covariance = np.zeros((n + 1 + places, n + 1 + places))
    covariance[:n, :n] = model.covariance
    covariance[n, n] = KITCHEN_SD**2
    # A dough unlike any measured one may be further off the law, and so is learnt faster.
    strays = [0.0] + [model.unseen_sd(_first(bakes, dough).row) for dough in doughs]
    own = range(n + 1, n + 1 + places)
    covariance[own, own] = np.square(strays) + DOUGH_SD**2
    width = _Gaussian(np.zeros(n + 1 + places), covariance)
    minutes = _Gaussian(
        np.zeros(1 + places), np.diag([MINUTES_KITCHEN_SD**2] + [MINUTES_DOUGH_SD**2] * places)
    )
    counts: dict[Hashable, int] = {}
    timed: dict[Hashable, int] = {}
    aside: set[int] = set()
    for number, bake in enumerate(bakes):
        if bake.counts == "out":
            continue
        place = doughs[bake.dough]
        if bake.widths_mm:
            h = _unit(n + 1 + places, n, n + 1 + place)
            h[:n] = bake.row
            if not _learn_width(width, h, bake, float(bake.row @ model.mean)):
                aside.add(number)
                continue
            counts[bake.dough] = counts.get(bake.dough, 0) + 1
        if bake.minutes is not None:
            took = math.log(bake.minutes / bake.plain_minutes)
            h = _unit(1 + places, 0, 1 + place)
            off = abs(minutes.surprise(h, took, MINUTES_BAKE_SD**2))
            if off <= ABSURD or bake.counts == "in":
                minutes.observe(h, took, MINUTES_BAKE_SD**2)
                timed[bake.dough] = timed.get(bake.dough, 0) + 1
    return Lessons(
        (width.mean, width.covariance), (minutes.mean, minutes.covariance), doughs, counts, timed,
        n, frozenset(aside),
    )  # fmt: skip
