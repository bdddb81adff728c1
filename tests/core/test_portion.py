import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.composition import compose
from finebatch.core.heat.minutes import second_bake_minutes
from finebatch.core.piece.kinds.portioning import whole_pieces
from finebatch.core.piece.lot import BOWL_LOSS, Lot
from finebatch.core.piece.portion import (
    CutDisc,
    Log,
    LogSlice,
    MassPortion,
    disc_diameter_mm,
    disc_thickness_mm,
    disc_volume_cm3,
    shape_piece,
)
from finebatch.core.piece.thickness import baked_area_mm2, even_height_mm, fill_share
from finebatch.core.refusal import Refusal
from finebatch.facts import tables

densities = st.floats(0.9, 1.4)


@given(st.floats(5, 300), densities)
def test_a_ball_has_the_volume_of_its_mass(grams: float, density: float) -> None:
    raw = shape_piece(MassPortion(grams), density)
    assert raw.volume_cm3 == pytest.approx(grams / density)
    assert math.pi / 6 * (raw.width_mm / 10) ** 3 == pytest.approx(raw.volume_cm3)
    assert raw.height_mm == raw.width_mm
    assert not raw.flat


@given(st.floats(10, 200), st.floats(30, 120), densities)
def test_a_flattened_ball_keeps_its_volume(grams: float, across: float, density: float) -> None:
    raw = shape_piece(MassPortion(grams, "flattened", across), density)
    assert raw.width_mm == across
    assert disc_volume_cm3(across, raw.height_mm) == pytest.approx(grams / density)


def test_pressing_without_a_measure_makes_it_a_quarter_wider() -> None:
    ball = shape_piece(MassPortion(30), 1.2)
    assert shape_piece(MassPortion(30, "flattened"), 1.2).width_mm == pytest.approx(
        1.25 * ball.width_mm
    )


@given(st.floats(20, 120), st.floats(2, 20), densities)
def test_discs_and_slices_weigh_what_their_volume_does(
    across: float, thick: float, density: float
) -> None:
    volume = math.pi / 4 * across**2 * thick / 1000
    if not 2 <= volume * density <= 400:
        return
    for portion in (CutDisc(across, thick), LogSlice(across, thick)):
        raw = shape_piece(portion, density)
        assert raw.grams == pytest.approx(volume * density)
        assert (raw.width_mm, raw.height_mm, raw.flat) == (across, thick, True)


@given(st.floats(1, 300), st.floats(2, 60))
def test_disc_measures_turn_around(volume: float, thick: float) -> None:
    across = disc_diameter_mm(volume, thick)
    assert disc_thickness_mm(volume, across) == pytest.approx(thick)
    assert disc_volume_cm3(across, thick) == pytest.approx(volume)


def test_a_log_knows_its_section_and_a_ball_has_none() -> None:
    log = shape_piece(Log(300, 55, 375), 1.25)
    assert log.section_cm2 == pytest.approx(10)
    assert log.length_mm == 300
    with pytest.raises(TypeError):
        _ = shape_piece(MassPortion(30), 1.2).section_cm2


@pytest.mark.parametrize(
    ("portion", "field"),
    [
        (MassPortion(1), "grams"),
        (MassPortion(500), "grams"),
        (CutDisc(4, 400), "diameter_mm"),
        (CutDisc(300, 30), "grams"),
        (Log(300, 55, 5000), "grams"),
        (Log(40, 40, 60), "length_mm"),
        (Log(900, 55, 900), "length_mm"),
    ],
)
def test_what_no_hand_shapes_is_refused_at_its_field(portion: object, field: str) -> None:
    with pytest.raises(Refusal) as refused:
        shape_piece(portion, 1.2)  # type: ignore[arg-type]
    assert refused.value.faults[0].field == field


@given(st.floats(50, 5000), st.floats(5, 200))
def test_pieces_leftover_and_bowl_are_the_dough(total: float, piece: float) -> None:
    pieces, leftover = whole_pieces(Lot(total, 1.2), piece)
    assert pieces * piece + leftover + BOWL_LOSS * total == pytest.approx(total)
    assert 0 <= leftover < piece * 1.000001


def test_an_even_division_leaves_nothing() -> None:
    pieces, leftover = whole_pieces(Lot(1000 / (1 - BOWL_LOSS), 1.2), 25)
    assert pieces == 40
    assert leftover == pytest.approx(0, abs=1e-9)


@given(st.floats(10, 100), st.floats(1, 2.5))
def test_spreading_makes_a_piece_lower(grams: float, factor: float) -> None:
    raw = shape_piece(MassPortion(grams), 1.2)
    narrow = even_height_mm(raw, raw.width_mm * 1.5)
    assert even_height_mm(raw, raw.width_mm * 1.5 * factor) <= narrow
    assert 0 < fill_share(raw, 10, 60) < 1
    assert fill_share(raw, 20, 60) <= fill_share(raw, 10, 60)


def test_a_log_keeps_its_length_and_grows_at_its_ends() -> None:
    raw = shape_piece(Log(300, 55, 375), 1.2)
    assert baked_area_mm2(raw, 55) == pytest.approx(300 * 55)
    assert baked_area_mm2(raw, 85) == pytest.approx(85 * 315)


def test_thicker_slices_and_cooler_ovens_dry_longer() -> None:
    assert second_bake_minutes(13, 165) == pytest.approx(18)
    assert second_bake_minutes(16, 165) > 18
    assert second_bake_minutes(13, 150) > 18
    assert second_bake_minutes(10, 180) < 18


@pytest.mark.parametrize(
    ("formula", "field", "value"),
    [
        ({"flour_ap": 100, "butter_unsalted": 100}, "fat_g", 82),
        ({"flour_ap": 100, "milk_whole": 50}, "water_added_g", 44),
        ({"flour_ap": 100, "flour_rye": 50, "oats_rolled": 50}, "base_g", 200),
        ({"flour_almond": 100}, "structure_g", 70),
        ({"flour_ap": 100, "cocoa": 20}, "structure_g", 120),
        ({"flour_ap": 100, "egg_whole": 50, "egg_yolk": 18}, "egg_g", 68),
        ({"flour_ap": 100, "honey": 50}, "sugar_g", 41),
        ({"flour_ap": 100, "raisins": 100}, "sugar_g", 0),
    ],
)
def test_a_formula_is_added_up(formula: dict[str, float], field: str, value: float) -> None:
    made = compose(formula, tables.larder())
    assert getattr(made, field) == pytest.approx(value)


def test_what_lies_in_the_dough_counts_by_volume() -> None:
    base = {"flour_ap": 200.0, "butter_unsalted": 100.0}
    plain = compose(base, tables.larder())
    assert plain.pieces_share_by_volume == plain.candy_share_by_volume == 0
    nuts = compose({**base, "walnuts": 100.0}, tables.larder())
    assert 0.2 < nuts.pieces_share_by_volume < 0.4
    assert nuts.fat_g == pytest.approx(plain.fat_g)
    candy = compose({**base, "toffee_bits": 100.0}, tables.larder())
    assert candy.candy_share_by_volume > 0.15
    assert candy.pieces_share_by_volume == 0
