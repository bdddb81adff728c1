"""The day in stretches of work: what the hands do in one go, told in one line.

A day of thirty jobs of a minute each is nothing that a person can read; a dozen stretches are.
"""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from finebatch.core.plan.keys import JobKind
from finebatch.core.plan.placed import Placed
from finebatch.core.session.words import Scene, finished_by, lower

FREE_MIN = 6
"""Hands that are free for so long begin a new stretch."""
LONGEST_MIN = 45
"""A stretch that is longer is parted, where another dough begins or the hands are free a moment."""
_CHANGE_COUNTS_MIN = 8
"""Another dough is as good a place to part as this many minutes nearer to the middle."""
_FREE_COUNTS = 3


@dataclass(frozen=True, slots=True)
class Worked:
    """What is done with one dough in a stretch: its letter, none for what is of no dough."""

    dough: str | None
    said: str


@dataclass(frozen=True, slots=True)
class Stretch:
    """What the hands do in one go, from `start` to `end` (minutes): its jobs, what is done with
    each dough, and how many trays go `into` the oven and come `out` of it meanwhile."""

    start: int
    end: int
    jobs: tuple[Placed, ...]
    worked: tuple[Worked, ...]
    into: int
    out: int

    @property
    def trays_said(self) -> str:
        """``3 trays in and out``, ``2 trays in, 1 out``; empty where none is moved."""
        if self.into == self.out:
            return f"{_trays(self.into)} in and out" if self.into else ""
        if not self.into or not self.out:
            return f"{_trays(self.into or self.out)} {'in' if self.into else 'out'}"
        return f"{_trays(self.into)} in, {self.out} out"


def _trays(count: int) -> str:
    return "1 tray" if count == 1 else f"{count} trays"


def stretches(activities: Sequence[Placed], scene: Scene) -> tuple[Stretch, ...]:
    """The jobs of the hands and of the oven's dial, in order, as stretches of work."""
    jobs = sorted((a for a in activities if a.told), key=lambda a: (a.start, a.end, str(a.id)))
    runs: list[list[Placed]] = []
    busy_until = 0
    for job in jobs:
        if not runs or job.start - busy_until >= FREE_MIN:
            runs.append([])
        runs[-1].append(job)
        # Nobody stands beside an oven that heats up.
        busy_until = max(busy_until, job.end if job.hands else job.start)
    return tuple(_told(part, scene) for run in runs for part in _parted(run))


def _until(jobs: Sequence[Placed]) -> int:
    return max(job.end if job.hands else job.start for job in jobs)


def _parted(run: Sequence[Placed]) -> list[Sequence[Placed]]:
    """One run in pieces that are not too long."""
    begin, end = run[0].start, _until(run)
    if end - begin <= LONGEST_MIN or len(run) < 2:
        return [run]
    middle = (begin + end) / 2

    def cost(place: int) -> float:
        job, before = run[place], run[place - 1]
        free = max(0, job.start - _until(run[:place]))
        change = _CHANGE_COUNTS_MIN if job.dough != before.dough else 0
        return abs(job.start - middle) - change - _FREE_COUNTS * free

    at = min(range(1, len(run)), key=cost)
    return [*_parted(run[:at]), *_parted(run[at:])]


def _told(jobs: Sequence[Placed], scene: Scene) -> Stretch:
    done: dict[str | None, list[str]] = {}
    for job in jobs:
        said = _said(job, scene)
        told = done.setdefault(None if job.kind in _OF_NO_DOUGH else job.dough, [])
        if said and said not in told:
            told.append(said)
    return Stretch(
        jobs[0].start,
        _until(jobs),
        tuple(jobs),
        tuple(Worked(dough, ", ".join(told)) for dough, told in done.items() if told),
        sum(job.kind == "load" for job in jobs),
        sum(job.kind == "out" for job in jobs),
    )


_CLAUSE = re.compile("[.,;:]")
_OF_NO_DOUGH: frozenset[JobKind] = frozenset({"heat", "clear"})
_VERBS: Mapping[JobKind, str] = {
    "ready": "get ready",
    "mix": "mix",
    "fetch": "out of the fridge",
    "take": "out of the cold",
    "wash": "wash the bowl",
    "freeze": "put the rest away",
    "slice": "slice",
    "heat": "oven on",
    "clear": "clear up",
}


def _said(job: Placed, scene: Scene) -> str:
    """The verb of a job; nothing for what the trays tell."""
    dough = scene.dough(job)
    if job.kind == "portion" and dough is not None:
        return "lay out" if dough.laid else lower(dough.says.work.removesuffix(" for"))
    if job.kind == "form":
        return lower(_CLAUSE.split(job.what)[0]) or "wrap"
    if job.kind == "part":
        return f"make the {job.what}"
    if job.kind == "finish":
        return lower(finished_by(job, scene))
    if job.kind == "shape" and dough is not None:
        return lower(dough.says.hot or "shape")
    return _VERBS.get(job.kind, "")
