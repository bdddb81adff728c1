"""The jobs of one tray from its portioning to the rack, placed as one: what follows the oven does
not wait."""

from finebatch.core.plan.diary import FARTHEST, Diary, OvenStay
from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.network import TURN_SLACK
from finebatch.core.plan.placed import JobTime
from finebatch.core.plan.work import TrayWork


def stay_of(tray: TrayWork, number: int, jobs: dict[JobKey, JobTime]) -> OvenStay:
    """A tray's stay in the oven, by its loading and its taking out."""
    load, out = (jobs[JobKey(tray.name, kind, number)] for kind in ("load", "out"))
    return OvenStay(load.start, load.end, out.end, tray.bakes[number].oven_c)


def earliest_block(diary: Diary, tray: TrayWork, portion: JobTime) -> dict[JobKey, JobTime]:
    """The jobs of a tray portioned then, as early as they all fit."""
    at = portion.end + tray.stand_min
    while at < portion.end + tray.stand_min + FARTHEST:
        block = _Block(diary, tray, portion)
        lack = block.build(at)
        if not lack:
            return block.jobs
        at += lack
    raise AssertionError("no time for a tray")


class _Block:
    """One attempt. Each step gives 0, or by how many minutes it lacks a free moment."""

    def __init__(self, diary: Diary, tray: TrayWork, portion: JobTime) -> None:
        self.diary, self.k, self.tray = diary, diary.k, tray
        self.jobs = {JobKey(tray.name, "portion"): portion}

    def build(self, at: int) -> int:
        """Place all from `at`, the first opening of the oven."""
        tray, k = self.tray, self.k
        for number in range(len(tray.bakes)):
            if number:
                at += tray.before_cut_min
                lack = self._put("slice", at, tray.slice_min, slack=k.rest_over_min)
                if lack:
                    return lack
                at = self._end("slice")
            lack = self._bake(number, at, k.raw_wait_min if number else 0)
            if lack:
                return lack
            at = self._end("out", number)
        if tray.shape_min:
            lack = self._put("shape", at, tray.shape_min, slack=tray.shape_within)
            if lack:
                return lack
            at = self._end("shape")
        return self._rack(at + tray.rest_min)

    def _end(self, kind: JobKind, number: int = 0) -> int:
        return self.jobs[JobKey(self.tray.name, kind, number)].end

    def _put(self, kind: JobKind, start: int, minutes: int, number: int = 0, slack: int = 0) -> int:
        """Place a job at the first free moment within `slack`."""
        at, last = start, start + slack
        while at <= last:
            who, again = self.diary.whose(kind, at, at + minutes, self.jobs.values())
            if who >= 0:
                self.jobs[JobKey(self.tray.name, kind, number)] = JobTime(at, at + minutes, who)
                return 0
            at = max(again, at + 1)
        return at - last

    def _bake(self, number: int, at: int, slack: int) -> int:
        """Load, turn and take out, as soon as a shelf and hands are free within `slack`."""
        wait = self._too_hot(number, at) if number else 0
        start, last, lack = at + wait, at + slack, 0
        before = self.jobs
        while start <= last:
            self.jobs = dict(before)
            lack = self._load_to_out(number, start)
            if not lack:
                return 0
            start += lack
        return max(lack, 1)

    def _too_hot(self, number: int, at: int) -> int:
        """Minutes until the oven has come from the heat of the tray's first bake to this one's."""
        k, (first, second) = self.k, self.tray.bakes[number - 1 : number + 1]
        change = k.ovens[0].change_min(first.oven_c, second.oven_c, k.tolerance_c)
        return max(self._end("out", number - 1) + change - k.load_min - at, 0)

    def _load_to_out(self, number: int, start: int) -> int:
        k, bake = self.k, self.tray.bakes[number]
        loaded = start + k.load_min
        done = loaded + bake.length
        _, lack = self.diary.fits(OvenStay(start, loaded, done + k.out_min, bake.oven_c))
        lack = lack or self._put("load", start, k.load_min, number)
        if not lack and bake.turn_after is not None:
            half = loaded + max(bake.turn_after - TURN_SLACK, 0)
            lack = self._put("turn", half, k.turn_min, number, slack=2 * TURN_SLACK)
        return lack or self._put("out", done, k.out_min, number)

    def _rack(self, at: int) -> int:
        """To the rack once there is room on it."""
        racks, k, last = self.diary.racks, self.k, at + self.k.rest_over_min
        for start in range(at, last + 1):
            off = start + k.rack_min
            if racks.count(off, off + self.tray.cool_min) < k.racks:
                return self._put("rack", start, k.rack_min, slack=last - start)
        return 1
