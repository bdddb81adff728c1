"""The three fits: width, lift and minutes, from measured cases and what was known before."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from finebatch.core.heat.minutes import (
    DONE_AT_C,
    USUAL_DONENESS,
    HeatModel,
    oven_drive,
    sheet_factor,
)
from finebatch.core.heat.oven import conventional_c
from finebatch.core.larder.ingredient import Larder
from finebatch.core.piece.cases import Case, DriedSlice
from finebatch.core.piece.effects import measure_effects
from finebatch.core.piece.fit import Posterior, Vector, fit_posterior
from finebatch.core.piece.foresee import Models
from finebatch.core.piece.portion import RawPiece, shape_piece
from finebatch.core.piece.spread import LAW_SD, Effect, SpreadModel, baked_width_mm
from finebatch.core.piece.thickness import (
    LIFTS,
    LiftModel,
    even_height_mm,
    fill_share,
    lift_terms,
)
from finebatch.core.piece.timing import TIMES, bake_terms

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

BUBBLES = "bubbles_mm"
DIGITS = 6


@dataclass(frozen=True, slots=True)
class _Seen:
    """A case as the fits see it: its raw piece, its effects and how wide it bakes (mm)."""

    case: Case
    raw: RawPiece
    measured: Mapping[str, float]
    wide_mm: float


def _seen(cases: Sequence[Case], larder: Larder) -> list[_Seen]:
    """All but the second bakes, which are of no piece of dough."""
    found = []
    for case in cases:
        if isinstance(case.portion, DriedSlice):
            continue
        raw = shape_piece(case.of_dough, case.composition(larder).density_g_cm3)
        measured = measure_effects(case.composition(larder), raw, case.how)
        wide = raw.width_mm if case.observed_mm is None else case.observed_mm
        found.append(_Seen(case, raw, measured, wide))
    return found


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
    seen = [one for one in _seen(cases, larder) if one.case.observed_mm is not None]
    # Ropes have no law of their own to fit: they are logs.
    seen = [one for one in seen if one.raw.form != "rope"]
    rows = [prior.row(one.measured, one.raw) for one in seen]
    steps = ladder_steps([one.case for one in seen])

    def residuals(beta: Vector) -> list[float]:
        misses = [
            math.log(one.wide_mm / baked_width_mm(one.raw, float(row @ beta))[0])
            for one, row in zip(seen, rows, strict=True)
        ]
        weighed = [
            miss / math.hypot(one.case.width_sd, LAW_SD)
            for miss, one in zip(misses, seen, strict=True)
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


def _named(names: Sequence[str], found: Posterior) -> dict[str, float]:
    return {name: round(float(v), DIGITS) for name, v in zip(names, found.mean, strict=False)}


def fit_lift(cases: Sequence[Case], larder: Larder, priors: Mapping[str, Prior]) -> LiftModel:
    """Fit baked over raw volume, and what bubbles add, to the observed widths and heights."""
    rows, evens, filled = [], [], []
    for one in _seen(cases, larder):
        high = one.case.observed_thickness_mm
        if high is None:
            continue
        terms = lift_terms(one.measured)
        rows.append([terms[name] for name in LIFTS])
        evens.append(even_height_mm(one.raw, one.wide_mm))
        filled.append(math.log(fill_share(one.raw, high, one.wide_mm) * high))
    matrix, even, observed = np.array(rows), np.array(evens), np.array(filled)
    names = (*LIFTS, BUBBLES)

    def residuals(beta: Vector) -> list[float]:
        lifted = even * np.exp(matrix @ beta[:-1]) + max(float(beta[-1]), 0.0)
        return list(observed - np.log(lifted))

    found = fit_posterior(
        residuals,
        [priors[name].mean for name in names],
        [priors[name].sd for name in names],
        LIFT_NOISE_SD,
        tails="soft_l1",
    )
    figures = _named(names, found)
    return LiftModel({name: figures[name] for name in LIFTS}, figures[BUBBLES], LIFT_NOISE_SD)


def fit_heat(cases: Sequence[Case], larder: Larder, priors: Mapping[str, Prior]) -> HeatModel:
    """Fit minutes to the geometric middle of each usual range."""
    rows, observed = [], []
    for one in _seen(cases, larder):
        case = one.case
        if case.minutes is None:
            continue
        doneness = case.doneness or USUAL_DONENESS[case.family]
        terms = bake_terms(one.measured, one.raw, one.wide_mm, doneness)
        rows.append([terms[name] for name in TIMES])
        still_c = conventional_c(case.how.oven_c, case.how.oven_mode)
        factor = sheet_factor(case.how.surface, 1) / oven_drive(still_c, DONE_AT_C[doneness])
        observed.append(math.log(math.sqrt(case.minutes[0] * case.minutes[1]) / factor))
    matrix, took = np.array(rows), np.array(observed)
    found = fit_posterior(
        lambda beta: list(took - matrix @ beta),
        [priors[name].mean for name in TIMES],
        [priors[name].sd for name in TIMES],
        MINUTES_NOISE_SD,
    )
    return HeatModel(_named(TIMES, found), MINUTES_NOISE_SD)


def fit_models(
    effects: tuple[Effect, ...], priors: Priors, cases: Sequence[Case], larder: Larder
) -> Models:
    """All three models from the same cases."""
    return Models(
        fit_spread(effects, cases, larder),
        fit_lift(cases, larder, priors["lift"]),
        fit_heat(cases, larder, priors["heat"]),
    )
