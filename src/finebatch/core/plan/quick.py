"""The quick plan: tray after tray as early as all allows.

It comes back at once, serves the solver as a first answer, and stands by when the solver has
found nothing in its time. Several orders of the doughs are tried, and the soonest is taken in
which nothing waits too long.
"""

from collections.abc import Mapping
from itertools import permutations

from finebatch.core.plan.bound import plain_bound
from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.greedy import Greedy
from finebatch.core.plan.placed import Plan, Times
from finebatch.core.plan.schedule import finish_of, place
from finebatch.core.plan.work import DoughWork, Work

MOST_ORDERS = 6
MOST_PERMUTED = 4
"""With more doughs only two orders are tried: longest wait first, and soonest ready first."""


def orders(work: Work) -> list[tuple[DoughWork, ...]]:
    """Orders of the doughs worth trying: longest wait first, then the rest by permutation."""
    longest = sorted(work.doughs, key=lambda d: (-d.ready_min, d.letter))
    if len(longest) > MOST_PERMUTED:
        return [tuple(longest), tuple(reversed(longest))]
    return list(permutations(longest))


def _crowded(work: Work) -> bool:
    """Whether there are more doughs than bowls or places in the fridge."""
    mixed = [dough for dough in work.doughs if dough.makes and not dough.from_cold]
    return len(mixed) > min(work.kitchen.bowls, work.kitchen.fridge)


def quick_times(work: Work, later: Mapping[str, int] | None = None) -> Times:
    """The deciding times of the quick plan: the soonest of a few orders. Doughs named in `later`,
    by letter, are not begun before that minute."""
    from_min = later or {}
    found: list[tuple[int, Times]] = []
    crowded = _crowded(work)
    for order in orders(work)[:MOST_ORDERS]:
        greedy = Greedy(work)
        if not crowded:
            for dough in sorted(work.doughs, key=lambda d: (-d.ready_min, d.letter)):
                if not dough.may_not_wait:
                    greedy.not_before = from_min.get(dough.letter, 0)
                    greedy.dough(dough)
        for dough in order:
            greedy.not_before = from_min.get(dough.letter, 0)
            if crowded:
                greedy.in_turn(dough)
            elif dough.may_not_wait:
                greedy.batch(dough)
            else:
                for tray in work.trays_of(dough.letter):
                    greedy.tray(tray)
        greedy.clean()
        found.append((finish_of(work, greedy.jobs), greedy.times))
    soonest = [times for _, times in sorted(found, key=lambda pair: pair[0])]
    if len(soonest) == 1:
        return soonest[0]
    return next((times for times in soonest if _keeps_all(work, times)), soonest[0])


def _keeps_all(work: Work, times: Times) -> bool:
    """Whether nothing waits too long: a tray of one dough can come between those of another."""
    return not find_faults(place(work, times, 0), work)


def quick_plan(work: Work) -> Plan:
    """The quick plan, with no proof of how good it is (its bound is the plain oven work)."""
    return place(work, quick_times(work), plain_bound(work))
