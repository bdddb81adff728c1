import numpy as np
import pytest

from finebatch.core.larder.ingredient import Larder
from finebatch.core.piece.cases import Case, judge
from finebatch.core.piece.fit import fit_posterior
from finebatch.core.piece.fit_models import fit_heat, fit_spread
from finebatch.core.piece.foresee import Models
from finebatch.facts import tables


def test_a_straight_line_is_found() -> None:
    x = np.linspace(0, 1, 40)
    seen = 2.0 + 3.0 * x
    found = fit_posterior(lambda u: list(seen - (u[0] + u[1] * x)), [0.0, 0.0], [10.0, 10.0], 0.01)
    assert found.mean == pytest.approx([2.0, 3.0], abs=1e-3)
    assert np.sqrt(np.diag(found.covariance)).max() < 0.02


def test_without_data_the_prior_stays() -> None:
    found = fit_posterior(lambda u: [], [1.5, -2.0], [0.3, 0.7], 0.1)
    assert found.mean == pytest.approx([1.5, -2.0])
    assert np.sqrt(np.diag(found.covariance)) == pytest.approx([0.3, 0.7])


def test_one_look_meets_the_prior_half_way_when_both_are_as_sure() -> None:
    found = fit_posterior(lambda u: [1.0 - u[0]], [0.0], [0.2], 0.2)
    assert found.mean[0] == pytest.approx(0.5)
    assert found.covariance[0, 0] == pytest.approx(0.02)


def test_the_fit_does_not_depend_on_the_order_of_the_cases(
    cases: dict[str, Case], larder: Larder
) -> None:
    every = list(cases.values())
    one = fit_spread(tables.effects(), every, larder)
    other = fit_spread(tables.effects(), every[::-1], larder)
    assert one.mean == pytest.approx(other.mean, abs=2e-6)


def test_a_case_that_was_never_seen_pulls_the_fit_towards_it(
    cases: dict[str, Case], larder: Larder, models: Models
) -> None:
    every = list(cases.values())
    drops = [case for case in every if case.family == "drop"]
    for left_out in drops[:3]:
        rest = [case for case in every if case.id != left_out.id]
        without = Models(fit_spread(tables.effects(), rest, larder), models.lift, models.heat)
        assert abs(judge(left_out, models, larder).error_pct) <= (
            abs(judge(left_out, without, larder).error_pct) + 0.01
        )


def test_effects_that_no_case_shows_stay_as_they_were(
    cases: dict[str, Case], larder: Larder
) -> None:
    fitted = fit_spread(tables.effects(), list(cases.values()), larder)
    for effect, mean in zip(tables.effects(), fitted.mean, strict=True):
        if effect.key in ("insulated", "perforated"):
            assert mean == pytest.approx(effect.prior_mean, abs=1e-5)


def test_signs_that_are_certain_are_kept(models: Models) -> None:
    for effect, mean in zip(models.spread.effects, models.spread.mean, strict=True):
        if abs(effect.prior_mean) > 2 * effect.prior_sd:
            assert mean * effect.prior_mean > 0, effect.key


def test_the_covariance_is_one(models: Models) -> None:
    covariance = models.spread.covariance
    assert covariance == pytest.approx(covariance.T, abs=1e-8)
    assert np.linalg.eigvalsh(covariance).min() > -1e-6


def test_minutes_grow_with_height(cases: dict[str, Case], larder: Larder) -> None:
    from finebatch.core.piece.fit_models import Prior

    priors = {
        row.figure: Prior(row.prior_mean, row.prior_sd)
        for row in tables.prior_rows()
        if row.model == "heat"
    }
    heat = fit_heat(list(cases.values()), larder, priors)
    assert 0.2 < heat.figures["height"] < 1
    assert all(heat.figures[name] > 0 for name in ("soft", "set", "crisp", "dry", "chilled", "pan"))
