"""What comes up while baking beside "done": the rest is planned again, and nothing is lost."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import HandClock
from tests.plans import at_hand, happen, plan

MINUTE = 60_000


@pytest.fixture
def running(demo: TestClient, clock: HandClock) -> dict[str, Any]:
    """A session of one dough with its first tray in the oven."""
    at_hand(demo)
    made = plan(demo, 1).json()
    demo.post(f"/api/sessions/{made['id']}/start")
    for key, minutes in (("A.mix", 15), ("A1.portion", 60), ("A1.load", 1)):
        clock.pass_minutes(minutes)
        session = say(demo, made, "done", key)
    return session


def say(
    client: TestClient,
    session: dict[str, Any],
    kind: str,
    activity: str = "",
    minutes: int | None = None,
    status: int = 200,
) -> Any:
    body = {"kind": kind, "activity": activity, "minutes": minutes}
    answer = happen(client, session, body)
    assert answer.status_code == status, answer.text
    return answer.json()


def job(session: dict[str, Any], key: str) -> Any:
    return next((a for a in session["activities"] if a["key"] == key), None)


def test_a_tray_that_came_out_early_is_out(
    demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    clock.pass_minutes(5)
    after = say(demo, running, "done", "A1.out")
    assert job(after, "A1.out")["done_at"] == clock()
    assert job(after, "A1.rack")["start_at"] >= clock()
    assert job(after, "A1.turn") is None or job(after, "A1.turn")["done_at"] is None


def test_a_turn_is_left_out_and_taking_out_is_not(
    demo: TestClient, running: dict[str, Any]
) -> None:
    left = say(demo, running, "skip", "A1.turn")
    assert job(left, "A1.turn")["done_at"] is not None
    refused = say(demo, running, "skip", "A1.out", status=409)
    assert "cannot be left out" in refused["detail"]
    back = demo.post(f"/api/sessions/{running['id']}/undo").json()
    assert job(back, "A1.turn")["done_at"] is None


def test_what_is_taken_back_leaves_no_trace(
    demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    """Late, away and slow taken back one after the other give the very times that were there."""
    seen = [demo.get(f"/api/sessions/{running['id']}").json()]
    clock.pass_minutes(4)
    for kind, activity, minutes in (("away", "", 25), ("slow", "", 9), ("more", "A1.bake", 4)):
        seen.append(say(demo, running, kind, activity, minutes))
        clock.pass_minutes(1)
    assert len({session["finish_at"] for session in seen}) > 1
    for before in reversed(seen[:-1]):
        back = demo.post(f"/api/sessions/{running['id']}/undo").json()
        assert back["activities"] == before["activities"]
        assert (back["finish_at"], back["said"]) == (before["finish_at"], before["said"])


def test_nothing_is_asked_of_a_baker_who_is_away(
    demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    clock.pass_minutes(running["trays"][0]["bakes"][0] + 1)
    say(demo, running, "done", "A1.out")
    until = clock() + 40 * MINUTE
    away = say(demo, running, "away", minutes=40)
    waiting = [a for a in away["activities"] if a["hands"] and a["done_at"] is None]
    assert waiting
    assert min(a["start_at"] for a in waiting) >= until - MINUTE


def test_a_tray_left_in_while_away_is_said(demo: TestClient, running: dict[str, Any]) -> None:
    away = say(demo, running, "away", minutes=60)
    assert "A1 would be in" in away["said"]
    assert "too long" in away["said"]


def test_a_slow_oven_takes_nothing_before_it_is_hot(demo: TestClient, clock: HandClock) -> None:
    at_hand(demo)
    made = plan(demo, 1).json()
    demo.post(f"/api/sessions/{made['id']}/start")
    for key, minutes in (("A.mix", 15), ("A1.portion", 60)):
        clock.pass_minutes(minutes)
        say(demo, made, "done", key)
    slow = say(demo, made, "slow", minutes=12)
    loads = [a for a in slow["activities"] if a["kind"] == "load" and a["done_at"] is None]
    assert min(a["end_at"] for a in loads) >= clock() + 12 * MINUTE - MINUTE
    assert "goes in" in slow["said"]


def test_a_dropped_tray_leaves_the_plan_and_comes_back_with_undo(
    demo: TestClient, running: dict[str, Any]
) -> None:
    after = say(demo, running, "dropped", "A1")
    assert [t["name"] for t in after["trays"]] == ["A2", "A3"]
    assert all(a["tray"] != "A1" for a in after["activities"])
    # The oven is empty again: the next tray can go in.
    assert say(demo, running, "done", "A2.portion")
    assert say(demo, running, "done", "A2.load")
    say(demo, running, "dropped", "A1", status=404)
    say(demo, running, "dropped", "A3")
    assert "last tray" in say(demo, running, "dropped", "A2", status=409)["detail"]
    for _ in range(4):
        back = demo.post(f"/api/sessions/{running['id']}/undo").json()
    assert [t["name"] for t in back["trays"]] == ["A1", "A2", "A3"]
    assert job(back, "A1.load")["done_at"] is not None


def test_a_session_with_a_dropped_tray_is_baked_to_its_end(
    demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    session = say(demo, running, "dropped", "A2")
    for _ in range(60):
        if session["state"] == "finished":
            return
        ahead = [a for a in session["activities"] if a["hands"] and a["done_at"] is None]
        first = min(ahead, key=lambda a: (a["due_at"], a["start_at"]))
        clock.at = max(clock.at, first["end_at"])
        session = say(demo, running, "done", first["key"])
    raise AssertionError("the session never ends")


@pytest.mark.parametrize(
    ("kind", "activity", "minutes", "words"),
    [
        ("away", "", None, "How many minutes"),
        ("slow", "", 0, "at least 1"),
        ("away", "", 100_000, "at most"),
        ("more", "A1.bake", 61, "At most 60"),
    ],
)
def test_minutes_that_cannot_be_are_said(
    demo: TestClient,
    running: dict[str, Any],
    kind: str,
    activity: str,
    minutes: int | None,
    words: str,
) -> None:
    refused = say(demo, running, kind, activity, minutes, status=422)
    assert words in str(refused)


def test_one_tray_is_baked_at_once_beside_a_plan(demo: TestClient, clock: HandClock) -> None:
    planned = plan(demo, 1, 2).json()
    started = demo.post("/api/sessions", json={"dough_id": 3})
    assert started.status_code == 201
    session = started.json()
    assert [tray["name"] for tray in session["trays"]] == ["A1"]
    first = min((a for a in session["activities"] if a["hands"]), key=lambda a: a["start_at"])
    assert first["kind"] == "portion"
    assert demo.post("/api/sessions", json={"dough_id": 1}).status_code == 409
    for key in ("A1.portion", "A1.load", "A1.turn", "A1.out", "A1.rack"):
        clock.pass_minutes(8)
        session = say(demo, session, "done", key)
    assert session["state"] == "finished"
    assert demo.get("/api/plan").json()["id"] == planned["id"]


@pytest.fixture
def started(demo: TestClient) -> dict[str, Any]:
    """A session of one dough just begun."""
    at_hand(demo)
    made = plan(demo, 1).json()
    session: dict[str, Any] = demo.post(f"/api/sessions/{made['id']}/start").json()
    return session


def test_an_oven_turned_on_late_is_hot_late(
    demo: TestClient, started: dict[str, Any], clock: HandClock
) -> None:
    heat = job(started, "oven.heat")
    minutes = (heat["end_at"] - heat["start_at"]) / MINUTE
    clock.pass_minutes((job(started, "A1.load")["end_at"] - clock()) / MINUTE)
    after = say(demo, started, "done", "oven.heat")
    assert job(after, "oven.heat")["done_at"] == clock()
    assert job(after, "A1.load")["end_at"] >= clock() + minutes * MINUTE
    again = say(demo, started, "done", "oven.heat")
    assert again["happened"] == after["happened"]


def test_an_oven_turned_on_in_time_moves_nothing(
    demo: TestClient, started: dict[str, Any], clock: HandClock
) -> None:
    clock.pass_minutes(15)
    say(demo, started, "done", "A.mix")
    mixed = say(demo, started, "done", "A.form")
    clock.pass_minutes((job(mixed, "oven.heat")["start_at"] - clock()) / MINUTE - 1)
    assert "cannot be left out" in say(demo, started, "skip", "oven.heat", status=409)["detail"]
    after = say(demo, started, "done", "oven.heat")
    assert after["finish_at"] == mixed["finish_at"]


def test_an_oven_that_a_tray_went_into_was_turned_on(
    demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    heat = job(running, "oven.heat")
    assert heat["done_at"] == job(running, "A1.load")["done_at"]
    clock.pass_minutes(1)
    after = say(demo, running, "done", "oven.heat")
    assert (after["happened"], after["finish_at"]) == (running["happened"], running["finish_at"])


def test_after_a_long_time_away_the_oven_is_turned_on_anew(
    demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    clock.pass_minutes(running["trays"][0]["bakes"][0] + 1)
    say(demo, running, "done", "A1.out")
    away = say(demo, running, "away", minutes=40)
    anew = job(away, "oven.heat2")
    assert anew["done_at"] is None
    assert anew["start_at"] >= clock() + 39 * MINUTE
    assert anew["end_at"] == job(away, "A2.load")["end_at"]


def test_being_away_again_before_one_is_back(demo: TestClient, running: dict[str, Any]) -> None:
    """Told twice, the longer counts; it was refused as if nothing could be planned."""
    say(demo, running, "away", minutes=20)
    after = say(demo, running, "away", minutes=30)
    back = after["now"] + 30 * MINUTE
    ahead = [a for a in after["activities"] if a["hands"] and a["done_at"] is None]
    assert ahead
    assert all(a["start_at"] >= back for a in ahead)


def test_a_dough_whose_only_tray_is_dropped_is_mixed_no_more(demo: TestClient) -> None:
    at_hand(demo, 1, 3)
    made = plan(demo, 1, 3).json()
    demo.post(f"/api/sessions/{made['id']}/start")
    others = [a["tray"] for a in made["activities"] if a["kind"] == "load" and a["dough"] == "B"]
    session = made
    for tray in dict.fromkeys(others):
        session = say(demo, made, "dropped", tray)
    left = {a["dough"] for a in session["activities"] if a["hands"] and a["done_at"] is None}
    assert "B" not in left
    assert "A" in left
    assert demo.get("/api/sessions/current").status_code == 200
    for form in ("json", "md", "csv", "ics"):
        answer = demo.get(f"/api/sessions/{made['id']}/file", params={"form": form})
        assert answer.status_code == 200, answer.text


def test_what_waited_for_a_network_was_done_when_it_was_said(
    demo: TestClient, running: dict[str, Any], clock: HandClock
) -> None:
    loaded = clock()
    clock.pass_minutes(20)

    def said_ago(minutes: float, kind: str, activity: str) -> Any:
        waited = {"kind": kind, "activity": activity, "ago_ms": round(minutes * MINUTE)}
        return happen(demo, running, waited)

    after = said_ago(12, "done", "A1.turn").json()
    assert job(after, "A1.turn")["done_at"] == loaded + 8 * MINUTE
    # A device whose clock goes slow says it after what was said before it.
    after = said_ago(15, "done", "A1.out").json()
    assert job(after, "A1.out")["done_at"] == loaded + 8 * MINUTE
    assert job(after, "A1.rack")["start_at"] >= loaded + 8 * MINUTE
    assert said_ago(1, "done", "A1.turn").json()["happened"] == after["happened"], "once"
    assert said_ago(24 * 60 + 1, "slow", "").status_code == 422
    demo.post(f"/api/sessions/{running['id']}/give-up")
    late = said_ago(3, "done", "A1.rack")
    assert (late.status_code, "not being baked" in late.json()["detail"]) == (409, True)


def test_what_waited_is_as_if_it_had_been_heard_at_once(demo: TestClient, clock: HandClock) -> None:
    at_hand(demo)

    def baked(*, waits: bool) -> dict[str, int]:
        session = plan(demo, 1).json()
        start_at = demo.post(f"/api/sessions/{session['id']}/start").json()["start_at"]
        jobs = sorted(
            (a for a in session["activities"] if a["hands"] or a["kind"] == "heat"),
            key=lambda a: a["start_at"],
        )
        said = []
        for number, each in enumerate(jobs[:8]):
            clock.pass_minutes(2 + number)
            said.append((each["key"], clock()))
            if not waits:
                say(demo, session, "done", each["key"])
        if waits:
            for key, at in said:
                late = {"kind": "done", "activity": key, "ago_ms": clock() - at}
                answer = happen(demo, session, late)
                assert answer.status_code == 200, (key, answer.text)
        after = demo.get("/api/sessions/current").json()
        demo.post(f"/api/sessions/{session['id']}/give-up")
        done = {a["key"]: a["done_at"] for a in after["activities"] if a["done_at"]}
        return {key: at - start_at for key, at in done.items()}

    heard, waited = baked(waits=False), baked(waits=True)
    assert waited == heard
    assert len(heard) == 8
