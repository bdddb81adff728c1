"""What has happened so far, put in the planner's terms."""

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from finebatch.core.plan.schedule import Plan
from finebatch.core.plan.work import Happened, TrayWork, Work, job_id

LONG_JOBS = ("mix", "portion", "slice")
"""Jobs that are under way for a while; the others take a minute and are done or not."""


@dataclass(frozen=True, slots=True)
class Extra:
    """Minutes added to the bake of that id."""

    bake: str
    minutes: int


def with_extras(work: Work, extras: Iterable[Extra]) -> Work:
    """The work with minutes added to some bakes."""
    added: dict[str, int] = {}
    for extra in extras:
        added[extra.bake] = added.get(extra.bake, 0) + extra.minutes

    def grown(tray: TrayWork) -> TrayWork:
        bakes = tuple(
            replace(bake, extra=bake.extra + added.get(job_id(tray.name, "bake", n), 0))
            for n, bake in enumerate(tray.bakes)
        )
        return replace(tray, bakes=bakes)

    return replace(work, trays=tuple(grown(tray) for tray in work.trays))


def _jobs(work: Work, tray: TrayWork) -> list[tuple[str, int]]:
    """A tray's hand jobs in their order, with minutes; turns come beside, not between."""
    k, name = work.kitchen, tray.name
    jobs = [("dough.mix", work.dough.mix_min), (job_id(name, "portion"), tray.portion_min)]
    for n in range(len(tray.bakes)):
        jobs.append((job_id(name, "load", n), k.load_min))
        jobs.append((job_id(name, "out", n), k.out_min))
        if n == 0 and len(tray.bakes) > 1:
            jobs.append((job_id(name, "slice"), tray.slice_min))
    return [*jobs, (job_id(name, "rack"), k.rack_min)]


def order_of(work: Work, job: str) -> list[str]:
    """The hand jobs that have to be done before `job`, in order."""
    owner, kind = job.split(".", 1)
    if owner == "dough":
        return []
    tray = next(tray for tray in work.trays if tray.name == owner)
    names = [name for name, _ in _jobs(work, tray)]
    if kind.startswith("turn"):
        return names[: names.index(job.replace("turn", "load")) + 1]
    return names[: names.index(job)]


def happened_by(work: Work, plan: Plan, done: Mapping[str, float], now: int) -> Happened:
    """What is so at minute `now`: `done` are the minutes at which hand jobs ended, by id.

    Minutes are made whole, and a tray's jobs follow each other by at least their length, so that
    two presses within a minute make sense. The first long job that should be under way, and may
    be, is taken as begun when planned.
    """
    whole = {key: max(round(minute), 0) for key, minute in done.items()}
    for tray in work.trays:
        end = 0
        for key, minutes in _jobs(work, tray):
            if key in whole:
                end = whole[key] = max(whole[key], end + minutes if key != "dough.mix" else 0)
        for n in range(len(tray.bakes)):
            turn, load = job_id(tray.name, "turn", n), job_id(tray.name, "load", n)
            if turn in whole:
                whole[turn] = max(whole[turn], whole.get(load, 0) + work.kitchen.turn_min)
    now = max([now, *whole.values()])
    ahead = sorted(
        (a for a in plan.activities if a.hands and a.id not in whole), key=lambda a: a.start
    )
    begun: dict[str, int] = {}
    if ahead and ahead[0].kind in LONG_JOBS and ahead[0].start < now:
        first = ahead[0]
        before = order_of(work, first.id)
        if all(key in whole for key in before):
            ready = whole[before[-1]] + _wait_before(work, first.id) if before else 0
            if first.start >= ready:
                begun[first.id] = max(first.start, *whole.values(), 0)
    return Happened(math.ceil(now), whole, begun)


def _wait_before(work: Work, job: str) -> int:
    """Minutes that have to pass between a long job and the one before it."""
    owner, kind = job.split(".", 1)
    if kind == "portion":
        return work.dough.chill_min
    return next((tray.rest_min for tray in work.trays if tray.name == owner), 0)
