"""What was thrown away, for a month: looked at, put back, or let go."""

import json
from dataclasses import dataclass

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from finebatch.core.care.keeping import DAY_MS
from finebatch.store import bin as store
from finebatch.store.backup import photos_in
from finebatch.store.bin import NotBack
from finebatch.store.models import BinRow, SessionRow
from finebatch.store.once import again
from finebatch.workflow.errors import Conflict, Missing
from finebatch.workflow.kitchen.larder import OWN

KEPT_MS = 30 * DAY_MS


@dataclass(frozen=True, slots=True)
class Thrown:
    """Something in the bin: what it is, when it was thrown away (UTC ms), and until when it is
    kept. `fault` says what of it could not be read, where that is why it is there."""

    id: int
    kind: str
    name: str
    at: int
    until: int
    fault: str | None


def told(row: BinRow) -> Thrown:
    """What is to be known of something in the bin."""
    return Thrown(row.id, row.kind, row.name, row.at, row.at + KEPT_MS, row.bundle["fault"])


def everything_thrown(session: Session) -> list[Thrown]:
    """All that is in the bin, the latest first."""
    return [told(row) for row in store.in_bin(session)]


def _row(session: Session, thrown_id: int) -> BinRow:
    row = session.get(BinRow, thrown_id)
    if row is None:
        raise Missing("This in the bin")
    return row


def put_back(session: Session, thrown_id: int) -> Thrown:
    """Everything of it where it was; `Conflict` where something else has its place by now."""
    row = _row(session, thrown_id)
    thrown = told(row)
    try:
        store.put_back(session, row)
    except NotBack as error:
        raise Conflict(str(error)) from error
    again(session, OWN)
    _check_sessions(session)
    return thrown


def _check_sessions(session: Session) -> None:
    """There is one plan, and one session that is being baked."""
    for state, first in (("planned", "Throw the plan that is there away"), ("running", "End it")):
        count = select(func.count()).where(SessionRow.state == state)
        if (session.scalar(count) or 0) > 1:
            raise Conflict(f"Another session is {state} by now. {first} first.")


def give_out(session: Session, thrown_id: int) -> str:
    """All of it as JSON, readable or not."""
    row = _row(session, thrown_id)
    whole = {"kind": row.kind, "name": row.name, **row.bundle}
    return json.dumps(whole, indent=1)


def let_go(session: Session, thrown_id: int) -> set[str]:
    """Throw it away for good; the names of its photos."""
    row = _row(session, thrown_id)
    session.delete(row)
    return photos_in(row.bundle)


def forget_old(session: Session, now: int) -> None:
    """Throw away for good what has been in the bin for a month."""
    for row in session.scalars(select(BinRow).where(BinRow.at < now - KEPT_MS)):
        session.delete(row)
