"""A session's work as a constraint model for OR-tools' CP-SAT, some of it perhaps already done."""

from collections.abc import Callable, Collection, Sequence
from itertools import combinations, pairwise

from ortools.sat.python import cp_model

from finebatch.core.plan.bound import plain_bound
from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.model_jobs import LATEST, Expr, JobModel, Var
from finebatch.core.plan.network import BakeStay, after_last, last_of, off_spans
from finebatch.core.plan.placed import JobTime, Times
from finebatch.core.plan.work import DoughWork, Happened, Oven, TrayWork, Work

NIGHT = 240
"""Minutes away that part one day's baking from the next."""


class Model(JobModel):
    """All of it: jobs, places, order, finish and pins."""

    def __init__(self, work: Work, happened: Happened) -> None:
        super().__init__(work, happened)
        self._ovens()
        self._sheets()
        self._rooms()
        self._bowls()
        self._order()
        self._finish()
        self._pins()

    # Places

    def _stay(self, name: str, start: Expr, end: Var) -> cp_model.IntervalVar:
        size = self._new(name, 0, LATEST)
        return self.model.new_interval_var(start, size, end, name + ":")

    def _inside(self, stay: BakeStay) -> bool:
        return stay.load in self.happened.done and stay.out not in self.happened.done

    def _ovens(self) -> None:
        """Shelves, heat, and one temperature at a time in each oven."""
        k, h = self.work.kitchen, self.happened
        pending = [s for s in self.net.stays if s.out not in h.done]
        inside = sum(self._inside(s) for s in pending)
        started = any(key.step == "load" for key in h.done)
        choose = len(k.ovens) > 1 or any(s.tray.shelf for s in pending)
        spans = {}
        for stay in pending:
            start: Expr = h.now if self._inside(stay) else self.starts[stay.load]
            spans[stay.key] = (start, self.ends[stay.out])
        if choose:
            self._slots(pending, spans, inside)
        else:
            stays = [self._stay(f"in.{s.key}", *spans[s.key]) for s in pending]
            self.model.add_cumulative(stays, [1] * len(stays), max(k.shelves, inside))
        for stay in pending:
            if stay.load in self.taken:
                continue
            for number, oven in enumerate(k.ovens):
                hot = 0 if started else oven.heat_min(stay.oven_c)
                hot = max([hot, *h.oven_from[number : number + 1]])
                if hot > h.now:
                    rule = self.model.add(self.ends[stay.load] >= hot)
                    rule.only_enforce_if(self._in_oven(stay, number))
        self._unattended(pending)
        for number, oven in enumerate(k.ovens):
            self._temperatures(pending, number, oven)

    def _unattended(self, pending: list[BakeStay]) -> None:
        """While nobody is there for long the oven is off and empty, and is heated anew after."""
        k = self.work.kitchen
        for start, end in off_spans(self.work, self.happened):
            for stay in pending:
                if stay.load in self.taken:
                    continue
                after = self.model.new_bool_var(f"{stay.key}>{end}")
                self.model.add(self.ends[stay.out] <= start).only_enforce_if(~after)
                self.model.add(self.starts[stay.load] >= end).only_enforce_if(after)
                for number, oven in enumerate(k.ovens):
                    rule = self.model.add(self.ends[stay.load] >= end + oven.heat_min(stay.oven_c))
                    rule.only_enforce_if([after, *self._in_oven(stay, number)])

    def _slots(
        self, pending: list[BakeStay], spans: dict[JobKey, tuple[Expr, Var]], inside: int
    ) -> None:
        """Each stay on one shelf of one oven."""
        k = self.work.kitchen
        slots = [(o, s) for o, oven in enumerate(k.ovens) for s in range(oven.shelves)]
        while len(slots) < inside:  # what is in the oven is there, whatever the kitchen says
            slots.append((0, len(slots)))
        on_slot: dict[tuple[int, int], list[cp_model.IntervalVar]] = {slot: [] for slot in slots}
        for stay in pending:
            chosen = {}
            start, end = spans[stay.key]
            for slot in slots:
                chosen[slot] = self.model.new_bool_var(f"{stay.key}@{slot}")
                size = self._new(f"size.{stay.key}@{slot}", 0, LATEST)
                on_slot[slot].append(
                    self.model.new_optional_interval_var(
                        start, size, end, chosen[slot], f"{stay.key}@{slot}:"
                    )
                )
            self.model.add_exactly_one(chosen.values())
            shelf = stay.tray.shelf
            if shelf is not None and not self._inside(stay):
                self.model.add_bool_or([b for (_, s), b in chosen.items() if s == shelf - 1])
            self.slot_of[stay.key] = chosen
        for stays in on_slot.values():
            self.model.add_no_overlap(stays)

    def _in_oven(self, stay: BakeStay, number: int) -> list[Var]:
        """Literals that all hold when the stay is in that oven: none when there is only one."""
        if len(self.work.kitchen.ovens) == 1:
            return []
        chosen = self.slot_of[stay.key]
        key = (-1, number)
        if key not in chosen:
            literal = self.model.new_bool_var(f"{stay.key}#{number}")
            self.model.add(sum(b for (o, s), b in chosen.items() if o == number) == literal)
            chosen[key] = literal
        return [chosen[key]]

    def _temperatures(self, pending: list[BakeStay], number: int, oven: Oven) -> None:
        tolerance, h = self.work.kitchen.tolerance_c, self.happened
        for a, b in combinations(pending, 2):
            there = oven.change_min(a.oven_c, b.oven_c, tolerance)
            back = oven.change_min(b.oven_c, a.oven_c, tolerance)
            if (not there and not back) or (self._inside(a) and self._inside(b)):
                continue
            both = [*self._in_oven(a, number), *self._in_oven(b, number)]
            first = self.model.new_bool_var(f"{a.key}<{b.key}")
            rule = self.model.add(self.ends[b.load] >= self.ends[a.out] + there)
            rule.only_enforce_if([*both, first])
            rule = self.model.add(self.ends[a.load] >= self.ends[b.out] + back)
            rule.only_enforce_if([*both, ~first])
        # What was baked last has left the oven at its own setting.
        over = [s for s in self.net.stays if s.out in h.done]
        if over and not any(self._inside(s) for s in self.net.stays):
            last = max(over, key=lambda s: h.done[s.out])
            for stay in pending:
                change = oven.change_min(last.oven_c, stay.oven_c, tolerance)
                if change and stay.load not in self.taken:
                    self.model.add(self.ends[stay.load] >= h.done[last.out] + change)

    def _sheets(self) -> None:
        """A sheet is taken from portioning (or loading) until it is off, cool and lined again."""
        for pool, there in enumerate(self.work.kitchen.pools):
            self._pool([tray for tray in self.work.trays if tray.pool == pool], there)

    def _pool(self, trays: list[TrayWork], there: int) -> None:
        """The trays that lie on one kind of sheet or pan."""
        k, h = self.work.kitchen, self.happened
        stays, cleaning, held = [], [], 0
        for tray in trays:
            first = JobKey(tray.name, "load" if k.slides else "portion")
            racked = h.done.get(JobKey(tray.name, "rack"))
            if racked is not None and racked + k.sheet_ready_min <= h.now:
                continue
            clean = self._new(f"{tray.name}.clean", 0, self.horizon + k.sheet_ready_min)
            self.model.add(clean == self.ends[JobKey(tray.name, "rack")] + k.sheet_ready_min)
            if racked is not None:
                cleaning.append((tray.name, clean))
                continue
            begun = first in self.taken
            held += begun
            stays.append(
                self._stay(f"on.{tray.name}", h.now if begun else self.starts[first], clean)
            )
        # A sheet that should still be cooling but holds the next tray was ready sooner.
        if held + len(cleaning) <= there:
            stays += [self._stay(f"on.{name}", h.now, clean) for name, clean in cleaning]
        self.model.add_cumulative(stays, [1] * len(stays), max(there, held))

    def _rooms(self) -> None:
        """Rack and fridge: what is there already stays until it is cold, or is portioned."""
        self._racks()
        h, cold, there = self.happened, [], []
        for dough in self.work.doughs:
            first, portions = dough.cold_from, self._portions(dough, but=self.taken)
            if first is None or not portions:
                continue
            end = self._new(f"warm.{dough.letter}", 0, self.horizon)
            self.model.add_max_equality(end, [self.starts[key] for key in portions])
            start = h.now if first in h.done else self.ends[first]
            cold.append(self._stay(f"cold.{dough.letter}", start, end))
            there += [end] if first in h.done else []
        self._room("fridge", cold, self.work.kitchen.fridge, there)

    def _racks(self) -> None:
        h, racked, there = self.happened, [], list[Expr]()
        for tray in self.work.trays:
            rack = JobKey(tray.name, "rack")
            start: Expr = h.now if rack in h.done else self.ends[rack]
            cold = h.done.get(rack, h.now) + tray.cool_min
            if cold > h.now:
                racked.append(
                    self.model.new_fixed_size_interval_var(start, cold - h.now, f"cool.{tray.name}")
                )
                there += [cold] if rack in h.done else []
        self._room("rack", racked, self.work.kitchen.racks, there)

    def _portions(self, dough: DoughWork, but: Collection[JobKey]) -> list[JobKey]:
        """The portioning of a dough's trays but those jobs."""
        keys = [JobKey(tray.name, "portion") for tray in self.work.trays_of(dough.letter)]
        return [key for key in keys if key not in but]

    def _room(
        self, name: str, uses: list[cp_model.IntervalVar], most: int, there: Sequence[Expr]
    ) -> None:
        """So many places, of which some are taken now, until each of `there`. Where that is more
        than there are, the first to be free again are not taken anew."""
        over = len(there) - most
        for n in range(over):
            free = self._new(f"{name}.free{n}", 0, self.horizon)
            if n:
                self.model.add_max_equality(free, there)
            else:
                self.model.add_min_equality(free, there)
            end = self._new(f"{name}.end{n}", self.horizon, self.horizon)
            uses.append(self._stay(f"{name}.over{n}", free, end))
        if len(uses) > most:
            self.model.add_cumulative(uses, [1] * len(uses), max(most, len(there)))

    def _bowls(self) -> None:
        """A dough keeps its bowl from mixing until it is chilled in its shape, or portioned."""
        h, kept, there = self.happened, [], []
        for dough in self.work.doughs:
            jobs, portions = dough.made, self._portions(dough, but=h.done)
            if not jobs or dough.from_cold or not portions:
                continue
            wait = dough.makes[-1].wait_min
            if dough.chill_min and h.done.get(jobs[-1], h.now) + wait < h.now:
                continue
            end = self._new(f"emptied.{dough.letter}", 0, self.horizon)
            if dough.chill_min:
                self.model.add(end == self.ends[jobs[-1]] + wait)
            else:
                self.model.add_max_equality(end, [self.ends[key] for key in portions])
            begun = jobs[0] in self.taken
            start = h.now if begun else self.starts[jobs[0]]
            kept.append(self._stay(f"bowl.{dough.letter}", start, end))
            there += [end] if begun else []
        self._room("bowl", kept, self.work.kitchen.bowls, there)

    # Order, finish, pins

    def _order(self) -> None:
        """Trays of one dough go in order, so equal trays are not tried in every order."""
        pinned = {pin.job.whose for pin in self.work.pins}
        pinned |= {tray.name for tray in self.work.trays if tray.shelf}
        for dough in self.work.doughs:
            for a, b in pairwise(self.work.trays_of(dough.letter)):
                if {a.name, b.name} & pinned or a.size != b.size:
                    continue
                kinds: tuple[JobKind, ...] = (
                    ("portion",) if self.replanning else ("portion", "load", "rack")
                )
                for kind in kinds:
                    one, other = JobKey(a.name, kind), JobKey(b.name, kind)
                    if other not in self.taken:
                        self.model.add(self.starts[one] <= self.starts[other])

    def _finish(self) -> None:
        for tray in self.work.trays:
            self.model.add(self.finish >= self.ends[last_of(tray)] + after_last(tray))
        if self.replanning:
            return
        self._first()
        self.model.add(self.finish >= plain_bound(self.work))
        for tray in self.work.trays:
            start = self.starts[JobKey(tray.name, "portion")]
            self.model.add(start >= self.begin + self.work.dough(tray.dough).ready_min)

    def _first(self) -> None:
        """The oven begins with the setting that is wanted first, where it is one of them."""
        wanted = [s for s in self.net.stays if s.oven_c == self.work.first_c]
        if not wanted:
            return
        first = self._new("first", 0, self.horizon)
        self.model.add_min_equality(first, [self.starts[s.load] for s in wanted])
        for stay in self.net.stays:
            if stay.oven_c != self.work.first_c:
                self.model.add(self.starts[stay.load] >= first)

    def _pins(self) -> None:
        for pin in self.work.pins:
            if pin.job in self.starts and pin.job not in self.taken:
                if self.replanning:
                    over = self._new(f"pin.{pin.job}", 0, LATEST)
                    self.model.add_abs_equality(over, self.starts[pin.job] - pin.start)
                    self.late.append(over)
                else:
                    self.model.add(self.starts[pin.job] == pin.start)

    # In and out

    def hint(self, times: Times) -> None:
        """Offer known times as a first answer."""
        for key, time in times.jobs.items():
            if key not in self.starts or key in self.taken:
                continue
            self.model.add_hint(self.starts[key], time.start)
            if key in self.pauses:
                low, high = time.pause or (time.start + 1, time.start + 1)
                self.model.add_hint(self.mids[key], low)
                self.model.add_hint(self.pauses[key], high - low)
            for n, takes in self.who.get(key, {}).items():
                self.model.add_hint(takes, int(n == time.who))

    def same_days(self, times: Times) -> bool:
        """Where doughs are baked on several days, what is done before a night in those times stays
        before it; whether they are."""
        from_min = {dough.letter: dough.bake_from for dough in self.work.doughs}
        days = sorted({minute for minute in from_min.values() if minute})
        if days:
            nights = {start for start, end in self.work.kitchen.unattended if end - start >= NIGHT}
            days = sorted({*days, *nights})
        for key, time in times.jobs.items():
            job = self.net.jobs.get(key)
            if job is None or key not in self.ends or key in self.taken:
                continue
            until = next((day for day in days if time.end <= day), None)
            if until is not None and from_min.get(job.dough, 0) < until:
                self.model.add(self.ends[key] <= until)
        return bool(days)

    def times(self, value: Callable[[Expr], int], true: Callable[[Var], bool]) -> Times:
        """Read the deciding times off a solution."""
        jobs = {}
        for key in self.starts:
            takes = self.who.get(key, {})
            who = next((n for n, literal in takes.items() if true(literal)), self.only.get(key, 0))
            pause = None
            if key in self.pauses and value(self.pauses[key]):
                mid = value(self.mids[key])
                pause = (mid, mid + value(self.pauses[key]))
            jobs[key] = JobTime(value(self.starts[key]), value(self.ends[key]), who, pause)
        ovens, shelves = {stay.key: 0 for stay in self.net.stays}, {}
        for key, chosen in self.slot_of.items():
            oven, shelf = next(slot for slot, b in chosen.items() if slot[0] >= 0 and true(b))
            ovens[key], shelves[key] = oven, shelf
        return Times(jobs, ovens, shelves)
