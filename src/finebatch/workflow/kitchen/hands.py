"""How long this baker's hands take: learnt from the sessions that were baked to their end."""

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from finebatch.core.book.hands import (
    MOST_RATIO,
    Hands,
    Pace,
    between_ticks,
    learn_pace,
    portioning,
    within_job,
)
from finebatch.core.method.steps import TypedStep, step_of
from finebatch.core.piece.kinds.every import KINDS
from finebatch.core.plan.gestures import OnTray
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.network import network
from finebatch.core.session.job_steps import job_steps
from finebatch.core.session.wish import programmes_of
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.facts import formula
from finebatch.store.models import SessionRow
from finebatch.store.once import once
from finebatch.workflow.kitchen.ticks import ticks_of

LATEST_SESSIONS = 8


def finished(session: Session) -> list[SessionRow]:
    """The latest sessions that were baked to their end."""
    return once(session, "finished sessions", _read_finished)


def _read_finished(session: Session) -> list[SessionRow]:
    query = select(SessionRow).where(SessionRow.state == "finished").order_by(SessionRow.id.desc())
    rows = session.scalars(query.options(selectinload(SessionRow.events)).limit(LATEST_SESSIONS))
    return list(rows)


def hands_of(session: Session, kitchen: KitchenSetting) -> Hands:
    """The paces that the latest bakes taught; the kitchen's where the baker wants none learnt."""
    own = kitchen.planning.pace
    if not kitchen.planning.learns_hands:
        return Hands(Pace(own))
    ratios: dict[str, list[float]] = defaultdict(list)
    for row in finished(session):
        for kind, ratio in _ratios(row):
            ratios[kind].append(ratio)
    portion = learn_pace(ratios.pop("portion", ()), own)
    mix = learn_pace(ratios.pop("mix", ()))
    others = {}
    for kind, found in sorted(ratios.items()):
        pace = learn_pace(found, portion.times if kind in _PORTIONING else 1.0)
        if pace.jobs:
            others[kind] = pace
    return Hands(portion, mix, others)


_PORTIONING = frozenset(portioning(kind) for kind in KINDS)
_JOBS: Mapping[str, str] = {
    "ready": "Getting ready",
    "form": "Shaping and wrapping",
    "part": "Making icings and fillings",
    "finish": "Icing and finishing",
    "slice": "Slicing what is baked",
    "freeze": "Putting the rest away",
    **{portioning(kind): piece.SAYS.work for kind, piece in KINDS.items()},
}
"""The kinds of jobs whose minutes bakes teach, beside mixing and portioning, and what they are
called."""


@dataclass(frozen=True, slots=True)
class Learnt:
    """What bakes taught of a kind of job, and what it is called."""

    label: str
    times: float
    jobs: int


def learnt_of(hands: Hands) -> list[Learnt]:
    """What is known of a baker's hands beside mixing and portioning as such."""
    habits = formula.step_habits()
    steps = {step_of(kind): f"{habit.label}, within its job" for kind, habit in habits.items()}
    called = {**_JOBS, **steps}
    return [Learnt(called[job], pace.times, pace.jobs) for job, pace in hands.others.items()]


def _ratios(row: SessionRow) -> Iterator[tuple[str, float]]:
    """Minutes taken over the usual ones, for each long job that followed right on another, and for
    the steps of a job against each other."""
    work = row.work
    if len(work.kitchen.workers) > 1:  # whose job took how long is not told apart
        return
    usual, ticks = _usual(row), ticks_of(row)
    steps = job_steps(work, programmes_of(row.snapshot)) if ticks else {}
    before = row.start_at
    # Turning a dial takes no time of its own.
    done = (e for e in row.events if e.kind == "done" and e.job and e.job.step != "heat")
    for event in sorted(done, key=lambda e: (e.at, e.id)):
        minutes_taken, told = (event.at - before) / 60_000, usual.get(event.job, ())
        for kind, minutes in told:
            yield kind, minutes_taken / minutes
        if event.job is not None and event.job in ticks:
            # What had to wait was not begun as soon as the job before it was done.
            waited = any(minutes_taken > MOST_RATIO * minutes for _, minutes in told)
            begun = None if waited else before
            own = steps.get(event.job, ())
            taken = between_ticks(begun, ticks[event.job], event.at, len(own))
            yield from _steps_of(row, event.job, own, taken)
        before = event.at


def _steps_of(
    row: SessionRow, job: JobKey, steps: Sequence[TypedStep], taken: Mapping[int, float]
) -> Iterator[tuple[str, float]]:
    """How long the kinds of steps that were ticked in a job took against each other."""
    usual = {n: _usual_step(row, job, step) for n, step in enumerate(steps) if not step.wait_min}
    for place, times in within_job(taken, usual).items():
        yield step_of(steps[place].kind), times


def _usual_step(row: SessionRow, job: JobKey, step: TypedStep) -> float:
    """The usual minutes of a step in that job; none where nobody has said any."""
    habits = formula.step_habits()
    tray = next((tray for tray in row.work.trays if tray.name == job.whose), None)
    if tray is not None:
        of_all = sum(other.pieces for other in row.work.trays_of(tray.dough))
        return OnTray(tray.pieces, of_all, habits, {}).usual_s(step) / 60
    if step.hands_min is not None:
        return step.hands_min
    grams = next(
        (sum(a.question.formula_g.values()) for a in row.snapshot.items if a.letter == job.whose),
        0.0,
    )
    return habits[step.kind].hands_for(grams / 1000)


def _usual(row: SessionRow) -> Mapping[JobKey | None, Sequence[tuple[str, float]]]:
    """The usual minutes of each job that teaches something, without what was learnt before, by
    what it teaches."""
    reckoned, work = row.snapshot.hands, row.work
    kinds = {asked.letter: asked.question.setting.piece.kind for asked in row.snapshot.items}
    found: dict[JobKey | None, Sequence[tuple[str, float]]] = {}
    for job in network(work).jobs.values():
        if job.kind == "mix":
            found[job.id] = [("mix", job.minutes / reckoned.mix.times)]
        elif job.kind == "portion":
            kind = kinds.get(job.dough, "")
            minutes = job.minutes / reckoned.portioning(kind).times
            found[job.id] = [("portion", minutes), (portioning(kind), minutes)]
        elif job.kind in _JOBS:
            found[job.id] = [(job.kind, job.minutes / reckoned.times(job.kind))]
    return found
