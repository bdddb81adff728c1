"""The best plan: the same work as a constraint model, solved by OR-tools' CP-SAT.

First the earliest finish is sought and, when time allows, proven; then, at that finish, the
calmest plan: trays wait as little as may be between one place and the next. One search thread
and a deterministic limit make the same work give the same plan.
"""

from dataclasses import dataclass
from itertools import pairwise

from ortools.sat.python import cp_model

from finebatch.core.plan.quick import plain_bound, quick_times
from finebatch.core.plan.schedule import BakeTimes, Plan, Times, TrayTimes, place
from finebatch.core.plan.work import NOTHING_YET, Happened, TrayWork, Work, job_id
from finebatch.core.refusal import refuse

LATE_COST = 1000
FINISH_COST = 50
WAIT_COST = 2
LATEST = 100_000
"""No limit on lateness while baking: what has happened cannot be planned away, only made good."""

Expr = cp_model.LinearExpr | int


@dataclass(slots=True)
class _BakeVars:
    start: cp_model.IntVar
    end: cp_model.IntVar
    turn: cp_model.IntVar | None


@dataclass(slots=True)
class _TrayVars:
    portion: cp_model.IntVar
    portion_end: cp_model.IntVar
    bakes: list[_BakeVars]
    slice: cp_model.IntVar | None
    rack: cp_model.IntVar


class _Model:
    """Builds the constraint model of one session's work, some of it perhaps already done."""

    def __init__(self, work: Work, happened: Happened) -> None:
        self.work, self.happened = work, happened
        self.taken = {*happened.done, *happened.begun}
        self.model = cp_model.CpModel()
        self.horizon = work.horizon + happened.now
        self.replanning = happened.now > 0 or bool(happened.done)
        self.hands: list[cp_model.IntervalVar] = []
        self.shelf_stays: list[cp_model.IntervalVar] = []
        self.sheet_stays: list[cp_model.IntervalVar] = []
        self.cleaning: list[tuple[int, cp_model.IntVar]] = []
        self.in_oven = self.on_sheets = 0
        self.late: list[Expr] = []
        self.waits: list[Expr] = []
        self.mix, self.mix_end = self._job("dough.mix", work.dough.mix_min)
        self.trays = [self._tray(tray) for tray in work.trays]
        self.finish = self._new("finish", 0, self.horizon)
        self._limits()

    def _new(self, name: str, low: int, high: int) -> cp_model.IntVar:
        return self.model.new_int_var(low, high, name)

    def _job(self, job: str, minutes: int) -> tuple[cp_model.IntVar, cp_model.IntVar]:
        """Start and end of a hand job: fixed when done, open-ended when begun, else ahead."""
        h = self.happened
        if job in h.done:
            end = h.done[job]
            return self._new(job, end - minutes, end - minutes), self._new(job + ">", end, end)
        if job in h.begun:
            start = h.begun[job]
            finish = max(start + minutes, h.now)
            begun = self._new(job, start, start), self._new(job + ">", finish, finish)
            self._busy(job, max(h.now, start), max(finish - max(h.now, start), 0))
            return begun
        start_var = self._new(job, h.now, self.horizon)
        end_var = self._new(job + ">", h.now, self.horizon)
        self.model.add(end_var == start_var + minutes)
        self._busy(job, start_var, minutes)
        return start_var, end_var

    def _busy(self, job: str, start: Expr, minutes: int) -> None:
        if minutes > 0:
            self.hands.append(self.model.new_fixed_size_interval_var(start, minutes, job + ":"))

    def _bake(self, tray: TrayWork, n: int, ready: Expr) -> _BakeVars:
        k, bake, add = self.work.kitchen, tray.bakes[n], self.model.add
        load, loaded = self._job(job_id(tray.name, "load", n), k.load_min)
        out, emptied = self._job(job_id(tray.name, "out", n), k.out_min)
        if job_id(tray.name, "load", n) not in self.happened.done:
            add(load >= ready)
            if not any(".load" in done for done in self.happened.done):
                add(loaded >= k.oven_heat_min)
        if job_id(tray.name, "out", n) not in self.happened.done:
            late = self._new(f"{tray.name}.late{n}", 0, LATEST if self.replanning else 0)
            add(out == loaded + bake.length + late)
            self.late.append(late)
        loads, outs = job_id(tray.name, "load", n), job_id(tray.name, "out", n)
        if outs not in self.happened.done:
            inside = loads in self.happened.done
            self.in_oven += inside
            self._stay(self.shelf_stays, self.happened.now if inside else load, emptied)
        return _BakeVars(loaded, out, self._turn(tray, n, loaded, out))

    def _stay(self, stays: list[cp_model.IntervalVar], start: Expr, end: cp_model.IntVar) -> None:
        """Something lies in one of several like places from `start` to `end`."""
        name = f"stay{len(self.shelf_stays) + len(self.sheet_stays)}"
        size = self._new(name, 0, LATEST)
        stays.append(self.model.new_interval_var(start, size, end, name + ":"))

    def _turn(
        self, tray: TrayWork, n: int, start: cp_model.IntVar, end: cp_model.IntVar
    ) -> cp_model.IntVar | None:
        k, bake = self.work.kitchen, tray.bakes[n]
        job = job_id(tray.name, "turn", n)
        if bake.turn_after is None:
            return None
        if job not in self.happened.done:
            loaded = self.happened.done.get(job_id(tray.name, "load", n))
            out_done = job_id(tray.name, "out", n) in self.happened.done
            if out_done or (
                loaded is not None and self.happened.now + k.turn_min > loaded + bake.length - 1
            ):
                return None  # the chance has passed
        turn, turned = self._job(job, k.turn_min)
        if job not in self.happened.done:
            late = self._new(f"{tray.name}.turnlate{n}", 0, LATEST)
            self.model.add(turn >= start + bake.turn_after - 1)
            self.model.add(turn <= start + bake.turn_after + 1 + late)
            self.model.add(turned <= end)
            if self.replanning:
                self.late.append(late)
            else:
                self.model.add(late == 0)
        return turn

    def _tray(self, tray: TrayWork) -> _TrayVars:
        k, add = self.work.kitchen, self.model.add
        portion_id = job_id(tray.name, "portion")
        portion, portioned = self._job(portion_id, tray.portion_min)
        if portion_id not in self.taken:
            add(portion >= self.mix_end + self.work.dough.chill_min)
        bakes = [self._bake(tray, 0, portioned)]
        if job_id(tray.name, "load") not in self.happened.done:
            self._wait(bakes[0].start - k.load_min - portioned, k.raw_wait_min)
        sliced = None
        if len(tray.bakes) > 1:
            slice_id = job_id(tray.name, "slice")
            sliced, cut = self._job(slice_id, tray.slice_min)
            if slice_id not in self.taken:
                add(sliced >= bakes[0].end + k.out_min + tray.rest_min)
                self._wait(sliced - bakes[0].end - k.out_min - tray.rest_min, k.rest_over_min)
            bakes.append(self._bake(tray, 1, cut))
            if job_id(tray.name, "load", 1) not in self.happened.done:
                self._wait(bakes[1].start - k.load_min - cut, k.raw_wait_min)
        rack_id = job_id(tray.name, "rack")
        rack, off = self._job(rack_id, k.rack_min)
        if rack_id not in self.happened.done:
            add(rack >= bakes[-1].end + k.out_min + tray.rest_min)
            self._wait(rack - bakes[-1].end - k.out_min - tray.rest_min, k.rest_over_min)
        self._hold_sheet(tray, portion, off)
        return _TrayVars(portion, portioned, bakes, sliced, rack)

    def _hold_sheet(self, tray: TrayWork, portion: cp_model.IntVar, off: cp_model.IntVar) -> None:
        """A sheet is taken from portioning until it is off, cool and lined again."""
        h, ready_min = self.happened, self.work.kitchen.sheet_ready_min
        begun = job_id(tray.name, "portion") in self.taken
        racked = h.done.get(job_id(tray.name, "rack"))
        if racked is not None and racked + ready_min <= h.now:
            return
        clean = self._new(f"{tray.name}.clean", 0, self.horizon + ready_min)
        self.model.add(clean == off + ready_min)
        if racked is None:
            self.on_sheets += begun
            self._stay(self.sheet_stays, h.now if begun else portion, clean)
        else:
            self.cleaning.append((h.now, clean))

    def _wait(self, wait: Expr, most: int) -> None:
        """A wait costs calm; past its most it is late, which a fresh plan never is."""
        if self.replanning:
            over = self._new(f"over{len(self.waits)}", 0, self.horizon)
            self.model.add(wait <= most + over)
            self.late.append(over)
        else:
            self.model.add(wait <= most)
        self.waits.append(wait)

    def _limits(self) -> None:
        k, add = self.work.kitchen, self.model.add
        self.model.add_no_overlap(self.hands)
        # What is already in the oven or on a sheet is there, whatever the kitchen's numbers say;
        # a sheet that should still be cooling but holds the next tray was ready sooner.
        if self.on_sheets + len(self.cleaning) <= k.sheets:
            for start, clean in self.cleaning:
                self._stay(self.sheet_stays, start, clean)
        self._share(self.shelf_stays, max(k.shelves, self.in_oven))
        self._share(self.sheet_stays, max(k.sheets, self.on_sheets))
        # Trays of one dough go in order, so equal trays are not tried in every order.
        for n, (a, b) in enumerate(pairwise(self.trays)):
            if job_id(self.work.trays[n + 1].name, "portion") not in self.taken:
                add(a.portion <= b.portion)
            if not self.replanning:
                add(a.bakes[0].start <= b.bakes[0].start)
                add(a.rack <= b.rack)
        for tray, v in zip(self.work.trays, self.trays, strict=True):
            add(self.finish >= v.rack + k.rack_min + tray.cool_min)
        if not self.replanning:
            add(self.mix == 0)
            add(self.finish >= plain_bound(self.work))

    def _share(self, stays: list[cp_model.IntervalVar], places: int) -> None:
        self.model.add_cumulative(stays, [1] * len(stays), places)

    def hint(self, times: Times) -> None:
        """Offer known times as a first answer."""
        for v, t in zip(self.trays, times.trays, strict=True):
            self.model.add_hint(v.portion, t.portion)
            self.model.add_hint(v.rack, t.rack)
            for bv, bt in zip(v.bakes, t.bakes, strict=True):
                self.model.add_hint(bv.start, bt.start)

    def times(self, solver: cp_model.CpSolver) -> Times:
        """Read the deciding times off a solved model."""
        val = solver.value
        return Times(
            val(self.mix),
            val(self.mix_end),
            tuple(
                TrayTimes(
                    val(v.portion),
                    val(v.portion_end),
                    tuple(
                        BakeTimes(val(b.start), val(b.end), None if b.turn is None else val(b.turn))
                        for b in v.bakes
                    ),
                    None if v.slice is None else val(v.slice),
                    val(v.rack),
                )
                for v in self.trays
            ),
        )


def _solver(seconds: float) -> cp_model.CpSolver:
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    solver.parameters.max_deterministic_time = seconds
    solver.parameters.max_time_in_seconds = 10 * seconds + 5
    return solver


_SOLVED = (cp_model.OPTIMAL, cp_model.FEASIBLE)


def best_plan(work: Work, seconds: float = 5.0) -> Plan:
    """The plan that finishes earliest, and at that finish the calmest.

    `seconds` bounds each of the two searches in the solver's deterministic time, roughly a
    second each on a home computer; `Plan.bound` tells how far from the best it can be.
    """
    model = _Model(work, NOTHING_YET)
    quick = quick_times(work)
    model.hint(quick)
    model.model.minimize(model.finish)
    first = _solver(seconds)
    if first.solve(model.model) not in _SOLVED:
        raise refuse("sheets", "No plan was found in the time given. Try fewer trays.")
    bound = max(round(first.best_objective_bound), plain_bound(work))
    found = model.times(first)
    model.model.clear_hints()  # type: ignore[no-untyped-call]
    model.hint(found)
    model.model.add(model.finish <= round(first.objective_value))
    model.model.minimize(sum(model.waits))
    calm = _solver(min(seconds, 0.5))
    if calm.solve(model.model) in _SOLVED:
        found = model.times(calm)
    return place(work, found, bound)


def replan(work: Work, happened: Happened, before: Times, seconds: float = 0.8) -> Plan:
    """Plan the rest again once things have happened: what is done stays, the rest moves little.

    Lateness comes first, then the finish, then short waits and the times of `before`.
    """
    model = _Model(work, happened)
    model.hint(before)
    moved: list[Expr] = []
    for number, (v, t) in enumerate(zip(model.trays, before.trays, strict=True)):
        pairs = [(v.portion, t.portion), (v.rack, t.rack)]
        pairs += [(b.start, old.start) for b, old in zip(v.bakes, t.bakes, strict=True)]
        for k, (var, old) in enumerate(pairs):
            shift = model.model.new_int_var(0, model.horizon, f"shift{number}.{k}")
            model.model.add_abs_equality(shift, var - old)
            moved.append(shift)
    model.model.minimize(
        LATE_COST * sum(model.late)
        + FINISH_COST * model.finish
        + WAIT_COST * sum(model.waits)
        + sum(moved)
    )
    solver = _solver(seconds)
    if solver.solve(model.model) not in _SOLVED:
        raise refuse("activity", "The rest could not be planned anew. Take the last step back.")
    return place(work, model.times(solver), happened.now)
