"""Places tray after tray, each job as early as hands, shelf, heat and sheet allow."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from finebatch.core.plan.busy import Busy
from finebatch.core.plan.keys import JobKey, Kind
from finebatch.core.plan.network import TURN_SLACK, made, mixed
from finebatch.core.plan.placed import JobTime, Times
from finebatch.core.plan.work import DoughWork, Span, TrayWork, Work

MOST_TRIES = 12
"""How often a dough that may not wait is tried later."""
FARTHEST = 6 * 24 * 60
"""How far ahead in minutes a free moment is looked for."""


@dataclass(slots=True)
class _Stay:
    start: int
    loaded: int
    end: int
    oven_c: int


class Greedy:
    """Places doughs and trays one after the other.

    `together` is how a careful baker works by hand: trays go into the oven in loads, a load only
    once the one before it is out.
    """

    def __init__(self, work: Work, *, together: bool = False) -> None:
        self.work, self.k = work, work.kitchen
        self.hands = [Busy(worker.away) for worker in self.k.workers]
        self.off = self.k.unattended
        self.inside: list[list[_Stay]] = [[] for _ in self.k.ovens]
        self.sheets = [Busy() for _ in self.k.pools]
        self.racks, self.mixers = Busy(), Busy()
        self.bowls, self.fridge = Busy(), Busy()
        self.jobs: dict[JobKey, JobTime] = {}
        self.ovens: dict[JobKey, int] = {}
        self.together = together
        self.not_before = 0

    @property
    def times(self) -> Times:
        """What was placed so far."""
        return Times(self.jobs, self.ovens, {})

    def whose(
        self, kind: Kind, start: int, end: int, taken: Sequence[tuple[Span, int]] = ()
    ) -> tuple[int, int]:
        """Whose hands are free then for that; −1, and when to look again, when nobody's."""
        again = FARTHEST + end
        for who, worker in enumerate(self.k.workers):
            if kind not in worker.jobs:
                continue
            clash = self.hands[who].clash(start, end)
            for (a, b), hand in taken:
                if hand == who and start < b and end > a:
                    clash = max(clash or 0, b)
            if clash is None:
                return who, start
            again = min(again, clash)
        return -1, again

    def _earliest(self, kind: Kind, start: int, minutes: int) -> tuple[int, int]:
        """The first moment from `start` at which somebody is free, and who."""
        at = start
        while at < start + FARTHEST:
            who, again = self.whose(kind, at, at + minutes)
            if who >= 0 and (kind != "mix" or self.mixers.count(at, at + minutes) < self.k.mixers):
                return at, who
            at = max(again, at + 1)
        return start + FARTHEST, 0

    def _do(self, key: JobKey, kind: Kind, start: int, minutes: int) -> JobTime:
        at, who = self._earliest(kind, start, minutes)
        return self._take(key, kind, JobTime(at, at + minutes, who))

    def _take(self, key: JobKey, kind: Kind, time: JobTime) -> JobTime:
        self.hands[time.who].spans.append((time.start, time.end))
        if kind == "mix":
            self.mixers.spans.append((time.start, time.end))
        self.jobs[key] = time
        return time

    def dough(self, dough: DoughWork) -> None:
        """Mix a dough, and make its parts."""
        at = self.not_before
        for n, make in enumerate(dough.makes):
            time = self._do(JobKey(dough.letter, make.kind, n), make.kind, at, make.hands_min)
            at = time.end + make.wait_min
        if dough.freeze_min:
            self._do(JobKey(dough.letter, "freeze"), "freeze", at, dough.freeze_min)
        for n, part in enumerate(dough.parts):
            self._do(JobKey(dough.letter, "part", n), "part", self.not_before, part.hands_min)

    def mark(self) -> tuple[int, ...]:
        """How far it has come, to go back to."""
        return (*map(len, self._lists()), len(self.jobs), len(self.ovens))

    def back(self, mark: tuple[int, ...]) -> None:
        """Take everything back that was placed since that mark."""
        *lengths, jobs, ovens = mark
        for spans, length in zip(self._lists(), lengths, strict=True):
            del spans[length:]
        # What was placed since stands last: a mapping keeps the order of its keys.
        for key in list(self.jobs)[jobs:]:
            del self.jobs[key]
        for key in list(self.ovens)[ovens:]:
            del self.ovens[key]

    def _lists(self) -> list[list[Any]]:
        busy = [*self.hands, *self.sheets, self.racks, self.mixers, self.bowls, self.fridge]
        return [*(one.spans for one in busy), *self.inside]

    def in_turn(self, dough: DoughWork) -> None:
        """Mix and bake a dough once there is a bowl and a place in the fridge for it."""
        begin = self.not_before
        rooms = [(self.bowls, self.k.bowls), (self.fridge, self.k.fridge)]
        for room, most in rooms if dough.makes and not dough.from_cold else []:
            ends = sorted(end for _, end in room.spans)
            if len(ends) >= most:
                self.not_before = max(self.not_before, ends[-most])
        if dough.may_not_wait:
            self.batch(dough)
        else:
            self._together(dough)
        self.not_before = begin
        if dough.makes and not dough.from_cold:
            self._empty(dough)

    def _empty(self, dough: DoughWork) -> None:
        """Its bowl and its place in the fridge are free again."""
        trays = self.work.trays_of(dough.letter)
        portions = [self.jobs[JobKey(tray.name, "portion")] for tray in trays]
        jobs = made(dough)
        begun, end = self.jobs[jobs[0]].start, self.jobs[jobs[-1]].end
        out = max(portion.start for portion in portions)
        if dough.chill_min:
            self.fridge.spans.append((end, out))
        shaped = end + dough.makes[-1].wait_min
        emptied = shaped if dough.chill_min else max(portion.end for portion in portions)
        self.bowls.spans.append((begun, emptied))

    def batch(self, dough: DoughWork) -> None:
        """Mix a dough that may not wait and bake its trays at once: as soon as they all keep its
        window, or where it cannot be kept, with the least breach of it."""
        begin, mark, best = self.not_before, self.mark(), (FARTHEST, self.not_before)
        for _ in range(MOST_TRIES):
            over = self._together(dough)
            best = min(best, (over, self.not_before))
            if over <= 0:
                break
            self.back(mark)
            self.not_before += over
        else:
            self.not_before = best[1]
            self._together(dough)
        self.not_before = begin

    def _together(self, dough: DoughWork) -> int:
        """Place a dough and its trays from `not_before`; the minutes over its window."""
        self.dough(dough)
        trays = self.work.trays_of(dough.letter)
        for tray in trays:
            self.tray(tray)
        last = mixed(dough)
        if last is None:
            return 0
        begun, over = self.jobs[last].end, [0]
        if dough.bake_within is not None:
            loads = [self.jobs[JobKey(tray.name, "load")].start for tray in trays]
            over += [load - begun - dough.bake_within for load in loads]
        wait = dough.makes[-1].wait_min + dough.temper_min
        portions = [self.jobs[JobKey(tray.name, "portion")].start for tray in trays]
        if dough.chill_most is not None:
            over += [portion - begun - wait - dough.chill_most for portion in portions]
        if dough.first_within is not None:
            over.append(portions[0] - begun - wait - dough.first_within)
        return max(over)

    def _ready(self, tray: TrayWork) -> int:
        dough = self.work.dough(tray.dough)
        ready = self.not_before
        last = mixed(dough)
        if last is not None:
            wait = dough.makes[-1].wait_min + dough.chill_min + dough.temper_min
            ready = max(ready, self.jobs[last].end + wait)
        for n, part in enumerate(dough.parts):
            if part.wanted == "portion":
                ready = max(ready, self.jobs[JobKey(dough.letter, "part", n)].end)
        if tray.scraps:
            others = [
                self.jobs[JobKey(t.name, "portion")].end
                for t in self.work.trays_of(dough.letter)
                if not t.scraps and JobKey(t.name, "portion") in self.jobs
            ]
            ready = max([ready, *(end + dough.scrap_chill_min for end in others)])
        return ready

    def tray(self, tray: TrayWork) -> None:
        """Portion, bake and rack one tray, and finish it."""
        at, before = self._ready(tray), self._before(tray)
        if before is not None:
            at = max(at, self.jobs[JobKey(before, "portion")].start)
        while True:
            start, who = self._earliest(tray.portion_skill, at, tray.portion_min)
            end = start + tray.portion_min
            blocks = self._bakes(tray, end, ((start, end), who))
            load = blocks[JobKey(tray.name, "load")].start
            sheets = self.sheets[tray.pool]
            clean = blocks[JobKey(tray.name, "rack")].end + self.k.sheet_ready_min
            held = load if self.k.slides else start
            late = load - end - self.k.raw_wait_min
            behind = self._behind(before, tray, blocks)
            if late > 0:
                at = start + late
            elif behind > 0:
                at = start + behind
            elif sheets.count(held, clean) >= self.k.pools[tray.pool]:
                at = max(min(b for a, b in sheets.spans if b > held) - held + start, start + 1)
            else:
                break
        self._take(JobKey(tray.name, "portion"), "portion", JobTime(start, end, who))
        self._keep(tray, blocks, start)

    def _before(self, tray: TrayWork) -> str | None:
        """The tray of the same dough that goes before this one: like trays go in order."""
        own = [t.name for t in self.work.trays_of(tray.dough) if t.size == tray.size]
        placed = [name for name in own[: own.index(tray.name)] if JobKey(name, "rack") in self.jobs]
        return placed[-1] if placed else None

    def _behind(self, before: str | None, tray: TrayWork, blocks: dict[JobKey, JobTime]) -> int:
        """Minutes by which a tray would overtake the one that goes before it."""
        if before is None:
            return 0
        return max(
            self.jobs[JobKey(before, kind)].start - blocks[JobKey(tray.name, kind)].start
            for kind in ("load", "rack")
        )

    def _keep(self, tray: TrayWork, blocks: dict[JobKey, JobTime], portioned: int) -> None:
        for key, time in blocks.items():
            self._take(key, "load", time)
        for n, bake in enumerate(tray.bakes):
            load, out = blocks[JobKey(tray.name, "load", n)], blocks[JobKey(tray.name, "out", n)]
            oven, _ = self.fits(load.start, load.end, out.end, bake.oven_c)
            self.ovens[JobKey(tray.name, "bake", n)] = max(oven, 0)
            self.inside[max(oven, 0)].append(_Stay(load.start, load.end, out.end, bake.oven_c))
        rack = blocks[JobKey(tray.name, "rack")]
        held = blocks[JobKey(tray.name, "load")].start if self.k.slides else portioned
        self.sheets[tray.pool].spans.append((held, rack.end + self.k.sheet_ready_min))
        self.racks.spans.append((rack.end, rack.end + tray.cool_min))
        if tray.finish_min:
            ready = rack.end + tray.cool_min
            for n, part in enumerate(self.work.dough(tray.dough).parts):
                if part.wanted == "finish":
                    ready = max(ready, self.jobs[JobKey(tray.dough, "part", n)].end)
            self._do(JobKey(tray.name, "finish"), "finish", ready, tray.finish_min)

    def fits(self, start: int, loaded: int, end: int, oven_c: int) -> tuple[int, int]:
        """The first oven with a shelf and the right heat for that stay; −1 and the minutes after
        which it is worth another look when there is none."""
        wait = FARTHEST
        back = max((b for a, b in self.off if a < end), default=0)
        if back > start:
            return -1, back - start
        for number, oven in enumerate(self.k.ovens):
            cold = back + oven.heat_min(oven_c) - loaded
            if cold > 0:
                wait = min(wait, cold)
                continue
            later = self._later(start, loaded, end, oven_c, number)
            if not later:
                return number, 0
            wait = min(wait, later)
        return -1, wait

    def _later(self, start: int, loaded: int, end: int, oven_c: int, number: int) -> int:
        """Minutes by which a stay has to wait for a shelf or another heat; 0 when it has not."""
        oven, beside, wait = self.k.ovens[number], [], 0
        for other in self.inside[number]:
            change = oven.change_min(other.oven_c, oven_c, self.k.tolerance_c)
            if change:
                back = oven.change_min(oven_c, other.oven_c, self.k.tolerance_c)
                if loaded < other.end + change and other.loaded < end + back:
                    wait = max(wait, other.end + change - loaded)
            elif self.together and other.end > start and abs(other.start - start) > 3:
                wait = max(wait, other.end - start)
            elif other.start < end and other.end > start:
                beside.append((other.start, other.end))
        if (
            not wait
            and len(beside) >= oven.shelves
            and Busy(beside).count(start, end) >= (oven.shelves)
        ):
            wait = max(min(b for _, b in beside) - start, 1)
        return wait

    def _bakes(
        self, tray: TrayWork, ready: int, portion: tuple[Span, int]
    ) -> dict[JobKey, JobTime]:
        """The jobs of a tray from its first loading to the rack, as early as they all fit."""
        at = ready
        while at < ready + FARTHEST:
            block = _Block(self, tray, [portion])
            wait = block.build(at)
            if not wait:
                return block.found
            at += wait
        raise AssertionError("no time for a tray")


class _Block:
    """The jobs of one tray from its first loading to the rack, placed as one."""

    def __init__(self, greedy: Greedy, tray: TrayWork, taken: list[tuple[Span, int]]) -> None:
        self.greedy, self.k, self.tray, self.taken = greedy, greedy.k, tray, taken
        self.found: dict[JobKey, JobTime] = {}

    def _put(self, kind: Kind, start: int, minutes: int, number: int = 0, slack: int = 0) -> int:
        """Place a job at the first free moment within `slack`; 0, or the minutes it lacks."""
        lack = FARTHEST
        late = 0
        while late <= slack:
            span = (start + late, start + late + minutes)
            who, free = self.greedy.whose(kind, *span, self.taken)
            if who >= 0:
                self.taken.append((span, who))
                self.found[JobKey(self.tray.name, kind, number)] = JobTime(*span, who)
                return 0
            late += max(free - span[0], 1)
            lack = late - slack
        return max(lack, 1)

    def _end(self, kind: Kind, number: int = 0) -> int:
        return self.found[JobKey(self.tray.name, kind, number)].end

    def build(self, at: int) -> int:
        """Place all from `at`; 0, or by how many minutes to start later."""
        tray, k = self.tray, self.k
        for n in range(len(tray.bakes)):
            if n:
                lack = self._put("slice", at + tray.rest_min, tray.slice_min, slack=k.rest_over_min)
                if lack:
                    return lack
                at = self._end("slice")
            lack = self._bake(n, at, k.raw_wait_min if n else 0)
            if lack:
                return lack
            at = self._end("out", n)
        if tray.shape_min:
            lack = self._put("shape", at, tray.shape_min, slack=tray.shape_within)
            if lack:
                return lack
            at = self._end("shape")
        return self._rack(at + tray.rest_min)

    def _bake(self, n: int, at: int, slack: int) -> int:
        k, bake = self.k, self.tray.bakes[n]
        if n:  # its own first bake may have left the oven too hot
            oven, first_c = k.ovens[0], self.tray.bakes[n - 1].oven_c
            change = oven.change_min(first_c, bake.oven_c, k.tolerance_c)
            wait = self._end("out", n - 1) + change - k.load_min - at
            at, slack = at + max(wait, 0), slack - max(wait, 0)
        start, before, lack = at, dict(self.found), 0
        while start <= at + slack:
            self.found, taken = dict(before), list(self.taken)
            loaded = start + k.load_min
            _, lack = self.greedy.fits(start, loaded, loaded + bake.length + k.out_min, bake.oven_c)
            lack = lack or self._put("load", start, k.load_min, n)
            if not lack and bake.turn_after is not None:
                turn = max(bake.turn_after - TURN_SLACK, 0)
                lack = self._put("turn", loaded + turn, k.turn_min, n, slack=2 * TURN_SLACK)
            lack = lack or self._put("out", loaded + bake.length, k.out_min, n)
            if not lack:
                return 0
            self.taken = taken
            start += lack
        return max(lack, 1)

    def _rack(self, at: int) -> int:
        racks, cool = self.greedy.racks, self.tray.cool_min
        late = 0
        while late <= self.k.rest_over_min:
            off = at + late + self.k.rack_min
            if racks.count(off, off + cool) < self.k.racks:
                return self._put(
                    "rack", at + late, self.k.rack_min, slack=self.k.rest_over_min - late
                )
            late += 1
        return 1
