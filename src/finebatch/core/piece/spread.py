"""Spread: how wide a piece bakes, how sure that is, and what moves it most.

Dough in the oven is a paste with a yield stress that slumps until the structure sets. For a fixed
paste the slump of a mound gives D ~ V^(2/5) and of a long log w ~ A^(2/3); a piece that starts
wide grows little. One law covers balls, discs, slices, cut-outs and logs:

    D_flow = k · exp(x) · V^0.4          D_baked^8 = D_raw^8 + D_flow^8
    w_flow = k · exp(x) · A^(2/3)        w_baked^5 = w_raw^5 + w_flow^5      (long logs)

The logarithm of the flow is linear in the effects, so what is known of them is one Gaussian.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Annotated, Protocol

import numpy as np
import numpy.typing as npt
from annotated_types import Interval

from finebatch.core.piece.evidence import APART, By, SaidWidth, WidthSources, join_width
from finebatch.core.piece.portion import RawPiece

MOUND_POWER, LOG_POWER = 8, 5
EIGHT_IN_TEN = 1.2815515655446004
"""Half-width of the 80 % interval of a Gaussian, in standard deviations."""

SCALES = ("scale", "log_scale")
"""The effects that are the size of the flow itself, one of which every piece has."""

RULER_SD = 0.007
"""A width read off with a ruler is never surer than about half a mm in seven cm."""

EDGE_SD, BAKED_EDGE_SD = 0.03, 0.012
"""What the edge of a wide raw piece does when it hardly flows, for a dough that was never baked and
for one that was: it leans out or draws in by a mm or so (rolled pieces of household recipes end 4 %
narrower to 6 % wider than foreseen)."""

Vector = npt.NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Effect:
    """One effect's label for bakers and what is known of it before any fit."""

    key: str
    label: str
    per: str
    prior_mean: float
    prior_sd: Annotated[float, Interval(gt=0)]
    source: str


LAW_SD, UNSEEN_SD = 0.045, 0.06
"""What the law misses in any dough, and what more in one unlike any measured one, in ln of width:
chosen so that eight in ten cases lie in their band when each is foreseen from doughs of other
formulas (`make bench` prints the share)."""
UNSEEN_REACH = 0.05
"""Two doughs whose effects could part their widths by this much (ln) are one step apart."""


@dataclass(frozen=True, slots=True)
class SpreadModel:
    """A Gaussian over the effects: `mean` (n,) and `covariance` (n, n), in natural-log units.

    `noise_sd` is what the effects leave unexplained from one bake to the next; `measured` (cases,
    n) are the rows of the doughs that the effects were fitted to.
    """

    effects: tuple[Effect, ...]
    mean: Vector
    covariance: Vector
    noise_sd: float
    measured: Vector
    _reach: Vector = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        reach = [
            0.0 if e.key in SCALES else math.hypot(e.prior_mean, e.prior_sd) / UNSEEN_REACH
            for e in self.effects
        ]
        object.__setattr__(self, "_reach", np.array(reach))

    def unseen_sd(self, row: Vector) -> float:
        """What the law may miss in a dough whose effects are `row` (n,), in ln of width: `LAW_SD`
        beside a measured one, and all of `UNSEEN_SD` with it far from every one."""
        if not len(self.measured):
            return math.hypot(LAW_SD, UNSEEN_SD)
        squared = (((self.measured - row) * self._reach) ** 2).sum(axis=1).min()
        return math.hypot(LAW_SD, UNSEEN_SD * math.sqrt(1 - math.exp(-float(squared) / 2)))

    def row(self, measured: Mapping[str, float], raw: RawPiece) -> Vector:
        """The (n,) row that multiplies the effects to give ln of the flow's scale."""
        measured = dict(measured)
        measured["scale"] = 0.0 if raw.length_mm is not None else 1.0
        measured["log_scale"] = 1.0 - measured["scale"]
        return np.array([measured[e.key] for e in self.effects])


@dataclass(frozen=True, slots=True)
class Mover:
    """How many mm of width one effect adds to this piece, against the reference dough."""

    key: str
    label: str
    mm: float


@dataclass(frozen=True, slots=True)
class Offset:
    """What bakes have taught about one prediction, in ln of the flow's scale.

    `mean` is the shift; `variance` all that is still unknown of formula, dough and kitchen;
    `noise_sd` what remains from one bake to the next. `bakes` counts those of this dough that were
    good readings; `of_it` says that the variance is of what is known of this very dough.
    """

    mean: float
    variance: float
    noise_sd: float
    bakes: int
    of_it: bool = False


class Teaching(Protocol):
    """Whatever has learnt from bakes and can say how a prediction shifts."""

    def width_offset(self, row: Vector) -> Offset:
        """The offset for a piece whose effects are `row` (n,)."""


@dataclass(frozen=True, slots=True)
class Width:
    """A baked width in mm with its 80 % band, and where the band comes from (sd, share of 1);
    `sources` has what card and law say, where the card says anything."""

    middle_mm: float
    low_mm: float
    high_mm: float
    formula_sd: float
    oven_sd: float
    hands_sd: float
    learnt_mm: float
    bakes: int
    movers: tuple[Mover, ...]
    sources: WidthSources | None = None


def baked_width_mm(raw: RawPiece, log_scale: float) -> tuple[float, float]:
    """Baked width in mm at that ln of the flow's scale, and d ln width / d scale (0 to 1)."""
    if raw.form == "pan":
        return raw.width_mm, 0.0
    if raw.form == "slab":
        edge, share = baked_width_mm(raw.edge, log_scale)
        width = raw.width_mm + edge - raw.edge.width_mm
        return width, share * edge / width
    if raw.length_mm is None:
        flow, power = math.exp(log_scale) * raw.volume_cm3**0.4, MOUND_POWER
    else:
        flow, power = math.exp(log_scale) * raw.section_cm2 ** (2 / 3), LOG_POWER
    ratio = (flow / raw.width_mm) ** power
    return raw.width_mm * (1 + ratio) ** (1 / power), ratio / (1 + ratio)


def baked_widths(raw: RawPiece, log_scales: Vector) -> tuple[Vector, Vector]:
    """`baked_width_mm` at many scales (n,) at once."""
    if raw.form == "pan":
        return np.full_like(log_scales, raw.width_mm), np.zeros_like(log_scales)
    if raw.form == "slab":
        edges, shares = baked_widths(raw.edge, log_scales)
        widths = raw.width_mm + edges - raw.edge.width_mm
        return widths, shares * edges / widths
    size, power = (
        (raw.volume_cm3**0.4, MOUND_POWER)
        if raw.length_mm is None
        else (raw.section_cm2 ** (2 / 3), LOG_POWER)
    )
    ratios = (np.exp(log_scales) * size / raw.width_mm) ** power
    return raw.width_mm * (1 + ratios) ** (1 / power), ratios / (1 + ratios)


def flow_at(raw: RawPiece, width_mm: float) -> tuple[float, float] | None:
    """The ln of the flow's scale at which a piece bakes so wide, and how much of it is flow (0 to
    1); None where that is no wider than it lies, or where its width does not tell."""
    if raw.form in ("pan", "slab") or width_mm <= raw.width_mm:
        return None
    if raw.length_mm is None:
        size, power = raw.volume_cm3**0.4, MOUND_POWER
    else:
        size, power = raw.section_cm2 ** (2 / 3), LOG_POWER
    ratio = (width_mm / raw.width_mm) ** power - 1
    return math.log(raw.width_mm * ratio ** (1 / power) / size), ratio / (1 + ratio)


PART_OF = {"sugar_soda": "sugar", "oven_egg": "oven"}
"""Effects that are the same thing to a baker: how sugar and oven count in some doughs more."""


def _movers(model: SpreadModel, row: Vector, raw: RawPiece, at: float) -> tuple[Mover, ...]:
    middle, _ = baked_width_mm(raw, at)
    shares: dict[str, float] = {}
    for effect, share in zip(model.effects, row * model.mean, strict=True):
        if effect.key not in SCALES and share != 0:
            whole = PART_OF.get(effect.key, effect.key)
            shares[whole] = shares.get(whole, 0.0) + float(share)
    labels = {effect.key: effect.label for effect in model.effects}
    found = [
        Mover(key, labels[key], middle - baked_width_mm(raw, at - share)[0])
        for key, share in shares.items()
    ]
    return tuple(sorted(found, key=lambda m: (-abs(m.mm), m.key)))


def predict_width(
    model: SpreadModel,
    measured: Mapping[str, float],
    raw: RawPiece,
    *,
    portion_cv: float = 0.0,
    learnt: Teaching | None = None,
    said: SaidWidth | None = None,
    by: By = "all",
    explained: bool = True,
) -> Width:
    """Predict the baked width of one piece; `said` is what its card says, which counts as `by` has
    it.

    `portion_cv` is how uneven the portions are (standard deviation over mean of mass); `learnt`
    shifts and narrows the prediction by what this kitchen's bakes have shown. Without it, the
    piece is foreseen for home kitchens at large. What moves it is left out where it is not
    `explained`.
    """
    row = model.row(measured, raw)
    plain = float(row @ model.mean)
    unseen = model.unseen_sd(row)
    unknown = float(row @ model.covariance @ row)
    offset = learnt.width_offset(row) if learnt else Offset(0.0, unknown, model.noise_sd, 0)
    variance = offset.variance + (0.0 if offset.of_it else unseen**2)
    joined = join_width(offset.mean, variance, said, by)
    at = plain + joined.shift
    middle, sensitivity = baked_width_mm(raw, at)
    formula_sd = sensitivity * math.sqrt(joined.variance)
    oven_sd = sensitivity * offset.noise_sd
    # A disc's width is the cutter's or the log's; uneven slices differ in height.
    hands_sd = (0.4 if not raw.flat else 0.4 * sensitivity) * portion_cv
    edge_sd = (BAKED_EDGE_SD if offset.bakes else EDGE_SD) * (1 - sensitivity)
    sd = math.sqrt(formula_sd**2 + oven_sd**2 + hands_sd**2 + edge_sd**2 + RULER_SD**2)
    half = EIGHT_IN_TEN * sd
    law, _ = baked_width_mm(raw, plain)
    sources = None
    if said is not None:
        both = math.hypot(math.sqrt(unknown + unseen**2), said.sd)
        sources = WidthSources(
            law=law,
            reckoned=baked_width_mm(raw, plain + offset.mean)[0],
            card=baked_width_mm(raw, plain + said.shift)[0],
            card_share=joined.card_share,
            apart=abs(said.shift) > APART * both,
        )
    return Width(
        middle_mm=middle,
        low_mm=middle * math.exp(-half),
        high_mm=middle * math.exp(half),
        formula_sd=formula_sd,
        oven_sd=oven_sd,
        hands_sd=hands_sd,
        learnt_mm=baked_width_mm(raw, plain + offset.mean)[0] - law,
        bakes=offset.bakes,
        movers=_movers(model, row, raw, at) if explained else (),
        sources=sources,
    )
