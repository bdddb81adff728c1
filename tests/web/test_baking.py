from typing import Any

import pytest
from fastapi.testclient import TestClient

from finebatch.core.plan.checker import find_faults
from finebatch.workflow.session import session_rows
from tests.conftest import HandClock
from tests.plans import at_hand, happen, plan
from tests.web.test_doughs import CARD

MINUTE = 60_000


@pytest.fixture
def running(demo: TestClient) -> dict[str, Any]:
    at_hand(demo)
    made = plan(demo).json()
    started: dict[str, Any] = demo.post(f"/api/sessions/{made['id']}/start").json()
    return started


def say(client: TestClient, session: dict[str, Any], activity: str, **more: Any) -> Any:
    body = {"kind": "done", "activity": activity, **more}
    return happen(client, session, body)


def job(session: dict[str, Any], key: str) -> dict[str, Any]:
    return next(a for a in session["activities"] if a["key"] == key)


def test_a_kept_plan_passes_the_checker(demo: TestClient) -> None:
    for dough in demo.get("/api/doughs").json()["doughs"]:
        made = plan(demo, dough["id"]).json()
        with demo.app.state.database.reading() as session:  # type: ignore[attr-defined]
            row = session_rows.find_session(session, made["id"])
            assert find_faults(row.plan, row.work) == []
        assert made["proven"]
        assert sum(h["minutes"] for h in made["hold_ups"]) * MINUTE == (
            made["finish_at"] - made["start_at"]
        )


def test_the_plan_bakes_the_trays_of_the_tray_screen(demo: TestClient) -> None:
    dough = demo.get("/api/doughs/1").json()
    tray = demo.post("/api/doughs/1/foresee", json=dough["tray"]).json()
    made = plan(demo).json()
    assert [t["pieces"] for t in made["trays"]] == tray["yields"]["trays"]
    assert {m for t in made["trays"] for m in t["bakes"]} == {tray["whole_minutes"]}


def test_ready_by_counts_back_from_the_time(demo: TestClient, clock: HandClock) -> None:
    by = clock() + 600 * MINUTE
    made = plan(demo, ready_by=by).json()
    assert made["finish_at"] == by
    soon = plan(demo, ready_by=clock() + 30 * MINUTE).json()
    assert soon["finish_at"] > soon["ready_by"]
    assert soon["start_at"] == clock()


def test_start_at_is_kept(demo: TestClient, clock: HandClock) -> None:
    at = clock() + 90 * MINUTE
    assert plan(demo, start_at=at).json()["start_at"] == at
    assert demo.get("/api/plan").json()["start_at"] == at


@pytest.mark.parametrize(
    ("wish", "field"),
    [
        ({"sheets": 0}, "sheets"),
        ({"shelves": 0}, "shelves"),
        ({"sheets": 99}, "sheets"),
        ({"ready_by": 10**15}, "ready_by"),
        ({"start_at": 10**13, "ready_by": 10**13}, "ready_by"),
    ],
)
def test_impossible_wishes_are_refused(demo: TestClient, wish: dict[str, int], field: str) -> None:
    answer = plan(demo, **wish)
    assert answer.status_code == 422
    assert field in [e["field"] for e in answer.json()["errors"]]
    assert demo.get("/api/plan").json() is None


def test_a_time_that_has_passed_locks_nothing(demo: TestClient, clock: HandClock) -> None:
    """It is planned as soon as can be, and said; the next change is planned like any other."""
    late = plan(demo, ready_by=5).json()
    assert late["start_at"] >= clock()
    assert late["finish_at"] > late["ready_by"]
    begun = plan(demo, start_at=5).json()
    assert begun["start_at"] >= clock()
    assert "has passed, so the plan begins now" in begun["said"]
    assert plan(demo, ready_by=5, shelves=2).status_code == 200


def test_a_plan_says_when_the_dough_changed_since(demo: TestClient) -> None:
    assert plan(demo).json()["stale"] is False
    dough = demo.get("/api/doughs/1").json()
    tray = {**dough["tray"], "piece": {**dough["tray"]["piece"], "grams": 50}}
    demo.put("/api/doughs/1/tray", json=tray)
    assert demo.get("/api/plan").json()["stale"] is True
    assert plan(demo).json()["stale"] is False


def test_done_is_kept_and_the_countdown_is_exact(
    demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    clock.pass_minutes(15)
    say(demo, running, "A.mix")
    clock.pass_minutes(35.5)
    say(demo, running, "A1.portion")
    clock.pass_minutes(1.25)
    session = say(demo, running, "A1.load").json()
    loaded = clock()
    assert job(session, "A1.load")["done_at"] == loaded
    minutes = session["trays"][0]["bakes"][0]
    assert job(session, "A1.out")["due_at"] == loaded + minutes * MINUTE
    clock.pass_minutes(2)
    longer = say(demo, running, "A1.bake", kind="more", minutes=3).json()
    assert job(longer, "A1.out")["due_at"] == loaded + (minutes + 3) * MINUTE
    assert "min later" in longer["said"]


def test_a_job_done_twice_is_done_once(
    demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    clock.pass_minutes(14)
    first = say(demo, running, "A.mix").json()
    clock.pass_minutes(1)
    again = say(demo, running, "A.mix").json()
    assert job(again, "A.mix")["done_at"] == job(first, "A.mix")["done_at"]


def test_a_step_can_be_taken_back(
    demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    clock.pass_minutes(14)
    say(demo, running, "A.mix")
    back = demo.post(f"/api/sessions/{running['id']}/undo").json()
    assert job(back, "A.mix")["done_at"] is None
    assert back["can_undo"] is False
    assert demo.post(f"/api/sessions/{running['id']}/undo").status_code == 409


@pytest.mark.parametrize(
    ("body", "status", "words"),
    [
        ({"activity": "A1.load"}, 409, "First: A, mix."),
        ({"activity": "A9.load"}, 404, "is not there"),
        ({"activity": "A1.cool"}, 409, "ends by itself"),
        ({"activity": "A1.bake", "kind": "more", "minutes": 3}, 409, "in the oven now"),
        ({"activity": "A1.bake", "kind": "more"}, 422, "How many minutes"),
        ({"activity": "A1.bake", "kind": "more", "minutes": -3}, 422, "at least 1"),
        ({"activity": "'; DROP TABLE", "kind": "done"}, 422, ""),
        ({"activity": "A1.load", "kind": "sing"}, 422, "Choose one of"),
    ],
)
def test_what_cannot_have_happened_is_refused(
    demo: TestClient, running: dict[str, Any], body: dict[str, Any], status: int, words: str
) -> None:
    answer = demo.post(f"/api/sessions/{running['id']}/events", json={"kind": "done", **body})
    assert answer.status_code == status
    assert words in answer.json()["detail"]
    assert demo.get(f"/api/sessions/{running['id']}").json()["can_undo"] is False


def test_a_full_oven_takes_no_other_tray(
    demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    for key in ("A.mix", "A1.portion", "A1.load", "A2.portion"):
        clock.pass_minutes(5)
        assert say(demo, running, key).status_code == 200
    answer = say(demo, running, "A2.load")
    assert (answer.status_code, answer.json()["detail"]) == (
        409,
        "The oven is full. Take A1 out first.",
    )


def test_only_one_session_is_baked_at_a_time(demo: TestClient, running: dict[str, Any]) -> None:
    other = plan(demo, 2).json()
    answer = demo.post(f"/api/sessions/{other['id']}/start")
    assert answer.status_code == 409
    assert running["name"] in answer.json()["detail"]
    assert demo.get("/api/sessions/current").json()["id"] == running["id"]


def bake_to_the_end(
    client: TestClient, session: dict[str, Any], clock: HandClock
) -> dict[str, Any]:
    for _ in range(60):
        pending = [a for a in session["activities"] if a["hands"] and a["done_at"] is None]
        if not pending:
            break
        due = min(pending, key=lambda a: (a["due_at"], a["start_at"]))
        clock.at = max(clock.at, due["due_at"]) + 20_000
        answer = say(client, session, due["key"])
        assert answer.status_code == 200, answer.json()
        session = answer.json()
    return session


@pytest.mark.parametrize("dough", [1, 4])
def test_a_session_is_baked_to_its_end_and_recorded(
    demo: TestClient, clock: HandClock, dough: int
) -> None:
    at_hand(demo, dough)
    made = plan(demo, dough).json()
    session = demo.post(f"/api/sessions/{made['id']}/start").json()
    end = bake_to_the_end(demo, session, clock)
    assert end["state"] == "finished"
    assert demo.get("/api/sessions/current").json()["state"] == "finished"
    clock.pass_minutes(181)
    assert demo.get("/api/sessions/current").json() is None
    took = (job(end, "A1.out")["done_at"] - job(end, "A1.load")["done_at"]) / MINUTE
    record = {"dough_id": dough, "session_id": end["id"], "tray": "A1", "widths_mm": [70, 72]}
    kept = demo.post("/api/bakes", json=record).json()
    assert kept["minutes"] == pytest.approx(took, abs=0.06)
    again = demo.post(f"/api/sessions/{made['id']}/start")
    assert again.status_code == 409


def test_a_planned_session_survives_its_dough(demo: TestClient, running: dict[str, Any]) -> None:
    demo.delete("/api/doughs/1")
    kept = demo.get("/api/sessions/current").json()
    assert (kept["doughs"][0]["dough_id"], kept["name"]) == (None, running["name"])


def test_a_dough_is_baked_with_lines_to_spare(client: TestClient) -> None:
    made = client.post("/api/doughs", json={**CARD, "lines": []}).json()
    answer = plan(client, made["id"])
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == "lines"
