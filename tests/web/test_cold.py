"""The cold store over HTTP: put away, moved in time, taken out, corrected, thrown away."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import HandClock

DAY = 24 * 60


def put(client: TestClient, **fields: Any) -> Any:
    usual = {"dough_id": 1, "form": "portions", "pieces": 20, "place": "fridge"}
    return client.post("/api/cold", json={**usual, **fields})


def one(client: TestClient, item: Any) -> Any:
    store = client.get("/api/cold").json()
    return next(i for i in [*store["kept"], *store["gone"]] if i["id"] == item["id"])


def days_left(client: TestClient, item: Any) -> float:
    found = one(client, item)
    now = client.get("/api/cold").json()["now"]
    return round((found["use_by"] - now) / 86_400_000, 2)


def move(client: TestClient, item: Any, place: str) -> Any:
    return client.post(f"/api/cold/{item['id']}/move", json={"place": place})


def test_the_demo_has_a_dough_near_its_last_day_and_one_frozen(demo: TestClient) -> None:
    store = demo.get("/api/cold").json()
    assert [i["place"] for i in store["kept"]] == ["fridge", "tin", "freezer"]
    assert store["kept"][0]["soon"]
    assert "local food authority" in store["caution"]


def test_dough_with_egg_keeps_two_days_and_is_said_in_time(
    demo: TestClient, clock: HandClock
) -> None:
    item = put(demo).json()
    assert item["version"] == 2
    assert days_left(demo, item) == 2
    assert not item["soon"]
    clock.pass_minutes(DAY)
    assert one(demo, item)["soon"]
    clock.pass_minutes(1.2 * DAY)
    assert one(demo, item)["past"]
    assert "Freezing does not" in move(demo, item, "freezer").json()["detail"]


def test_freezing_stops_the_days_and_thawing_gives_back_what_was_left(
    demo: TestClient, clock: HandClock
) -> None:
    item = put(demo).json()
    clock.pass_minutes(1.5 * DAY)
    move(demo, item, "freezer")
    assert days_left(demo, item) == 30
    clock.pass_minutes(20 * DAY)
    move(demo, item, "fridge")
    assert days_left(demo, item) == 0.5
    move(demo, item, "freezer")
    move(demo, item, "fridge")
    assert days_left(demo, item) == 0.5


def test_pieces_are_taken_out_until_none_is_left(demo: TestClient) -> None:
    item = put(demo).json()
    take = f"/api/cold/{item['id']}/take"
    assert demo.post(take, json={"pieces": 8, "why": "for a session"}).json()["pieces"] == 12
    refused = demo.post(take, json={"pieces": 13})
    assert refused.status_code == 422
    assert "1 to 12" in refused.json()["detail"]
    demo.post(take, json={"pieces": 12})
    store = demo.get("/api/cold").json()
    assert item["id"] not in [i["id"] for i in store["kept"]]
    gone = next(i for i in store["gone"] if i["id"] == item["id"])
    assert [e["said"] for e in gone["events"]] == [
        "20 pieces as portions into the fridge",
        "8 taken out for a session; 12 left",
        "12 taken out; 0 left",
    ]
    assert demo.post(take, json={"pieces": 1}).status_code == 422


def test_a_count_is_corrected_with_a_trace(demo: TestClient) -> None:
    item = put(demo).json()
    path = f"/api/cold/{item['id']}"
    after = demo.put(path, json={"pieces": 17, "note": "top shelf"}).json()
    assert (after["pieces"], after["note"]) == (17, "top shelf")
    assert after["events"][-1]["said"] == "corrected from 20 to 17 pieces"
    thrown = demo.post(f"{path}/throw-away").json()
    assert thrown["pieces"] == 0
    assert thrown["events"][-1]["said"] == "17 thrown away"


@pytest.mark.parametrize(
    ("fields", "field"),
    [
        ({"pieces": 0}, "pieces"),
        ({"pieces": 99_999}, "pieces"),
        ({"place": "tin"}, "place"),
        ({"form": "baked", "place": "fridge"}, "place"),
        ({"since": 0}, "since"),
        ({"since": 9_000_000_000_000}, "since"),
        ({"form": "soup"}, "form"),
    ],
)
def test_what_cannot_be_put_away_is_named(
    demo: TestClient, fields: dict[str, Any], field: str
) -> None:
    before = demo.get("/api/cold").json()
    answer = put(demo, **fields)
    assert answer.status_code == 422
    assert [e["field"] for e in answer.json()["errors"]] == [field]
    assert demo.get("/api/cold").json() == before


def test_what_is_kept_outlives_its_dough(demo: TestClient) -> None:
    item = put(demo).json()
    demo.delete("/api/doughs/1")
    found = one(demo, item)
    assert found["dough_id"] is None
    assert found["name"].startswith("Rye")
    assert move(demo, item, "freezer").status_code == 200
    assert move(demo, item, "fridge").status_code == 200


def test_what_is_not_there_is_missing(demo: TestClient) -> None:
    for path in ("take", "move", "throw-away"):
        body = {"pieces": 1} if path == "take" else {"place": "fridge"}
        assert demo.post(f"/api/cold/999/{path}", json=body).status_code == 404
    assert put(demo, dough_id=99).status_code == 404
