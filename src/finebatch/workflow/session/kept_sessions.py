"""Sessions that are kept under a name, and planned again another day."""

from collections.abc import Callable
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.refusal import refuse
from finebatch.core.session.again import KeptSession, planned_again
from finebatch.core.session.wish import Wish
from finebatch.formats.moments import days_on, local
from finebatch.store.bin import throw
from finebatch.store.models import BinRow, KeptSessionRow
from finebatch.workflow.dough.drawer import dough_names
from finebatch.workflow.errors import Missing
from finebatch.workflow.session.session_rows import find_session

MOST_KEPT = 200
WEEK = 7


@dataclass(frozen=True, slots=True)
class SessionAgain:
    """A kept session by its number: what it is called, its doughs that are there still, and what
    is wished of it at its next time."""

    id: int
    name: str
    doughs: tuple[str, ...]
    next: Wish


def next_days(at: int, now: int) -> Callable[[int], int]:
    """What moves a moment by as many days as lie before the next time that the weekday and the
    hour of `at` come (UTC ms), at the same time by the clock of this machine."""
    began, today = local(at), local(now)
    days = (today.date() - began.date()).days
    days += (began.weekday() - today.weekday()) % WEEK

    def moved(moment: int) -> int:
        return days_on(moment, days)

    if moved(at) <= now:
        days += WEEK
    return moved


def _shown(row: KeptSessionRow, there: dict[int, str], now: int) -> SessionAgain:
    wish = planned_again(row.kept, there, next_days(row.kept.at, now))
    doughs = tuple(there[item.dough_id] for item in wish.items)
    return SessionAgain(row.id, row.kept.name, doughs, wish)


def _rows(session: Session) -> list[KeptSessionRow]:
    return list(session.scalars(select(KeptSessionRow).order_by(KeptSessionRow.id.desc())))


def kept_sessions(session: Session, now: int) -> list[SessionAgain]:
    """All that are kept, the latest first."""
    there = dough_names(session)
    return [_shown(row, there, now) for row in _rows(session)]


def keep(session: Session, session_id: int, name: str, now: int) -> SessionAgain:
    """Keep what was wished of a session under a name; one of that name is replaced. `Refusal` for
    one of which that is not known, and when there are too many."""
    name = name.strip()
    if not name:
        raise refuse("name", "Give it a name by which you find it again.")
    row = find_session(session, session_id)
    wish = row.snapshot.wish
    if wish is None:
        raise refuse("name", "It is of an earlier release. Plan it once more, then keep it.")
    kept = KeptSession(name, wish, row.start_at)
    rows = _rows(session)
    found = next((one for one in rows if one.kept.name == name), None)
    if found is None:
        if len(rows) >= MOST_KEPT:
            raise refuse("name", f"{MOST_KEPT} sessions are kept already. Take one out first.")
        found = KeptSessionRow(kept=kept)
        session.add(found)
    found.kept = kept
    session.flush()
    return _shown(found, dough_names(session), now)


def let_go(session: Session, kept_id: int, now: int) -> BinRow:
    """Keep a session no longer."""
    row = session.get(KeptSessionRow, kept_id)
    if row is None:
        raise Missing("This session")
    roots = [("kept_session", "id", kept_id)]
    return throw(session, roots, "session to plan again", row.kept.name, now)
