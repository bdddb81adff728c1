"""What the book has taught: worked out once for each change of it, and asked for all the time."""

import hashlib
import threading
from collections import OrderedDict

from sqlalchemy import String, func, select, text, type_coerce
from sqlalchemy.orm import Session

from finebatch.core.book.learn import Lessons, MeasuredBake, learn
from finebatch.facts import tables
from finebatch.store.models import LAW, BakeRow
from finebatch.workflow.kitchen.equipment import get_kitchen

MOST_KEPT = 4
"""Books of which the lessons are kept: that of the data file, and a few as they just were."""

_kept: OrderedDict[str, Lessons] = OrderedDict()
_lock = threading.Lock()


def measured_bake(row: BakeRow) -> MeasuredBake:
    """A row of the book as the learning wants it; one that an earlier law reckoned teaches nothing
    until it is reckoned anew."""
    raw = row.raw
    current = row.effects.get(LAW) == tables.law_mark()
    effects = {e.key: float(row.effects.get(e.key, 0.0)) for e in tables.effects()}
    return MeasuredBake(
        dough=row.dough_id,
        row=tables.models().spread.row(effects, raw),
        raw=raw,
        plain_minutes=row.plain_minutes,
        portion_cv=row.portion_cv,
        widths_mm=() if row.cut else tuple(mm - raw.beyond_mm for mm in row.widths_mm),
        minutes=row.minutes,
        counts=row.counts if current else "out",
        by_camera=row.seen.pictured is not None,
    )


def book_rows(session: Session, dough_id: int | None = None) -> list[BakeRow]:
    """The book's entries, oldest first; of one dough when named."""
    query = select(BakeRow).order_by(BakeRow.baked_at, BakeRow.id)
    if dough_id is not None:
        query = query.where(BakeRow.dough_id == dough_id)
    return list(session.scalars(query))


def _mark(session: Session) -> str:
    """The book's fingerprint, taken anew only where something has been written since: by this
    connection or by another one."""
    session.flush()
    connection = session.connection()
    writes = connection.scalar(text("SELECT total_changes()"))
    seen = (connection.scalar(text("PRAGMA data_version")), writes)
    known: tuple[object, str] | None = connection.info.get(LAW)
    if known is None or known[0] != seen:
        known = (seen, _fingerprint(session))
        connection.info[LAW] = known
    return known[1]


def _fingerprint(session: Session) -> str:
    """What the book is, as far as anything is learnt from it: one reading of one table."""
    wanted = (
        BakeRow.id,
        BakeRow.dough_id,
        BakeRow.baked_at,
        BakeRow.counts,
        BakeRow.portion_cv,
        BakeRow.minutes,
        BakeRow.plain_minutes,
        BakeRow.widths_mm,
        BakeRow.cut,
        BakeRow.raw,
        BakeRow.effects,
    )
    row = func.json_array(*(type_coerce(column, String) for column in wanted))
    bakes = select(row.label("row")).order_by(BakeRow.baked_at, BakeRow.id).subquery()
    book = session.scalar(select(func.group_concat(bakes.c.row, "\n"))) or ""
    return hashlib.sha256(book.encode()).hexdigest()


def lessons(session: Session) -> Lessons:
    """What the whole book has taught; nothing while the baker wants nothing learnt."""
    if not get_kitchen(session).learns:
        return learn(tables.models().spread, [])
    mark = _mark(session)
    with _lock:
        known = _kept.get(mark)
        if known is not None:
            _kept.move_to_end(mark)
            return known
    found = learn(tables.models().spread, [measured_bake(row) for row in book_rows(session)])
    with _lock:
        _kept[mark] = found
        while len(_kept) > MOST_KEPT:
            _kept.popitem(last=False)
    return found
