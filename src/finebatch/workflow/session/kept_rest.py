"""The rest of a dough goes into the cold store by itself, once it is shaped and wrapped."""

from sqlalchemy.orm import Session

from finebatch.store.models import ColdRow, DoughRow, EventRow, SessionRow
from finebatch.workflow.cold.cold_store import Put, put_away


def put_rest(session: Session, row: SessionRow, event: EventRow, now: int) -> None:
    """Where the event is that a rest was wrapped, put it away; the event keeps where it went."""
    job = event.job
    if event.kind != "done" or job is None or job.step != "freeze":
        return
    asked = next((one for one in row.snapshot.items if one.letter == job.whose), None)
    if asked is None or asked.kept < 1 or asked.dough_id is None:
        return
    if session.get(DoughRow, asked.dough_id) is None:
        return
    put = Put(asked.dough_id, asked.keep_as, asked.kept, asked.keep_in)
    event.what = str(put_away(session, put, now).id)


def take_rest_out(session: Session, event: EventRow) -> None:
    """Where that is taken back, what was put away for it is not there any more."""
    number = _kept_by(event)
    kept = None if number is None else session.get(ColdRow, number)
    if kept is not None:
        session.delete(kept)


def rests_put_away(row: SessionRow) -> dict[str, int]:
    """What was put away of each dough, by its letter: the number of the thing in the cold store."""
    return {
        event.job.whose: number
        for event in row.events
        if event.job and (number := _kept_by(event)) is not None
    }


def _kept_by(event: EventRow) -> int | None:
    """The number of what an event has put into the cold store."""
    if event.job is None or event.job.step != "freeze" or not event.what:
        return None
    return int(event.what) if event.what.isdecimal() else None
