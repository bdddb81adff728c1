"""Places tray after tray, each job as early as hands, shelf, heat and sheet allow."""

from finebatch.core.plan.block import earliest_block, stay_of
from finebatch.core.plan.diary import Diary
from finebatch.core.plan.keys import CLEAR_UP, JobKey, JobKind
from finebatch.core.plan.network import fetched, mixed, mixed_for
from finebatch.core.plan.placed import JobTime, Times
from finebatch.core.plan.work import DoughWork, PartWork, TrayWork, Work

MOST_TRIES = 12
"""How often a dough that may not wait is tried later."""


class Greedy:
    """Places doughs and trays one after the other in a diary, none before `not_before`."""

    def __init__(self, work: Work, *, together: bool = False) -> None:
        self.work, self.k = work, work.kitchen
        self.washes = work.washes
        self.diary = Diary(work.kitchen, together=together)
        self.not_before = 0

    @property
    def jobs(self) -> dict[JobKey, JobTime]:
        """The jobs placed so far."""
        return self.diary.jobs

    @property
    def times(self) -> Times:
        """What was placed so far."""
        return Times(self.diary.jobs, self.diary.ovens, {})

    def _do(self, key: JobKey, start: int, minutes: int) -> JobTime:
        return self.diary.take(key, self.diary.earliest(key.step, start, minutes))

    def dough(self, dough: DoughWork, lot: int = 0) -> None:
        """Mix a dough, or a lot of it, and make its parts."""
        begin = at = max(self.not_before, dough.begin_from)
        for n, make in enumerate(dough.before if not lot else ()):
            done = self._do(JobKey(dough.letter, "ready", n), begin, make.hands_min)
            at = max(at, done.end + make.wait_min)
        if lot:
            at = max(at, self.jobs[dough.lot(lot - 1)[-1][1]].end)
        last = dough.last_mix
        if not lot and last in self.washes:
            at = max(at, self._clean_bowl())
        for make, key in dough.lot(lot):
            at = self._do(key, at, make.hands_min).end
            at += make.wait_min
        if lot < dough.lots - 1:
            return
        if last is not None and last in self.washes:
            self.diary.dirty.append(last)
        for n, part in enumerate(dough.parts):
            trays = self.work.trays_of(dough.letter)
            wanted = part.wanted == "portion" or any(tray.finish_min for tray in trays)
            if part.within_min is None or not wanted:
                self._do(JobKey(dough.letter, "part", n), begin, part.hands_min)

    def _clean_bowl(self) -> int:
        """Wash a bowl where none is clean; from when there is one."""
        while len(self.diary.dirty) >= self.k.mixers:
            self._wash()
        return self.diary.clean_from

    def _wash(self) -> None:
        mix = self.diary.dirty.pop(0)
        done = self._do(self.washes[mix], self.jobs[mix].end, self.k.wash_min)
        self.diary.mixers.spans.append((self.jobs[mix].end, done.end))
        self.diary.clean_from = max(self.diary.clean_from, done.end)

    def clean(self) -> None:
        """What nothing waits for, in the gaps: put rests away, wash what is left to be washed; then
        clear up after all else."""
        for dough in self.work.doughs:
            if dough.freeze_min:
                last = mixed(dough)
                there = 0 if last is None else self.jobs[last].end + dough.makes[-1].wait_min
                self._do(JobKey(dough.letter, "freeze"), there, dough.freeze_min)
        while self.diary.dirty:
            self._wash()
        if self.k.clear_min:
            all_done = max(time.end for time in self.jobs.values())
            self._do(CLEAR_UP, all_done, self.k.clear_min)

    def in_turn(self, dough: DoughWork) -> None:
        """Mix and bake a dough once there is a bowl and a place in the fridge for it."""
        begin, diary = self.not_before, self.diary
        rooms = [(diary.bowls, self.k.bowls), (diary.fridge, self.k.fridge)]
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
        jobs = dough.made
        begun, end = self.jobs[jobs[0]].start, self.jobs[jobs[-1]].end
        if dough.cold_from is not None:
            out = max(portion.start for portion in portions)
            self.diary.fridge.spans.append((self.jobs[dough.cold_from].end, out))
        shaped = end + dough.makes[-1].wait_min
        emptied = shaped if dough.chill_min else max(portion.end for portion in portions)
        self.diary.bowls.spans.append((begun, emptied))

    def batch(self, dough: DoughWork) -> None:
        """Mix a dough that may not wait and bake its trays at once: as soon as they all keep its
        window, or where it cannot be kept, with the least breach of it."""
        begin = self.not_before
        for lot in range(dough.lots):
            before, tried = self.diary, list[tuple[int, Diary]]()
            for number in range(MOST_TRIES):
                self.diary = before.copy()
                over = self._together(dough, lot)
                tried.append((over, self.diary))
                if over <= 0:
                    break
                # Where a little later changes nothing it is tried later and later.
                self.not_before += over << number // 3
            self.diary = min(tried, key=lambda one: one[0])[1]
        self.not_before = begin

    def _together(self, dough: DoughWork, lot: int = 0) -> int:
        """Place a dough, or a lot of it, and its trays from `not_before`; the minutes over its
        window."""
        self.dough(dough, lot)
        trays = [tray for tray in self.work.trays_of(dough.letter) if tray.lot == lot]
        for tray in trays:
            self.tray(tray)
        made = mixed_for(dough, trays[0]) if trays else None
        if made is None:
            return 0
        last, _ = made
        begun, over = self.jobs[last].end, [0]
        if dough.bake_within is not None:
            loads = [self.jobs[JobKey(tray.name, "load")].start for tray in trays]
            over += [load - begun - dough.bake_within for load in loads]
        wait = dough.makes[-1].wait_min + dough.temper_min
        portions = [self.jobs[JobKey(tray.name, "portion")].start for tray in trays]
        out = fetched(dough)
        if out is not None:
            wait, portions = dough.makes[-1].wait_min, [self.jobs[out].start]
        if dough.chill_most is not None:
            over += [portion - begun - wait - dough.chill_most for portion in portions]
        if dough.first_within is not None:
            over.append(portions[0] - begun - wait - dough.first_within)
        return max(over)

    def _ready(self, tray: TrayWork) -> int:
        """When its dough is there, and the parts and scraps that it waits for."""
        dough = self.work.dough(tray.dough)
        ready = max(self.not_before, dough.bake_from)
        made = mixed_for(dough, tray)
        if made is not None:
            ready = max(ready, self.workable(dough, made[0]))
            out = fetched(dough)
            if out in self.jobs:
                ready = max(ready, self.jobs[out].end + dough.temper_min)
        for key, part in self._parts(dough, "portion"):
            if key in self.jobs:
                ready = max(ready, self.jobs[key].end)
            else:
                ready = max(ready, self.not_before + part.hands_min)
        if tray.scraps:
            others = [
                self.jobs[JobKey(t.name, "portion")].end
                for t in self.work.trays_of(dough.letter)
                if not t.scraps and JobKey(t.name, "portion") in self.jobs
            ]
            ready = max([ready, *(end + dough.scrap_chill_min for end in others)])
        return ready

    def _cold_until(self, dough: DoughWork, last: JobKey) -> int:
        """The soonest minute at which a dough can leave the cold."""
        return self.jobs[last].end + dough.makes[-1].wait_min + dough.chill_min

    def workable(self, dough: DoughWork, last: JobKey) -> int:
        """The soonest minute at which a dough, made with that last job, can be portioned."""
        return self._cold_until(dough, last) + dough.fetch_min + dough.temper_min

    def _parts(self, dough: DoughWork, wanted: str) -> list[tuple[JobKey, PartWork]]:
        """The parts of a dough that are wanted for that job."""
        return [
            (JobKey(dough.letter, "part", n), part)
            for n, part in enumerate(dough.parts)
            if part.wanted == wanted
        ]

    def _just_before(
        self, kind: JobKind, latest: int, soonest: int, minutes: int, beside: list[JobTime]
    ) -> JobTime | None:
        """A job begun as late as may be, at `latest`; none where no hands are free in time."""
        for start in range(latest, soonest - 1, -1):
            who, _ = self.diary.whose(kind, start, start + minutes, beside)
            if who >= 0:
                return JobTime(start, start + minutes, who)
        return None

    def _wanted(
        self, tray: TrayWork, portion: JobTime, block: dict[JobKey, JobTime]
    ) -> dict[JobKey, JobTime] | None:
        """What is done shortly before the first tray of a dough: it is fetched, and the parts that
        go on are made. None where no hands are free for it in time."""
        dough, beside = self.work.dough(tray.dough), list(block.values())
        found: dict[JobKey, JobTime] = {}
        out, last = fetched(dough), mixed(dough)
        if out is not None and last is not None and out not in self.jobs:
            latest = portion.start - dough.temper_min - dough.fetch_min
            soonest = max(latest - dough.fetched_within, self._cold_until(dough, last))
            fetch = self._just_before("fetch", latest, soonest, dough.fetch_min, beside)
            if fetch is None:
                return None
            found[out] = fetch
            beside.append(fetch)
        return self._made_before(dough, "portion", portion.start, beside, found)

    def _made_before(
        self,
        dough: DoughWork,
        wanted: str,
        until: int,
        beside: list[JobTime],
        found: dict[JobKey, JobTime],
    ) -> dict[JobKey, JobTime] | None:
        """The parts not yet made that are wanted then, each as late as may be, beside the rest."""
        for key, part in self._parts(dough, wanted):
            if key in self.jobs or part.within_min is None:
                continue
            latest = until - part.hands_min
            soonest = max(latest - part.within_min, self.not_before, dough.begin_from)
            made = self._just_before("part", latest, soonest, part.hands_min, beside)
            if made is None:
                return None
            found[key] = made
            beside.append(made)
        return found

    def mix_for(self, tray: TrayWork) -> None:
        """Mix what a tray wants, unless that is done."""
        dough = self.work.dough(tray.dough)
        made = mixed_for(dough, tray)
        if made is not None and made[0] not in self.jobs:
            self.dough(dough, tray.lot)

    def tray(self, tray: TrayWork) -> None:
        """Portion, bake and rack one tray, and finish it."""
        at, before = self._ready(tray), self._before(tray)
        if before is not None:
            at = max(at, self.jobs[JobKey(before, "portion")].start)
        later = 1
        while later:
            portion = self.diary.earliest(tray.portion_skill, at, tray.portion_min)
            block = earliest_block(self.diary, tray, portion)
            later = self._later(tray, before, block)
            if not later:
                wanted = self._wanted(tray, portion, block)
                later = int(wanted is None)
                for key, time in (wanted or {}).items():
                    self.diary.take(key, time)
            at = portion.start + later
        self._keep(tray, block)

    def _later(self, tray: TrayWork, before: str | None, block: dict[JobKey, JobTime]) -> int:
        """By how many minutes a tray has to be portioned later: it would wait raw for too long,
        overtake the one before it, or have no sheet; 0 when all is well."""
        portion, load = (block[JobKey(tray.name, kind)] for kind in ("portion", "load"))
        raw = load.start - portion.end - tray.stand_min - self.k.raw_wait_min
        if raw > 0:
            return raw
        behind = self._behind(before, tray, block)
        if behind > 0:
            return behind
        held, clean = self._on_sheet(tray, block)
        sheets = self.diary.sheets[tray.pool]
        if sheets.count(held, clean) < self.k.pools[tray.pool]:
            return 0
        return max(min(end for _, end in sheets.spans if end > held) - held, 1)

    def _on_sheet(self, tray: TrayWork, block: dict[JobKey, JobTime]) -> tuple[int, int]:
        """From when to when a tray has a sheet of its own."""
        first = block[JobKey(tray.name, "load" if self.k.slides else "portion")]
        return first.start, block[JobKey(tray.name, "rack")].end + self.k.sheet_ready_min

    def _before(self, tray: TrayWork) -> str | None:
        """The tray of the same dough that goes before this one: like trays go in order."""
        own = [t.name for t in self.work.trays_of(tray.dough) if t.size == tray.size]
        placed = [name for name in own[: own.index(tray.name)] if JobKey(name, "rack") in self.jobs]
        return placed[-1] if placed else None

    def _behind(self, before: str | None, tray: TrayWork, block: dict[JobKey, JobTime]) -> int:
        """Minutes by which a tray would overtake the one that goes before it."""
        if before is None:
            return 0
        return max(
            self.jobs[JobKey(before, kind)].start - block[JobKey(tray.name, kind)].start
            for kind in ("load", "rack")
        )

    def _keep(self, tray: TrayWork, block: dict[JobKey, JobTime]) -> None:
        diary = self.diary
        for key, time in block.items():
            diary.take(key, time)
        for n in range(len(tray.bakes)):
            diary.bake(JobKey(tray.name, "bake", n), stay_of(tray, n, block))
        diary.sheets[tray.pool].spans.append(self._on_sheet(tray, block))
        racked = block[JobKey(tray.name, "rack")].end
        cold = racked + tray.cool_min
        diary.racks.spans.append((racked, cold))
        if tray.finish_min:
            self._finish(tray, cold)

    def _finish(self, tray: TrayWork, cold: int) -> None:
        """Finish a tray once it is cold, and what is put on it is made."""
        dough = self.work.dough(tray.dough)
        made = [self.jobs[key].end for key, _ in self._parts(dough, "finish") if key in self.jobs]
        at, wanted = max([cold, *made]), None
        while wanted is None:
            finish = self.diary.earliest("finish", at, tray.finish_min)
            wanted = self._made_before(dough, "finish", finish.start, [finish], {})
            at = finish.start + 1
        for key, time in wanted.items():
            self.diary.take(key, time)
        self.diary.take(JobKey(tray.name, "finish"), finish)
