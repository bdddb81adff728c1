"""The jobs of the hands, and what lies between them, as constraints for OR-tools' CP-SAT."""

from ortools.sat.python import cp_model

from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.network import Job, Link, network, passed_turns
from finebatch.core.plan.work import BREAK_MOST_MIN, Happened, Work, merged

LATEST = 100_000
"""No limit on lateness while baking: what has happened cannot be planned away, only made good."""

DOOR_JOBS: frozenset[JobKind] = frozenset({"load", "turn", "out", "shape", "rack"})
"""What portioning may be broken off for: the oven, hot work, and a tray that has to leave it."""

Var = cp_model.IntVar
Expr = cp_model.LinearExprT


def _plus(*terms: Expr) -> cp_model.LinearExpr:
    return cp_model.LinearExpr.sum(list(terms))


class JobModel:
    """The jobs of the hands and what lies between them; `late` are minutes over a window, `waits`
    those inside one, `pauses` those for which portioning is broken off."""

    def __init__(self, work: Work, happened: Happened) -> None:
        self.work, self.happened = work, happened
        self.replanning = happened.now > 0 or bool(happened.done)
        self.taken = {*happened.done, *happened.begun}
        self.model = cp_model.CpModel()
        self.horizon = work.horizon + happened.now
        self.net = network(work)
        self.gone = passed_turns(self.net, work, happened)
        self.starts: dict[JobKey, Var] = {}
        self.ends: dict[JobKey, Var] = {}
        self.only: dict[JobKey, int] = {}
        self.who: dict[JobKey, dict[int, Var]] = {}
        self.slot_of: dict[JobKey, dict[tuple[int, int], Var]] = {}
        self.late: list[Expr] = []
        self.waits: list[Expr] = []
        self.pauses: dict[JobKey, Var] = {}
        self.mids: dict[JobKey, Var] = {}
        self.hands: list[list[cp_model.IntervalVar]] = [[] for _ in work.kitchen.workers]
        self.unbroken: list[list[cp_model.IntervalVar]] = [[] for _ in work.kitchen.workers]
        self.mixes: dict[JobKey, tuple[Expr, Expr, Expr]] = {}
        self.finish = self._new("finish", 0, self.horizon)
        self.begin = self._new("begin", 0, self.horizon)
        for job in self.net.jobs.values():
            if job.id not in self.gone:
                self._job(job)
        for link in self.net.links:
            self._link(link)
        self._workers()
        self._mixers()

    def _new(self, name: str, low: int, high: int) -> Var:
        return self.model.new_int_var(low, high, name)

    # Jobs and what lies between them

    def _job(self, job: Job) -> None:
        """Start and end: fixed when done, open-ended when begun, else ahead."""
        h, minutes = self.happened, job.minutes
        if job.id in h.done:
            end = h.done[job.id]
            self.starts[job.id] = self._new(f"{job.id}", end - minutes, end - minutes)
            self.ends[job.id] = self._new(f"{job.id}>", end, end)
            return
        if job.id in h.begun:
            start = h.begun[job.id]
            end = max(start + minutes, h.now)
            self.starts[job.id] = self._new(f"{job.id}", start, start)
            self.ends[job.id] = self._new(f"{job.id}>", end, end)
            now = max(h.now, start)
            left = max(end - now, 0)
            if self._breaks(job, left):
                self.ends[job.id] = self._new(f"{job.id}>>", end, end + BREAK_MOST_MIN)
                self._in_two(job, now, left)
            else:
                self._busy(job, now, left)
            return
        low = max(h.now, self.net.soonest(job))
        self.starts[job.id] = self._new(f"{job.id}", low, self.horizon)
        self.ends[job.id] = self._new(f"{job.id}>", h.now, self.horizon)
        self.model.add(self.begin <= self.starts[job.id])
        if job.kind == "portion" and h.held.get(job.dough, 0) > h.now:
            self.model.add(self.starts[job.id] >= h.held[job.dough])
        if self._breaks(job, minutes):
            self._in_two(job, self.starts[job.id], minutes)
            return
        self.model.add(self.ends[job.id] == self.starts[job.id] + minutes)
        self._busy(job, self.starts[job.id], minutes)

    def _breaks(self, job: Job, minutes: int) -> bool:
        """Whether that job, so many minutes of it still to do, may be broken off for the oven."""
        return self.work.kitchen.interrupts and job.kind == "portion" and minutes > 1

    def _in_two(self, job: Job, start: Expr, minutes: int) -> None:
        """The job broken off once, for a few minutes or for none, by the same hands."""
        first = self._new(f"first.{job.id}", 1, minutes - 1)
        pause = self._new(f"pause.{job.id}", 0, BREAK_MOST_MIN)
        mid = self._new(f"mid.{job.id}", 0, self.horizon)
        self.model.add(mid == _plus(start, first))
        self.model.add(self.ends[job.id] == _plus(start, minutes, pause))
        self.pauses[job.id], self.mids[job.id] = pause, mid
        again = self._new(f"again.{job.id}", 0, self.horizon)
        self.model.add(again == mid + pause)
        self._busy(job, start, first, mid)
        self._busy(job, again, minutes - first, self.ends[job.id])
        # Nothing but the oven breaks it off.
        self._takes(job, start, minutes + pause, self.ends[job.id], self.unbroken)

    def _busy(self, job: Job, start: Expr, minutes: Expr, end: Expr | None = None) -> None:
        """The job takes the hands of one who may do it, from `start` for so many minutes."""
        if isinstance(minutes, int) and minutes <= 0:
            return
        until = end if end is not None else _plus(start, minutes)
        if job.kind == "mix":
            self.mixes[job.id] = (start, minutes, until)
        self._takes(job, start, minutes, until, self.hands)
        if self.work.kitchen.interrupts and job.kind not in DOOR_JOBS and job.id not in self.pauses:
            self._takes(job, start, minutes, until, self.unbroken)

    def _takes(
        self,
        job: Job,
        start: Expr,
        minutes: Expr,
        until: Expr,
        of: list[list[cp_model.IntervalVar]],
    ) -> None:
        """An interval in the list of whoever does the job."""
        add, workers = self.model, self.work.kitchen.workers
        name = f"{job.id}:{'' if of is self.hands else 'whole:'}"
        able = [n for n, worker in enumerate(workers) if job.skill in worker.jobs]
        self.only[job.id] = able[0]
        if len(able) == 1:
            of[able[0]].append(add.new_interval_var(start, minutes, until, name))
            return
        if job.id not in self.who:
            self.who[job.id] = {n: add.new_bool_var(f"{name}{n}") for n in able}
            add.add_exactly_one(self.who[job.id].values())
        for n, literal in self.who[job.id].items():
            interval = add.new_optional_interval_var(start, minutes, until, literal, f"{name}{n}:")
            of[n].append(interval)

    def _workers(self) -> None:
        # Whoever has a job in hand is there, whatever the times away say; they begin after it.
        in_hand = max(
            (
                max(start + self.net.jobs[key].minutes, self.happened.now)
                for key, start in self.happened.begun.items()
            ),
            default=self.happened.now,
        )
        for worker, busy in zip(self.work.kitchen.workers, self.hands, strict=True):
            for start, end in merged(worker.away):
                first = max(start, in_hand) if self.replanning else start
                if end > first:
                    busy.append(self.model.new_fixed_size_interval_var(first, end - first, "away"))
            self.model.add_no_overlap(busy)
        for whole in filter(None, self.unbroken):
            self.model.add_no_overlap(whole)

    def _mixers(self) -> None:
        """A bowl is mixed in, and after the last mixing of a dough it is not clean until washed."""
        washes, h, used = self.work.washes, self.happened, []
        dirty = [wash for mix, wash in washes.items() if mix in h.done and wash not in h.done]
        spans = dict(self.mixes)
        spans |= {wash: (h.now, 0, self.ends[wash]) for wash in dirty}
        span: tuple[Expr, Expr, Expr]
        for key, (start, minutes, until) in spans.items():
            wash = washes.get(key, key if key in dirty else None)
            if wash is not None and wash not in h.done:
                size = self._new(f"used.{key}", 0, LATEST)
                span = (start, size, self.ends[wash])
            else:
                span = (start, minutes, until)
            used.append(self.model.new_interval_var(*span, f"{key}:mixer"))
        in_hand = sum(key in h.begun for key in self.mixes)
        most = max(self.work.kitchen.mixers, len(dirty) + in_hand)
        self.model.add_cumulative(used, [1] * len(used), most)

    def _link(self, link: Link) -> None:
        """At least, and at most, so long between two jobs; what is over is late while baking."""
        if link.after in self.taken or {link.before, link.after} & self.gone:
            return
        add = self.model.add
        before, after = self.ends[link.before], self.starts[link.after]
        add(after >= before + link.least)
        if link.most is None:
            return
        wait = after - before - link.least
        if self.replanning:
            over = self._new(f"over{len(self.late)}", 0, LATEST)
            add(wait <= link.most - link.least + over)
            self.late.append(over)
        else:
            add(wait <= link.most - link.least)
        if link.most > link.least:
            self.waits.append(wait)
