"""A session given out and brought in, a calendar read, and what a session needs from the shelf."""

import re
from datetime import datetime, timedelta
from typing import TYPE_CHECKING, Literal
from uuid import uuid4

from sqlalchemy.orm import Session

from finebatch.core.plan.keys import JobKey
from finebatch.core.refusal import refuse
from finebatch.core.session.in_calendar import InCalendar
from finebatch.core.session.job_steps import job_steps, oven_steps
from finebatch.core.session.wish import (
    LETTERS,
    MINUTE,
    Away,
    Item,
    ShelfPin,
    Snapshot,
    TimedPin,
    Wish,
    programmes_of,
    usual_name,
)
from finebatch.core.session.words import Scene
from finebatch.formats import run_sheet
from finebatch.formats.moments import local
from finebatch.formats.planned import file_plan
from finebatch.formats.session_file import FileAway, FileEvent, FilePin, SessionFile
from finebatch.formats.session_writing import ASKED, file_dough, file_kitchen, write_session
from finebatch.store.models import SessionRow
from finebatch.workflow.dough.doughs import find_by_name
from finebatch.workflow.errors import Missing

if TYPE_CHECKING:
    from finebatch.formats.busy_times import BusyTimes

FileForm = Literal["json", "ics", "csv", "md"]
FORTNIGHT = timedelta(days=14)


def _ms(moment: datetime) -> int:
    return round(moment.timestamp() * 1000)


def _told(row: SessionRow, snapshot: Snapshot) -> list[run_sheet.RunSheetJob]:
    plan, work = row.plan, row.work
    minutes = {m for a in plan.activities for m in (a.start, a.end)}
    at = {m: local(row.start_at + m * MINUTE) for m in minutes}
    names = {asked.letter: asked.name for asked in snapshot.items}
    programmes = programmes_of(snapshot)
    heats = [a for a in plan.activities if a.kind == "heat"]
    scene = Scene(heats=heats, steps=job_steps(work, programmes), oven=oven_steps(programmes))
    return run_sheet.tell(plan.activities, work, names, at, scene)


UNNAMED = SessionFile.model_fields["name"].default
EVENT_FIELDS = ("kind", "activity", "minutes", "grams", "what")


def give_out(row: SessionRow, form: FileForm, now: int) -> tuple[str, bytes]:
    """A session as a file: its media type and contents. Of a calendar is kept what it then has."""
    snapshot = row.snapshot
    if form == "json":
        return "application/json", write_session(_file(row, snapshot)).encode()
    if form == "ics":
        return "text/calendar", _calendar(row, now)
    told = _told(row, snapshot)
    if form == "csv":
        return "text/csv", run_sheet.write_csv(told).encode()
    return "text/markdown", run_sheet.write_markdown(snapshot.name, told).encode()


def _calendar(row: SessionRow, now: int) -> bytes:
    """A session's jobs as a calendar; what it then has of them is kept with the session. Of one
    that was given up, what was left to do is called off."""
    from finebatch.formats.session_calendar import write_calendar  # takes time to load

    told = _told(row, row.snapshot)
    if row.state == "given_up":
        told = [job for job in told if _ms(job.start) < row.changed_at]
    jobs = {job.key: (_ms(job.start), _ms(job.end)) for job in told}
    has = row.calendar or InCalendar(f"{uuid4()}")
    row.calendar = has.given_out(jobs, row.changed_at)
    return write_calendar(row.snapshot.name, told, row.calendar, local(now))


def _file(row: SessionRow, snapshot: Snapshot) -> SessionFile:
    work, wish = row.work, snapshot.wish
    wanted = dict(zip(LETTERS, wish.items, strict=False)) if wish is not None else {}
    away = [
        FileAway(start=local(a.from_at), end=local(a.to_at)) for a in (wish.away if wish else ())
    ]
    return SessionFile(
        finebatch="session",
        name=snapshot.name,
        start=None if row.ready_by is not None else local(row.start_at),
        ready_by=None if row.ready_by is None else local(row.ready_by),
        first_c=None if wish is None else wish.first_c,
        calm=wish is not None and wish.calm,
        kitchen=file_kitchen(work.kitchen, away),
        doughs=[
            file_dough(work, a.letter, a.name, a.joins, wanted.get(a.letter, ALL_OF_IT))
            for a in snapshot.items
        ],
        pins=[
            FilePin(job=f"{p.job}", start=local(p.start_at)) for p in (wish.pins if wish else ())
        ],
        plan=file_plan(work, row.plan, local(row.start_at)),
        events=[
            FileEvent.model_validate(
                {"at": local(e.at), "by": e.by, **{name: getattr(e, name) for name in EVENT_FIELDS}}
            )
            for e in row.events
        ],
    )


ALL_OF_IT = Item(1)
"""What a session of before wishes were kept was asked for, of whatever dough."""
_AGAIN = re.compile(r" \(\d{1,2}\)$")


def _by_name(session: Session, name: str) -> int:
    """The dough of that name; one that is in a session more than once is numbered there."""
    try:
        return find_by_name(session, name)
    except Missing:
        return find_by_name(session, _AGAIN.sub("", name))


def wish_of(session: Session, file: SessionFile) -> Wish:
    """What a session file asks for, its doughs found by name in the drawer.

    `Refusal` when a dough is not there; nothing is kept.
    """
    items, names = [], [dough.name for dough in file.doughs]
    for number, dough in enumerate(file.doughs):
        try:
            dough_id = _by_name(session, dough.name)
        except Missing as error:
            raise refuse(
                f"doughs.{number}.name",
                f"There is no dough “{dough.name}” here. Bring its card in first.",
            ) from error
        asked = {key: getattr(dough, key) for key in ASKED}
        bake_from = None if dough.bake_from_at is None else _ms(dough.bake_from_at)
        if dough.bake_from and file.start is not None:
            bake_from = _ms(file.start) + dough.bake_from * MINUTE
        items.append(Item(dough_id, joins=dough.joins, bake_from=bake_from, **asked))

    return Wish(
        tuple(items),
        min(file.kitchen.sheets, 12),
        min(file.kitchen.ovens[0].shelves, 4),
        None if file.start is None else _ms(file.start),
        None if file.ready_by is None else _ms(file.ready_by),
        tuple(Away(_ms(a.start), _ms(a.end)) for a in file.kitchen.workers[0].away),
        tuple(TimedPin(JobKey.read(p.job), _ms(p.start)) for p in file.pins),
        tuple(ShelfPin(t.name, t.shelf) for d in file.doughs for t in d.trays if t.shelf),
        first_c=file.first_c,
        calm=file.calm,
        name=None if file.name in (UNNAMED, usual_name(names)) else file.name,
    )


def busy_times(text: str, now: int) -> "BusyTimes":
    """The busy times of a calendar in the next fortnight."""
    from finebatch.formats.busy_times import read_apart  # takes time to load

    start = local(now)
    return read_apart(text, start, start + FORTNIGHT)
