from typing import Any

import pytest
from fastapi.testclient import TestClient

from finebatch.core.formula.composition import compose
from finebatch.core.piece.effects import BakeConditions
from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.rows import Sheet
from finebatch.core.piece.tray import TrayBasis, foresee_tray
from finebatch.facts import tables
from tests.web.test_doughs import CARD


def make(client: TestClient, **change: Any) -> dict[str, Any]:
    made: dict[str, Any] = client.post("/api/doughs", json={**CARD, **change}).json()
    return made


def foresee(client: TestClient, dough: dict[str, Any], **setting: Any) -> Any:
    piece = {**dough["tray"]["piece"], **setting.pop("piece", {})}
    body = {**dough["tray"], **setting, "piece": piece}
    return client.post(f"/api/doughs/{dough['id']}/foresee", json=body)


def test_the_api_gives_what_the_core_computes(client: TestClient) -> None:
    dough = make(client)
    found = foresee(client, dough, piece={"grams": 30}).json()
    formula = {
        "flour_ap": 281.25,
        "butter_unsalted": 113.0,
        "sugar_white": 150.0,
        "egg_whole": 50.0,
    }
    basis = TrayBasis(
        tables.models(),
        compose(formula, tables.larder()),
        "drop",
        BakeConditions(21, 180, "conventional", "parchment"),
        Sheet(405, 305),
        "weighed",
    )
    core = foresee_tray(basis, Drop(30))
    assert found["width"]["middle_mm"] == pytest.approx(core.foreseen.width.middle_mm)
    assert found["minutes"] == pytest.approx(core.foreseen.minutes)
    assert found["yields"]["pieces"] == core.yields.pieces
    assert found["yields"]["leftover_g"] == pytest.approx(core.yields.leftover_g)
    # Before any bake, a kitchen of one's own is less sure than home kitchens at large.
    assert found["width"]["low_mm"] < core.foreseen.width.low_mm


def test_mass_is_conserved(client: TestClient) -> None:
    dough = make(client)
    for grams in (12, 28, 55.5):
        y = foresee(client, dough, piece={"grams": grams}).json()["yields"]
        whole = y["pieces"] * grams + y["leftover_g"] + y["bowl_loss_g"]
        assert whole == pytest.approx(dough["weighed"]["total_g"])
        assert 0 <= y["leftover_g"] < grams
        assert sum(y["trays"]) == y["pieces"]


@pytest.mark.parametrize("family", ["drop", "rolled", "shortbread", "twice_baked"])
def test_each_family_is_portioned_its_own_way(client: TestClient, family: str) -> None:
    dough = make(client, family=family)
    found = foresee(client, dough).json()
    raw = found["raw"]
    kinds = {"drop": "drop", "rolled": "rolled", "shortbread": "sliced"}
    assert dough["tray"]["piece"]["kind"] == kinds.get(family, "twice_baked")
    assert raw["grams"] == pytest.approx(found["piece_g"])
    assert found["width"]["middle_mm"] > raw["width_mm"] * 0.999
    assert (raw["length_mm"] is not None) == (family == "twice_baked")
    assert raw["flat"] == (family in ("rolled", "shortbread"))
    for layout in found["layouts"]:
        assert len(layout["centres"]) in found["yields"]["trays"]


@pytest.mark.parametrize(
    ("setting", "field", "words"),
    [
        ({"piece": {"grams": -5}}, "piece.drop.grams", "above 0"),
        ({"piece": {"grams": 0}}, "piece.drop.grams", "above 0"),
        ({"piece": {"grams": 1e12}}, "piece.drop.grams", "at most"),
        ({"piece": {"grams": 0.5}}, "grams", "2 to 400 g a piece"),
        ({"piece": {"grams": 399}}, "grams", ""),
        ({"oven_c": 70}, "oven_c", "never be done"),
        ({"oven_c": 900}, "oven_c", "at most 300"),
        ({"dough_temp_c": -200}, "dough_temp_c", "at least"),
        ({"surface": "lava"}, "surface", "Choose"),
    ],
)
def test_bad_settings_are_refused_at_their_field(
    client: TestClient, setting: dict[str, Any], field: str, words: str
) -> None:
    lines = [{**CARD["lines"][0], "amount": "1"}, {**CARD["lines"][1], "amount": "1/2"}]
    dough = make(client, lines=lines)
    answer = foresee(client, dough, **setting)
    assert answer.status_code == 422
    faults = {e["field"]: e["message"] for e in answer.json()["errors"]}
    assert words in faults[field]


@pytest.mark.parametrize(
    ("lines", "words"),
    [
        ([], "Add a first ingredient"),
        ([{"amount": "100", "unit": "g", "ingredient": "sugar_white"}], "holds a piece together"),
        ([{"amount": "x", "unit": "g", "ingredient": "flour_ap"}], "not an amount"),
    ],
)
def test_a_dough_that_is_none_says_why(
    client: TestClient, lines: list[dict[str, str]], words: str
) -> None:
    dough = make(client, lines=lines)
    answer = foresee(client, dough)
    assert answer.status_code == 422
    assert words in answer.json()["detail"]


def test_a_piece_larger_than_the_sheet_is_refused(client: TestClient) -> None:
    kitchen = client.get("/api/kitchen").json()
    small = {**kitchen, "sheet_width_mm": 120, "sheet_depth_mm": 120}
    assert client.put("/api/kitchen", json=small).status_code == 200
    answer = foresee(client, make(client), piece={"grams": 120})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == "piece"
    assert "larger sheet" in answer.json()["detail"]


def test_a_margin_that_leaves_no_sheet_is_refused(client: TestClient) -> None:
    kitchen = client.get("/api/kitchen").json()
    answer = client.put("/api/kitchen", json={**kitchen, "sheet_depth_mm": 120, "margin_mm": 90})
    assert answer.json()["errors"][0]["field"] == "margin_mm"
    assert client.get("/api/kitchen").json() == kitchen


def test_the_setting_is_kept(client: TestClient) -> None:
    dough = make(client)
    changed = {**dough["tray"], "oven_c": 165, "evenness": "spooned"}
    assert client.put(f"/api/doughs/{dough['id']}/tray", json=changed).status_code == 200
    assert client.get(f"/api/doughs/{dough['id']}").json()["tray"] == changed
