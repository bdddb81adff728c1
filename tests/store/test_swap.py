"""Nothing is lost however a restore, or the file under a running app, is broken off."""

import os
import shutil
import sqlite3
import stat
import time
from contextlib import closing
from datetime import datetime, timedelta
from pathlib import Path

import pytest

from finebatch.store import swap
from finebatch.store.backup import back_up
from finebatch.store.database import Database, FileGone
from finebatch.store.places import Served, ServedElsewhere, photos_of
from finebatch.store.restore import restore
from tests.pictures import put_photo
from tests.store.test_restore import keep, names

NOW = datetime(2026, 10, 24, 15, 0)


class Killed(BaseException):
    """The process ends here: nothing after it is done, no error is handled."""


@pytest.fixture
def mine(tmp_path: Path) -> Path:
    file = tmp_path / "mine.sqlite3"
    keep(file, "Oat rounds")
    put_photo(file, "1-aa.jpg")
    return file


@pytest.mark.parametrize("after", range(6))
def test_a_restore_that_is_killed_leaves_one_of_the_two(
    mine: Path, after: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    packed = mine.with_name("kept.zip")
    back_up(mine, packed)
    keep(mine, "Later rounds")
    put_photo(mine, "2-bb.jpg")
    real, left = Path.rename, [after]

    def rename(source: Path, to: Path) -> Path:
        if not left[0]:
            raise Killed
        left[0] -= 1
        return real(source, to)

    monkeypatch.setattr(Path, "rename", rename)
    monkeypatch.setattr(shutil, "rmtree", lambda *_a, **_k: None)
    killed = False
    try:
        restore(packed, mine, NOW)
    except Killed:
        killed = True
    monkeypatch.undo()
    found = names(mine)
    pictures = sorted(photo.name for photo in photos_of(mine).iterdir())
    if killed:
        assert (found, pictures) == (["Later rounds", "Oat rounds"], ["1-aa.jpg", "2-bb.jpg"])
    else:
        assert (found, pictures) == (["Oat rounds"], ["1-aa.jpg"])
    assert not list(mine.parent.glob(".restoring-*"))
    assert not swap.is_broken_off(mine)


def test_a_file_taken_away_or_replaced_is_told_until_it_is_back(mine: Path) -> None:
    database = Database(mine)
    aside = mine.with_name("aside.sqlite3")
    mine.rename(aside)
    for away in (database.writing, database.reading):
        with pytest.raises(FileGone, match="taken away"), away():
            pass
    shutil.copy(aside, mine)
    with pytest.raises(FileGone, match="another one"), database.writing():
        pass
    aside.replace(mine)
    with database.reading():
        pass
    database.close()


def test_the_file_alone_is_whole_when_nobody_writes(mine: Path, tmp_path: Path) -> None:
    database = Database(mine)
    with database.writing() as session:
        session.connection().exec_driver_sql("UPDATE dough SET name = 'Rye rounds'")
    database.settle()
    (tmp_path / "alone").mkdir()
    alone = shutil.copy(mine, tmp_path / "alone")
    with closing(sqlite3.connect(alone)) as raw:
        assert raw.execute("SELECT name FROM dough").fetchall() == [("Rye rounds",)]
    assert database.quiet_s < 3600
    database.close()


def test_nobody_else_reads_it(mine: Path) -> None:
    mine.chmod(0o644)
    database = Database(mine)
    with database.writing() as session:
        session.connection().exec_driver_sql("UPDATE dough SET name = 'Rye rounds'")
        for file in (mine, mine.with_name(mine.name + "-wal")):
            assert stat.S_IMODE(file.stat().st_mode) == 0o600
    database.close()


def test_a_second_server_is_told_where_the_first_is(mine: Path) -> None:
    first = Served(mine, "http://127.0.0.1:8765")
    with pytest.raises(ServedElsewhere, match="8765"):
        Served(mine, "http://127.0.0.1:8766")
    first.give_up()
    Served(mine, "http://127.0.0.1:8766").give_up()


def test_what_was_moved_aside_is_thrown_away_a_month_later(mine: Path) -> None:
    packed = mine.with_name("kept.zip")
    back_up(mine, packed)
    aside = restore(packed, mine, NOW).aside
    assert aside is not None
    swap.forget_aside(mine, NOW)
    assert aside.exists()
    swap.forget_aside(mine, NOW + timedelta(days=1))
    assert not aside.exists()


def test_an_unpacked_backup_that_was_left_is_thrown_away(mine: Path) -> None:
    left = mine.parent / f"{swap.UNPACKING}abc"
    left.mkdir()
    (left / "big").write_bytes(bytes(1000))
    os.utime(left, (time.time(), time.time()))
    Database(mine).close()
    assert not left.exists()
