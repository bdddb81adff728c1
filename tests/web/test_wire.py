"""Events reach every screen, and a slow screen keeps only the newest of each."""

import asyncio
import json
from collections.abc import AsyncIterator, Coroutine
from concurrent.futures import ThreadPoolExecutor
from typing import Any, TypeVar

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from starlette.types import Message, Receive, Scope, Send

from finebatch.core.measures.figures import ANCHOR
from finebatch.web.app import watch_clock
from finebatch.web.as_read import AsRead
from finebatch.web.wire import MOST_SCREENS, Wire
from tests.plans import at_hand, plan

T = TypeVar("T")


def run(scene: Coroutine[Any, Any, T]) -> T:
    """In a thread of its own: a browser test beside it has a loop in this one."""
    with ThreadPoolExecutor(1) as pool:
        return pool.submit(asyncio.run, scene).result()


async def told(stream: AsyncIterator[str]) -> tuple[str, dict[str, object]]:
    text = await asyncio.wait_for(anext(stream), 5)
    event, data = text.strip().splitlines()
    found: dict[str, object] = json.loads(data.removeprefix("data: "))
    return event.removeprefix("event: "), found


def test_every_screen_is_told() -> None:
    async def scene() -> None:
        wire = Wire("a")
        screens = [wire.listen() for _ in range(3)]
        for screen in screens:
            first = await anext(screen)
            assert first.startswith("retry:")
            assert '{"shell": "a"}' in first
        assert wire.screens == 3
        await asyncio.to_thread(wire.tell, "session", {"id": 1})
        for screen in screens:
            assert await told(screen) == ("session", {"id": 1})
            await screen.aclose()  # type: ignore[attr-defined]
        assert wire.screens == 0

    run(scene())


def test_a_slow_screen_is_sent_the_newest_of_each_event_alone() -> None:
    async def scene() -> None:
        wire = Wire()
        slow = wire.listen()
        await anext(slow)
        for n in range(1000):
            wire.tell("scale", {"grams": n})
            wire.tell("oven", {"celsius": n})
        await asyncio.sleep(0)
        assert [await told(slow), await told(slow)] == [
            ("scale", {"grams": 999}),
            ("oven", {"celsius": 999}),
        ]

    run(scene())


def test_a_closed_wire_ends_every_stream() -> None:
    async def scene() -> list[str]:
        wire = Wire()
        screen = wire.listen()
        await anext(screen)
        wire.close()
        return [text async for text in screen]

    left = run(scene())
    assert all(text.startswith("event: bye") for text in left)


def test_too_many_screens_are_told_so(app: FastAPI, client: TestClient) -> None:
    async def open_many() -> list[AsyncIterator[str]]:
        screens = [app.state.wire.listen() for _ in range(MOST_SCREENS)]
        for screen in screens:
            await anext(screen)
        answer = await asyncio.to_thread(client.get, "/api/stream")
        assert answer.status_code == 503
        assert "Close one" in answer.json()["detail"]
        return screens

    run(open_many())


def test_whatever_happens_in_a_session_is_told(app: FastAPI, demo: TestClient) -> None:
    said: list[str] = []
    app.state.wire.tell = lambda event, data: said.append(event)
    at_hand(demo)
    made = plan(demo, 1).json()
    demo.post(f"/api/sessions/{made['id']}/start")
    events = f"/api/sessions/{made['id']}/events"
    demo.post(events, json={"kind": "done", "activity": "A.mix"})
    demo.post(f"/api/sessions/{made['id']}/undo")
    refused = demo.post(events, json={"kind": "done", "activity": "A1.load"})
    assert refused.status_code == 409
    # A start at once; what is done also once the rest is planned; what is taken back with the plan
    # that was there.
    assert said == ["session"] * 4


def test_a_device_with_an_error_of_its_own_is_said_and_read_again(app: FastAPI) -> None:
    said: list[tuple[str, object]] = []
    live = app.state.devices
    app.state.wire.tell = lambda event, data: said.append((event, data.get("fault")))
    live._wire = app.state.wire

    class Broken:
        def read(self) -> object:
            raise RuntimeError("the driver fell over")

    live.scale, live.on = Broken(), True

    async def a_moment() -> None:
        reading = asyncio.create_task(live.run())
        await asyncio.sleep(0.7)
        live.scale = live.stand_in_scale
        await asyncio.sleep(0.7)
        reading.cancel()

    run(a_moment())
    assert ("scale", "The device failed; it is asked again.") in said
    assert ("scale", None) in said


def test_a_clock_that_is_set_is_told_and_one_that_goes_on_is_not(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setattr("finebatch.web.app.LOOK_S", 0.01)
    wall, steady = [5_000_000], [0]

    async def scene() -> list[tuple[str, dict[str, object]]]:
        wire = Wire()
        screen = wire.listen()
        await anext(screen)
        watching = asyncio.create_task(watch_clock(lambda: wall[0], wire, lambda: steady[0]))
        said = []
        # An hour goes by as it should, then the clock is set an hour back.
        for by_wall, by_steady in ((3_600_000, 3_600_000), (-3_600_000, 0)):
            await asyncio.sleep(0.1)
            wall[0] += by_wall
            steady[0] += by_steady
        said.append(await told(screen))
        watching.cancel()
        return said

    assert run(scene()) == [("clock", {"by_ms": -3_600_000})]


@pytest.mark.parametrize(("mass", "weight"), [("metric", "28 g"), ("ounces", "1 oz")])
def test_figures_in_what_is_told_are_in_the_kitchens_units(
    app: FastAPI, demo: TestClient, mass: str, weight: str
) -> None:
    """A session that is told by the stream reads as one that is asked for."""
    assert demo.put("/api/kitchen/units", json={"mass": mass}).status_code == 200
    at_hand(demo)
    made = plan(demo, 1).json()
    scope = {"type": "http", "path": "/api/stream", "app": app}

    async def scene() -> str:
        heard: list[str] = []
        both = asyncio.Event()

        async def stream(_scope: Scope, _receive: Receive, send: Send) -> None:
            kind = (b"content-type", b"text/event-stream")
            await send({"type": "http.response.start", "status": 200, "headers": [kind]})
            async for part in app.state.wire.listen():
                body = part.encode()
                await send({"type": "http.response.body", "body": body, "more_body": True})

        async def hear(message: Message) -> None:
            heard.append(message.get("body", b"").decode())
            if "event: session" in heard[-1]:
                both.set()
            elif "event: hello" in heard[-1]:
                demo_said = asyncio.to_thread(demo.post, f"/api/sessions/{made['id']}/start")
                starting.append(asyncio.ensure_future(demo_said))

        starting: list[asyncio.Future[Any]] = []
        listening = asyncio.ensure_future(AsRead(stream)(scope, silent, hear))
        await asyncio.wait_for(both.wait(), 20)
        await asyncio.gather(*starting)
        listening.cancel()
        return "".join(heard)

    said = run(scene())
    assert weight in said
    assert ANCHOR not in said and "ufff9" not in said


async def silent() -> Message:
    """No request says more than that it is there."""
    return {"type": "http.request", "body": b"", "more_body": False}
