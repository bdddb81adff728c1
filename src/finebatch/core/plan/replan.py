"""Planning the rest again once things have happened: what is done stays, the rest moves little.

First the rest is only slid: the same hands, shelves and order, each job no sooner than planned and
no later than it must. That is what a baker would do without any planner, so what is planned anew
begins there and is taken only where it brings something.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from ortools.sat.python import cp_model

from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.model import Model
from finebatch.core.plan.placed import JobTime, Plan, Times
from finebatch.core.plan.schedule import finish_of, place, times_of
from finebatch.core.plan.slide import slide
from finebatch.core.plan.solver import LAST_EFFORT, LATE_COST, SOLVED, minutes_in, solver_for
from finebatch.core.plan.told import (
    Told,
    cannot_be,
    dropped_in,
    happened_after,
    whose_jobs,
    work_after,
)
from finebatch.core.plan.work import Happened, Work
from finebatch.core.refusal import refuse

FINISH_COST = 50
WAIT_COST = 2
SLIDE_EFFORT, REPLAN_EFFORT = 0.03, 0.03
"""The solver's deterministic seconds: to slide, and to look for something better."""


@dataclass(frozen=True, slots=True)
class _Rest:
    """The rest of a session, placed: minutes over its windows, its finish and its times."""

    late: int
    finish: int
    times: Times


def replan(work: Work, happened: Happened, before: Times, effort: float = REPLAN_EFFORT) -> Plan:
    """Plan the rest again. What breaks windows least comes first, then what finishes soonest, then
    what leaves most as it was: `before` is only left for less lateness or an earlier finish.

    Raises `Refusal` where no rest was found at all.
    """
    slid = _slid(work, happened, before)
    if slid is None:
        found = _anyhow(work, happened, before, effort)
    else:
        found = _anew(work, happened, before, slid, effort) or slid
    # Nothing is proven of a rest; nobody can be done before now.
    return place(work, found.times, min(happened.now, found.finish))


def rest_after(work: Work, plan: Plan, told: Sequence[Told]) -> tuple[Work, Plan]:
    """The rest of a plan once all that was said, and the work as it is then.

    Raises `Refusal` with what cannot be, by its place in `told`, or where no rest was found.
    """
    now = work_after(work, told)
    for number, one in enumerate(told):
        problem = _cannot_be(work, plan, told[:number], one, now)
        if problem is not None:
            raise refuse(f"events.{number}.activity", problem)
    happened = happened_after(now, plan, told)
    return now, replan(now, happened, times_of(plan.activities))


def _cannot_be(work: Work, plan: Plan, before: Sequence[Told], one: Told, now: Work) -> str | None:
    """Why that cannot have been said after what was `before`. Of a tray that was dropped since, and
    of a dough of which none is left, the plan tells no more."""
    if one.kind in ("away", "slow"):
        return None
    if one.kind == "dropped":
        there = {tray.name for tray in work.trays} - dropped_in(before)
        return None if one.tray in there else "There is no such tray in this session."
    if one.job is not None and one.job.whose in whose_jobs(work) - whose_jobs(now):
        return None
    job = next((a for a in plan.activities if a.id == one.job), None)
    if job is None:
        return "There is no such job in this plan."
    return cannot_be(work_after(work, before), plan, before, one.kind, job)


def _read(work: Work, model: Model, solver: cp_model.CpSolver) -> _Rest:
    times = model.times(solver.value, solver.boolean_value)
    return _Rest(sum(solver.value(over) for over in model.late), finish_of(work, times.jobs), times)


def _open(model: Model, before: Times) -> dict[JobKey, JobTime]:
    """The jobs that are still to do and were planned, with the times that they had."""
    return {
        key: before.jobs[key]
        for key in model.starts
        if key in before.jobs and key not in model.taken
    }


def _cost(model: Model, before: Times) -> cp_model.LinearExpr:
    moved = []
    for key, old in _open(model, before).items():
        shift = model.model.new_int_var(0, model.horizon, f"shift.{key}")
        model.model.add_abs_equality(shift, model.starts[key] - old.start)
        moved.append(shift)
    return (
        LATE_COST * minutes_in(model.late)
        + FINISH_COST * model.finish
        + WAIT_COST * minutes_in(model.waits)
        + minutes_in(moved)
    )


def _slid(work: Work, happened: Happened, before: Times) -> _Rest | None:
    """The rest slid, once the model says that it may be so; none where it may not."""
    times = slide(work, happened, before)
    if times is None:
        return None
    model = Model(work, happened)
    model.hint(times)
    for key in _open(model, times):
        model.model.add(model.starts[key] == times.jobs[key].start)
        model.model.add(model.ends[key] == times.jobs[key].end)
    model.model.minimize(LATE_COST * minutes_in(model.late) + model.finish)
    solver = solver_for(SLIDE_EFFORT, "finish")
    return _read(work, model, solver) if solver.solve(model.model) in SOLVED else None


def _anew(
    work: Work, happened: Happened, before: Times, slid: _Rest, effort: float
) -> _Rest | None:
    """Something better than sliding; none where nothing better was found."""
    model = Model(work, happened)
    model.hint(slid.times)
    model.model.add(model.finish <= slid.finish)
    if model.late:
        model.model.add(minutes_in(model.late) <= slid.late)
    model.model.minimize(_cost(model, before))
    solver = solver_for(effort, "sum")
    if solver.solve(model.model) not in SOLVED:
        return None
    found = _read(work, model, solver)
    return found if (found.late, found.finish) < (slid.late, slid.finish) else None


def _anyhow(work: Work, happened: Happened, before: Times, effort: float) -> _Rest:
    """Any rest first, which is soon found, then a better one from there."""
    model = Model(work, happened)
    model.hint(before)
    solver = solver_for(LAST_EFFORT, "finish")
    if solver.solve(model.model) not in SOLVED:
        raise refuse("activity", "The rest could not be planned anew. Take the last step back.")
    found = _read(work, model, solver)
    model.model.clear_hints()  # type: ignore[no-untyped-call]
    model.hint(found.times)
    model.model.minimize(_cost(model, before))
    solver = solver_for(effort, "sum")
    return _read(work, model, solver) if solver.solve(model.model) in SOLVED else found
