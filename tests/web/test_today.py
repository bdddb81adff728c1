"""The first screen's questions: the doughs as they came out, what waits, and what is found."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from finebatch.facts import tables
from tests.conftest import HandClock
from tests.web.test_closing import baked


def drawer(asked: TestClient, **query: Any) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = asked.get("/api/drawer", params=query).json()["doughs"]
    return found


def test_a_dough_is_drawn_as_it_was_measured_last(demo: TestClient) -> None:
    drops = next(dough for dough in drawer(demo) if dough["id"] == 1)
    assert drops["piece"]["measured"]
    assert drops["bakes"] == 2
    record = {"dough_id": 1, "widths_mm": [60, 64], "seen": {"heights_mm": [11, 13]}}
    demo.post("/api/bakes", json=record)
    again = next(dough for dough in drawer(demo) if dough["id"] == 1)
    assert (again["piece"]["width_mm"], again["piece"]["height_mm"]) == (62, 12)
    assert again["bakes"] == 3
    # A bake of which no width was taken says nothing of the piece.
    demo.post("/api/bakes", json={"dough_id": 1, "widths_mm": [], "colour": 3})
    last = next(dough for dough in drawer(demo) if dough["id"] == 1)
    assert (last["last"]["colour"], last["piece"]["measured"]) == (3, False)


def test_a_dough_that_was_never_baked_is_drawn_as_it_is_foreseen(demo: TestClient) -> None:
    shortbread = next(dough for dough in drawer(demo) if dough["id"] == 3)
    tray = demo.get("/api/doughs/3").json()["tray"]
    foreseen = demo.post("/api/doughs/3/foresee", json=tray).json()
    assert (shortbread["last"], shortbread["piece"]["measured"]) == (None, False)
    assert shortbread["piece"]["width_mm"] == pytest.approx(foreseen["width"]["middle_mm"])
    assert shortbread["piece"]["height_mm"] == pytest.approx(foreseen["thickness"]["height_mm"])


def test_a_dough_without_a_piece_is_there_all_the_same(demo: TestClient) -> None:
    card = {"name": "Nothing yet", "family": "drop", "mixing": "creamed", "lines": []}
    made = demo.post("/api/doughs", json=card).json()["id"]
    newest, *_ = drawer(demo)
    assert (newest["id"], newest["piece"], newest["last"]) == (made, None, None)
    assert [dough["id"] for dough in drawer(demo, most=1)] == [made]
    assert [dough["id"] for dough in drawer(demo, search="nothing")] == [made]


def test_what_was_baked_waits_until_it_is_written_down(demo: TestClient, clock: HandClock) -> None:
    assert demo.get("/api/today").json() == {"to_write": []}
    session = baked(demo, clock, [{"dough_id": 1}, {"dough_id": 2}])
    waiting = demo.get("/api/today").json()["to_write"]
    assert [(one["letter"], one["dough_id"]) for one in waiting] == [("A", 1), ("B", 2)]
    assert {one["session_id"] for one in waiting} == {session["id"]}
    record = {"dough_id": 1, "session_id": session["id"], "tray": "A1", "widths_mm": [60]}
    assert demo.post("/api/bakes", json=record).status_code == 201
    assert [one["letter"] for one in demo.get("/api/today").json()["to_write"]] == ["B"]
    clock.pass_minutes(15 * 24 * 60)
    assert demo.get("/api/today").json()["to_write"] == []


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("sesame", [("dough", "3"), ("cold", "2"), ("ingredient", "sesame_seed")]),
        ("ran together", [("bake", "1")]),
        ("TAHINI  ", [("dough", "1"), ("bake", "2"), ("bake", "1"), ("ingredient", "tahini")]),
        ("   ", []),
        ("%%", []),
        ("no such thing", []),
    ],
)
def test_whatever_is_kept_is_found(
    demo: TestClient, text: str, found: list[tuple[str, str]]
) -> None:
    told = demo.get("/api/find", params={"text": text}).json()
    assert [(one["kind"], one["key"]) for one in told] == found


def test_a_dough_is_found_by_what_is_in_it(demo: TestClient) -> None:
    found = demo.get("/api/find", params={"text": "hazelnut"}).json()
    assert ("dough", "4") in [(one["kind"], one["key"]) for one in found]
    other = demo.get("/api/find", params={"text": "rye flour"}).json()[0]
    assert (other["name"], other["said"]) == ("Rye, date & tahini drops", "has rye flour in it")


@pytest.mark.parametrize("key", tables.base_doughs())
def test_a_base_dough_is_whole(client: TestClient, key: str) -> None:
    """Every line is weighed, it bakes, nothing on its card disagrees, and it can be planned."""
    begun = client.post(f"/api/base-doughs/{key}")
    assert begun.status_code == 201, begun.text
    dough = begun.json()
    assert dough["weighed"]["faults"] == []
    assert all(line["grams"] is not None for line in dough["weighed"]["lines"])
    asked = {"card": dough["card"], "tray": dough["tray"], "dough_id": dough["id"]}
    study = client.post("/api/study", json=asked).json()
    assert (study["checks"], study["piece_fault"]) == ([], "")
    said = study["begun"]["says"]["minutes"]
    assert 0.85 * said["low"] <= study["piece"]["minutes"] <= 1.15 * said["high"]
    assert len(study["told"]) >= 6
    wish = {"items": [{"dough_id": dough["id"]}], "sheets": 2, "shelves": 2}
    assert client.put("/api/plan", json=wish).status_code == 200
    shown = {base["key"]: base for base in client.get("/api/base-doughs").json()}
    assert shown[key]["drawn"]["piece"] is not None


def test_there_are_base_doughs_of_every_family(client: TestClient) -> None:
    families = [base["drawn"]["family"] for base in client.get("/api/base-doughs").json()]
    assert len(families) == 12
    assert set(families) == {"drop", "rolled", "shortbread", "twice_baked"}
    assert client.post("/api/base-doughs/none_of_it").status_code == 404
