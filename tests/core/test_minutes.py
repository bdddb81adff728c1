import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.dough import Doneness
from finebatch.core.heat.minutes import (
    DONE_AT_C,
    USUAL_DONENESS,
    HeatModel,
    bake_minutes,
    look_from,
    oven_share,
    second_bake_minutes,
)
from finebatch.core.measures.figures import read_in
from finebatch.core.measures.rounding import whole_minutes
from finebatch.core.piece.foresee import Models
from finebatch.core.refusal import Refusal

PLAIN = HeatModel(tau_min=16.0, power=0.5, log=0.4, noise_sd=0.1)


def minutes(**change: object) -> float:
    given_: dict[str, object] = {
        "height_mm": 9.0,
        "oven_c": 180.0,
        "oven_mode": "conventional",
        "dough_temp_c": 21.0,
        "doneness": "chewy",
        "surface": "parchment",
    }
    return bake_minutes(PLAIN, **{**given_, **change})  # type: ignore[arg-type]


def test_the_law_is_lumped_heating() -> None:
    wanted = 16 * math.sqrt(9 / 6) * math.log((180 - 21) / (180 - 90))
    assert minutes() == pytest.approx(wanted)


@given(st.floats(2, 60), st.floats(1.01, 3))
def test_thicker_takes_longer(height: float, factor: float) -> None:
    assert minutes(height_mm=height * factor) > minutes(height_mm=height)


@given(st.floats(130, 260), st.floats(1, 40))
def test_hotter_is_quicker(oven: float, hotter: float) -> None:
    assert minutes(oven_c=oven + hotter) < minutes(oven_c=oven)


@given(st.floats(-18, 25), st.floats(0.5, 20))
def test_colder_dough_takes_longer(temp: float, colder: float) -> None:
    assert minutes(dough_temp_c=temp - colder) > minutes(dough_temp_c=temp)


def test_each_doneness_takes_longer_than_the_softer_one() -> None:
    order: list[Doneness] = ["soft_centre", "chewy", "set", "crisp", "dry"]
    took = [minutes(doneness=doneness) for doneness in order]
    assert took == sorted(took)
    assert len(set(took)) == 5
    assert set(USUAL_DONENESS.values()) <= set(DONE_AT_C)


@pytest.mark.parametrize(
    ("change", "factor"),
    [
        ({"shelves": 2}, 1.1),
        ({"surface": "insulated"}, 1.1),
        ({"surface": "silicone"}, 1.0),
        ({"surface": "dark"}, 0.95),
        ({"in_pan": True}, 1.7),
        ({"shelves": 1}, 1.0),
        ({"is_log": True}, math.exp(0.4)),
        ({"learnt": math.log(0.9)}, 0.9),
        ({"shelves": 2, "surface": "insulated"}, 1.21),
    ],
)
def test_what_changes_minutes_by_a_factor(change: dict[str, object], factor: float) -> None:
    assert minutes(**change) == pytest.approx(minutes() * factor)


@given(st.floats(120, 280))
def test_a_fan_oven_is_like_a_hotter_one(oven: float) -> None:
    assert minutes(oven_c=oven, oven_mode="fan") == pytest.approx(minutes(oven_c=oven + 20))


@pytest.mark.parametrize(("oven", "done"), [(95, 80), (60, 90), (121, 102)])
def test_an_oven_that_never_gets_there_is_refused(oven: float, done: float) -> None:
    with pytest.raises(Refusal) as refused:
        oven_share(oven, 21, done)
    (fault,) = refused.value.faults
    assert fault.field == "oven_c"
    assert f"above {done + 20:.0f} °C" in read_in(fault.message)


def test_the_shipped_figures_are_those_of_cookies(models: Models) -> None:
    assert 10 < models.heat.tau_min < 25
    assert 0.1 < models.heat.power < 0.9
    assert models.heat.log > 0


@given(st.floats(0.01, 300))
def test_whole_minutes_are_near_and_at_least_one(value: float) -> None:
    whole = whole_minutes(value)
    assert whole >= 1
    assert abs(whole - value) <= 0.5 or whole == 1


def test_an_oven_just_hot_enough_is_taken_and_its_share_is_the_law() -> None:
    assert oven_share(110, 20, 90) == pytest.approx(math.log(90 / 20))
    with pytest.raises(Refusal):
        oven_share(109.9, 20, 90)


def look(minutes: float = 12.0, swing_c: float = 0.0, oven_c: float = 180.0) -> int:
    return look_from(PLAIN, minutes, swing_c, oven_c=oven_c, dough_temp_c=20.0, doneness="chewy")


def test_one_bake_in_ten_is_done_before_the_first_look() -> None:
    assert look(100) == math.floor(100 * math.exp(-1.2816 * PLAIN.noise_sd))
    assert look(0.3) == 1


def test_a_swinging_oven_is_looked_into_earlier_by_what_it_does_to_the_minutes() -> None:
    # A quarter of the swing up or down, by the law itself at two temperatures close by.
    by_c = math.log(oven_share(180.01, 20, 90) / oven_share(179.99, 20, 90)) / 0.02
    sd = math.hypot(PLAIN.noise_sd, by_c * 40 / 4)
    assert look(1000, swing_c=40) == math.floor(1000 * math.exp(-1.2816 * sd))
    assert look(1000, swing_c=40) < look(1000, swing_c=20) < look(1000)


@pytest.mark.parametrize(
    ("slice_mm", "oven_c", "wanted"),
    [
        (13, 165, 18),
        (26, 165, 18 * 2**1.2),
        (13, 260, 9),
        (13, 100, 18 * 95 / 30),
        (13, 90, 18 * 95 / 30),
    ],
)
def test_slices_dry_by_their_thickness_and_the_oven(
    slice_mm: float, oven_c: float, wanted: float
) -> None:
    assert second_bake_minutes(slice_mm, oven_c) == pytest.approx(wanted)
