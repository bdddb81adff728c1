"""From the times that decide a plan to every activity of it."""

from collections.abc import Iterable, Mapping
from dataclasses import replace

from finebatch.core.plan.heating import dial_turns, in_oven
from finebatch.core.plan.keys import CLEAR_UP, JobKey, JobKind, oven_key
from finebatch.core.plan.network import (
    BakeStay,
    Network,
    after_last,
    fetched,
    last_of,
    mixed,
    network,
)
from finebatch.core.plan.placed import Cold, JobTime, Placed, Plan, Station, Times
from finebatch.core.plan.shelves import Held, ShelfSwap, colour, give_shelves
from finebatch.core.plan.work import (
    HAND_JOBS,
    DoughWork,
    Make,
    Oven,
    TrayWork,
    Work,
)

_PLACE_OF: Mapping[JobKind, Station] = {
    "ready": "bench",
    "mix": "bench",
    "form": "bench",
    "fetch": "cold",
    "take": "cold",
    "wait": "bench",
    "wash": "bench",
    "part": "bench",
    "freeze": "cold",
    "chill": "cold",
    "temper": "bench",
    "heat": "oven",
    "portion": "bench",
    "stand": "bench",
    "load": "oven",
    "bake": "oven",
    "turn": "oven",
    "out": "oven",
    "shape": "bench",
    "rest": "rack",
    "slice": "bench",
    "rack": "rack",
    "cool": "rack",
    "finish": "bench",
    "set": "rack",
    "sheet": "bench",
    "clear": "bench",
}


LEAST_COLD_MIN = 10
"""A shorter wait is not worth carrying a dough to the fridge and back."""


def finish_of(work: Work, jobs: Mapping[JobKey, JobTime]) -> int:
    """When the last tray is ready."""
    return max(jobs[last_of(tray)].end + after_last(tray) for tray in work.trays)


class _Placing:
    """Turns the deciding times into every activity."""

    def __init__(self, work: Work, times: Times) -> None:
        self.work, self.times = work, times
        self.net: Network = network(work)
        self.found: list[Placed] = []
        self.sheet_of = self._sheets()
        self.shelf_of: dict[JobKey, int] = {}
        self.swap_of: dict[JobKey, ShelfSwap] = {}
        for number, oven in enumerate(work.kitchen.ovens):
            self._shelves(number, oven)

    def _sheets(self) -> dict[str, int]:
        """Every tray's sheet or pan: the kinds are numbered on, one after the other."""
        k, jobs, found, before = self.work.kitchen, self.times.jobs, {}, 0
        first: JobKind = "load" if k.slides else "portion"
        for pool, there in enumerate(k.pools):
            trays = [tray for tray in self.work.trays if tray.pool == pool]
            spans = [
                (
                    jobs[JobKey(t.name, first)].start,
                    jobs[JobKey(t.name, "rack")].end + k.sheet_ready_min,
                )
                for t in trays
            ]
            for tray, sheet in zip(trays, colour(spans, there), strict=True):
                found[tray.name] = before + sheet + 1
            before += there
        return found

    def _shelves(self, number: int, oven: Oven) -> None:
        jobs, k = self.times.jobs, self.work.kitchen
        held = [
            Held(
                s.key,
                jobs[s.load].start,
                jobs[s.out].end,
                self.times.shelves.get(s.key),
                self._turned(s),
                pinned=s.tray.shelf is not None,
            )
            for s in self.net.stays
            if self.times.ovens[s.key] == number
        ]
        given, swaps = give_shelves(held, oven.shelves, k.turn_min if k.swaps else None)
        self.shelf_of |= {key: shelf + 1 for key, shelf in given.items()}
        self.swap_of |= {swap.turn: swap for swap in swaps}

    def _turned(self, stay: BakeStay) -> int | None:
        turn = self.times.jobs.get(JobKey(stay.tray.name, "turn", stay.number))
        return None if turn is None else turn.start

    def add(
        self,
        kind: JobKind,
        owner: str,
        start: int,
        end: int,
        number: int = 0,
        *,
        dough: str | None = None,
        tray: str | None = None,
        dial_c: float | None = None,
        what: str = "",
        cold: Cold | None = None,
        stay: JobKey | None = None,
    ) -> None:
        """Place one activity."""
        key = JobKey(owner, kind, number)
        time, swap = self.times.jobs.get(key), self.swap_of.get(key)
        shelf = self.shelf_of.get(stay) if stay else None
        if kind == "out" and stay is not None:
            turn = self.swap_of.get(key.to("turn"))
            shelf = turn.to_shelf + 1 if turn else shelf
        self.found.append(
            Placed(
                key,
                tray,
                _PLACE_OF[kind],
                start,
                end,
                sheet=self.sheet_of.get(tray) if tray else None,
                shelf=shelf,
                dough=dough,
                oven=self.times.ovens[stay] + 1 if stay else None,
                who=time.who if time and kind in HAND_JOBS else None,
                dial_c=dial_c,
                partner=swap.other.whose if swap else None,
                what=what,
                cold=cold,
                pause=time.pause if time else None,
                to_shelf=swap.to_shelf + 1 if swap else None,
            )
        )

    def dough(self, dough: DoughWork) -> None:
        """Its mixing with the waits between, its parts, its chilling and tempering."""
        jobs, letter = self.times.jobs, dough.letter
        portions = [jobs[JobKey(t.name, "portion")].start for t in self.work.trays_of(letter)]
        self._got_ready(dough)
        for make, key in zip(dough.makes, dough.made, strict=True):
            time = jobs[key]
            self.add(
                make.kind,
                letter,
                time.start,
                time.end,
                key.round,
                dough=letter,
                what=make.label,
                cold="thaws" if make.kind == "take" and make.wait_min else None,
            )
            if make.wait_min:
                self._wait_after(make, key, time.end)
        for n, part in enumerate(dough.parts):
            time = jobs[JobKey(letter, "part", n)]
            self.add("part", letter, time.start, time.end, n, dough=letter, what=part.label)
        if dough.freeze_min:
            time = jobs[JobKey(letter, "freeze")]
            self.add("freeze", letter, time.start, time.end, dough=letter)
        last, first = mixed(dough), min(portions)
        if last is None:
            return
        fetch = fetched(dough)
        if fetch is not None:
            self._fetched(dough, jobs[last].end + dough.makes[-1].wait_min, fetch, first)
            return
        if dough.from_cold and not dough.temper_min:
            return
        if not (dough.chill_min or dough.temper_min):
            self._kept_cold(dough, jobs[last].end + dough.makes[-1].wait_min)
            return
        from_min = jobs[last].end + dough.makes[-1].wait_min
        out = max(first - dough.temper_min, from_min)
        if dough.chill_min:
            self.add("chill", letter, from_min, out, dough=letter)
        if dough.temper_min:
            self.add("temper", letter, out, first, dough=letter)

    def _got_ready(self, dough: DoughWork) -> None:
        """What is got ready, with what cools or softens after it."""
        for n, make in enumerate(dough.before):
            time, letter = self.times.jobs[JobKey(dough.letter, "ready", n)], dough.letter
            self.add("ready", letter, time.start, time.end, n, dough=letter, what=make.label)
            if make.wait_min:
                until = time.end + make.wait_min
                self.add("stand", letter, time.end, until, n, dough=letter, what=make.label)

    def _fetched(self, dough: DoughWork, cold_from: int, fetch: JobKey, first: int) -> None:
        """In the cold until it is fetched, then on the bench until its first tray."""
        out, letter = self.times.jobs[fetch], dough.letter
        self.add("chill", letter, cold_from, out.start, dough=letter)
        self.add("fetch", letter, out.start, out.end, dough=letter)
        if dough.temper_min:
            self.add("temper", letter, out.end, first, dough=letter)
        mixes = [self.times.jobs[key].end for key in dough.made if key.step == "mix"]
        warm = cold_from - min(mixes, default=cold_from)
        self._kept_cold(
            dough, max(out.end, first), warm + max(first - out.end, 0), len(dough.makes)
        )

    def _wait_after(self, make: Make, key: JobKey, start: int) -> None:
        """The wait after a step: on the bench, or thawing in the fridge."""
        letter, n, until = key.whose, key.round, start + make.wait_min
        if make.kind == "take":
            self.add("chill", letter, start, until, n, dough=letter, cold="thaws")
        elif make.cold:
            self.add("chill", letter, start, until, n + 1, dough=letter)
        else:
            self.add("wait", letter, start, until, n, dough=letter, what=make.label)

    def _kept_cold(
        self, dough: DoughWork, ready: int, warm_before: int = 0, number: int = 0
    ) -> None:
        """A dough that would be warm for too long in all waits in the cold, where it waits; it was
        for some minutes before it is `ready` to be portioned."""
        jobs, trays = self.times.jobs, self.work.trays_of(dough.letter)
        uses = sorted((jobs[JobKey(t.name, "portion")] for t in trays), key=lambda u: u.start)
        warm = warm_before + max(jobs[JobKey(t.name, "load")].start for t in trays) - ready
        free_from = (ready, *(use.end for use in uses))
        gaps = [(u.start - free, free, u.start) for free, u in zip(free_from, uses, strict=False)]
        for length, start, end in sorted(gaps, key=lambda g: (-g[0], g[1])):
            if warm <= dough.warm_most or length < LEAST_COLD_MIN:
                break
            self.add(
                "chill",
                dough.letter,
                start,
                end,
                number,
                dough=dough.letter,
                cold="waits",
            )
            warm, number = warm - length, number + 1

    def tray(self, tray: TrayWork) -> None:
        """A tray from portioning to ready."""
        jobs, name, k = self.times.jobs, tray.name, self.work.kitchen

        def put(
            kind: JobKind,
            start: int,
            end: int,
            n: int = 0,
            stay: JobKey | None = None,
            dial_c: float | None = None,
        ) -> None:
            self.add(
                kind, name, start, end, n, dough=tray.dough, tray=name, stay=stay, dial_c=dial_c
            )

        def hand(
            kind: JobKind, n: int = 0, stay: JobKey | None = None, dial_c: float | None = None
        ) -> JobTime:
            time = jobs[JobKey(name, kind, n)]
            put(kind, time.start, time.end, n, stay, dial_c)
            return time

        portioned = hand("portion").end
        if tray.stand_min:
            put("stand", portioned, portioned + tray.stand_min)
        here = 0
        for n in range(len(tray.bakes)):
            stay = JobKey(name, "bake", n)
            if n:
                time = hand("slice")
                put("rest", here, time.start)
            oven = k.ovens[self.times.ovens[stay]]
            load = hand("load", n, stay, oven.dial_c(tray.bakes[n].oven_c))
            if JobKey(name, "turn", n) in jobs:
                hand("turn", n, stay)
            out = hand("out", n, stay)
            put("bake", load.end, out.start, n, stay)
            here = out.end
        if tray.shape_min:
            here = hand("shape").end
        rack = hand("rack")
        put("rest", here, rack.start, len(tray.bakes) - 1)
        put("cool", rack.end, rack.end + tray.cool_min)
        put("sheet", rack.end, rack.end + k.sheet_ready_min)
        if tray.finish_min:
            time = hand("finish")
            if tray.set_min:
                put("set", time.end, time.end + tray.set_min)

    def clean(self) -> None:
        """The bowl washed between doughs, and all cleared up at the end."""
        jobs = self.times.jobs
        for wash in self.work.washes.values():
            time = jobs[wash]
            self.add("wash", wash.whose, time.start, time.end, dough=wash.whose)
        if self.work.kitchen.clear_min:
            self.add("clear", CLEAR_UP.whose, jobs[CLEAR_UP].start, jobs[CLEAR_UP].end)

    def heat(self) -> None:
        """The oven on in good time, each change of its setting, and off while it stands empty for
        long."""
        k, times = self.work.kitchen, self.times
        for number, oven in enumerate(k.ovens):
            trays = in_oven(self.net.stays, times.jobs, times.ovens, number)
            for count, turn in enumerate(dial_turns(oven, trays, k)):
                if turn.off_after is not None:
                    self.found = [
                        replace(a, off_min=turn.off_min) if a.id == turn.off_after else a
                        for a in self.found
                    ]
                self.found.append(
                    Placed(
                        oven_key(number + 1, count),
                        None,
                        "oven",
                        turn.start,
                        turn.end,
                        oven=number + 1,
                        dial_c=oven.dial_c(turn.oven_c),
                        off_min=turn.off_min,
                    )
                )


def place(work: Work, times: Times, bound: int) -> Plan:
    """Turn the deciding times into every activity, with sheets and shelves given out."""
    placing = _Placing(work, times)
    for dough in work.doughs:
        placing.dough(dough)
    for tray in work.trays:
        placing.tray(tray)
    placing.clean()
    placing.heat()
    finish = finish_of(work, times.jobs)
    ordered = sorted(placing.found, key=lambda a: (a.start, a.end, a.id))
    return Plan(tuple(ordered), finish, sound(bound, finish))


def sound(bound: int, finish: int) -> int:
    """A bound on the finish; one above a finish that was found is a fault of the planner, and its
    proofs are none."""
    assert bound <= finish, f"nobody is said to finish before {bound}, and this does at {finish}"
    return bound


def times_of(activities: Iterable[Placed]) -> Times:
    """The deciding times of a plan, read back from its activities."""
    found = list(activities)
    return Times(
        {a.id: JobTime(a.start, a.end, a.who or 0, a.pause) for a in found if a.hands},
        {a.id: (a.oven or 1) - 1 for a in found if a.kind == "bake"},
        {a.id: (a.shelf or 1) - 1 for a in found if a.kind == "bake"},
    )
