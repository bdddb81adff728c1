from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.composition import compose
from finebatch.core.heat.oven import conventional_c
from finebatch.core.piece.effects import BakeConditions, cold_units, measure_effects, sandiness
from finebatch.core.piece.portion import Log, MassPortion, shape_piece
from finebatch.core.piece.spread import LAW_SD
from finebatch.facts import tables

HOW = BakeConditions(21, 180, "conventional", "parchment")
PLAIN = {
    "flour_ap": 200.0,
    "butter_unsalted": 140.0,
    "sugar_white": 120.0,
    "egg_whole": 50.0,
}


def effects(
    change: dict[str, float] | None = None, how: BakeConditions = HOW, grams: float = 30
) -> dict[str, float]:
    dough = compose({**PLAIN, **(change or {})}, tables.larder())
    raw = shape_piece(MassPortion(grams), dough.density_g_cm3)
    return dict(measure_effects(dough, raw, how))


def test_every_effect_of_the_table_is_measured() -> None:
    wanted = {e.key for e in tables.effects()} - {"scale", "log_scale"}
    # What lifts a piece goes by its egg alone.
    assert set(effects()) == wanted | {"no_egg"}


def test_a_plain_dough_at_room_temperature_is_near_the_reference() -> None:
    found = effects()
    silent = (
        "liquid_fat",
        "plastic_fat",
        "syrup",
        "brown_sugar",
        "pieces",
        "nut_butter",
        "grain",
        "chilled",
        "frozen",
        "overnight",
        "oven",
        "large_piece",
        "bare",
        "soda",
        "powder",
    )
    assert all(found[key] == 0 for key in silent)
    assert abs(found["sugar"]) < 0.1
    assert abs(found["fat"]) < 0.1


def test_too_little_flour_and_egg_runs_to_lace() -> None:
    assert effects()["lace"] < 0.01
    lace = {
        "flour_ap": 60.0,
        "butter_unsalted": 60.0,
        "sugar_white": 60.0,
        "egg_whole": 0.0,
        "golden_syrup": 60.0,
    }
    assert effects(lace)["lace"] > 0.8
    assert effects({**lace, "flour_ap": 100.0})["lace"] < effects(lace)["lace"]
    assert effects({**lace, "egg_whole": 60.0})["lace"] < 0.1


@pytest.mark.parametrize(
    ("change", "key", "value"),
    [
        ({"sugar_white": 0, "sugar_icing": 120}, "icing_sugar", 1),
        ({"sugar_white": 0, "sugar_brown_light": 120}, "brown_sugar", 1),
        ({"sugar_white": 0, "honey": 146}, "syrup", 1),
        ({"sugar_white": 0, "erythritol": 120}, "sugar_alcohol", 1),
        ({"flour_ap": 0, "flour_cake": 200}, "soft_flour", 1),
        ({"flour_ap": 100, "flour_bread": 100}, "strong_flour", 0.5),
        ({"flour_ap": 100, "flour_rye": 100}, "wholegrain", 0.5),
        ({"flour_ap": 100, "oats_rolled": 100}, "grain", 0.5),
        ({"butter_unsalted": 0, "oil_neutral": 110}, "liquid_fat", 1),
        ({"butter_unsalted": 0, "shortening": 110}, "plastic_fat", 1),
        ({"peanut_butter": 100}, "nut_butter", 100 / 235),
        ({"baking_soda": 2}, "soda", 1),
        ({"baking_powder": 8}, "powder", 1),
        ({"egg_whole": 0}, "no_egg", 1),
        ({"egg_whole": 0, "milk_whole": 60}, "eggless", 1),
        ({"egg_whole": 0, "egg_yolk": 36}, "yolk_only", 1),
    ],
)
def test_an_effect_is_one_for_all_of_it(change: dict[str, float], key: str, value: float) -> None:
    assert effects(change)[key] == pytest.approx(value, abs=0.01)


def test_doublings_are_counted_in_powers_of_two() -> None:
    one = effects({"sugar_white": 100})["sugar"]
    assert effects({"sugar_white": 200})["sugar"] == pytest.approx(one + 1, abs=0.01)


@given(st.floats(-40, 40))
def test_cold_is_counted_from_room_to_fridge_and_from_there_to_freezer(temp: float) -> None:
    chilled, frozen = cold_units(temp)
    assert -0.6 < chilled <= 1
    assert 0 <= frozen <= 1
    if temp >= 4:
        assert frozen == 0
    if temp <= 4:
        assert chilled == 1


@given(st.floats(-18, 30), st.floats(0.1, 10))
def test_colder_counts_more(temp: float, colder: float) -> None:
    assert sum(cold_units(temp - colder)) >= sum(cold_units(temp))


@pytest.mark.parametrize(
    "surface", ["bare", "greased", "silicone", "perforated", "insulated", "parchment"]
)
def test_one_surface_at_a_time(surface: str) -> None:
    found = effects(how=replace(HOW, surface=surface))  # type: ignore[arg-type]
    sheets = {k: found[k] for k in ("bare", "greased", "silicone", "perforated", "insulated")}
    assert sum(sheets.values()) == (surface != "parchment")
    assert surface == "parchment" or sheets[surface] == 1


def test_melting_the_butter_counts_like_oil() -> None:
    assert effects(how=replace(HOW, mixing="melted"))["liquid_fat"] == 1


def test_a_fan_counts_as_twenty_degrees() -> None:
    assert conventional_c(160, "fan") == 180
    fan = effects(how=replace(HOW, oven_c=160, oven_mode="fan"))
    assert fan["oven"] == pytest.approx(effects()["oven"])
    assert effects(how=replace(HOW, oven_c=205))["oven"] == pytest.approx(1)


def test_only_large_mounds_set_before_they_have_flowed() -> None:
    assert effects(grams=40)["large_piece"] == 0
    assert 0 < effects(grams=80)["large_piece"] < effects(grams=160)["large_piece"]
    dough = compose(PLAIN, tables.larder())
    log = shape_piece(Log(300, 60, 400), dough.density_g_cm3)
    assert measure_effects(dough, log, HOW)["large_piece"] == 0


def test_a_dry_dough_with_little_sugar_is_sandy() -> None:
    larder = tables.larder()
    shortbread = compose({"flour_ap": 250, "butter_unsalted": 200, "sugar_white": 90}, larder)
    assert sandiness(shortbread) > 0.65
    assert sandiness(compose(PLAIN, larder)) < 0.1
    sweet = compose({"flour_ap": 250, "butter_unsalted": 150, "sugar_white": 300}, larder)
    assert sandiness(sweet) < 0.05


def test_ground_nuts_hold_a_piece_back() -> None:
    model = tables.models().spread

    def flow(formula: dict[str, float]) -> float:
        dough = compose(formula, tables.larder())
        raw = shape_piece(MassPortion(25), dough.density_g_cm3)
        return float(model.row(measure_effects(dough, raw, HOW), raw) @ model.mean)

    rest = {"butter_unsalted": 100.0, "sugar_white": 100.0, "egg_whole": 50.0}
    plain = flow({"flour_ap": 200.0, **rest})
    assert flow({"flour_almond": 200.0, **rest}) < plain - 0.05


def test_the_band_widens_away_from_measured_doughs() -> None:
    model = tables.models().spread
    for row in model.measured:
        assert model.unseen_sd(row) == pytest.approx(LAW_SD, abs=1e-4)
    row = model.measured[0].copy()
    before = 0.0
    for step in range(1, 6):
        row[[e.key for e in model.effects].index("nut_butter")] = 0.3 * step
        assert model.unseen_sd(row) > before
        before = model.unseen_sd(row)


@given(st.floats(-18, 30), st.floats(-18, 30))
def test_colder_dough_never_flows_more(one: float, other: float) -> None:
    model = tables.models().spread
    dough = compose(PLAIN, tables.larder())
    raw = shape_piece(MassPortion(30), dough.density_g_cm3)

    def flow(dough_c: float) -> float:
        how = replace(HOW, dough_temp_c=dough_c)
        return float(model.row(measure_effects(dough, raw, how), raw) @ model.mean)

    cold, warm = sorted((one, other))
    assert flow(cold) <= flow(warm) + 1e-12


@given(st.floats(0, 150), st.floats(0, 150))
def test_more_flour_never_flows_more(one: float, other: float) -> None:
    model = tables.models().spread

    def flow(more_g: float) -> float:
        dough = compose({**PLAIN, "flour_ap": 200.0 + more_g}, tables.larder())
        raw = shape_piece(MassPortion(30), dough.density_g_cm3)
        return float(model.row(measure_effects(dough, raw, HOW), raw) @ model.mean)

    less, more = sorted((one, other))
    assert flow(more) <= flow(less) + 1e-9
