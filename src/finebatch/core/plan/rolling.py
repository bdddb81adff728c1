"""A large session made better piece by piece: a few trays at a time are placed anew, from the first
that go into the oven to the last, with all before them as it is and none after them yet.

Of a session as a whole a search finds little; of a dozen trays it finds most of what there is. What
they gain the trays after them gain too, since these are placed anew in their turn.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

from ortools.sat.python import cp_model

from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.model import Model
from finebatch.core.plan.placed import Times
from finebatch.core.plan.schedule import finish_of, place
from finebatch.core.plan.work import NOTHING_YET, Work

EARLIER_MIN = 40
"""Doughs that are mixed so shortly before a stretch are placed anew with it."""

Solve = Callable[[cp_model.CpModel], cp_model.CpSolver | None]
"""Gives the solver that has solved a model; none where it found nothing."""


@dataclass(frozen=True, slots=True)
class Stretch:
    """So many trays are placed at once, and so many of them stay so."""

    size: int
    step: int


def rolled(work: Work, times: Times, stretch: Stretch, solve: Solve) -> Times:
    """The plan with stretch after stretch placed anew; `times` where the whole came to be no
    sooner, or broke a rule on the way."""
    jobs, ovens, shelves = dict(times.jobs), dict(times.ovens), dict(times.shelves)
    loads = ((jobs[JobKey(tray.name, "load")].start, tray.name) for tray in work.trays)
    order = [name for _, name in sorted(loads)]
    for done in range(0, max(len(order) - stretch.size, 0) + stretch.step, stretch.step):
        names = set(order[: done + stretch.size])
        there = replace(work, trays=tuple(tray for tray in work.trays if tray.name in names))
        before = Times(jobs, ovens, shelves)
        found = _anew(there, before, frozenset(order[:done]), solve)
        if found is not None:
            jobs, ovens = {**jobs, **found.jobs}, {**ovens, **found.ovens}
            shelves = {**shelves, **found.shelves}
    sooner = finish_of(work, jobs) < finish_of(work, times.jobs)
    found = Times(jobs, ovens, shelves)
    return found if sooner and not find_faults(place(work, found, 0), work) else times


def _anew(work: Work, before: Times, stay: frozenset[str], solve: Solve) -> Times | None:
    """The trays but those that stay placed so that the last is ready soonest."""
    model = Model(work, NOTHING_YET)
    trays = {tray.name for tray in work.trays}
    begin = min(before.jobs[JobKey(name, "portion")].start for name in trays - stay)
    for key in model.starts:
        time = before.jobs[key]
        earlier = key.whose not in trays and time.start < begin - EARLIER_MIN
        if key.whose not in stay and not earlier:
            continue
        model.model.add(model.starts[key] == time.start)
        model.model.add(model.ends[key] == time.end)
        for who, takes in model.who.get(key, {}).items():
            model.model.add(takes == int(who == time.who))
    known = {key: before.jobs[key] for key in model.starts}
    model.hint(Times(known, before.ovens, before.shelves))
    model.same_days(Times(known, before.ovens, before.shelves))
    model.model.add(model.finish <= finish_of(work, known))
    model.model.minimize(model.finish)
    solver = solve(model.model)
    return None if solver is None else model.times(solver.value, solver.boolean_value)
