"""A backup put in the place of the data file, once it is known to be whole."""

import io
import json
import re
import shutil
import tempfile
import time
import zipfile
from collections.abc import Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path, PurePosixPath

from finebatch.store.database import Database, UnusableFile
from finebatch.store.health import UNREADABLE, damage, looking, version_of, versions
from finebatch.store.places import Claim, all_of, copies_of, photos_of
from finebatch.store.swap import BEFORE, STAMP, UNPACKING, mend, move_all

_PHOTO = re.compile(r"[0-9A-Za-z][0-9A-Za-z._-]{0,120}\.jpg")
_STRANGE = (
    "SELECT 1 FROM sqlite_master WHERE type NOT IN ('table', 'index') OR sql LIKE '%VIRTUAL%'"
)
_HEADER = b"SQLite format 3\0"


WHOLE = "tables/"
"""In a zip file of open formats: the folder of all rows."""
MOST_ENTRIES, MOST_UNPACKED = 50_000, 4 << 30
LONGEST_LOOK_S = 20.0
"""Looking through a full data file takes less than a second of a processor."""
SWELLS, SMALL = 200, 100_000
"""What is packed tighter than this, beyond a few, is nothing that anybody has written."""


class NoBackup(ValueError):
    """What cannot be put in the data file's place; the message says why and what to do."""


@dataclass(frozen=True, slots=True)
class Restored:
    """What was put in place: how many photos with it, and where what was there before lies now."""

    photos: int
    aside: Path | None


def look_into(backup: Path, data_file: Path) -> int:
    """Whether a file could be put in the data file's place: how many photos are in it. `NoBackup`
    for one that could not. Nothing of it stays."""
    with tempfile.TemporaryDirectory(dir=data_file.parent, prefix=UNPACKING) as folder:
        unpacked = Path(folder) / data_file.name
        photos = _unpack(backup, unpacked)
        check(unpacked)
    return photos


def restore(backup: Path, data_file: Path, now: datetime) -> Restored:
    """Put the data file and photos of a backup in place of those that are there.

    The backup is unpacked beside the data file, checked, and opened once, which brings one of an
    earlier version up to this one. Only then is what was there moved aside, all of it into one
    folder. Raises `NoBackup` when the backup is none or not whole, or the file is in use; then
    nothing has changed.
    """
    try:
        data_file.parent.mkdir(parents=True, exist_ok=True)
        claim = Claim(data_file, alone=True)
    except BlockingIOError as error:
        raise NoBackup(
            f"{data_file} is in use: stop the app (Ctrl+C where it runs), then restore again."
        ) from error
    except OSError as error:
        raise NoBackup(f"{data_file.parent} cannot be written to ({error.strerror}).") from error
    try:
        mend(data_file)
        with tempfile.TemporaryDirectory(dir=data_file.parent, prefix=UNPACKING) as folder:
            unpacked = Path(folder) / data_file.name
            photos = _unpack(backup, unpacked)
            check(unpacked)
            aside = _swap(unpacked, data_file, now)
    except OSError as error:
        raise NoBackup(f"{backup} was not restored ({error.strerror or error}).") from error
    finally:
        claim.give_up()
    return Restored(photos, aside)


def _unpack(backup: Path, to: Path) -> int:
    """Unpack the data file and its photos, wherever they lie in the zip file, or make it of the
    open formats in it; how many photos."""
    photos = photos_of(to)
    try:
        with zipfile.ZipFile(backup) as packed:
            inside = [entry for entry in packed.infolist() if not entry.is_dir()]
            if len(inside) > MOST_ENTRIES:
                raise NoBackup("There are too many files in this zip file for a backup.")
            rows = [entry for entry in inside if entry.filename.startswith(WHOLE)]
            found = None if rows else _data_in(packed, inside)
            pictures = _pictures(inside, f"{found.filename}.photos" if found else "photos")
            _check_room(to.parent, [*rows, *pictures, *((found,) if found else ())])
            if found is None:
                _rebuild(packed, rows, to)
            else:
                _extract(packed, found, to)
            photos.mkdir(mode=0o700)
            for entry in pictures:
                _extract(packed, entry, photos / PurePosixPath(entry.filename).name)
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, EOFError) as error:
        raise NoBackup(
            f"{backup} is no backup that can be read ({error}). Choose a zip file that "
            "finebatch backup wrote."
        ) from error
    return len(pictures)


def _data_in(packed: zipfile.ZipFile, inside: Sequence[zipfile.ZipInfo]) -> zipfile.ZipInfo:
    """The one data file in a zip file."""
    files = [entry for entry in inside if _is_data(packed, entry)]
    if len(files) != 1:
        raise NoBackup(
            f"There {'is no data file' if not files else 'are several data files'} in this zip "
            "file. Choose one that finebatch backup wrote."
        )
    return files[0]


def _pictures(inside: Sequence[zipfile.ZipInfo], folder: str) -> list[zipfile.ZipInfo]:
    """The photos in the folder of that name."""
    return [
        entry
        for entry in inside
        if PurePosixPath(entry.filename).parent == PurePosixPath(folder)
        and _PHOTO.fullmatch(PurePosixPath(entry.filename).name)
    ]


def _check_room(folder: Path, entries: Sequence[zipfile.ZipInfo]) -> None:
    """`NoBackup` for what no baker has, or what the disk has no room for."""
    swollen = any(e.file_size > SWELLS * max(e.compress_size, SMALL) for e in entries)
    if swollen or sum(entry.file_size for entry in entries) > MOST_UNPACKED:
        raise NoBackup("There is far more in this zip file than any baker keeps: it is no backup.")
    if sum(entry.file_size for entry in entries) > shutil.disk_usage(folder).free:
        raise NoBackup("The disk has no room for this backup. Make some, then try again.")


def _rebuild(packed: zipfile.ZipFile, rows: Sequence[zipfile.ZipInfo], to: Path) -> None:
    """The data file that was given out as lines of JSON."""
    from finebatch.store.whole import NotWhole, rebuild

    try:
        with packed.open(f"{WHOLE}version.json") as opened:
            version = json.loads(opened.read(1000))["version"]
    except (KeyError, ValueError, TypeError) as error:
        raise NoBackup(f"{WHOLE}version.json in this zip file says no version.") from error
    if version not in versions():
        raise NoBackup("This file was given out by a newer Fine Batch: put it back with that one.")

    def lines(entry: zipfile.ZipInfo) -> Iterator[str]:
        with packed.open(entry) as opened:
            yield from io.TextIOWrapper(opened, encoding="utf-8", errors="surrogateescape")

    tables = {
        PurePosixPath(entry.filename).stem: lines(entry)
        for entry in rows
        if entry.filename.endswith(".jsonl")
    }
    try:
        rebuild(to, version, tables)
    except NotWhole as error:
        raise NoBackup(f"The file cannot be put back: {error}") from error


def _is_data(packed: zipfile.ZipFile, entry: zipfile.ZipInfo) -> bool:
    with packed.open(entry) as opened:
        return opened.read(len(_HEADER)) == _HEADER


def _extract(packed: zipfile.ZipFile, entry: zipfile.ZipInfo, to: Path) -> None:
    with packed.open(entry) as source, to.open("xb") as into:
        shutil.copyfileobj(source, into)


def check(file: Path) -> None:
    """`NoBackup` unless that data file is whole, of a version known here, and can be opened."""
    try:
        with looking(file) as connection:
            if connection.execute(_STRANGE).fetchone() is not None:
                raise NoBackup("The database in this zip file does things by itself: it is none.")
            until = time.process_time() + LONGEST_LOOK_S
            # What returns true is broken off, and told as damaged.
            connection.set_progress_handler(lambda: time.process_time() > until, 100_000)
            broken, version = damage(connection, thorough=True), version_of(connection)
    except UNREADABLE as error:
        broken, version = str(error), None
    if broken is not None:
        raise NoBackup(f"The data file in this backup is damaged ({broken}). Choose another one.")
    if version is None:
        raise NoBackup("The database in this zip file is none of Fine Batch's.")
    if version not in versions():
        raise NoBackup("This backup was made by a newer Fine Batch: restore it with that one.")
    try:
        # SQLite puts everything into the one file when the last hand lets go of it.
        Database(file, copies=False).close()
    except UnusableFile as error:
        raise NoBackup(f"The data file in this backup cannot be opened: {error}") from error


def _swap(unpacked: Path, data_file: Path, now: datetime) -> Path | None:
    """Move what is there aside as one, and the new in its place; back again if that fails."""
    there = [old for old in all_of(data_file) if old.exists()]
    aside = data_file.with_name(f"{data_file.name}{BEFORE}{now:{STAMP}}")
    moves = [(old, aside / old.name) for old in there]
    moves += [(new, data_file.parent / new.name) for new in all_of(unpacked) if new.exists()]
    if there:
        aside.mkdir(mode=0o700)
    move_all(data_file, moves)
    return aside if there else None


def last_good_copy(data_file: Path) -> Path | None:
    """The newest copy of a data file that can be restored: of those made by themselves, and of
    the zip files beside it."""
    folders = (copies_of(data_file), data_file.parent)
    found = [file for folder in folders for file in folder.glob("*.zip")]
    for file in sorted(found, key=lambda f: f.stat().st_mtime, reverse=True):
        with suppress(NoBackup, OSError), tempfile.TemporaryDirectory() as folder:
            unpacked = Path(folder) / data_file.name
            _unpack(file, unpacked)
            check(unpacked)
            return file
    return None
