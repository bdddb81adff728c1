"""An independent check of a finished plan: does it keep every rule, read off its activities alone?

Shares no code with the quick plan, the model or its network: it reads the work and the plan.
"""

from collections import defaultdict
from collections.abc import Generator, Iterator
from itertools import pairwise

from finebatch.core.plan.checker_ovens import Alone, Own, check_ovens, overlaps
from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.placed import Placed, Plan
from finebatch.core.plan.work import DoughWork, Span, TrayWork, Work, merged

HANDS = (
    "ready",
    "mix",
    "form",
    "fetch",
    "take",
    "wash",
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
    "clear",
)


def _most_at_once(spans: list[tuple[int, int]]) -> int:
    steps = sorted([(start, 1) for start, _ in spans] + [(end, -1) for _, end in spans])
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
    wanted: dict[tuple[JobKind, int], int] = {
        ("portion", 0): tray.portion_min,
        ("cool", 0): tray.cool_min,
        **{("bake", n): tray.bakes[n].length for n in rounds},
    }
    if len(tray.bakes) > 1:
        wanted["slice", 0] = tray.slice_min
    if tray.shape_min:
        wanted["shape", 0] = tray.shape_min
    if tray.stand_min:
        wanted["stand", 0] = tray.stand_min
    if tray.finish_min:
        wanted["finish", 0] = tray.finish_min
        if tray.set_min:
            wanted["set", 0] = tray.set_min
    needed: list[tuple[JobKind, int]] = [("load", n) for n in rounds]
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
    stand = 0 if n else tray.stand_min
    if load.start < raw_from + stand:
        yield f"{tray.name} goes in before it is made"
    if load.start - raw_from - stand > work.kitchen.raw_wait_min:
        yield f"{tray.name} waits {load.start - raw_from} min for the oven"
    if load.end != bake.start or out.start != bake.end:
        yield f"{tray.name} is not loaded or taken out at its bake's ends"
    turn = own.get(("turn", n))
    half = tray.bakes[n].turn_after
    if (turn is None) != (half is None):
        yield f"{tray.name} has a turn too many or too few"
    if turn is not None and half is not None:
        if turn.start < bake.start or turn.end > bake.end:
            yield f"{tray.name} is turned outside its bake"
        elif abs(turn.start - bake.start - half) > 1:
            yield f"{tray.name} is turned at {turn.start - bake.start}, not {half}"


def _check_tray(tray: TrayWork, own: Own, work: Work) -> Iterator[str]:
    k = work.kitchen
    for n in range(len(tray.bakes)):
        yield from _check_bake(tray, own, n, work)
        if n:
            rested = own["slice", 0].start - own["out", 0].end
            least = tray.rest_min if tray.cut_rest_min is None else tray.cut_rest_min
            if not least <= rested <= least + k.rest_over_min:
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
    if dough.fetch_min and dough.makes:
        if over < 0:
            yield f"{tray} is portioned before the dough is ready"
        if first and over > dough.fetched_within:
            yield f"{tray} is portioned {over} min after the dough is tempered"
        return
    if over < dough.chill_min:
        yield f"{tray} is portioned before the dough is ready"
    if dough.chill_most is not None and over > dough.chill_most:
        yield f"{tray} is portioned after the dough has been cold too long"
    if first and dough.first_within is not None and over > dough.first_within:
        yield f"{tray} is portioned {over} min after the dough is tempered"


def _check_fetch(dough: DoughWork, fetch: Placed, ready: int) -> Iterator[str]:
    """How long a dough, `ready` to be chilled at that minute, is in the cold."""
    cold = fetch.start - ready
    if fetch.end - fetch.start != dough.fetch_min:
        yield f"{fetch.id} takes {fetch.end - fetch.start}, not {dough.fetch_min}"
    if cold < dough.chill_min:
        yield f"{fetch.id} is after {cold} min in the cold, not {dough.chill_min}"
    if dough.chill_most is not None and cold > dough.chill_most:
        yield f"{fetch.id} is after {cold} min in the cold, more than {dough.chill_most}"


Lots = list[tuple[int, int | None]]


def _check_made(dough: DoughWork, alone: Alone) -> Generator[str, None, Lots]:
    """Got ready, mixed, formed and fetched in order; of each lot when it is ready to be portioned
    but for its tempering, and when the last of that ended but for the fetching."""
    letter, ready, last = dough.letter, 0, None
    for n, make in enumerate(dough.before):
        step = alone[JobKey(letter, "ready", n)]
        if step.end - step.start != make.hands_min:
            yield f"{step.id} takes {step.end - step.start}, not {make.hands_min}"
        ready = max(ready, step.end + make.wait_min)
    done: dict[str, int] = defaultdict(int)
    lots: list[tuple[int, int | None]] = []
    for n, make in enumerate(dough.makes, start=1):
        step = alone[JobKey(letter, make.kind, done[make.kind])]
        done[make.kind] += 1
        if step.start < ready:
            yield f"{step.id} begins before the step before it is over"
        if step.end - step.start != make.hands_min:
            yield f"{step.id} takes {step.end - step.start}, not {make.hands_min}"
        ready, last = step.end + make.wait_min, step.end
        if n % (len(dough.makes) // dough.lots) == 0:
            lots.append((ready, last))
            ready = step.end
    if dough.fetch_min and last is not None:
        fetch = alone[JobKey(letter, "fetch")]
        yield from _check_fetch(dough, fetch, lots[-1][0])
        lots = [(fetch.end, last)]
    return lots or [(ready, last)]


def _check_dough(
    dough: DoughWork, alone: Alone, trays: dict[str, Own], work: Work
) -> Iterator[str]:
    """Its steps in order, its windows before portioning, its parts in time."""
    letter = dough.letter
    if any(
        trays[tray.name]["portion", 0].start < dough.bake_from for tray in work.trays_of(letter)
    ):
        yield f"{letter} is portioned before minute {dough.bake_from}"
    lots = yield from _check_made(dough, alone)
    for tray in work.trays_of(letter):
        own, (ready, last) = trays[tray.name], lots[tray.lot]
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
            early = part.within_min is not None and tray is work.trays_of(letter)[0]
            if wanted is not None and early and wanted.start - made.end > (part.within_min or 0):
                yield f"{made.id} is {wanted.start - made.end} min before {tray.name}"
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
    faults += _check_clean(plan, work)
    faults += check_ovens(work, alone, by_tray)
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
                yield from _check_pause(a, a.pause, plan, work)
            low, high = a.pause or (a.end, a.end)
            by_hand[who] += [(a.start, low, f"{a.id}"), (high, a.end, f"{a.id}")]
    for who, jobs in by_hand.items():
        for one, other in overlaps(jobs):
            yield f"two jobs at once for one pair of hands: {one} and {other}"
        for start, end in workers[who].away:
            for one in (key for a, b, key in jobs if a < end and b > start and b > a):
                yield f"{one} is to be done while {workers[who].name} is away"
    mixing = list(_bowls_in_use(plan))
    if _most_at_once(mixing) > work.kitchen.mixers:
        yield "more doughs are mixed at once than there are mixers"


def _bowls_in_use(plan: Plan) -> Iterator[Span]:
    """Each mixing, the last one of a dough until its bowl is washed."""
    washed = {a.dough: a.end for a in plan.activities if a.kind == "wash"}
    last: dict[str | None, int] = {}
    for a in plan.activities:
        if a.kind == "mix":
            last[a.dough] = max(last.get(a.dough, 0), a.end)
    for a in plan.activities:
        if a.kind == "mix":
            until = washed.get(a.dough, a.end) if a.end == last[a.dough] else a.end
            yield a.start, max(until, a.end)


def _check_clean(plan: Plan, work: Work) -> Iterator[str]:
    """The bowl is washed between doughs, and all cleared up after all else, where it is a habit."""
    k = work.kitchen
    mixed = {a.dough for a in plan.activities if a.kind == "mix"}
    washed = [a for a in plan.activities if a.kind == "wash"]
    wanted = mixed if k.wash_min and len(mixed) > 1 else set()
    if {a.dough for a in washed} != wanted or len(washed) != len(wanted):
        yield "a bowl is washed too often or not at all"
    for wash in washed:
        if wash.end - wash.start != k.wash_min:
            yield f"{wash.id} takes {wash.end - wash.start}, not {k.wash_min}"
        if any(
            a.kind == "mix" and a.dough == wash.dough and a.end > wash.start
            for a in plan.activities
        ):
            yield f"{wash.id} is before the dough is mixed"
    cleared = [a for a in plan.activities if a.kind == "clear"]
    if len(cleared) != bool(k.clear_min):
        yield "it is cleared up too often or not at all"
    for clear in cleared:
        if clear.end - clear.start != k.clear_min:
            yield f"{clear.id} takes {clear.end - clear.start}, not {k.clear_min}"
        if any(a.kind in HANDS and a is not clear and a.end > clear.start for a in plan.activities):
            yield f"{clear.id} is before all else is done"


def _check_pause(a: Placed, pause: Span, plan: Plan, work: Work) -> Iterator[str]:
    """Only portioning is broken off, briefly, inside itself, and for nothing but the oven."""
    low, high = pause
    if not work.kitchen.interrupts or a.kind != "portion":
        yield f"{a.id} may not be broken off"
    if not a.start < low < high < a.end or high - low > 4:
        yield f"{a.id} is broken off from {low} to {high}"
    for b in plan.activities:
        meanwhile = b.who == a.who and b is not a and b.start < high and b.end > low
        if meanwhile and b.kind in HANDS and b.kind not in ("load", "turn", "out", "shape", "rack"):
            yield f"{a.id} is broken off for {b.id}"


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
        for one, other in overlaps(stays):
            yield f"sheet {number} holds {one} and {other} at once"
    if _most_at_once(racked) > k.racks:
        yield "more trays cool than the rack holds"
    yield from _check_fridge(work, alone, by_tray)
    yield from _check_bowls(work, alone, by_tray)


def _last_made(dough: DoughWork, alone: Alone) -> Placed:
    kind = dough.makes[-1].kind
    return alone[JobKey(dough.letter, kind, sum(make.kind == kind for make in dough.makes) - 1)]


def _check_fridge(work: Work, alone: Alone, by_tray: dict[str, Own]) -> Iterator[str]:
    """A place for each dough while it lies in the cold, whatever for: chilled from the last of its
    mixing and shaping until it is out, and wherever else the plan says so."""
    cold: list[Span] = []
    for dough in work.doughs:
        if not dough.makes or dough.makes[0].kind == "take":
            continue
        own = [
            (a.start, a.end)
            for a in alone.values()
            if a.kind == "chill" and a.dough == dough.letter
        ]
        if dough.chill_min:
            mixed = _last_made(dough, alone)
            outs = [
                by_tray[t.name]["portion", 0].start
                for t in work.trays_of(dough.letter)
                if ("portion", 0) in by_tray[t.name]
            ]
            if dough.fetch_min:
                outs = [alone[JobKey(dough.letter, "fetch")].start]
            own.append((mixed.end, max([mixed.end, *outs])))
        cold += merged(own)
    if _most_at_once(cold) > work.kitchen.fridge:
        yield "more doughs are cold than the fridge holds"


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
        last = _last_made(dough, alone)
        ready = last.end + dough.makes[-1].wait_min
        emptied = ready if dough.chill_min else max(o["portion", 0].end for o in own)
        kept.append((alone[JobKey(dough.letter, dough.makes[0].kind)].start, emptied))
        yield from _check_warm(dough, alone, own, ready)
    if _most_at_once(kept) > work.kitchen.bowls:
        yield "more doughs wait in bowls than there are"


def _check_warm(dough: DoughWork, alone: Alone, own: list[Own], ready: int) -> Iterator[str]:
    """None too long in the warm in all, unless it is worked on all the time. One that is fetched
    was warm from its first mixing until it was `ready` for the cold, and is again from then on."""
    letter = dough.letter
    uses = sorted((o["portion", 0].start, o["portion", 0].end) for o in own)
    cold = [(a.start, a.end) for a in alone.values() if a.kind == "chill" and a.dough == letter]
    begin, before = ready, 0
    if dough.fetch_min:
        mixed = min(a.end for a in alone.values() if a.kind == "mix" and a.dough == letter)
        begin, before = alone[JobKey(letter, "fetch")].end, ready - mixed
        cold = [span for span in cold if span[0] >= begin]
        uses = [(uses[0][0], uses[0][0]), *uses]
    elif dough.chill_min or dough.temper_min:
        return
    else:
        uses = [(ready, ready), *uses]
    warm = before + max(o["load", 0].start for o in own) - begin - sum(b - a for a, b in cold)
    idle = [(end, start) for (_, end), (start, _) in pairwise(uses)]
    if warm > dough.warm_most and any(b - a >= 10 and (a, b) not in cold for a, b in idle):
        yield f"dough {letter} is warm for {warm} min"
