"""The quick plan: tray after tray as early as all allows.

It comes back at once, serves the solver as a first answer, and stands by when the solver has
found nothing in its time. Several orders of the doughs are tried, and the soonest is taken in
which nothing waits too long.
"""

from collections.abc import Iterable, Iterator, Mapping
from itertools import chain, pairwise, permutations

from finebatch.core.plan.bound import plain_bound
from finebatch.core.plan.by_hand import (
    baked_whole,
    by_rules,
    crowded,
    longest_first,
    mix_first,
    sensible_method,
)
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
    longest = longest_first(work)
    if len(longest) > MOST_PERMUTED:
        shortest = list(reversed(longest))
        shortest.sort(key=lambda d: d.begin_from)
        return [tuple(longest), tuple(shortest)]
    found = permutations(longest)
    return [o for o in found if all(a.begin_from <= b.begin_from for a, b in pairwise(o))]


def _by_orders(work: Work, from_min: Mapping[str, int]) -> Iterator[Times]:
    """The session with its doughs one after the other, in each of a few orders."""
    full = crowded(work)
    for order in orders(work)[:MOST_ORDERS]:
        greedy = Greedy(work)
        if not full:
            mix_first(greedy, work, from_min)
        for dough in order:
            greedy.not_before = from_min.get(dough.letter, 0)
            if not baked_whole(greedy, dough, full=full):
                for tray in work.trays_of(dough.letter):
                    greedy.tray(tray)
        greedy.clean()
        yield greedy.times


def _soonest(work: Work, found: Iterable[Times]) -> tuple[Times, bool]:
    """The soonest of them in which nothing waits too long, else the soonest of all; and whether
    nothing does."""
    ranked = sorted(found, key=lambda times: finish_of(work, times.jobs))
    kept = next((times for times in ranked if _keeps_all(work, times)), None)
    return (ranked[0], False) if kept is None else (kept, True)


def quick_times(work: Work, later: Mapping[str, int] | None = None) -> Times:
    """The deciding times of the quick plan: the soonest of a few orders and of what a strong hand
    would do. Doughs named in `later`, by letter, are not begun before that minute."""
    from_min = later or {}
    if len(work.doughs) == 1:
        return next(_by_orders(work, from_min))
    return _soonest(work, chain(_by_orders(work, from_min), by_rules(work, from_min)))[0]


def strong_hand(work: Work) -> int | None:
    """The finish (min) of a clever home baker without a computer; none where no rule of theirs
    keeps every window."""
    times, kept = _soonest(work, by_rules(work))
    return finish_of(work, times.jobs) if kept else None


def _keeps_all(work: Work, times: Times) -> bool:
    """Whether nothing waits too long: a tray of one dough can come between those of another."""
    return not find_faults(place(work, times, 0), work)


def by_hand_min(work: Work) -> int:
    """What a session takes by hand: the strong hand's minutes, or where that keeps not every
    window, the sensible one's, which may break some."""
    strong = strong_hand(work)
    return sensible_method(work) if strong is None else strong


def quick_plan(work: Work) -> Plan:
    """The quick plan, with no proof of how good it is (its bound is the plain oven work)."""
    return place(work, quick_times(work), plain_bound(work))
