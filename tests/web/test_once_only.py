"""A press that is sent again, because its answer was lost, is kept once."""

import asyncio
from collections.abc import Iterator
from typing import Any

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from starlette.types import Message, Receive, Scope, Send

from finebatch.settings import Settings
from finebatch.web import once_only
from finebatch.web.app import create_app
from finebatch.web.once_only import PRESS, OnceOnly
from finebatch.web.problems import KEPT_BEFORE
from tests.conftest import HandClock, own_page
from tests.web.test_wire import run

ITEM: dict[str, Any] = {"dough_id": 1, "form": "portions", "place": "freezer", "pieces": 1234}
THIS = {PRESS: "0f6e8c1a-press"}


def kept(asked: TestClient) -> list[int]:
    there = [item["pieces"] for item in asked.get("/api/cold").json()["kept"]]
    return [pieces for pieces in there if pieces == ITEM["pieces"]]


@pytest.fixture
def restarted(app: FastAPI, demo: TestClient, clock: HandClock) -> Iterator[TestClient]:
    """The same data file after a kill: nothing of the first server's memory is left."""
    sent = demo.post("/api/cold", json=ITEM, headers=THIS)
    assert sent.status_code == 201, sent.text
    settings: Settings = app.state.settings
    with own_page(create_app(settings, clock)) as after:
        yield after


def test_sent_again_it_is_answered_as_it_was(demo: TestClient) -> None:
    first, again = (demo.post("/api/cold", json=ITEM, headers=THIS) for _ in range(2))
    assert (first.status_code, first.content) == (again.status_code, again.content)
    assert first.status_code == 201
    assert kept(demo) == [1234]
    demo.post("/api/cold", json=ITEM, headers={PRESS: "another-press"})
    assert kept(demo) == [1234, 1234]


def test_after_a_kill_it_is_told_to_be_kept(restarted: TestClient) -> None:
    again = restarted.post("/api/cold", json=ITEM, headers=THIS)
    assert (again.status_code, again.json()["type"]) == (409, KEPT_BEFORE)
    assert "kept already" in again.json()["detail"]
    assert kept(restarted) == [1234]


def test_what_was_refused_may_be_sent_again(demo: TestClient) -> None:
    assert demo.post("/api/cold", json={**ITEM, "pieces": 0}, headers=THIS).status_code == 422
    gone = demo.post("/api/cold/9/take", json={"pieces": 1}, headers=THIS)
    assert gone.status_code == 404
    assert demo.post("/api/cold", json=ITEM, headers=THIS).status_code == 201


def test_a_question_is_no_press(demo: TestClient) -> None:
    for text in ("250 g flour", "100 g butter"):
        read = demo.post("/api/read", json={"text": text}, headers=THIS)
        assert text.split()[-1] in read.text


@pytest.mark.parametrize("key", ["", "short", "a" * 65, "no spaces in it", "a/../../b"])
def test_a_key_has_to_be_one(demo: TestClient, key: str) -> None:
    refused = demo.post("/api/cold", json=ITEM, headers={PRESS: key})
    assert refused.status_code == 400
    assert "8 to 64" in refused.json()["detail"]
    assert kept(demo) == []


def test_a_press_is_forgotten_after_a_day(app: FastAPI, demo: TestClient) -> None:
    from finebatch.store.models import PressRow
    from finebatch.store.presses import KNOWN_MS, forget_old

    demo.post("/api/cold", json=ITEM, headers=THIS)
    database, now = app.state.database, app.state.clock()
    for later, left in ((KNOWN_MS, 1), (KNOWN_MS + 1, 0)):
        with database.writing() as session:
            forget_old(session, now + later)
            assert session.query(PressRow).count() == left


def test_the_same_press_waits_for_itself_and_little_is_remembered(
    app: FastAPI, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Two of one key at once: the second is answered as the first, once that is over."""
    from finebatch.store import presses

    monkeypatch.setattr(once_only, "MOST_REMEMBERED", 250)
    done: list[str] = []

    async def inner(scope: Scope, _receive: Receive, send: Send) -> None:
        done.append(scope["path"])
        await asyncio.sleep(0)
        presses.was_kept()
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body", "body": scope["path"].encode() * 50})

    once = OnceOnly(inner)

    async def ask(path: str, key: str) -> bytes:
        told: list[Message] = []

        async def send(message: Message) -> None:
            told.append(message)

        async def receive() -> Message:
            return {"type": "http.request", "body": b""}

        headers = [(PRESS.encode(), key.encode())]
        scope = {"type": "http", "method": "POST", "path": path, "headers": headers, "app": app}
        await once(scope, receive, send)
        return b"".join(message.get("body", b"") for message in told)

    async def play() -> None:
        first, second = await asyncio.gather(ask("/a", "key-of-one"), ask("/b", "key-of-one"))
        assert first == second == b"/a" * 50
        for number in range(4):
            await ask("/c", f"key-of-more-{number}")
        assert await ask("/d", "key-of-more-3") == b"/c" * 50
        assert await ask("/e", "key-of-one") == b"/e" * 50

    run(play())
    assert done == ["/a", "/c", "/c", "/c", "/c", "/e"]
