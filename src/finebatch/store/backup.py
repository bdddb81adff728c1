"""A copy of the data file and its photos, taken while the app may be running."""

import json
import sqlite3
import tempfile
import zipfile
from contextlib import closing, suppress
from pathlib import Path

from finebatch.store.places import photos_of

CONTENTS = "contents.json"
"""In a copy: how many of each thing it holds."""
COUNTED = {"doughs": "dough", "bakes": "bake", "sessions": "session", "kept cold": "cold_item"}


def _rows(connection: sqlite3.Connection, table: str) -> int:
    """How many rows a table has; none where there is no such table yet."""
    try:
        return int(connection.execute(f"SELECT count(*) FROM {table}").fetchone()[0])
    except sqlite3.OperationalError:
        return 0


def _photos(connection: sqlite3.Connection) -> set[str]:
    """The photos that belong to a bake of the book or of the bin. Any other file there is of
    something that was not kept, or is not any more."""
    found: set[str] = set()
    with suppress(sqlite3.OperationalError):
        found |= {name for (name,) in connection.execute("SELECT photo FROM bake") if name}
        for (bundle,) in connection.execute(
            "SELECT bundle FROM bin WHERE kind IN ('bake','dough')"
        ):
            rows = json.loads(bundle)["rows"]
            found |= {cells["photo"] for table, cells in rows if table == "bake" and cells["photo"]}
    return {name for name in found if isinstance(name, str) and "/" not in name}


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
            kept = sorted(file for name in _photos(into) if (file := photos / name).is_file())
        with zipfile.ZipFile(to, "x", zipfile.ZIP_DEFLATED) as packing:
            try:
                to.chmod(0o600)
                packing.write(copy, data_file.name)
                packing.writestr(CONTENTS, json.dumps({**holds, "photos": len(kept)}))
                for photo in kept:
                    packing.write(photo, f"{photos.name}/{photo.name}")
            except OSError:
                to.unlink()
                raise
    return len(kept)
