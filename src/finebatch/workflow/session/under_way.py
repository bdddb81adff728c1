"""A session under way brought in from a file: baked on here from where it was."""

from dataclasses import replace
from datetime import datetime

from pydantic import TypeAdapter, ValidationError
from sqlalchemy.orm import Session

from finebatch.core.measures.faults import refusal_of
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.told import whose_jobs, work_after
from finebatch.core.refusal import refuse
from finebatch.core.session.wish import MINUTE, Wish
from finebatch.formats.planned import read_plan, told_in
from finebatch.formats.session_file import FileEvent, SessionFile
from finebatch.store.models import SessionRow
from finebatch.workflow.errors import Conflict, Missing
from finebatch.workflow.session.asking import ask
from finebatch.workflow.session.baking import BakeEvent, check_free, note
from finebatch.workflow.session.live import keep_rest, rest_of
from finebatch.workflow.session.plans import keep_plan

_EVENT = TypeAdapter(BakeEvent)


def go_on(session: Session, file: SessionFile, wish: Wish, now: int) -> SessionRow:
    """Bake a session on that a file says is under way: its rest is planned from what happened.

    `Conflict` where another is being baked, `Refusal` for what cannot be; then nothing is kept.
    """
    assert file.plan is not None
    check_free(session)
    base = min(activity.start for activity in file.plan.activities)
    start, work = _ms(base), file.work(base)
    there = work_after(work, told_in(file.events, base))
    snapshot, planned = ask(session, replace(wish, start_at=None, ready_by=None, pins=()), start)
    letters = [dough.letter for dough in planned.doughs]
    if [dough.letter for dough in file.doughs] != letters:
        raise refuse("doughs", f"Name the doughs {', '.join(letters)} in this order.")
    row = SessionRow(
        dough_id=wish.items[0].dough_id if len(wish.items) == 1 else None,
        state="running",
        ready_by=None if file.ready_by is None else _ms(file.ready_by),
        changed_at=now,
        said=None,
        snapshot=replace(snapshot, name=file.name),
    )
    keep_plan(row, work, read_plan(file.plan, there, base), start)
    session.add(row)
    session.flush()
    gone = whose_jobs(work) - whose_jobs(there)
    for number, event in sorted(enumerate(file.events), key=lambda one: one[1].at):
        _say(row, number, event, gone, now)
    session.flush()
    keep_rest(row, rest_of(row, now), now)
    return row


def _say(row: SessionRow, number: int, event: FileEvent, gone: set[str], now: int) -> None:
    """Keep what happened as if it were said now; of what is there no more the plan tells nothing,
    and a session that goes on is not closed."""
    of_a_job = event.kind not in ("dropped", "away", "slow", "closed")
    if event.kind == "closed" or (of_a_job and JobKey.read(event.activity).whose in gone):
        return
    field = f"events.{number}"
    if _ms(event.at) > now + MINUTE:
        raise refuse(f"{field}.at", "That is still to come: say what has happened.")
    try:
        said = _EVENT.validate_python(event.model_dump(exclude={"at", "by"}))
        note(row, said, _ms(event.at), event.by)
    except ValidationError as error:
        fault = refusal_of(error.errors()).faults[0]
        raise refuse(f"{field}.{fault.field}", fault.message) from error
    except (Conflict, Missing) as error:
        raise refuse(f"{field}.activity", f"{error}") from error


def _ms(moment: datetime) -> int:
    return round(moment.timestamp() * 1000)
