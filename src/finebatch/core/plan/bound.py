"""Minutes below which nobody can finish, worked out without a search."""

import math
from collections.abc import Iterable
from functools import reduce
from itertools import pairwise, permutations

from finebatch.core.plan.network import after_last, network
from finebatch.core.plan.work import Span, TrayWork, Work, in_both, merged

NOT_WAITED_FOR = ("wash", "freeze", "clear")
"""Jobs that nothing that is baked waits for."""
MOST_ORDERED = 6
"""Groups of settings whose orders are all gone through."""


def _head(work: Work, tray: TrayWork) -> int:
    """The soonest end of a tray's first loading."""
    k = work.kitchen
    dough = work.dough(tray.dough)
    begin = max(dough.begin_from + dough.ready_min, dough.bake_from)
    ready = begin + tray.portion_min + tray.stand_min + k.load_min
    return max(ready, min(oven.heat_min(tray.bakes[0].oven_c) for oven in k.ovens))


def _after(work: Work, tray: TrayWork) -> int:
    """The least minutes from the end of a tray's last bake to its being ready."""
    k = work.kitchen
    last = tray.cool_min + tray.finish_min if tray.finish_min else 0
    return k.out_min + tray.shape_min + tray.rest_min + k.rack_min + last + after_last(tray)


def plain_bound(work: Work) -> int:
    """The longest chain of one tray, and the shelves' work from the first load to the last."""
    k = work.kitchen

    def chain(tray: TrayWork) -> int:
        between = (len(tray.bakes) - 1) * (
            k.out_min + tray.before_cut_min + tray.slice_min + k.load_min
        )
        return _head(work, tray) + sum(b.length for b in tray.bakes) + between + _after(work, tray)

    longest = max(chain(tray) for tray in work.trays)
    stay = k.load_min + k.out_min
    total = sum(bake.length + stay for tray in work.trays for bake in tray.bakes)
    busy = -(-total // k.shelves) - stay
    first = min(_head(work, tray) for tray in work.trays)
    last = min(_after(work, tray) for tray in work.trays)
    baked = first + busy + _least_changes(work)
    return max(longest, max(baked, past(_oven_off(work), first, busy)) + last, _by_hands(work))


def past(spans: Iterable[Span], start: int, minutes: int) -> int:
    """When so many minutes are over from `start` on that lie in none of the spans."""
    end = start + minutes
    for a, b in merged(spans):
        if b > start and a < end:
            end += b - max(a, start)
    return end


def _oven_off(work: Work) -> list[Span]:
    """When no oven can hold a tray: off while nobody is there, and not hot at once after."""
    k = work.kitchen
    hot = min(oven.heat_min(oven_c) for oven in k.ovens for oven_c in work.settings_c)
    return [(a, b + max(hot - k.load_min, 0)) for a, b in k.unattended]


def _by_hands(work: Work) -> int:
    """All that hands do for what is baked, shared by all of them and none while nobody is there,
    and after it what the quickest tray needs to be ready."""
    net = network(work)
    minutes = sum(job.minutes for job in net.jobs.values() if job.kind not in NOT_WAITED_FOR)
    nobody = reduce(in_both, (merged(worker.away) for worker in work.kitchen.workers))
    done = past(nobody, 0, -(-minutes // len(work.kitchen.workers)))
    return done + min(after_last(tray) for tray in work.trays)


def _least_changes(work: Work) -> int:
    """Minutes for which one oven stands idle at the least while its setting changes.

    Settings that lie within the tolerance of each other, one by one, are gone through for nothing:
    only from one such group to the next there is a change. Its last minutes may be those in which
    the next tray is loaded.
    """
    k = work.kitchen
    if len(k.ovens) > 1:
        return 0
    groups: list[tuple[int, int]] = []
    for oven_c in work.settings_c:
        if groups and oven_c - groups[-1][1] <= k.tolerance_c:
            groups[-1] = (groups[-1][0], oven_c)
        else:
            groups.append((oven_c, oven_c))
    oven = k.ovens[0]

    def change(a: tuple[int, int], b: tuple[int, int]) -> int:
        before, after = (a[1], b[0]) if a < b else (a[0], b[1])
        return max(oven.change_min(before, after, k.tolerance_c) - k.load_min, 0)

    if len(groups) <= MOST_ORDERED:
        return min(sum(change(a, b) for a, b in pairwise(order)) for order in permutations(groups))
    # Too many to go through: each gap is crossed once, in the quicker direction.
    fastest = max(oven.rise_c_min, oven.fall_c_min)
    crossed = sum((b[0] - a[1]) / fastest - k.load_min for a, b in pairwise(groups))
    return max(math.floor(crossed), 0)
