"""What is taken so far, and when: hands, ovens, sheets and all that holds doughs and trays.

A diary is cheap to copy: whoever tries something tries it in a copy, and keeps the one that was
best. Times are minutes.
"""

from collections.abc import Iterable
from typing import NamedTuple

from finebatch.core.plan.busy import Busy
from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.placed import JobTime
from finebatch.core.plan.work import Kitchen

FARTHEST = 6 * 24 * 60
"""How far ahead a free moment is looked for."""
A_LOAD = 3
"""Trays that go in within so many minutes are one load."""


class OvenStay(NamedTuple):
    """A tray in an oven: from the opened door to when it is out, shut in at `loaded`."""

    start: int
    loaded: int
    end: int
    oven_c: int


class Diary:
    """A kitchen's hands, ovens and places as they are taken, and the jobs that took them; the last
    mixings after which a bowl is `dirty` still, and from when those washed before are clean.

    `together` is how a careful baker works by hand: trays go into the oven in loads, a load only
    once the one before it is out.
    """

    def __init__(self, kitchen: Kitchen, *, together: bool = False) -> None:
        self.k, self.together = kitchen, together
        self.away = kitchen.unattended
        self.hands = [Busy(worker.away) for worker in kitchen.workers]
        self.inside: list[list[OvenStay]] = [[] for _ in kitchen.ovens]
        self.sheets = [Busy() for _ in kitchen.pools]
        self.racks, self.mixers, self.bowls, self.fridge = Busy(), Busy(), Busy(), Busy()
        self.dirty: list[JobKey] = []
        self.clean_from = 0
        self.jobs: dict[JobKey, JobTime] = {}
        self.ovens: dict[JobKey, int] = {}

    def copy(self) -> "Diary":
        """Another with the same in it."""
        other = Diary.__new__(Diary)
        other.k, other.together, other.away = self.k, self.together, self.away
        other.hands = [Busy(hand.spans) for hand in self.hands]
        other.inside = [list(stays) for stays in self.inside]
        other.sheets = [Busy(sheets.spans) for sheets in self.sheets]
        other.racks, other.mixers = Busy(self.racks.spans), Busy(self.mixers.spans)
        other.bowls, other.fridge = Busy(self.bowls.spans), Busy(self.fridge.spans)
        other.dirty, other.clean_from = list(self.dirty), self.clean_from
        other.jobs, other.ovens = dict(self.jobs), dict(self.ovens)
        return other

    def whose(
        self, kind: JobKind, start: int, end: int, beside: Iterable[JobTime] = ()
    ) -> tuple[int, int]:
        """Whose hands are free then for that, with other jobs `beside` it; −1, and when to look
        again, when nobody's."""
        again = FARTHEST + end
        for who, worker in enumerate(self.k.workers):
            if kind not in worker.jobs:
                continue
            clash = self.hands[who].clash(start, end)
            for job in beside:
                if job.who == who and start < job.end and end > job.start:
                    clash = max(clash or 0, job.end)
            if clash is None:
                return who, start
            again = min(again, clash)
        return -1, again

    def earliest(self, kind: JobKind, start: int, minutes: int) -> JobTime:
        """The first moment from `start` at which somebody is free for so long, and who."""
        at = start
        while at < start + FARTHEST:
            who, again = self.whose(kind, at, at + minutes)
            if who >= 0 and (kind != "mix" or self.mixers.count(at, at + minutes) < self.k.mixers):
                return JobTime(at, at + minutes, who)
            at = max(again, at + 1)
        return JobTime(start + FARTHEST, start + FARTHEST + minutes, 0)

    def take(self, key: JobKey, time: JobTime) -> JobTime:
        """Put a job down."""
        self.hands[time.who].spans.append((time.start, time.end))
        if key.step == "mix":
            self.mixers.spans.append((time.start, time.end))
        self.jobs[key] = time
        return time

    def bake(self, key: JobKey, stay: OvenStay) -> None:
        """Put a bake down in the first oven that it fits."""
        oven = max(self.fits(stay)[0], 0)
        self.ovens[key] = oven
        self.inside[oven].append(stay)

    def fits(self, stay: OvenStay) -> tuple[int, int]:
        """The first oven with a shelf and the right heat for that stay; −1 and the minutes after
        which it is worth another look when there is none."""
        wait = FARTHEST
        # With nobody there the oven was turned off: it heats anew from when somebody is back.
        back = max((b for a, b in self.away if a < stay.end), default=0)
        if back > stay.start:
            return -1, back - stay.start
        for number, oven in enumerate(self.k.ovens):
            cold = back + oven.heat_min(stay.oven_c) - stay.loaded
            later = cold if cold > 0 else self._later(stay, number)
            if later <= 0:
                return number, 0
            wait = min(wait, later)
        return -1, wait

    def _later(self, stay: OvenStay, number: int) -> int:
        """Minutes by which a stay has to wait for a shelf or another heat; 0 when it has not."""
        oven, beside, wait = self.k.ovens[number], [], 0
        start, loaded, end, oven_c = stay
        tolerance_c = self.k.tolerance_c
        for begun, shut, out, other_c in self.inside[number]:
            change = oven.change_min(other_c, oven_c, tolerance_c) if other_c != oven_c else 0
            if change:
                back = oven.change_min(oven_c, other_c, tolerance_c)
                if loaded < out + change and shut < end + back:
                    wait = max(wait, out + change - loaded)
            elif self.together and out > start and abs(begun - start) > A_LOAD:
                wait = max(wait, out - start)
            elif begun < end and out > start:
                beside.append((begun, out))
        if wait or len(beside) < oven.shelves:
            return wait
        full = Busy(beside).count(start, end) >= oven.shelves
        return max(min(out for _, out in beside) - start, 1) if full else 0
