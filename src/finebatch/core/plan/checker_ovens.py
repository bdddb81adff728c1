"""The ovens of a finished plan, checked: one tray a shelf, hot enough, the dial told, never alone.

Like the rest of the checker it shares no code with what makes plans.
"""

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator
from itertools import pairwise

from finebatch.core.measures.figures import dial
from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.placed import Placed
from finebatch.core.plan.work import Kitchen, Oven, Work

OFF_AFTER = 30
"""An oven is off when nobody was there for so many minutes."""

Own = dict[tuple[JobKind, int], Placed]
"""What is done with one tray, by step and round."""
Alone = dict[JobKey, Placed]


def overlaps(spans: Iterable[tuple[int, int, str]]) -> Iterator[tuple[str, str]]:
    """The names of spans (start, end, name) that are at the same time."""
    ordered = sorted(span for span in spans if span[1] > span[0])
    for i, (_, end, name) in enumerate(ordered):
        for start, _, other in ordered[i + 1 :]:
            if start >= end:
                break
            yield name, other


def _minutes(oven: Oven, before: float, after: float, tolerance: float) -> int:
    if after > before + tolerance:
        return math.ceil((after - before) / oven.rise_c_min)
    if after < before - tolerance:
        return math.ceil((before - after) / oven.fall_c_min)
    return 0


def check_ovens(work: Work, alone: Alone, by_tray: dict[str, Own]) -> Iterator[str]:
    """One tray a shelf, and every bake in an oven that is as hot as it wants."""
    places: dict[tuple[int, int], list[tuple[int, int, str]]] = defaultdict(list)
    inside: dict[int, list[tuple[Placed, Placed, Placed, int]]] = defaultdict(list)
    inside_turns = [a for own in by_tray.values() for a in own.values() if a.kind == "turn"]
    for tray in work.trays:
        for n, wanted in enumerate(tray.bakes):
            own = by_tray[tray.name]
            if any((step, n) not in own for step in ("bake", "load", "out")):
                continue
            bake, load, out = own["bake", n], own["load", n], own["out", n]
            oven, shelf = bake.oven or 0, bake.shelf or 0
            if not (0 < oven <= len(work.kitchen.ovens)):
                yield f"there is no oven {oven}"
                continue
            if not (0 < shelf <= work.kitchen.ovens[oven - 1].shelves):
                yield f"there is no shelf {shelf}"
            if tray.shelf and shelf != tray.shelf:
                yield f"{tray.name} is not on shelf {tray.shelf}"
            turn = own.get(("turn", n))
            if turn is None or turn.to_shelf is None:
                places[oven, shelf].append((load.start, out.end, f"{bake.id}"))
            else:
                moved = _swap_start(turn, inside_turns)
                places[oven, shelf].append((load.start, moved, f"{bake.id}"))
                places[oven, turn.to_shelf].append((moved, out.end, f"{bake.id}"))
                if out.shelf != turn.to_shelf or not work.kitchen.swaps:
                    yield f"{bake.id} is swapped and taken out elsewhere, or may not be swapped"
            inside[oven].append((load, bake, out, wanted.oven_c))
    for (_, shelf), spans in places.items():
        for one, other in overlaps(spans):
            yield f"shelf {shelf} holds {one} and {other} at once"
    off = _off_spans(work.kitchen)
    heats = [a for a in alone.values() if a.kind == "heat"]
    for number, stays in inside.items():
        dials = [a for a in heats if a.oven == number]
        yield from _check_dial(
            work.kitchen.ovens[number - 1], stays, dials, work.kitchen.tolerance_c
        )
        yield from _check_heat(work.kitchen.ovens[number - 1], stays, work.kitchen.tolerance_c)
        yield from _check_off(work.kitchen.ovens[number - 1], stays, off)


def _check_dial(
    oven: Oven,
    stays: list[tuple[Placed, Placed, Placed, int]],
    dials: list[Placed],
    tolerance_c: int,
) -> Iterator[str]:
    """What was told last of the dial before a tray is in is what the tray wants."""
    for _, bake, _, oven_c in stays:
        told = [a for a in dials if a.start < bake.start]
        if not told:
            yield f"nobody is told to turn the oven on for {bake.id}"
            continue
        last = max(told, key=lambda a: (a.start, a.id))
        wanted = oven_c - (20 if oven.fan else 0) - oven.offset_c
        if last.dial_c is None or abs(last.dial_c - wanted) > tolerance_c + 0.5:
            told_c = "nothing" if last.dial_c is None else dial(last.dial_c)
            yield f"{bake.id} wants {dial(wanted)} and the dial was told {told_c}"


def _off_spans(kitchen: Kitchen) -> list[tuple[int, int]]:
    """From when to when nobody who may use the oven is there, for half an hour or from the start:
    from each coming or going to the next."""
    grown = [worker for worker in kitchen.workers if "load" in worker.jobs]
    marks = sorted({mark for worker in grown for span in worker.away for mark in span})
    spans: list[tuple[int, int]] = []
    for start, end in pairwise(marks):
        if all(any(a <= start < b for a, b in worker.away) for worker in grown):
            goes_on = spans and spans[-1][1] == start
            spans.append((spans.pop()[0] if goes_on else start, end))
    return [(a, b) for a, b in spans if b - a >= OFF_AFTER or a == 0]


def _check_off(
    oven: Oven, stays: list[tuple[Placed, Placed, Placed, int]], off: list[tuple[int, int]]
) -> Iterator[str]:
    for load, bake, out, oven_c in stays:
        heated = math.ceil((oven_c - oven.room_c) / oven.rise_c_min)
        for start, end in off:
            if load.start < end and out.end > start:
                yield f"{bake.id} is in the oven with nobody there"
            if load.start >= end and load.end < end + heated:
                yield f"{bake.id} goes into an oven that was off until {end}"


def _swap_start(turn: Placed, turns: list[Placed]) -> int:
    """When two trays change places: as the first of the two is turned."""
    other = [t.start for t in turns if t.tray == turn.partner and t.partner == turn.tray]
    return min([turn.start, *other], key=lambda start: (abs(start - turn.start) > 5, start))


def _check_heat(
    oven: Oven, stays: list[tuple[Placed, Placed, Placed, int]], tolerance_c: int
) -> Iterator[str]:
    for load, bake, out, oven_c in stays:
        if load.end < math.ceil((oven_c - oven.room_c) / oven.rise_c_min):
            yield f"{bake.tray} goes into a cold oven"
        for _, later, _, later_c in stays:
            change = _minutes(oven, oven_c, later_c, tolerance_c)
            if not change or later is bake or later.start < bake.start:
                continue
            if later.start < out.end + change:
                yield f"{later.id} goes in {later.start - out.end} min after {bake.id}"
