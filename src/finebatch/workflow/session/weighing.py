"""Weighing along: what goes into the bowl next, and portions one by one; real masses count."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from sqlalchemy.orm import Session

from finebatch.core.larder.ingredient import Larder
from finebatch.core.measures.figures import grams as in_grams
from finebatch.core.measures.figures import kilograms
from finebatch.core.piece.evenness import OFF, Portions, judge_portions
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.spread import Width
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.placed import Placed
from finebatch.core.refusal import refuse
from finebatch.core.session.bowls import bowls_of
from finebatch.core.session.wish import Asked, Snapshot
from finebatch.core.tray.question import Ground, TrayQuestion
from finebatch.facts import tables
from finebatch.store.models import EventRow, SessionRow
from finebatch.workflow.errors import Conflict, Missing
from finebatch.workflow.kitchen.larder import get_larder
from finebatch.workflow.kitchen.lessons import lessons
from finebatch.workflow.session.session_rows import find_session

LEAST_G, MOST_G = 0.05, 20_000.0
MOST_TIMES = 3.0
"""Nobody makes a dough larger than that for a slip of the hand."""
FEW = 3
"""From so many weighed portions on their mean stands for the tray's."""


@dataclass(frozen=True, slots=True)
class ToWeigh:
    """An ingredient of a dough: what the formula wants, what was weighed in, and what of it is
    still to go in (g)."""

    key: str
    name: str
    target_g: float
    weighed_g: float | None
    more_g: float


@dataclass(frozen=True, slots=True)
class Poured:
    """Too much of an ingredient went in: all else so many times as large goes with it, and makes
    about so many more pieces."""

    key: str
    name: str
    times: float
    pieces: int


@dataclass(frozen=True, slots=True)
class WeighingAlong:
    """What can be weighed for a job: ingredients to mix, or portions of a tray.

    `width` is what a piece of the mean mass comes out at, `planned` one of the target's. The dough
    is weighed `times` as large as planned; `poured` is too much of something, where all else can
    be made to go with it.
    """

    activity: JobKey
    ingredients: tuple[ToWeigh, ...] = ()
    times: float = 1.0
    poured: Poured | None = None
    portions: Portions | None = None
    wanted: int = 0
    width: Width | None = None
    planned: Width | None = None


def _job(row: SessionRow, key: JobKey) -> Placed:
    job = next((a for a in row.plan.activities if a.id == key), None)
    if job is None:
        raise Missing("This step of the plan")
    if job.kind != "portion" and not may_be_weighed(row.snapshot, job):
        raise Conflict("Nothing is weighed in this step.")
    return job


def may_be_weighed(snapshot: Snapshot, job: Placed) -> bool:
    """Whether something is weighed in a job: the ingredients where they are weighed out or mixed,
    pieces where they are portioned one by one."""
    asked = next((one for one in snapshot.items if one.letter == job.dough), None)
    if asked is None:
        return False
    if job.kind == "ready":
        ready = asked.programme.ready if asked.programme else ()
        steps = ready[job.id.round].steps if job.id.round < len(ready) else ()
        return any(step.kind == "weigh" for step in steps)
    if job.kind == "portion":
        return not asked.question.setting.piece.SAYS.unweighed
    return job.kind == "mix"


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
    if job.kind != "portion":
        return _into_the_bowl(row, job, asked, larder)
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
    return WeighingAlong(
        activity,
        portions=judged,
        wanted=tray.pieces if tray else 0,
        width=width,
        planned=planned,
    )


def _into_the_bowl(row: SessionRow, job: Placed, asked: Asked, larder: Larder) -> WeighingAlong:
    """The ingredients of a dough, or of the bowl of it that is mixed now, with what is in."""
    dough, trays = row.work.dough(asked.letter), row.work.trays_of(asked.letter)
    bowls = bowls_of(dough, trays) if job.kind == "mix" else ()
    bowl = bowls[job.id.round].number if job.id.round < len(bowls) else None
    share = next((one.share for one in bowls if one.number == bowl), 1.0)
    own = {n for n, one in enumerate(bowls) if one.number == bowl}
    events = [
        e
        for e in weighed_events(row, asked.letter)
        if bowl is None or (e.job and e.job.step == "mix" and e.job.round in own)
    ]
    into = {e.what: e.grams for e in events}
    planned = {key: g * share for key, g in asked.question.formula_g.items() if g > 0}
    times = _times(row, asked, planned, into)
    found = []
    for key, planned_g in planned.items():
        target, weighed = planned_g * times, into.get(key)
        short = target - (weighed or 0.0)
        more = short if weighed is None or short > target * OFF else 0.0
        found.append(ToWeigh(key, name_of(key, larder), target, weighed, more))
    each_g = asked.question.setting.piece.raw(asked.question.lot(larder)).grams
    return WeighingAlong(
        job.id, tuple(found), times=times, poured=_poured(found, times, each_g, larder)
    )


def name_of(key: str, larder: Larder) -> str:
    """What an ingredient is called; its key where the larder does not have it any more."""
    return larder[key].name if key in larder else key


def _times(
    row: SessionRow,
    asked: Asked,
    planned: Mapping[str, float],
    into: Mapping[str | None, float | None],
) -> float:
    """How many times as large as planned the dough is made, since too much of something went in."""
    scaled = [
        e.what
        for e in row.events
        if e.kind == "scaled" and e.job and e.job.whose == asked.letter and e.what in planned
    ]
    if not scaled or scaled[-1] is None:
        return 1.0
    return max((into.get(scaled[-1]) or 0.0) / planned[scaled[-1]], 1.0)


def _poured(found: Sequence[ToWeigh], times: float, each_g: float, larder: Larder) -> Poured | None:
    """The ingredient of which most too much went in; none where a scale would not show it, or where
    nobody would bake so much."""
    over = [(one.weighed_g / one.target_g, one) for one in found if one.weighed_g is not None]
    most, one = max(over, key=lambda pair: pair[0], default=(1.0, None))
    if one is None or not 1 + OFF < most <= MOST_TIMES / times:
        return None
    total = sum(each.target_g for each in found) / times
    pieces = math.floor(total * times * (most - 1) / each_g)
    return Poured(one.key, name_of(one.key, larder), times * most, pieces)


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


def check_scaled(row: SessionRow, activity: JobKey, what: str | None) -> None:
    """`Refusal` or `Conflict` where a dough cannot be made to go with what went in."""
    job = _job(row, activity)
    asked = _asked(row, job)
    if what not in asked.question.formula_g:
        raise refuse("what", "This is not in the dough. Choose one of its ingredients.")
    if what not in {e.what for e in weighed_events(row, asked.letter)}:
        raise Conflict("Weigh it first: the rest goes by what is in.")
