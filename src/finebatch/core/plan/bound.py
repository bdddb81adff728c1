"""Minutes below which nobody can finish, worked out without a search."""

from itertools import pairwise

from finebatch.core.plan.network import after_last
from finebatch.core.plan.work import TrayWork, Work


def ready_min(work: Work, letter: str) -> int:
    """The soonest minute at which a dough's first tray could be portioned."""
    dough = work.dough(letter)
    made = sum(make.hands_min + make.wait_min for make in dough.makes)
    return made + dough.chill_min + dough.temper_min


def _head(work: Work, tray: TrayWork) -> int:
    """The soonest end of a tray's first loading."""
    k = work.kitchen
    ready = ready_min(work, tray.dough) + tray.portion_min + k.load_min
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
        between = (len(tray.bakes) - 1) * (k.out_min + tray.rest_min + tray.slice_min + k.load_min)
        return _head(work, tray) + sum(b.length for b in tray.bakes) + between + _after(work, tray)

    longest = max(chain(tray) for tray in work.trays)
    stay = k.load_min + k.out_min
    total = sum(bake.length + stay for tray in work.trays for bake in tray.bakes)
    busy = -(-total // k.shelves) - stay
    changes = _least_changes(work)
    first = min(_head(work, tray) for tray in work.trays)
    last = min(_after(work, tray) for tray in work.trays)
    return max(longest, first + busy + changes + last)


def _least_changes(work: Work) -> int:
    """Minutes that one oven spends at the least in changing its setting."""
    k = work.kitchen
    if len(k.ovens) > 1:
        return 0
    settings: list[int] = []
    for oven_c in sorted({b.oven_c for tray in work.trays for b in tray.bakes}):
        if not settings or oven_c - settings[-1] > k.tolerance_c:
            settings.append(oven_c)
    oven = k.ovens[0]
    steps = [
        min(oven.change_min(a, b, k.tolerance_c), oven.change_min(b, a, k.tolerance_c))
        for a, b in pairwise(settings)
    ]
    # Between changes all shelves are empty; the last load of one setting may leave some idle.
    return sum(steps)
