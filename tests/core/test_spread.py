import json
import math
from dataclasses import replace
from pathlib import Path

import pytest
from click.testing import Result
from hypothesis import given, settings
from hypothesis import strategies as st
from typer.testing import CliRunner

from finebatch.cli import app
from finebatch.core.formula.composition import compose
from finebatch.core.larder.ingredient import Larder
from finebatch.core.piece.cases import Case, judge, summarise
from finebatch.core.piece.effects import BakeConditions
from finebatch.core.piece.foresee import Foreseen, Models, foresee
from finebatch.core.piece.portion import CutDisc, LogSlice, MassPortion, Portion
from finebatch.core.piece.spread import EDGE_SD, EIGHT_IN_TEN, RULER_SD
from finebatch.core.refusal import Refusal
from finebatch.facts import tables
from tests.chance import so_many
from tests.conftest import CASES

ROOM = BakeConditions(21, 180, "conventional", "parchment")
DROP = {
    "flour_ap": 280.0,
    "butter_unsalted": 227.0,
    "sugar_white": 150.0,
    "sugar_brown_light": 160.0,
    "egg_whole": 100.0,
    "baking_soda": 5.0,
    "chocolate_chips": 200.0,
}


def look(
    formula: dict[str, float], portion: Portion, how: BakeConditions = ROOM, cv: float = 0.03
) -> Foreseen:
    dough = compose(formula, tables.larder())
    return foresee(tables.models(), dough, "drop", portion, how, portion_cv=cv)


def width(*args: object, **more: object) -> float:
    return look(*args, **more).width.middle_mm  # type: ignore[arg-type]


def test_the_public_cases_are_met(cases: dict[str, Case], models: Models, larder: Larder) -> None:
    summary = summarise([judge(case, models, larder) for case in cases.values()])
    assert summary.n == 172
    assert summary.median_abs_error_pct <= 4
    assert summary.max_abs_error_pct <= 28
    assert summary.minutes_share >= 0.88
    assert 0.75 <= summary.band_share <= 0.92


@given(st.floats(5, 180), st.floats(1.02, 2))
def test_more_dough_is_never_smaller(grams: float, factor: float) -> None:
    assert width(DROP, MassPortion(grams * factor)) > width(DROP, MassPortion(grams))


@given(st.floats(-18, 21), st.floats(0, 15))
def test_colder_dough_is_never_wider(temp: float, warmer: float) -> None:
    cold = replace(ROOM, dough_temp_c=temp)
    warm = replace(ROOM, dough_temp_c=temp + warmer)
    assert width(DROP, MassPortion(28), cold) <= width(DROP, MassPortion(28), warm) + 1e-9


@given(st.floats(1, 2))
def test_more_flour_is_never_wider(factor: float) -> None:
    stiffer = {**DROP, "flour_ap": DROP["flour_ap"] * factor}
    assert width(stiffer, MassPortion(28)) <= width(DROP, MassPortion(28)) + 1e-9


@given(st.floats(30, 100), st.floats(3, 12))
def test_a_cut_disc_never_ends_smaller_than_it_was(across: float, thick: float) -> None:
    for portion in (CutDisc(across, thick), LogSlice(across, thick)):
        assert width(DROP, portion) >= across


@given(st.floats(10, 100))
def test_baked_mass_is_less_than_raw_and_not_by_much(grams: float) -> None:
    found = look(DROP, MassPortion(grams))
    assert 0.8 * grams < found.thickness.baked_g < grams
    assert found.raw.grams == grams


@settings(max_examples=so_many(30))
@given(st.floats(0, 0.3), st.floats(0.01, 0.3))
def test_the_band_widens_with_uneven_hands(cv: float, more: float) -> None:
    def half(found: Foreseen) -> float:
        return found.width.high_mm - found.width.low_mm

    even, uneven = (look(DROP, MassPortion(28), cv=c) for c in (cv, cv + more))
    assert half(uneven) > half(even)
    assert even.width.low_mm < even.width.middle_mm < even.width.high_mm


def test_the_band_widens_away_from_the_data() -> None:
    def spread(formula: dict[str, float]) -> float:
        found = look(formula, MassPortion(28)).width
        return (found.high_mm - found.low_mm) / found.middle_mm

    sugar_free = {k: v for k, v in DROP.items() if not k.startswith("sugar")} | {"erythritol": 310}
    candied = {**DROP, "caramel_bits": 300.0}
    assert spread(DROP) < spread(sugar_free)
    assert spread(DROP) < spread(candied)


@pytest.mark.parametrize(
    ("change", "key", "sign"),
    [
        ({"chocolate_chips": 400.0}, "pieces", -1),
        ({"sugar_white": 300.0}, "sugar", +1),
        ({"peanut_butter": 150.0}, "nut_butter", -1),
        ({"baking_soda": 5.0}, "soda", +1),
    ],
)
def test_each_effect_is_named_with_its_sign(change: dict[str, float], key: str, sign: int) -> None:
    movers = {m.key: m.mm for m in look({**DROP, **change}, MassPortion(28)).width.movers}
    assert movers[key] * sign > 0


def test_what_moves_it_is_ranked_and_is_the_difference_that_it_makes() -> None:
    chilled = replace(ROOM, dough_temp_c=4)
    movers = look(DROP, MassPortion(28), chilled).width.movers
    sizes = [abs(m.mm) for m in movers]
    assert sizes == sorted(sizes, reverse=True)
    cold = next(m.mm for m in movers if m.key == "chilled")
    at_21 = width(DROP, MassPortion(28))
    assert width(DROP, MassPortion(28), chilled) - at_21 == pytest.approx(cold, abs=0.02)


@pytest.mark.parametrize(
    "formula",
    [
        {
            "chocolate_dark": 225,
            "butter_unsalted": 60,
            "sugar_white": 150,
            "egg_whole": 100,
            "flour_ap": 40,
        },
        {"walnuts": 200, "egg_white": 60, "sugar_icing": 150, "cocoa": 15},
        {"coconut_flaked": 200, "egg_white": 70, "sugar_white": 120},
    ],
)
def test_what_bakers_make_with_hardly_any_flour_is_foreseen(formula: dict[str, float]) -> None:
    found = look(formula, MassPortion(30), ROOM)
    assert 35 < found.width.middle_mm < 95


@pytest.mark.parametrize(
    ("formula", "word"),
    [
        ({"sugar_white": 200.0, "egg_whole": 50.0}, "holds a piece together"),
        ({"butter_unsalted": 100.0}, "holds a piece together"),
        ({"flour_ap": 100.0, "milk_whole": 300.0}, "batter"),
    ],
)
def test_what_cannot_be_foreseen_says_so(formula: dict[str, float], word: str) -> None:
    with pytest.raises(Refusal, match=word):
        look(formula, MassPortion(28))


@pytest.mark.parametrize("grams", [-1, 0, 0.5, 401, 1e12])
def test_a_piece_that_no_hand_makes_is_refused(grams: float) -> None:
    with pytest.raises(Refusal) as refused:
        look(DROP, MassPortion(grams))
    assert refused.value.faults[0].field == "grams"


def test_an_oven_that_is_too_cool_is_refused() -> None:
    with pytest.raises(Refusal, match="never be done"):
        look(DROP, MassPortion(28), replace(ROOM, oven_c=90))


def test_minutes_follow_thickness_heat_and_cold() -> None:
    def minutes(portion: Portion, **how: object) -> float:
        return look(DROP, portion, replace(ROOM, **how)).minutes  # type: ignore[arg-type]

    plain = minutes(MassPortion(28))
    assert minutes(MassPortion(60)) > plain
    assert minutes(MassPortion(28), oven_c=200) < plain
    assert minutes(MassPortion(28), dough_temp_c=-18) > plain
    assert minutes(MassPortion(28), oven_c=160, oven_mode="fan") == pytest.approx(plain)
    assert minutes(MassPortion(28), surface="insulated") > plain


def run_evaluate(*args: str) -> Result:
    return CliRunner().invoke(app, ["evaluate", *args])


def test_evaluate_prints_json_for_machines(cases: dict[str, Case]) -> None:
    ran = run_evaluate(str(CASES), "--json")
    assert ran.exit_code == 0
    answer = json.loads(ran.stdout)
    assert set(answer["summary"]) == {
        "n",
        "median_abs_error_pct",
        "max_abs_error_pct",
        "band_share",
        "minutes_share",
    }
    first = answer["cases"][0]
    assert first["low_mm"] < first["predicted_mm"] < first["high_mm"]
    error = 100 * (first["predicted_mm"] / first["observed_mm"] - 1)
    assert error == pytest.approx(first["error_pct"], abs=0.1)
    logs = {c.id for c in cases.values() if c.family == "twice_baked"}
    assert {c["id"] for c in answer["cases"] if c["minutes_second"] is not None} == logs


def test_evaluate_prints_a_table_for_people() -> None:
    ran = run_evaluate(str(CASES))
    assert "172 cases: median error" in ran.stdout


@pytest.mark.parametrize(
    "text",
    ["", "{", "[]", '{"cases": []}', '{"cases": [{"id": "x"}]}', '{"cases": 3}', "\x00"],
)
def test_evaluate_says_what_is_wrong_with_a_file(tmp_path: Path, text: str) -> None:
    file = tmp_path / "cases.json"
    file.write_text(text)
    ran = run_evaluate(str(file))
    assert ran.exit_code == 2
    assert str(file) in ran.stderr
    assert "Traceback" not in ran.stderr


def test_evaluate_refuses_an_unknown_ingredient_and_a_missing_file(tmp_path: Path) -> None:
    file = tmp_path / "cases.json"
    whole = json.loads(CASES.read_text())
    whole["cases"][0]["formula_g"]["stardust"] = 5
    file.write_text(json.dumps(whole))
    ran = run_evaluate(str(file))
    assert (ran.exit_code, "stardust" in ran.stderr) == (2, True)
    assert run_evaluate(str(tmp_path / "none.json")).exit_code == 2


def test_evaluate_says_which_case_cannot_be_foreseen_and_goes_on(tmp_path: Path) -> None:
    whole = json.loads(CASES.read_text())
    whole["cases"][1]["formula_g"] = {"flour_ap": 50, "milk_whole": 300, "egg_whole": 100}
    file = tmp_path / "cases.json"
    file.write_text(json.dumps(whole))
    ran = run_evaluate(str(file), "--json")
    assert ran.exit_code == 0, ran.stderr
    told = json.loads(ran.stdout)
    assert told["cases"][1]["predicted_mm"] is None
    assert "a batter" in told["cases"][1]["refused"]
    assert told["summary"]["n"] == len(whole["cases"]) - 1
    assert "a batter" in run_evaluate(str(file)).stdout


def test_a_cut_edge_that_does_not_flow_is_not_known_for_certain() -> None:
    stiff = {"flour_ap": 320.0, "butter_unsalted": 150.0, "sugar_icing": 90.0, "egg_whole": 25.0}
    found = look(stiff, CutDisc(60, 5), replace(ROOM, dough_temp_c=8), cv=0.0).width
    half = math.log(found.high_mm / found.low_mm) / 2 / EIGHT_IN_TEN
    known = math.hypot(found.formula_sd, found.oven_sd, found.hands_sd, RULER_SD)
    assert math.sqrt(half**2 - known**2) == pytest.approx(EDGE_SD, rel=0.35)
