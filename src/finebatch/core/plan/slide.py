"""The rest of a plan slid: the same hands, places and order, no job sooner than it was planned and
none later than it must.

That is what a baker does who is late and has no planner. Every rule says "not before that", so the
rules are gone through in turn until none moves anything any more. What is in the oven is not slid:
it comes out when it is done, and the other jobs go around it.
"""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations, pairwise

from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.network import (
    Job,
    Link,
    after_last,
    last_of,
    mixed,
    network,
    off_spans,
    passed_turns,
)
from finebatch.core.plan.pieces import After, Around, InTurn, Near, Piece, Rule
from finebatch.core.plan.placed import JobTime, Times
from finebatch.core.plan.shelves import colour
from finebatch.core.plan.work import BREAK_MOST_MIN, NOTHING_YET, Happened, Span, Work, merged

MOST_ROUNDS = 200
MOST_PUSHES = 8
AT_THE_OVEN = ("turn", "out", "shape")


def slide(work: Work, happened: Happened, before: Times) -> Times | None:
    """The rest of `before` slid, given what has happened; none where its jobs are not those of the
    work any more, or where it goes on sliding without end."""
    sliding = _Sliding(work, happened, before)
    return sliding.times() if sliding.settle() else None


def push_late(work: Work, before: Times, ready: int) -> Times | None:
    """The same plan with each job as late as all the rules and that end allow: what is ready is
    fresher. None where it could not be made out."""
    sliding = _Sliding(work, NOTHING_YET, before)
    return sliding.times() if sliding.settle_late(ready) else None


@dataclass(frozen=True, slots=True)
class _Use:
    """A use of a place: from the start (or the end) of a job until so many minutes after the last
    of some jobs, or until the last of them has `begun`."""

    begin: JobKey
    ends: tuple[JobKey, ...]
    add: int = 0
    at_end: bool = False
    begun: bool = False


class _Sliding:
    def __init__(self, work: Work, happened: Happened, before: Times) -> None:
        self.work, self.k, self.h, self.before = work, work.kitchen, happened, before
        self.net = network(work)
        self.first: dict[JobKey, Piece] = {}
        self.last: dict[JobKey, Piece] = {}
        self.gone = passed_turns(self.net, work, happened) | {
            key
            for key, job in self.net.jobs.items()
            if job.kind == "turn" and key not in before.jobs and key not in happened.done
        }
        self.whole = all(
            key in before.jobs or key in self.gone or key in happened.done for key in self.net.jobs
        )
        if not self.whole:
            return
        for key, job in self.net.jobs.items():
            if key not in self.gone:
                self._lay(key, job)
        # As planned: from here on pieces move.
        self.order = sorted(self._pieces(), key=lambda p: (p.start, p.end, p.job))
        links = [link for link in self.net.links if not {link.before, link.after} & self.gone]
        self.busy = self._in_hand()
        self.away = sorted(a for worker in self.k.workers for a, b in worker.away if b > self.h.now)
        self.due = self._due(links)
        jobs = before.jobs
        known = (s for s in self.net.stays if s.load in jobs and s.out in jobs)
        self.stays = sorted(known, key=lambda s: (jobs[s.load].start, s.key))
        self.rules: list[Rule] = [
            *self._floors(links),
            *self._links(links),
            *self._hands(),
            *self._places(),
            *self._shelves(),
            *self._heat(),
        ]

    # Pieces

    def _lay(self, key: JobKey, job: Job) -> None:
        old = self.before.jobs.get(key)
        if key in self.h.done:
            end = self.h.done[key]
            who = 0 if old is None else old.who
            self.first[key] = self.last[key] = Piece(key, end - job.minutes, job.minutes, who, True)
            return
        assert old is not None
        if key in self.h.begun:
            start = self.h.begun[key]
            self._split(key, replace(old, start=start), job.minutes, fixed=True)
            return
        self._split(key, old, job.minutes)

    def _split(self, key: JobKey, old: JobTime, minutes: int, *, fixed: bool = False) -> None:
        """Lay a job as one piece, or as two where it was to be broken off and still can be."""
        until = max(old.start + minutes, self.h.now) if fixed else old.start + minutes
        cut = None if old.pause is None else max(old.pause[0], self.h.now if fixed else 0)
        if cut is None or not old.start < cut < old.start + minutes:
            whole = Piece(key, old.start, until - old.start, old.who, fixed)
            self.first[key] = self.last[key] = whole
            return
        assert old.pause is not None
        first = Piece(key, old.start, cut - old.start, old.who, fixed)
        rest = minutes - first.minutes
        self.first[key] = first
        self.last[key] = Piece(key, max(old.pause[1], cut), rest, old.who)

    def _pieces(self) -> list[Piece]:
        found = {id(piece): piece for part in (self.first, self.last) for piece in part.values()}
        return list(found.values())

    def _in_hand(self) -> Mapping[int, int]:
        """Until when each pair of hands is busy with what it has begun."""
        until: dict[int, int] = defaultdict(lambda: self.h.now)
        for key in self.h.begun:
            piece = self.first[key]
            until[piece.who] = max(until[piece.who], piece.end)
        return until

    def _gone(self, who: int) -> list[Span]:
        """When that pair of hands is away, from when it has done what it has in hand."""
        free = self.busy[who]
        return [(max(a, free), b) for a, b in merged(self.k.workers[who].away) if b > free]

    # What is not slid

    def _due(self, links: Iterable[Link]) -> dict[int, list[Piece]]:
        """Jobs on trays that are in the oven: when they are due, by the hands that do them."""
        due: dict[int, list[Piece]] = defaultdict(list)
        of = {link.after: link for link in links if link.most is not None}
        for key, job in self.net.jobs.items():
            link = of.get(key)
            if job.kind not in AT_THE_OVEN or link is None or key not in self.first:
                continue
            piece, ahead = self.first[key], self.last[link.before]
            if piece.fixed or not (ahead.fixed or ahead in due[ahead.who]):
                continue
            assert link.most is not None
            # What was planned to be late, since it could not be otherwise, stays so.
            planned = self.before.jobs[link.before].end if link.before in self.before.jobs else None
            late = 0 if planned is None else max(piece.start - planned - link.most, 0)
            earliest, latest = ahead.end + link.least, ahead.end + link.most + late
            piece.start = min(max(piece.start, earliest), max(latest, earliest))
            due[piece.who].append(piece)
        for who, pieces in due.items():
            free, gone = self.busy[who], self._gone(who)
            for piece in sorted(pieces, key=lambda p: p.start):
                piece.start = max(piece.start, free)
                piece.start = Around(piece, gone, piece.minutes).least()
                free = piece.end
                piece.fixed = True
        return due

    # Rules

    def _floors(self, links: Sequence[Link]) -> Iterator[Rule]:
        """Nothing sooner than planned, but what follows something that came sooner."""
        floors: dict[JobKey, int] = {}
        ahead: dict[JobKey, list[Link]] = defaultdict(list)
        for link in links:
            ahead[link.after].append(link)
        for key, job in self.net.jobs.items():
            if key not in self.first:
                continue
            floor = self.first[key].start
            for link in ahead[key]:
                if link.most is not None:
                    one = self.last[link.before]
                    length = self.net.jobs[link.before].minutes
                    end = one.end if one.fixed else floors[link.before] + length
                    floor = min(floor, end + link.most)
            if job.kind == "portion":
                floor = max(floor, self.h.held.get(job.dough, 0))
            floors[key] = max(floor, self.h.now, self.net.soonest(job))
        for key, floor in floors.items():
            piece = self.first[key]
            if not piece.fixed:
                piece.start = floor
                yield After(piece, floor)

    def _links(self, links: Sequence[Link]) -> Iterator[Rule]:
        """The least minutes between jobs; and where there is a most, the one before waits."""
        for link in links:
            begin, one = self.first[link.before], self.last[link.before]
            then = self.first[link.after]
            yield After(then, link.least, [one])
            if link.most is not None:
                length = one.minutes if one is begin else begin.minutes + one.minutes
                yield Near(begin, then, link.most + length)
        for key, first in self.first.items():
            last = self.last[key]
            if last is not first:
                yield After(last, 0, [first])
                yield Near(first, last, first.minutes + BREAK_MOST_MIN)

    def _hands(self) -> Iterator[Rule]:
        """Each pair of hands does its jobs in the order that it had, and none while it is away or
        at the oven."""
        for who in range(len(self.k.workers)):
            own = [piece for piece in self.order if piece.who == who and not piece.fixed]
            for n, then in enumerate(own[1:], start=1):
                yield InTurn(then, own[:n] if self.away else own[n - 1 : n], self.away)
            taken = sorted([*self._gone(who), *((p.start, p.end) for p in self.due[who])])
            for piece in own:
                yield After(piece, self.busy[who])
                yield Around(piece, taken, piece.minutes)

    def _places(self) -> Iterator[Rule]:
        """Sheets, rack, fridge, bowls and mixer, each used in the order in which it was."""
        k, trays = self.k, self.work.trays
        begin: JobKind = "load" if k.slides else "portion"
        for pool, there in enumerate(k.pools):
            sheets = [
                _Use(JobKey(t.name, begin), (JobKey(t.name, "rack"),), k.sheet_ready_min)
                for t in trays
                if t.pool == pool
            ]
            yield from self._chain(sheets, there)
        racks = [(JobKey(t.name, "rack"), t.cool_min) for t in trays]
        yield from self._chain([_Use(r, (r,), cool, at_end=True) for r, cool in racks], k.racks)
        mixes = [key for key, job in self.net.jobs.items() if job.kind == "mix"]
        washes = self.work.washes
        yield from self._chain([_Use(key, (washes.get(key, key),)) for key in mixes], k.mixers)
        cold, bowls = [], []
        for dough in self.work.doughs:
            jobs, last = dough.made, mixed(dough)
            portions = tuple(JobKey(t.name, "portion") for t in self.work.trays_of(dough.letter))
            if last is None or not portions or dough.from_cold:
                continue
            if dough.cold_from is not None:
                cold.append(_Use(dough.cold_from, portions, at_end=True, begun=True))
            if dough.chill_min:
                bowls.append(_Use(jobs[0], (last,), dough.makes[-1].wait_min))
            else:
                bowls.append(_Use(jobs[0], portions))
        yield from self._chain(cold, k.fridge)
        yield from self._chain(bowls, k.bowls)

    def _chain(self, uses: Sequence[_Use], there: int) -> Iterator[Rule]:
        """So many places, each used by one after the other as before."""
        jobs = self.before.jobs
        known = [use for use in uses if {use.begin, *use.ends} <= jobs.keys()]
        if len(known) <= there:
            return
        spans = [
            (
                jobs[use.begin].end if use.at_end else jobs[use.begin].start,
                max(jobs[key].start if use.begun else jobs[key].end for key in use.ends) + use.add,
            )
            for use in known
        ]
        rows: dict[int, list[_Use]] = defaultdict(list)
        given = colour(spans, there)
        for n in sorted(range(len(known)), key=lambda n: spans[n]):
            rows[given[n]].append(known[n])
        for row in rows.values():
            for one, then in combinations(row, 2) if self.away else pairwise(row):
                less = self.net.jobs[then.begin].minutes if then.at_end else 0
                pieces = self.first if one.begun else self.last
                ends = [pieces[key] for key in one.ends]
                begin, add = self.first[then.begin], one.add - less
                yield InTurn(begin, ends, self.away, add, one.begun, self.first[one.begin])

    def _shelves(self) -> Iterator[Rule]:
        """Trays follow each other on a shelf as planned."""
        before = self.before
        pinned = any(tray.shelf for tray in self.work.trays) or len(self.k.ovens) > 1
        for number, oven in enumerate(self.k.ovens):
            stays = [s for s in self.stays if before.ovens.get(s.key, 0) == number]
            rows = [stays]
            if pinned:
                shelves = range(oven.shelves)
                rows = [[s for s in stays if before.shelves.get(s.key, 0) == n] for n in shelves]
            for row in rows:
                uses = [_Use(s.load, (s.out,)) for s in row]
                yield from self._chain(uses, 1 if pinned else oven.shelves)

    def _heat(self) -> Iterator[Rule]:
        """One temperature at a time, an oven that is hot, and none that is on while nobody is
        there."""
        k, h, oven_of = self.k, self.h, self.before.ovens
        for one, then in combinations(self.stays, 2):
            number = oven_of.get(one.key, 0)
            change = k.ovens[number].change_min(one.oven_c, then.oven_c, k.tolerance_c)
            if change and oven_of.get(then.key, 0) == number:
                load = self.first[then.load]
                out = [self.last[one.out]]
                yield InTurn(load, out, self.away, change - load.minutes)
        loaded = any(key.step == "load" for key in h.done)
        off = off_spans(self.work, h)
        for stay in self.stays:
            load, number = self.first[stay.load], oven_of.get(stay.key, 0)
            minutes = k.ovens[number].heat_min(stay.oven_c)
            hot = max([0 if loaded else minutes, *h.oven_from[number : number + 1]])
            yield After(load, hot - load.minutes)
            cold = [(a, b + max(minutes - load.minutes, 0)) for a, b in off]
            length = load.minutes + stay.tray.bakes[stay.number].length + k.out_min
            yield Around(load, cold, length)

    # The answer

    def settle(self) -> bool:
        """Go through the rules until none moves anything any more. A window that pushes what comes
        before it again and again cannot be kept: it is let go of."""
        if not self.whole:
            return False
        begin = [(piece, piece.start) for piece in self.order]
        for _ in range(MOST_ROUNDS):
            pushed = self._go_through()
            if pushed is None:
                return True
            if not pushed:
                break
            self.rules = [rule for rule in self.rules if rule not in pushed]
            for piece, start in begin:
                piece.start = start
        return False

    def _go_through(self) -> list[Rule] | None:
        """The windows that push without end; none when all has settled."""
        pushes: dict[int, int] = defaultdict(int)
        for _ in range(MOST_ROUNDS):
            moved = False
            for n, rule in enumerate(self.rules):
                if not rule.piece.fixed and rule.piece.start < (least := rule.least()):
                    rule.piece.start, moved = least, True
                    pushes[n] += isinstance(rule, Near)
            if not moved:
                return None
            often = [self.rules[n] for n, count in pushes.items() if count > MOST_PUSHES]
            if often:
                return often
        return []

    def settle_late(self, ready: int) -> bool:
        """Move everything as late as the rules allow; whether every rule then holds."""
        if not self.whole or any(piece.fixed for piece in self.order):
            return False
        ends = {last_of(tray): ready - after_last(tray) for tray in self.work.trays}
        for piece in self.order:
            piece.start = ready
        for key, end in ends.items():
            self.last[key].start = end - self.last[key].minutes
        floors = [rule for rule in self.rules if not (isinstance(rule, After) and not rule.ends)]
        for _ in range(MOST_ROUNDS):
            moved = False
            for rule in floors:
                for piece, most in rule.latest():
                    if piece.start > most:
                        piece.start, moved = most, True
            if not moved:
                return all(rule.piece.start >= rule.least() for rule in self.rules)
        return False

    def times(self) -> Times:
        """The deciding times as they stand."""
        jobs = {}
        for key, first in self.first.items():
            last = self.last[key]
            pause = (first.end, last.start) if last.start > first.end else None
            jobs[key] = JobTime(first.start, last.end, first.who, pause)
        return Times(jobs, self.before.ovens, self.before.shelves)
