"""An independent check of a finished plan: does it keep every rule, read off its activities alone?

Shares no code with the quick plan or the solver.
"""

from collections import defaultdict
from collections.abc import Iterable, Iterator

from finebatch.core.plan.schedule import Placed, Plan
from finebatch.core.plan.work import TrayWork, Work

HANDS = ("mix", "portion", "load", "turn", "out", "slice", "rack")


def _overlaps(spans: Iterable[tuple[int, int, str]]) -> Iterator[tuple[str, str]]:
    ordered = sorted(span for span in spans if span[1] > span[0])
    for i, (_, end, name) in enumerate(ordered):
        for start, _, other in ordered[i + 1 :]:
            if start >= end:
                break
            yield name, other


def _check_lengths(tray: TrayWork, own: dict[str, Placed]) -> Iterator[str]:
    wanted = {"portion": tray.portion_min, "cool": tray.cool_min}
    if tray.slice_min and len(tray.bakes) > 1:
        wanted["slice"] = tray.slice_min
    for n, bake in enumerate(tray.bakes):
        wanted["bake" + ("2" if n else "")] = bake.length
    for kind, minutes in wanted.items():
        if kind not in own:
            yield f"{tray.name} has no {kind}"
        elif own[kind].end - own[kind].start != minutes:
            yield f"{tray.name} {kind} takes {own[kind].end - own[kind].start}, not {minutes}"


def _check_tray(tray: TrayWork, own: dict[str, Placed], work: Work) -> Iterator[str]:
    k = work.kitchen
    for n in range(len(tray.bakes)):
        tail = "2" if n else ""
        bake, load, out = own["bake" + tail], own["load" + tail], own["out" + tail]
        raw_from = own["slice" if n else "portion"].end
        if load.start < raw_from:
            yield f"{tray.name} goes in before it is made"
        if load.start - raw_from > k.raw_wait_min:
            yield f"{tray.name} waits {load.start - raw_from} min for the oven"
        if load.end != bake.start or out.start != bake.end:
            yield f"{tray.name} is not loaded or taken out at its bake's ends"
        turn = own.get("turn" + tail)
        if (turn is None) != (tray.bakes[n].turn_after is None):
            yield f"{tray.name} has a turn too many or too few"
        if turn is not None and not bake.start < turn.start <= turn.end <= bake.end:
            yield f"{tray.name} is turned outside its bake"
        follows = own["slice"] if n == 0 and len(tray.bakes) > 1 else own["rack"]
        rested = follows.start - out.end
        if not tray.rest_min <= rested <= tray.rest_min + k.rest_over_min:
            yield f"{tray.name} rests {rested} min on the sheet"
    if own["cool"].start < own["rack"].end:
        yield f"{tray.name} cools before it is on the rack"


def find_faults(plan: Plan, work: Work) -> list[str]:
    """Every rule that the plan breaks, in words; an empty list for a good plan."""
    faults: list[str] = []
    by_tray: dict[str, dict[str, Placed]] = defaultdict(dict)
    for a in plan.activities:
        if a.start < 0 or a.end < a.start:
            faults.append(f"{a.id} runs from {a.start} to {a.end}")
        if a.tray is not None:
            by_tray[a.tray][a.id.split(".", 1)[1]] = a
    alone = {a.id: a for a in plan.activities if a.tray is None}
    for tray in work.trays:
        own = by_tray[tray.name]
        missing = list(_check_lengths(tray, own))
        faults += missing
        if not missing:
            faults += _check_tray(tray, own, work)
            if own["portion"].start < alone["dough.mix"].end + work.dough.chill_min:
                faults.append(f"{tray.name} is portioned before the dough is ready")
            if own["load"].end < work.kitchen.oven_heat_min:
                faults.append(f"{tray.name} goes into a cold oven")
    faults += _check_shared(plan, work, by_tray)
    if plan.finish != max(a.end for a in plan.activities if a.kind == "cool"):
        faults.append("the finish is not when the last tray is cold")
    return faults


def _check_shared(plan: Plan, work: Work, by_tray: dict[str, dict[str, Placed]]) -> Iterator[str]:
    jobs = [(a.start, a.end, a.id) for a in plan.activities if a.kind in HANDS]
    for one, other in _overlaps(jobs):
        yield f"two jobs at once for one pair of hands: {one} and {other}"
    shelves: dict[int, list[tuple[int, int, str]]] = defaultdict(list)
    sheets: dict[int, list[tuple[int, int, str]]] = defaultdict(list)
    for name, own in by_tray.items():
        for n in range(2):
            tail = "2" if n else ""
            if bake := own.get("bake" + tail):
                span = (own["load" + tail].start, own["out" + tail].end, bake.id)
                shelves[bake.shelf or 0].append(span)
        portion, ready = own["portion"], own["sheet"]
        sheets[portion.sheet or 0].append((portion.start, ready.end, name))
    for place, spans, most in (
        ("shelf", shelves, work.kitchen.shelves),
        ("sheet", sheets, work.kitchen.sheets),
    ):
        if not set(spans) <= set(range(1, most + 1)):
            yield f"there is no {place} {max(spans)}"
        for number, stays in spans.items():
            for one, other in _overlaps(stays):
                yield f"{place} {number} holds {one} and {other} at once"
