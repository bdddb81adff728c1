"""What has happened so far, put in the planner's terms."""

import math
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, replace

from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.network import Link, Network, network
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.work import Happened, TrayWork, Work, merged

LONG_JOBS = (
    "ready",
    "mix",
    "form",
    "wash",
    "part",
    "freeze",
    "portion",
    "slice",
    "finish",
    "clear",
)
"""Jobs that are under way for a while; the others take a minute and are done or not."""


@dataclass(frozen=True, slots=True)
class MoreMinutes:
    """Minutes added to the bake of that id."""

    bake: JobKey
    minutes: int


def with_extras(work: Work, extras: Iterable[MoreMinutes]) -> Work:
    """The work with minutes added to some bakes."""
    added: dict[JobKey, int] = {}
    for extra in extras:
        added[extra.bake] = added.get(extra.bake, 0) + extra.minutes

    def grown(tray: TrayWork) -> TrayWork:
        bakes = tuple(
            replace(bake, extra=bake.extra + added.get(JobKey(tray.name, "bake", n), 0))
            for n, bake in enumerate(tray.bakes)
        )
        return replace(tray, bakes=bakes)

    return replace(work, trays=tuple(grown(tray) for tray in work.trays))


def without(work: Work, trays: Collection[str]) -> Work:
    """The work without trays that were dropped, and without doughs of which none is left; the last
    tray cannot be left out."""
    left = tuple(tray for tray in work.trays if tray.name not in trays)
    if not left:
        return work
    bare = {dough.letter for dough in work.doughs if work.trays_of(dough.letter)}
    bare -= {tray.dough for tray in left}
    return replace(work, trays=left, doughs=tuple(d for d in work.doughs if d.letter not in bare))


def with_break(work: Work, start: int, end: int) -> Work:
    """The work with the baker away from one minute to another."""
    you, *others = work.kitchen.workers
    away = merged((*you.away, (max(start, 0), end)))
    workers = (replace(you, away=away), *others)
    return replace(work, kitchen=replace(work.kitchen, workers=workers))


def _before(net: Network, job: JobKey) -> list[Link]:
    """The links that lead to a job; a turn comes beside, not between, so none leads from one."""
    return [link for link in net.links if link.after == job and link.before.step != "turn"]


def order_of(work: Work, job: JobKey) -> list[JobKey]:
    """The hand jobs that have to be done before `job`, in an order in which they can be."""
    net = network(work)
    wanted, ahead = set(), [job]
    while ahead:
        for link in _before(net, ahead.pop()):
            if link.before not in wanted:
                wanted.add(link.before)
                ahead.append(link.before)
    return [key for key in net.jobs if key in wanted]


def happened_by(
    work: Work,
    plan: Plan,
    done: Mapping[JobKey, float],
    now: int,
    oven_from: tuple[int, ...] = (),
    held: Mapping[str, int] | None = None,
) -> Happened:
    """What is so at minute `now`: `done` are the minutes at which hand jobs ended, by id.

    Minutes are made whole, and a tray's jobs follow each other by at least their length, so that
    two presses within a minute make sense. The first long job that should be under way, and may
    be, is taken as begun when planned.
    """
    net = network(work)
    whole = {key: max(round(minute), 0) for key, minute in done.items()}
    for key, job in net.jobs.items():
        if key not in whole:
            continue
        ends = [whole[link.before] for link in _before(net, key) if link.before in whole]
        if ends:
            whole[key] = max(whole[key], max(ends) + job.minutes)
    now = max([now, *whole.values()])
    ahead = sorted(
        (a for a in plan.activities if a.hands and a.id not in whole and a.id in net.jobs),
        key=lambda a: a.start,
    )
    begun: dict[JobKey, int] = {}
    held = held or {}
    waits = bool(ahead) and ahead[0].kind == "portion" and held.get(ahead[0].dough or "", 0) >= now
    if ahead and not waits and ahead[0].kind in LONG_JOBS and ahead[0].start < now:
        first = ahead[0]
        before = _before(net, first.id)
        if all(link.before in whole for link in before) and all(
            first.start >= whole[link.before] + link.least for link in before
        ):
            begun[first.id] = max(first.start, *whole.values(), 0)
    return Happened(math.ceil(now), oven_from, whole, begun, held)
