"""Everything out and in again: as open formats, and as a backup, identical in content."""

import csv
import io
import json
import sqlite3
import zipfile
from collections.abc import Callable
from contextlib import closing
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from finebatch.facts import tables
from finebatch.formats.jsonld import read_recipes
from finebatch.store.backup import back_up
from finebatch.store.database import Database
from finebatch.store.places import photos_of
from finebatch.store.restore import NoBackup, restore
from finebatch.workflow.book.everything import give_out_everything
from tests.chance import TIMES
from tests.conftest import HandClock
from tests.pictures import put_photo
from tests.plans import plan
from tests.released import VERSIONS, put

NOW = datetime(2026, 10, 24, 15, 0)


def content(file: Path) -> dict[str, Any]:
    """All rows of all tables, their documents read, and all photos."""
    found: dict[str, Any] = {"photos": {p.name: p.read_bytes() for p in photos_of(file).glob("*")}}
    with closing(sqlite3.connect(file)) as raw:
        names = raw.execute("SELECT name FROM sqlite_master WHERE type = 'table'").fetchall()
        for (name,) in names:
            found[name] = raw.execute(f'SELECT * FROM "{name}" ORDER BY 1').fetchall()
    return found


def packed_whole(file: Path, to: Path) -> None:
    database = Database(file)
    give_out_everything(database, to)
    database.close()


@pytest.mark.parametrize("version", VERSIONS if TIMES > 1 else [*VERSIONS[::4], VERSIONS[-1]])
def test_out_and_in_again_it_is_the_same(version: str, tmp_path: Path) -> None:
    """A full data file of every released version, as a backup and as open formats, into another
    place and over another file."""
    file = tmp_path / "mine.sqlite3"
    put(version, file)
    Database(file).close()
    put_photo(file, "1-aa.jpg")
    before = content(file)
    assert len(before["dough"]) == 4
    packed, whole = tmp_path / "kept.zip", tmp_path / "whole.zip"
    back_up(file, packed)
    packed_whole(file, whole)
    other = tmp_path / "other" / "mine.sqlite3"
    for minute, pack in enumerate((packed, whole)):
        assert restore(pack, other, NOW + timedelta(minutes=minute)).photos == 1
        assert content(other) == before


def test_others_can_read_it(demo: TestClient) -> None:
    demo.post(f"/api/sessions/{plan(demo, 1, 2).json()['id']}/start", json={})
    demo.post("/api/stock", json={"ingredient": "flour_ap", "grams": 400, "pack_g": 1000})
    facts = next(i for i in demo.get("/api/larder").json() if i["key"] == "flour_rye")["facts"]
    demo.post("/api/larder", json={**facts, "name": "=Stardust"})
    answer = demo.get("/api/everything")
    assert answer.headers["content-type"] == "application/zip"
    with zipfile.ZipFile(io.BytesIO(answer.content)) as packed:
        assert packed.testzip() is None
        text = {n: packed.read(n).decode() for n in packed.namelist() if not n.endswith(".jpg")}
    (recipe, *_) = read_recipes(text["doughs/0001.jsonld"], tables.reader())
    assert recipe.card.name == demo.get("/api/doughs/1").json()["card"]["name"]
    lists = {n: list(csv.DictReader(io.StringIO(t))) for n, t in text.items() if n.endswith("csv")}
    assert len(lists["book.csv"]) == len(demo.get("/api/bakes").json())
    assert len(lists["cold-store.csv"]) == len(demo.get("/api/cold").json()["kept"])
    assert [row["grams"] for row in lists["in-the-house.csv"]] == ["400"]
    assert [row["name"] for row in lists["larder.csv"]] == ["'=Stardust"]
    assert json.loads(text["kitchen.json"])["sheets"] == 2
    assert json.loads(text["sessions/0001.json"])["doughs"]
    assert all(json.loads(line) for line in text["tables/dough.jsonl"].splitlines())


def test_one_from_another_disk_is_brought_in_and_put_back(
    demo: TestClient, clock: HandClock
) -> None:
    whole = demo.get("/api/everything").content
    names = [dough["name"] for dough in demo.get("/api/doughs").json()["doughs"]]
    demo.delete("/api/doughs/1")
    brought = demo.post("/api/copies/brought", content=whole)
    assert brought.status_code == 201, brought.text
    copy = brought.json()
    assert (copy["why"], copy["holds"]["doughs"]) == ("brought", 4)
    assert demo.get("/api/copies").json() == [copy]
    assert len(demo.get("/api/doughs").json()["doughs"]) == 3
    clock.pass_minutes(1)
    assert demo.post(f"/api/copies/{copy['name']}/restore").status_code == 200
    assert [dough["name"] for dough in demo.get("/api/doughs").json()["doughs"]] == names
    assert demo.delete(f"/api/copies/{copy['name']}").status_code == 204
    assert demo.delete(f"/api/copies/{copy['name']}").status_code == 404


def zipped(**files: str | bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packing:
        for name, contents in files.items():
            packing.writestr(name, contents)
    return out.getvalue()


def rows(table: str, *lines: str, version: str = '{"version": "0016"}') -> bytes:
    return zipped(**{f"tables/{table}.jsonl": "\n".join(lines), "tables/version.json": version})


def acting(tmp_path: Path) -> bytes:
    """A data file that does something by itself."""
    file = tmp_path / "acting.sqlite3"
    Database(file).close()
    with closing(sqlite3.connect(file)) as raw, raw:
        raw.execute("CREATE TRIGGER x AFTER INSERT ON dough BEGIN DELETE FROM dough; END")
    return zipped(**{"mine.sqlite3": file.read_bytes()})


@pytest.mark.parametrize(
    "made",
    [
        b"",
        b"no zip file",
        zipped(),
        zipped(**{"x.sqlite3": b"SQLite format 3\0" + bytes(5000)}),
        zipped(**{f"tables/{n}": "" for n in range(60_000)}),
        zipped(**{"tables/dough.jsonl": bytes(40_000_000)}),
        rows("dough", "{", "[]"),
        rows("dough", '{"id": {"bytes": "zz"}}'),
        rows("dough", '{"id": 1, "colour": "red"}'),
        rows("dough", '{"id": 1}'),
        rows("dough", f'{{"id": {10**30}}}'),
        rows("dough", "[" * 100_000),
        rows("cold_event", '{"id": 1, "item_id": 9, "at": 0, "said": "loose"}'),
        rows('x"; DROP TABLE dough; --', "{}"),
        rows("alembic_version", '{"version_num": "9999"}'),
        rows("sqlite_master", "{}"),
        rows("dough", version='{"version": "9999"}'),
        rows("dough", version="[]"),
        acting,
    ],
)
def test_what_is_no_copy_is_refused_and_changes_nothing(
    demo: TestClient, made: bytes | Callable[[Path], bytes], tmp_path: Path
) -> None:
    sent = made if isinstance(made, bytes) else made(tmp_path)
    before = demo.get("/api/doughs").json()
    answer = demo.post("/api/copies/brought", content=sent)
    assert answer.status_code == 422, answer.text
    assert "Nothing was changed" in answer.json()["detail"]
    assert demo.get("/api/copies").json() == []
    assert demo.get("/api/doughs").json() == before
    files = [file.name for file in tmp_path.glob("**/*")]
    assert [name for name in files if "restoring" in name or name.endswith(".part")] == []


def test_rows_that_cannot_be_read_are_put_back_into_the_bin(
    demo: TestClient, tmp_path: Path
) -> None:
    line = {"id": 5, "name": "Odd", "family": "drop", "card": {"json": {"document": 99}}}
    sent = rows("dough", json.dumps({**line, "revision": 1, "changed_at": 0}))
    copy = demo.post("/api/copies/brought", content=sent).json()
    assert demo.post(f"/api/copies/{copy['name']}/restore").status_code == 200
    assert demo.get("/api/doughs").json()["doughs"] == []
    (thrown,) = demo.get("/api/bin").json()
    assert (thrown["name"], "newer" in thrown["fault"]) == ("Odd", True)
    with pytest.raises(NoBackup):
        restore(tmp_path / "none.zip", tmp_path / "x.sqlite3", NOW)
