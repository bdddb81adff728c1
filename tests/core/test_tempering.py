"""Out of the cold: how long a shape takes to come back, and where it thaws."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.heat.chilling import (
    BENCH_THAW_MOST_MIN,
    Shape,
    Tempering,
    ball_shape,
    disc_shape,
    follow,
    log_shape,
    tempering,
)
from tests.pieces import dough_of

KITCHEN = {"fridge_c": 4.0, "freezer_c": -18.0, "room_c": 21.0}
BUTTERY = dough_of({"sugar_white": 120.0})
shapes = st.floats(8, 60).map(lambda mm: disc_shape(6 * mm, mm))


def test_a_log_from_the_fridge_is_sliced_after_minutes() -> None:
    found = tempering(log_shape(45, 250), "slice", "fridge", **KITCHEN)
    assert found.thaw_min == 0
    assert 2 <= found.bench_min <= 8


def test_a_thick_disc_from_the_freezer_thaws_in_the_fridge_first() -> None:
    found = tempering(disc_shape(180, 25).of(BUTTERY), "roll", "freezer", **KITCHEN)
    assert 3 * 60 < found.thaw_min < 8 * 60
    assert found.bench_min < BENCH_THAW_MOST_MIN


def test_small_balls_thaw_on_the_bench() -> None:
    found = tempering(ball_shape(30), "scoop", "freezer", **KITCHEN)
    assert found.thaw_min == 0
    assert 20 < found.bench_min <= BENCH_THAW_MOST_MIN


@given(shapes)
def test_no_dough_is_longer_on_the_bench_than_leaves_time_to_portion_it(shape: Shape) -> None:
    found = tempering(shape, "scoop", "freezer", **KITCHEN)
    if found.thaw_min:
        alone = follow(shape, "room", 21, -18).reaches(8)
        assert alone is None or alone > BENCH_THAW_MOST_MIN
    else:
        assert found.bench_min <= BENCH_THAW_MOST_MIN


@given(shapes, st.floats(1.1, 2))
def test_thicker_takes_longer(shape: Shape, times: float) -> None:
    thicker = Shape("", tuple((side, times * half) for side, half in shape.sides))
    one, other = (tempering(s, "roll", "fridge", **KITCHEN) for s in (shape, thicker))
    assert other.bench_min >= one.bench_min


@pytest.mark.parametrize("room_c", [8.0, 10.0])
def test_a_room_too_cold_to_temper_in_is_not_waited_for(room_c: float) -> None:
    kitchen = {**KITCHEN, "room_c": room_c}
    assert tempering(disc_shape(180, 25), "roll", "fridge", **kitchen) == Tempering(0, 0)


def test_out_of_the_freezer_an_hour_on_the_bench_is_the_most() -> None:
    def alone(mm: float) -> int:
        return math.ceil(follow(ball_shape(mm), "room", 21, -18).reaches(8) or 0)

    across = next(mm for mm in range(20, 90) if alone(mm + 1) > BENCH_THAW_MOST_MIN)
    just = tempering(ball_shape(across), "scoop", "freezer", **KITCHEN)
    assert just == Tempering(0, alone(across))
    thick = ball_shape(across + 1)
    more = tempering(thick, "scoop", "freezer", **KITCHEN)
    thaw = follow(thick, "fridge", 4, -18).reaches(2)
    bench = follow(thick, "room", 21, 2).reaches(8)
    assert thaw is not None
    assert bench is not None
    assert more == Tempering(math.ceil(thaw), math.ceil(bench))
    slow = tempering(thick, "scoop", "freezer", **KITCHEN, slower=2)
    assert slow.thaw_min > more.thaw_min
    assert slow.bench_min == more.bench_min


def test_what_does_not_thaw_within_a_day_is_given_a_day() -> None:
    kitchen = {**KITCHEN, "fridge_c": 0.0}
    block = disc_shape(400, 60).of(BUTTERY)
    assert tempering(block, "roll", "freezer", **kitchen, slower=3).thaw_min == 24 * 60
