"""A session while it is baked: what happens is kept at once, then the rest is planned again.

Planning takes up to a second, and nobody waits for it: neither other screens nor whoever writes.
A server that dies in between has kept what happened, and plans again when it is started.
"""

from collections.abc import Callable, Mapping
from contextlib import suppress
from dataclasses import dataclass

from sqlalchemy import delete
from sqlalchemy.orm import Session

from finebatch.core.plan.explain import mark_critical
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.placed import Plan, Times
from finebatch.core.plan.schedule import times_of
from finebatch.core.plan.shift import shift_work
from finebatch.core.plan.told import done_in, happened_after
from finebatch.core.plan.work import Happened, Work
from finebatch.core.refusal import Refusal
from finebatch.core.session.wish import MINUTE
from finebatch.store.database import Database
from finebatch.store.models import EventRow, SessionRow
from finebatch.workflow.errors import Conflict
from finebatch.workflow.session.baking import (
    BakeEvent,
    check_free,
    current,
    is_baked,
    minutes_at,
    moves,
    note,
    take_back,
    told_of,
    work_now,
)
from finebatch.workflow.session.kept_rest import put_rest, take_rest_out
from finebatch.workflow.session.plan_before import forget_old, plan_before, put_back
from finebatch.workflow.session.session_rows import find_session, touch
from finebatch.workflow.session.taken_off import give_stock_back, take_stock

TOO_LONG_MIN = 2
MOST_TRIES = 3
Tell = Callable[[], None]
"""How the screens hear that a session has changed."""


@dataclass(frozen=True, slots=True)
class _Rest:
    """The rest planned again after `events` (their ids), and what to say of it."""

    plan: Plan
    said: str | None
    events: tuple[int, ...]


def replan(work: Work, happened: Happened, before: Times) -> Plan:
    """The rest planned again; what does it takes time to load."""
    from finebatch.core.plan import replan as planner

    return planner.replan(work, happened, before)


def _moving(row: SessionRow) -> tuple[int, ...]:
    return tuple(event.id for event in row.events if moves(event))


def rest_of(row: SessionRow, now: int) -> _Rest:
    """The rest of a session planned again; `Refusal` where it cannot be."""
    before, work, told = row.plan, work_now(row), told_of(row)
    happened = happened_after(work, before, told, minutes_at(row, now))
    after = replan(work, happened, times_of(before.activities))
    done = {key for key in done_in(told) if key.step != "heat"}
    moved, left_in = _what_moved(before, after, done), _left_in(work, after, done_in(told))
    return _Rest(after, " ".join(filter(None, (left_in, moved))) or None, _moving(row))


def keep_rest(row: SessionRow, rest: _Rest, now: int) -> None:
    """Make it the session's plan."""
    row.said, row.plan = rest.said, mark_critical(rest.plan)
    touch(row, now)
    row.planned_after = len(rest.events)
    if is_baked(row):
        row.state = "finished"


def _plan_rest(
    database: Database, session_id: int, now: int, tell: Tell, as_of: int | None = None
) -> None:
    """Plan the rest again without holding anybody up, and keep it unless more has happened.

    It is the rest `as_of` then where what was said had waited: what else waits was said by that.
    Whoever said more plans again after it, so that a plan that came too late is let go of.
    """
    for _ in range(MOST_TRIES):
        with database.reading() as session:
            rest = rest_of(find_session(session, session_id), now if as_of is None else as_of)
        with database.writing() as session:
            row = find_session(session, session_id)
            if _moving(row) == rest.events:
                keep_rest(row, rest, now)
                break
    else:
        return
    tell()


def catch_up(database: Database, now: int, tell: Tell) -> None:
    """Plan the rest of a running session again where something happened that its plan does not
    know of: the server was killed in between. A rest that cannot be planned stays as it is."""
    with database.reading() as session:
        row = current(session)
        if row is None or row.planned_after in (None, len(_moving(row))):
            return
        session_id = row.id
    with suppress(Refusal):
        _plan_rest(database, session_id, now, tell)


def start(session: Session, session_id: int, now: int, *, as_planned: bool = False) -> SessionRow:
    """Start baking a planned session now; or, `as_planned`, at the time it is planned for, where
    that is still to come."""
    row = find_session(session, session_id)
    check_free(session, but=row.id)
    if row.state in ("finished", "given_up"):
        raise Conflict("This session is finished. Plan it again to bake it again.")
    if row.state == "planned" and as_planned and row.start_at > now:
        row.state = "running"
        touch(row, now)
    elif row.state == "planned":
        work = row.work
        row.work = shift_work(work, -round((now - row.start_at) / MINUTE))
        row.state, row.start_at = "running", now
        touch(row, now)
        if work.pins or any(worker.away for worker in work.kitchen.workers):
            session.flush()
            keep_rest(row, rest_of(row, now), now)
    return row


def give_up(session: Session, session_id: int, now: int) -> SessionRow:
    """End a session before its time: nothing is learnt from it. It can be taken back."""
    row = find_session(session, session_id)
    if row.state != "running":
        raise Conflict("This session is not being baked.")
    row.state = "given_up"
    touch(row, now)
    return row


def _go_on(session: Session, row: SessionRow, now: int) -> None:
    """Take back that a session was given up."""
    check_free(session)
    row.state = "running"
    touch(row, now)


def say(
    database: Database,
    session_id: int,
    told: BakeEvent,
    now: int,
    tell: Tell,
    by: str | None = None,
) -> None:
    """Keep what the baker did, tell every screen at once, and again once the rest is planned.

    `by` is the device of the home network on which it was said, none for this machine.

    `Refusal` where the rest cannot be planned; then what was said is taken back.
    """
    with database.writing() as session:
        row = find_session(session, session_id)
        before = plan_before(row)
        event = note(row, told, now, by)
        session.flush()
        if event is not None:
            put_rest(session, row, event, now)
            take_stock(session, row, event)
            if moves(event):
                event.before = before
                forget_old(session, session_id)
    if event is None:
        return
    tell()
    if not moves(event):
        return
    try:
        _plan_rest(database, session_id, now, tell, event.at)
    except Refusal:
        with database.writing() as session:
            take_rest_out(session, event)
            give_stock_back(session, event)
            session.execute(delete(EventRow).where(EventRow.id == event.id))
        raise


def undo(database: Database, session_id: int, now: int, tell: Tell) -> None:
    """Take the last thing back that was said, or that the session was given up, and tell every
    screen. The plan is again what it was before; where that is not known, the rest is planned
    again."""
    with database.writing() as session:
        row = find_session(session, session_id)
        as_it_was = row.state == "given_up"
        if as_it_was:
            _go_on(session, row, now)
        else:
            before = row.events[-1].before if row.events else None
            if row.events:
                give_stock_back(session, row.events[-1])
            last = take_back(row, now)
            take_rest_out(session, last)
            session.flush()
            as_it_was = not moves(last) or put_back(row, before, len(_moving(row)))
    tell()
    if not as_it_was:
        _plan_rest(database, session_id, now, tell)


def _left_in(work: Work, after: Plan, done: Mapping[JobKey, float]) -> str | None:
    """A tray that would stay in the oven for too long: nobody is there to take it out."""
    outs = {a.id: a.start for a in after.activities if a.kind == "out"}
    for tray in work.trays:
        for n, bake in enumerate(tray.bakes):
            loaded = done.get(JobKey(tray.name, "load", n))
            out = outs.get(JobKey(tray.name, "out", n))
            if loaded is None or out is None or JobKey(tray.name, "out", n) in done:
                continue
            over = out - loaded - bake.length
            if over >= TOO_LONG_MIN:
                return f"{tray.name} would be in {over:.0f} min too long: take it out before."
    return None


def _shift(minutes: int) -> str:
    return f"{abs(minutes)} min {'later' if minutes > 0 else 'earlier'}"


def _what_moved(before: Plan, after: Plan, done: set[JobKey]) -> str | None:
    """One line on what moved by more than a minute: the finish, and the first tray that goes in at
    another time."""
    parts = []
    if abs(after.finish - before.finish) > 1:
        parts.append(f"Finish {_shift(after.finish - before.finish)}")
    was: Mapping[JobKey, int] = {a.id: a.start for a in before.activities}
    moved = [
        a
        for a in after.activities
        if a.kind == "load" and a.id not in done and abs(a.start - was.get(a.id, a.start)) > 1
    ]
    if moved:
        first = moved[0]
        more = f" (and {len(moved) - 1} more)" if len(moved) > 1 else ""
        parts.append(f"{first.tray} goes in {_shift(first.start - was[first.id])}{more}")
    return "; ".join(parts) + "." if parts else None
