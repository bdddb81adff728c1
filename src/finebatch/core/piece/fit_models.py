"""The three fits: width, lift and minutes, from measured cases and what was known before."""

import math
from collections.abc import Sequence

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
from finebatch.core.piece.spread import Effect, SpreadModel, baked_width_mm
from finebatch.core.piece.thickness import (
    LiftModel,
    baked_area_mm2,
    fill_share,
    height_half_spread_mm,
)

WIDTH_NOISE_SD = 0.025
"""What is left from bake to bake once the formula is known, in ln of width (home figures)."""
LIFT_NOISE_SD = 0.10
MINUTES_NOISE_SD = 0.10

LIFT_PRIOR = {"plain": (0.10, 0.15), "soda": (0.15, 0.10), "powder": (0.20, 0.10),
              "egg": (0.10, 0.10)}  # fmt: skip
"""Baked over raw volume runs from 0.95 (dense shortbread) upwards (household trials)."""

HEAT_PRIOR = {"tau_min": (math.log(16.0), 0.15), "power": (0.70, 0.25),
              "log": (0.30, 0.30)}  # fmt: skip
"""Sixteen minutes at 6 mm, growing with height to the power 0.7 (lumped heating, trials)."""

DIGITS = 6


def _raw(case: Case, larder: Larder) -> RawPiece:
    return shape_piece(case.portion, case.composition(larder).density_g_cm3)


def fit_spread(effects: tuple[Effect, ...], cases: Sequence[Case], larder: Larder) -> SpreadModel:
    """Fit every effect to the observed widths."""
    prior = SpreadModel(effects, np.zeros(len(effects)), np.zeros((0, 0)), WIDTH_NOISE_SD)
    raws = [_raw(case, larder) for case in cases]
    rows = [
        prior.row(measure_effects(case.composition(larder), raw, case.how), raw)
        for case, raw in zip(cases, raws, strict=True)
    ]

    def residuals(beta: Vector) -> list[float]:
        return [
            math.log(case.observed_mm / baked_width_mm(raw, float(row @ beta))[0])
            for case, raw, row in zip(cases, raws, rows, strict=True)
        ]

    found = fit_posterior(
        residuals, [e.prior_mean for e in effects], [e.prior_sd for e in effects], WIDTH_NOISE_SD
    )
    return SpreadModel(
        effects, found.mean.round(DIGITS), found.covariance.round(DIGITS + 3), WIDTH_NOISE_SD
    )


def _rounded(found: Posterior) -> list[float]:
    return [round(float(value), DIGITS) for value in found.mean]


def fit_lift(cases: Sequence[Case], larder: Larder) -> LiftModel:
    """Fit baked over raw volume to the observed widths and heights."""
    rows, lifts = [], []
    for case in cases:
        if case.observed_thickness_mm is None:
            continue
        raw = _raw(case, larder)
        measured = measure_effects(case.composition(larder), raw, case.how)
        rows.append([1.0, measured["soda"], measured["powder"], 1 - measured["eggless"]])
        baked = fill_share(raw) * baked_area_mm2(raw, case.observed_mm)
        lifts.append(math.log(baked * case.observed_thickness_mm / (1000 * raw.volume_cm3)))
    matrix = np.array(rows)
    found = fit_posterior(
        lambda beta: list(np.array(lifts) - matrix @ beta),
        [mean for mean, _ in LIFT_PRIOR.values()],
        [sd for _, sd in LIFT_PRIOR.values()],
        LIFT_NOISE_SD,
    )
    plain, soda, powder, egg = _rounded(found)
    return LiftModel(plain, soda, powder, egg, LIFT_NOISE_SD)


def fit_heat(cases: Sequence[Case], larder: Larder) -> HeatModel:
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
        [mean for mean, _ in HEAT_PRIOR.values()],
        [sd for _, sd in HEAT_PRIOR.values()],
        MINUTES_NOISE_SD,
    )
    tau, power, log = _rounded(found)
    return HeatModel(round(math.exp(tau), DIGITS), power, log, MINUTES_NOISE_SD)


def fit_models(effects: tuple[Effect, ...], cases: Sequence[Case], larder: Larder) -> Models:
    """All three models from the same cases."""
    return Models(
        fit_spread(effects, cases, larder), fit_lift(cases, larder), fit_heat(cases, larder)
    )
