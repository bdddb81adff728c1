import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.composition import compose
from finebatch.core.piece.cases import Case
from finebatch.core.piece.effects import BakeConditions, measure_effects
from finebatch.core.piece.foresee import Models
from finebatch.core.piece.portion import CutDisc, MassPortion, shape_piece
from finebatch.core.piece.thickness import (
    WATER_LOSS,
    LiftModel,
    fill_share,
    lift,
    predict_thickness,
)
from finebatch.facts import tables

FLAT = LiftModel(plain=0.0, soda=0.2, powder=0.3, egg=0.0, noise_sd=0.1)
STILL = {"soda": 0.0, "powder": 0.0, "eggless": 1.0}


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


def test_measured_heights_are_met_but_for_one(models: Models, cases: dict[str, Case]) -> None:
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
    errors.sort()
    assert len(errors) == 6
    assert errors[-2] < 0.10


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
