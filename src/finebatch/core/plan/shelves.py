"""Which sheet and which shelf: given out once the times are known."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations

from finebatch.core.plan.keys import JobKey


def colour(spans: Sequence[tuple[int, int]], colours: int) -> list[int]:
    """Give each (start, end) span the lowest number from 0 that is free then."""
    free_at = [0] * colours
    chosen = [0] * len(spans)
    for k in sorted(range(len(spans)), key=lambda k: spans[k]):
        start, end = spans[k]
        free = [c for c in range(colours) if free_at[c] <= start]
        # More trays than places cannot happen in a plan that keeps its limits.
        pick = free[0] if free else min(range(colours), key=lambda c: free_at[c])
        free_at[pick] = end
        chosen[k] = pick
    return chosen


@dataclass(frozen=True, slots=True)
class Held:
    """A stay in an oven: from when to when, when the tray is turned (none: it is not), and the
    shelf that is known already; `pinned` when the baker wants it there."""

    key: JobKey
    start: int
    end: int
    shelf: int | None
    turned: int | None
    pinned: bool = False


@dataclass(frozen=True, slots=True)
class ShelfSwap:
    """A turn at which a tray goes to the other's shelf, counted from 0."""

    turn: JobKey
    other: JobKey
    to_shelf: int


def give_shelves(
    held: Sequence[Held], shelves: int, together: int | None
) -> tuple[Mapping[JobKey, int], tuple[ShelfSwap, ...]]:
    """The shelf (from 0) on which each stay begins, and which trays swap at half time.

    Two trays swap when their turns begin within `together` minutes of each other; none do where it
    is not given, or where a shelf is pinned.
    """
    if together is None or shelves < 2 or any(h.pinned for h in held):
        given = colour([(h.start, h.end) for h in held], shelves)
        return {
            h.key: shelf if h.shelf is None else h.shelf
            for h, shelf in zip(held, given, strict=True)
        }, ()
    return _swapping(held, shelves, _pairs(held, together))


def _pairs(held: Sequence[Held], together: int) -> list[tuple[Held, Held]]:
    """Trays that are turned together, each in one pair, the nearest first."""
    turned = sorted((h for h in held if h.turned is not None), key=lambda h: (h.turned, h.key))
    near = sorted(
        (abs((a.turned or 0) - (b.turned or 0)), a.turned or 0, a.key, a, b)
        for a, b in combinations(turned, 2)
        if abs((a.turned or 0) - (b.turned or 0)) <= together
        and max(a.start, b.start) < min(a.turned or 0, b.turned or 0)
    )
    taken: set[JobKey] = set()
    found = []
    for _, _, _, a, b in near:
        if not {a.key, b.key} & taken:
            taken |= {a.key, b.key}
            found.append((a, b))
    return found


def _swapping(
    held: Sequence[Held], shelves: int, pairs: Sequence[tuple[Held, Held]]
) -> tuple[Mapping[JobKey, int], tuple[ShelfSwap, ...]]:
    """Shelves given out in the order of what happens: out, swap, in."""
    out, swap, into = 0, 1, 2
    happens: list[tuple[int, int, JobKey, tuple[Held, ...]]] = [
        (h.end, out, h.key, (h,)) for h in held
    ]
    happens += [(h.start, into, h.key, (h,)) for h in held]
    happens += [(min(a.turned or 0, b.turned or 0), swap, a.key, (a, b)) for a, b in pairs]
    on: dict[JobKey, int] = {}
    begins: dict[JobKey, int] = {}
    swaps: list[ShelfSwap] = []
    for _, what, _, who in sorted(happens, key=lambda event: event[:3]):
        if what == into:
            free = [shelf for shelf in range(shelves) if shelf not in on.values()]
            # More trays than shelves cannot happen in a plan that keeps its limits.
            on[who[0].key] = begins[who[0].key] = free[0] if free else 0
        elif what == out:
            on.pop(who[0].key, None)
        else:
            a, b = who
            on[a.key], on[b.key] = on[b.key], on[a.key]
            for one, other in ((a, b), (b, a)):
                swaps.append(ShelfSwap(one.key.to("turn"), other.key, on[one.key]))
    return begins, tuple(swaps)
