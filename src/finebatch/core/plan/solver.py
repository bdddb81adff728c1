"""The best plan: the same work as a constraint model, solved by OR-tools' CP-SAT.

First the earliest finish is sought (or, with a ready-by, the latest start) and, when time allows,
proven; then, at that finish, the calmest plan: few changes of the oven, trays that wait as
little as may be. One search thread and a deterministic limit make the same work give the same
plan.
"""

from collections.abc import Callable, Iterable
from dataclasses import replace

from ortools.sat.python import cp_model

from finebatch.core.plan.bound import plain_bound
from finebatch.core.plan.model import Model
from finebatch.core.plan.quick import quick_times
from finebatch.core.plan.schedule import JobTime, Plan, Times, finish_of, place
from finebatch.core.plan.shift import shift_work
from finebatch.core.plan.work import NOTHING_YET, Happened, Work
from finebatch.core.refusal import refuse

LATE_COST = 1000
FINISH_COST = 50
WAIT_COST = 2
NARROW_EFFORT, WIDE_EFFORT, CALM_EFFORT = 0.04, 0.08, 0.05
"""The solver's deterministic seconds for each second asked for; on a home computer one of them
takes two or three (measured)."""
LEAST_EFFORT, LAST_EFFORT = 0.05, 2.0
"""What is spent on any session, and at the end on one for which no plan at all was found."""
SLOWEST = 10
WIDE = 3
MOST_MB = 900
_SOLVED = (cp_model.OPTIMAL, cp_model.FEASIBLE)


class _Watch(cp_model.CpSolverSolutionCallback):
    """Hands on each better plan as it comes, and stops when asked to."""

    def __init__(self, model: Model, tell: Callable[[Times, int], bool]) -> None:
        super().__init__()
        self.model, self.tell, self.stopped = model, tell, False

    def on_solution_callback(self) -> None:
        """A better plan was found."""
        bound = max(round(self.best_objective_bound), 0)
        if not self.tell(self.model.times(self.value, self.boolean_value), bound):
            self.stopped = True
            self.stop_search()


def _solver(effort: float, *, wide: bool = False) -> cp_model.CpSolver:
    """A solver that always takes the same way; `wide` tries several strategies in turn."""
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = WIDE if wide else 1
    solver.parameters.interleave_search = wide
    solver.parameters.random_seed = 1
    solver.parameters.max_deterministic_time = effort
    solver.parameters.max_time_in_seconds = SLOWEST * effort + 0.5
    solver.parameters.max_memory_in_mb = MOST_MB
    return solver


def _search(model: Model, seconds: float, watch: _Watch | None = None) -> cp_model.CpSolver | None:
    """Look for the best answer: straight on first, which soon proves small sessions; then, where
    that has not done, by several strategies in turn. None when nothing was found."""
    narrow = _solver(max(NARROW_EFFORT * seconds, LEAST_EFFORT))
    status = narrow.solve(model.model, watch)
    if status == cp_model.OPTIMAL or (watch is not None and watch.stopped):
        return narrow
    if status == cp_model.INFEASIBLE:
        return None
    if status == cp_model.FEASIBLE:
        model.model.clear_hints()  # type: ignore[no-untyped-call]
        model.hint(model.times(narrow.value, narrow.boolean_value))
    broad = _solver(WIDE_EFFORT * seconds, wide=True)
    if broad.solve(model.model, watch) in _SOLVED:
        return broad
    if status in _SOLVED:
        return narrow
    last = _solver(LAST_EFFORT)
    return last if last.solve(model.model, watch) in _SOLVED else None


def _minutes(expressions: Iterable[cp_model.LinearExprT]) -> cp_model.LinearExpr:
    return cp_model.LinearExpr.sum(list(expressions))


def best_plan(work: Work, seconds: float = 5.0, tell: Callable[[Plan], bool] | None = None) -> Plan:
    """The plan that finishes earliest, and at that finish the calmest.

    With a ready-by that can be kept, the one that starts latest; one that cannot is planned as
    soon as can be, and ends after it. `seconds` bounds the search in the solver's deterministic
    time, roughly in seconds of a home computer; `Plan.bound` tells how far from the best it
    can be. `tell` gets each better plan as it comes and answers whether to go on.

    Raises `Refusal` when no plan was found.
    """
    model, found, bound = _soonest(work, seconds, tell)
    finish = finish_of(work, found.jobs)
    if work.ready_by is not None and finish <= work.ready_by:
        found, bound = _latest(work, model, found, bound, seconds)
    else:
        found = _calmer(model, found, finish)
    return place(work, found, min(bound, finish_of(work, found.jobs)))


def _soonest(
    work: Work, seconds: float, tell: Callable[[Plan], bool] | None = None
) -> tuple[Model, Times, int]:
    """The soonest finish that is found, and the bound; `Refusal` when no plan was found."""
    low = plain_bound(work)
    model = Model(work, NOTHING_YET)
    model.hint(quick_times(work))
    model.model.minimize(model.finish)
    watch = None
    if tell is not None:
        watch = _Watch(model, lambda times, bound: tell(place(work, times, max(bound, low))))
    solver = _search(model, seconds, watch)
    if solver is None:
        raise _nothing_found(work)
    found = model.times(solver.value, solver.boolean_value)
    return model, found, max(round(solver.best_objective_bound), low)


def _nothing_found(work: Work) -> Exception:
    if work.pins:
        return refuse("pins", "No plan keeps what is pinned. Take a pin out.")
    return refuse("trays", "No plan was found in the time given. Try fewer trays, or more sheets.")


def _slid(times: Times, by: int) -> Times:
    """All jobs `by` minutes later."""
    jobs = {
        key: JobTime(time.start + by, time.end + by, time.who) for key, time in times.jobs.items()
    }
    return Times(jobs, times.ovens, times.shelves)


def _latest(
    work: Work, model: Model, found: Times, bound: int, seconds: float
) -> tuple[Times, int]:
    """With a ready-by to spare, begin as late as can be: dough and pieces are fresher.

    Where all of it fits behind a break it is planned there; else whatever can wait does.
    """
    assert work.ready_by is not None
    ends = sorted({end for worker in work.kitchen.workers for _, end in worker.away})
    if work.pins:
        return _calmer(model, found, finish_of(work, found.jobs)), bound
    for start in [*reversed([end for end in ends if end < work.ready_by]), 0]:
        if start:
            later = replace(shift_work(work, -start), ready_by=None)
            if plain_bound(later) > work.ready_by - start:
                continue
            behind, times, least = _soonest(later, seconds / 2)
        else:
            behind, times, least = model, found, bound
        spare = work.ready_by - start - finish_of(work, times.jobs)
        if spare < 0:
            continue
        times = _calmer(behind, times, finish_of(work, times.jobs))
        by = start if any(end > start for end in ends) else start + spare
        return _slid(times, by), least + by
    return found, bound


def _calmer(model: Model, found: Times, finish: int) -> Times:
    """At the same finish, the plan in which least waits and the oven changes least."""
    model.model.clear_hints()  # type: ignore[no-untyped-call]
    model.hint(found)
    model.model.add(model.finish <= finish)
    model.model.add(model.begin >= min(time.start for time in found.jobs.values()))
    model.model.minimize(_minutes(model.waits) + _minutes(model.spans()))
    calm = _solver(CALM_EFFORT)
    if calm.solve(model.model) in _SOLVED:
        return model.times(calm.value, calm.boolean_value)
    return found


def replan(work: Work, happened: Happened, before: Times, effort: float = 0.1) -> Plan:
    """Plan the rest again once things have happened: what is done stays, the rest moves little.

    Lateness comes first, then the finish, then short waits and the times of `before`.
    """
    model = Model(work, happened)
    model.hint(before)
    moved = []
    for key, start in model.starts.items():
        old = before.jobs.get(key)
        if old is None or key in model.taken:
            continue
        shift = model.model.new_int_var(0, model.horizon, f"shift.{key}")
        model.model.add_abs_equality(shift, start - old.start)
        moved.append(shift)
    cost = (
        LATE_COST * _minutes(model.late)
        + FINISH_COST * model.finish
        + WAIT_COST * _minutes(model.waits)
        + _minutes(moved)
    )
    model.model.minimize(cost)
    solver = _solver(effort)
    if solver.solve(model.model) in _SOLVED:
        return place(work, model.times(solver.value, solver.boolean_value), happened.now)
    # No plan in that time: any plan first, which is soon found, then a better one from there.
    model.model.clear_objective()  # type: ignore[no-untyped-call]
    anyhow = _solver(LAST_EFFORT)
    if anyhow.solve(model.model) not in _SOLVED:
        raise refuse("activity", "The rest could not be planned anew. Take the last step back.")
    times = model.times(anyhow.value, anyhow.boolean_value)
    model.model.clear_hints()  # type: ignore[no-untyped-call]
    model.hint(times)
    model.model.minimize(cost)
    solver = _solver(effort)
    if solver.solve(model.model) in _SOLVED:
        times = model.times(solver.value, solver.boolean_value)
    return place(work, times, happened.now)
