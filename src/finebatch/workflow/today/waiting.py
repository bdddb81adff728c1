"""Sessions that are baked, and of which nobody has written down yet what came out."""

from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.care.keeping import DAY_MS
from finebatch.core.session.wish import names_of
from finebatch.store.models import SessionRow
from finebatch.workflow.session.closing import to_close

WAITS_MS = 14 * DAY_MS
"""After two weeks nobody knows any more."""
MOST_WAITING = 4


@dataclass(frozen=True, slots=True)
class ToWrite:
    """A dough of a session that is baked, by its letter, of which nothing is written down."""

    session_id: int
    dough_id: int
    letter: str
    name: str
    baked_at: int


def to_write(session: Session, now: int) -> list[ToWrite]:
    """What waits to be written down, the latest first."""
    baked = (
        select(SessionRow)
        .where(SessionRow.state == "finished", SessionRow.changed_at > now - WAITS_MS)
        .order_by(SessionRow.changed_at.desc(), SessionRow.id.desc())
        .limit(MOST_WAITING)
    )
    return [one for row in session.scalars(baked) for one in _of(session, row)]


def _of(session: Session, row: SessionRow) -> list[ToWrite]:
    left = {one.dough for one in to_close(session, row) if one.kind == "write" and not one.done}
    names, done = names_of(row.snapshot), row.start_at + round(60_000 * row.plan.finish)
    return [
        ToWrite(row.id, asked.dough_id, asked.letter, names[asked.letter], done)
        for asked in row.snapshot.items
        if asked.dough_id is not None and asked.letter in left
    ]
