import math
from dataclasses import replace
from statistics import median

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.composition import compose
from finebatch.core.piece.cases import Case
from finebatch.core.piece.effects import BakeConditions, measure_effects
from finebatch.core.piece.foresee import Models
from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.portion import CutDisc, MassPortion, RawPiece, shape_piece
from finebatch.core.piece.thickness import (
    LIFTS,
    STEEPEST,
    LiftModel,
    Thickness,
    exposure,
    fill_share,
    lift,
    lift_terms,
    predict_thickness,
)
from finebatch.core.piece.tray import foresee_tray
from finebatch.facts import tables
from tests.pieces import basis_of

FLAT = LiftModel(dict.fromkeys(LIFTS, 0.0) | {"soda": 0.2, "powder": 0.3}, 0.0, 0.1)
STILL = {"soda": 0.0, "powder": 0.0, "no_egg": 1.0, "fat": 0.0, "pieces": 0.0}


def baked(raw: RawPiece, width: float, dried: float = 1.0, water: float = 0.14) -> Thickness:
    return predict_thickness(FLAT, STILL, raw, width, water_share=water, dried=dried)


@given(st.floats(5, 150), st.floats(1.2, 3))
def test_volume_is_kept_where_nothing_lifts(grams: float, factor: float) -> None:
    raw = shape_piece(MassPortion(grams), 1.2)
    width = raw.width_mm * factor
    found = baked(raw, width)
    filled = fill_share(raw, found.height_mm, width)
    volume = filled * 3.14159265 / 4 * width**2 * found.height_mm / 1000
    assert volume == pytest.approx(raw.volume_cm3, rel=1e-6)
    assert found.width_to_thickness == pytest.approx(width / found.height_mm)


def test_leavening_lifts_and_powder_more_than_soda() -> None:
    plain = lift(FLAT, STILL)
    soda = lift(FLAT, {**STILL, "soda": 1.0})
    powder = lift(FLAT, {**STILL, "powder": 1.0})
    assert plain == 1 < soda < powder


@given(st.floats(0, 20), st.floats(0.01, 0.3))
def test_what_bakes_off_is_water_and_grows_with_time_oven_and_thinness(
    dried: float, water: float
) -> None:
    raw = shape_piece(CutDisc(60, 6), 1.2)
    found = baked(raw, 62, dried, water)
    lost = raw.grams - found.baked_g
    assert 0 <= lost <= water * raw.grams
    assert found.water_left_g == pytest.approx(water * raw.grams - lost)
    assert baked(raw, 62, dried + 0.1, water).baked_g < found.baked_g


def test_a_usual_drop_loses_a_tenth() -> None:
    raw = shape_piece(MassPortion(28), 1.25)
    assert exposure(12, 1, 8) == 1
    assert 1 - baked(raw, 75).baked_g / raw.grams == pytest.approx(0.10, abs=0.005)
    assert exposure(24, 1, 8) == exposure(12, 2, 8) == exposure(12, 1, 4) == 2


@given(st.floats(40, 100), st.floats(0.1, 0.6))
def test_a_pressed_piece_and_a_cut_disc_of_one_shape_bake_alike(wide: float, high: float) -> None:
    disc = shape_piece(CutDisc(wide, high * wide / 2), 1.2)
    pressed = shape_piece(MassPortion(disc.grams, "flattened", wide), 1.2)
    assert baked(disc, 1.2 * wide).height_mm == pytest.approx(baked(pressed, 1.2 * wide).height_mm)


def test_measured_heights_are_met(models: Models, cases: dict[str, Case]) -> None:
    larder = tables.larder()
    errors = []
    for case in cases.values():
        if case.observed_thickness_mm is None or case.observed_mm is None:
            continue
        dough = case.composition(larder)
        raw = shape_piece(case.of_dough, dough.density_g_cm3)
        measured = measure_effects(dough, raw, case.how)
        found = predict_thickness(
            models.lift, measured, raw, case.observed_mm, water_share=0.1, dried=1
        )
        errors.append(abs(found.height_mm / case.observed_thickness_mm - 1))
    assert len(errors) == 132
    assert median(errors) < 0.08


def test_a_dough_with_powder_stands_higher() -> None:
    how = BakeConditions(21, 180, "conventional", "parchment")
    heights = []
    for powder in (0.0, 8.0):
        formula = {
            "flour_ap": 200.0,
            "butter_unsalted": 120.0,
            "sugar_white": 100.0,
            "egg_whole": 50.0,
            "baking_powder": powder,
        }
        dough = compose(formula, tables.larder())
        raw = shape_piece(MassPortion(30), dough.density_g_cm3)
        measured = measure_effects(dough, raw, how)
        lifts = tables.models().lift
        found = predict_thickness(lifts, measured, raw, 70, water_share=0.1, dried=1)
        heights.append(found.height_mm)
    assert heights[1] > heights[0]


def box(**changes: object) -> RawPiece:
    return replace(shape_piece(MassPortion(30), 1.2), **changes)


@pytest.mark.parametrize("even_mm", [2.0, 8.0, 11.66, 11.667, 11.67, 20.0])
def test_a_mound_is_as_high_as_its_volume_and_its_rim_make_it(even_mm: float) -> None:
    """Also where it fills least, and without a step there."""
    width = 70.0
    volume = math.pi / 4 * width**2 * even_mm
    raw = box(volume_cm3=volume / 1000)
    high = baked(raw, width).height_mm
    assert fill_share(raw, high, width) * high == pytest.approx(even_mm, rel=1e-9)
    assert fill_share(raw, high, width) == pytest.approx(2 / 3 + math.exp(-4 * high / width) / 3)


def test_a_log_and_a_pan_fill_their_box_by_their_own_shape() -> None:
    log = box(form="log", length_mm=300.0, width_mm=40.0, volume_cm3=480.0)
    high = baked(log, 60).height_mm
    # It keeps its length, and its ends round off as it grows wider.
    assert high == pytest.approx(480_000 / (60 * (300 + 0.5 * 20)) * 3 / 2)
    assert fill_share(box(form="pan", flat=True), 10, 50) == 1


def test_each_lift_is_a_factor_by_its_dose() -> None:
    figures = {"plain": 0.1, "soda": 0.2, "powder": 0.3, "egg": 0.4, "lean_soda": 0.5}
    model = LiftModel(figures | {"eggless_soda": 0.6, "pieces": 0.7}, 0.0, 0.1)
    dough = {"soda": 0.5, "powder": 2.0, "no_egg": 0.25, "fat": -1.0, "pieces": 0.2}
    lean = 0.5 * math.log2(0.45 / 0.30)
    assert lift_terms(dough)["lean_soda"] == pytest.approx(lean)
    assert math.log(lift(model, dough)) == pytest.approx(
        0.1 + 0.1 + 0.6 + 0.3 + 0.5 * lean + 0.6 * 0.125 + 0.14
    )


def test_bubbles_come_on_top_of_the_height() -> None:
    raw = box(form="pan", flat=True)
    flat = baked(raw, 70).height_mm
    bubbly = replace(FLAT, bubbles_mm=0.9)
    found = predict_thickness(bubbly, STILL, raw, 70, water_share=0.1, dried=1)
    assert found.height_mm == pytest.approx(flat + 0.9)


@given(st.floats(0, 30), st.floats(6, 60), st.floats(20, 300))
def test_no_mound_stands_steeper_than_any_that_was_measured(
    soda_g: float, grams: float, fat_g: float
) -> None:
    """A lean dough with a teaspoon of soda stood three times as high as wide."""
    lean = {"oats_rolled": 150.0, "flour_ap": 120.0, "honey": 60.0}
    formula = {**lean, "butter_unsalted": fat_g} | ({"baking_soda": soda_g} if soda_g else {})
    found = foresee_tray(basis_of(compose(formula, tables.larder())), Drop(grams)).foreseen
    assert found.thickness.width_to_thickness >= STEEPEST - 1e-9


def test_the_steepest_is_no_steeper_than_was_measured(cases: dict[str, Case]) -> None:
    measured = [
        case.observed_mm / case.observed_thickness_mm
        for case in cases.values()
        if case.observed_mm and case.observed_thickness_mm
    ]
    assert STEEPEST < min(measured) < STEEPEST * 1.1
