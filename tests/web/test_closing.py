"""After the last tray: what is left ticks itself off, the rest lies in the cold store, and the
session is closed."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import HandClock
from tests.plans import at_hand, happen, plan


def done(client: TestClient, session: Any, key: str) -> Any:
    answer = happen(client, session, {"kind": "done", "activity": key})
    assert answer.status_code == 200, answer.text
    return answer.json()


def baked(client: TestClient, clock: HandClock, items: list[dict[str, Any]]) -> Any:
    """A session of those doughs, baked to its last tray; washing and clearing up are left."""
    at_hand(client, *(item["dough_id"] for item in items))
    session = plan(client, items=items, sheets=3).json()
    session = client.post(f"/api/sessions/{session['id']}/start").json()
    while session["state"] == "running":
        jobs = [a for a in session["activities"] if a["hands"] and a["done_at"] is None]
        job = min(jobs, key=lambda a: (a["due_at"], a["start_at"]))
        clock.at = max(clock.at, job["end_at"])
        session = done(client, session, job["key"])
    return session


def left(session: Any) -> list[tuple[str, str | None, bool]]:
    return [(one["kind"], one["dough"], one["done"]) for one in session["closing"]]


def test_what_is_left_ticks_itself_off_and_then_the_session_is_closed(
    demo: TestClient, clock: HandClock
) -> None:
    kept = {"dough_id": 3, "pieces": 8, "keep_as": "log", "keep_in": "fridge"}
    session = baked(demo, clock, [{"dough_id": 1}, kept])
    path = f"/api/sessions/{session['id']}"
    assert left(session) == [
        ("write", "A", False),
        ("write", "B", False),
        ("put_away", "B", True),
        ("clear", None, False),
    ]
    # The rest went into the cold store by itself, as it was asked for.
    number = session["closing"][2]["kept"]
    stored = next(one for one in demo.get("/api/cold").json()["kept"] if one["id"] == number)
    rest = next(dough["kept"] for dough in session["doughs"] if dough["letter"] == "B")
    assert (stored["form"], stored["place"], stored["pieces"]) == ("log", "fridge", rest)

    for dough, tray in ((1, "A1"), (3, "B1")):
        record = {"dough_id": dough, "session_id": session["id"], "tray": tray}
        answer = demo.post("/api/bakes", json={**record, "widths_mm": [60, 61, 62]})
        assert answer.status_code == 201, answer.text
    # Clearing up takes whatever of the washing is left with it.
    done(demo, session, "all.clear")
    now = demo.get("/api/sessions/current").json()
    assert all(one["done"] for one in now["closing"])
    assert now["state"] == "finished"
    closed = demo.post(f"{path}/events", json={"kind": "closed"})
    assert closed.status_code == 200
    assert demo.get("/api/sessions/current").json() is None


def test_a_session_is_closed_only_once_it_is_baked(demo: TestClient) -> None:
    session = plan(demo).json()
    path = f"/api/sessions/{session['id']}"
    demo.post(f"{path}/start")
    assert demo.post(f"{path}/events", json={"kind": "closed"}).status_code == 409


def test_clearing_up_is_taken_back_and_the_session_stays_baked(
    demo: TestClient, clock: HandClock
) -> None:
    session = baked(demo, clock, [{"dough_id": 1}])
    session = done(demo, session, "all.clear")
    assert left(session) == [("write", "A", False), ("clear", None, True)]
    session = demo.post(f"/api/sessions/{session['id']}/undo").json()
    assert (session["state"], left(session)[-1]) == ("finished", ("clear", None, False))
    # One more goes back into the bake itself.
    session = demo.post(f"/api/sessions/{session['id']}/undo").json()
    assert (session["state"], session["closing"]) == ("running", [])


def test_a_rest_that_was_wrapped_by_mistake_is_not_in_the_cold_store(
    demo: TestClient, clock: HandClock
) -> None:
    before = len(demo.get("/api/cold").json()["kept"])
    at_hand(demo)
    session = plan(demo, items=[{"dough_id": 1, "pieces": 4}]).json()
    session = demo.post(f"/api/sessions/{session['id']}/start").json()
    for key in ("A.mix", "A.form", "A.freeze"):
        clock.pass_minutes(15)
        session = done(demo, session, key)
    assert len(demo.get("/api/cold").json()["kept"]) == before + 1
    demo.post(f"/api/sessions/{session['id']}/undo")
    assert len(demo.get("/api/cold").json()["kept"]) == before


@pytest.mark.parametrize(("keep_as", "slower"), [("portions", True), ("dough", False)])
def test_the_rest_is_kept_in_minutes_that_fit(demo: TestClient, keep_as: str, slower: bool) -> None:
    session = plan(demo, items=[{"dough_id": 1, "pieces": 4, "keep_as": keep_as}]).json()
    freeze = next(a for a in session["activities"] if a["kind"] == "freeze")
    minutes = (freeze["end_at"] - freeze["start_at"]) / 60_000
    assert (minutes > 4) is slower
    assert ("Portion" in freeze["said"]["title"]) is slower
    assert "into the freezer" in freeze["said"]["detail"]


def test_a_batter_that_cannot_wait_is_not_kept(demo: TestClient) -> None:
    kept = demo.get("/api/doughs/1").json()
    wafers = {"kind": "wafer", "grams": 8, "spread_mm": 70}
    tray = {**kept["tray"], "piece": wafers, "chill_min": 0, "also": []}
    assert demo.put("/api/doughs/1/tray", json=tray).status_code == 200
    answer = plan(demo, items=[{"dough_id": 1, "pieces": 4}])
    assert answer.status_code == 422
    assert "a batter and cannot wait" in answer.json()["errors"][0]["message"]
    whole = plan(demo, items=[{"dough_id": 1}]).json()
    assert whole["doughs"][0]["waits"] is False


def test_fewer_pieces_are_never_longer_in_the_making(demo: TestClient) -> None:
    """What is kept takes hands as well, but those have time for it."""
    finishes = []
    for pieces in (8, 16, 24, None):
        session = plan(demo, items=[{"dough_id": 1, "pieces": pieces}]).json()
        finishes.append(session["finish_at"] - session["start_at"])
    assert finishes == sorted(finishes)
