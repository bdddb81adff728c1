"""Whatever is pressed in whatever order: a clear answer, nothing doubled, nothing lost."""

import random
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.chance import so_many
from tests.conftest import HandClock
from tests.plans import plan


def times(session: Any) -> list[tuple[Any, ...]]:
    """When, where and by whom each job of a session is to be done, or was."""
    names = ("key", "start_at", "end_at", "who", "sheet", "shelf", "oven", "done_at")
    return sorted(tuple(a[name] for name in names) for a in session["activities"])


@pytest.mark.parametrize("seed", range(so_many(4)))
def test_presses_at_random_never_break_a_session(
    demo: TestClient, clock: HandClock, seed: int
) -> None:
    chance = random.Random(seed)
    doughs = chance.sample([1, 2, 3, 4], chance.randint(1, 2))
    wish = {"sheets": chance.randint(1, 3), "shelves": chance.randint(1, 2)}
    made = plan(demo, *doughs, **wish).json()
    path = f"/api/sessions/{made['id']}"
    session = demo.post(f"{path}/start").json()
    said = 0
    plans = [times(session)]
    for _ in range(60):
        clock.pass_minutes(chance.uniform(0, 6))
        activity = chance.choice(session["activities"])["key"]
        roll = chance.random()
        if roll < 0.1:
            answer = demo.post(f"{path}/undo")
            said -= answer.status_code == 200
            if answer.status_code == 200:
                # Taken back, the plan is the very one that was there.
                plans.pop()
                assert times(answer.json()) == plans[-1]
        elif roll < 0.25:
            more = {"kind": "more", "activity": activity, "minutes": chance.randint(1, 9)}
            answer = demo.post(f"{path}/events", json=more)
            said += answer.status_code == 200
        else:
            before = {a["key"]: a["done_at"] for a in session["activities"]}
            answer = demo.post(f"{path}/events", json={"kind": "done", "activity": activity})
            said += answer.status_code == 200 and before.get(activity) is None
        assert answer.status_code in (200, 404, 409), answer.json()
        if answer.status_code == 200:
            session = answer.json()
            plans += [times(session)] * (said + 1 - len(plans))
        assert session["can_undo"] == (said > 0)
        if session["state"] == "finished":
            break
    kept = demo.get(path).json()
    assert [a for a in kept["activities"] if a["done_at"]] == [
        a for a in session["activities"] if a["done_at"]
    ]
    for a in kept["activities"]:
        assert a["start_at"] <= a["end_at"]


def say_at_random(demo: TestClient, path: str, session: Any, chance: random.Random) -> Any:
    """Something comes up; the answer."""
    kind = chance.choice(["away", "slow", "more", "dropped", "skip"])
    activity = chance.choice(session["activities"])
    name = {"away": "", "slow": "", "dropped": activity["tray"] or ""}.get(kind, activity["key"])
    body = {"kind": kind, "activity": name, "minutes": chance.randint(1, 30)}
    return demo.post(f"{path}/events", json=body)


def do_next(demo: TestClient, path: str, session: Any) -> None:
    """Do the first job that can be done."""
    for job in session["activities"]:
        if job["hands"] and job["done_at"] is None:
            body = {"kind": "done", "activity": job["key"]}
            if demo.post(f"{path}/events", json=body).status_code == 200:
                return
    raise AssertionError("nothing can be done, and the session is not finished")


@pytest.mark.parametrize("seed", range(so_many(2)))
def test_a_session_played_with_happenings_ends_closed(
    demo: TestClient, clock: HandClock, seed: int
) -> None:
    chance = random.Random(seed)
    item = {"dough_id": chance.randint(1, 3), "pieces": chance.randint(8, 30)}
    made = plan(demo, items=[item]).json()
    assert "id" in made, made
    path = f"/api/sessions/{made['id']}"
    session = demo.post(f"{path}/start").json()
    happenings = 20
    while session["state"] == "running":
        if happenings and chance.random() < 0.4:
            happenings -= 1
            answer = say_at_random(demo, path, session, chance)
            assert answer.status_code in (200, 404, 409, 422), answer.text
            new = answer.status_code == 200 and answer.json()["happened"] > session["happened"]
            if new and chance.random() < 0.4:
                # Taken back it has never been.
                assert times(demo.post(f"{path}/undo").json()) == times(session)
            session = demo.get(path).json()
        job = next(a for a in session["activities"] if a["hands"] and a["done_at"] is None)
        clock.at = max(clock.at, job["end_at"] + chance.randint(0, 4) * 60_000)
        do_next(demo, path, session)
        session = demo.get(path).json()
    closed = demo.post(f"{path}/events", json={"kind": "closed"})
    assert closed.status_code == 200, closed.text
    assert demo.get("/api/sessions/current").json() is None


@pytest.mark.parametrize("seed", range(so_many(2)))
def test_an_occasion_of_two_days_is_baked_to_its_end_on_its_days(
    demo: TestClient, clock: HandClock, seed: int
) -> None:
    chance = random.Random(seed)
    hour = 3_600_000
    evening = clock() + 10 * hour
    morning, at = clock() + 24 * hour, clock() + 31 * hour
    kinds = [{"dough_id": dough} for dough in chance.sample([1, 2, 3, 4], 2)]
    body = {
        "at": at,
        "pieces": chance.randint(20, 60),
        "kinds": kinds,
        "free": [
            {"from_at": evening, "to_at": evening + 4 * hour},
            {"from_at": morning, "to_at": at},
        ],
    }
    found = demo.post("/api/plan/occasion", json=body).json()
    made = plan(demo, **found["wish"]).json()
    path = f"/api/sessions/{made['id']}"
    session = demo.post(f"{path}/start", json={"as_planned": True}).json()
    held = {
        letter: kind["from_at"]
        for letter, kind in zip("AB", found["kinds"], strict=True)
        if kind["from_at"] >= morning
    }
    while session["state"] == "running":
        job = next(a for a in session["activities"] if a["hands"] and a["done_at"] is None)
        if job["kind"] == "portion" and job["dough"] in held:
            assert job["start_at"] >= held[job["dough"]]
        clock.at = max(clock.at, job["end_at"] + chance.randint(0, 6) * 60_000)
        do_next(demo, path, session)
        session = demo.get(path).json()
    assert max(a["done_at"] or 0 for a in session["activities"]) <= at + 2 * hour
