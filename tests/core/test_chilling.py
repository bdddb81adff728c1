"""Chilling and tempering against kitchen figures, and their physical sense."""

import math
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.heat.chilling import (
    Curve,
    Shape,
    ball_shape,
    chill,
    disc_across_mm,
    disc_shape,
    follow,
    log_shape,
    slab_shape,
    time_constant_min,
)
from finebatch.core.measures.figures import read_in
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


@pytest.mark.parametrize(
    ("curve", "wanted", "minutes"),
    [
        (Curve("fridge", 4, (10, 8, 6)), 8, 0.5),
        (Curve("fridge", 4, (10, 8, 6)), 7, 1.0),
        (Curve("fridge", 4, (10, 8, 6)), 10, 0.0),
        (Curve("fridge", 4, (10, 8, 6)), 12, 0.0),
        (Curve("fridge", 4, (10, 8, 6)), 5, None),
        (Curve("room", 21, (4, 8, 12)), 8, 0.5),
        (Curve("room", 21, (4, 8, 12)), 9, 1.0),
        (Curve("room", 21, (4, 8, 12)), 4, 0.0),
        (Curve("room", 21, (4, 8, 12)), 2, 0.0),
        (Curve("room", 21, (4, 8, 12)), 15, None),
        # as warm as the air around it: it stays so
        (Curve("room", 21, (21,)), 21, 0.0),
        (Curve("room", 21, (21,)), 24, None),
    ],
)
def test_a_curve_is_read_at_the_first_minute_that_is_there(
    curve: Curve, wanted: float, minutes: float | None
) -> None:
    assert curve.reaches(wanted) == minutes


def test_each_half_minute_goes_by_the_law() -> None:
    tau = time_constant_min(slab_shape(20), "fridge")
    first, second, *_ = follow(slab_shape(20), "fridge", 4, 24).temps_c
    assert (first, second) == (24, pytest.approx(24 - 20 * 0.5 / tau))
    _, slower, *_ = follow(slab_shape(20), "fridge", 4, 24, 2.0).temps_c
    assert slower == pytest.approx(24 - 20 * 0.5 / tau / 2)
    # Its water freezes between −3 and −12 °C: 40 kJ over nine kelvin beside 2.4 kJ for each.
    _, freezing, *_ = follow(slab_shape(20), "freezer", -18, -5).temps_c
    cold = time_constant_min(slab_shape(20), "freezer")
    assert -5 - freezing == pytest.approx(13 * 0.5 / cold / (1 + 40 / 9 / 2.4))
    for outside in (-3, -12):
        _, plain, *_ = follow(slab_shape(20), "freezer", -18, outside).temps_c
        assert outside - plain == pytest.approx((outside + 18) * 0.5 / cold)


def test_it_is_followed_until_it_is_near_the_air_and_a_day_at_most() -> None:
    temps = follow(slab_shape(20), "fridge", 4, 24).temps_c
    assert temps[-1] <= 4.3 < temps[-2]
    assert len(follow(slab_shape(20), "fridge", 4, 24, slower=100).temps_c) == 2 * 24 * 60


@pytest.mark.parametrize(
    ("shape", "words", "over"),
    [
        (disc_shape(200, 20), "a disc 20 cm wide, 20 mm thick", 200 * 20 / 480),
        (log_shape(45, 250), "a log 4.5 cm across, 25 cm long", 45 * 250 / 1090),
        (ball_shape(38), "balls 3.8 cm across", 38 / 6),
        (slab_shape(12), "a slab 12 mm thick", 6),
    ],
)
def test_a_shape_is_its_words_and_its_volume_over_its_surface(
    shape: Shape, words: str, over: float
) -> None:
    assert read_in(shape.words) == words
    assert shape.volume_over_area_mm == pytest.approx(over)


def test_a_disc_is_as_wide_as_its_volume_and_thickness_make_it() -> None:
    across = disc_across_mm(500, 25)
    assert math.pi / 4 * across**2 * 25 == pytest.approx(500_000)


def test_what_is_asked_of_the_cold_is_read_off_its_curves() -> None:
    shape, start = slab_shape(25), 23.0
    found = chill(shape, "roll", "fridge", start_c=start, air_c=4, room_c=21)
    cold, bench = follow(shape, "fridge", 4, start), follow(shape, "room", 21, 12)
    assert found.to_c == (10, 14)
    assert (found.ready_min, found.best_min) == (cold.reaches(14), cold.reaches(12))
    assert found.hard_min == cold.reaches(10)
    assert found.bench_min == bench.reaches(14)
    assert found.temper_min == follow(shape, "room", 21, 4).reaches(10)
    slow = chill(shape, "roll", "fridge", start_c=start, air_c=4, room_c=21, slower=2)
    assert slow.ready_min == follow(shape, "fridge", 4, start, 2).reaches(14)
    # A dough that is colder than that already warms from where it is.
    cool = chill(shape, "roll", "fridge", start_c=3, air_c=4, room_c=21)
    assert cool.bench_min == follow(shape, "room", 21, 3).reaches(14)
    assert cool.temper_min == follow(shape, "room", 21, 3).reaches(10)


@pytest.mark.parametrize(("air_c", "refused"), [(7.7, False), (7.71, True)])
def test_a_place_is_cold_enough_when_it_gets_there_in_useful_time(
    air_c: float, refused: bool
) -> None:
    def asked() -> float | None:
        return chill(
            slab_shape(25), "slice", "fridge", start_c=23, air_c=air_c, room_c=21
        ).ready_min

    if not refused:
        assert asked() is not None
        return
    with pytest.raises(Refusal) as said:
        asked()
    (fault,) = said.value.faults
    assert fault.field == "place"
    assert read_in(fault.message).startswith("To slice it wants 5 to 8 °C; at 7.7 °C")
