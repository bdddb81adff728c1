"""Data of every released version opens, moves up, and answers each screen's requests."""

import json
import sqlite3
import time
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from finebatch.facts import tables
from finebatch.settings import Settings
from finebatch.store.health import versions
from finebatch.web.app import create_app
from tests.conftest import HandClock, own_page
from tests.released import VERSIONS, put

MADE_AT = 1_790_000_000_000
OF_A_FILE = [
    "/api/words",
    "/api/doughs",
    "/api/larder",
    "/api/kitchen",
    "/api/kitchen/known",
    "/api/sheets",
    "/api/plan",
    "/api/sessions/current",
    "/api/bakes",
    "/api/book/words",
    "/api/book/file",
    "/api/lessons",
    "/api/cold",
    "/api/devices",
    "/api/oven/records",
    "/api/plan/ideas",
    "/api/occasions",
    "/api/sessions-to-plan",
    "/api/stock",
    "/api/stock/makes",
]
"""Every list and every screen that needs no name of anything."""


@pytest.fixture(params=VERSIONS, scope="module")
def file(request: pytest.FixtureRequest, tmp_path_factory: pytest.TempPathFactory) -> Path:
    file = tmp_path_factory.mktemp(request.param) / "mine.sqlite3"
    put(request.param, file)
    return file


@pytest.fixture(scope="module")
def old(file: Path) -> Iterator[TestClient]:
    with closing(sqlite3.connect(file)) as raw:
        (now,) = raw.execute("SELECT max(at) FROM event").fetchone()
    app = create_app(Settings(data_file=file, plan_seconds=0.2), HandClock(now + 60_000))
    with own_page(app) as client:
        yield client


def answer(client: TestClient, method: str, path: str, body: object = None) -> Any:
    found = client.request(method, path, json=body)
    assert found.status_code < 300, (method, path, found.text[:300])
    return found.json() if found.headers.get("content-type") == "application/json" else None


def test_the_newest_version_is_the_next_to_be_frozen() -> None:
    """A release adds the file of its own version when the tables change again."""
    assert max(VERSIONS) in versions()[:2]


def test_every_screen_of_an_old_file_answers(old: TestClient) -> None:
    for path in OF_A_FILE:
        answer(old, "GET", path)
    doughs = answer(old, "GET", "/api/doughs")["doughs"]
    assert len(doughs) == 4
    for short in doughs:
        path = f"/api/doughs/{short['id']}"
        dough = answer(old, "GET", path)
        card, setting = dough["card"], dough["tray"]
        assert card["lines"], "the card has come along"
        for version in answer(old, "GET", f"{path}/versions"):
            answer(old, "GET", f"{path}/versions/{version['number']}")
        studied = answer(old, "POST", "/api/study", {"card": card, "tray": setting})
        assert studied["piece"], studied["piece_fault"]
        assert answer(old, "POST", f"{path}/foresee", {**setting, "tried": []})
        answer(old, "PUT", path, {**card, "revision": dough["revision"]})
        answer(old, "PUT", f"{path}/tray", setting)
    assert answer(old, "POST", f"{path}/ladder", {**setting, "tried": []})
    kitchen = answer(old, "GET", "/api/kitchen")
    assert kitchen["scoops"]
    assert answer(old, "PUT", "/api/kitchen", kitchen) == kitchen


def test_a_session_under_way_in_an_old_file_goes_on(old: TestClient) -> None:
    session = answer(old, "GET", "/api/sessions/current")
    assert session["state"] == "running"
    path = f"/api/sessions/{session['id']}"
    done = {a["key"] for a in session["activities"] if a["done_at"]}
    assert done, "what was said has come along"
    job = next(a["key"] for a in session["activities"] if a["hands"] and a["key"] not in done)
    after = answer(old, "POST", f"{path}/events", {"kind": "done", "activity": job})
    assert after["happened"] == session["happened"] + 1
    for form in ("json", "ics", "csv", "md"):
        answer(old, "GET", f"{path}/file?form={form}")
    answer(old, "POST", f"{path}/undo")


def test_bakes_of_an_old_file_teach(old: TestClient, file: Path) -> None:
    """Once today's law has reckoned them, which it does behind the first screens."""
    for _ in range(100):
        bakes = answer(old, "GET", "/api/bakes")
        if all(bake["good"] is not None for bake in bakes):
            break
        time.sleep(0.1)
    assert len(bakes) == 5
    # Of some files one is 7 % wider than two others of its dough, and counts for as much less.
    counting = sum(bake["good"] > 0.3 for bake in bakes)
    assert counting >= 4
    assert answer(old, "GET", "/api/lessons")["bakes"] == counting
    assert [bake["note"] for bake in bakes].count("as the picture") == 1
    with closing(sqlite3.connect(file)) as raw:
        kept = [json.loads(effects) for (effects,) in raw.execute("SELECT effects FROM bake")]
    assert {effects["law"] for effects in kept} == {tables.law_mark()}


def test_the_kitchen_of_an_old_file_is_the_same(file: Path, old: TestClient) -> None:
    kitchen = answer(old, "GET", "/api/kitchen")
    assert kitchen["sheets"] == 2
    with closing(sqlite3.connect(file)) as raw:
        assert raw.execute("SELECT count(*) FROM kitchen").fetchone() == (1,)
