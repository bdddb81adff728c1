"""What holds the finish up: the chain of activities, each waiting for the one before it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from finebatch.core.plan.schedule import Placed, Plan
from finebatch.core.plan.work import Kind

Cause = Literal["mixing", "chilling", "heating", "portioning", "oven", "slicing", "hands",
                "resting", "sheet", "cooling", "finishing", "waiting"]  # fmt: skip

_CAUSE_OF: dict[Kind, Cause] = {
    "mix": "mixing", "wait": "mixing", "part": "mixing", "freeze": "mixing", "chill": "chilling",
    "temper": "chilling", "heat": "heating", "portion": "portioning", "load": "hands",
    "bake": "oven", "turn": "hands", "out": "hands", "shape": "hands", "rest": "resting",
    "slice": "slicing", "rack": "hands", "cool": "cooling", "sheet": "sheet",
    "finish": "finishing", "set": "finishing",
}  # fmt: skip


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
            "mix", "chill", "temper", "portion", "freeze",
        )  # fmt: skip
    if before.kind == "heat":
        return later.kind in ("load", "bake") and later.oven == before.oven
    if before.kind == "sheet":
        return later.kind in ("portion", "load") and later.sheet == before.sheet
    if before.kind == "mix" and later.kind in ("wait", "chill", "temper"):
        return later.dough == before.dough
    if before.kind == "out" and later.kind == "heat":
        return later.oven == before.oven
    return later.hands and before.hands and later.who == before.who


def critical_chain(plan: Plan) -> tuple[Placed, ...]:
    """Walk back from the last tray that is ready to the first activity that it waits for."""
    last = max(
        (a for a in plan.activities if a.kind in ("cool", "finish", "set")),
        key=lambda a: (a.end, a.id),
    )
    chain = [last]
    while True:
        here = chain[-1]
        before = [a for a in plan.activities if a not in chain and _waits_for(here, a)]
        if not before:
            break
        # What ended last held it up; where there is a gap, a window or a break lies between.
        end = max(a.end for a in before)
        tight = [a for a in before if a.end == end]
        same = [a for a in tight if a.tray == here.tray and a.dough == here.dough]
        chain.append(min(same or tight, key=lambda a: (a.start, a.id)))
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
