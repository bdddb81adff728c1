"""The quick plan: one tray after the other, each job as early as hands, shelf and sheet allow.

It comes back at once, serves the solver as a first answer, and stands by when the solver has
found nothing in its time.
"""

from finebatch.core.plan.schedule import BakeTimes, Plan, Times, TrayTimes, place
from finebatch.core.plan.work import Kitchen, TrayWork, Work

Span = tuple[int, int]


class _Hands:
    """The one pair of hands: busy spans, and the first moment at which a set of jobs fits."""

    def __init__(self) -> None:
        self._busy: list[Span] = []

    def free(self, start: int, end: int) -> bool:
        return all(end <= a or start >= b for a, b in self._busy)

    def take(self, *spans: Span) -> None:
        self._busy += spans

    def earliest(self, start: int, length: int) -> int:
        while not self.free(start, start + length):
            start += 1
        return start


def _bake(
    hands: _Hands, shelves: list[int], tray: TrayWork, n: int, ready: int, k: Kitchen
) -> BakeTimes:
    """Put one bake where a shelf and, at loading, turning and taking out, the hands are free."""
    bake = tray.bakes[n]
    shelf = min(range(len(shelves)), key=lambda s: (shelves[s], s))
    start = max(ready, shelves[shelf]) + k.load_min
    while True:
        end = start + bake.length
        jobs = [(start - k.load_min, start), (end, end + k.out_min)]
        turn = start + bake.turn_after if bake.turn_after is not None else None
        if turn is not None:
            jobs.append((turn, turn + k.turn_min))
        if all(hands.free(*job) for job in jobs):
            break
        start += 1
    hands.take(*jobs)
    shelves[shelf] = end + k.out_min
    return BakeTimes(start, end, turn)


def quick_times(work: Work) -> Times:
    """The deciding times of the quick plan."""
    k, hands = work.kitchen, _Hands()
    mix_end = work.dough.mix_min
    hands.take((0, mix_end))
    # A tray may go in the minute the oven is hot, so the door opens for it just before.
    sheets, shelves = [0] * k.sheets, [k.oven_heat_min - k.load_min] * k.shelves
    found: list[TrayTimes] = []
    for tray in work.trays:
        sheet = min(range(k.sheets), key=lambda s: (sheets[s], s))
        ready = max(mix_end + work.dough.chill_min, sheets[sheet])
        # Portioning too early only makes dough wait in the warm room.
        ready = max(ready, min(shelves) - tray.portion_min)
        portion = hands.earliest(ready, tray.portion_min)
        hands.take((portion, portion + tray.portion_min))
        bakes = [_bake(hands, shelves, tray, 0, portion + tray.portion_min, k)]
        sliced = None
        if len(tray.bakes) > 1:
            sliced = hands.earliest(bakes[0].end + k.out_min + tray.rest_min, tray.slice_min)
            hands.take((sliced, sliced + tray.slice_min))
            bakes.append(_bake(hands, shelves, tray, 1, sliced + tray.slice_min, k))
        rack = hands.earliest(bakes[-1].end + k.out_min + tray.rest_min, k.rack_min)
        hands.take((rack, rack + k.rack_min))
        sheets[sheet] = rack + k.rack_min + k.sheet_ready_min
        found.append(TrayTimes(portion, portion + tray.portion_min, tuple(bakes), sliced, rack))
    return Times(0, mix_end, tuple(found))


def quick_plan(work: Work) -> Plan:
    """The quick plan, with no proof of how good it is (its bound is the plain oven work)."""
    return place(work, quick_times(work), plain_bound(work))


def plain_bound(work: Work) -> int:
    """Minutes below which nobody can finish: the longest chain, and the shelves' work."""
    k = work.kitchen

    def tail(tray: TrayWork) -> int:
        return k.out_min + tray.rest_min + k.rack_min + tray.cool_min

    ready = work.dough.mix_min + work.dough.chill_min
    head = max(ready + min(t.portion_min for t in work.trays) + k.load_min, k.oven_heat_min)
    stay = k.load_min + k.out_min
    oven = sum(bake.length + stay for tray in work.trays for bake in tray.bakes)
    busy = -(-oven // k.shelves) - stay
    return head + busy + min(tail(tray) for tray in work.trays)
