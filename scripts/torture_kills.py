"""Killed while it writes, while a photo comes in, while a copy is put back, while it is brought up
from an earlier version: nothing that was acknowledged is lost."""

import gzip
import io
import os
import random
import signal
import sqlite3
import threading
import time
from collections.abc import Iterator
from contextlib import closing, suppress
from datetime import datetime
from functools import partial
from pathlib import Path

import httpx
from PIL import Image
from torture_servers import Server, demo, ended, in_a_child, sure, whole

from finebatch.store.backup import back_up
from finebatch.store.database import Database
from finebatch.store.places import photos_of
from finebatch.store.restore import restore

RELEASED = Path(__file__).parent.parent / "tests" / "store" / "released"
CARD = {
    "family": "drop",
    "mixing": "creamed",
    "lines": [{"amount": "250", "unit": "g", "ingredient": "flour_ap"}],
}


def names(file: Path) -> set[str]:
    """The doughs of a data file that nobody has open."""
    with closing(sqlite3.connect(file)) as raw:
        return {name for (name,) in raw.execute("SELECT name FROM dough")}


def writes(folder: Path, rng: random.Random, until: float) -> Iterator[str]:
    """Four programs add doughs; the server is killed in the midst of it."""
    file = folder / "writes.sqlite3"
    kept: set[str] = set()
    wrong: list[str] = []
    while time.monotonic() < until:
        server = Server(file).start()
        stop = threading.Event()

        def add(who: int, server: Server = server, stop: threading.Event = stop) -> None:
            with server.client() as ask, suppress(httpx.TransportError):
                while not stop.is_set():
                    name = f"{who} {time.monotonic_ns()}"
                    answer = ask.post("/doughs", json={**CARD, "name": name})
                    if answer.status_code != 201:
                        wrong.append(answer.text)
                        return
                    kept.add(name)

        hands = [threading.Thread(target=add, args=(who,)) for who in range(4)]
        for hand in hands:
            hand.start()
        before = len(kept)
        while len(kept) == before and not wrong:
            time.sleep(0.01)
        time.sleep(rng.uniform(0, 0.4))
        server.kill()
        stop.set()
        for hand in hands:
            hand.join()
        sure(not wrong, "; ".join(wrong[:1]))
        lost = kept - names(file)
        sure(not lost, f"{len(lost)} doughs that were acknowledged are lost")
        whole(file)
        yield f"{len(kept)} doughs"


def photos(folder: Path, rng: random.Random, until: float) -> Iterator[str]:
    """A photo after the other comes in; each that was acknowledged is there, whole."""
    file = demo(folder / "photos.sqlite3")
    kept = 0
    while time.monotonic() < until:
        server = Server(file).start()
        last: bytes | None = None
        killer: threading.Timer | None = None
        with server.client() as ask:
            (bake, *_) = ask.get("/bakes").json()
            with suppress(httpx.TransportError):
                while True:
                    if last is not None and killer is None:
                        wait = rng.uniform(0, 0.5)
                        killer = threading.Timer(wait, os.kill, (server.child, signal.SIGKILL))
                        killer.start()
                    picture = io.BytesIO()
                    colour = tuple(rng.randbytes(3))
                    Image.new("RGB", (400, 300), colour).save(picture, "PNG")
                    path = f"/bakes/{bake['id']}/photo"
                    answer = ask.put(path, content=picture.getvalue())
                    sure(answer.status_code == 200, answer.text)
                    kept += 1
                    last = ask.get(path).content
        ended(server.child)
        again = Server(file).start()
        with again.client() as ask:
            found = ask.get(f"/bakes/{bake['id']}/photo")
        again.kill()
        if last is not None:
            sure(found.status_code == 200, "a photo that was acknowledged is lost")
            Image.open(io.BytesIO(found.content)).load()
        whole(file)
        yield f"{kept} photos"


def restores(folder: Path, rng: random.Random, until: float) -> Iterator[str]:
    """A copy is put back, and the process killed at any moment: it is the one or the other."""
    file, packed = demo(folder / "restores.sqlite3"), folder / "kept.zip"
    photos_of(file).mkdir(exist_ok=True)
    back_up(file, packed)
    old = names(file)
    done = 0
    while time.monotonic() < until:
        database = Database(file)
        with database.writing() as session:
            session.connection().exec_driver_sql("DELETE FROM dough WHERE id = 1")
        database.close()
        new = names(file)
        moment = datetime.fromtimestamp(time.time() + done * 60)
        child = in_a_child(partial(restore, packed, file, moment))
        time.sleep(rng.uniform(0, 0.6))
        os.kill(child, signal.SIGKILL)
        ended(child)
        Database(file).close()
        found = names(file)
        sure(found in (old, new), f"{sorted(found)} is neither the one nor the other")
        whole(file)
        if found == new:
            restore(packed, file, datetime.fromtimestamp(time.time() + done * 60 + 30))
        done += 1
        yield "the one or the other"


def migrations(folder: Path, rng: random.Random, until: float) -> Iterator[str]:
    """A file of an earlier version is brought up, and the process killed at any moment."""
    packed = sorted(RELEASED.glob("*.gz"))
    done = 0
    while time.monotonic() < until:
        file = folder / f"migrations-{done}.sqlite3"
        one = packed[done % len(packed)]
        file.write_bytes(gzip.decompress(one.read_bytes()))
        before = names(file)
        child = in_a_child(partial(Database, file))
        time.sleep(rng.uniform(0, 0.8))
        os.kill(child, signal.SIGKILL)
        ended(child)
        Database(file).close()
        sure(names(file) == before, f"doughs of version {one.name} are lost")
        whole(file)
        done += 1
        yield f"{min(done, len(packed))} versions"
