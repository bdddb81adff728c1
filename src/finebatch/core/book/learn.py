"""Learning from bakes: a Gaussian over the effects, this kitchen and each dough, fed by readings of
which some are slips.

ln of the flow's scale is linear in what is unknown: the effects (known from the fit), an offset of
this kitchen and one of each dough. Minutes are learnt the same way from one offset for the kitchen
and one for each dough.

All readings of a dough are looked at together, whatever came first (`together`): each is either a
good one, as far off as bakes and rulers are, or a slip that may be anything. Where they leave it
open what the dough does, the band stays wide. The older count a little less than the newer, as
ovens and hands change. What they come to is one reading of the dough, which shifts effects, kitchen
and dough by as much as it can tell; a dough that is far from all that is usual teaches itself
rather than the kitchen. So the cost grows with the bakes, and not with the doughs times the bakes.
"""

import math
from collections import Counter, defaultdict
from collections.abc import Callable, Hashable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt

from finebatch.core.piece.evidence import MINUTES_LAW_SD, MinutesKnown
from finebatch.core.piece.portion import RawPiece
from finebatch.core.piece.spread import Offset, SpreadModel, baked_widths

Vector = npt.NDArray[np.float64]
Flags = npt.NDArray[np.bool_]

KITCHEN_SD, DOUGH_SD, BAKE_SD = 0.03, 0.02, 0.018
"""How far one kitchen, one dough and one bake stray from the model, in ln of width (typical
home spread of 3, 2 and 1 to 2 percent)."""
MEASURED_SD = 0.012
"""Reading one piece with a ruler, about a millimetre in eight centimetres."""
CAMERA_SD, CAMERA_PIECE_SD = 0.012, 0.008
"""What a photograph is off by in all its pieces together, by its corners and its lens, and in each
(drawn trays: 0.7 % and 0.6 %; corners that a hand puts are less sure; docs/photo.md)."""
PER_MASS = 0.4
"""By how much in ln a piece gets wider with its mass."""
FEWEST_UNEVEN = 6
"""Fewer pieces of one tray say nothing of how uneven portions are."""
USUAL_WEIGHS = 12.0
"""How many measured pieces the usual unevenness of a habit counts as much as."""
MINUTES_KITCHEN_SD, MINUTES_DOUGH_SD, MINUTES_BAKE_SD = 0.10, MINUTES_LAW_SD, 0.06
"""The same in ln of minutes; a dough strays by what the law misses in doughs of other formulas."""
DRIFT_SD, MINUTES_DRIFT_SD = 0.006, 0.02
"""How far a dough's readings drift from one bake of it to the next, in ln: after ten bakes an oven
or a hand may have changed by 2 % of width and 6 % of minutes."""
SLIPS, SLIP_SPAN = 0.08, 2.0
"""The share of readings that are slips (a wrong tray, a misread ruler, another portion), and the
span in ln that they may lie anywhere in: from a third to three times."""
STRANGERS, STRANGER_SD = 0.05, 0.25
"""The share of doughs that are unlike all others, and how far those may be off, in ln."""
LITTLE = 0.3
"""A reading that is less likely than this to be a good one is told of."""
STRANGE = 1.5
"""A dough whose readings come to more standard deviations than this is taken to be that much
stranger than doughs are: so much of it is its own."""
FARTHEST, GRID = 1.5, 1201
"""How far, in ln of the flow's scale or of minutes, anything is looked for, in so many places."""


Counts = Literal["auto", "in", "out"]


@dataclass(frozen=True, slots=True)
class MeasuredBake:
    """One bake as the book keeps it, beside what the model alone foresaw for it.

    `row` (n,) are the effects, `raw` the raw piece; `plain_minutes` leave out all learning.
    `counts` says whether it is learnt from: by how likely it is, fully, or not at all; `by_camera`
    that a photograph measured all pieces.
    """

    dough: Hashable
    row: Vector
    raw: RawPiece
    plain_minutes: float
    portion_cv: float
    widths_mm: tuple[float, ...]
    minutes: float | None
    counts: Counts = "auto"
    by_camera: bool = False


def portions_cv(widths_mm: Sequence[float]) -> float:
    """How uneven portions were (standard deviation over mean of mass) by the widths of their pieces
    in one photograph; at least two."""
    seen = float(np.var(np.log(widths_mm), ddof=1))
    return math.sqrt(max(seen - CAMERA_PIECE_SD**2, 0.0)) / PER_MASS


@dataclass(frozen=True, slots=True)
class _Own:
    """What a dough's readings add up to, beside what is shared: its own offset, given the shared
    unknowns s, is `variance` · (`total` − `along` · s); `along` (p,)."""

    variance: float
    total: float
    along: Vector

    @classmethod
    def unknown(cls, variance: float, places: int) -> "_Own":
        return cls(variance, 0.0, np.zeros(places))


@dataclass(frozen=True, slots=True)
class _Known:
    """A Gaussian over the shared unknowns, (p,) and (p, p), and each dough's own offset."""

    mean: Vector
    covariance: Vector
    doughs: Mapping[Hashable, _Own]
    fresh: _Own

    def own(self, dough: Hashable) -> _Own:
        """A dough's offset; that of one that was never baked."""
        return self.doughs.get(dough, self.fresh)

    def at(self, shared: Vector, dough: Hashable) -> tuple[float, float]:
        """Mean and variance of what `shared` (p,) of the shared unknowns and a dough come to."""
        own = self.own(dough)
        rest = shared - own.variance * own.along
        mean = own.variance * own.total + float(rest @ self.mean)
        return mean, own.variance + float(rest @ self.covariance @ rest)


@dataclass(frozen=True, slots=True)
class _Reading:
    """What a dough's bakes come to: how much of the shared unknowns is in it (p,), its value and
    variance, and the variance of the dough's own offset before it."""

    along: Vector
    value: float
    variance: float
    own_variance: float


def _add_up(
    covariance: Vector, readings: Mapping[Hashable, _Reading]
) -> tuple[Vector, Vector, dict[Hashable, _Own]]:
    """All readings against shared unknowns of that `covariance` (p, p) around 0: each dough's own
    offset is summed out, so that only the shared ones are solved."""
    places = len(covariance)
    information, pull = np.zeros((places, places)), np.zeros(places)
    doughs: dict[Hashable, _Own] = {}
    for dough, found in readings.items():
        sure = 1 / (found.variance + found.own_variance)
        information += sure * np.outer(found.along, found.along)
        pull += sure * found.value * found.along
        own = 1 / (1 / found.own_variance + 1 / found.variance)
        doughs[dough] = _Own(own, found.value / found.variance, found.along / found.variance)
    after = np.linalg.solve(np.eye(places) + covariance @ information, covariance)
    after = (after + after.T) / 2
    return after @ pull, after, doughs


@dataclass(frozen=True, slots=True)
class DoughLessons:
    """What all bakes say about one dough here; fits `foresee.Learnt`."""

    _width: _Known
    dough: Hashable
    bakes: int
    minutes: MinutesKnown
    _uneven: tuple[float, float] = (0.0, 0.0)

    def portion_cv(self, usual: float) -> float:
        """How uneven portions of this dough are, by photographs of its trays and what is `usual`
        (standard deviations over the mean of mass)."""
        total, pieces = self._uneven
        return math.sqrt((USUAL_WEIGHS * usual**2 + total) / (USUAL_WEIGHS + pieces))

    def width_offset(self, row: Vector) -> Offset:
        """The shift of ln scale, and what is still unknown, for a piece with effects `row`."""
        mean, variance = self._width.at(np.append(row, 1.0), self.dough)
        return Offset(mean, variance, BAKE_SD, self.bakes, self.dough in self._width.doughs)


@dataclass(frozen=True, slots=True)
class Lessons:
    """All that the book has taught. By the numbers of the bakes: how likely each is a good one, for
    widths and for minutes, 0 to 1."""

    _width: _Known
    _minutes: _Known
    _middles: Mapping[Hashable, float]
    _bakes: Mapping[Hashable, int]
    _timed: Mapping[Hashable, int]
    weights: Mapping[int, float]
    minutes_weights: Mapping[int, float]
    _uneven: Mapping[Hashable, tuple[float, float]]

    @property
    def bakes(self) -> int:
        """How many bakes something was learnt from."""
        return sum(self._bakes.values())

    @property
    def set_aside(self) -> frozenset[int]:
        """The bakes whose widths count little."""
        return _little(self.weights)

    @property
    def minutes_aside(self) -> frozenset[int]:
        """The bakes whose minutes count little."""
        return _little(self.minutes_weights)

    def kitchen_width(self) -> tuple[float, float]:
        """What this kitchen shifts a width's scale by in all, ln, and its standard deviation."""
        known = self._width
        return float(known.mean[-1]), math.sqrt(float(known.covariance[-1, -1]))

    def dough_width(self, dough: Hashable) -> tuple[float, float]:
        """What a dough's own nature shifts it by beside that, ln, and its standard deviation."""
        mean, variance = self._width.at(np.zeros(len(self._width.mean)), dough)
        return mean, math.sqrt(variance)

    def kitchen_minutes(self) -> float:
        """What this kitchen as a whole shifts minutes by, ln."""
        return float(self._minutes.mean[0])

    def of_dough(self, dough: Hashable) -> DoughLessons:
        """The lessons for one dough; one that was never baked profits from the kitchen's."""
        shift, _ = self._minutes.at(np.ones(1), dough)
        known = MinutesKnown(
            shift,
            self._minutes.own(dough).variance,
            self.kitchen_minutes(),
            self._middles.get(dough),
            self._timed.get(dough, 0),
        )
        return DoughLessons(
            self._width,
            dough,
            self._bakes.get(dough, 0),
            known,
            self._uneven.get(dough, (0.0, 0.0)),
        )


_AT = np.linspace(-FARTHEST, FARTHEST, GRID)


@dataclass(frozen=True, slots=True)
class Together:
    """What readings of one dough come to: mean and variance of its offset, and how likely each of
    them is a good one (n,)."""

    mean: float
    variance: float
    good: Vector


def _gauss(off: Vector, sd: Vector | float) -> Vector:
    found: Vector = np.exp(-0.5 * (off / sd) ** 2) / (sd * math.sqrt(2 * math.pi))
    return found


def together(likely: Vector, prior_sd: float, sure: Flags) -> Together:
    """What readings come to, of an offset that is about 0 within `prior_sd`.

    `likely` (n, `GRID`) is how likely each good reading is at every offset from −`FARTHEST` to it
    (density in ln). All of them are looked at together, so it makes no difference which came first.
    Those that the baker is `sure` (n,) of count as much as any other, and make no other a slip.
    """
    prior = (1 - STRANGERS) * _gauss(_AT, prior_sd) + STRANGERS * _gauss(_AT, STRANGER_SD)
    each = (1 - SLIPS) * likely + SLIPS / SLIP_SPAN
    mean, variance, share = _moments(np.log(prior) + np.log(each[~sure]).sum(axis=0))
    good: Vector = np.where(sure, 1.0, ((1 - SLIPS) * likely / each) @ share)
    if sure.any():
        told = -0.5 * (_AT - mean) ** 2 / variance + np.log(likely[sure] + 1e-300).sum(axis=0)
        mean, variance, _ = _moments(told)
    return Together(mean, variance, good)


def _moments(told: Vector) -> tuple[float, float, Vector]:
    """Mean and variance of an offset of that ln of likelihood (`GRID`,), and the share of each."""
    share = np.exp(told - told.max())
    share /= share.sum()
    mean = float(share @ _AT)
    return mean, float(share @ (_AT - mean) ** 2) + (_AT[1] - _AT[0]) ** 2 / 12, share


def _seen(bake: MeasuredBake) -> float:
    """ln of the mean measured width."""
    return math.log(sum(bake.widths_mm) / len(bake.widths_mm))


def _likely_width(bake: MeasuredBake, plain: float, aged: float) -> Vector:
    """How likely the measured width is at every offset of the flow (`GRID`,); `aged` is the
    variance in ln of flow that the time since then adds. Where a width hardly follows the flow, no
    flow is far off, and a width that no flow gives is likely at none."""
    foreseen, sensitivity = baked_widths(bake.raw, plain + _AT)
    of_one, of_all = (CAMERA_PIECE_SD, CAMERA_SD) if bake.by_camera else (MEASURED_SD, 0.0)
    each = of_one**2 + (PER_MASS * bake.portion_cv) ** 2
    flow = sensitivity**2 * (BAKE_SD**2 + aged)
    noise = flow + of_all**2 + each / len(bake.widths_mm)
    return _gauss(_seen(bake) - np.log(foreseen), np.sqrt(noise))


def _likely_minutes(bake: MeasuredBake, minutes: float, aged: float) -> Vector:
    off = math.log(minutes / bake.plain_minutes) - _AT
    return _gauss(off, math.sqrt(MINUTES_BAKE_SD**2 + aged))


def _numbers_by_dough(
    numbers: Iterable[int], bakes: Sequence[MeasuredBake]
) -> dict[Hashable, list[int]]:
    found: dict[Hashable, list[int]] = defaultdict(list)
    for n in numbers:
        found[bakes[n].dough].append(n)
    return found


def counts_little(good: float | None) -> bool:
    """Whether a reading that is that likely a good one counts so little that it is told."""
    return good is not None and good < LITTLE


def _little(good: Mapping[int, float]) -> frozenset[int]:
    return frozenset(n for n, share in good.items() if counts_little(share))


def _counting(good: Mapping[int, float], bakes: Sequence[MeasuredBake]) -> Counter[Hashable]:
    """How many bakes of each dough count for more than little."""
    return Counter(bakes[n].dough for n in good.keys() - _little(good))


@dataclass(frozen=True, slots=True)
class _Learnt:
    """All that was learnt of one kind of reading: what is known, how likely each bake is a good
    one, and where each dough's bakes alone come to."""

    known: _Known
    good: dict[int, float]
    alone: dict[Hashable, float]


def _reading(found: Together, along: Vector, shared: float, stray: float) -> tuple[_Reading, float]:
    """One reading of a dough that leads from what was known of it, `shared` (variance) and its own
    `stray` (sd), to what its bakes come to; and that, without what was known before."""
    usual = shared + stray**2
    odd = max((found.mean / STRANGE) ** 2, 1.02 * found.variance)
    own = max(usual, odd) - shared
    sure = 1 / found.variance - 1 / (shared + own)
    value = found.mean / found.variance / sure
    return _Reading(along, value, 1 / sure, own), value


def _learn(
    bakes: Sequence[MeasuredBake],
    numbers: Iterable[int],
    likely: Callable[[MeasuredBake, float], Vector],
    along: Callable[[MeasuredBake], Vector],
    covariance: Vector,
    strays: Callable[[MeasuredBake], float],
    fresh_sd: float,
    drift_sd: float,
) -> _Learnt:
    """Learn from the bakes of those `numbers` what is shared, `along` (p,) of it in each, and each
    dough, which `strays` so far (sd)."""
    readings: dict[Hashable, _Reading] = {}
    good: dict[int, float] = {}
    alone: dict[Hashable, float] = {}
    for dough, own in _numbers_by_dough(numbers, bakes).items():
        ages = range(len(own) - 1, -1, -1)
        each = [likely(bakes[n], (drift_sd * age) ** 2) for n, age in zip(own, ages, strict=True)]
        sure = np.array([bakes[n].counts == "in" for n in own])
        rows = np.array([along(bakes[n]) for n in own])
        stray = strays(bakes[own[-1]])
        shared = float(rows[-1] @ covariance @ rows[-1])
        found = together(np.array(each), math.sqrt(shared + stray**2), sure)
        good |= {n: float(share) for n, share in zip(own, found.good, strict=True)}
        weights = found.good + 1e-9
        mean_row = weights @ rows / weights.sum()
        readings[dough], alone[dough] = _reading(found, mean_row, shared, stray)
    mean, after, doughs = _add_up(covariance, readings)
    fresh = _Own.unknown(fresh_sd**2, len(covariance))
    return _Learnt(_Known(mean, after, doughs, fresh), good, alone)


def learn(model: SpreadModel, bakes: Sequence[MeasuredBake]) -> Lessons:
    """Learn from all bakes, oldest first."""
    n = len(model.mean)
    covariance = np.zeros((n + 1, n + 1))
    covariance[:n, :n] = model.covariance
    covariance[n, n] = KITCHEN_SD**2
    heard = {k: bake for k, bake in enumerate(bakes) if bake.counts != "out"}
    widths = _learn(
        bakes,
        [k for k, bake in heard.items() if bake.widths_mm],
        lambda bake, aged: _likely_width(bake, float(bake.row @ model.mean), aged),
        lambda bake: np.append(bake.row, 1.0),
        covariance,
        # A dough unlike any measured one may be further off the law, and so is learnt faster.
        lambda bake: math.hypot(model.unseen_sd(bake.row), DOUGH_SD),
        DOUGH_SD,
        DRIFT_SD,
    )
    little = _little(widths.good)
    minutes = _learn(
        bakes,
        # What was measured of a bake that is a slip is of another piece, and so its minutes.
        [k for k, bake in heard.items() if bake.minutes is not None and k not in little],
        lambda bake, aged: _likely_minutes(bake, bake.minutes or 0.0, aged),
        lambda _: np.ones(1),
        np.array([[MINUTES_KITCHEN_SD**2]]),
        lambda _: MINUTES_DOUGH_SD,
        MINUTES_DOUGH_SD,
        MINUTES_DRIFT_SD,
    )
    return Lessons(
        widths.known,
        minutes.known,
        minutes.alone,
        _counting(widths.good, bakes),
        _counting(minutes.good, bakes),
        widths.good,
        minutes.good,
        _unevenness(bakes, widths.good.keys() - little),
    )


def tells_portions(bake: MeasuredBake) -> bool:
    """Whether the widths of a bake say how uneven its portions were: of what is cut they do not."""
    many = len(bake.widths_mm) >= FEWEST_UNEVEN
    return bake.by_camera and many and not bake.raw.flat


def _unevenness(
    bakes: Sequence[MeasuredBake], numbers: Iterable[int]
) -> dict[Hashable, tuple[float, float]]:
    """For each dough, the sum of squares of its portions' masses (over their mean) in photographs,
    and of how many free pieces."""
    found: dict[Hashable, tuple[float, float]] = {}
    for bake in (bakes[n] for n in numbers if tells_portions(bakes[n])):
        total, pieces = found.get(bake.dough, (0.0, 0.0))
        more = len(bake.widths_mm) - 1
        found[bake.dough] = total + more * portions_cv(bake.widths_mm) ** 2, pieces + more
    return found
