"""What holds the finish up: the chain of activities, each waiting for the one before it."""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.placed import Placed, Plan

HoldUpCause = Literal[
    "getting_ready",
    "mixing",
    "shaping",
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

_CAUSE_OF: dict[JobKind, HoldUpCause] = {
    "ready": "getting_ready",
    "stand": "getting_ready",
    "mix": "mixing",
    "form": "shaping",
    "fetch": "hands",
    "take": "hands",
    "wait": "mixing",
    "wash": "hands",
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
    "clear": "hands",
}


@dataclass(frozen=True, slots=True)
class HoldUp:
    """Minutes of the chain that have one cause, with the trays or doughs concerned in order."""

    cause: HoldUpCause
    minutes: int
    trays: tuple[str, ...]


_OF_A_DOUGH: frozenset[JobKind] = frozenset(
    {"ready", "mix", "form", "take", "fetch", "chill", "temper", "portion", "freeze"}
)
"""What a dough in the making keeps from being begun."""

_LIES: frozenset[JobKind] = frozenset({"stand", "wait", "chill", "temper"})
"""A dough that lies somewhere, nobody working on it."""


def _waits_for(later: Placed, before: Placed) -> bool:
    """Whether `later` could not start until `before` ended."""
    if before.end > later.start or before.end == before.start:
        return False
    if later.tray == before.tray and later.tray is not None:
        return _waits_on_its_tray(later, before)
    same_dough, same_oven = later.dough == before.dough, later.oven == before.oven
    match before.kind:
        case "stand" | "wait" | "chill" | "temper" if not before.hands:
            return same_dough and later.kind in _OF_A_DOUGH
        case "ready" | "mix" | "form" | "take" | "fetch" if later.kind in _LIES:
            return same_dough
        case "heat":
            return same_oven and later.kind in ("load", "bake")
        case "out" if later.kind == "heat":
            return same_oven
        case "sheet":
            return later.sheet == before.sheet and later.kind in ("portion", "load")
        case _:
            return later.hands and before.hands and later.who == before.who


def _waits_on_its_tray(later: Placed, before: Placed) -> bool:
    """A sheet being cleaned and a turn inside a bake hold nothing of their own tray up, its cooling
    only its finish."""
    if before.kind == "cool":
        return later.kind == "finish"
    return before.kind not in ("sheet", "turn")


@dataclass(frozen=True, slots=True)
class _Link:
    """A job in its chain: what held it up, and the minutes of the whole chain so far in which
    nothing went on."""

    job: Placed
    before: "_Link | None"
    idle: int


def _links(plan: Plan) -> dict[JobKey, _Link]:
    """Each job with what held it up: of all that it waits for and that ended last before it, what
    leads back with the fewest idle minutes; then its own tray, the earlier, the first by name."""
    ended: dict[int, list[Placed]] = {}
    for job in plan.activities:
        ended.setdefault(job.end, []).append(job)
    ends, links = sorted(ended), dict[JobKey, _Link]()

    def held_up_by(job: Placed) -> list[_Link]:
        for end in reversed(ends[: bisect_right(ends, job.start)]):
            found = [links[b.id] for b in ended[end] if _waits_for(job, b)]
            if found:
                return found
        return []

    # What a job waits for begins before it, and so has its link already.
    for job in sorted(plan.activities, key=lambda job: job.start):

        def order(link: _Link, job: Placed = job) -> tuple[int, bool, int, JobKey]:
            other = (link.job.tray, link.job.dough) != (job.tray, job.dough)
            return link.idle, other, link.job.start, link.job.id

        before = min(held_up_by(job), key=order, default=None)
        idle = job.start if before is None else job.start - before.job.end + before.idle
        links[job.id] = _Link(job, before, idle)
    return links


def critical_chain(plan: Plan) -> tuple[Placed, ...]:
    """Walk back from the last tray that is ready to the first activity that it waits for."""
    last = max(
        (a for a in plan.activities if a.kind in ("cool", "finish", "set")),
        key=lambda a: (a.end, a.id),
    )
    chain, link = list[Placed](), _links(plan).get(last.id)
    while link is not None:
        chain.append(link.job)
        link = link.before
    return tuple(reversed(chain))


def mark_critical(plan: Plan) -> Plan:
    """The plan with the activities of its critical chain marked."""
    chain = {a.id for a in critical_chain(plan)}
    return replace(
        plan, activities=tuple(replace(a, critical=a.id in chain) for a in plan.activities)
    )


def hold_ups(chain: Sequence[Placed]) -> tuple[HoldUp, ...]:
    """The chain summed up by cause, in the order in which the causes first come."""
    minutes: dict[HoldUpCause, int] = {}
    names: dict[HoldUpCause, list[str]] = {}
    for before, a in zip((None, *chain), chain, strict=False):
        gap = a.start - before.end if before else a.start
        if gap > 0:
            minutes["waiting"] = minutes.get("waiting", 0) + gap
            names.setdefault("waiting", [])
        cause = "resting" if a.kind == "stand" and a.tray else _CAUSE_OF[a.kind]
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
