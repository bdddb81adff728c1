"""At the same finish, the better plan: a quiet oven, calm hands, fresh pieces, in that order."""

from collections.abc import Mapping
from itertools import permutations

from ortools.sat.python import cp_model

from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.model import Model
from finebatch.core.plan.model_jobs import Expr, Var
from finebatch.core.plan.placed import JobTime, Times

SWAP, SPAN, DOOR, PAUSE, FREE, WAIT, FRESH = 120, 60, 60, 40, 30, 20, 1
"""What these count against each other: two trays that swap (where they do), a minute of a setting's
span, an opening of the door saved, a minute for which portioning is broken off, a free minute
before what cannot wait, a minute of waiting and one of age."""
NEAR_MIN = 6
"""Door jobs that lie this near in a plan may be brought together."""
KEEPS = ("rack", "mix")
"""What is fresher the later it is done, where all is to be ready by a time."""
SOON = ("wash", "freeze", "clear")
"""Small jobs that nothing waits for: done when there is a free moment, not at the very end."""
AT_THE_DOOR = ("load", "turn", "out")


def calm_cost(model: Model, found: Times, *, fresh: bool) -> cp_model.LinearExpr:
    """What to make small: `found` are the times to start from, `fresh` asks for late bakes."""
    cost = SPAN * _sum(spans_of_settings(model)) + WAIT * _sum(model.waits)
    cost += PAUSE * _sum(model.pauses.values())
    doors = _together(model, found)
    cost -= DOOR * _sum(doors.values()) + FREE * _sum(_breathers(model))
    if model.work.kitchen.swaps:
        cost -= SWAP * _sum(
            at_once
            for (one, other), at_once in doors.items()
            if one.step == "turn" and other.step == "turn"
        )
    cost += _sum(model.ends[key] for key, job in model.net.jobs.items() if job.kind in SOON)
    if any(dough.bake_from for dough in model.work.doughs):
        cost += _sum(model.ends[key] for key, job in model.net.jobs.items() if job.kind in KEEPS)
    if fresh:
        late = [model.ends[key] for key, job in model.net.jobs.items() if job.kind in KEEPS]
        cost += FRESH * (len(late) * model.finish - _sum(late))
    return cost


def _sum(terms: object) -> cp_model.LinearExpr:
    return cp_model.LinearExpr.sum(list(terms))  # type: ignore[call-overload]


def spans_of_settings(model: Model) -> list[Expr]:
    """For each setting of an oven, how long it is in use: short spans are few changes."""
    settings = sorted({stay.oven_c for stay in model.net.stays})
    if len(settings) < 2:
        return []
    found: list[Expr] = []
    for oven_c in settings:
        low = model.model.new_int_var(0, model.horizon, f"from{oven_c}")
        high = model.model.new_int_var(0, model.horizon, f"to{oven_c}")
        for stay in model.net.stays:
            if stay.oven_c == oven_c:
                model.model.add(low <= model.starts[stay.load])
                model.model.add(high >= model.ends[stay.out])
        found.append(high - low)
    return found


def _together(model: Model, found: Times) -> Mapping[tuple[JobKey, JobKey], Var]:
    """For each two door jobs that lie near each other, whether one follows the other at once: the
    door is then opened once for both."""
    if len(model.work.kitchen.ovens) > 1:
        return {}
    door = [job for job in model.net.jobs.values() if job.kind in AT_THE_DOOR]
    after: dict[JobKey, list[Var]] = {job.id: [] for job in door}
    before: dict[JobKey, list[Var]] = {job.id: [] for job in door}
    pairs: dict[tuple[JobKey, JobKey], Var] = {}
    for one, other in permutations(door, 2):
        if one.tray != other.tray and _near(found.jobs.get(one.id), found.jobs.get(other.id)):
            at_once = model.model.new_bool_var(f"{one.id}|{other.id}")
            rule = model.model.add(model.starts[other.id] == model.ends[one.id])
            rule.only_enforce_if(at_once)
            pairs[one.id, other.id] = at_once
            after[one.id].append(at_once)
            before[other.id].append(at_once)
    for literals in (*after.values(), *before.values()):
        if literals:
            model.model.add_at_most_one(literals)
    return pairs


def _breathers(model: Model) -> list[Var]:
    """For each job that cannot wait, whether there is a free minute before it."""
    found = []
    for who, busy in enumerate(model.hands):
        minutes = []
        for job in model.net.jobs.values():
            alone = job.id in model.starts and job.id not in model.who and job.id not in model.taken
            if alone and job.kind in ("out", "shape") and model.only[job.id] == who:
                free = model.model.new_bool_var(f"free.{job.id}")
                before = model.starts[job.id] - 1
                minutes.append(
                    model.model.new_optional_fixed_size_interval_var(before, 1, free, f"{free}:")
                )
                found.append(free)
        if minutes:
            model.model.add_no_overlap([*busy, *minutes])
    return found


def _near(first: JobTime | None, then: JobTime | None) -> bool:
    return first is not None and then is not None and abs(then.start - first.end) <= NEAR_MIN
