"""Whether a data file is whole, and in which version of Fine Batch it was last opened."""

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

UNREADABLE = (sqlite3.DatabaseError, UnicodeDecodeError)
"""What is raised of a file that is not whole: what SQLite says of it need not be text."""
MIGRATIONS = Path(__file__).parent / "migrations"


def versions() -> list[str]:
    """The versions of the data file that are known here, newest first."""
    files = (MIGRATIONS / "versions").glob("[0-9]*.py")
    return sorted((file.name.split("_")[0] for file in files), reverse=True)


@contextmanager
def looking(file: Path) -> Iterator[sqlite3.Connection]:
    """The file for reading only: what stands in it and in its -wal is left as it is."""
    with closing(sqlite3.connect(f"{file.absolute().as_uri()}?mode=ro", uri=True)) as connection:
        yield connection


def version_of(connection: sqlite3.Connection) -> str | None:
    """The version that a data file is in; None for one that has none yet."""
    known = "SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = 'alembic_version'"
    if connection.execute(known).fetchone() is None:
        return None
    row = connection.execute("SELECT version_num FROM alembic_version").fetchone()
    return None if row is None else str(row[0])


def damage(connection: sqlite3.Connection, *, thorough: bool = False) -> str | None:
    """What is broken in a data file, in SQLite's words; None for a whole one.

    `thorough` also looks whether the indexes and what points at other rows agree: it reads all of
    the file several times.
    """
    check = "integrity_check" if thorough else "quick_check"
    try:
        found = str(connection.execute(f"PRAGMA {check}(1)").fetchone()[0])
        if found != "ok":
            return " ".join(found.removeprefix("*** in database main ***").split())
        if thorough:
            loose = connection.execute("PRAGMA foreign_key_check").fetchone()
            if loose is not None:
                return f"a row of {loose[0]} belongs to a row of {loose[2]} that is not there"
    except UNREADABLE as error:
        return str(error)
    return None
