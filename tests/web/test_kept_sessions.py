"""Sessions that are kept under a name and planned again another day."""

from datetime import datetime, timedelta
from typing import Any

import pytest
from fastapi.testclient import TestClient

from finebatch.formats.moments import local
from finebatch.workflow.session.kept_sessions import next_days
from tests.conftest import HandClock
from tests.plans import plan

HOUR = 3_600_000
DAY = 24 * HOUR


def keep(client: TestClient, session: Any, name: str) -> Any:
    body = {"session_id": session["id"], "name": name}
    answer = client.post("/api/sessions-to-plan", json=body)
    assert answer.status_code == 201, answer.text
    return answer.json()


def test_a_session_planned_by_hand_is_planned_again_a_week_later(
    demo: TestClient, clock: HandClock
) -> None:
    ready = clock() + 30 * HOUR
    away = [{"from_at": clock() + 2 * HOUR, "to_at": clock() + 9 * HOUR}]
    items = [{"dough_id": 1, "pieces": 12, "each_g": 25}, {"dough_id": 3, "times": 2}]
    planned = plan(demo, ready_by=ready, away=away, items=items, calm=True).json()
    one = keep(demo, planned, " Fridays ")
    assert (one["name"], len(one["doughs"])) == ("Fridays", 2)

    clock.at += 8 * DAY
    (again,) = demo.get("/api/sessions-to-plan").json()
    wish = again["next"]
    assert again["id"] == one["id"]
    then, now = local(ready), local(wish["ready_by"])
    assert (now.weekday(), now.hour, now.minute) == (then.weekday(), then.hour, then.minute)
    assert clock() < wish["ready_by"] <= clock() + 8 * DAY
    assert wish["ready_by"] - wish["away"][0]["to_at"] == ready - away[0]["to_at"]
    kept = {key: wish["items"][0][key] for key in ("dough_id", "pieces", "each_g")}
    assert kept == {"dough_id": 1, "pieces": 12, "each_g": 25}
    assert (wish["items"][1]["times"], wish["calm"], wish["name"]) == (2, True, "Fridays")
    once_more = demo.put("/api/plan", json=wish).json()
    assert once_more["name"] == "Fridays"
    assert once_more["finish_at"] <= wish["ready_by"]


def test_one_that_was_started_at_once_is_again(demo: TestClient, clock: HandClock) -> None:
    first = plan(demo, 1, 2).json()
    pins = [{"job": first["activities"][0]["key"], "start_at": first["start_at"] + HOUR}]
    planned = plan(demo, 1, 2, pins=pins).json()
    keep(demo, planned, "Two")
    clock.at += 3 * DAY
    demo.delete("/api/doughs/2")
    (again,) = demo.get("/api/sessions-to-plan").json()
    wish = again["next"]
    assert [item["dough_id"] for item in wish["items"]] == [1]
    assert (wish["ready_by"], wish["start_at"], wish["pins"]) == (None, None, [])
    assert demo.put("/api/plan", json=wish).json()["start_at"] >= clock()


def test_a_name_is_kept_once_is_found_and_comes_back_from_the_bin(
    demo: TestClient,
) -> None:
    planned = plan(demo).json()
    keep(demo, planned, "Sunday tin")
    one = keep(demo, plan(demo, 1, 4).json(), "Sunday tin")
    (only,) = demo.get("/api/sessions-to-plan").json()
    assert only == one and len(only["doughs"]) == 2
    found = demo.get("/api/find", params={"text": "sunday"}).json()
    assert [(f["kind"], f["name"]) for f in found] == [("occasion", "Sunday tin")]
    thrown = demo.delete(f"/api/sessions-to-plan/{one['id']}").json()
    assert demo.get("/api/sessions-to-plan").json() == []
    assert demo.delete(f"/api/sessions-to-plan/{one['id']}").status_code == 404
    assert demo.post(f"/api/bin/{thrown['id']}/put-back").status_code < 300
    assert demo.get("/api/sessions-to-plan").json() == [one]


@pytest.mark.parametrize("name", ["", "   ", "x" * 121])
def test_a_name_that_cannot_be(demo: TestClient, name: str) -> None:
    planned = plan(demo).json()
    body = {"session_id": planned["id"], "name": name}
    assert demo.post("/api/sessions-to-plan", json=body).status_code == 422


@pytest.mark.parametrize("later_h", [1, 20, 24 * 6 + 23, 24 * 7, 24 * 7 + 1, 24 * 50])
def test_the_next_time_has_the_weekday_and_the_hour(later_h: int) -> None:
    at = round(datetime(2026, 10, 17, 9, 30).astimezone().timestamp() * 1000)
    now = at + later_h * HOUR
    moved = next_days(at, now)
    next_at = local(moved(at))
    assert (next_at.weekday(), next_at.hour, next_at.minute) == (5, 9, 30)
    assert now < moved(at) <= now + 7 * DAY + HOUR
    days = next_at.date() - local(at).date()
    assert local(moved(at + 5 * HOUR)).date() - local(at + 5 * HOUR).date() == days
    assert days % timedelta(days=7) == timedelta(0)
