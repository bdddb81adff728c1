"""Weighing along: what goes into the bowl next, and portions one by one; real masses count."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from sqlalchemy.orm import Session

from finebatch.core.measures.figures import grams as in_grams
from finebatch.core.measures.figures import kilograms
from finebatch.core.piece.evenness import Portions, judge_portions
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.spread import Width
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.placed import Placed
from finebatch.core.refusal import refuse
from finebatch.core.session.wish import Asked
from finebatch.core.tray.question import Ground, TrayQuestion
from finebatch.facts import tables
from finebatch.store.models import EventRow, SessionRow
from finebatch.workflow.errors import Conflict, Missing
from finebatch.workflow.kitchen.larder import get_larder
from finebatch.workflow.kitchen.lessons import lessons
from finebatch.workflow.session.session_rows import find_session

LEAST_G, MOST_G = 0.05, 20_000.0
FEW = 3
"""From so many weighed portions on their mean stands for the tray's."""


@dataclass(frozen=True, slots=True)
class ToWeigh:
    """An ingredient of a dough: what the formula wants, and what was weighed in (g)."""

    key: str
    name: str
    target_g: float
    weighed_g: float | None


@dataclass(frozen=True, slots=True)
class WeighingAlong:
    """What can be weighed for a job: ingredients to mix, or portions of a tray.

    `width` is what a piece of the mean mass comes out at, `planned` one of the target's.
    """

    activity: JobKey
    ingredients: tuple[ToWeigh, ...] = ()
    portions: Portions | None = None
    wanted: int = 0
    width: Width | None = None
    planned: Width | None = None


def _job(row: SessionRow, key: JobKey) -> Placed:
    job = next((a for a in row.plan.activities if a.id == key), None)
    if job is None:
        raise Missing("This step of the plan")
    if job.kind not in ("mix", "portion"):
        raise Conflict("Nothing is weighed in this step.")
    return job


def _asked(row: SessionRow, job: Placed) -> Asked:
    found = next((a for a in row.snapshot.items if a.letter == job.dough), None)
    if found is None:
        raise Missing("This dough in that session")
    return found


def weighed_events(row: SessionRow, dough: str) -> list[EventRow]:
    """What was weighed into the bowl of a dough."""
    return [
        e for e in row.events if e.kind == "weighed" and e.what and e.job and e.job.whose == dough
    ]


def portions_g(row: SessionRow, tray: str) -> list[float]:
    """What the portions of a tray weighed, in g, in the order of weighing."""
    return [
        e.grams
        for e in row.events
        if e.kind == "weighed"
        and not e.what
        and e.job == JobKey(tray, "portion")
        and e.grams is not None
    ]


def along(session: Session, session_id: int, activity: JobKey) -> WeighingAlong:
    """What can be weighed for a job, with what was weighed so far."""
    row = find_session(session, session_id)
    job = _job(row, activity)
    asked = _asked(row, job)
    larder = get_larder(session)
    if job.kind == "mix":
        into = {e.what: e.grams for e in weighed_events(row, asked.letter)}
        return WeighingAlong(
            activity,
            tuple(
                ToWeigh(key, larder[key].name if key in larder else key, grams, into.get(key))
                for key, grams in asked.question.formula_g.items()
                if grams > 0
            ),
        )
    lot = asked.question.lot(larder)
    piece = asked.question.setting.piece
    if piece.SAYS.unweighed:
        raise Conflict(piece.SAYS.unweighed)
    tray = next((t for t in row.work.trays if t.name == job.tray), None)
    judged = judge_portions(portions_g(row, job.tray or ""), piece.raw(lot).grams)
    width = planned = None
    if piece.SAYS.counted == "pieces":
        ground = Ground(larder, tables.models(), lessons(session).of_dough(asked.dough_id))
        planned = asked.question.foresee(ground).width
        if judged.mean_g is not None:
            real = with_portions(asked.question, judged.weighed_g, lot)
            width = real.foresee(ground).width
    return WeighingAlong(activity, (), judged, tray.pieces if tray else 0, width, planned)


def with_portions(question: TrayQuestion, weighed_g: Sequence[float], lot: Lot) -> TrayQuestion:
    """The same tray with pieces of the mean mass that was weighed (g)."""
    mean = sum(weighed_g) / len(weighed_g)
    piece = question.setting.piece.weighing(mean, lot)
    return replace(question, setting=replace(question.setting, piece=piece))


def check(row: SessionRow, activity: JobKey, what: str | None, grams: float | None) -> None:
    """`Refusal` or `Conflict` for what cannot have been weighed."""
    job = _job(row, activity)
    if grams is None or not LEAST_G <= grams <= MOST_G:
        raise refuse("grams", f"Weigh {in_grams(LEAST_G)} to {kilograms(MOST_G)} at once.")
    if job.kind == "portion":
        if what:
            raise refuse("what", "Portions have no ingredient of their own.")
        return
    if what not in _asked(row, job).question.formula_g:
        raise refuse("what", "This is not in the dough. Choose one of its ingredients.")
