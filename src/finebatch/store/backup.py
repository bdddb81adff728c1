"""A copy of the data file and its photos, taken while the app may be running."""

import json
import sqlite3
import tempfile
import zipfile
from collections.abc import Iterator, Mapping
from contextlib import closing, contextmanager, suppress
from pathlib import Path
from typing import Any

from finebatch.store.places import photos_of, private

CONTENTS = "contents.json"
"""In a copy: how many of each thing it holds."""
COUNTED = {"doughs": "dough", "bakes": "bake", "sessions": "session", "kept cold": "cold_item"}


def _rows(connection: sqlite3.Connection, table: str) -> int:
    """How many rows a table has; none where there is no such table yet."""
    try:
        return int(connection.execute(f"SELECT count(*) FROM {table}").fetchone()[0])
    except sqlite3.OperationalError:
        return 0


def photos_in(bundle: Mapping[str, Any]) -> set[str]:
    """The photos of the bakes in a bundle of the bin."""
    found = (cells.get("photo") for table, cells in bundle["rows"] if table == "bake")
    return {name for name in found if name and isinstance(name, str) and "/" not in name}


def photos_named(connection: sqlite3.Connection) -> set[str]:
    """The photos that belong to a bake of the book or of the bin. Any other file there is of
    something that was not kept, or is not any more."""
    found: set[str] = set()
    with suppress(sqlite3.OperationalError):
        rows = connection.execute("SELECT photo FROM bake").fetchall()
        found = photos_in({"rows": [("bake", {"photo": photo}) for (photo,) in rows]})
        for (bundle,) in connection.execute("SELECT bundle FROM bin"):
            found |= photos_in(json.loads(bundle))
    return found


def photo_files(connection: sqlite3.Connection, folder: Path) -> list[Path]:
    """Those of them that lie in that folder."""
    return sorted(file for name in photos_named(connection) if (file := folder / name).is_file())


@contextmanager
def new_zip(to: Path) -> Iterator[zipfile.ZipFile]:
    """A new zip file, which its owner alone may read; nothing is left of one that is broken off."""
    with private(to) as opened:
        try:
            with zipfile.ZipFile(opened, "w", zipfile.ZIP_DEFLATED) as packing:
                yield packing
            opened.flush()
        except BaseException:
            to.unlink()
            raise


def back_up(data_file: Path, to: Path) -> int:
    """Write the data file and its photos to a new zip file; how many photos there were.

    In it they are called as they are beside each other. `OSError` when the data file is not there
    or `to` is, or cannot be written, `sqlite3.Error` when the data file cannot be read; then
    nothing is left of it.
    """
    if not data_file.is_file():
        raise FileNotFoundError(2, "there is no data file yet", str(data_file))
    photos = photos_of(data_file)
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / data_file.name
        with closing(sqlite3.connect(data_file)) as source, closing(sqlite3.connect(copy)) as into:
            source.backup(into)
            holds = {name: _rows(into, table) for name, table in COUNTED.items()}
            kept = photo_files(into, photos)
        with new_zip(to) as packing:
            packing.write(copy, data_file.name)
            packing.writestr(CONTENTS, json.dumps({**holds, "photos": len(kept)}))
            for photo in kept:
                packing.write(photo, f"{photos.name}/{photo.name}")
    return len(kept)
