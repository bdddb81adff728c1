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
from finebatch.core.piece.portion import CutDisc, MassPortion, RawPiece, shape_piece
from finebatch.core.piece.thickness import (
    WATER_LOSS,
    LiftModel,
    fill_share,
    height_half_spread_mm,
    lift,
    predict_thickness,
)
from finebatch.facts import tables

FLAT = LiftModel(plain=0.0, soda=0.2, powder=0.3, egg=0.0, noise_sd=0.1)
STILL = {"soda": 0.0, "powder": 0.0, "no_egg": 1.0}


@given(st.floats(5, 150), st.floats(1.2, 3))
def test_volume_is_kept_where_nothing_lifts(grams: float, factor: float) -> None:
    raw = shape_piece(MassPortion(grams), 1.2)
    width = raw.width_mm * factor
    found = predict_thickness(FLAT, STILL, raw, width, "drop")
    filled = fill_share(raw, found.height_mm, width)
    volume = filled * 3.14159265 / 4 * width**2 * found.height_mm / 1000
    assert volume == pytest.approx(raw.volume_cm3, rel=1e-6)
    assert found.width_to_thickness == pytest.approx(width / found.height_mm)


def test_leavening_lifts_and_powder_more_than_soda() -> None:
    plain = lift(FLAT, STILL)
    soda = lift(FLAT, {**STILL, "soda": 1.0})
    powder = lift(FLAT, {**STILL, "powder": 1.0})
    assert plain == 1 < soda < powder


@pytest.mark.parametrize("family", ["drop", "rolled", "shortbread", "twice_baked"])
def test_water_bakes_off(family: str) -> None:
    raw = shape_piece(CutDisc(60, 6), 1.2)
    found = predict_thickness(FLAT, STILL, raw, 62, family)  # type: ignore[arg-type]
    assert 0.07 <= 1 - found.baked_g / raw.grams <= 0.16
    assert 1 - found.baked_g / raw.grams == pytest.approx(WATER_LOSS[family])  # type: ignore[index]


def test_a_flat_disc_is_lower_than_a_dome_of_the_same_dough() -> None:
    disc = shape_piece(CutDisc(60, 6), 1.2)
    ball = shape_piece(MassPortion(disc.grams), 1.2)
    flat = predict_thickness(FLAT, STILL, disc, 70, "rolled").height_mm
    dome = predict_thickness(FLAT, STILL, ball, 70, "drop").height_mm
    assert flat < dome


def test_measured_heights_are_met(models: Models, cases: dict[str, Case]) -> None:
    larder = tables.larder()
    errors = []
    for case in cases.values():
        if case.observed_thickness_mm is None:
            continue
        dough = case.composition(larder)
        raw = shape_piece(case.portion, dough.density_g_cm3)
        measured = measure_effects(dough, raw, case.how)
        found = predict_thickness(models.lift, measured, raw, case.observed_mm, case.family)
        errors.append(abs(found.height_mm / case.observed_thickness_mm - 1))
    assert len(errors) == 132
    assert median(errors) < 0.15


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
        heights.append(predict_thickness(tables.models().lift, measured, raw, 70, "drop").height_mm)
    assert heights[1] > heights[0]


def box(**changes: object) -> RawPiece:
    return replace(shape_piece(MassPortion(30), 1.2), **changes)


@pytest.mark.parametrize("even_mm", [2.0, 8.0, 12.59, 12.6, 12.61, 20.0])
def test_a_mound_is_as_high_as_its_volume_and_its_rim_make_it(even_mm: float) -> None:
    """Also where it fills least, and without a step there."""
    width = 70.0
    volume = math.pi / 4 * width**2 * even_mm
    raw = box(volume_cm3=volume / 1000)
    high = predict_thickness(FLAT, STILL, raw, width, "drop").height_mm
    assert fill_share(raw, high, width) * high == pytest.approx(even_mm, rel=1e-9)
    assert fill_share(raw, high, width) == pytest.approx(max(1 - 4 / 3 * high / width, 0.6))


def test_a_log_and_a_pan_fill_their_box_by_their_own_shape() -> None:
    log = box(form="log", length_mm=300.0, width_mm=40.0, volume_cm3=480.0)
    high = predict_thickness(FLAT, STILL, log, 60, "twice_baked").height_mm
    # It keeps its length, and its ends round off as it grows wider.
    assert high == pytest.approx(480_000 / (60 * (300 + 0.5 * 20)) * 3 / 2)
    assert fill_share(box(form="pan", flat=True), 10, 50) == 1
    assert fill_share(box(flat=True), 10, 50) == 0.95


def test_each_lift_is_a_factor_by_its_dose() -> None:
    model = LiftModel(plain=0.1, soda=0.2, powder=0.3, egg=0.4, noise_sd=0.1)
    found = lift(model, {"soda": 0.5, "powder": 2.0, "no_egg": 0.25})
    assert math.log(found) == pytest.approx(0.1 + 0.1 + 0.6 + 0.3)


def test_half_spread_is_half_way_between_raw_and_baked() -> None:
    raw = box(width_mm=40.0, volume_cm3=25.0)
    assert height_half_spread_mm(raw, 80) == pytest.approx(25_000 / (math.pi / 4 * 60**2))
