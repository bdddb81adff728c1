"""A photo as it lies beside a data file that names it."""

import json
import sqlite3
from contextlib import closing
from pathlib import Path

from finebatch.store.places import photos_of


def put_photo(file: Path, name: str, contents: bytes = b"a picture") -> None:
    """A photo of a bake that was thrown away, which needs no dough."""
    photos_of(file).mkdir(exist_ok=True)
    (photos_of(file) / name).write_bytes(contents)
    bundle = {"rows": [["bake", {"photo": name}]], "links": [], "fault": None}
    with closing(sqlite3.connect(file)) as raw, raw:
        raw.execute("INSERT INTO bin VALUES (NULL, 0, 'bake', 'A bake', ?)", (json.dumps(bundle),))
