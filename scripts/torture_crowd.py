"""Many at once, and for long: twenty programs, forty streams, a day of baking."""

import os
import random
import statistics
import threading
import time
from collections.abc import Iterator
from contextlib import ExitStack
from itertools import pairwise
from pathlib import Path
from typing import Any

import httpx
from fastapi.testclient import TestClient
from torture_servers import Server, demo, ended, in_a_child, sure

from finebatch.demo.load import load
from finebatch.settings import Settings
from finebatch.web.app import create_app
from finebatch.web.wire import MOST_SCREENS

CLIENTS, CROWD_S, P95_S = 20, 120.0, 0.5
STRETCH_S, CORES = 10.0, os.cpu_count() or 1
QUIET, ENOUGH = 0.1, 300
"""The share of the processors that others may take in a quiet stretch; requests to judge by."""
HOURS, LEVEL_MB = 8, 25.0
MINUTE = 60_000


def crowd(folder: Path, rng: random.Random, until: float) -> Iterator[str]:
    """Twenty programs for two minutes, at the pace of hands: lists, predictions, changes.

    It is judged by the stretches in which the machine had its processors for itself."""
    server = Server(demo(folder / "crowd.sqlite3")).start()
    stop = min(time.monotonic() + CROWD_S, until)
    took: list[tuple[float, str, float]] = []
    failed: list[str] = []
    stolen = [(time.monotonic(), _stolen())]

    def one(seed: int) -> None:
        own = random.Random(seed)
        with server.client() as ask:
            doughs = [ask.get(f"/doughs/{number}").json() for number in range(1, 5)]
            while time.monotonic() < stop:
                dough = own.choice(doughs)
                tray = {**dough["tray"], "oven_c": own.randrange(150, 200)}
                study = {"card": dough["card"], "tray": tray, "dough_id": dough["id"]}
                method, path, body = own.choice(
                    (
                        ("GET", "/doughs", None),
                        ("GET", "/bakes", None),
                        ("GET", f"/doughs/{dough['id']}", None),
                        ("POST", "/study", study),
                        ("PUT", f"/doughs/{dough['id']}/tray", tray),
                        ("GET", "/cold", None),
                    )
                )
                began = time.monotonic()
                answer = ask.request(method, path, json=body)
                ended = time.monotonic()
                took.append((ended, f"{method} {path.rstrip('1234')}", ended - began))
                if answer.status_code >= 400:
                    failed.append(f"{method} {path}: {answer.text[:200]}")
                time.sleep(own.uniform(0.2, 0.8))

    hands = [threading.Thread(target=one, args=(rng.random(),)) for _ in range(CLIENTS)]
    for hand in hands:
        hand.start()
    while time.monotonic() < stop:
        time.sleep(min(STRETCH_S, max(0.1, stop - time.monotonic())))
        stolen.append((time.monotonic(), _stolen()))
    for hand in hands:
        hand.join()
    server.stop()
    sure(not failed, "; ".join(failed[:1]))
    in_quiet = [
        (kind, s)
        for (begun, before), (over, after) in pairwise(stolen)
        if after - before <= QUIET * CORES * (over - begun)
        for at, kind, s in took
        if begun <= at < over
    ]
    lost = (stolen[-1][1] - stolen[0][1]) / CORES / (stolen[-1][0] - stolen[0][0])
    said = f"{len(took)} requests, p95 {1000 * _p95([s for _, _, s in took]):.0f} ms, none failed"
    said += f"; {lost:.0%} of the processors were taken away"
    if len(in_quiet) < ENOUGH:
        yield f"{said}: too much to judge it"
        return
    p95 = _p95([s for _, s in in_quiet])
    kinds = sorted({kind for kind, _ in in_quiet})
    each = (f"{kind} {1000 * _p95([s for of, s in in_quiet if of == kind]):.0f}" for kind in kinds)
    sure(p95 < P95_S, f"p95 {p95:.2f} s; of each in ms: {', '.join(each)}")
    yield f"{said}, p95 {1000 * p95:.0f} ms of {len(in_quiet)} in the quiet stretches"


def _p95(times: list[float]) -> float:
    return statistics.quantiles(times, n=20)[-1]


def _stolen() -> float:
    """The seconds of all processors that others on the machine's host have taken so far."""
    fields = Path("/proc/stat").read_text().splitlines()[0].split()
    return int(fields[8]) / os.sysconf("SC_CLK_TCK")


def streams(folder: Path, _rng: random.Random, until: float) -> Iterator[str]:
    """Forty streams opened and dropped leave nothing."""
    server = Server(demo(folder / "streams.sqlite3")).start()
    held = []
    for _ in range(10):
        with ExitStack() as opened:
            for _ in range(MOST_SCREENS):
                client = opened.enter_context(server.client())
                stream = opened.enter_context(client.stream("GET", "/stream"))
                sure(stream.status_code == 200, "a stream that was dropped is still there")
                next(stream.iter_lines())
        with server.client() as ask:
            _until_dropped(ask)
        held.append(server.memory_mb())
        if time.monotonic() > until:
            break
    server.stop()
    sure(held[-1] - held[0] < LEVEL_MB, f"{held[0]:.0f} MB, then {held[-1]:.0f} MB")
    yield f"{len(held) * MOST_SCREENS} streams, {held[0]:.0f} MB, then {held[-1]:.0f} MB"


def _until_dropped(ask: httpx.Client) -> None:
    """A beat finds out that nobody listens any more."""
    for _ in range(100):
        with ask.stream("GET", "/stream") as stream:
            if stream.status_code == 200:
                break
        time.sleep(0.1)
    time.sleep(2.5)


def day(folder: Path, _rng: random.Random, until: float) -> Iterator[str]:
    """Eight hours of baking by a clock that is moved: what the server holds stays level."""
    told = folder / "held"
    child = in_a_child(lambda: _bake_all_day(folder, told, until))
    sure(ended(child) == 0, "a day of baking was broken off")
    held = [float(line) for line in told.read_text().split()]
    sure(len(held) == HOURS, "a day of baking was too long for the time there is")
    sure(held[-1] - held[1] < LEVEL_MB, f"{held} MB")
    yield f"{held[1]:.0f} MB after two hours, {held[-1]:.0f} MB after eight"


def _held_mb() -> float:
    return int(Path("/proc/self/statm").read_text().split()[1]) * os.sysconf("SC_PAGE_SIZE") / 2**20


def _bake_all_day(folder: Path, told: Path, until: float) -> None:
    now = [1_800_000_000_000]
    app = create_app(Settings(data_file=folder / "day.sqlite3", plan_seconds=0.2), lambda: now[0])
    load(app.state.database, now[0])
    at = "http://127.0.0.1:8765"
    held: list[float] = []
    with TestClient(app, base_url=at, headers={"origin": at}) as ask:
        session: dict[str, Any] = {}
        for minute in range(HOURS * 60):
            if session.get("state") != "running":
                wish = {"items": [{"dough_id": n} for n in (1, 2)], "sheets": 3, "shelves": 2}
                planned = ask.put("/api/plan", json=wish).json()
                session = ask.post(f"/api/sessions/{planned['id']}/start", json={}).json()
            for job in session["activities"]:
                if job["hands"] and job["done_at"] is None and job["due_at"] <= now[0]:
                    event = {"kind": "done", "activity": job["key"]}
                    answer = ask.post(f"/api/sessions/{session['id']}/events", json=event)
                    session = answer.json() if answer.status_code == 200 else session
            now[0] += MINUTE
            session = ask.get("/api/sessions/current").json() or {}
            if minute % 60 == 59:
                held.append(_held_mb())
                told.write_text(" ".join(map(str, held)))
            if time.monotonic() > until:
                return
