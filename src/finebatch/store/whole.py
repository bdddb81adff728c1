"""A whole data file as lines of JSON, a row a line, and a data file of those lines again."""

import json
import sqlite3
from collections.abc import Iterable, Iterator, Mapping
from contextlib import closing
from pathlib import Path
from typing import Any

from sqlalchemy import JSON, Connection, create_engine
from sqlalchemy.orm import Session

from finebatch.store.cells import IN_ORDER, TABLES, Row, as_kept, as_was, insertion, rows_of
from finebatch.store.documents import Holds
from finebatch.store.health import MIGRATIONS

MOST_LINE = 20_000_000
NUMBERS, MOST_NUMBER = "numbers", 2**53


class NotWhole(ValueError):
    """Those lines are of no data file; the message says which and why."""


def migrated(connection: Connection, version: str = "head") -> None:
    """Bring a data file up to that version of the tables."""
    from alembic import command  # it takes time to load, and is seldom needed
    from alembic.config import Config

    migrations = Config()
    migrations.set_main_option("script_location", str(MIGRATIONS).replace("%", "%%"))
    migrations.attributes["connection"] = connection
    command.upgrade(migrations, version)


def lines_of(session: Session, table: str) -> Iterator[str]:
    """The rows of a table, each as a JSON object of its columns. A document stands in it as what
    it is; what could not be read stands there as text, or as the bytes that it is."""
    for row in rows_of(session, table):
        _, cells = as_kept(row)
        told = {name: _open(table, name, cell) for name, cell in cells.items()}
        yield json.dumps(told, ensure_ascii=True)


def numbers_of(session: Session) -> Iterator[str]:
    """The last number that each table has given to a row, as JSON: none is given again, also when
    the row that has it lies in the bin."""
    given = "SELECT name, seq FROM sqlite_sequence ORDER BY name"
    for table, last in session.connection().exec_driver_sql(given):
        yield json.dumps({"table": table, "last": last})


def tables() -> list[str]:
    """The tables of a data file, those first that others point at."""
    return IN_ORDER


def _is_json(table: str, column: str) -> bool:
    known = TABLES[table].columns.get(column) if table in TABLES else None
    return known is not None and isinstance(known.type, JSON | Holds)


def _open(table: str, column: str, cell: Any) -> Any:
    """A document in place of the text that it is kept as; `{"text": …}` for one that is none."""
    if not isinstance(cell, str) or not _is_json(table, column):
        return cell
    try:
        found = json.loads(cell)
    except ValueError:
        return {"text": cell}
    return {"json": found} if json.dumps(found) == cell else {"text": cell}


def _shut(cell: Any) -> Any:
    if isinstance(cell, dict) and "json" in cell:
        return json.dumps(cell["json"])
    return cell["text"] if isinstance(cell, dict) and "text" in cell else cell


def rebuild(file: Path, version: str, lines: Mapping[str, Iterable[str]]) -> None:
    """Make a data file of that version of the tables from their lines.

    `NotWhole` for lines that are none of it. What the rows hold is not looked at.
    """
    engine = create_engine(f"sqlite:///{file}")
    try:
        with engine.begin() as connection:
            migrated(connection, version)
    finally:
        engine.dispose()
    with closing(sqlite3.connect(file)) as raw, raw:
        for table, rows in lines.items():
            if table == NUMBERS:
                continue
            known = {name for _, name, *_ in raw.execute(f'PRAGMA table_info("{_plain(table)}")')}
            if not known:
                raise NotWhole(f"There is no table {table} in version {version}.")
            raw.execute(f'DELETE FROM "{table}"')
            for number, line in enumerate(rows, 1):
                _write(raw, _read(table, number, line), known)
        for number, line in enumerate(lines.get(NUMBERS, ()), 1):
            _count_on(raw, _read(NUMBERS, number, line))


def _count_on(raw: sqlite3.Connection, told: Row) -> None:
    """The numbers of a table's rows go on from that one."""
    table, last = told.cells.get("table"), told.cells.get("last")
    numbered = "SELECT 1 FROM sqlite_master WHERE name = ? AND sql LIKE '%AUTOINCREMENT%'"
    if not isinstance(table, str) or raw.execute(numbered, (table,)).fetchone() is None:
        raise NotWhole(f"A line of {NUMBERS} names no table that has any.")
    if not isinstance(last, int) or not 0 <= last <= MOST_NUMBER:
        raise NotWhole(f"A line of {NUMBERS} has no number that a row can have.")
    before = raw.execute("SELECT max(seq) FROM sqlite_sequence WHERE name = ?", (table,)).fetchone()
    raw.execute("DELETE FROM sqlite_sequence WHERE name = ?", (table,))
    last = max(last, before[0] or 0)
    raw.execute("INSERT INTO sqlite_sequence (name, seq) VALUES (?, ?)", (table, last))


def _plain(name: str) -> str:
    if not name.isidentifier() or name.startswith("sqlite"):
        raise NotWhole(f"There is no table {name[:40]}.")
    return name


def _read(table: str, number: int, line: str) -> Row:
    try:
        if len(line) > MOST_LINE:
            raise ValueError("it is too long")
        told = json.loads(line)
        return as_was([table, {str(name): _shut(cell) for name, cell in told.items()}])
    except (ValueError, AttributeError, TypeError, KeyError, RecursionError) as error:
        raise NotWhole(f"Line {number} of {table} cannot be read ({error}).") from error


def _write(raw: sqlite3.Connection, row: Row, known: set[str]) -> None:
    others = [name for name in row.cells if name not in known]
    if others:
        raise NotWhole(f"{row.table} has no column {others[0][:40]}.")
    try:
        raw.execute(*insertion(row))
    except (sqlite3.Error, OverflowError) as error:
        raise NotWhole(f"A row of {row.table} cannot be kept ({error}).") from error
