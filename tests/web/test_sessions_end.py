"""Every session ends: baked to its last job, or given up; and begins when it is wanted."""

from typing import Any

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient

from finebatch.workflow.kitchen.equipment import get_kitchen
from finebatch.workflow.kitchen.hands import hands_of
from tests.conftest import HandClock
from tests.plans import at_hand, happen, plan

MINUTE = 60_000


def done(client: TestClient, session: dict[str, Any], key: str) -> dict[str, Any]:
    body = {"kind": "done", "activity": key}
    answer = happen(client, session, body)
    assert answer.status_code == 200, answer.text
    after: dict[str, Any] = answer.json()
    return after


@pytest.fixture
def running(demo: TestClient) -> dict[str, Any]:
    """One tray of a dough, the rest of it to be wrapped."""
    at_hand(demo)
    items = [{"dough_id": 1, "pieces": 4}]
    wish = {"items": items, "sheets": 2, "shelves": 1}
    made = demo.put("/api/plan", json=wish).json()
    while made["searching"]:
        made = demo.get("/api/plan").json()
    started: dict[str, Any] = demo.post(f"/api/sessions/{made['id']}/start").json()
    return started


def test_a_session_ends_with_wrapping_the_rest(
    demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    """It was over with the last tray on the rack, and its last job could not be done any more."""
    jobs = [a for a in running["activities"] if a["hands"] and a["kind"] != "clear"]
    assert "A.freeze" in [a["key"] for a in jobs]
    for a in sorted(jobs, key=lambda a: (a["key"] == "A.freeze", a["start_at"])):
        clock.at = max(clock.at, a["end_at"])
        running = done(demo, running, a["key"])
        ended = a["key"] == "A.freeze"
        assert running["state"] == ("finished" if ended else "running")


def test_a_session_that_is_given_up_teaches_nothing(
    app: FastAPI, demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    path = f"/api/sessions/{running['id']}"
    clock.pass_minutes(14)
    done(demo, running, "A.mix")
    given_up = demo.post(f"{path}/give-up").json()
    assert (given_up["state"], given_up["can_undo"]) == ("given_up", True)
    assert demo.get("/api/sessions/current").json()["state"] == "given_up"
    assert demo.post(f"{path}/give-up").status_code == 409
    assert demo.post(f"{path}/start").status_code == 409
    mixed = {"kind": "done", "activity": "A1.portion"}
    assert demo.post(f"{path}/events", json=mixed).status_code == 409
    with app.state.database.reading() as session:
        assert hands_of(session, get_kitchen(session)).mix.jobs == 0
    # Another one can be baked; then this one cannot be gone on with.
    other = demo.post("/api/sessions", json={"dough_id": 2})
    assert other.status_code == 201
    assert demo.post(f"{path}/undo").status_code == 409
    demo.post(f"/api/sessions/{other.json()['id']}/give-up")
    assert demo.post(f"{path}/undo").json()["state"] == "running"


def test_a_session_given_up_is_gone_on_with_where_it_was(
    demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    clock.pass_minutes(14)
    before = done(demo, running, "A.mix")
    path = f"/api/sessions/{running['id']}"
    demo.post(f"{path}/give-up")
    back = demo.post(f"{path}/undo").json()
    assert back["activities"] == before["activities"]


def test_a_session_starts_at_the_time_it_is_planned_for(demo: TestClient, clock: HandClock) -> None:
    wanted = clock() + 90 * MINUTE
    at_hand(demo)
    made = plan(demo, 1, start_at=wanted).json()
    begin = made["start_at"]
    assert begin >= wanted
    started = demo.post(f"/api/sessions/{made['id']}/start", json={"as_planned": True}).json()
    assert (started["state"], started["start_at"]) == ("running", begin)
    assert started["finish_at"] == made["finish_at"]
    # Who begins sooner than planned is not held up; nothing before then goes wrong.
    clock.pass_minutes(30)
    first = min((a for a in started["activities"] if a["hands"]), key=lambda a: a["start_at"])
    assert done(demo, started, first["key"])["state"] == "running"


def test_what_is_planned_for_a_time_that_has_passed_starts_now(
    demo: TestClient, clock: HandClock
) -> None:
    at_hand(demo)
    made = plan(demo, 1, start_at=clock() + 5 * MINUTE).json()
    clock.pass_minutes(20)
    started = demo.post(f"/api/sessions/{made['id']}/start", json={"as_planned": True}).json()
    assert started["start_at"] == clock()
