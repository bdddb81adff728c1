"""Aim over HTTP: ways from a dough to a wish, one of them kept, and nothing kept by asking."""

from typing import Any

import pytest
from fastapi.testclient import TestClient


def aimed(demo: TestClient, dough: int, *, coarse: bool = False, **wish: Any) -> Any:
    tray = demo.get(f"/api/doughs/{dough}").json()["tray"]
    body = {**tray, "aim": wish, "coarse": coarse}
    answer = demo.post(f"/api/doughs/{dough}/aim", json=body)
    assert answer.status_code == 200, answer.text
    return answer.json()


def keep(demo: TestClient, dough: int, way: Any, **wish: Any) -> Any:
    revision = demo.get(f"/api/doughs/{dough}").json()["revision"]
    body = {"revision": revision, "card": way["card"], "setting": way["setting"], "aim": wish}
    return demo.post(f"/api/doughs/{dough}/keep-way", json=body)


@pytest.mark.parametrize("dough", [1, 2, 3, 4])
def test_a_way_comes_to_the_wish_once_it_is_kept(demo: TestClient, dough: int) -> None:
    before = demo.get(f"/api/doughs/{dough}").json()
    now = aimed(demo, dough)["now"]
    wish = {"width_mm": {"figure": round(0.93 * now["width_mm"], 1)}}
    found = aimed(demo, dough, **wish)
    assert found["met"]
    assert 1 <= len(found["ways"]) <= 3
    assert demo.get(f"/api/doughs/{dough}").json() == before
    assert found["ways"] == aimed(demo, dough, **wish)["ways"]
    coarse = aimed(demo, dough, coarse=True, **wish)
    assert coarse["ways"][0]["distance"] >= found["ways"][0]["distance"] - 1e-6
    way = found["ways"][-1]
    kept = keep(demo, dough, way, **wish).json()
    came = demo.post(f"/api/doughs/{dough}/foresee", json=kept["tray"]).json()
    assert came["width"]["middle_mm"] == pytest.approx(way["comes"]["width_mm"], abs=0.3)
    assert came["width"]["middle_mm"] == pytest.approx(wish["width_mm"]["figure"], abs=1.5)


def test_what_was_aimed_at_is_the_versions_reason(demo: TestClient) -> None:
    wish = {"without": ["egg"], "minutes": {"figure": 9, "sense": "at_most"}}
    found = aimed(demo, 1, **wish)
    assert found["said"] == "Aimed at: at most 9 minutes, without eggs"
    assert keep(demo, 1, found["ways"][0], **wish).status_code == 200
    versions = demo.get("/api/doughs/1/versions").json()
    assert versions[0]["reason"] == found["said"]
    assert "eggs" not in {a["name"] for a in _allergens(demo)}


def _allergens(demo: TestClient) -> Any:
    dough = demo.get("/api/doughs/1").json()
    body = {"card": dough["card"], "tray": dough["tray"]}
    return demo.post("/api/study", json=body).json()["allergens"]


def test_a_dough_that_was_changed_meanwhile_is_not_overwritten(demo: TestClient) -> None:
    dough = demo.get("/api/doughs/1").json()
    way = aimed(demo, 1, width_mm={"figure": 70})["ways"][0]
    body = {
        "revision": dough["revision"],
        "card": way["card"],
        "setting": way["setting"],
        "aim": {},
    }
    changed = {**dough["card"], "revision": dough["revision"], "note": "more salt"}
    assert demo.put("/api/doughs/1", json=changed).status_code == 200
    lines = [*way["card"]["lines"], {"amount": "1", "unit": "g", "ingredient": "salt_fine"}]
    body["card"] = {**way["card"], "lines": lines}
    assert demo.post("/api/doughs/1/keep-way", json=body).status_code == 409


def test_only_what_is_in_the_house_when_that_is_written_down(demo: TestClient) -> None:
    wish = {"from_house": True, "without": ["milk"]}
    assert "Nothing is written down" in aimed(demo, 2, **wish)["why"][0]
    lines = demo.get("/api/doughs/2").json()["weighed"]["lines"]
    there = {line["ingredient"]: 2 * line["grams"] for line in lines if line["grams"]}
    there = {key: grams for key, grams in there.items() if "butter" not in key} | {"lard": 500}
    for key, grams in there.items():
        pack = {"ingredient": key, "grams": grams}
        assert demo.post("/api/stock", json=pack).status_code == 201
    found = aimed(demo, 2, **wish)
    assert found["met"], found["why"]
    for way in found["ways"]:
        used = {line["ingredient"] for line in way["card"]["lines"]}
        assert used <= there.keys() | {"water"}


@pytest.mark.parametrize(
    "wish",
    [
        {"width_mm": {"figure": -1}},
        {"width_mm": 70},
        {"minutes": {"figure": 9, "sense": "soon"}},
        {"without": ["salt"]},
        {"sugar_pct": 300},
        {"keeps_days": 0},
        {"doneness": "burnt"},
    ],
)
def test_a_wish_that_makes_no_sense_is_refused(demo: TestClient, wish: dict[str, Any]) -> None:
    tray = demo.get("/api/doughs/1").json()["tray"]
    answer = demo.post("/api/doughs/1/aim", json={**tray, "aim": wish})
    assert answer.status_code == 422
    assert answer.json()["errors"]


def test_a_card_that_is_not_finished_says_so(demo: TestClient) -> None:
    made = demo.post("/api/doughs", json={"name": "Half a card", "family": "drop", "lines": []})
    dough = made.json()
    answer = demo.post(f"/api/doughs/{dough['id']}/aim", json={**dough["tray"], "aim": {}})
    assert answer.status_code == 422
    assert "Add a first ingredient" in answer.json()["errors"][0]["message"]
