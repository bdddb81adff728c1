"""Bake live: what has happened is kept as events; all else, countdowns included, follows."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.plan.progress import Extra, happened_by, order_of, with_extras
from finebatch.core.plan.schedule import Plan, times_of
from finebatch.core.plan.shift import shift_work
from finebatch.core.plan.solver import replan
from finebatch.core.plan.work import HAND_JOBS, Work
from finebatch.store.models import EventRow, SessionRow
from finebatch.workflow.errors import Conflict, Missing
from finebatch.workflow.plans import (
    MINUTE,
    find_session,
    keep_work,
    plan_of,
    work_of,
    write_activities,
)

EventKind = Literal["done", "more"]
MOST_MORE = 60


@dataclass(frozen=True, slots=True)
class Deed:
    """What the baker says: a job is done, or a bake needs more minutes."""

    kind: EventKind
    activity: str
    minutes: int | None = None


def current(session: Session) -> SessionRow | None:
    """The session that is being baked; the latest when there are several."""
    query = select(SessionRow).where(SessionRow.state == "running").order_by(SessionRow.id.desc())
    return session.scalars(query).first()


def start(session: Session, session_id: int, now: int) -> SessionRow:
    """Start baking a planned session now."""
    row = find_session(session, session_id)
    running = current(session)
    if running is not None and running.id != row.id:
        raise Conflict(f"“{running.snapshot['name']}” is being baked. Finish it first.")
    if row.state == "finished":
        raise Conflict("This session is finished. Plan it again to bake it again.")
    if row.state == "planned":
        work = work_of(row)
        keep_work(row, shift_work(work, -round((now - row.start_at) / MINUTE)))
        row.state, row.start_at, row.changed_at = "running", now, now
        if work.pins or any(worker.away for worker in work.kitchen.workers):
            _plan_rest(row, now)
    return row


def done_at(row: SessionRow) -> dict[str, int]:
    """When each hand job was done, in UTC milliseconds, by activity key."""
    return {event.activity: event.at for event in row.events if event.kind == "done"}


def work_now(row: SessionRow) -> Work:
    """The session's work with the minutes that were added while baking."""
    extras = [Extra(e.activity, e.minutes or 0) for e in row.events if e.kind == "more"]
    return with_extras(work_of(row), extras)


def _check(row: SessionRow, deed: Deed) -> None:
    if row.state != "running":
        raise Conflict("This session is not being baked. Start it on the Plan screen.")
    job = next((a for a in row.activities if a.key == deed.activity), None)
    if job is None:
        raise Missing("This step of the plan")
    done = done_at(row)
    if deed.kind == "more":
        load, out = (deed.activity.replace("bake", word) for word in ("load", "out"))
        if job.kind != "bake" or load not in done or out in done:
            raise Conflict("More minutes are for a tray that is in the oven now.")
        return
    if job.kind not in HAND_JOBS:
        raise Conflict("This step needs no hands; it ends by itself.")
    missing = [key for key in order_of(work_of(row), deed.activity) if key not in done]
    if missing:
        raise Conflict(f"First: {missing[0].replace('.', ', ')}.")
    if job.kind == "load":
        inside = [k for k in done if ".load" in k and k.replace("load", "out") not in done]
        if len(inside) >= work_of(row).kitchen.shelves:
            tray = inside[0].split(".")[0]
            raise Conflict(f"The oven is full. Take {tray} out first.")


def record(session: Session, session_id: int, deed: Deed, now: int) -> SessionRow:
    """Keep what the baker did and plan the rest again. A job done twice is done once."""
    row = find_session(session, session_id)
    if deed.kind == "done" and deed.activity in done_at(row):
        return row
    _check(row, deed)
    row.events.append(
        EventRow(at=now, kind=deed.kind, activity=deed.activity, minutes=deed.minutes)
    )
    _plan_rest(row, now)
    return row


def undo(session: Session, session_id: int, now: int) -> SessionRow:
    """Take the last thing back that was said."""
    row = find_session(session, session_id)
    if not row.events:
        raise Conflict("There is nothing to take back.")
    if row.state == "finished":
        row.state = "running"
    row.events.pop()
    session.flush()
    _plan_rest(row, now)
    return row


def _minutes(row: SessionRow, at: int) -> float:
    return (at - row.start_at) / MINUTE


def _plan_rest(row: SessionRow, now: int) -> None:
    before, work = plan_of(row), work_now(row)
    done = {key: _minutes(row, at) for key, at in done_at(row).items()}
    clock = max(math.ceil(_minutes(row, now)), 0)
    happened = happened_by(work, before, done, clock)
    after = replan(work, happened, times_of(before.activities))
    row.said = _what_moved(before, after, set(done))
    row.bound = after.bound
    row.changed_at = now
    write_activities(row, after)
    if all(a.key in done for a in row.activities if a.kind in ("rack", "finish")):
        row.state = "finished"


def _shift(minutes: int) -> str:
    return f"{abs(minutes)} min {'later' if minutes > 0 else 'earlier'}"


def _what_moved(before: Plan, after: Plan, done: set[str]) -> str | None:
    """One line on what moved: the finish, and the first tray that goes in at another time."""
    parts = []
    if after.finish != before.finish:
        parts.append(f"Finish {_shift(after.finish - before.finish)}")
    was: Mapping[str, int] = {a.id: a.start for a in before.activities}
    moved = [
        a for a in after.activities
        if a.kind == "load" and a.id not in done and abs(a.start - was.get(a.id, a.start)) > 1
    ]  # fmt: skip
    if moved:
        first = moved[0]
        more = f" (and {len(moved) - 1} more)" if len(moved) > 1 else ""
        parts.append(f"{first.tray} goes in {_shift(first.start - was[first.id])}{more}")
    return "; ".join(parts) + "." if parts else None


def due_at(row: SessionRow) -> dict[str, int]:
    """When each activity is to begin, in UTC milliseconds, exact for trays in the oven."""
    due = {a.key: row.start_at + a.start * MINUTE for a in row.activities}
    done, work = done_at(row), work_now(row)
    for tray in work.trays:
        for n, bake in enumerate(tray.bakes):
            tail = str(n + 1) if n else ""
            loaded = done.get(f"{tray.name}.load{tail}")
            if loaded is None:
                continue
            due[f"{tray.name}.out{tail}"] = loaded + bake.length * MINUTE
            if bake.turn_after is not None:
                due[f"{tray.name}.turn{tail}"] = loaded + bake.turn_after * MINUTE
    return due


def baked_minutes(row: SessionRow, tray: str) -> float | None:
    """Minutes that a tray's first bake really took; none until it was taken out."""
    done = done_at(row)
    loaded, out = done.get(f"{tray}.load"), done.get(f"{tray}.out")
    if loaded is None or out is None:
        return None
    return round((out - loaded) / MINUTE, 1)
