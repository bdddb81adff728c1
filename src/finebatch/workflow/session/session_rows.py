"""Sessions as they are kept: their work and what they were planned from, read back."""

from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.session.wish import Asked
from finebatch.store.models import SessionRow
from finebatch.workflow.errors import Missing


def asked_of(row: SessionRow, dough_id: int, tray: str | None = None) -> Asked:
    """A session's dough by its number, and where it is in it more than once, by one of its trays;
    `Missing` when it is not in it."""
    own = [item for item in row.snapshot.items if item.dough_id == dough_id]
    if not own:
        raise Missing("This dough in that session")
    return next((item for item in own if letter_of(tray) == item.letter), own[0])


def letter_of(tray: str | None) -> str | None:
    """The dough that a tray is of; None where no tray is named."""
    return tray[0] if tray else None


def planned_row(session: Session) -> SessionRow | None:
    """The plan that has not been started, if there is one."""
    query = select(SessionRow).where(SessionRow.state == "planned").order_by(SessionRow.id.desc())
    return session.scalars(query).first()


def touch(row: SessionRow, now: int) -> None:
    """A session has changed: later than ever before, whatever the clock does, so that a screen can
    tell which of two looks is the newer one."""
    row.changed_at = max(now, row.changed_at + 1)


def find_session(session: Session, session_id: int) -> SessionRow:
    """A session by id; `Missing` when there is none."""
    row = session.get(SessionRow, session_id)
    if row is None:
        raise Missing("This session")
    return row
