"""Bake live: what has happened is kept as events; all else, countdowns included, follows."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Literal, get_args

from annotated_types import Interval, MaxLen
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from finebatch.core.book.firmness import Firmness
from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.told import (
    MOST_AWAY,
    MOVING,
    Told,
    ToldKind,
    cannot_be,
    dropped_in,
    work_after,
)
from finebatch.core.plan.work import Work
from finebatch.core.refusal import refuse
from finebatch.core.session.wish import MINUTE, JobText
from finebatch.core.values import FromOutside, Text
from finebatch.store.models import EventRow, ProbeRow, SessionRow
from finebatch.workflow.errors import Conflict, Missing
from finebatch.workflow.session import weighing
from finebatch.workflow.session.session_rows import touch

MOST_MORE = 60
LONGEST_WAIT_MS = 24 * 60 * MINUTE
STEP_PLACES = frozenset(str(place) for place in range(200))
LAST_JOBS: frozenset[JobKind] = frozenset({"rack", "finish", "freeze"})
"""Whatever else has to be done comes before one of these."""
CLEANING: frozenset[JobKind] = frozenset({"wash", "clear"})
"""What may still be done once a session is baked."""
ENDED = ("finished", "given_up")
SHOWN_AFTER_MS = 3 * 60 * MINUTE


@dataclass(frozen=True, slots=True)
class BakeEvent(FromOutside):
    """What the baker says. `activity` is the job or bake, the tray that was dropped, or nothing.

    Of what was weighed, `grams` is the mass and `what` the ingredient, None for a portion. Of a
    dough that was felt before it is portioned, `what` says how, and it waits `minutes` more. Of a
    job's step that is ticked `what` is its place in the job, from 0.

    `ago_ms` is how long ago it was said: a device waits with it while it has no network.
    """

    kind: ToldKind
    activity: JobText = ""
    minutes: Annotated[int, Interval(ge=1, le=MOST_AWAY)] | None = None
    grams: Annotated[float, Interval(ge=-1e6, le=1e6)] | None = None
    what: Annotated[Text, MaxLen(80)] | None = None
    ago_ms: Annotated[int, Interval(ge=0, le=LONGEST_WAIT_MS)] = 0

    @property
    def job(self) -> JobKey:
        """The job that it is of; `Refusal` where none is named."""
        return JobKey.read(self.activity)


def current(session: Session) -> SessionRow | None:
    """The session that is being baked; the latest when there are several."""
    query = select(SessionRow).where(SessionRow.state == "running").order_by(SessionRow.id.desc())
    return session.scalars(query).first()


def check_free(session: Session, but: int | None = None) -> None:
    """`Conflict` where another session is being baked than that one."""
    running = current(session)
    if running is not None and running.id != but:
        raise Conflict(f"“{running.snapshot.name}” is being baked. Finish it first.")


def just_finished(session: Session, now: int) -> SessionRow | None:
    """The latest session when it was finished in the last hours: its bakes are to be written down
    and what is left put away. Or given up: that can be taken back."""
    newest = (SessionRow.changed_at.desc(), SessionRow.id.desc())
    query = select(SessionRow).where(SessionRow.state.in_(ENDED)).order_by(*newest)
    row = session.scalars(query).first()
    if row is None or now - row.changed_at >= SHOWN_AFTER_MS:
        return None
    return None if any(event.kind == "closed" for event in row.events) else row


def is_baked(row: SessionRow) -> bool:
    """Whether its last jobs are done; washing up may be left."""
    done = done_at(row)
    return all(a.id in done for a in row.plan.activities if a.kind in LAST_JOBS)


def done_at(row: SessionRow) -> dict[JobKey, int]:
    """When each hand job was done, or left out, in UTC milliseconds."""
    said = ((event.job, event) for event in row.events if event.kind in ("done", "skip"))
    return {job: event.at for job, event in said if job is not None}


def dropped(row: SessionRow) -> set[str]:
    """The trays that were dropped."""
    return dropped_in(told_of(row))


def told_of(row: SessionRow) -> tuple[Told, ...]:
    """What was said, in minutes of the session."""
    return tuple(
        Told(e.kind, minutes_at(row, e.at), e.job, e.activity or None, e.minutes or 0)
        for e in row.events
    )


def work_now(row: SessionRow) -> Work:
    """The session's work with what came up while baking: minutes more, breaks, trays dropped."""
    return work_after(row.work, told_of(row))


def done_or_seen(row: SessionRow) -> dict[JobKey, int]:
    """When each job was done, and each oven's dial turned: where nobody said that, when the first
    tray went in that waited for it. UTC milliseconds."""
    done = done_at(row)
    loads = [a for a in row.plan.activities if a.kind == "load" and a.id in done]
    seen = {}
    for heat in (a for a in row.plan.activities if a.kind == "heat"):
        went_in = [done[a.id] for a in loads if a.oven == heat.oven and a.end >= heat.end]
        if went_in:
            seen[heat.id] = min(went_in)
    return seen | done


def _check(row: SessionRow, told: BakeEvent) -> None:
    after = told.kind == "closed" or (told.kind in ("done", "skip") and told.job.step in CLEANING)
    if row.state != "running" and not (after and row.state == "finished"):
        raise Conflict("This session is not being baked. Start it on the Plan screen.")
    if told.kind == "closed":
        if row.state != "finished":
            raise Conflict("Something is still to be done: finish it, or give the session up.")
        return
    if told.kind in ("away", "slow"):
        return
    if told.kind == "weighed":
        weighing.check(row, told.job, told.what, told.grams)
        return
    if told.kind == "scaled":
        weighing.check_scaled(row, told.job, told.what)
        return
    if told.kind == "ticked":
        _check_ticked(row, told)
        return
    if told.kind == "dropped":
        _check_dropped(row, told.activity)
        return
    _check_job(row, told)


def _check_job(row: SessionRow, told: BakeEvent) -> None:
    """What is said of one step of the plan."""
    job = next((a for a in row.plan.activities if a.id == told.job), None)
    if job is None:
        raise Missing("This step of the plan")
    if told.kind == "felt" and told.what not in get_args(Firmness):
        raise refuse("what", "Say whether the dough is soft, right or hard.")
    if row.state == "finished":  # what is left is washing up, in any order
        return
    problem = cannot_be(work_now(row), row.plan, told_of(row), told.kind, job)
    if problem is not None:
        raise Conflict(problem)


def _check_ticked(row: SessionRow, told: BakeEvent) -> None:
    if all(a.id != told.job for a in row.plan.activities):
        raise Missing("This step of the plan")
    if told.what not in STEP_PLACES:
        raise refuse("what", "Name the step by its place in the job, from 0.")


def _check_dropped(row: SessionRow, tray: str) -> None:
    there = {t.name for t in work_now(row).trays}
    if tray not in there:
        raise Missing("This tray")
    if len(there) == 1:
        raise Conflict("That is the last tray. Plan the dough again to bake it again.")
    if JobKey(tray, "rack") in done_at(row):
        raise Conflict("This tray is on the rack already; its pieces are counted in the book.")


def note(row: SessionRow, told: BakeEvent, now: int, by: str | None = None) -> EventRow | None:
    """Keep what the baker did, when, and on which device; `Conflict` where it cannot be. A job done
    twice is done once: then there is nothing new.

    It was said `ago_ms` before `now`, but after all that was kept before it.
    """
    if told.kind in ("done", "skip") and told.job in done_or_seen(row):
        return None
    _check(row, told)
    event = EventRow(
        at=_said_at(row, told, now),
        kind=told.kind,
        activity=told.activity,
        minutes=told.minutes,
        grams=told.grams,
        what=told.what,
        by=by,
    )
    row.events.append(event)
    touch(row, now)
    return event


def _said_at(row: SessionRow, told: BakeEvent, now: int) -> int:
    before = row.events[-1].at if row.events else row.start_at
    return min(max(now - told.ago_ms, before), now) if told.ago_ms else now


def take_back(row: SessionRow, now: int) -> EventRow:
    """Take the last thing back that was said."""
    if not row.events:
        raise Conflict("There is nothing to take back.")
    last = row.events.pop()
    if row.state == "finished" and not is_baked(row):
        row.state = "running"
    touch(row, now)
    return last


def moves(event: EventRow) -> bool:
    """Whether the rest has to be planned again for what happened."""
    if event.kind not in MOVING:
        return False
    if event.job is not None and event.job.step == "clear":
        return False
    return event.kind != "felt" or bool(event.minutes)


def minutes_at(row: SessionRow, at: int) -> float:
    """A moment (UTC ms) in minutes after the session's start."""
    return (at - row.start_at) / MINUTE


def due_at(row: SessionRow) -> dict[JobKey, int]:
    """When each activity is to begin, in UTC milliseconds, exact for trays in the oven."""
    due = {a.id: row.start_at + a.start * MINUTE for a in row.plan.activities}
    done, work = done_at(row), work_now(row)
    for tray in work.trays:
        for n, bake in enumerate(tray.bakes):
            load = JobKey(tray.name, "load", n)
            loaded = done.get(load)
            if loaded is None:
                continue
            due[load.to("out")] = loaded + bake.length * MINUTE
            if bake.turn_after is not None:
                due[load.to("turn")] = loaded + bake.turn_after * MINUTE
    return due


SheetState = Literal["free", "filled", "oven", "cooling"]


def sheet_states(row: SessionRow) -> dict[int, tuple[SheetState, str | None]]:
    """Where each sheet is that was used so far, and the tray that is on it."""
    gone = dropped(row)
    states: dict[int, tuple[SheetState, str | None]] = {}
    on = {
        a.tray: a.sheet for a in row.plan.activities if a.kind == "portion" and a.sheet is not None
    }
    moves: Mapping[JobKind, SheetState] = {
        "portion": "filled",
        "load": "oven",
        "out": "cooling",
        "rack": "free",
    }
    for event in row.events:
        if event.kind != "done" or event.job is None:
            continue
        tray = event.job.whose
        sheet, state = on.get(tray), moves.get(event.job.step)
        if sheet is not None and state is not None:
            gone_or_free = state == "free" or tray in gone
            states[sheet] = ("free", None) if gone_or_free else (state, tray)
    return states


def baked_minutes(row: SessionRow, tray: str, number: int = 0) -> float | None:
    """Minutes that a bake of a tray really took, the first being 0; none until it was taken out."""
    done = done_at(row)
    loaded, out = done.get(JobKey(tray, "load", number)), done.get(JobKey(tray, "out", number))
    if loaded is None or out is None:
        return None
    return round((out - loaded) / MINUTE, 1)


def baked_at_c(session: Session, row: SessionRow, tray: str) -> float | None:
    """What the oven's thermometer read in the mean while a tray was in (°C); none without one."""
    done = done_at(row)
    loaded, out = done.get(JobKey(tray, "load")), done.get(JobKey(tray, "out"))
    if loaded is None or out is None:
        return None
    mean = select(func.avg(ProbeRow.celsius)).where(ProbeRow.at.between(loaded, out))
    found = session.scalar(mean)
    return None if found is None else round(found, 1)
