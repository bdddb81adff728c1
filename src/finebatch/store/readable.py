"""Rows that cannot be read: found, and put into the bin, so that no screen falls over them."""

import json
from collections.abc import Mapping
from functools import cache
from typing import Any, get_args, get_type_hints

from pydantic import ConfigDict, TypeAdapter, ValidationError
from sqlalchemy import JSON, Boolean
from sqlalchemy.orm import Session

from finebatch.core.refusal import Refusal
from finebatch.store.bin import throw
from finebatch.store.cells import IN_ORDER, TABLES, Cell, Row, key_of, rows_of
from finebatch.store.documents import Holds
from finebatch.store.models import Base

_STRICT = ConfigDict(strict=True, allow_inf_nan=False)
KINDS = {
    "dough": "dough",
    "own_ingredient": "ingredient",
    "session": "session",
    "bake": "bake",
    "cold_item": "cold",
    "stock": "pack",
    "occasion": "occasion",
    "kept_session": "session to plan again",
}
"""What the rows of a table are called; those of the others are parts of something."""


@cache
def _readers() -> Mapping[str, Mapping[str, TypeAdapter[Any]]]:
    """What each column of each table may hold, by its type; documents read themselves."""
    found: dict[str, dict[str, TypeAdapter[Any]]] = {}
    for mapper in Base.registry.mappers:
        hints = get_type_hints(mapper.class_, include_extras=True)
        columns = {column.name: column for column in mapper.columns}
        found[str(mapper.local_table.name)] = {  # type: ignore[attr-defined]
            name: TypeAdapter(get_args(hints[name])[0], config=_STRICT)
            for name, column in columns.items()
            if not isinstance(column.type, Holds)
        }
    return found


def fault_of(row: Row) -> str | None:
    """What of a row cannot be read, and why; None for one that can be."""
    columns, readers = TABLES[row.table].columns, _readers()[row.table]
    for name, cell in row.cells.items():
        column = columns[name]
        try:
            if isinstance(column.type, JSON | Holds):
                found = None if cell is None else json.loads(cell)  # type: ignore[arg-type]
            elif isinstance(column.type, Boolean) and cell in (0, 1):
                found = bool(cell)
            else:
                found = cell
            if isinstance(column.type, Holds):
                if found is not None:
                    column.type.document.read(found)
                elif not column.nullable:
                    return f"{name}: it is missing"
            else:
                readers[name].validate_python(found)
        except ValidationError as error:
            first = error.errors(include_url=False, include_input=False)[0]
            where = ".".join(str(step) for step in (name, *first["loc"]))
            return f"{where}: {first['msg']}"
        except Refusal as refusal:
            return f"{name}: {refusal.faults[0].message}"
        # What stands there instead of a document can be anything, and fail in any way.
        except Exception as error:
            return f"{name}: {error}"
    return None


def is_whole(session: Session) -> bool:
    """Whether every row can be read."""
    return all(fault_of(row) is None for table in IN_ORDER for row in rows_of(session, table))


def put_aside(session: Session, now: int) -> list[str]:
    """Put every row that cannot be read into the bin, with all that is nothing without it; the
    names of what went."""
    went = []
    for table in IN_ORDER:
        for row in rows_of(session, table):
            fault = fault_of(row)
            if fault is None:
                continue
            by = key_of(TABLES[table]).name
            name = _name_of(row)
            throw(session, [(table, by, row.key)], KINDS.get(table, "part"), name, now, fault)
            went.append(name)
    return went


def _name_of(row: Row) -> str:
    name: Cell = row.cells.get("name")
    whole = name if isinstance(name, str) else f"{row.table.replace('_', ' ')} {row.key!s}"
    return whole.encode("utf-8", "replace").decode()[:80]
