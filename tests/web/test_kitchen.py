from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.plans import plan


def foresee(client: TestClient, dough: int = 1) -> dict[str, Any]:
    tray = client.get(f"/api/doughs/{dough}").json()["tray"]
    found: dict[str, Any] = client.post(f"/api/doughs/{dough}/foresee", json=tray).json()
    return found


def change(client: TestClient, **fields: Any) -> Any:
    return client.put("/api/kitchen", json={**client.get("/api/kitchen").json(), **fields})


def test_a_kitchen_is_there_before_it_was_set(client: TestClient) -> None:
    kitchen = client.get("/api/kitchen").json()
    assert kitchen["sheets"] >= 1
    assert kitchen["shelves"] >= 1
    assert change(client, sheets=5).json()["sheets"] == 5
    assert client.get("/api/kitchen").json()["sheets"] == 5


def test_two_shelves_take_a_tenth_longer(demo: TestClient) -> None:
    one = foresee(demo)["minutes"]
    change(demo, shelves=2)
    assert foresee(demo)["minutes"] == pytest.approx(1.1 * one)


def test_a_fan_is_twenty_degrees(demo: TestClient) -> None:
    still = foresee(demo)
    change(demo, oven_mode="fan")
    fan = foresee(demo)
    assert fan["minutes"] < still["minutes"]
    assert fan["width"]["middle_mm"] < still["width"]["middle_mm"]


def test_a_larger_sheet_holds_more_and_a_larger_gap_less(demo: TestClient) -> None:
    before = foresee(demo)["yields"]["most_on_sheet"]
    change(demo, sheet_width_mm=600, sheet_depth_mm=400)
    larger = foresee(demo)["yields"]["most_on_sheet"]
    change(demo, gap_mm=40)
    assert foresee(demo)["yields"]["most_on_sheet"] < larger
    assert before < larger


def test_planning_keeps_the_sheets_and_shelves_asked_for(demo: TestClient) -> None:
    assert plan(demo, 1, sheets=3, shelves=2).status_code == 200
    kitchen = demo.get("/api/kitchen").json()
    assert (kitchen["sheets"], kitchen["shelves"]) == (3, 2)


@pytest.mark.parametrize(
    ("fields", "field"),
    [
        ({"sheet_width_mm": 20}, "sheet_width_mm"),
        ({"sheet_depth_mm": 9000}, "sheet_depth_mm"),
        ({"gap_mm": -1}, "gap_mm"),
        ({"margin_mm": 500}, "margin_mm"),
        ({"sheets": 0}, "sheets"),
        ({"shelves": 9}, "shelves"),
        ({"oven_mode": "steam"}, "oven_mode"),
        ({"sheets": 1.5}, "sheets"),
        ({"colour": "red"}, "colour"),
    ],
)
def test_a_kitchen_that_cannot_be_is_refused(
    client: TestClient, fields: dict[str, Any], field: str
) -> None:
    before = client.get("/api/kitchen").json()
    answer = change(client, **fields)
    assert answer.status_code == 422
    assert [e["field"] for e in answer.json()["errors"]] == [field]
    assert client.get("/api/kitchen").json() == before
