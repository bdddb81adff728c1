import shutil
import sqlite3
import zipfile
from collections.abc import Callable
from contextlib import closing
from datetime import datetime
from pathlib import Path

import pytest
from sqlalchemy import text

from finebatch.core.formula.dough import Card, Line
from finebatch.store.backup import back_up
from finebatch.store.database import DamagedFile, Database, UnusableFile
from finebatch.store.places import all_of, copies_of, photos_of
from finebatch.store.restore import NoBackup, last_good_copy, restore
from finebatch.workflow.dough.doughs import add_dough
from finebatch.workflow.dough.drawer import list_doughs
from tests.pictures import put_photo
from tests.released import put
from tests.web.test_cli import finebatch

NOW = datetime(2026, 10, 24, 15, 0)
LINES = (Line("250", "g", "flour_ap"), Line("170", "g", "butter_unsalted"))


def names(file: Path) -> list[str]:
    database = Database(file)
    with database.reading() as session:
        found = sorted(dough.card.name for dough in list_doughs(session, most=500)[0])
    database.close()
    return found


def keep(file: Path, *doughs: str) -> None:
    database = Database(file)
    with database.writing() as session:
        for name in doughs:
            add_dough(session, Card(name, "drop", "creamed", LINES), 0)
    database.close()


@pytest.fixture
def file(tmp_path: Path) -> Path:
    file = tmp_path / "mine.sqlite3"
    keep(file, "Oat rounds")
    put_photo(file, "1-aa.jpg")
    return file


@pytest.fixture
def packed(file: Path, tmp_path: Path) -> Path:
    packed = tmp_path / "kept" / "mine.zip"
    packed.parent.mkdir()
    back_up(file, packed)
    return packed


def crash_with(file: Path, dough: str) -> None:
    """Leave the file as a killed server does: what was kept last stands only in its -wal."""
    database = Database(file)
    with database.writing() as session:
        add_dough(session, Card(dough, "drop", "creamed", LINES), 0)
    left = file.parent / "left"
    left.mkdir()
    for one in all_of(file):
        if one.is_file():
            shutil.copy(one, left / one.name)
    database.close()
    for one in left.iterdir():
        shutil.copy(one, file.parent / one.name)


def test_a_backup_takes_the_place_of_a_file_whose_wal_is_there(file: Path, packed: Path) -> None:
    crash_with(file, "Kept only in the wal")
    assert file.with_name("mine.sqlite3-wal").stat().st_size > 0
    (photos_of(file) / "2-bb.jpg").write_bytes(b"a later picture")
    restored = restore(packed, file, NOW)
    assert names(file) == ["Oat rounds"]
    assert [photo.name for photo in photos_of(file).iterdir()] == ["1-aa.jpg"]
    assert (restored.photos, restored.aside) == (
        1,
        file.parent / "mine.sqlite3.before-20261024-150000",
    )
    # What was there before is whole where it lies now, with what stood only in its -wal.
    assert restored.aside is not None
    assert names(restored.aside / file.name) == ["Kept only in the wal", "Oat rounds"]
    assert len(list(photos_of(restored.aside / file.name).iterdir())) == 2


def test_nothing_is_restored_while_somebody_has_the_file(file: Path, packed: Path) -> None:
    database = Database(file)
    ran = finebatch("restore", str(packed), FINEBATCH_DATA_FILE=str(file))
    assert ran.exit_code == 2
    assert "is in use: stop the app" in ran.stderr
    database.close()
    ran = finebatch("restore", str(packed), FINEBATCH_DATA_FILE=str(file))
    assert ran.exit_code == 0
    assert "What was there before lies in" in ran.stdout


def break_page(file: Path) -> None:
    contents = bytearray(file.read_bytes())
    for page in range(1, len(contents) // 4096):
        contents[page * 4096 : page * 4096 + 64] = b"\xff" * 64
    file.write_bytes(contents)


def change(file: Path, *statements: str) -> None:
    with closing(sqlite3.connect(file)) as raw, raw:
        for statement in statements:
            raw.execute(statement)


def newer(file: Path) -> None:
    change(file, "UPDATE alembic_version SET version_num = '9999'")


def loose(file: Path) -> None:
    change(file, "DELETE FROM dough")


def another(file: Path) -> None:
    file.unlink()
    change(file, "CREATE TABLE recipe (id INTEGER)")


@pytest.mark.parametrize(
    ("spoil", "words"),
    [
        (break_page, "damaged"),
        (newer, "newer Fine Batch"),
        (loose, "that is not there"),
        (another, "none of Fine Batch's"),
        (lambda file: file.write_text("flour"), "no data file"),
    ],
)
def test_what_is_not_whole_is_not_restored(
    file: Path, tmp_path: Path, spoil: Callable[[Path], None], words: str
) -> None:
    bad = tmp_path / "bad.sqlite3"
    shutil.copy(file, bad)
    spoil(bad)
    packed = tmp_path / "bad.zip"
    with zipfile.ZipFile(packed, "w") as packing:
        packing.write(bad, "mine.sqlite3")
    before = {one.name: one.read_bytes() for one in file.parent.iterdir() if one.is_file()}
    with pytest.raises(NoBackup, match=words):
        restore(packed, file, NOW)
    assert {one.name: one.read_bytes() for one in file.parent.iterdir() if one.is_file()} == before
    assert not [
        one for one in file.parent.iterdir() if one.name.startswith((".", "mine.sqlite3.b"))
    ]


@pytest.mark.parametrize("contents", [b"", b"no zip at all", b"PK\x03\x04cut"])
def test_a_file_that_is_no_zip_says_so(file: Path, tmp_path: Path, contents: bytes) -> None:
    (tmp_path / "x.zip").write_bytes(contents)
    with pytest.raises(NoBackup, match="no backup that can be read"):
        restore(tmp_path / "x.zip", file, NOW)
    with pytest.raises(NoBackup, match="was not restored"):
        restore(tmp_path / "none.zip", file, NOW)


def test_a_backup_writes_nowhere_else(file: Path, tmp_path: Path) -> None:
    """Names in a zip file that lead out of the folder are not followed."""
    packed = tmp_path / "odd.zip"
    back_up(file, packed)
    with zipfile.ZipFile(packed, "a") as packing:
        for name in ("../out.jpg", "/out.jpg", "mine.sqlite3.photos/../out.jpg", "x/out.jpg"):
            packing.writestr(name, b"x")
    assert restore(packed, file, NOW).photos == 1
    assert not list(tmp_path.rglob("out.jpg"))


def age(file: Path) -> list[str]:
    """A file of an earlier version in its place, and the doughs in it."""
    put("0008", file)
    with closing(sqlite3.connect(file)) as raw:
        return sorted(name for (name,) in raw.execute("SELECT name FROM dough"))


def test_a_copy_is_made_before_a_migration(file: Path) -> None:
    there = age(file)
    assert names(file) == there
    (copy,) = copies_of(file).iterdir()
    assert "before-0008-to-" in copy.name
    keep(file, "Later")
    assert len(list(copies_of(file).iterdir())) == 1
    assert restore(copy, file, NOW).photos == 1
    assert names(file) == there


def test_no_migration_without_its_copy(file: Path) -> None:
    age(file)
    copies_of(file).write_text("in the way")
    with pytest.raises(UnusableFile, match="cannot be used as a data file"):
        Database(file)
    with closing(sqlite3.connect(file)) as raw:
        assert raw.execute("SELECT version_num FROM alembic_version").fetchall() == [("0008",)]


def test_a_damaged_file_names_the_last_good_copy(file: Path) -> None:
    """And is left as it is, with its -wal."""
    folder = copies_of(file)
    folder.mkdir()
    back_up(file, folder / "1.zip")
    crash_with(file, "In the wal")
    # Another file unpacked over one whose -wal is still there.
    database = Database(file.with_name("other.sqlite3"))
    with database.writing() as session:
        for n in range(200):
            add_dough(session, Card(f"Dough {n}", "drop", "creamed", LINES), 0)
        session.execute(text("SELECT 1"))
    database.close()
    shutil.copy(file.with_name("other.sqlite3"), file)
    break_page(file)
    (folder / "2.zip").write_bytes(b"not a zip file")
    before = {one: one.read_bytes() for one in all_of(file)[:2]}
    with pytest.raises(DamagedFile, match="damaged"):
        Database(file)
    ran = finebatch("export", "1", FINEBATCH_DATA_FILE=str(file))
    assert ran.exit_code == 1
    assert f"finebatch restore {folder / '1.zip'}" in ran.stderr
    assert {one: one.read_bytes() for one in before} == before
    assert last_good_copy(file) == folder / "1.zip"
    restore(folder / "1.zip", file, NOW)
    assert names(file) == ["Oat rounds"]
