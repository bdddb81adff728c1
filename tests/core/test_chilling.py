"""Chilling and tempering against kitchen figures, and their physical sense."""

import math
from itertools import pairwise

import numpy as np
import numpy.typing as npt
import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.heat.chilling import (
    CONDUCTIVITY_W_M_K,
    DENSITY_KG_M3,
    HEAT_J_KG_K,
    Curve,
    Shape,
    Side,
    ball_shape,
    chill,
    disc_across_mm,
    disc_shape,
    follow,
    log_shape,
    slab_shape,
    ways_out,
)
from finebatch.core.measures.figures import read_in
from finebatch.core.refusal import Refusal
from tests.pieces import dough_of

Grid = npt.NDArray[np.float64]
HEAT = DENSITY_KG_M3 * HEAT_J_KG_K


def fine_grid(side: Side, half_mm: float, minutes: float, cells: int = 30) -> tuple[Grid, Grid]:
    """What is left of the difference to a fridge's air in the middle, and in the mean, at each half
    minute: shells of dough that pass heat to each other."""
    edges = np.linspace(0, half_mm / 1000, cells + 1)
    power = {"slab": 0, "cylinder": 1, "ball": 2}[side]
    area, apart = edges**power, edges[1]
    volume = np.diff(edges ** (power + 1)) / (power + 1)
    steps = math.ceil(30 * (1 + power) * CONDUCTIVITY_W_M_K / HEAT / (0.4 * apart**2))
    surface = 1 / (1 / 8.0 + apart / 2 / CONDUCTIVITY_W_M_K)
    left, flow = np.ones(cells), np.zeros(cells + 1)
    middle, mean = [1.0], [1.0]
    for _ in range(int(2 * minutes)):
        for _ in range(steps):
            flow[1:-1] = CONDUCTIVITY_W_M_K * np.diff(left) / apart * area[1:-1]
            flow[-1] = -surface * left[-1] * area[-1]
            left = left + 30 / steps * np.diff(flow) / volume / HEAT
        middle.append(float(left[0]))
        mean.append(float(left @ volume / volume.sum()))
    return np.array(middle), np.array(mean)


@pytest.mark.parametrize(
    "shape",
    [disc_shape(150, 25), log_shape(50, 300), ball_shape(36), slab_shape(20)],
    ids=["disc", "log", "ball", "slab"],
)
def test_shapes_cool_as_a_fine_grid_has_it(shape: Shape) -> None:
    """Within 3 % in the middle and in the mean."""
    grids = [fine_grid(side, half, 240) for side, half in shape.sides]
    for n, middle in ((0, True), (1, False)):
        left = np.prod([grid[n] for grid in grids], axis=0)
        for wanted in (14, 10, 6):
            took = follow(shape, "fridge", 4, 24, middle=middle).reaches(wanted)
            assert took == pytest.approx(np.argmax(left <= (wanted - 4) / 20) / 2, rel=0.03)


def test_the_middle_of_a_log_is_cold_once_bakers_slice_it() -> None:
    """An hour for a disc to roll, an hour and a half to two for a log (usual guidance)."""
    assert 60 < (follow(disc_shape(150, 25), "fridge", 4, 24, middle=True).reaches(13) or 0) < 85
    assert 90 < (follow(log_shape(50, 300), "fridge", 4, 24, middle=True).reaches(10) or 0) < 130


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


def test_freezing_takes_longer_where_sugar_leaves_water_free() -> None:
    sweet, plain = (dough_of({"sugar_white": sugar, "milk_whole": 60.0}) for sugar in (400.0, 60.0))
    balls = [ball_shape(40).of(dough) for dough in (sweet, plain)]
    through = [follow(ball, "freezer", -18, 20).reaches(-12) for ball in balls]
    assert through[0] is not None
    assert through[1] is not None
    assert through[1] > 1.1 * through[0]
    # Above −3 °C it makes no difference.
    above = [follow(ball, "freezer", -18, 20).reaches(-2) for ball in balls]
    assert above[0] == above[1]


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
    thin, thick = (ways_out("slab", mm / 2, "fridge").tau_min[0] for mm in (15, 60))
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


def test_a_slow_fridge_takes_as_many_times_the_minutes() -> None:
    usual, slow = (follow(slab_shape(20), "fridge", 4, 24, times).reaches(10) for times in (1, 2))
    assert usual is not None
    assert slow == pytest.approx(2 * usual, abs=1)


def test_it_is_followed_until_it_is_near_the_air_and_a_day_at_most() -> None:
    temps = follow(slab_shape(20), "fridge", 4, 24).temps_c
    assert temps[-1] <= 4.3 < temps[-2]
    assert len(follow(slab_shape(20), "fridge", 4, 24, slower=100).temps_c) == 2 * 24 * 60


@pytest.mark.parametrize(
    ("shape", "words", "sides"),
    [
        (
            disc_shape(200, 20),
            "a disc 20 cm wide, 20 mm thick",
            (("slab", 10), ("cylinder", 100)),
        ),
        (
            log_shape(45, 250),
            "a log 4.5 cm across, 25 cm long",
            (("cylinder", 22.5), ("slab", 125)),
        ),
        (ball_shape(38), "balls 3.8 cm across", (("ball", 19),)),
        (slab_shape(12), "a slab 12 mm thick", (("slab", 6),)),
    ],
)
def test_a_shape_is_its_words_and_its_sides(
    shape: Shape, words: str, sides: tuple[tuple[Side, float], ...]
) -> None:
    assert read_in(shape.words) == words
    assert shape.sides == sides


def test_a_disc_is_as_wide_as_its_volume_and_thickness_make_it() -> None:
    across = disc_across_mm(500, 25)
    assert math.pi / 4 * across**2 * 25 == pytest.approx(500_000)


def test_what_is_asked_of_the_cold_is_read_off_its_curves() -> None:
    shape, start = slab_shape(25), 23.0
    found = chill(shape, "roll", "fridge", start_c=start, air_c=4, room_c=21)
    cold = follow(shape, "fridge", 4, start, middle=True)
    bench = follow(shape, "room", 21, 12)
    portions = chill(shape, "scoop", "fridge", start_c=start, air_c=4, room_c=21)
    assert portions.ready_min == follow(shape, "fridge", 4, start).reaches(16)
    assert found.to_c == (10, 14)
    assert (found.ready_min, found.best_min) == (cold.reaches(14), cold.reaches(12))
    assert found.hard_min == cold.reaches(10)
    assert found.bench_min == bench.reaches(14)
    assert found.temper_min == follow(shape, "room", 21, 4).reaches(10)
    slow = chill(shape, "roll", "fridge", start_c=start, air_c=4, room_c=21, slower=2)
    assert slow.ready_min == follow(shape, "fridge", 4, start, 2, middle=True).reaches(14)
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
