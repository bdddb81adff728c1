"""Occasions that come again: kept with what was eaten and left, for the next time's counts."""

from typing import Any

from fastapi.testclient import TestClient

from finebatch.core.session.occasion import (
    KeptOccasion,
    KindOutcome,
    Occasion,
    OccasionKind,
    Outcome,
    as_eaten,
)
from tests.conftest import HandClock
from tests.plans import plan

DAY = 86_400_000


def kept(client: TestClient, clock: HandClock, **asked: Any) -> Any:
    body = {"at": clock() + DAY, "kinds": [{"dough_id": 1}, {"dough_id": 4}], **asked}
    found = client.post("/api/plan/occasion", json=body).json()
    client.put("/api/plan", json=found["wish"])
    session = client.get("/api/plan").json()
    answer = client.post("/api/occasions", json={"session_id": session["id"], "name": "Advent"})
    assert answer.status_code == 201, answer.text
    return answer.json()


def test_what_was_eaten_is_what_is_asked_for_the_next_time(
    demo: TestClient, clock: HandClock
) -> None:
    one = kept(demo, clock, pieces=60)
    assert one["name"] == "Advent"
    assert one["as_eaten"] == one["occasion"]
    path = f"/api/occasions/{one['id']}/outcome"
    kinds = [{"dough_id": 1, "baked": 32, "left": 8}, {"dough_id": 4, "baked": 30, "left": 0}]
    told = demo.put(path, json={"at": clock() + DAY, "kinds": kinds}).json()
    assert [kind["pieces"] for kind in told["as_eaten"]["kinds"]] == [24, 30]
    assert told["as_eaten"]["pieces"] == 54
    # Said again for the same day it is corrected, not told twice.
    kinds[0]["left"] = 2
    told = demo.put(path, json={"at": clock() + DAY, "kinds": kinds}).json()
    assert len(told["outcomes"]) == 1
    assert told["as_eaten"]["kinds"][0]["pieces"] == 30


def test_more_cannot_be_left_than_was_baked(demo: TestClient, clock: HandClock) -> None:
    one = kept(demo, clock, people=10)
    kinds = [{"dough_id": 1, "baked": 20, "left": 21}]
    answer = demo.put(f"/api/occasions/{one['id']}/outcome", json={"at": clock(), "kinds": kinds})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == "kinds.0.left"


def test_a_name_is_kept_once_and_can_go(demo: TestClient, clock: HandClock) -> None:
    kept(demo, clock, pieces=60)
    two = kept(demo, clock, pieces=80)
    (only,) = demo.get("/api/occasions").json()
    assert (only["id"], only["occasion"]["pieces"]) == (two["id"], 80)
    assert demo.delete(f"/api/occasions/{only['id']}").status_code == 200
    assert demo.get("/api/occasions").json() == []


def test_any_session_can_be_kept_with_its_doughs(demo: TestClient) -> None:
    session = plan(demo, 1, 2).json()
    body = {"session_id": session["id"], "name": "Every week"}
    one = demo.post("/api/occasions", json=body).json()
    assert [kind["dough_id"] for kind in one["occasion"]["kinds"]] == [1, 2]
    trays = [tray for tray in session["trays"] if tray["dough"] == "A"]
    assert one["occasion"]["kinds"][0]["pieces"] == sum(tray["pieces"] for tray in trays)


def test_a_kind_that_was_thrown_away_is_in_it_no_more(demo: TestClient, clock: HandClock) -> None:
    kept(demo, clock, pieces=60)
    demo.delete("/api/plan")
    assert demo.delete("/api/doughs/4").status_code == 200
    (one,) = demo.get("/api/occasions").json()
    assert [kind["dough_id"] for kind in one["occasion"]["kinds"]] == [1]


def test_a_dough_that_is_in_it_twice_is_told_twice() -> None:
    kinds = (OccasionKind(1, 30), OccasionKind(1, 20, each_g=14), OccasionKind(2))
    told = Outcome(1, (KindOutcome(1, 30, 10), KindOutcome(1, 20, 0)))
    found = as_eaten(KeptOccasion(Occasion(1, kinds, pieces=60), (told,)))
    assert [kind.pieces for kind in found.kinds] == [20, 20, None]
    assert found.pieces == 60


def test_a_name_of_blanks_is_none(demo: TestClient) -> None:
    session = plan(demo, 1).json()
    answer = demo.post("/api/occasions", json={"session_id": session["id"], "name": "  "})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == "name"
