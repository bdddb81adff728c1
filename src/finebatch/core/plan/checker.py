"""An independent check of a finished plan: does it keep every rule, read off its activities alone?

Shares no code with the quick plan, the model or its network: it reads the work and the plan.
"""

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator
from itertools import pairwise

from finebatch.core.plan.keys import JobKey, Kind
from finebatch.core.plan.schedule import Placed, Plan
from finebatch.core.plan.work import DoughWork, Kitchen, Oven, TrayWork, Work

HANDS = (
    "mix",
    "take",
    "part",
    "freeze",
    "portion",
    "load",
    "turn",
    "out",
    "shape",
    "slice",
    "rack",
    "finish",
)

OFF_AFTER = 30
"""An oven is off when nobody was there for so many minutes."""

Own = dict[tuple[Kind, int], Placed]
"""What is done with one tray, by step and round."""
Alone = dict[JobKey, Placed]


def _overlaps(spans: Iterable[tuple[int, int, str]]) -> Iterator[tuple[str, str]]:
    ordered = sorted(span for span in spans if span[1] > span[0])
    for i, (_, end, name) in enumerate(ordered):
        for start, _, other in ordered[i + 1 :]:
            if start >= end:
                break
            yield name, other


def _most_at_once(spans: Iterable[tuple[int, int]]) -> int:
    steps = sorted(
        [(start, 1) for start, end in spans if end > start]
        + [(end, -1) for start, end in spans if end > start]
    )
    most = now = 0
    for _, step in steps:
        now += step
        most = max(most, now)
    return most


def _busy_min(a: Placed) -> int:
    """Minutes of an activity without those for which it is broken off."""
    low, high = a.pause or (0, 0)
    return a.end - a.start - (high - low)


def _check_lengths(tray: TrayWork, own: Own) -> Iterator[str]:
    rounds = range(len(tray.bakes))
    wanted: dict[tuple[Kind, int], int] = {
        ("portion", 0): tray.portion_min,
        ("cool", 0): tray.cool_min,
        **{("bake", n): tray.bakes[n].length for n in rounds},
    }
    if len(tray.bakes) > 1:
        wanted["slice", 0] = tray.slice_min
    if tray.shape_min:
        wanted["shape", 0] = tray.shape_min
    if tray.finish_min:
        wanted["finish", 0] = tray.finish_min
        if tray.set_min:
            wanted["set", 0] = tray.set_min
    needed: list[tuple[Kind, int]] = [("load", n) for n in rounds]
    needed += [("out", n) for n in rounds]
    needed += [("rack", 0), ("sheet", 0), *wanted]
    yield from (
        f"there is no {JobKey(tray.name, step, n)}" for step, n in needed if (step, n) not in own
    )
    for step, n in (key for key in wanted if key in own):
        took = _busy_min(own[step, n])
        if took != wanted[step, n]:
            yield f"{JobKey(tray.name, step, n)} takes {took}, not {wanted[step, n]}"


def _check_bake(tray: TrayWork, own: Own, n: int, work: Work) -> Iterator[str]:
    bake, load, out = own["bake", n], own["load", n], own["out", n]
    raw_from = own["slice" if n else "portion", 0].end
    if load.start < raw_from:
        yield f"{tray.name} goes in before it is made"
    if load.start - raw_from > work.kitchen.raw_wait_min:
        yield f"{tray.name} waits {load.start - raw_from} min for the oven"
    if load.end != bake.start or out.start != bake.end:
        yield f"{tray.name} is not loaded or taken out at its bake's ends"
    turn = own.get(("turn", n))
    half = tray.bakes[n].turn_after
    if (turn is None) != (half is None):
        yield f"{tray.name} has a turn too many or too few"
    if turn is not None and half is not None:
        if not bake.start <= turn.start <= turn.end <= bake.end:
            yield f"{tray.name} is turned outside its bake"
        elif abs(turn.start - bake.start - half) > 1:
            yield f"{tray.name} is turned at {turn.start - bake.start}, not {half}"


def _check_tray(tray: TrayWork, own: Own, work: Work) -> Iterator[str]:
    k = work.kitchen
    for n in range(len(tray.bakes)):
        yield from _check_bake(tray, own, n, work)
        if n:
            rested = own["slice", 0].start - own["out", 0].end
            if not tray.rest_min <= rested <= tray.rest_min + k.rest_over_min:
                yield f"{tray.name} rests {rested} min before it is sliced"
    here = own["out", len(tray.bakes) - 1].end
    if tray.shape_min:
        wait = own["shape", 0].start - here
        if not 0 <= wait <= tray.shape_within:
            yield f"{tray.name} is shaped {wait} min after it is out"
        here = own["shape", 0].end
    rested = own["rack", 0].start - here
    if not tray.rest_min <= rested <= tray.rest_min + k.rest_over_min:
        yield f"{tray.name} rests {rested} min on the sheet"
    if own["cool", 0].start < own["rack", 0].end:
        yield f"{tray.name} cools before it is on the rack"
    if tray.finish_min and own["finish", 0].start < own["cool", 0].end:
        yield f"{tray.name} is finished before it is cold"


def _check_windows(dough: DoughWork, tray: str, waited: int, *, first: bool) -> Iterator[str]:
    """When a tray is portioned, `waited` minutes after the dough was mixed or taken out."""
    over = waited - dough.temper_min
    if over < dough.chill_min:
        yield f"{tray} is portioned before the dough is ready"
    if dough.chill_most is not None and over > dough.chill_most:
        yield f"{tray} is portioned after the dough has been cold too long"
    if first and dough.first_within is not None and over > dough.first_within:
        yield f"{tray} is portioned {over} min after the dough is tempered"


def _check_dough(
    dough: DoughWork, alone: Alone, trays: dict[str, Own], work: Work
) -> Iterator[str]:
    """Its steps in order, its windows before portioning, its parts in time."""
    letter, ready, last = dough.letter, 0, None
    for n, make in enumerate(dough.makes):
        step = alone[JobKey(letter, make.kind, n)]
        if step.start < ready:
            yield f"{step.id} begins before the step before it is over"
        if step.end - step.start != make.hands_min:
            yield f"{step.id} takes {step.end - step.start}, not {make.hands_min}"
        ready, last = step.end + make.wait_min, step.end
    for tray in work.trays_of(letter):
        own = trays[tray.name]
        portion, load = own["portion", 0], own["load", 0]
        if last is not None:
            first = tray.name == work.trays_of(letter)[0].name
            yield from _check_windows(dough, tray.name, portion.start - ready, first=first)
            if dough.bake_within is not None and load.start - last > dough.bake_within:
                yield f"{tray.name} goes in {load.start - last} min after mixing"
        for n, part in enumerate(dough.parts):
            made = alone[JobKey(letter, "part", n)]
            wanted = own.get((part.wanted, 0))
            if wanted is not None and made.end > wanted.start:
                yield f"{made.id} is not ready for {tray.name}"
        if tray.scraps:
            others = [
                trays[t.name]["portion", 0].end for t in work.trays_of(letter) if not t.scraps
            ]
            if any(portion.start < end + dough.scrap_chill_min for end in others):
                yield f"{tray.name} is rolled before the scraps are chilled"


def find_faults(plan: Plan, work: Work) -> list[str]:
    """Every rule that the plan breaks, in words; an empty list for a good plan."""
    faults: list[str] = []
    by_tray: dict[str, Own] = defaultdict(dict)
    for a in plan.activities:
        if a.start < 0 or a.end < a.start:
            faults.append(f"{a.id} runs from {a.start} to {a.end}")
        if a.tray is not None:
            by_tray[a.tray][a.id.step, a.id.round] = a
    alone = {a.id: a for a in plan.activities if a.tray is None}
    whole = True
    for tray in work.trays:
        missing = list(_check_lengths(tray, by_tray[tray.name]))
        faults += missing or list(_check_tray(tray, by_tray[tray.name], work))
        whole &= not missing
    if whole:
        for dough in work.doughs:
            faults += _check_dough(dough, alone, by_tray, work)
    faults += _check_hands(plan, work)
    faults += _check_ovens(work, alone, by_tray)
    faults += _check_rooms(work, alone, by_tray)
    starts = {a.id: a.start for a in plan.activities}
    faults += [
        f"{pin.job} is not at {pin.start}"
        for pin in work.pins
        if starts.get(pin.job, pin.start) != pin.start
    ]
    if plan.finish != max(a.end for a in plan.activities if a.kind in ("cool", "set", "finish")):
        faults.append("the finish is not when the last tray is ready")
    return faults


def _check_hands(plan: Plan, work: Work) -> Iterator[str]:
    workers = work.kitchen.workers
    by_hand: dict[int, list[tuple[int, int, str]]] = defaultdict(list)
    sharp = {tray.name for tray in work.trays if tray.sharp}
    for a in plan.activities:
        if a.kind not in HANDS:
            continue
        who = a.who or 0
        if who >= len(workers):
            yield f"nobody does {a.id}"
        elif a.kind not in workers[who].jobs:
            yield f"{workers[who].name} may not do {a.id}"
        elif a.kind == "portion" and a.tray in sharp and "slice" not in workers[who].jobs:
            yield f"{workers[who].name} may not slice {a.tray}"
        else:
            if a.pause is not None:
                yield from _check_pause(a, plan, work)
            low, high = a.pause or (a.end, a.end)
            by_hand[who] += [(a.start, low, f"{a.id}"), (high, a.end, f"{a.id}")]
    for who, jobs in by_hand.items():
        for one, other in _overlaps(jobs):
            yield f"two jobs at once for one pair of hands: {one} and {other}"
        for start, end in workers[who].away:
            for one in (key for a, b, key in jobs if a < end and b > start and b > a):
                yield f"{one} is to be done while {workers[who].name} is away"
    mixing = [(a.start, a.end) for a in plan.activities if a.kind == "mix"]
    if _most_at_once(mixing) > work.kitchen.mixers:
        yield "more doughs are mixed at once than there are mixers"


def _check_pause(a: Placed, plan: Plan, work: Work) -> Iterator[str]:
    """Only portioning is broken off, briefly, inside itself, and for nothing but the oven."""
    low, high = a.pause or (0, 0)
    if not work.kitchen.interrupts or a.kind != "portion":
        yield f"{a.id} may not be broken off"
    if not a.start < low < high < a.end or high - low > 4:
        yield f"{a.id} is broken off from {low} to {high}"
    for b in plan.activities:
        meanwhile = b.who == a.who and b is not a and b.start < high and b.end > low
        if meanwhile and b.kind in HANDS and b.kind not in ("load", "turn", "out", "shape", "rack"):
            yield f"{a.id} is broken off for {b.id}"


def _minutes(oven: Oven, before: float, after: float, tolerance: float) -> int:
    if abs(after - before) <= tolerance:
        return 0
    rate = oven.rise_c_min if after > before else oven.fall_c_min
    return math.ceil(abs(after - before) / rate)


def _check_ovens(work: Work, alone: Alone, by_tray: dict[str, Own]) -> Iterator[str]:
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
        for one, other in _overlaps(spans):
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
        if abs((last.dial_c or 0) - wanted) > tolerance_c + 0.5:
            yield f"{bake.id} wants {wanted:g} °C and the dial was told {last.dial_c}"


def _off_spans(kitchen: Kitchen) -> list[tuple[int, int]]:
    """From when to when nobody who may use the oven is there, for half an hour or from the start:
    minute by minute."""
    grown = [worker for worker in kitchen.workers if "load" in worker.jobs]
    last = max((end for worker in grown for _, end in worker.away), default=0)
    alone = [
        all(any(a <= minute < b for a, b in worker.away) for worker in grown)
        for minute in range(last + 1)
    ]
    edges = [m for m in range(last + 1) if alone[m] != (m > 0 and alone[m - 1])]
    spans = zip(edges[::2], edges[1::2], strict=True)
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


def _check_rooms(work: Work, alone: Alone, by_tray: dict[str, Own]) -> Iterator[str]:
    k = work.kitchen
    sheets: dict[int, list[tuple[int, int, str]]] = defaultdict(list)
    racked = []
    for name, own in by_tray.items():
        if any((step, 0) not in own for step in ("portion", "load", "rack", "sheet", "cool")):
            continue
        first = own["load", 0] if k.slides else own["portion", 0]
        sheets[own["portion", 0].sheet or 0].append((first.start, own["sheet", 0].end, name))
        racked.append((own["cool", 0].start, own["cool", 0].end))
        if own["sheet", 0].end - own["rack", 0].end != k.sheet_ready_min:
            yield f"the sheet of {name} is not given time to cool"
    pool_of = {tray.name: tray.pool for tray in work.trays}
    kinds = [pool for pool, there in enumerate(k.pools) for _ in range(there)]
    for number, stays in sheets.items():
        if not 0 < number <= len(kinds):
            yield f"there is no sheet {number}"
        else:
            wrong = [name for _, _, name in stays if pool_of[name] != kinds[number - 1]]
            yield from (f"{name} is on a sheet of another kind" for name in wrong)
    for number, stays in sheets.items():
        for one, other in _overlaps(stays):
            yield f"sheet {number} holds {one} and {other} at once"
    if _most_at_once(racked) > k.racks:
        yield "more trays cool than the rack holds"
    cold = []
    for dough in work.doughs:
        if dough.chill_min and dough.makes and dough.makes[0].kind == "mix":
            mixed = alone[JobKey(dough.letter, "mix", len(dough.makes) - 1)]
            trays = [
                by_tray[t.name]["portion", 0].start
                for t in work.trays_of(dough.letter)
                if ("portion", 0) in by_tray[t.name]
            ]
            cold.append((mixed.end, max(trays, default=mixed.end)))
    if _most_at_once(cold) > k.fridge:
        yield "more doughs are cold than the fridge holds"
    yield from _check_bowls(work, alone, by_tray)


def _check_bowls(work: Work, alone: Alone, by_tray: dict[str, Own]) -> Iterator[str]:
    """A bowl for each dough until it is chilled or portioned; none too long in the warm."""
    kept = []
    for dough in work.doughs:
        own = [by_tray[t.name] for t in work.trays_of(dough.letter)]
        if (
            not dough.makes
            or not own
            or any(("portion", 0) not in o or ("load", 0) not in o for o in own)
        ):
            continue
        if dough.makes[0].kind == "take":
            continue
        last = alone[JobKey(dough.letter, "mix", len(dough.makes) - 1)]
        ready = last.end + dough.makes[-1].wait_min
        emptied = ready if dough.chill_min else max(o["portion", 0].end for o in own)
        kept.append((alone[JobKey(dough.letter, "mix")].start, emptied))
        if dough.chill_min or dough.temper_min:
            continue
        cold = [
            (a.start, a.end)
            for a in alone.values()
            if a.kind == "chill" and a.dough == dough.letter
        ]
        warm = max(o["load", 0].start for o in own) - ready - sum(b - a for a, b in cold)
        uses = sorted((o["portion", 0].start, o["portion", 0].end) for o in own)
        idle = [(end, start) for (_, end), (start, _) in pairwise([(0, ready), *uses])]
        if warm > 120 and any(b - a >= 10 and (a, b) not in cold for a, b in idle):
            yield f"dough {dough.letter} is warm for {warm} min"
    if _most_at_once(kept) > work.kitchen.bowls:
        yield "more doughs wait in bowls than there are"
