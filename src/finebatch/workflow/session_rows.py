"""Sessions as they are kept: their work and what they were planned from, read back."""

from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.plan.work import Work
from finebatch.store.models import SessionRow
from finebatch.workflow.errors import Missing
from finebatch.workflow.wishes import Asked, Snapshot

_WORK = TypeAdapter(Work)
_SNAPSHOT = TypeAdapter(Snapshot)


def work_of(row: SessionRow) -> Work:
    """The work that a session was planned for."""
    return _WORK.validate_python(row.work)


def snapshot_of(row: SessionRow) -> Snapshot:
    """The doughs, portions and kitchen as they were when the session was planned."""
    return _SNAPSHOT.validate_python(row.snapshot)


def dump_snapshot(snapshot: Snapshot) -> dict[str, Any]:
    """A snapshot as it is kept."""
    kept: dict[str, Any] = _SNAPSHOT.dump_python(snapshot, mode="json")
    return kept


def asked_of(row: SessionRow, dough_id: int) -> Asked:
    """A session's dough by its number; `Missing` when it is not in it."""
    found = next((item for item in snapshot_of(row).items if item.dough_id == dough_id), None)
    if found is None:
        raise Missing("This dough in that session")
    return found


def keep_work(row: SessionRow, work: Work) -> None:
    """Put this work in place of what the session was planned for."""
    row.work = _WORK.dump_python(work, mode="json")


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
