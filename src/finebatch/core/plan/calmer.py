"""Beside the soonest plan a calmer one: the oven's settings grouped, dough after dough, a pause in
every three hours, meals left free, and what goes on the pieces made shortly before.

It takes longer; by how much is for the baker to weigh. It is found by the strong hand's rules (see
`by_hand`) around the pauses, and then, at its finish, made as calm as can be.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import groupby, pairwise

from ortools.sat.python import cp_model

from finebatch.core.plan.bound import plain_bound
from finebatch.core.plan.by_hand import by_rules
from finebatch.core.plan.calm import spans_of_settings
from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.explain import heat_changes
from finebatch.core.plan.model import Model
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.schedule import place, times_of
from finebatch.core.plan.solver import SOLVED, solver_for
from finebatch.core.plan.work import NOTHING_YET, DoughWork, Span, Work, merged

PAUSE_MIN, EVERY_MIN = 10, 180
"""A pause for hands that are at it all the time (household practice)."""
FIRST_AFTER = (110, 140, 170)
"""When the first pause may begin; which of them costs least is tried."""
MADE_WITHIN_MIN = 45
"""Icing and filling made longer before want stirring again (household practice)."""
SETTING, CHANGE = 12, 6
"""Minutes that a turn of the dial, and a change from one dough to another, may cost."""


@dataclass(frozen=True, slots=True)
class Calm:
    """How calm a plan is: turns of the dial, changes between doughs while they are portioned, and
    pauses of ten minutes or more, the last hands' work not counted."""

    heat_changes: int
    dough_changes: int
    pauses: int


def calm_of(plan: Plan) -> Calm:
    """How calm a plan is."""
    filled = sorted((a.start, a.dough) for a in plan.activities if a.kind == "portion")
    changes = sum(1 for _ in groupby(dough for _, dough in filled)) - 1
    busy = merged((a.start, a.end) for a in plan.activities if a.hands and not a.who)
    pauses = sum(b[0] - a[1] >= PAUSE_MIN for a, b in pairwise(busy))
    return Calm(heat_changes(plan), changes, pauses)


@lru_cache(maxsize=4)
def calmer_plan(
    work: Work, meals: tuple[Span, ...] = (), effort: float = 0
) -> tuple[Work, Plan] | None:
    """The work with its pauses and meals, and the calmest plan of it; none where no rule keeps
    every window around them. `meals` are spans of minutes that are to stay free, `effort` the
    solver's deterministic seconds for a sooner plan that is as calm."""
    found = [
        (quiet, plan)
        for first in FIRST_AFTER
        for quiet in [with_pauses(work, first, meals)]
        for plan in _plans(quiet)
    ]
    if not found:
        return None
    quiet, plan = min(found, key=lambda one: _worth(one[1]))
    return quiet, sooner_as_calm(quiet, plan, effort) if effort else plan


def sooner_as_calm(work: Work, plan: Plan, effort: float) -> Plan:
    """A sooner plan in which each of the oven's settings is in use for as short as in that, or
    shorter; that plan where none was found."""
    model = Model(work, NOTHING_YET)
    model.hint(times_of(plan.activities))
    model.same_days(times_of(plan.activities))
    model.model.add(model.finish <= plan.finish)
    spans = cp_model.LinearExpr.sum(spans_of_settings(model))
    model.model.minimize(2 * model.finish + spans)
    solver = solver_for(effort, "finish")
    if solver.solve(model.model) not in SOLVED:
        return plan
    sooner = place(work, model.times(solver.value, solver.boolean_value), plan.bound)
    return sooner if _worth(sooner) <= _worth(plan) else plan


def with_pauses(work: Work, first: int, meals: Sequence[Span] = ()) -> Work:
    """The work with a pause every three hours from `first` on and the meals left free, and with
    parts made shortly before they are wanted. Of several bakers each has a pause once the one
    before is back, so that somebody is at the oven; they eat together."""
    workers = []
    for n, worker in enumerate(work.kitchen.workers):
        begins = range(first + n * PAUSE_MIN, work.horizon, EVERY_MIN)
        pauses = [(at, at + PAUSE_MIN) for at in begins]
        free = [span for span in pauses if not any(a < span[1] and b > span[0] for a, b in meals)]
        workers.append(replace(worker, away=merged((*worker.away, *free, *meals))))
    kitchen = replace(work.kitchen, workers=tuple(workers))
    return replace(work, kitchen=kitchen, doughs=tuple(map(_made_shortly_before, work.doughs)))


def _made_shortly_before(dough: DoughWork) -> DoughWork:
    parts = tuple(
        replace(part, within_min=min(part.within_min or MADE_WITHIN_MIN, MADE_WITHIN_MIN))
        for part in dough.parts
    )
    return replace(dough, parts=parts)


def _plans(work: Work) -> Iterator[Plan]:
    for times in by_rules(work):
        plan = place(work, times, plain_bound(work))
        if not find_faults(plan, work):
            yield plan


def _worth(plan: Plan) -> float:
    calm = calm_of(plan)
    return plan.finish + SETTING * calm.heat_changes + CHANGE * calm.dough_changes
