"""The data file in trouble: a full disk, taken away, replaced, cut short, bits flipped, older,
newer, two servers. Each is told in words, and nothing that was acknowledged is lost."""

import gzip
import os
import random
import shutil
import sqlite3
import time
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

from torture_kills import CARD, RELEASED, names
from torture_servers import Broken, Server, demo, sure, whole

from finebatch.store.database import Database, UnusableFile
from finebatch.store.health import versions
from finebatch.store.places import Served, ServedElsewhere

LISTS = (
    "/doughs",
    "/bakes",
    "/cold",
    "/kitchen",
    "/plan",
    "/larder",
    "/stock",
    "/sessions/current",
)


def full_disk(folder: Path, rng: random.Random, until: float) -> Iterator[str]:
    """No file may grow: what cannot be kept is said, and what was kept is there."""
    while time.monotonic() < until:
        file = demo(folder / f"full-{time.monotonic_ns()}.sqlite3")
        # SQLite's own file of what was written last is as large as this at most.
        server = Server(file, most_bytes=file.stat().st_size + rng.randrange(0, 400_000)).start()
        kept = names(file)
        refused = 0
        with server.client() as ask:
            for number in range(400):
                answer = ask.post("/doughs", json={**CARD, "name": f"{number}"})
                if answer.status_code == 201:
                    kept.add(f"{number}")
                else:
                    sure(answer.status_code == 503, answer.text)
                    sure("disk" in answer.json()["detail"], answer.text)
                    refused += 1
                if refused == 3:
                    break
            sure(ask.get("/doughs").status_code == 200, "nothing can be looked at")
        sure(refused > 0, "the disk was never full")
        server.stop()
        sure(kept <= names(file), "what was acknowledged is lost")
        whole(file)
        yield "told each time"


def away(folder: Path, rng: random.Random, until: float) -> Iterator[str]:
    """Taken away, or another one in its place, while the server runs."""
    while time.monotonic() < until:
        file = demo(folder / f"away-{time.monotonic_ns()}.sqlite3")
        server = Server(file).start()
        aside = file.with_suffix(".aside")
        with server.client() as ask:
            file.rename(aside)
            if rng.random() < 0.5:
                shutil.copy(aside, file)
            for answer in (ask.post("/doughs", json={**CARD, "name": "Lost"}), ask.get("/doughs")):
                sure(answer.status_code == 503, answer.text)
                sure("data file" in answer.json()["detail"], answer.text)
            aside.replace(file)
            answer = ask.post("/doughs", json={**CARD, "name": "Found"})
            sure(answer.status_code == 201, answer.text)
        server.stop()
        sure("Found" in names(file), "what was acknowledged is lost")
        yield "told, and gone on with"


def spoilt(folder: Path, rng: random.Random, until: float) -> Iterator[str]:
    """Cut short, or bits flipped, while nobody has it: opened and answered, or refused in words."""
    whole_file = demo(folder / "spoilt.sqlite3").read_bytes()
    opened = refused = 0
    while time.monotonic() < until:
        file = folder / f"spoilt-{time.monotonic_ns()}.sqlite3"
        spoilt = bytearray(whole_file)
        if rng.random() < 0.3:
            del spoilt[rng.randrange(len(spoilt)) :]
        for _ in range(rng.choice((0, 1, 3, 40))):
            if spoilt:
                spoilt[rng.randrange(len(spoilt))] ^= 1 << rng.randrange(8)
        file.write_bytes(spoilt)
        try:
            Database(file).close()
        except UnusableFile as error:
            sure(str(file) in str(error), str(error))
            sure(file.read_bytes() == bytes(spoilt), "a damaged file was written to")
            refused += 1
        else:
            _answers(file)
            opened += 1
        yield f"{opened} opened and answered, {refused} refused in words"
        for left in folder.glob(f"{file.name}*"):
            shutil.rmtree(left) if left.is_dir() else left.unlink()


def _answers(file: Path) -> None:
    """Every list answers: at once, or once what cannot be read was put aside."""
    server = Server(file).start()
    try:
        with server.client() as ask:
            for path in LISTS:
                answer = ask.get(path)
                if answer.status_code == 503:
                    answer = ask.get(path)
                told = "damaged" in answer.text or "data file" in answer.text
                sure(answer.status_code < 400 or (answer.status_code == 503 and told), answer.text)
    finally:
        server.kill()


def under_way(folder: Path, rng: random.Random, until: float) -> Iterator[str]:
    """Cut short under a running server: answered or told in words, never anything else."""
    while time.monotonic() < until:
        file = demo(folder / f"cut-{time.monotonic_ns()}.sqlite3")
        server = Server(file).start()
        os.truncate(file, rng.randrange(file.stat().st_size))
        with server.client() as ask:
            for path in LISTS:
                answer = ask.get(path)
                sure(answer.status_code in (200, 503), answer.text)
            answer = ask.post("/doughs", json={**CARD, "name": "A"})
            sure(answer.status_code in (201, 503), answer.text)
        sure(server.stop() < 3, "it did not stop")
        yield "told in words"


def older_and_newer(folder: Path, _rng: random.Random, until: float) -> Iterator[str]:
    """Each released version opens; one that nobody knows yet is left as it is."""
    for packed in sorted(RELEASED.glob("*.gz")):
        file = folder / packed.stem
        file.write_bytes(gzip.decompress(packed.read_bytes()))
        _answers(file)
        with closing(sqlite3.connect(file)) as raw, raw:
            raw.execute("UPDATE alembic_version SET version_num = '9999'")
        before = file.read_bytes()
        try:
            Database(file)
        except UnusableFile as error:
            sure("newer" in str(error), str(error))
        else:
            raise Broken("a newer file was opened")
        sure(file.read_bytes() == before, "a newer file was written to")
        yield f"{versions()[0]} from {packed.name[:4]}"
        if time.monotonic() > until:
            return


def two_servers(folder: Path, _rng: random.Random, _until: float) -> Iterator[str]:
    """The second is told of the first; when that is gone, however, it may."""
    file = demo(folder / "two.sqlite3")
    first = Served(file, "http://127.0.0.1:1")
    try:
        Served(file, "http://127.0.0.1:2")
    except ServedElsewhere as error:
        sure(":1" in str(error), str(error))
    else:
        raise Broken("two servers have one file")
    first.give_up()
    Served(file, "http://127.0.0.1:2").give_up()
    yield "the second is told"
