"""Requests at random over every operation, and hostile files on every way in: no answer of 500 and
more but in words, none that holds a processor, none that fills the memory."""

import io
import json
import random
import time
import zipfile
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import Any

import schemathesis
from hypothesis import HealthCheck, given, settings
from PIL import Image
from torture_servers import Server, demo, sure

from finebatch.store.places import token_of
from finebatch.web.guard import TOKEN

MOST_CPU_S, MOST_MB = 2.0, 600.0
REQUESTS = 10_000
LETTERS = 900_000


class Watch:
    """What each request costs a server."""

    def __init__(self, server: Server) -> None:
        self.server, self.asked = server, 0
        self.cpu_s = self.mb = 0.0

    def over(self, ask: Callable[[], Any], what: str) -> None:
        """Ask, and look at what it was answered with and what it took."""
        before = self.server.cpu_s()
        status = int(ask().status_code)
        took, held = self.server.cpu_s() - before, self.server.memory_mb()
        self.asked += 1
        self.cpu_s, self.mb = max(self.cpu_s, took), max(self.mb, held)
        fine = status < 500 or status == 503
        sure(fine, "" if fine else f"{what}: {status}\n{self.server.last_words()}")
        sure(took < MOST_CPU_S, f"{what}: {took:.1f} s of a processor")
        sure(held < MOST_MB, f"{what}: {held:.0f} MB")

    def __str__(self) -> str:
        """In words."""
        return f"{self.asked} requests, at most {self.cpu_s:.2f} s and {self.mb:.0f} MB"


def requests(folder: Path, rng: random.Random, until: float) -> Iterator[str]:
    """Every operation of the API, DELETE too, as its description allows and as it does not."""
    server = Server(demo(folder / "requests.sqlite3")).start()
    sent = {TOKEN: token_of(server.file)}
    schema = schemathesis.openapi.from_url(f"{server.address}/api/openapi.json")
    # Events come without end.
    every: Any = schema.exclude(path="/api/stream").get_all_operations()
    operations = [one.ok() for one in every]
    watch = Watch(server)
    bounded = settings(
        max_examples=REQUESTS // len(operations) + 1,
        deadline=None,
        database=None,
        derandomize=False,
        suppress_health_check=list(HealthCheck),
    )

    def check(case: Any) -> None:
        if time.monotonic() < until:
            watch.over(partial(case.call, headers=sent), f"{case.method} {case.path}")

    # Whatever was kept, each list can be read.
    lists = [
        one.path.removeprefix("/api")
        for one in operations
        if one.method.upper() == "GET" and "{" not in one.path
    ]
    ask = server.client()
    # An operation that takes few values is asked few times a round.
    while watch.asked < REQUESTS and time.monotonic() < until:
        for operation in rng.sample(operations, len(operations)):
            bounded(given(case=operation.as_strategy())(check))()
            for path in lists:
                watch.over(partial(ask.get, path), f"GET {path} after {operation.label}")
        yield str(watch)
    sure(server.stop() < 3, "it did not stop within three seconds")


def _calendar(*lines: str) -> str:
    event = "\r\n".join(("BEGIN:VEVENT", "UID:1", "DTSTAMP:20260101T000000Z", *lines, "END:VEVENT"))
    return f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\n{event}\r\nEND:VCALENDAR\r\n"


def _texts() -> dict[str, str]:
    start = "DTSTART:20200101T000000Z"
    found = {
        "empty": "",
        "null": "\0",
        "half a pair": "250 g \ud800 flour",
        "deep": "[" * 200_000,
        "deep objects": '{"a":' * 100_000,
        "no number": '{"finebatch": 1, "doughs": [{"per_piece_g": NaN}]}',
        "too large a number": '{"finebatch": 1, "start": 1e308, "sheets": 1' + "0" * 5000 + "}",
        "never on": _calendar(start, "RRULE:FREQ=DAILY;INTERVAL=0"),
        "each minute": _calendar(start, "RRULE:FREQ=MINUTELY"),
        "each second": _calendar(start, "RRULE:FREQ=SECONDLY;COUNT=999999999"),
        "30 February": _calendar(start, "RRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30"),
        "for ever": _calendar("DTSTART:00010101T000000Z", "DTEND:99991231T235959Z"),
        "many": "BEGIN:VCALENDAR\r\n" + "BEGIN:VEVENT\r\nEND:VEVENT\r\n" * 30_000,
        "a formula": "name,amount,unit,ingredient\n=cmd(),1,g,+1",
        "many cells": "name," * 180_000,
        "quotes": 'name,amount\n"' + '""' * 400_000,
        "page": "<script type='application/ld+json'>" * 20_000,
        "context": '{"@context": {"a": {"@id": "b", "@context": {"a": "c"}}}, "a": ' * 900,
        "references": '{"@id": "_:a", "hasPart": {"@id": "_:a"}}',
    }
    for token in (
        "1 ",
        "0\\",
        "½",
        "![",
        "- 1 cup or ",
        "**",
        "| a ",
        "(",
        "°",
        "10 min to ",
        "> ",
    ):
        found[f"{token!r} many times"] = "250 g flour\n" + token * (LETTERS // len(token))
    return found


def _pictures() -> dict[str, bytes]:
    bomb, wide = io.BytesIO(), io.BytesIO()
    Image.new("1", (30_000, 30_000)).save(bomb, "PNG")
    Image.new("RGB", (9_000, 8_000), "red").save(wide, "JPEG", progressive=True)
    broken = wide.getvalue()[: len(wide.getvalue()) // 2]
    return {"bomb": bomb.getvalue(), "wide": wide.getvalue(), "broken": broken, "none": b"\x89PNG"}


def _zips() -> dict[str, bytes]:
    def packed(**files: bytes) -> bytes:
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packing:
            for name, contents in files.items():
                packing.writestr(name, contents)
        return out.getvalue()

    version = json.dumps({"version": "0016"}).encode()
    return {
        "no zip": b"PK\x03\x04" + bytes(10_000),
        "zeros": packed(**{"tables/dough.jsonl": bytes(200_000_000)}),
        "many": packed(**{f"tables/{n}": b"" for n in range(60_000)}),
        "no rows": packed(
            **{"tables/dough.jsonl": b"{" * 1_000_000, "tables/version.json": version}
        ),
        "no file": packed(**{"x.sqlite3": b"SQLite format 3\0" + bytes(100_000)}),
    }


def hostile_files(folder: Path, _rng: random.Random, until: float) -> Iterator[str]:
    """Texts, calendars, pictures and copies that are made to do harm, on every way in."""
    server = Server(demo(folder / "hostile.sqlite3")).start()
    watch = Watch(server)
    ways = {
        "/read": ("text",),
        "/card-text": ("name", "text"),
        "/bring-in/look": ("name", "text"),
        "/bring-in": ("name", "text"),
        "/book/bring-in": ("text",),
        "/plan/bring-in": ("text",),
        "/plan/calendar": ("text",),
    }
    with server.client() as ask:
        for called, text in _texts().items():
            for way, fields in ways.items():
                for ending in ("txt", "csv", "md", "html") if "name" in fields else ("",):
                    body = {"text": text, **({"name": f"x.{ending}"} if ending else {})}
                    sent = json.dumps(body).encode()
                    watch.over(
                        partial(ask.post, way, content=sent),
                        f"{called} to {way} as {ending or 'text'}",
                    )
                    if time.monotonic() > until:
                        return
            yield str(watch)
        bake = ask.get("/bakes").json()[0]["id"]
        for called, picture in _pictures().items():
            path = f"/bakes/{bake}/photo"
            watch.over(partial(ask.put, path, content=picture), called)
            yield str(watch)
        for called, copy in _zips().items():
            watch.over(partial(ask.post, "/copies/brought", content=copy), called)
            yield str(watch)
    sure(server.stop() < 3, "it did not stop within three seconds")
