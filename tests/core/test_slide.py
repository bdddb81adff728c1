"""A baker who is late and has no planner slides the rest: what is planned anew is never worse."""

from dataclasses import replace

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.progress import happened_by
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.replan import replan
from finebatch.core.plan.schedule import finish_of, place, times_of
from finebatch.core.plan.slide import slide
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import (
    Bake,
    DoughWork,
    Happened,
    Kitchen,
    Make,
    TrayWork,
    Work,
    Worker,
)
from tests.chance import so_many
from tests.core.test_plan import drops, two_doughs, works


def begin_late(work: Work, plan: Plan, late: int) -> Plan | None:
    """The plan slid because nothing was begun before that minute."""
    times = slide(work, Happened(now=late), times_of(plan.activities))
    return None if times is None else place(work, times, 0)


@given(works(), st.integers(1, 60))
def test_a_plan_begun_late_keeps_every_rule(work: Work, late: int) -> None:
    plan = quick_plan(work)
    slid = begin_late(work, plan, late)
    assert slid is not None
    assert find_faults(slid, work) == []
    if not any(worker.away for worker in work.kitchen.workers):
        assert slid.finish <= plan.finish + late


def test_a_bowl_that_is_full_is_waited_for_over_a_break() -> None:
    """Mixed just before a break, the first dough keeps the only bowl until it is portioned."""
    mix = (Make("Mix", 2),)
    trays = tuple(TrayWork(f"{x}1", x, 1, 1, (Bake(6),), 0, 5) for x in "BC")
    you = Worker("you", away=((40, 90),))
    # A slow oven, and portions that may not wait for it long.
    kitchen = Kitchen(1, bowls=1, raw_wait_min=20, sheet_ready_min=0, workers=(you,))
    work = Work((DoughWork("B", mix), DoughWork("C", mix)), trays, kitchen)
    slid = begin_late(work, quick_plan(work), 27)
    assert slid is not None
    assert find_faults(slid, work) == []
    begins = {str(a.id): a.start for a in slid.activities}
    assert begins["B1.portion"] >= 90 <= begins["C.mix"]


@given(works())
def test_a_plan_begun_in_time_stays_as_it_is(work: Work) -> None:
    plan = quick_plan(work)
    slid = begin_late(work, plan, 0)
    assert slid is not None
    assert {a.id: a.start for a in slid.activities} == {a.id: a.start for a in plan.activities}


@settings(max_examples=so_many(25))
@given(works(), st.integers(1, 40), st.integers(0, 100))
def test_planned_anew_is_never_later_than_slid(work: Work, late: int, which: int) -> None:
    """One job is done late; the oven is seen to by nobody meanwhile, so that it is empty."""
    hands = tuple(replace(worker, away=()) for worker in work.kitchen.workers)
    work = replace(work, kitchen=replace(work.kitchen, workers=hands))
    plan = quick_plan(work)
    jobs = sorted((a for a in plan.activities if a.hands), key=lambda a: a.start)
    job = jobs[which % len(jobs)]
    done = {a.id: float(a.end) for a in jobs if a.end <= job.start}
    inside = [a for a in jobs if a.kind == "load" and a.id in done and a.id.to("out") not in done]
    assume(not inside)
    done[job.id] = float(job.end + late)
    now = job.end + late
    # What should have been begun meanwhile and was not told is as late as its start lies back.
    late = max([late, *(now - a.start for a in jobs if a.id not in done and a.start < now)])
    happened, before = happened_by(work, plan, done, now), times_of(plan.activities)
    after = replan(work, happened, before)
    latest = plan.finish + late
    if len(work.kitchen.workers) > 1:
        # With several pairs of hands what is slid keeps each pair's own order, and may get later.
        slid = slide(work, happened, before)
        latest = max(latest, finish_of(work, slid.jobs) if slid is not None else after.finish)
    assert after.finish <= latest


def test_a_delay_moves_nothing_by_more_than_itself() -> None:
    work = replace(two_doughs(), kitchen=drops(1).kitchen)
    plan = best_plan(work, 1.0)
    first = min((a for a in plan.activities if a.hands), key=lambda a: a.start)
    happened = happened_by(work, plan, {first.id: first.end + 15.0}, first.end + 15)
    after = {a.id: a.start for a in replan(work, happened, times_of(plan.activities)).activities}
    moved = [after[a.id] - a.start for a in plan.activities if a.id != first.id]
    assert all(0 <= minutes <= 15 for minutes in moved)
