"""What holds the finish up: the chain of activities, each waiting for the one before it."""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

from finebatch.core.plan.keys import JobKey, Kind
from finebatch.core.plan.placed import Placed, Plan

Cause = Literal[
    "mixing",
    "chilling",
    "heating",
    "portioning",
    "oven",
    "slicing",
    "hands",
    "resting",
    "sheet",
    "cooling",
    "finishing",
    "waiting",
]

_CAUSE_OF: dict[Kind, Cause] = {
    "mix": "mixing",
    "take": "hands",
    "wait": "mixing",
    "part": "mixing",
    "freeze": "mixing",
    "chill": "chilling",
    "temper": "chilling",
    "heat": "heating",
    "portion": "portioning",
    "load": "hands",
    "bake": "oven",
    "turn": "hands",
    "out": "hands",
    "shape": "hands",
    "rest": "resting",
    "slice": "slicing",
    "rack": "hands",
    "cool": "cooling",
    "sheet": "sheet",
    "finish": "finishing",
    "set": "finishing",
}


@dataclass(frozen=True, slots=True)
class HoldUp:
    """Minutes of the chain that have one cause, with the trays or doughs concerned in order."""

    cause: Cause
    minutes: int
    trays: tuple[str, ...]


def _waits_for(later: Placed, before: Placed) -> bool:
    """Whether `later` could not start until `before` ended."""
    if before.end > later.start or before.end == before.start:
        return False
    if later.tray == before.tray and later.tray is not None:
        # A sheet being cleaned and a turn inside a bake hold nothing of their own tray up.
        if before.kind in ("sheet", "turn"):
            return False
        return before.kind != "cool" or later.kind == "finish"
    if before.kind in ("mix", "wait", "chill", "temper", "part", "freeze") and not before.hands:
        return later.dough == before.dough and later.kind in (
            "mix",
            "take",
            "chill",
            "temper",
            "portion",
            "freeze",
        )
    if before.kind == "heat":
        return later.kind in ("load", "bake") and later.oven == before.oven
    if before.kind == "sheet":
        return later.kind in ("portion", "load") and later.sheet == before.sheet
    if before.kind in ("mix", "take") and later.kind in ("wait", "chill", "temper"):
        return later.dough == before.dough
    if before.kind == "out" and later.kind == "heat":
        return later.oven == before.oven
    return later.hands and before.hands and later.who == before.who


class _Chains:
    """The chains that lead to an activity, each link waiting for the one before it."""

    def __init__(self, plan: Plan) -> None:
        ends = sorted({a.end for a in plan.activities})
        self._ends = ends
        self._ended = {end: [a for a in plan.activities if a.end == end] for end in ends}
        self._gaps: dict[JobKey, int] = {}
        # In order, so that each finds those before it: a long method would go down too deep.
        for a in sorted(plan.activities, key=lambda a: a.start):
            self._gaps[a.id] = self._gap(a)

    def before(self, a: Placed) -> Placed | None:
        """What held it up: of all that ended last before it, what leads back with the fewest
        minutes in which nothing was waited for, and then its own tray."""
        tight = self._tight(a)
        return min(tight, key=lambda b: self._key(a, b), default=None)

    def _tight(self, a: Placed) -> list[Placed]:
        for end in reversed(self._ends[: bisect_right(self._ends, a.start)]):
            found = [b for b in self._ended[end] if _waits_for(a, b)]
            if found:
                return found
        return []

    def _key(self, a: Placed, b: Placed) -> tuple[int, bool, int, JobKey]:
        return self._gap(b), (b.tray, b.dough) != (a.tray, a.dough), b.start, b.id

    def _gap(self, a: Placed) -> int:
        """Minutes before it in which nothing of its chain went on."""
        if a.id in self._gaps:
            return self._gaps[a.id]
        before = self.before(a)
        return a.start if before is None else a.start - before.end + self._gap(before)


def critical_chain(plan: Plan) -> tuple[Placed, ...]:
    """Walk back from the last tray that is ready to the first activity that it waits for."""
    last = max(
        (a for a in plan.activities if a.kind in ("cool", "finish", "set")),
        key=lambda a: (a.end, a.id),
    )
    chains, chain = _Chains(plan), [last]
    while (before := chains.before(chain[-1])) is not None:
        chain.append(before)
    return tuple(reversed(chain))


def mark_critical(plan: Plan) -> Plan:
    """The plan with the activities of its critical chain marked."""
    chain = {a.id for a in critical_chain(plan)}
    return replace(
        plan, activities=tuple(replace(a, critical=a.id in chain) for a in plan.activities)
    )


def hold_ups(chain: Sequence[Placed]) -> tuple[HoldUp, ...]:
    """The chain summed up by cause, in the order in which the causes first come."""
    minutes: dict[Cause, int] = {}
    names: dict[Cause, list[str]] = {}
    for before, a in zip((None, *chain), chain, strict=False):
        gap = a.start - before.end if before else a.start
        if gap > 0:
            minutes["waiting"] = minutes.get("waiting", 0) + gap
            names.setdefault("waiting", [])
        cause = _CAUSE_OF[a.kind]
        minutes[cause] = minutes.get(cause, 0) + a.end - a.start
        known = names.setdefault(cause, [])
        name = a.tray or a.dough
        if name is not None and name not in known:
            known.append(name)
    return tuple(HoldUp(c, m, tuple(names[c])) for c, m in minutes.items() if m)


def door_openings(plan: Plan) -> int:
    """How often the ovens' doors are opened: jobs that follow each other at once share one."""
    opened, until = 0, dict[int | None, int]()
    at_the_door = (a for a in plan.activities if a.kind in ("load", "turn", "out"))
    for a in sorted(at_the_door, key=lambda a: (a.start, a.end)):
        if a.start > until.get(a.oven, -1):
            opened += 1
        until[a.oven] = max(until.get(a.oven, -1), a.end)
    return opened


def heat_changes(plan: Plan) -> int:
    """How often a hot oven is set to another temperature."""
    heats = [a for a in plan.activities if a.kind == "heat"]
    ovens = {a.oven for a in heats}
    return sum(
        one.dial_c != other.dial_c
        for oven in ovens
        for one, other in pairwise(a for a in heats if a.oven == oven)
    )
