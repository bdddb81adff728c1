"""The three fits: width, lift and minutes, from measured cases and what was known before."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from finebatch.core.heat.minutes import (
    DONE_AT_C,
    SHEET_FACTOR,
    USUAL_DONENESS,
    HeatModel,
    oven_share,
)
from finebatch.core.heat.oven import conventional_c
from finebatch.core.larder.ingredient import Larder
from finebatch.core.piece.cases import Case
from finebatch.core.piece.effects import measure_effects
from finebatch.core.piece.fit import Posterior, Vector, fit_posterior
from finebatch.core.piece.foresee import Models
from finebatch.core.piece.portion import RawPiece, shape_piece
from finebatch.core.piece.spread import LAW_SD, Effect, SpreadModel, baked_width_mm
from finebatch.core.piece.thickness import (
    LiftModel,
    baked_area_mm2,
    fill_share,
    height_half_spread_mm,
)

LADDER_LAW_SD = 0.02
"""What the law misses of one step of a ladder against its base, in ln of width. With how surely a
width is known it says how much a step counts, as `LAW_SD` does of a case."""
BAKE_SD = 0.012
"""What is left from bake to bake once the formula is known, in ln of width (home figures)."""
LIFT_NOISE_SD = 0.10
MINUTES_NOISE_SD = 0.10


@dataclass(frozen=True, slots=True)
class Prior:
    """What was known of one figure before the fit: a mean and a standard deviation."""

    mean: float
    sd: float


Priors = Mapping[str, Mapping[str, Prior]]
"""Priors by model (lift, heat) and figure; shipped as `fit_priors.csv`."""

LIFT_FIGURES = ("plain", "soda", "powder", "egg")
HEAT_FIGURES = ("ln_tau_min", "power", "log")
DIGITS = 6


def _raw(case: Case, larder: Larder) -> RawPiece:
    return shape_piece(case.portion, case.composition(larder).density_g_cm3)


def ladder_steps(cases: Sequence[Case]) -> list[tuple[int, int, float]]:
    """Each step of each ladder with its base, by their places, and how surely the ratio of their
    widths is known, in ln."""
    bases = {
        ladder.name: n
        for n, case in enumerate(cases)
        for ladder in case.ladders
        if ladder.ratio_sd == 0
    }
    return [
        (n, bases[ladder.name], ladder.ratio_sd)
        for n, case in enumerate(cases)
        for ladder in case.ladders
        if ladder.ratio_sd > 0 and ladder.name in bases
    ]


def fit_spread(effects: tuple[Effect, ...], cases: Sequence[Case], larder: Larder) -> SpreadModel:
    """Fit every effect to the observed widths."""
    prior = SpreadModel(
        effects, np.zeros(len(effects)), np.zeros((0, 0)), BAKE_SD, np.zeros((0, 0))
    )
    raws = [_raw(case, larder) for case in cases]
    rows = [
        prior.row(measure_effects(case.composition(larder), raw, case.how), raw)
        for case, raw in zip(cases, raws, strict=True)
    ]

    steps = ladder_steps(cases)

    def residuals(beta: Vector) -> list[float]:
        misses = [
            math.log(case.observed_mm / baked_width_mm(raw, float(row @ beta))[0])
            for case, raw, row in zip(cases, raws, rows, strict=True)
        ]
        weighed = [
            miss / math.hypot(case.width_sd, LAW_SD)
            for miss, case in zip(misses, cases, strict=True)
        ]
        ratios = [
            (misses[n] - misses[base]) / math.hypot(sd, LADDER_LAW_SD) for n, base, sd in steps
        ]
        return weighed + ratios

    found = fit_posterior(
        residuals, [e.prior_mean for e in effects], [e.prior_sd for e in effects], 1.0
    )
    return SpreadModel(
        effects,
        found.mean.round(DIGITS),
        found.covariance.round(DIGITS + 3),
        BAKE_SD,
        np.array(rows).round(DIGITS),
    )


def _rounded(found: Posterior) -> list[float]:
    return [round(float(value), DIGITS) for value in found.mean]


def fit_lift(cases: Sequence[Case], larder: Larder, priors: Mapping[str, Prior]) -> LiftModel:
    """Fit baked over raw volume to the observed widths and heights."""
    rows, lifts = [], []
    for case in cases:
        if case.observed_thickness_mm is None:
            continue
        raw = _raw(case, larder)
        measured = measure_effects(case.composition(larder), raw, case.how)
        rows.append([1.0, measured["soda"], measured["powder"], 1 - measured["no_egg"]])
        wide, high = case.observed_mm, case.observed_thickness_mm
        baked = fill_share(raw, high, wide) * baked_area_mm2(raw, wide)
        lifts.append(math.log(baked * high / (1000 * raw.volume_cm3)))
    matrix = np.array(rows)
    found = fit_posterior(
        lambda beta: list(np.array(lifts) - matrix @ beta),
        [priors[name].mean for name in LIFT_FIGURES],
        [priors[name].sd for name in LIFT_FIGURES],
        LIFT_NOISE_SD,
        tails="cauchy",
    )
    plain, soda, powder, egg = _rounded(found)
    return LiftModel(plain, soda, powder, egg, LIFT_NOISE_SD)


def fit_heat(cases: Sequence[Case], larder: Larder, priors: Mapping[str, Prior]) -> HeatModel:
    """Fit minutes to the geometric middle of each usual range."""
    heights, shares, logs, observed = [], [], [], []
    for case in cases:
        doneness = case.doneness or USUAL_DONENESS[case.family]
        oven_c = conventional_c(case.how.oven_c, case.how.oven_mode)
        share = oven_share(oven_c, case.how.dough_temp_c, DONE_AT_C[doneness])
        raw = _raw(case, larder)
        heights.append(math.log(height_half_spread_mm(raw, case.observed_mm) / 6))
        logs.append(1.0 if raw.length_mm is not None else 0.0)
        shares.append(math.log(share * SHEET_FACTOR.get(case.how.surface, 1.0)))
        observed.append(math.log(math.sqrt(case.minutes[0] * case.minutes[1])))
    h, s, of_log, t = map(np.array, (heights, shares, logs, observed))
    found = fit_posterior(
        lambda beta: list(t - (beta[0] + beta[1] * h + beta[2] * of_log + s)),
        [priors[name].mean for name in HEAT_FIGURES],
        [priors[name].sd for name in HEAT_FIGURES],
        MINUTES_NOISE_SD,
    )
    tau, power, log = _rounded(found)
    return HeatModel(round(math.exp(tau), DIGITS), power, log, MINUTES_NOISE_SD)


def fit_models(
    effects: tuple[Effect, ...], priors: Priors, cases: Sequence[Case], larder: Larder
) -> Models:
    """All three models from the same cases."""
    return Models(
        fit_spread(effects, cases, larder),
        fit_lift(cases, larder, priors["lift"]),
        fit_heat(cases, larder, priors["heat"]),
    )
