"""A plan: every activity placed in time, with its place, sheet and shelf."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from finebatch.core.plan.work import TrayWork, Work, job_id

Kind = Literal[
    "mix", "chill", "heat", "portion", "load", "bake", "turn", "out", "rest", "slice", "rack",
    "cool", "sheet",
]  # fmt: skip
Place = Literal["hands", "cold", "bench", "oven", "rack"]

HAND_JOBS = frozenset({"mix", "portion", "load", "turn", "out", "slice", "rack"})


@dataclass(frozen=True, slots=True)
class Placed:
    """One activity from `start` to `end` (minutes). `shelf` and `sheet` count from 1."""

    id: str
    kind: Kind
    tray: str | None
    place: Place
    start: int
    end: int
    sheet: int | None = None
    shelf: int | None = None
    critical: bool = False

    @property
    def hands(self) -> bool:
        """Whether it takes the baker's hands."""
        return self.kind in HAND_JOBS


@dataclass(frozen=True, slots=True)
class BakeTimes:
    """When one bake starts and ends, and when its tray is turned, if it is."""

    start: int
    end: int
    turn: int | None


@dataclass(frozen=True, slots=True)
class TrayTimes:
    """The times of one tray that decide all others."""

    portion: int
    portion_end: int
    bakes: tuple[BakeTimes, ...]
    slice: int | None
    rack: int


@dataclass(frozen=True, slots=True)
class Times:
    """The times of a whole session that decide all others."""

    mix: int
    mix_end: int
    trays: tuple[TrayTimes, ...]


@dataclass(frozen=True, slots=True)
class Plan:
    """A plan with its finish and the bound below which no plan can finish (minutes)."""

    activities: tuple[Placed, ...]
    finish: int
    bound: int

    @property
    def proven(self) -> bool:
        """Whether no plan can finish earlier."""
        return self.bound >= self.finish


def _colour(spans: Sequence[tuple[int, int]], colours: int) -> list[int]:
    """Give each (start, end) span the lowest number from 1 that is free then."""
    free_at = [0] * colours
    chosen = [0] * len(spans)
    for k in sorted(range(len(spans)), key=lambda k: spans[k]):
        start, end = spans[k]
        free = [c for c in range(colours) if free_at[c] <= start]
        # More trays than places cannot happen in a plan that keeps its limits.
        pick = free[0] if free else min(range(colours), key=lambda c: free_at[c])
        free_at[pick] = end
        chosen[k] = pick + 1
    return chosen


def _tray_activities(
    tray: TrayWork, times: TrayTimes, work: Work, sheet: int, shelves: Sequence[int]
) -> list[Placed]:
    k, name = work.kitchen, tray.name

    def placed(kind: Kind, place: Place, start: int, end: int, bake: int = 0) -> Placed:
        return Placed(job_id(name, kind, bake), kind, name, place, start, end, sheet)

    found = [placed("portion", "bench", times.portion, times.portion_end)]
    for n, (bake, shelf) in enumerate(zip(times.bakes, shelves, strict=True)):
        found.append(placed("load", "oven", bake.start - k.load_min, bake.start, n))
        inside = placed("bake", "oven", bake.start, bake.end, n)
        found.append(replace(inside, shelf=shelf))
        if bake.turn is not None:
            found.append(placed("turn", "oven", bake.turn, bake.turn + k.turn_min, n))
        found.append(placed("out", "oven", bake.end, bake.end + k.out_min, n))
        rested = times.slice if n == 0 and times.slice is not None else times.rack
        found.append(placed("rest", "rack", bake.end + k.out_min, rested, n))
        if n == 0 and times.slice is not None:
            found.append(placed("slice", "bench", times.slice, times.slice + tray.slice_min))
    off = times.rack + k.rack_min
    found.append(placed("rack", "rack", times.rack, off))
    found.append(placed("cool", "rack", off, off + tray.cool_min))
    found.append(placed("sheet", "bench", off, off + k.sheet_ready_min))
    return found


def place(work: Work, times: Times, bound: int) -> Plan:
    """Turn the deciding times into every activity, with sheets and shelves given out."""
    k = work.kitchen
    sheets = _colour(
        [(t.portion, t.rack + k.rack_min + k.sheet_ready_min) for t in times.trays], k.sheets
    )
    stays = [(t, n) for t, tray in enumerate(times.trays) for n in range(len(tray.bakes))]
    bakes = [times.trays[t].bakes[n] for t, n in stays]
    spans = [(bake.start - k.load_min, bake.end + k.out_min) for bake in bakes]
    shelf_of = dict(zip(stays, _colour(spans, k.shelves), strict=True))
    first_bake = min(tray.bakes[0].start for tray in times.trays)
    found = [
        Placed("dough.mix", "mix", None, "bench", times.mix, times.mix_end),
        Placed("oven.heat", "heat", None, "oven",
               max(first_bake - k.oven_heat_min, 0), first_bake),
    ]  # fmt: skip
    if work.dough.chill_min:
        first = min(tray.portion for tray in times.trays)
        found.insert(1, Placed("dough.chill", "chill", None, "cold", times.mix_end, first))
    for t, (tray, when) in enumerate(zip(work.trays, times.trays, strict=True)):
        shelves = [shelf_of[t, n] for n in range(len(when.bakes))]
        found += _tray_activities(tray, when, work, sheets[t], shelves)
    finish = max(a.end for a in found if a.kind == "cool")
    ordered = sorted(found, key=lambda a: (a.start, a.end, a.id))
    return Plan(tuple(ordered), finish, min(bound, finish))


def times_of(plan: Plan, work: Work) -> Times:
    """The deciding times of a plan, read back from its activities."""
    by_id = {activity.id: activity for activity in plan.activities}

    def bake_times(name: str, n: int) -> BakeTimes:
        stay, turn = by_id[job_id(name, "bake", n)], by_id.get(job_id(name, "turn", n))
        return BakeTimes(stay.start, stay.end, turn.start if turn else None)

    trays = []
    for tray in work.trays:
        portion, cut = by_id[job_id(tray.name, "portion")], by_id.get(job_id(tray.name, "slice"))
        trays.append(
            TrayTimes(
                portion.start,
                portion.end,
                tuple(bake_times(tray.name, n) for n in range(len(tray.bakes))),
                cut.start if cut else None,
                by_id[job_id(tray.name, "rack")].start,
            )
        )
    mix = by_id["dough.mix"]
    return Times(mix.start, mix.end, tuple(trays))
