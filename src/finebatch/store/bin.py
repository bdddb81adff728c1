"""The bin: what is thrown away goes out of its tables whole, and comes back as it was."""

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from finebatch.store.cells import (
    IN_ORDER,
    TABLES,
    Cell,
    Cells,
    Row,
    as_kept,
    as_was,
    delete,
    insert,
    is_there,
    key_of,
    parents_of,
    pointing_at,
    rows_of,
)
from finebatch.store.models import BinRow

Root = tuple[str, str, Cell]
"""Rows that are thrown away: those of a table with that value in a column."""


class NotBack(ValueError):
    """Something cannot be put back as things stand; the message says why and what to do."""


def throw(
    session: Session,
    roots: Sequence[Root],
    kind: str,
    name: str,
    now: int,
    fault: str | None = None,
) -> BinRow:
    """Take rows out, with all that is nothing without them, into the bin. What pointed at one of
    them points at nothing, until it is put back."""
    session.flush()
    taken: dict[tuple[str, Cell], Row] = {}
    links: list[tuple[str, Cell, str, Cell]] = []
    waiting = [
        row for table, column, value in roots for row in rows_of(session, table, column, value)
    ]
    roots_found = list(waiting)
    while waiting:
        row = waiting.pop()
        if row.place in taken:
            continue
        taken[row.place] = row
        for table, key in pointing_at(row.table):
            there = rows_of(session, table, key.parent.name, row.key)
            if key.ondelete == "CASCADE":
                waiting += there
            else:
                links += [(table, one.key, key.parent.name, row.key) for one in there]
    for row in roots_found:
        delete(session, row)
    kept = sorted(taken.values(), key=lambda row: IN_ORDER.index(row.table))
    thrown = BinRow(
        at=now,
        kind=kind,
        name=name,
        bundle={
            "rows": [as_kept(row) for row in kept],
            "links": [list(link) for link in links if link[:2] not in taken],
            "fault": fault,
        },
    )
    session.add(thrown)
    session.flush()
    session.expire_all()
    return thrown


def empty_later(
    session: Session, kind: str, name: str, now: int, table: str, key: int, cells: Cells
) -> BinRow:
    """Remember what some cells of a row were that are emptied now; the row stays."""
    links = [[table, key, column, was] for column, was in cells.items()]
    bundle = {"rows": [], "links": links, "fault": None}
    thrown = BinRow(at=now, kind=kind, name=name, bundle=bundle)
    session.add(thrown)
    session.flush()
    return thrown


def in_bin(session: Session) -> list[BinRow]:
    """All that is in the bin, what was thrown away last first."""
    return list(session.scalars(select(BinRow).order_by(BinRow.at.desc(), BinRow.id.desc())))


def put_back(session: Session, thrown: BinRow) -> None:
    """Everything of it where it was; `NotBack` where that cannot be."""
    rows = [as_was(kept) for kept in thrown.bundle["rows"]]
    back = {row.place for row in rows}
    session.delete(thrown)
    session.flush()
    try:
        for row in rows:
            if row.table in TABLES and _has_place(session, row, back):
                insert(session, _with_links_that_are_there(session, row))
    except IntegrityError as error:
        raise NotBack(
            f"“{thrown.name}” cannot be put back: something new has its place. Take that out first."
        ) from error
    for table, key, column, was in thrown.bundle["links"]:
        _link(session, table, key, column, was)
    session.expire_all()


def _has_place(session: Session, row: Row, back: set[tuple[str, Cell]]) -> bool:
    """Whether all that a row is nothing without is there; what came with something else that is
    back and has lost another of them (flour of a pack that is gone) is left out."""
    without = [
        key
        for table, key in parents_of(row.table)
        if key.ondelete == "CASCADE"
        and not is_there(session, table, key.column.name, row.cells[key.parent.name])
    ]
    if not without:
        return True
    if any((table, row.cells[key.parent.name]) in back for table, key in parents_of(row.table)):
        return False
    raise NotBack(f"Its {without[0].column.table.name} is not there any more: put that back first.")


def _with_links_that_are_there(session: Session, row: Row) -> Row:
    lost = {
        key.parent.name: None
        for table, key in parents_of(row.table)
        if key.ondelete != "CASCADE"
        and not is_there(session, table, key.column.name, row.cells[key.parent.name])
    }
    return Row(row.table, {**row.cells, **lost})


def _link(session: Session, table: str, key: Cell, column: str, was: Cell) -> None:
    """A cell that was emptied as it was before, unless something else stands in it by now."""
    if table not in TABLES or column not in TABLES[table].columns:
        return
    for to in TABLES[table].columns[column].foreign_keys:
        if not is_there(session, to.column.table.name, to.column.name, was):
            return
    by = key_of(TABLES[table]).name
    query = (
        f'UPDATE "{table}" SET "{column}" = ? '
        f'WHERE "{by}" = ? AND ("{column}" IS NULL OR "{column}" = 0)'
    )
    session.connection().exec_driver_sql(query, (was, key))
