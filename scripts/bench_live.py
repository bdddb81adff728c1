"""How soon an event is on the screens, and whether a long day of devices needs more memory.

python scripts/bench_live.py
"""

import asyncio
import json
import statistics
import tempfile
import threading
import time
import tracemalloc
from collections.abc import AsyncIterator, Callable
from pathlib import Path
from typing import Any

import httpx
from bench_rows import row

from finebatch.devices.stand_in_oven import OvenKnobs
from finebatch.devices.stand_in_scale import OnTheScale
from finebatch.settings import Settings
from finebatch.store.database import Database
from finebatch.web.devices_live import LiveDevices
from finebatch.web.wire import Wire
from finebatch.workflow.devices import oven_watch

SCREENS, EVENTS = 3, 40
TICK_MS, HOURS = 200, 8


def _listen(base: str, heard: list[float], ready: threading.Barrier, stop: threading.Event) -> None:
    """One screen: when it has read the session that it was told."""
    with (
        httpx.Client(base_url=base, timeout=20, headers={"origin": base}) as client,
        client.stream("GET", "/api/stream") as stream,
    ):
        ready.wait()
        told = False
        for line in stream.iter_lines():
            if stop.is_set():
                return
            if told and line.startswith("data: "):
                json.loads(line.removeprefix("data: "))
                heard.append(time.perf_counter())
            told = line == "event: session"


def measure_events(base: str, ask: Callable[..., Any]) -> None:
    """From a press on one screen to the answer on three, with two devices on."""
    ask("PUT", "/api/devices", json={"on": True, "oven": {"dial_c": 180}, "scale": {"load_g": 28}})
    items = [{"dough_id": dough} for dough in (1, 2, 3, 4)]
    made = ask("PUT", "/api/plan", json={"items": items, "sheets": 3, "shelves": 2})
    ask("POST", "/api/plan/stop")
    while ask("GET", "/api/plan")["searching"]:
        time.sleep(0.05)
    ask("POST", f"/api/sessions/{made['id']}/start")
    along = next(a["key"] for a in made["activities"] if a["kind"] == "portion")
    heard: list[list[float]] = [[] for _ in range(SCREENS)]
    ready, stop = threading.Barrier(SCREENS + 1), threading.Event()
    screens = [
        threading.Thread(target=_listen, args=(base, own, ready, stop), daemon=True)
        for own in heard
    ]
    for screen in screens:
        screen.start()
    ready.wait()
    events = f"/api/sessions/{made['id']}/events"
    took: list[float] = []
    planned: list[float] = []

    def press(body: dict[str, Any]) -> Any:
        """Press once; note how long until each screen shows it, and until the rest is planned."""
        for own in heard:
            own.clear()
        begin = time.perf_counter()
        answer = ask("POST", events, json=body)
        planned.append(1000 * (time.perf_counter() - begin))
        until = begin + 5
        while not all(heard) and time.perf_counter() < until:
            time.sleep(0.001)
        took.extend(1000 * (own[0] - begin) for own in heard if own)
        time.sleep(0.3)  # what the planning tells comes later
        return answer

    for n in range(EVENTS):
        press({"kind": "weighed", "activity": along, "grams": 27 + n % 3})
    p95 = statistics.quantiles(took, n=20)[-1]
    row(
        f"a mass weighed to {SCREENS} screens, two devices on, p95 (median)",
        f"{p95:.0f} ({statistics.median(took):.0f}) ms",
        "< 200 ms",
        p95 < 200,
    )
    took.clear()
    planned.clear()
    session = ask("GET", "/api/sessions/current")
    for _ in range(EVENTS):
        jobs = [a for a in session["activities"] if a["hands"] and a["done_at"] is None]
        job = min(jobs, key=lambda a: (a["due_at"], a["start_at"]))
        session = press({"kind": "done", "activity": job["key"]})
    stop.set()
    p95, rest = (statistics.quantiles(figures, n=20)[-1] for figures in (took, planned))
    row(
        f"a job done to {SCREENS} screens, two devices on, p95 (median)",
        f"{p95:.0f} ({statistics.median(took):.0f}) ms",
        "< 200 ms",
        p95 < 200,
    )
    row(
        "a job done until the rest is planned again, p95",
        f"{rest:.0f} ms",
        "< 1000 ms",
        rest < 1000,
    )
    ask("PUT", "/api/devices", json={"on": False})


async def _day(folder: Path) -> tuple[float, float, int]:
    """MB after one hour and after eight of two devices on three screens, one of them asleep."""
    at = [1_800_000_000_000]
    database, wire = Database(folder / "day.sqlite3"), Wire()
    devices = LiveDevices(database, wire, lambda: at[0], Settings())
    devices.on = True
    scale, oven = devices.stand_in_scale, devices.stand_in_oven
    assert scale is not None and oven is not None
    oven.play(OvenKnobs(dial_c=180))
    with database.writing() as session:
        oven_watch.begin(session, 1, 180, at[0])
    got = [0]

    async def screen(stream: AsyncIterator[str]) -> None:
        async for _ in stream:
            got[0] += 1

    awake = [asyncio.create_task(screen(wire.listen())) for _ in range(SCREENS - 1)]
    asleep = wire.listen()
    await anext(asleep)
    await asyncio.sleep(0)
    tracemalloc.start()
    marks = []
    for n in range(HOURS * 3_600_000 // TICK_MS):
        at[0] += TICK_MS
        if n % 25 == 0:
            scale.play(OnTheScale(load_g=float(n % 400)))
        devices.tick()
        if n % 5 == 0:
            await asyncio.sleep(0)
        if (n + 1) % (3_600_000 // TICK_MS) == 0:
            marks.append(tracemalloc.get_traced_memory()[0] / 1e6)
    tracemalloc.stop()
    for task in awake:
        task.cancel()
    database.close()
    return marks[0], marks[-1], got[0]


def measure_day() -> None:
    """Whether eight hours of devices leave more behind than one."""
    with tempfile.TemporaryDirectory() as folder:
        one, eight, got = asyncio.run(_day(Path(folder)))
    row(
        f"memory after one and eight hours ({got} events)",
        f"{one:.2f}, {eight:.2f} MB",
        "level",
        eight < one + 1.0,
    )


if __name__ == "__main__":
    measure_day()
