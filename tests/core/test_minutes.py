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
    oven_drive,
    second_bake_minutes,
    sheet_factor,
)
from finebatch.core.heat.oven import OvenMode
from finebatch.core.measures.figures import read_in
from finebatch.core.measures.rounding import whole_minutes
from finebatch.core.piece.effects import BakeConditions, Surface, measure_effects
from finebatch.core.piece.foresee import Models, foresee
from finebatch.core.piece.portion import (
    CutDisc,
    Log,
    MassPortion,
    PanFill,
    Portion,
    Rope,
    SlabPortion,
    shape_piece,
)
from finebatch.core.piece.timing import TIMES, WIDEST_MM, bake_terms
from finebatch.core.refusal import Refusal
from finebatch.facts import tables
from tests.pieces import dough_of

PLAIN = HeatModel({"reference": math.log(12.0), "height": 0.5}, 0.1)
PLAIN_DOUGH = dough_of()
DROP = MassPortion(30)


def minutes(
    portion: Portion = DROP,
    *,
    oven_c: float = 180.0,
    oven_mode: OvenMode = "conventional",
    dough_temp_c: float = 21.0,
    doneness: Doneness = "chewy",
    surface: Surface = "parchment",
    shelves: int = 1,
) -> float:
    """What the shipped model foresees for a piece of a plain dough."""
    how = BakeConditions(dough_temp_c, oven_c, oven_mode, surface)
    models = tables.models()
    found = foresee(models, PLAIN_DOUGH, "drop", portion, how, doneness=doneness, shelves=shelves)
    return found.minutes


def test_the_law_is_heat_that_flows_in_proportion() -> None:
    terms = {"reference": 1.0, "height": math.log(1.5)}
    assert bake_minutes(PLAIN, terms, 1.0) == pytest.approx(12 * math.sqrt(1.5))
    assert bake_minutes(PLAIN, terms, 2.0) == pytest.approx(6 * math.sqrt(1.5))


@given(st.floats(4, 14), st.floats(1.01, 2))
def test_thicker_takes_longer(height: float, factor: float) -> None:
    assert minutes(CutDisc(60, height * factor)) > minutes(CutDisc(60, height))


@given(st.floats(40, 100), st.floats(1.05, 2))
def test_wider_takes_longer(wide: float, factor: float) -> None:
    assert minutes(CutDisc(wide * factor, 5)) > minutes(CutDisc(wide, 5))


def test_the_sizes_of_bakers_differ_by_the_minutes_that_bakers_know() -> None:
    """A cut piece of 120 mm takes 1 to 2 minutes more than one of 60; a ball twice as heavy 15 to
    20 % more (`the usual guidance of household recipes`)."""
    assert 1 <= minutes(CutDisc(120, 4)) - minutes(CutDisc(60, 4)) <= 3
    assert 1.13 <= minutes(MassPortion(50)) / minutes(MassPortion(25)) <= 1.28


def test_beyond_some_width_a_piece_bakes_no_longer() -> None:
    wide, wider = minutes(SlabPortion(200, 250, 10)), minutes(SlabPortion(250, 330, 10))
    assert wider == pytest.approx(wide, rel=0.02)
    assert WIDEST_MM < 200


@given(st.floats(130, 260), st.floats(1, 40))
def test_hotter_is_quicker(oven: float, hotter: float) -> None:
    assert minutes(oven_c=oven + hotter) < minutes(oven_c=oven)


@given(st.floats(-18, 25), st.floats(1, 20))
def test_colder_dough_takes_longer(temp: float, colder: float) -> None:
    low, high = (
        bake_terms(
            measure_effects(PLAIN_DOUGH, RAW, BakeConditions(t, 180, "conventional", "parchment")),
            RAW,
            70,
            "chewy",
        )
        for t in (max(temp - colder, -18), temp)
    )
    cold = low["chilled"] + low["frozen"], high["chilled"] + high["frozen"]
    assert cold[0] >= cold[1]


def test_each_doneness_takes_longer_than_the_softer_one() -> None:
    order: list[Doneness] = ["soft_centre", "chewy", "set", "crisp", "dry"]
    took = [minutes(doneness=doneness) for doneness in order]
    assert took == sorted(took)
    assert len(set(took)) == 5
    assert set(USUAL_DONENESS.values()) <= set(DONE_AT_C)


@pytest.mark.parametrize(
    ("surface", "shelves", "factor"),
    [
        ("parchment", 1, 1.0),
        ("parchment", 2, 1.1),
        ("insulated", 1, 1.1),
        ("dark", 1, 0.95),
        ("insulated", 2, 1.21),
    ],
)
def test_what_changes_minutes_by_a_factor(surface: str, shelves: int, factor: float) -> None:
    assert sheet_factor(surface, shelves) == pytest.approx(factor)


def test_sheet_and_shelves_count_in_what_is_foreseen() -> None:
    assert minutes(shelves=2) == pytest.approx(1.1 * minutes())


def test_a_pan_holds_the_heat_off_and_a_bent_rope_its_inner_sides(models: Models) -> None:
    in_pan = minutes(PanFill(200, 200, 40_000, 10))
    assert in_pan > minutes(SlabPortion(200, 200, 10)) > minutes(CutDisc(60, 10))
    assert minutes(PanFill(200, 200, 40_000, 20)) > 1.4 * in_pan
    bent = minutes(Rope(25, 140, bent=True)) / minutes(Rope(25, 140))
    assert bent == pytest.approx(math.exp(models.heat.figures["bent"]))


RAW = shape_piece(MassPortion(30), 1.25)


def test_the_terms_are_those_that_are_fitted() -> None:
    measured = measure_effects(
        PLAIN_DOUGH, RAW, BakeConditions(21, 180, "conventional", "parchment")
    )
    soft = bake_terms(measured, RAW, 70, "soft_centre")
    assert tuple(soft) == TIMES
    assert (soft["soft"], soft["set"], soft["width"]) == (-1, 0, 0)
    dry = bake_terms(measured, RAW, 70, "dry")
    assert (dry["soft"], dry["set"], dry["crisp"], dry["dry"]) == (0, 1, 1, 1)
    log = shape_piece(Log(300, 55, 375), 1.2)
    assert bake_terms(measured, log, 85, "set")["width"] == 0
    assert bake_terms(measured, log, 85, "set")["log"] == 1


@given(st.floats(130, 240))
def test_a_fan_oven_is_like_a_hotter_one(oven: float) -> None:
    fan = oven_drive(oven + 20, 90)
    assert oven_drive(oven, 90) / fan == pytest.approx((oven - 85) / (oven - 65))


@pytest.mark.parametrize(("oven", "done"), [(95, 80), (60, 90), (121, 102)])
def test_an_oven_that_never_gets_there_is_refused(oven: float, done: float) -> None:
    with pytest.raises(Refusal) as refused:
        oven_drive(oven, done)
    (fault,) = refused.value.faults
    assert fault.field == "oven_c"
    assert f"above {done + 20:.0f} °C" in read_in(fault.message)


@given(st.floats(0.01, 300))
def test_whole_minutes_are_near_and_at_least_one(value: float) -> None:
    whole = whole_minutes(value)
    assert whole >= 1
    assert abs(whole - value) <= 0.5 or whole == 1


def test_an_oven_just_hot_enough_is_taken() -> None:
    assert oven_drive(110, 90) == pytest.approx(25 / 95)
    assert oven_drive(180, 90) == 1
    with pytest.raises(Refusal):
        oven_drive(109.9, 90)


def look(minutes: float = 12.0, swing_c: float = 0.0, oven_c: float = 180.0) -> int:
    return look_from(minutes, PLAIN.noise_sd, swing_c, oven_c=oven_c)


def test_one_bake_in_ten_is_done_before_the_first_look() -> None:
    assert look(100) == math.floor(100 * math.exp(-1.2816 * PLAIN.noise_sd))
    assert look(0.3) == 1
    # A card that says 20 to 25 minutes is looked at from its first.
    assert look_from(math.sqrt(500), 0.0, 0.0, oven_c=180, said=math.log(25 / 20) / 2) == 20


def test_a_swinging_oven_is_looked_into_earlier_by_what_it_does_to_the_minutes() -> None:
    # A quarter of the swing up or down, by the law itself at two temperatures close by.
    by_c = math.log(oven_drive(180.01, 90) / oven_drive(179.99, 90)) / 0.02
    sd = math.hypot(PLAIN.noise_sd, by_c * 40 / 4)
    assert look(1000, swing_c=40) == math.floor(1000 * math.exp(-1.2816 * sd))
    assert look(1000, swing_c=40) < look(1000, swing_c=20) < look(1000)


@pytest.mark.parametrize(
    ("slice_mm", "oven_c", "wanted"),
    [
        (13, 165, 18),
        (26, 165, 18 * 2**1.1),
        (13, 260, 9),
        (13, 100, 18 * 95 / 30),
        (13, 90, 18 * 95 / 30),
    ],
)
def test_slices_dry_by_their_thickness_and_the_oven(
    slice_mm: float, oven_c: float, wanted: float
) -> None:
    assert second_bake_minutes(slice_mm, oven_c) == pytest.approx(wanted)


def test_slices_that_stand_need_no_turning() -> None:
    flat = second_bake_minutes(13, 160)
    assert second_bake_minutes(13, 160, "standing") < flat
    assert second_bake_minutes(13, 160, turned=False) > flat
