"""Chilling and tempering against kitchen figures, and their physical sense."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.heat.chilling import (
    Shape,
    ball_shape,
    chill,
    disc_shape,
    follow,
    log_shape,
    slab_shape,
    time_constant_min,
)
from finebatch.core.refusal import Refusal


@pytest.mark.parametrize(
    ("shape", "minutes"), [(disc_shape(150, 25), 70), (log_shape(50, 300), 85)]
)
def test_shapes_cool_as_kitchens_know_them(shape: Shape, minutes: float) -> None:
    took = follow(shape, "fridge", 4, 24).reaches(10)
    assert took == pytest.approx(minutes, rel=0.12)


sizes = st.floats(10, 60)


@given(sizes, st.floats(15, 28), st.floats(5, 14))
def test_a_thicker_slab_never_cools_faster(thick: float, start: float, wanted: float) -> None:
    thin, more = (follow(slab_shape(t), "fridge", 4, start) for t in (thick, thick * 1.3))
    first, second = thin.reaches(wanted), more.reaches(wanted)
    assert first is not None
    assert second is None or second >= first


@given(sizes, st.floats(-30, 8), st.floats(15, 28))
def test_a_curve_runs_one_way_and_never_past_the_air(
    across: float, air: float, start: float
) -> None:
    temps = follow(ball_shape(across), "freezer", air, start).temps_c
    assert all(a >= b >= air - 1e-6 for a, b in pairwise(temps))


def test_freezing_takes_longer_than_cooling_alone() -> None:
    curve = follow(ball_shape(40), "freezer", -18, 20)
    above, through = curve.reaches(-3), curve.reaches(-12)
    assert above is not None
    assert through is not None
    # Nine kelvin through freezing take longer than the nine before them.
    before = curve.reaches(6)
    assert before is not None
    assert through - above > above - before


def test_ready_best_and_hard_come_in_that_order_and_tempering_leads_back() -> None:
    found = chill(log_shape(50, 300), "slice", "freezer", start_c=23, air_c=-18, room_c=21)
    assert found.ready_min is not None
    assert found.best_min is not None
    assert found.hard_min is not None
    assert 0 < found.ready_min < found.best_min < found.hard_min
    assert found.bench_min is not None
    assert found.bench_min > 0
    assert found.temper_min is not None
    assert found.temper_min > 0


def test_a_place_that_is_not_cold_enough_says_so() -> None:
    with pytest.raises(Refusal, match="Use a colder place"):
        chill(disc_shape(150, 25), "slice", "fridge", start_c=23, air_c=9, room_c=21)


def test_the_heat_has_to_come_out_of_the_middle_too() -> None:
    thin, thick = (time_constant_min(slab_shape(mm), "fridge") for mm in (15, 60))
    # By its surface alone it would be four times as long; dough leads heat badly.
    assert 4 * 1.15 < thick / thin < 4 * 1.4
