"""The soonest plan and the calmer one of a session, each beside the other."""

from dataclasses import dataclass, replace
from datetime import datetime, time, timedelta

from finebatch.core.plan.latest import latest_start, till_ready
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.shift import shift_plan, shift_work
from finebatch.core.plan.work import Span, Work
from finebatch.core.session.wish import MINUTE, Wish
from finebatch.formats.moments import local
from finebatch.store.database import Database
from finebatch.store.models import SessionRow
from finebatch.workflow.errors import Conflict
from finebatch.workflow.session.asking import ask, base_of
from finebatch.workflow.session.session_rows import find_session

MEALS = (time(12, 30), time(18, 30))
MEAL_MIN = 25
"""So long a meal is; the oven may stay on, for somebody is in the house."""
MOST_TRIES, EARLIER_MIN = 6, 60
"""How many begins are tried for a plan that is ready by a time, and by how much earlier the next is
where none was found."""
EFFORT = 0.06
"""The solver's deterministic seconds for a calmer plan, for each second of the usual search."""


@dataclass(frozen=True, slots=True)
class Beside:
    """A session's plan, and the other one beside it: the calmer one where that is the soonest, else
    the soonest. `row` is the session as it would be with that."""

    mine: Plan
    row: SessionRow


def may_be_calm(wish: Wish) -> bool:
    """Whether a calmer plan is made of it: where nothing is pinned."""
    return not (wish.pins or wish.shelf_pins or wish.first_c is not None)


def calm_plan(work: Work, base: int, effort: float = 0) -> tuple[Work, Plan] | None:
    """The work with pauses and meals left free, and the calmest plan of it, minute 0 at `base`;
    none where no rule keeps every window around them. With a ready-by it is begun as late as it is
    ready in time; none where it is not."""
    from finebatch.core.plan.calmer import calmer_plan  # it takes time to load

    if work.ready_by is None:
        return calmer_plan(work, _meals(base, work.horizon), effort)
    return _ready_calmly(work, base, effort)


def _ready_calmly(work: Work, base: int, effort: float) -> tuple[Work, Plan] | None:
    """The calmest plan that is ready in time. Where meals lie hangs on when it is begun, so a begin
    is tried, and another one by how much too soon or too late it was ready."""
    from finebatch.core.plan.calmer import calmer_plan  # it takes time to load

    ready = work.ready_by
    assert ready is not None
    until, late = till_ready(work), latest_start(work)

    def begun(start: int, effort: float) -> _Begun | None:
        rest = replace(shift_work(until, -start), ready_by=None)
        found = calmer_plan(rest, _meals(base + start * MINUTE, ready - start), effort)
        if found is None:
            return None
        return _Begun(start, ready - start - found[1].finish, *found)

    best: _Begun | None = None
    start, tried = late.start if late is not None else 0, set[int]()
    while start >= 0 and start not in tried and len(tried) < MOST_TRIES:
        tried.add(start)
        found = begun(start, 0)
        if found is not None and found.spare >= 0 and (best is None or start > best.start):
            best = found
        start += -EARLIER_MIN if found is None else found.spare
    if best is None:
        return None
    # A sooner plan that is as calm may be begun later still.
    sooner = begun(best.start, effort) if effort else None
    later = begun(best.start + sooner.spare, effort) if sooner and sooner.spare > 0 else None
    best = next((one for one in (later, sooner, best) if one is not None and one.spare >= 0), best)
    work = replace(shift_work(best.work, best.start), ready_by=ready)
    return work, shift_plan(best.plan, best.start)


@dataclass(frozen=True, slots=True)
class _Begun:
    """A calm plan begun at that minute, and by how many it is ready before it has to be."""

    start: int
    spare: int
    work: Work
    plan: Plan


def _calmer(plan: Plan, than: Plan) -> bool:
    """Whether a plan is calmer in anything that is counted."""
    from finebatch.core.plan.calmer import calm_of  # it takes time to load

    one, other = calm_of(plan), calm_of(than)
    fewer = one.heat_changes < other.heat_changes or one.dough_changes < other.dough_changes
    return fewer or one.pauses > other.pauses


def _meals(base: int, minutes: int) -> tuple[Span, ...]:
    """The meals of the days from `base` (ms) on, by the clock of this machine."""
    begin = local(base)
    days = [begin.date() + timedelta(days=n) for n in range(minutes // (24 * 60) + 2)]
    starts = (datetime.combine(day, meal).astimezone() for day in days for meal in MEALS)
    at = [int((start - begin).total_seconds() // 60) for start in starts]
    return tuple((start, start + MEAL_MIN) for start in at if 0 <= start <= minutes)


def beside(database: Database, session_id: int, seconds: float) -> Beside | None:
    """The other plan of a session that is planned; none where no plan is calmer.

    `Conflict` where none is made: with something pinned.
    """
    with database.reading() as session:
        row = find_session(session, session_id)
        wish, mine, base = row.snapshot.wish, row.plan, row.start_at
        if wish is None or row.state != "planned" or not may_be_calm(wish):
            raise Conflict("A calmer plan is made with nothing pinned.")
        if wish.ready_by is not None:
            # It may begin sooner than this one.
            base = base_of(wish, row.changed_at)
        anew = wish.calm or wish.ready_by is not None
        work = ask(session, wish, base)[1] if anew else row.work
        snapshot = row.snapshot
    if wish.calm:
        from finebatch.core.plan.solver import best_plan  # it takes time to load

        found: tuple[Work, Plan] | None = (work, best_plan(work, seconds))
    else:
        found = calm_plan(work, base, EFFORT * seconds)
    if found is None or not (wish.calm or _calmer(found[1], mine)):
        return None
    work, plan = found
    other = SessionRow(
        id=session_id,
        state="planned",
        snapshot=snapshot,
        ready_by=wish.ready_by,
        changed_at=0,
        said=None,
        start_at=base + plan.begin * MINUTE,
        work=shift_work(work, -plan.begin),
        plan=shift_plan(plan, -plan.begin),
    )
    return Beside(mine, other)
