"""With a ready-by: the latest start from which all is ready in time, around nights and breaks.

Found by quick plans: the later one begins the later all is ready, so the latest start lies in the
last stretch between two times away from whose beginning it can be done. Waits that need no hands
may lie within a time away.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from finebatch.core.plan.bound import plain_bound
from finebatch.core.plan.placed import Plan, Times
from finebatch.core.plan.quick import quick_times
from finebatch.core.plan.schedule import finish_of, place
from finebatch.core.plan.shift import shift_plan, shift_work
from finebatch.core.plan.slide import push_late
from finebatch.core.plan.work import Work

NEAR_MIN = 5
"""So near the latest start is sought; the search for the best plan goes on from there."""


@dataclass(frozen=True, slots=True)
class Late:
    """A plan that is ready in time, in minutes after `start`; nothing of it lies before that."""

    start: int
    times: Times


def latest_quick(work: Work) -> Plan | None:
    """The quick plan that begins latest and is ready in time; none where no quick plan is."""
    late = latest_start(work)
    if late is None:
        return None
    late = pushed(work, late)
    later = shift_work(work, -late.start)
    return shift_plan(place(later, late.times, plain_bound(later)), late.start)


def latest_start(work: Work) -> Late | None:
    """The latest start at which quick plans are ready in time; none where even the soonest is not.
    The work has a ready-by."""
    after = work.ready_by
    assert after is not None
    work = till_ready(work)
    begins = [0, *sorted({end for w in work.kitchen.workers for _, end in w.away if end > 0})]
    begins = [minute for minute in begins if minute < after]
    for begin in reversed(begins):
        late = _from(work, begin)
        if late is not None:
            return _dough_by_dough(work, _between(work, late, after), begins)
        after = begin
    return None


def till_ready(work: Work) -> Work:
    """The work without the times away that lie behind its ready-by: they change nothing."""
    assert work.ready_by is not None
    until = work.ready_by
    workers = tuple(
        replace(worker, away=tuple(span for span in worker.away if span[0] < until))
        for worker in work.kitchen.workers
    )
    return replace(work, kitchen=replace(work.kitchen, workers=workers))


def _from(work: Work, start: int, later: Mapping[str, int] | None = None) -> Late | None:
    """The quick plan from that minute, single doughs later still; none when it is not in time."""
    assert work.ready_by is not None
    rest = shift_work(work, -start)
    if plain_bound(rest) > work.ready_by - start:
        return None
    times = quick_times(rest, {letter: minute - start for letter, minute in (later or {}).items()})
    return Late(start, times) if finish_of(rest, times.jobs) <= work.ready_by - start else None


def away_from(work: Work, start: int) -> bool:
    """Whether anybody is away between that minute and the ready-by."""
    assert work.ready_by is not None
    spans = [span for worker in work.kitchen.workers for span in worker.away]
    return any(begin < work.ready_by and end > start for begin, end in spans)


def _between(work: Work, late: Late, after: int) -> Late:
    """The latest start from there on and before `after`, by halving what is left."""
    assert work.ready_by is not None
    spare = work.ready_by - late.start - finish_of(work, late.times.jobs)
    if not away_from(work, late.start):
        moved = _from(work, late.start + spare)
        return moved or late
    while after - late.start > NEAR_MIN:
        middle = (late.start + after) // 2
        found = _from(work, middle)
        if found is None:
            after = middle
        else:
            late = found
    return late


def pushed(work: Work, late: Late) -> Late:
    """The same, with each job as late as can be."""
    assert work.ready_by is not None
    times = push_late(shift_work(work, -late.start), late.times, work.ready_by - late.start)
    return late if times is None else Late(late.start, times)


def _dough_by_dough(work: Work, late: Late, begins: list[int]) -> Late:
    """The same, with each dough that need not be begun at once in the last stretch that will do:
    only what has to lie overnight is mixed the evening before."""
    choices = [minute for minute in reversed(begins) if minute > late.start]
    later: dict[str, int] = {}
    for dough in work.doughs if choices else ():
        for minute in choices:
            found = _from(work, late.start, {**later, dough.letter: minute})
            if found is not None:
                later[dough.letter], late = minute, found
                break
    return late
