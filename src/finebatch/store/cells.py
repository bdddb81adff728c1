"""Rows as SQLite has them, cell by cell: moved as they are, whether they can be read or not."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Column, ForeignKey, Table
from sqlalchemy.orm import Session

from finebatch.store.models import Base

Cell = int | float | str | bytes | None
Cells = Mapping[str, Cell]
TABLES: Mapping[str, Table] = Base.metadata.tables
IN_ORDER = [table.name for table in Base.metadata.sorted_tables]
"""The tables, those first that others point at."""


@dataclass(frozen=True, slots=True)
class Row:
    """One row: its table, and its cells by column."""

    table: str
    cells: Cells

    @property
    def key(self) -> Cell:
        """What it is found by."""
        return self.cells[key_of(TABLES[self.table]).name]

    @property
    def place(self) -> tuple[str, Cell]:
        """Its table and its key."""
        return self.table, self.key


def key_of(table: Table) -> "Column[Any]":
    """The one column of a table's key."""
    (column,) = table.primary_key.columns
    return column


def pointing_at(table: str) -> list[tuple[str, ForeignKey]]:
    """Which columns of which tables point at that one."""
    return [
        (name, key) for name in IN_ORDER for key in TABLES[name].foreign_keys if _to(key) == table
    ]


def parents_of(table: str) -> list[tuple[str, ForeignKey]]:
    """The tables that a table points at, and by which key."""
    return [(_to(key), key) for key in TABLES[table].foreign_keys]


def _to(key: ForeignKey) -> str:
    return str(key.column.table.name)


def rows_of(session: Session, table: str, column: str = "", value: Cell = None) -> list[Row]:
    """The rows of a table, or those with that value in a column, in the order of their keys.

    A text is read as UTF-8 whatever it is: what is none comes back as it was.
    """
    names = [each.name for each in TABLES[table].columns]
    # A text that is no UTF-8 would be refused by the driver; its bytes are not.
    cells = ", ".join(
        f'typeof("{name}"), CASE typeof("{name}") WHEN \'text\' THEN CAST("{name}" AS BLOB) '
        f'ELSE "{name}" END'
        for name in names
    )
    where = f'WHERE "{column}" = ?' if column else ""
    query = f'SELECT {cells} FROM "{table}" {where} ORDER BY "{key_of(TABLES[table]).name}"'
    found = session.connection().exec_driver_sql(query, (value,) if column else ())
    return [
        Row(table, {name: _cell(*one[2 * at : 2 * at + 2]) for at, name in enumerate(names)})
        for one in found
    ]


def _cell(kind: str, value: Any) -> Cell:
    if kind == "text":
        return bytes(value).decode("utf-8", "surrogateescape")
    return value  # type: ignore[no-any-return]


def is_there(session: Session, table: str, column: str, value: Cell) -> bool:
    """Whether a table has a row with that value in a column."""
    query = f'SELECT 1 FROM "{table}" WHERE "{column}" = ? LIMIT 1'
    return session.connection().exec_driver_sql(query, (value,)).first() is not None


def insert(session: Session, row: Row) -> None:
    """Write a row as it was; of a later version's table what it did not have is as usual there."""
    known = {name: cell for name, cell in row.cells.items() if name in TABLES[row.table].columns}
    session.connection().exec_driver_sql(*insertion(Row(row.table, known)))


def insertion(row: Row) -> tuple[str, tuple[Cell, ...]]:
    """The statement that writes a row, and what it is given. A text that is no UTF-8 can only be
    handed over as bytes."""
    names = ", ".join(f'"{name}"' for name in row.cells)
    places = ", ".join(
        "CAST(? AS TEXT)" if isinstance(cell, str) else "?" for cell in row.cells.values()
    )
    values = tuple(
        cell.encode("utf-8", "surrogateescape") if isinstance(cell, str) else cell
        for cell in row.cells.values()
    )
    return f'INSERT INTO "{row.table}" ({names}) VALUES ({places})', values


def delete(session: Session, row: Row) -> None:
    """Take a row out, with all that is nothing without it."""
    query = f'DELETE FROM "{row.table}" WHERE "{key_of(TABLES[row.table]).name}" = ?'
    session.connection().exec_driver_sql(query, (row.key,))


def as_kept(row: Row) -> list[Any]:
    """A row as a value of JSON."""
    cells = {
        name: {"bytes": cell.hex()} if isinstance(cell, bytes) else cell
        for name, cell in row.cells.items()
    }
    return [row.table, cells]


def as_was(kept: Any) -> Row:
    """A row of a value that `as_kept` has made."""
    table, cells = kept
    return Row(
        table,
        {
            name: bytes.fromhex(cell["bytes"]) if isinstance(cell, dict) else cell
            for name, cell in cells.items()
        },
    )
