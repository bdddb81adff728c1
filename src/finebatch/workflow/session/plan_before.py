"""The plan as it stood before something happened: taking that back gives it again."""

from sqlalchemy import select, update
from sqlalchemy.orm import Session

from finebatch.core.plan.placed import PlanBefore
from finebatch.store.models import EventRow, SessionRow

MOST_KEPT = 20
"""So many things can be taken back one after the other as if they had never been."""


def plan_before(row: SessionRow) -> PlanBefore | None:
    """The plan as it stands, to be kept with the next event; none where it is not known what the
    plan knows of."""
    if row.planned_after is None:
        return None
    return PlanBefore(row.plan, row.said, row.planned_after)


def put_back(row: SessionRow, before: PlanBefore | None, events: int) -> bool:
    """Make that plan the session's again, where it knew of all the events that are left; whether
    it did."""
    if before is None or before.planned_after != events:
        return False
    row.said, row.plan, row.planned_after = before.said, before.plan, events
    return True


def forget_old(session: Session, session_id: int) -> None:
    """Let go of the plans before events that lie long back, and of those of other sessions."""
    latest = (
        select(EventRow.id)
        .where(EventRow.session_id == session_id)
        .order_by(EventRow.id.desc())
        .limit(MOST_KEPT)
    )
    old = update(EventRow).where(EventRow.before.is_not(None), EventRow.id.not_in(latest))
    session.execute(old.values(before=None), execution_options={"synchronize_session": False})
