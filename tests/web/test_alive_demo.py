"""The demo that is alive: a session baked last week, half of it in the book, and the supper."""

from datetime import datetime

from fastapi import FastAPI
from fastapi.testclient import TestClient

from finebatch.demo.alive import bring_to_life
from finebatch.formats.moments import local
from tests.conftest import HandClock


def test_a_session_was_baked_and_the_supper_is_planned(
    app: FastAPI, demo: TestClient, clock: HandClock
) -> None:
    planned = bring_to_life(app.state.database, clock())
    plan = demo.get("/api/plan").json()
    assert (plan["id"], plan["name"]) == (planned, "The harvest supper")
    gives = {dough["letter"]: dough["each_gives"] for dough in plan["doughs"]}
    assert sum(tray["pieces"] * gives[tray["dough"]] for tray in plan["trays"]) >= 100
    ready: datetime = local(plan["ready_by"])
    assert (ready.weekday(), ready.hour, ready.minute) == (5, 15, 0)
    assert plan["start_at"] > clock()
    assert plan["finish_at"] <= plan["ready_by"]
    waiting = demo.get("/api/today").json()["to_write"]
    assert [one["name"] for one in waiting] == ["Black-sesame shortbread"]
    assert clock() - 7 * 86_400_000 < waiting[0]["baked_at"] < clock() - 4 * 86_400_000
    latest = demo.get("/api/bakes", params={"dough_id": 1}).json()[0]
    assert latest["session_id"] == waiting[0]["session_id"]
    assert latest["minutes"] > 5
    assert demo.get("/api/sessions/current").json() is None
