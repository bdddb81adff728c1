"""The plan of a session: what is asked for on the Plan screen, kept until it is started."""

from collections.abc import Callable
from dataclasses import replace

from sqlalchemy.orm import Session

from finebatch.core.plan.explain import HoldUp, critical_chain, hold_ups, mark_critical
from finebatch.core.plan.latest import latest_quick
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.shift import shift_plan, shift_work
from finebatch.core.plan.work import Work
from finebatch.core.refusal import Refusal
from finebatch.core.session.over_words import would_do
from finebatch.core.session.wish import MINUTE, Wish, names_of
from finebatch.core.session.words import line
from finebatch.formats.moments import local, time_said
from finebatch.store.bin import throw
from finebatch.store.database import Database
from finebatch.store.models import BinRow, SessionRow
from finebatch.workflow.kitchen.equipment import change_kitchen, get_kitchen
from finebatch.workflow.session.asking import (
    ask,
    base_of,
    check_times,
    kitchen_of,
    passed,
    rests_on,
)
from finebatch.workflow.session.calm import EFFORT, calm_plan, may_be_calm
from finebatch.workflow.session.session_rows import (
    find_session,
    planned_row,
)

MANY_TRAYS, LONGER = 16, 1.4
"""A session of more trays than this is searched so many times as long."""


def plan_quick(database: Database, wish: Wish, now: int) -> int:
    """Plan a session at once, as good as can be without a search; the session's id.

    Takes the place of the plan that was there. A ready-by that cannot be kept is planned as soon
    as can be; the session then ends after it, and says by how much.
    """
    check_times(wish, now)
    base = base_of(wish, now)
    with database.writing() as session:
        snapshot, work = ask(session, wish, base)
        plan = (latest_quick(work) if work.ready_by is not None else None) or quick_plan(work)
        kitchen = get_kitchen(session)
        if (kitchen.sheets, kitchen.shelves) != (wish.sheets, wish.shelves):
            change_kitchen(session, replace(kitchen, sheets=wish.sheets, shelves=wish.shelves))
        if wish.calm and may_be_calm(wish):
            work, plan = calm_plan(work, base) or (work, plan)
        kept, fallen = _without_fallen(wish, work, plan)
        snapshot = replace(snapshot, wish=kept, rests_on=rests_on(session, wish))
        row = planned_row(session) or SessionRow(state="planned")
        row.dough_id = wish.items[0].dough_id if len(wish.items) == 1 else None
        row.snapshot = snapshot
        row.ready_by, row.changed_at, row.said = wish.ready_by, now, passed(wish, now)
        if fallen:
            row.said = f"{row.said} {fallen}" if row.said else fallen
        keep_plan(row, work, plan, base)
        session.add(row)
        session.flush()
        return row.id


def throw_plan(session: Session, now: int) -> BinRow | None:
    """Throw the plan that has not been started away; None where there is none."""
    row = planned_row(session)
    if row is None:
        return None
    name = " and ".join(dict.fromkeys(item.name for item in row.snapshot.items))
    return throw(session, [("session", "id", row.id)], "session", f"The plan of {name}", now)


def _without_fallen(wish: Wish, work: Work, plan: Plan) -> tuple[Wish, str]:
    """The wish without pins of jobs and trays that are in the session no more, and which those
    were; nothing where all are there."""
    jobs = {activity.id for activity in plan.activities}
    trays = {tray.name for tray in work.trays}
    gone = [
        *(pin.job.said for pin in wish.pins if pin.job not in jobs),
        *(f"tray {pin.tray} on its shelf" for pin in wish.shelf_pins if pin.tray not in trays),
    ]
    if not gone:
        return wish, ""
    kept = replace(
        wish,
        pins=tuple(pin for pin in wish.pins if pin.job in jobs),
        shelf_pins=tuple(pin for pin in wish.shelf_pins if pin.tray in trays),
    )
    are, their = ("is", "its pin has") if len(gone) == 1 else ("are", "their pins have")
    return kept, f"{'; '.join(gone)} {are} not in this session any more: {their} fallen away."


def keep_plan(row: SessionRow, work: Work, plan: Plan, base: int) -> None:
    """Keep a plan with the session's minute 0 at its first job."""
    begin = plan.begin
    row.start_at = base + begin * MINUTE
    row.work = shift_work(work, -begin)
    row.plan = mark_critical(shift_plan(plan, -begin))


def improve(database: Database, session_id: int, seconds: float, go_on: Callable[[], bool]) -> None:
    """Search for better plans and keep each one as it comes, while `go_on` says so."""
    with database.reading() as session:
        row = find_session(session, session_id)
        work, base, wish = row.work, row.start_at, row.snapshot.wish
        asked, there = row.snapshot, row.plan
        # The search starts from minute 0 again: a later start is what it may find.
        if work.ready_by is not None and wish is not None:
            base = base_of(wish, row.changed_at)
            work = shift_work(work, (row.start_at - base) // MINUTE)
            work = replace(work, kitchen=kitchen_of(wish, get_kitchen(session), base))

    if len(work.trays) > MANY_TRAYS:
        seconds *= LONGER

    def keep(plan: Plan) -> bool:
        if not go_on():
            return False
        with database.writing() as session:
            row = session.get(SessionRow, session_id)
            if row is None or row.state != "planned" or row.snapshot != asked or not go_on():
                return False
            keep_plan(row, work, plan, base)
        return True

    # It takes time to load.
    from finebatch.core.plan.calmer import sooner_as_calm
    from finebatch.core.plan.solver import best_plan, nearest_to_pins

    if wish is not None and wish.calm and may_be_calm(wish):
        if wish.ready_by is None:
            keep(sooner_as_calm(work, there, EFFORT * seconds))
            return
        found = calm_plan(work, base, EFFORT * seconds)
        if found is not None:
            work, better = found
            keep(better)
        return
    try:
        keep(best_plan(work, seconds, keep))
    except Refusal:
        if not work.pins:
            said = would_do(work, there, names_of(asked), seconds / 4)
            note(database, session_id, said)
            return
        nearest = nearest_to_pins(work, seconds)
        if keep(nearest):
            note(database, session_id, _pins_moved(nearest, work, base))


def _pins_moved(plan: Plan, work: Work, base: int) -> str:
    """Which pinned jobs cannot be where they are pinned, and where this plan has them."""
    jobs = {a.id: a for a in plan.activities}
    moved = [
        f"{line(jobs[pin.job])} cannot begin at {_clock(base + pin.start * MINUTE)}; "
        f"{_clock(base + jobs[pin.job].start * MINUTE)} is the nearest"
        for pin in work.pins
        if pin.job in jobs and jobs[pin.job].start != pin.start
    ]
    return f"{'. '.join(moved)}. The plan shown has it so: move a pin, or take it out."


def _clock(at: int) -> str:
    """A moment by the clock of this machine."""
    return time_said(local(at))


def note(database: Database, session_id: int, words: str) -> None:
    """Keep a word on the plan that has not been started."""
    with database.writing() as session:
        row = session.get(SessionRow, session_id)
        if row is not None and row.state == "planned":
            row.said = words


def is_stale(session: Session, row: SessionRow) -> bool:
    """Whether the doughs, their trays or the kitchen would now give other work than was planned."""
    snapshot, planned = row.snapshot, row.work
    wish = snapshot.wish
    if wish is None:
        return True
    if snapshot.rests_on == rests_on(session, wish):
        return False
    kitchen = get_kitchen(session)
    if (kitchen.sheets, kitchen.shelves) != (wish.sheets, wish.shelves):
        return True
    try:
        _, work = ask(session, wish, row.start_at)
    except ValueError:
        return True
    same_kitchen = replace(work.kitchen, workers=planned.kitchen.workers)
    helpers = len(work.kitchen.workers) == len(planned.kitchen.workers)
    if wish.calm:  # what goes on the pieces is made later in it
        work, planned = _without_parts(work), _without_parts(planned)
    return (work.doughs, work.trays, same_kitchen, helpers) != (
        planned.doughs,
        planned.trays,
        planned.kitchen,
        True,
    )


def _without_parts(work: Work) -> Work:
    return replace(work, doughs=tuple(replace(dough, parts=()) for dough in work.doughs))


def explain(plan: Plan) -> tuple[HoldUp, ...]:
    """What holds the finish up."""
    return hold_ups(critical_chain(plan))
