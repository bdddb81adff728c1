"""The same work or plan with its minute 0 put elsewhere."""

from dataclasses import replace

from finebatch.core.plan.placed import Plan
from finebatch.core.plan.work import Work


def shift_plan(plan: Plan, by: int) -> Plan:
    """Every activity `by` minutes later."""
    moved = tuple(
        replace(
            a,
            start=a.start + by,
            end=a.end + by,
            pause=None if a.pause is None else (a.pause[0] + by, a.pause[1] + by),
        )
        for a in plan.activities
    )
    return Plan(moved, plan.finish + by, plan.bound + by)


def shift_work(work: Work, by: int) -> Work:
    """Times away, the ready-by, pins and the minutes before which doughs are not baked, all `by`
    minutes later; what then lies before 0 is gone."""
    workers = tuple(
        replace(
            worker,
            away=tuple((max(a + by, 0), b + by) for a, b in worker.away if b + by > 0),
        )
        for worker in work.kitchen.workers
    )
    pins = tuple(replace(pin, start=max(pin.start + by, 0)) for pin in work.pins)
    ready = None if work.ready_by is None else work.ready_by + by
    doughs = tuple(
        replace(d, bake_from=max(d.bake_from + by, 0)) if d.bake_from else d for d in work.doughs
    )
    kitchen = replace(work.kitchen, workers=workers)
    return replace(work, doughs=doughs, kitchen=kitchen, ready_by=ready, pins=pins)
