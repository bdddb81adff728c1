"""What would help a planned session to be ready sooner, and how long it takes by hand."""

from finebatch.core.plan.helps import Help, Idea, ideas, try_idea
from finebatch.core.plan.quick import strong_hand
from finebatch.core.session.wish import MINUTE
from finebatch.store.database import Database
from finebatch.store.models import SessionRow
from finebatch.workflow.errors import Missing
from finebatch.workflow.session.session_rows import find_session


def ideas_of(row: SessionRow) -> tuple[Idea, ...]:
    """What may be tried to have a session ready sooner."""
    return ideas(row.work)


def by_hand_at(row: SessionRow) -> int | None:
    """When a clever baker without a computer would be done (ms), begun at the same time; none where
    their rules keep not every window."""
    finish = strong_hand(row.work)
    return None if finish is None else row.start_at + finish * MINUTE


def help_of(database: Database, session_id: int, number: int, seconds: float) -> Help:
    """Plan a session again with one thing changed; `Missing` when there is no such idea."""
    with database.reading() as session:
        row = find_session(session, session_id)
        work, plan = row.work, row.plan
    found = ideas(work)
    if not 0 <= number < len(found):
        raise Missing("This idea")
    return try_idea(work, found[number], plan, seconds)
