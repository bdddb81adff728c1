"""The demo that is alive: a session baked last week, half of it in the book, and the supper."""

import io
from datetime import datetime
from pathlib import Path

import numpy as np
import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from PIL import Image, ImageFilter

from finebatch.demo.alive import bake_under_way, bring_to_life
from finebatch.demo.load import load
from finebatch.formats.moments import local
from finebatch.settings import Settings
from finebatch.store.places import photos_of
from finebatch.web.app import create_app
from finebatch.web.clock import MovedClock
from tests.conftest import HandClock, own_page


def test_a_session_was_baked_and_the_supper_is_planned(
    app: FastAPI, demo: TestClient, clock: HandClock
) -> None:
    pictures = photos_of(app.state.database.file)
    planned = bring_to_life(app.state.database, clock(), pictures)
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
    assert latest["photo"] is not None and len(latest["seen"]["pictured"]["pieces"]) > 6
    (oven,) = demo.get("/api/oven-maps").json()
    assert (oven["hot_side"], oven["trays"]) == ("back", 1)
    assert demo.get("/api/sessions/current").json() is None
    (record,) = demo.get("/api/oven/records").json()
    assert record["mean_c"] - record["dial_c"] == pytest.approx(6, abs=1.5)
    assert record["began_at"] < latest["baked_at"]


def test_bakes_have_drawn_photos_of_what_was_measured(tmp_path: Path, clock: HandClock) -> None:
    app = create_app(Settings(data_file=tmp_path / "demo.sqlite3"), clock)
    load(app.state.database, clock(), photos_of(app.state.database.file))
    with own_page(app) as demo:
        bakes = [b for dough in (1, 2, 4) for b in demo.get(f"/api/bakes?dough_id={dough}").json()]
        shown = {
            b["id"]: _columns_of_crust(demo.get(f"/api/bakes/{b['id']}/photo").content)
            for b in bakes
            if b["photo"]
        }
        assert len(shown) == len(bakes) == 4
    # Two that ran together leave no gap between them, three leaves leave two.
    ran_together, good, leaves = (shown[b["id"]] for b in (bakes[1], bakes[0], bakes[2]))
    assert (_gaps(ran_together[:80]), _gaps(good[:80]), _gaps(leaves)) == (0, 1, 2)


def _columns_of_crust(jpeg: bytes) -> np.ndarray:
    """Rows of the photo, the sheet's edge left out, and where in them is dough, not paper."""
    with Image.open(io.BytesIO(jpeg)) as photo:
        inside = np.asarray(photo.convert("RGB").filter(ImageFilter.BoxBlur(3)), int)[
            40:-40, 40:-40
        ]
    return inside[:, :, 0] - inside[:, :, 2] > 45


def _gaps(rows: np.ndarray) -> int:
    """How many gaps there are in the row that is dough for most of it."""
    row = rows[rows.sum(axis=1).argmax()]
    places = np.flatnonzero(row)
    return int((np.diff(places) > 24).sum())


def test_a_bake_is_seen_under_way_and_its_clock_is_put_on(tmp_path: Path) -> None:
    clock = MovedClock()
    app = create_app(Settings(data_file=tmp_path / "demo.sqlite3", plan_seconds=0.2), clock)
    load(app.state.database, clock())
    with own_page(app) as demo:
        assert demo.post("/api/demo/under-way").status_code == 404
        assert demo.post("/api/demo/clock", json={"minutes": 5}).status_code == 404
        assert demo.get("/api/about").json()["demo"] is False
        planned = bring_to_life(app.state.database, clock())
        app.state.show_bake = bake_under_way
        assert demo.get("/api/about").json()["demo"] is True

        shown = demo.post("/api/demo/under-way").json()
        assert shown["state"] == "running"
        baking = [a for a in shown["activities"] if a["kind"] == "load" and a["done_at"]]
        assert baking and max(a["done_at"] for a in baking) < shown["now"]
        assert any(a["kind"] == "out" and a["done_at"] is None for a in shown["activities"])
        assert demo.get("/api/plan").json()["id"] == planned
        assert demo.post("/api/demo/under-way").status_code == 409
        assert demo.get("/api/plan").json()["id"] == planned

        put_on = demo.post("/api/demo/clock", json={"minutes": 15}).json()["now"]
        now = demo.get("/api/sessions/current").json()["now"]
        assert now >= put_on >= shown["now"] + 15 * 60_000
