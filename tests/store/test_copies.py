"""Copies beside the data file: one a day, the last seven and one of each of four weeks."""

import os
import time
import zipfile
from datetime import datetime, timedelta
from pathlib import Path

import pytest

from finebatch.store.copies import copies, copy_file, make_copy, make_daily, not_kept
from finebatch.store.database import Database
from finebatch.store.places import copies_of
from finebatch.store.restore import last_good_copy, restore
from tests.conftest import DataFiles
from tests.pictures import put_photo

NOW = datetime(2026, 11, 29, 9)


@pytest.fixture
def file(tmp_path: Path, data_files: DataFiles) -> Path:
    file = tmp_path / "mine.sqlite3"
    file.write_bytes(data_files.demo.read_bytes())
    return file


def test_a_copy_says_what_it_holds_and_is_nobody_elses(file: Path) -> None:
    made = make_copy(file, NOW, "asked")
    (found,) = copies(file)
    assert (found.name, found.why) == (made.name, "asked")
    assert found.holds["doughs"] == 4
    assert found.holds["photos"] == 0
    assert made.stat().st_mode & 0o077 == 0
    assert copies_of(file).stat().st_mode & 0o077 == 0
    assert datetime.fromtimestamp(found.at / 1000) == NOW


def test_one_a_day_and_none_where_nothing_changed(file: Path) -> None:
    now = datetime.now()
    assert make_daily(file, now) is not None
    assert make_daily(file, now + timedelta(hours=5)) is None
    assert make_daily(file, now + timedelta(hours=30)) is None
    later = time.time() + 60
    os.utime(file, (later, later))
    assert make_daily(file, now + timedelta(hours=30)) is None, "nothing in it has changed"
    put_photo(file, "1-aa.jpg")
    os.utime(file, (later + 60, later + 60))
    assert make_daily(file, now + timedelta(hours=30)) is not None
    assert [copy.why for copy in copies(file)] == ["daily", "daily"]


def test_a_copy_of_every_day_of_a_year_leaves_eleven() -> None:
    kept: list[str] = []
    for day in range(365):
        kept.append(f"{NOW + timedelta(days=day):%Y%m%d-%H%M%S}-daily.zip")
        kept = [name for name in kept if name not in not_kept(kept)]
    ages = [
        (NOW + timedelta(days=364) - datetime.strptime(name[:8], "%Y%m%d")).days for name in kept
    ]
    assert len(kept) == 11
    assert sorted(ages)[:7] == list(range(7))
    assert 28 <= max(ages) <= 42


def test_it_is_a_backup_like_any_other(file: Path, tmp_path: Path) -> None:
    Database(file).close()
    made = make_copy(file, NOW, "asked")
    assert last_good_copy(file) == made
    file.unlink()
    restore(made, file, NOW)
    with Database(file).reading() as session:
        assert session.connection().exec_driver_sql("SELECT count(*) FROM dough").scalar() == 4


@pytest.mark.parametrize("name", ["../mine.sqlite3", "x.zip", "20261129-090000-asked.zip", ""])
def test_nothing_else_is_given_out(file: Path, name: str) -> None:
    (file.parent / "x.zip").write_bytes(b"")
    assert copy_file(file, name) is None


def test_what_is_no_copy_is_not_listed(file: Path) -> None:
    make_copy(file, NOW, "daily")
    folder = copies_of(file)
    (folder / "notes.zip").write_bytes(b"")
    (folder / "20261129-100000-asked.zip").write_bytes(b"no zip")
    with zipfile.ZipFile(folder / "20261129-110000-asked.zip", "w") as packing:
        packing.writestr("contents.json", '["odd"]')
    assert [copy.holds for copy in copies(file)][:2] == [{}, {}]
    assert len(copies(file)) == 3


def test_one_that_was_broken_off_is_no_copy_and_in_nobodys_way(file: Path) -> None:
    make_copy(file, NOW, "asked")
    left = copies_of(file) / "20261128-090000-daily.part"
    left.write_bytes(b"PK half of it")
    os.utime(left, (0, 0))
    assert len(copies(file)) == 1
    make_copy(file, NOW + timedelta(seconds=1), "asked")
    assert len(copies(file)) == 2
    assert not left.exists()
    with pytest.raises(FileExistsError):
        make_copy(file, NOW, "asked")
