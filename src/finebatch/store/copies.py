"""Copies of the data file that lie beside it: one a day by itself, one before the file is changed
by a newer version, and those that were asked for."""

import json
import re
import time
import zipfile
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path
from typing import Literal

from finebatch.store.backup import CONTENTS, back_up
from finebatch.store.places import copies_of
from finebatch.store.swap import STAMP

Why = Literal["daily", "before", "asked", "brought"]
DAYS, WEEKS = 7, 4
"""Of the daily copies the last so many are kept, and of those before them one for each of so many
weeks."""
AGAIN_AFTER = timedelta(hours=20)
"""A daily copy is made so long after the one before it, where anything has changed."""
_NAME = re.compile(r"(?P<at>\d{8}-\d{6})-(?P<why>daily|asked|before|brought)[\w.-]*\.zip")
BROKEN_OFF_S = 3600
"""Nobody works on a copy for so long."""


class CopyThere(FileExistsError):
    """There is a copy of that second already."""


@dataclass(frozen=True, slots=True)
class Copy:
    """A copy by its file's name: when it was made (UTC ms), why, how large it is, and how many of
    each thing it holds, where it says so."""

    name: str
    at: int
    why: Why
    size: int
    holds: dict[str, int]


def copies(data_file: Path) -> list[Copy]:
    """The copies beside a data file, newest first."""
    found = []
    for file in copies_of(data_file).glob("*.zip"):
        with suppress(OSError, ValueError):
            found.append(copy_of(file))
    return sorted(found, key=lambda copy: copy.name, reverse=True)


def copy_of(file: Path) -> Copy:
    """What the file of a copy tells. `OSError` and ``ValueError`` for what is none."""
    named = _NAME.fullmatch(file.name)
    if named is None:
        raise ValueError(f"{file.name} is no copy")
    made = datetime.strptime(named["at"], STAMP).astimezone()
    at, why = round(made.timestamp() * 1000), named["why"]
    return Copy(file.name, at, why, file.stat().st_size, _holds(file))  # type: ignore[arg-type]


def _holds(file: Path) -> dict[str, int]:
    with suppress(OSError, KeyError, ValueError, zipfile.BadZipFile):
        with zipfile.ZipFile(file) as packed:
            said = json.loads(packed.read(CONTENTS))
        if isinstance(said, dict):
            return {str(name): int(number) for name, number in said.items()}
    return {}


def copy_file(data_file: Path, name: str) -> Path | None:
    """The file of a copy; None for what is none."""
    file = copies_of(data_file) / name
    return file if _NAME.fullmatch(name) and file.is_file() else None


def make_copy(data_file: Path, now: datetime, why: Why, said: str = "") -> Path:
    """Copy the data file with its photos; where the copy lies. Errors as `back_up` has them."""
    part = begin_copy(data_file, now, why, said)
    back_up(data_file, part)
    return call_copy(part)


def begin_copy(data_file: Path, now: datetime, why: Why, said: str = "") -> Path:
    """Where a copy is written before it is whole, and called one (`call_copy`). `CopyThere` where
    there is one of that second."""
    folder = copies_of(data_file)
    folder.mkdir(mode=0o700, exist_ok=True)
    to = folder / f"{now:{STAMP}}-{why}{said}.zip"
    if to.exists():
        raise CopyThere(17, "there is a copy of that second", str(to))
    for left in folder.glob("*.part"):
        if left.stat().st_mtime < time.time() - BROKEN_OFF_S:
            left.unlink(missing_ok=True)
    return to.with_suffix(".part")


def call_copy(part: Path) -> Path:
    """What was begun is whole: from now on it is a copy."""
    return part.rename(part.with_suffix(".zip"))


def make_daily(data_file: Path, now: datetime) -> Path | None:
    """A copy where the last one is of a day ago and something has changed since; those that are not
    kept any longer are thrown away then."""
    known = copies(data_file)
    if known:
        last = copies_of(data_file) / known[0].name
        recent = now.timestamp() - known[0].at / 1000 < AGAIN_AFTER.total_seconds()
        if recent or _changed_at(data_file) <= last.stat().st_mtime:
            return None
    made = make_copy(data_file, now, "daily")
    if known and _inside(made) == _inside(last):
        # SQLite has moved pages about; what stands in them is the same.
        made.unlink()
        last.touch()
        return None
    daily = [copy.name for copy in known if copy.why == "daily"]
    before = [copy.name for copy in known if copy.why == "before"]
    for name in (*not_kept([made.name, *daily]), *before[DAYS:]):
        (copies_of(data_file) / name).unlink(missing_ok=True)
    return made


def _inside(copy: Path) -> list[tuple[str, int]] | None:
    """What is in a copy, by name and check sum; None where that cannot be told."""
    try:
        with zipfile.ZipFile(copy) as packed:
            return sorted((entry.filename, entry.CRC) for entry in packed.infolist())
    except (OSError, zipfile.BadZipFile):
        return None


def _changed_at(data_file: Path) -> float:
    beside = (data_file, data_file.with_name(data_file.name + "-wal"))
    return max(file.stat().st_mtime for file in beside if file.exists())


def not_kept(daily: Sequence[str]) -> list[str]:
    """Which of the daily copies are thrown away, by their names: all but the last seven, and the
    newest of each of the four weeks before."""
    newest_first = sorted(daily, reverse=True)
    kept, weeks = set(newest_first[:DAYS]), set[tuple[int, int]]()
    for name in newest_first[DAYS:]:
        year, week, _ = datetime.strptime(name[:8], "%Y%m%d").isocalendar()
        if (year, week) not in weeks and len(weeks) < WEEKS:
            weeks.add((year, week))
            kept.add(name)
    return [name for name in newest_first if name not in kept]
