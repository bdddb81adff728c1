"""The work as a network: hand jobs, and the least and greatest minutes between them.

What the planner places are the jobs of the hands; all else (baking, chilling, cooling) lies
between two of them, and is a link with its window.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field

from finebatch.core.plan.keys import CLEAR_UP, JobKey, JobKind
from finebatch.core.plan.work import DoughWork, Happened, Span, TrayWork, Work

TURN_SLACK = 1
"""A tray may be turned a minute sooner or later than at half time."""


@dataclass(frozen=True, slots=True)
class Job:
    """A job of the hands. `tray` is none for what is done to a whole dough.

    `skill` is the kind of job that one has to be allowed to do for it.
    """

    id: JobKey
    kind: JobKind
    minutes: int
    dough: str
    tray: str | None
    skill: JobKind


@dataclass(frozen=True, slots=True)
class Link:
    """From the end of one job to the start of another: at least, and at most, so many minutes."""

    before: JobKey
    after: JobKey
    least: int
    most: int | None = None


@dataclass(frozen=True, slots=True)
class BakeStay:
    """One bake of a tray: from loading to taking out, at a temperature."""

    tray: TrayWork
    number: int

    @property
    def key(self) -> JobKey:
        """The id of the bake."""
        return JobKey(self.tray.name, "bake", self.number)

    @property
    def load(self) -> JobKey:
        """The job that begins it."""
        return JobKey(self.tray.name, "load", self.number)

    @property
    def out(self) -> JobKey:
        """The job that ends it."""
        return JobKey(self.tray.name, "out", self.number)

    @property
    def oven_c(self) -> int:
        """Its setting in °C."""
        return self.tray.bakes[self.number].oven_c


@dataclass(frozen=True, slots=True)
class Network:
    """All jobs by id, in an order in which they can be done, and their links."""

    jobs: Mapping[JobKey, Job]
    links: tuple[Link, ...]
    stays: tuple[BakeStay, ...]
    doughs: Mapping[str, DoughWork] = field(default_factory=dict)

    def soonest(self, job: Job) -> int:
        """The minute before which a job is not done, since its pieces would be too old."""
        dough = self.doughs.get(job.dough)
        if dough is None:
            return 0
        return dough.begin_from if job.tray is None else dough.bake_from


def mixed(dough: DoughWork) -> JobKey | None:
    """The last job with which a dough is made; none for one that is there to be portioned."""
    return dough.made[-1] if dough.makes else None


def mixed_for(dough: DoughWork, tray: TrayWork) -> tuple[JobKey, int] | None:
    """The last job with which the lot of a tray is made, and the wait after it."""
    if not dough.makes:
        return None
    make, key = dough.lot(tray.lot)[-1]
    return key, make.wait_min


def fetched(dough: DoughWork) -> JobKey | None:
    """The job that takes a chilled dough out of the cold; none where it is portioned from there."""
    return JobKey(dough.letter, "fetch") if dough.fetch_min else None


def last_of(tray: TrayWork) -> JobKey:
    """The last job of the hands on a tray."""
    return JobKey(tray.name, "finish" if tray.finish_min else "rack")


def after_last(tray: TrayWork) -> int:
    """Minutes from a tray's last job to its being ready."""
    return tray.set_min if tray.finish_min else tray.cool_min


class _Builder:
    def __init__(self, work: Work) -> None:
        self.work = work
        self.jobs: dict[JobKey, Job] = {}
        self.links: list[Link] = []
        self.stays: list[BakeStay] = []
        for dough in work.doughs:
            self._dough(dough)
            for tray in work.trays_of(dough.letter):
                self._tray(tray, dough)
            self._scraps(dough)
        self._kitchen()

    def _job(self, job: Job) -> JobKey:
        self.jobs[job.id] = job
        return job.id

    def _whole(self, kind: JobKind, number: int, minutes: int, letter: str) -> JobKey:
        """A job on a whole dough."""
        return self._job(Job(JobKey(letter, kind, number), kind, minutes, letter, None, kind))

    def _link(self, before: JobKey, after: JobKey, least: int, most: int | None = None) -> None:
        self.links.append(Link(before, after, least, most))

    def _dough(self, dough: DoughWork) -> None:
        letter, before = dough.letter, None
        ready = [
            self._whole("ready", n, make.hands_min, letter) for n, make in enumerate(dough.before)
        ]
        for n, (make, own) in enumerate(zip(dough.makes, dough.made, strict=True)):
            key = self._whole(make.kind, own.round, make.hands_min, letter)
            if before is not None:
                new_lot = n % (len(dough.makes) // dough.lots) == 0
                self._link(before, key, 0 if new_lot else dough.makes[n - 1].wait_min)
            else:
                for one, first in zip(dough.before, ready, strict=True):
                    self._link(first, key, one.wait_min)
            before = key
        if before is not None and dough.fetch_min:
            out = self._whole("fetch", 0, dough.fetch_min, letter)
            wait, most = dough.makes[-1].wait_min, dough.chill_most
            self._link(before, out, wait + dough.chill_min, None if most is None else wait + most)
        for n, part in enumerate(dough.parts):
            self._whole("part", n, part.hands_min, letter)
        if dough.freeze_min:
            key = self._whole("freeze", 0, dough.freeze_min, letter)
            if before is not None:
                self._link(before, key, dough.makes[-1].wait_min)

    def _tray(self, tray: TrayWork, dough: DoughWork) -> None:
        """From portioning to ready."""
        k, name = self.work.kitchen, tray.name

        def job(kind: JobKind, minutes: int, number: int = 0) -> JobKey:
            skill = tray.portion_skill if kind == "portion" else kind
            key = JobKey(name, kind, number)
            return self._job(Job(key, kind, minutes, dough.letter, name, skill))

        here = job("portion", tray.portion_min)
        self._ready(dough, tray, here)
        for n in range(len(tray.bakes)):
            if n:
                cut = job("slice", tray.slice_min)
                rest = tray.before_cut_min
                self._link(here, cut, rest, rest + k.rest_over_min)
                here = cut
            load, out = job("load", k.load_min, n), job("out", k.out_min, n)
            stand = 0 if n else tray.stand_min
            self._link(here, load, stand, stand + k.raw_wait_min)
            self._bake(BakeStay(tray, n), load, out)
            here = out
        made = mixed_for(dough, tray)
        if made is not None and dough.bake_within is not None:
            self._link(made[0], JobKey(name, "load"), 0, dough.bake_within)
        if tray.shape_min:
            shape = job("shape", tray.shape_min)
            self._link(here, shape, 0, tray.shape_within)
            here = shape
        rack = job("rack", k.rack_min)
        self._link(here, rack, tray.rest_min, tray.rest_min + k.rest_over_min)
        if tray.finish_min:
            finish = job("finish", tray.finish_min)
            self._link(rack, finish, tray.cool_min)
            self._parts(dough, "finish", finish)

    def _ready(self, dough: DoughWork, tray: TrayWork, portion: JobKey) -> None:
        """A dough is mixed, chilled and tempered, and its parts made, before it is portioned."""
        made, out = mixed_for(dough, tray), fetched(dough)
        first = portion == JobKey(self.work.trays_of(dough.letter)[0].name, "portion")
        if out is not None:
            most = dough.temper_min + dough.fetched_within
            self._link(out, portion, dough.temper_min, most if first else None)
        elif made is not None:
            start, wait = made[0], made[1] + dough.temper_min
            limits = [dough.chill_most]
            if first:
                limits.append(dough.first_within)
            found = [wait + most for most in limits if most is not None]
            self._link(start, portion, wait + dough.chill_min, min(found, default=None))
        self._parts(dough, "portion", portion)

    def _parts(self, dough: DoughWork, wanted: str, job: JobKey) -> None:
        """Made before a tray wants them, and not too long before the first."""
        first = job.whose == self.work.trays_of(dough.letter)[0].name
        for n, part in enumerate(dough.parts):
            if part.wanted == wanted:
                most = part.within_min if first else None
                self._link(JobKey(dough.letter, "part", n), job, 0, most)

    def _bake(self, stay: BakeStay, load: JobKey, out: JobKey) -> None:
        k, bake = self.work.kitchen, stay.tray.bakes[stay.number]
        self._link(load, out, bake.length, bake.length)
        self.stays.append(stay)
        if bake.turn_after is not None:
            key = JobKey(stay.tray.name, "turn", stay.number)
            tray = stay.tray
            turn = self._job(Job(key, "turn", k.turn_min, tray.dough, tray.name, "turn"))
            low = max(bake.turn_after - TURN_SLACK, 0)
            self._link(load, turn, low, bake.turn_after + TURN_SLACK)
            self._link(turn, out, 0)

    def _kitchen(self) -> None:
        """The bowl is washed after each dough, and all is cleared up after all else."""
        k = self.work.kitchen
        for mix, wash in self.work.washes.items():
            self._link(mix, self._whole("wash", 0, k.wash_min, wash.whose), 0)
        if k.clear_min:
            before = list(self.jobs)
            self._job(Job(CLEAR_UP, "clear", k.clear_min, "", None, "clear"))
            followed = {link.before for link in self.links}
            for key in before:
                if key not in followed:
                    self._link(key, CLEAR_UP, 0)

    def _scraps(self, dough: DoughWork) -> None:
        """Scraps are gathered from all the other trays, chilled shortly and rolled again."""
        trays = self.work.trays_of(dough.letter)
        for scrap in (tray for tray in trays if tray.scraps):
            for tray in (tray for tray in trays if not tray.scraps):
                before, after = JobKey(tray.name, "portion"), JobKey(scrap.name, "portion")
                self._link(before, after, dough.scrap_chill_min)


def passed_turns(net: Network, work: Work, happened: Happened) -> set[JobKey]:
    """Turns whose chance has passed."""
    gone = set()
    for stay in net.stays:
        turn = JobKey(stay.tray.name, "turn", stay.number)
        if turn not in net.jobs or turn in happened.done:
            continue
        loaded, length = happened.done.get(stay.load), stay.tray.bakes[stay.number].length
        if stay.out in happened.done or (
            loaded is not None and happened.now + work.kitchen.turn_min > loaded + length - 1
        ):
            gone.add(turn)
    return gone


def off_spans(work: Work, happened: Happened) -> tuple[Span, ...]:
    """When the oven is off and cold after, since nobody is there for long: not where a tray was in
    it then, one that was dropped since too, nor where it was used again since."""
    now, done = happened.now, happened.done
    loads = [
        (at, done.get(key.to("out"), now + 1)) for key, at in done.items() if key.step == "load"
    ]

    def on(start: int, end: int) -> bool:
        used_after = any(end < loaded <= now for loaded, _ in loads)
        left_on = start <= now and any(loaded < end and out > start for loaded, out in loads)
        return used_after or left_on

    return tuple(span for span in work.kitchen.unattended if not on(*span))


def network(work: Work) -> Network:
    """The jobs of a session and what lies between them."""
    built = _Builder(work)
    doughs = {dough.letter: dough for dough in work.doughs}
    return Network(built.jobs, tuple(built.links), tuple(built.stays), doughs)
