"""The best plan: the same work as a constraint model, solved by OR-tools' CP-SAT.

First the earliest finish is sought (or, with a ready-by, the latest start) and, when time allows,
proven; then, at that finish, the calmest plan: few changes of the oven, trays that wait as
little as may be. One search thread and a deterministic limit make the same work give the same
plan.
"""

import math
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, replace
from typing import Literal

from ortools.sat.python import cp_model

from finebatch.core.plan.bound import plain_bound
from finebatch.core.plan.calm import calm_cost
from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.latest import Late, away_from, latest_start, pushed, till_ready
from finebatch.core.plan.model import Model
from finebatch.core.plan.network import network
from finebatch.core.plan.placed import Plan, Times
from finebatch.core.plan.quick import quick_times
from finebatch.core.plan.rolling import Stretch, rolled
from finebatch.core.plan.schedule import finish_of, place, sound, times_of
from finebatch.core.plan.shift import shift_plan, shift_work
from finebatch.core.plan.work import NOTHING_YET, Work
from finebatch.core.refusal import refuse

LATE_COST = 1000
SEEK_EFFORT, PROVE_EFFORT, CALM_EFFORT = 0.06, 0.03, 0.01
"""The solver's deterministic seconds for each second asked for; on a home computer one of them
takes four to six (measured)."""
PROVEN_TRAYS, MANY_TRAYS = 10, 16
"""Of more trays nothing is proven, and of more still the whole is hardly looked at: both get
nowhere, and the effort goes to what does."""
ROLLED_TRAYS = 13
STRETCHES = (Stretch(12, 8), Stretch(14, 7), Stretch(10, 5))
ROLL_EFFORT, STRETCH_EFFORT = 0.06, 0.008
"""Deterministic seconds for each second asked for: in all, and for one stretch."""
ROLL_TRAYS = 50
"""Of more trays each stretch takes longer to be set up, which no effort counts (measured)."""
LEAST_EFFORT, LAST_EFFORT = 0.02, 2.0
"""What is spent on any session, and at the end on one for which no plan at all was found."""
SEED = 2
"""The best of three over five sessions like the supper (measured)."""
PROBING = 0.01
"""What is spent on trying single values before a search: more finds nothing more (measured)."""
SLOWEST = 25
"""Seconds after which a deterministic one is broken off: only a machine that stands still gets
there, and then the same work may give another plan."""
TELL_EVERY_S = 0.5
MOST_MB = 900
Aim = Literal["finish", "bound", "sum"]
"""What a solver is good at: an early finish, a bound on it, or a small sum."""
SOLVED = (cp_model.OPTIMAL, cp_model.FEASIBLE)


class _Watch(cp_model.CpSolverSolutionCallback):
    """Hands on better plans as they come, not more than a few a second, and stops when asked to.

    What takes them has work to do with each, and the search waits for it.
    """

    def __init__(self, model: Model, tell: Callable[[Times, int], bool]) -> None:
        super().__init__()
        self.model, self.tell, self.stopped = model, tell, False
        self.best: float = math.inf
        self.told_at = -math.inf

    def on_solution_callback(self) -> None:
        """A plan was found; a second search begins with what is known."""
        if self.objective_value >= self.best:
            return
        self.best = self.objective_value
        if self.told_at <= self.wall_time < self.told_at + TELL_EVERY_S:
            return
        self.told_at = self.wall_time
        bound = max(round(self.best_objective_bound), 0)
        if not self.tell(self.model.times(self.value, self.boolean_value), bound):
            self.stopped = True
            self.stop_search()


def solver_for(effort: float, aim: Aim) -> cp_model.CpSolver:
    """A solver that always takes the same way. For a finish linear relaxations say little, and
    strong propagation of which job comes first says much; for a sum it is the other way round.
    Reasoning on precedences beside it costs more than it brings (eight sessions of four to thirteen
    trays: 2,009 min in all without, 2,106 with it), and on precedences that are found on the way
    breaks the solver off with the whole program, so both stay off."""
    solver = cp_model.CpSolver()
    asked = solver.parameters
    asked.num_workers = 1
    asked.linearization_level = 1 if aim == "sum" else 0
    asked.use_precedences_in_disjunctive_constraint = False
    asked.use_strong_propagation_in_disjunctive = aim != "sum"
    asked.use_objective_lb_search = aim == "bound"
    asked.probing_deterministic_time_limit = PROBING
    asked.random_seed = SEED
    asked.max_deterministic_time = effort
    asked.max_time_in_seconds = SLOWEST * effort + 0.5
    asked.max_memory_in_mb = MOST_MB
    return solver


@dataclass(frozen=True, slots=True)
class _Answer:
    """The best times that were found, and the minutes below which there are none."""

    times: Times
    bound: int


def _search(model: Model, seconds: float, watch: _Watch | None = None) -> _Answer | None:
    """Look for the best answer, then, where it is not proven, for a better bound. None when
    nothing was found."""
    trays = len(model.work.trays)
    effort = SEEK_EFFORT if trays <= PROVEN_TRAYS else SEEK_EFFORT + PROVE_EFFORT
    if trays > MANY_TRAYS:
        effort = SEEK_EFFORT / 2
    seek = solver_for(max(effort * seconds, LEAST_EFFORT), "finish")
    status = seek.solve(model.model, watch)
    stopped = watch is not None and watch.stopped
    if status == cp_model.INFEASIBLE:
        return None
    if status not in SOLVED:
        seek = solver_for(LAST_EFFORT, "finish")
        seek.parameters.stop_after_first_solution = True
        status = seek.solve(model.model, watch)
        if status not in SOLVED:
            return None
    times, bound = model.times(seek.value, seek.boolean_value), seek.best_objective_bound
    if status == cp_model.FEASIBLE and not stopped and trays <= PROVEN_TRAYS:
        model.model.clear_hints()  # type: ignore[no-untyped-call]
        model.hint(times)
        prove = solver_for(max(PROVE_EFFORT * seconds, LEAST_EFFORT), "bound")
        if prove.solve(model.model, watch) in SOLVED:
            times = model.times(prove.value, prove.boolean_value)
        bound = max(bound, prove.best_objective_bound)
    return _Answer(times, round(bound))


def minutes_in(expressions: Iterable[cp_model.LinearExprT]) -> cp_model.LinearExpr:
    """The sum of minutes that the solver chooses."""
    return cp_model.LinearExpr.sum(list(expressions))


def best_plan(
    work: Work,
    seconds: float = 5.0,
    tell: Callable[[Plan], bool] | None = None,
    begin: Times | None = None,
) -> Plan:
    """The plan that finishes earliest, and at that finish the calmest.

    With a ready-by that can be kept, the one that starts latest; one that cannot is planned as
    soon as can be, and ends after it. `seconds` bounds the search in the solver's deterministic
    time, roughly in seconds of a home computer; `Plan.bound` tells how far from the best it
    can be. `tell` gets each better plan as it comes and answers whether to go on; `begin` is a plan
    that is known, and is left only for a sooner one where it keeps every rule.

    Raises `Refusal` when no plan was found.
    """
    late = None if work.ready_by is None or work.pins else latest_start(work)
    if late is None:
        model, found, bound = _soonest(work, seconds, tell, begin)
        finish = finish_of(work, found.jobs)
        if work.ready_by is None or finish > work.ready_by:
            found = _calmer(work, model, found, finish, seconds)
            return place(work, found, bound)
        late = Late(0, found)
    return _latest(work, late, seconds, tell)


def _latest(work: Work, late: Late, seconds: float, tell: Callable[[Plan], bool] | None) -> Plan:
    """Begin as late as can be, from a plan that is ready in time; then as calm, and what is ready
    as fresh, as can be. How much later it could perhaps begin stands in the bound."""
    assert work.ready_by is not None
    gone_on = True

    def told(late: Late, lead: int) -> bool:
        nonlocal gone_on
        gone_on = tell is None or tell(_ready_in_time(work, late, lead))
        return gone_on

    search = _begun_late if away_from(work, late.start) else _moved
    late, lead = search(work, late, seconds, told)
    if gone_on:
        late = pushed(work, late)
        ready = work.ready_by - late.start
        rest = shift_work(work, -late.start)
        model = Model(rest, NOTHING_YET)
        late = replace(late, times=_calmer(rest, model, late.times, ready, seconds))
    return _ready_in_time(work, late, lead)


def _ready_in_time(work: Work, late: Late, lead: int) -> Plan:
    """The plan; `lead` are the minutes before the ready-by by which it has to be begun in any
    case."""
    assert work.ready_by is not None
    plan = place(shift_work(work, -late.start), late.times, 0)
    # The oven may be turned on before the first job of the hands.
    taken = work.ready_by - late.start - plan.begin
    plan = replace(plan, bound=plan.finish - taken + sound(lead, taken))
    return shift_plan(plan, late.start)


def _moved(
    work: Work, late: Late, seconds: float, told: Callable[[Late, int], bool]
) -> tuple[Late, int]:
    """With nobody away, what is ready soonest begins latest when it is moved as one."""
    assert work.ready_by is not None
    ready = work.ready_by

    def moved(finish: int, times: Times) -> Late:
        return Late(ready - finish, times)

    rest = replace(shift_work(till_ready(work), -late.start), ready_by=None)
    _, times, bound = _soonest(
        rest, seconds, lambda plan: told(moved(plan.finish, times_of(plan.activities)), plan.bound)
    )
    return moved(finish_of(rest, times.jobs), times), bound


def _begun_late(
    work: Work, late: Late, seconds: float, told: Callable[[Late, int], bool]
) -> tuple[Late, int]:
    """Around times away: the latest begin is searched for as such."""
    assert work.ready_by is not None
    ready = work.ready_by - late.start
    model = Model(shift_work(till_ready(work), -late.start), NOTHING_YET)
    model.hint(late.times)
    model.model.add(model.finish <= ready)
    model.model.minimize(ready - model.begin)
    watch = _Watch(model, lambda times, lead: told(Late(late.start, times), lead))
    answer = _search(model, seconds, watch)
    if answer is None:
        return late, 0
    return Late(late.start, answer.times), answer.bound


def _soonest(
    work: Work,
    seconds: float,
    tell: Callable[[Plan], bool] | None = None,
    begin: Times | None = None,
) -> tuple[Model, Times, int]:
    """The soonest finish that is found, and the bound; `Refusal` when no plan was found."""
    low = plain_bound(work)
    model = Model(work, NOTHING_YET)
    best = quick_times(work)
    free = not work.pins and work.first_c is None
    holds = free and not find_faults(place(work, best, 0), work)
    if free and begin is not None and _is_better(work, begin, best if holds else None):
        best, holds = begin, True
    gone_on, days = True, False

    def known(bound: int) -> int:
        # What keeps to its day proves nothing of what need not.
        return low if days else max(bound, low)

    def told(times: Times, bound: int) -> bool:
        # What is there at once is told only where it is beaten.
        nonlocal gone_on
        if not holds or finish_of(work, times.jobs) <= finish_of(work, best.jobs):
            gone_on = tell is None or tell(place(work, times, known(bound)))
        return gone_on

    if holds and len(work.trays) >= ROLLED_TRAYS:
        for times in _rolled(work, best, seconds):
            best = times
            if not told(times, 0):
                return model, best, low
    model.hint(best)
    # Of doughs of several days nothing is proven: each stays on the day that it is on.
    days = holds and model.same_days(best)
    model.model.minimize(model.finish)
    answer = _search(model, seconds, None if tell is None else _Watch(model, told))
    if answer is None:
        if not holds:
            raise _nothing_found(work)
        return model, best, low
    if not holds or finish_of(work, answer.times.jobs) <= finish_of(work, best.jobs):
        best = answer.times
    return model, best, known(answer.bound)


def _is_better(work: Work, times: Times, than: Times | None) -> bool:
    """Whether a plan has all the jobs of the work, keeps every rule and is sooner."""
    if not network(work).jobs.keys() <= times.jobs.keys():
        return False
    if than is not None and finish_of(work, than.jobs) <= finish_of(work, times.jobs):
        return False
    return not find_faults(place(work, times, 0), work)


def _rolled(work: Work, times: Times, seconds: float) -> Iterator[Times]:
    """Better and better plans of a session of many trays, a stretch at a time, as long as it pays
    and the effort lasts."""
    left = ROLL_EFFORT * seconds * min(1.0, ROLL_TRAYS / len(work.trays))

    def solve(model: cp_model.CpModel) -> cp_model.CpSolver | None:
        nonlocal left
        if left <= 0:
            return None
        solver = solver_for(min(STRETCH_EFFORT * seconds, left), "finish")
        solved = solver.solve(model) in SOLVED
        left -= solver.response_proto.deterministic_time
        return solver if solved else None

    for stretch in STRETCHES:
        found = rolled(work, times, stretch, solve)
        if found is not times:
            times = found
            yield times
        if left <= 0:
            return


def nearest_to_pins(work: Work, seconds: float) -> Plan:
    """The plan that comes nearest to pins that cannot all be kept; `Refusal` when there is none."""
    free = replace(work, pins=())
    model = Model(free, NOTHING_YET)
    model.hint(quick_times(free))
    off = []
    for pin in work.pins:
        if pin.job in model.starts:
            shift = model.model.new_int_var(0, model.horizon, f"off.{pin.job}")
            model.model.add_abs_equality(shift, model.starts[pin.job] - pin.start)
            off.append(shift)
    model.model.minimize(LATE_COST * minutes_in(off) + model.finish)
    solver = solver_for(max(SEEK_EFFORT * seconds, LEAST_EFFORT), "sum")
    if solver.solve(model.model) not in SOLVED:
        raise refuse("pins", "No plan keeps what is pinned. Take a pin out.")
    times = model.times(solver.value, solver.boolean_value)
    return place(work, times, plain_bound(free))


def _nothing_found(work: Work) -> Exception:
    if work.pins:
        return refuse("pins", "No plan keeps what is pinned. Take a pin out.")
    return refuse("trays", "No plan that keeps every window was found.")


def _calmer(work: Work, model: Model, found: Times, finish: int, seconds: float) -> Times:
    """At the same finish, the calmest plan (see `calm`)."""
    model.model.clear_hints()  # type: ignore[no-untyped-call]
    model.hint(found)
    if work.ready_by is None:
        model.model.add(model.finish <= finish)
    else:
        # How old what is ready is, is counted up to that time.
        model.model.add(model.finish == finish)
    model.model.add(model.begin >= min(time.start for time in found.jobs.values()))
    model.model.minimize(calm_cost(model, found, fresh=work.ready_by is not None))
    calm = solver_for(CALM_EFFORT * seconds, "sum")
    if calm.solve(model.model) in SOLVED:
        return model.times(calm.value, calm.boolean_value)
    return found
