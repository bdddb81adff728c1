"""What holds the finish up: the chain of activities, each waiting for the one before it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from finebatch.core.plan.schedule import Placed, Plan

Cause = Literal["mixing", "chilling", "heating", "portioning", "oven", "slicing", "hands",
                "resting", "sheet", "cooling"]  # fmt: skip

_CAUSE_OF: dict[str, Cause] = {
    "mix": "mixing", "chill": "chilling", "heat": "heating", "portion": "portioning",
    "load": "hands", "bake": "oven", "turn": "hands", "out": "hands", "rest": "resting",
    "slice": "slicing", "rack": "hands", "cool": "cooling", "sheet": "sheet",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class HoldUp:
    """Minutes of the chain that have one cause, with the trays concerned in order."""

    cause: Cause
    minutes: int
    trays: tuple[str, ...]


def _waits_for(later: Placed, before: Placed) -> bool:
    """Whether `later` could not start until `before` ended."""
    if before.end != later.start or before.end == before.start:
        return False
    if later.tray == before.tray and later.tray is not None:
        # A sheet being cleaned and a turn inside a bake hold nothing of their own tray up.
        return before.kind not in ("sheet", "turn", "cool")
    if before.kind in ("mix", "chill"):
        return later.kind in ("chill", "portion")
    if before.kind == "heat":
        # The oven is switched on in good time; only one that heats from the start holds up.
        return later.kind in ("load", "bake") and before.start == 0
    if before.kind == "sheet":
        return later.kind == "portion" and later.sheet == before.sheet
    return later.hands and before.hands


def critical_chain(plan: Plan) -> tuple[Placed, ...]:
    """Walk back from the last tray that is cold to the first activity that it waits for."""
    last = max(plan.activities, key=lambda a: (a.kind == "cool", a.end, a.id))
    chain = [last]
    while True:
        here = chain[-1]
        tight = [
            a for a in plan.activities
            if a.end <= here.start and a not in chain and _waits_for(here, a)
        ]  # fmt: skip
        if not tight:
            break
        same = [a for a in tight if a.tray == here.tray]
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
    trays: dict[Cause, list[str]] = {}
    for a in chain:
        cause = _CAUSE_OF[a.kind]
        minutes[cause] = minutes.get(cause, 0) + a.end - a.start
        names = trays.setdefault(cause, [])
        if a.tray is not None and a.tray not in names:
            names.append(a.tray)
    return tuple(HoldUp(c, m, tuple(trays[c])) for c, m in minutes.items() if m)
