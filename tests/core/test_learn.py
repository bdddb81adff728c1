import math
import random
from dataclasses import replace
from itertools import product
from statistics import mean

import numpy as np
import pytest

from finebatch.core.book.learn import (
    BAKE_SD,
    DOUGH_SD,
    KITCHEN_SD,
    LITTLE,
    MINUTES_BAKE_SD,
    MINUTES_DOUGH_SD,
    MINUTES_KITCHEN_SD,
    SLIPS,
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


def test_one_absurd_reading_counts_little_and_wrecks_nothing(models: Models) -> None:
    good = bake(models, (66, 67, 66))
    absurd = bake(models, (130, 140))
    with_it = learn(models.spread, [good, absurd, good])
    assert with_it.set_aside == {1}
    assert with_it.weights[1] < 0.01 < LITTLE < 0.9 < with_it.weights[0]
    middle, _ = foreseen(models, [good, absurd, good])
    assert middle == pytest.approx(foreseen(models, [good, good])[0], rel=0.003)


def test_one_reading_far_off_leaves_it_open_what_the_dough_does(models: Models) -> None:
    """A slip or a strange dough: the band says that it is not known which."""
    _, once = foreseen(models, [of_width(models, 1.0)])
    _, far = foreseen(models, [of_width(models, 1.22)])
    assert far > 1.05 * once


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
    shift = learn(models.spread, took).of_dough("A").minutes.shift
    assert math.log(0.85) < shift < 0.7 * math.log(0.85)
    elsewhere = learn(models.spread, took).of_dough("B").minutes.shift
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


def test_a_wrong_bake_counts_as_much_as_the_baker_says(models: Models) -> None:
    plain, _ = foreseen(models, [])
    wrong, right = of_width(models, 1.25), [of_width(models, 1.0)] * 2
    middles = [
        foreseen(models, [replace(wrong, counts=counts), *right])[0]
        for counts in ("out", "auto", "in")
    ]
    assert middles[0] == pytest.approx(plain, rel=0.003)
    assert middles[0] <= middles[1] * 1.001 < middles[2]
    assert middles[2] > 1.04 * plain


def test_an_oven_that_changed_is_followed(models: Models) -> None:
    plain, _ = foreseen(models, [])
    book = [of_width(models, 1.0)] * 6 + [of_width(models, 1.04)] * 3
    assert 0.97 < foreseen(models, book)[0] / (1.04 * plain) < 1
    assert foreseen(models, book)[0] > foreseen(models, book[::-1])[0]


def test_a_strange_dough_hardly_moves_the_others(models: Models) -> None:
    plain, _ = foreseen(models, [], "B")
    for off in (0.75, 1.3):
        moved, _ = foreseen(models, [of_width(models, off)] * 4, "B")
        assert abs(moved / plain - 1) < 0.04


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
    assert abs(lessons.of_dough("A").minutes.shift) < 0.02
    assert (lessons.of_dough("A").bakes, lessons.of_dough("A").minutes.timed) == (4, 3)
    kept = learn(models.spread, [replace(wrong, counts="in"), right, right, right])
    assert kept.minutes_aside == set()
    assert kept.of_dough("A").minutes.timed == 4


def test_one_bakes_minutes_are_shared_between_kitchen_and_dough_by_what_each_may_stray(
    models: Models,
) -> None:
    kitchen, dough, each = MINUTES_KITCHEN_SD**2, MINUTES_DOUGH_SD**2, MINUTES_BAKE_SD**2
    plain = bake(models, ()).plain_minutes
    lessons = learn(models.spread, [bake(models, (), minutes=plain * 1.1)])
    seen = math.log(1.1)
    both = (kitchen + dough) / (kitchen + dough + each) * seen
    known = lessons.of_dough("A").minutes
    assert known.shift == pytest.approx(both, rel=0.03)
    here = kitchen / (kitchen + dough) * known.shift
    assert lessons.kitchen_minutes() == pytest.approx(here)
    assert lessons.of_dough("never baked").minutes.shift == pytest.approx(here)
    assert known.own == pytest.approx(seen, rel=0.03)
    assert (known.timed, lessons.of_dough("A").bakes, lessons.bakes) == (1, 0, 0)


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


AT = np.linspace(-1.5, 1.5, 1201)


def by_hand(values: list[float], sd: float, prior_sd: float) -> tuple[float, float]:
    """By brute force over which readings are slips: each way with its weight in closed form."""
    total, mean = 0.0, 0.0
    for slips in product([False, True], repeat=len(values)):
        good = [v for v, slip in zip(values, slips, strict=True) if not slip]
        share = math.prod(SLIPS / 2 if slip else 1 - SLIPS for slip in slips)
        for odds, prior in ((0.95, prior_sd), (0.05, 0.25)):
            sure = len(good) / sd**2 + 1 / prior**2
            at = sum(good) / sd**2 / sure
            rest = sum(v**2 for v in good) / sd**2 - sure * at**2
            like = math.exp(-rest / 2) / (math.sqrt(2 * math.pi) * sd) ** len(good)
            weight = odds * share * like / prior / math.sqrt(sure)
            total, mean = total + weight, mean + weight * at
    return mean / total, total


@pytest.mark.parametrize(
    "values",
    [[0.1], [0.1, 0.12, 0.11], [0.02, 0.03, -0.6], [-0.5, -0.52, -0.49], [0.3, -0.3], [0.25]],
)
def test_readings_come_to_what_all_ways_of_slipping_come_to(values: list[float]) -> None:
    likely = np.exp(-0.5 * ((np.array(values)[:, None] - AT) / 0.03) ** 2) / (
        0.03 * math.sqrt(2 * math.pi)
    )
    found = together(likely, 0.08, np.zeros(len(values), bool))
    assert found.mean == pytest.approx(by_hand(values, 0.03, 0.08)[0], abs=1e-3)
    assert 0 < found.variance < 0.25
    assert np.all((found.good >= 0) & (found.good <= 1))
    taken = together(likely, 0.08, np.ones(len(values), bool))
    assert np.allclose(taken.good, 1)


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
