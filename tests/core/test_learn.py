import math
import random
from dataclasses import replace
from statistics import mean

import numpy as np
import pytest

from finebatch.core.book.learn import (
    BAKE_SD,
    DOUGH_SD,
    KITCHEN_SD,
    MINUTES_BAKE_SD,
    MINUTES_DOUGH_SD,
    MINUTES_KITCHEN_SD,
    MeasuredBake,
    learn,
    together,
)
from finebatch.core.formula.composition import compose
from finebatch.core.piece.effects import BakeConditions, measure_effects
from finebatch.core.piece.foresee import Models, foresee
from finebatch.core.piece.portion import CutDisc, MassPortion, shape_piece
from finebatch.core.piece.spread import predict_width
from finebatch.facts import tables

HOW = BakeConditions(21, 180, "conventional", "parchment")
FORMULA = {
    "flour_ap": 270.0,
    "butter_unsalted": 170.0,
    "sugar_brown_light": 200.0,
    "egg_whole": 50.0,
    "baking_soda": 4.0,
}
OTHER = {**FORMULA, "oats_rolled": 120.0, "raisins": 100.0}


def bake(
    models: Models, widths: tuple[float, ...], *, dough: str = "A", minutes: float | None = None
) -> MeasuredBake:
    made = compose(FORMULA if dough == "A" else OTHER, tables.larder())
    found = foresee(models, made, "drop", MassPortion(30), HOW)
    effects = measure_effects(made, found.raw, HOW)
    return MeasuredBake(
        dough=dough,
        row=models.spread.row(effects, found.raw),
        raw=found.raw,
        plain_minutes=found.minutes,
        portion_cv=0.03,
        widths_mm=widths,
        minutes=minutes,
    )


def foreseen(models: Models, bakes: list[MeasuredBake], dough: str = "A") -> tuple[float, float]:
    made = compose(FORMULA if dough == "A" else OTHER, tables.larder())
    raw = shape_piece(MassPortion(30), made.density_g_cm3)
    lessons = learn(models.spread, bakes)
    width = predict_width(
        models.spread, measure_effects(made, raw, HOW), raw, learnt=lessons.of_dough(dough)
    )
    return width.middle_mm, width.high_mm / width.low_mm


def test_predictions_move_towards_what_was_measured_and_the_band_narrows(
    models: Models,
) -> None:
    plain, wide = foreseen(models, [])
    truth = plain * 0.92
    before = abs(plain - truth)
    bakes: list[MeasuredBake] = []
    for _ in range(3):
        bakes.append(bake(models, (truth, truth * 1.01, truth * 0.99)))
        middle, band = foreseen(models, bakes)
        assert abs(middle - truth) < before
        assert band < wide
        before, wide = abs(middle - truth), band
    assert before / truth < 0.03


def test_another_dough_in_the_same_kitchen_profits(models: Models) -> None:
    plain, wide = foreseen(models, [], "B")
    narrow = plain * 0.92 / plain
    shifted, band = foreseen(models, [bake(models, (70 * narrow,) * 3)] * 2, "B")
    assert shifted < plain
    assert band < wide


def test_one_absurd_reading_is_set_aside_and_wrecks_nothing(models: Models) -> None:
    good = bake(models, (66, 67, 66))
    absurd = bake(models, (130, 140))
    with_it = learn(models.spread, [good, absurd, good])
    assert with_it.set_aside == {1}
    assert foreseen(models, [good, absurd, good]) == pytest.approx(foreseen(models, [good, good]))


def test_three_measured_bakes_bring_the_error_of_a_dough_to_three_percent(
    models: Models,
) -> None:
    chance = random.Random(7)
    errors = []
    plain, _ = foreseen(models, [])
    for _ in range(60):
        truth = plain * math.exp(chance.gauss(0, 0.03) + chance.gauss(0, 0.02))
        bakes = []
        for _ in range(3):
            here = truth * math.exp(chance.gauss(0, BAKE_SD))
            bakes.append(
                bake(models, tuple(here * math.exp(chance.gauss(0, 0.015)) for _ in "123"))
            )
        errors.append(abs(foreseen(models, bakes)[0] / truth - 1))
    assert mean(errors) < 0.02
    assert np.quantile(errors, 0.9) < 0.03


def test_minutes_are_learnt_too(models: Models) -> None:
    plain = bake(models, ()).plain_minutes
    took = [bake(models, (), minutes=plain * 0.85)] * 3
    shift = learn(models.spread, took).of_dough("A").minutes_shift
    assert math.log(0.85) < shift < 0.7 * math.log(0.85)
    elsewhere = learn(models.spread, took).of_dough("B").minutes_shift
    assert shift < elsewhere < 0


def of_width(models: Models, share: float) -> MeasuredBake:
    """A bake that came out so many times as wide as foreseen."""
    plain, _ = foreseen(models, [])
    return bake(models, tuple(plain * share * one for one in (0.99, 1.0, 1.01)))


@pytest.mark.parametrize("off", [0.88, 1.12, 1.25])
def test_a_wrong_first_bake_locks_nothing(models: Models, off: float) -> None:
    """And it makes no difference when it came."""
    plain, _ = foreseen(models, [])
    wrong, right = of_width(models, off), of_width(models, 1.0)
    orders = [[wrong, right, right, right], [right, wrong, right, right], [right] * 3 + [wrong]]
    found = [foreseen(models, order)[0] for order in orders]
    assert all(abs(middle / plain - 1) < 0.02 for middle in found)
    assert max(found) / min(found) < 1.01
    assert [learn(models.spread, order).set_aside for order in orders] == [{0}, {1}, {3}]


def test_a_dough_that_is_always_off_is_learnt_and_not_set_aside(models: Models) -> None:
    plain, _ = foreseen(models, [])
    bakes = [of_width(models, 0.85)] * 3
    assert not learn(models.spread, bakes).set_aside
    assert abs(foreseen(models, bakes)[0] / (0.85 * plain) - 1) < 0.03


def test_minutes_that_are_far_off_are_set_aside_for_themselves(models: Models) -> None:
    plain = bake(models, ()).plain_minutes
    wrong, right = (
        bake(models, (67, 67), minutes=plain * 2.2),
        bake(models, (67, 67), minutes=plain),
    )
    lessons = learn(models.spread, [wrong, right, right, right])
    assert (lessons.set_aside, lessons.minutes_aside) == (set(), {0})
    assert abs(lessons.of_dough("A").minutes_shift) < 0.02
    assert (lessons.of_dough("A").bakes, lessons.of_dough("A").timed) == (4, 3)
    kept = learn(models.spread, [replace(wrong, counts="in"), right, right, right])
    assert kept.minutes_aside == set()
    assert kept.of_dough("A").timed == 4


def test_one_bakes_minutes_are_shared_between_kitchen_and_dough_by_what_each_may_stray(
    models: Models,
) -> None:
    kitchen, dough, each = MINUTES_KITCHEN_SD**2, MINUTES_DOUGH_SD**2, MINUTES_BAKE_SD**2
    plain = bake(models, ()).plain_minutes
    lessons = learn(models.spread, [bake(models, (), minutes=plain * 1.1)])
    seen = math.log(1.1)
    both = (kitchen + dough) / (kitchen + dough + each) * seen
    assert lessons.of_dough("A").minutes_shift == pytest.approx(both)
    here = kitchen / (kitchen + dough + each) * seen
    assert lessons.kitchen_minutes() == pytest.approx(here)
    assert lessons.of_dough("never baked").minutes_shift == pytest.approx(here)
    assert (lessons.of_dough("A").timed, lessons.of_dough("A").bakes, lessons.bakes) == (1, 0, 0)


def test_widths_shift_kitchen_and_dough_the_way_they_came_out(models: Models) -> None:
    none = learn(models.spread, [])
    assert none.kitchen_width()[0] == none.dough_width("A")[0] == 0
    wide = learn(models.spread, [of_width(models, 1.08)] * 3)
    assert wide.kitchen_width()[0] > wide.dough_width("B")[0] == pytest.approx(0, abs=1e-9)
    assert wide.dough_width("A")[0] > 0
    assert 0 < wide.kitchen_width()[1] < none.kitchen_width()[1]
    assert wide.dough_width("B")[1] == pytest.approx(DOUGH_SD)
    assert none.kitchen_width()[1] == pytest.approx(KITCHEN_SD)
    narrow = learn(models.spread, [of_width(models, 0.92)] * 3)
    assert narrow.kitchen_width()[0] < 0 > narrow.dough_width("A")[0]
    assert wide.bakes == 3


def likeliest(values: list[float], sds: list[float], prior_sd: float) -> float:
    """By brute force: where Student's tails of all readings and the prior come to the most."""

    def unlikely(at: float) -> float:
        tails = (
            2.5 * math.log1p(((v - at) / sd) ** 2 / 4) for v, sd in zip(values, sds, strict=True)
        )
        return sum(tails) + 0.5 * (at / prior_sd) ** 2

    return min(np.linspace(-1.6, 1.6, 32_001), key=unlikely)


@pytest.mark.parametrize(
    ("values", "sds"),
    [
        ([0.1], [0.05]),
        ([0.1, 0.12, 0.11], [0.05, 0.02, 0.04]),
        ([0.02, 0.03, -0.6], [0.03, 0.03, 0.03]),
        ([-1.2, -1.3, -1.25], [0.05, 0.05, 0.05]),
        ([0.3, -0.3], [0.1, 0.02]),
        ([5.0, 5.0, 5.0, 0.0], [0.1, 0.1, 0.1, 0.1]),
    ],
)
def test_readings_come_to_where_they_are_likeliest_together(
    values: list[float], sds: list[float]
) -> None:
    at, variance = together(np.array(values), np.array(sds), 0.5)
    if max(map(abs, values)) < 2:
        assert at == pytest.approx(likeliest(values, sds, 0.5), abs=2e-3)
    assert 0 < variance < 0.25
    mirrored, same = together(-np.array(values), np.array(sds), 0.5)
    assert (mirrored, same) == (pytest.approx(-at), pytest.approx(variance))


def test_two_readings_are_surer_than_one_and_a_sure_one_surer_still() -> None:
    one, two, sure = (
        together(np.full(n, 0.05), np.full(n, sd), 0.5)[1]
        for n, sd in ((1, 0.05), (2, 0.05), (1, 0.02))
    )
    assert sure < two < one
    # At its middle each reading weighs (ν + 1) / ν, beside the prior.
    at, variance = together(np.array([0.0]), np.array([0.05]), 0.5)
    assert at == 0
    assert 1 / variance == pytest.approx(5 / 4 / 0.05**2 + 1 / 0.5**2)


def test_a_cut_piece_tells_little_by_its_width_and_is_set_aside_when_it_is_absurd(
    models: Models,
) -> None:
    made = compose(FORMULA, tables.larder())
    disc = foresee(models, made, "rolled", CutDisc(70, 5), HOW)
    effects = measure_effects(made, disc.raw, HOW)
    cut = replace(bake(models, ()), row=models.spread.row(effects, disc.raw), raw=disc.raw)
    ball_too = learn(models.spread, [of_width(models, 1.05)] * 3).kitchen_width()
    as_foreseen = replace(cut, widths_mm=(disc.width.middle_mm * 1.01,))
    assert learn(models.spread, [as_foreseen] * 3).kitchen_width()[1] > ball_too[1]
    shrunk = replace(cut, widths_mm=(58.0, 58.0))
    assert learn(models.spread, [as_foreseen, shrunk, as_foreseen]).set_aside == {1}
