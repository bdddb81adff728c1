"""How a dough feels is noted while baking, waited for, and teaches how long this fridge takes."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import HandClock
from tests.plans import at_hand, happen, plan

MINUTE = 60_000


def started(client: TestClient, dough: int = 1) -> Any:
    at_hand(client, dough)
    made = plan(client, dough, sheets=3).json()
    return client.post(f"/api/sessions/{made['id']}/start").json()


def say(client: TestClient, session: Any, kind: str, activity: str, **more: Any) -> Any:
    body = {"kind": kind, "activity": activity, **more}
    return happen(client, session, body)


def start_of(session: Any, key: str) -> int:
    return next(a["start_at"] for a in session["activities"] if a["key"] == key)


def bake_to_the_end(client: TestClient, clock: HandClock, session: Any) -> Any:
    while jobs := [a for a in session["activities"] if a["hands"] and a["done_at"] is None]:
        job = min(jobs, key=lambda a: (a["due_at"], a["start_at"]))
        clock.at = max(clock.at, job["end_at"])
        session = say(client, session, "done", job["key"]).json()
    return session


def feel(client: TestClient, clock: HandClock, minutes: float, what: str) -> None:
    """A whole session in which the dough feels like that after so many minutes in the cold."""
    session = started(client)
    clock.pass_minutes(15)
    for job in ("A.mix", "A.form"):
        say(client, session, "done", job)
    clock.pass_minutes(minutes)
    session = say(client, session, "felt", "A1.portion", what=what).json()
    assert session["doughs"][0]["felt"] == what
    bake_to_the_end(client, clock, session)


def test_a_dough_that_is_too_soft_waits_and_the_rest_is_planned_again(
    demo: TestClient, clock: HandClock
) -> None:
    session = started(demo)
    clock.pass_minutes(15)
    say(demo, session, "done", "A.mix")
    clock.pass_minutes(30)
    after = say(demo, session, "felt", "A1.portion", what="soft", minutes=15).json()
    assert start_of(after, "A1.portion") >= clock() + 15 * MINUTE
    assert "A1 goes in" in after["said"]
    back = demo.post(f"/api/sessions/{session['id']}/undo").json()
    assert start_of(back, "A1.portion") < clock() + 15 * MINUTE
    assert back["doughs"][0]["felt"] is None


@pytest.mark.parametrize(
    ("activity", "what", "status"),
    [
        ("A1.portion", "like butter", 422),
        ("A1.portion", None, 422),
        ("A1.load", "soft", 409),
        ("Z9.portion", "soft", 404),
    ],
)
def test_what_cannot_be_felt_is_said_plainly(
    demo: TestClient, activity: str, what: str | None, status: int
) -> None:
    session = started(demo)
    answer = say(demo, session, "felt", activity, what=what)
    assert answer.status_code == status, answer.text
    assert demo.get("/api/sessions/current").json()["can_undo"] is False


def test_the_fridge_is_learnt_and_advised_by(demo: TestClient, clock: HandClock) -> None:
    def chill() -> Any:
        tray = demo.get("/api/doughs/1").json()["tray"]
        return demo.post("/api/doughs/1/chill", json={**tray, "start_c": 23}).json()

    usual = chill()
    assert (usual["slower"], usual["felt"]) == (1, 0)
    for _ in range(3):
        feel(demo, clock, usual["best_min"] * 1.2, "soft")
    learnt = chill()
    assert learnt["felt"] == 3
    assert learnt["slower"] > 1.1
    assert learnt["best_min"] > usual["best_min"] * 1.1
    lessons = demo.get("/api/lessons").json()
    assert lessons["chill_felt"] == 3
    assert lessons["chill_times"] == pytest.approx(learnt["slower"])
    [advice] = [c for c in lessons["chills"] if c["dough_id"] == 1]
    assert advice["firmness"] == "soft"
    assert advice["best_min"] == round(learnt["best_min"])
    assert plan(demo, 1).json()["learnt"]["felt"] == 3
    demo.put("/api/lessons", json={"learns": False})
    assert chill()["slower"] == 1
    assert demo.get("/api/lessons").json()["chill_felt"] == 0


@pytest.mark.parametrize("chill_min", [0, 60])
def test_a_dough_out_of_the_cold_may_be_felt_before_each_portioning(
    demo: TestClient, chill_min: int
) -> None:
    tray = demo.get("/api/doughs/2").json()["tray"]
    kept = {**tray, "chill_min": chill_min, "dough_temp_c": 10 if chill_min else 21}
    assert demo.put("/api/doughs/2/tray", json=kept).status_code == 200
    jobs = started(demo, 2)["activities"]
    assert any(a["kind"] == "chill" for a in jobs) is bool(chill_min)
    portioned = {a["key"] for a in jobs if a["kind"] == "portion"}
    felt = {a["key"] for a in jobs if a["may_be_felt"]}
    assert felt == (portioned if chill_min else set())


def test_what_is_hot_and_what_may_be_left_out_is_told_of_each_job(demo: TestClient) -> None:
    session = started(demo)
    kinds = {"hot": set[str](), "may_be_left_out": set[str]()}
    for a in session["activities"]:
        for what, found in kinds.items():
            if a[what]:
                found.add(a["kind"])
    assert kinds["hot"] == {"load", "turn", "out"}
    assert kinds["may_be_left_out"] == {"turn", "clear"}
    for key, status in (("A1.rack", 409), ("A1.turn", 409), ("A.mix", 409)):
        # A turn may be left out, but not before what comes before it.
        assert say(demo, session, "skip", key).status_code == status
