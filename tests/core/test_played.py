"""Sessions played to their end with whatever comes up: doing nothing about it is never better."""

import random
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from itertools import pairwise

import pytest

from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.placed import Placed, Plan
from finebatch.core.plan.progress import (
    MoreMinutes,
    happened_by,
    order_of,
    with_break,
    with_extras,
    without,
)
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.replan import replan
from finebatch.core.plan.schedule import times_of
from finebatch.core.plan.slide import AT_THE_OVEN
from finebatch.core.plan.work import OVEN_OFF_MIN, Work
from tests.chance import so_many
from tests.core.test_random_methods import a_session

MOST_TRAYS = 9
HAPPENINGS = ("late", "late", "early", "away", "slow", "more", "dropped")


@dataclass
class Played:
    """A session under way. `delay` are the minutes that what has just happened costs by itself."""

    work: Work
    plan: Plan
    chance: random.Random
    done: dict[JobKey, float] = field(default_factory=dict)
    oven_from: tuple[int, ...] = ()
    now: int = 0
    delay: int = 0

    def ahead(self) -> list[Placed]:
        jobs = (a for a in self.plan.activities if a.hands and a.id not in self.done)
        return sorted(jobs, key=lambda a: (a.start, a.end))

    def inside(self) -> list[JobKey]:
        bakes = [a.id for a in self.plan.activities if a.kind == "bake"]
        return [b for b in bakes if b.to("load") in self.done and b.to("out") not in self.done]

    def happen(self, what: str) -> None:
        minutes, trays = self.chance.randint(2, 40), self.work.trays
        self.delay = minutes
        if what == "away":
            self.work = with_break(self.work, self.now, self.now + minutes)
            if minutes >= OVEN_OFF_MIN:
                ovens, hottest = self.work.kitchen.ovens, max(self.work.settings_c)
                self.delay += max(oven.heat_min(hottest) for oven in ovens)
        elif what == "slow":
            ovens = self.work.kitchen.ovens
            self.oven_from = (self.now + minutes,) * len(ovens)
        elif what == "more" and self.inside():
            extra = MoreMinutes(self.chance.choice(self.inside()), minutes)
            self.work = with_extras(self.work, [extra])
        elif what == "dropped" and len(trays) > 1:
            there = [t.name for t in trays if JobKey(t.name, "rack") not in self.done]
            self.work = without(self.work, self.chance.sample(there, min(len(there), 1)))
        else:
            self.do(late=minutes if what == "late" else 0, early=what == "early")

    def do(self, late: int = 0, *, early: bool = False) -> None:
        job = next(
            a for a in self.ahead() if all(key in self.done for key in order_of(self.work, a.id))
        )
        end = (job.start + job.end) // 2 if early else job.end + late
        self.now = max(self.now, end)
        self.done[job.id] = float(self.now)
        self.delay = max(self.now - job.end, 0)

    def plan_on(self) -> None:
        """Plan the rest again, and look that it is no later than all of it moved by the delay.

        What is in the oven is not moved: it comes out when it is done, in the way of other jobs.
        """
        before, happened = self.plan, happened_by(self.work, self.plan, self.done, self.now)
        happened = replace(happened, oven_from=self.oven_from)
        self.plan = replan(self.work, happened, times_of(before.activities))
        there = {tray.name for tray in self.work.trays}
        held_up = [
            self.now - a.start
            for a in before.activities
            if a.hands
            and a.id not in {*happened.done, *happened.begun}
            and (a.tray is None or a.tray in there)
        ]
        hot = {a.tray for a in self.plan.activities if a.kind == "load" and a.id in self.done}
        hot -= {a.tray for a in self.plan.activities if a.kind == "rack" and a.id in self.done}
        in_the_way = sum(
            a.end - a.start for a in self.ahead() if a.tray in hot and a.kind in AT_THE_OVEN
        )
        assert self.plan.finish <= before.finish + max([self.delay, *held_up]) + in_the_way
        assert list(self.breaches({*happened.done, *happened.begun})) == []

    def breaches(self, taken: set[JobKey]) -> Iterator[str]:
        """What nobody could do, of what is still to do."""
        k = self.work.kitchen
        open_ = [a for a in self.plan.activities if a.hands and a.id not in taken]
        yield from (f"{a.id} lies back" for a in open_ if a.start < self.now)
        for who, worker in enumerate(k.workers):
            own = sorted((a.start, a.end) for a in open_ if a.who == who and a.pause is None)
            yield from (f"two jobs at {b[0]}" for a, b in pairwise(own) if a[1] > b[0])
            away = [span for span in worker.away if span[1] > self.now]
            yield from (f"{who} is away at {a}" for a, b in own for c, d in away if a < d and b > c)
        cold = [a for a in self.plan.activities if a.kind == "chill" and a.cold != "thaws"]
        for a in (a for a in cold if a.start > self.now):
            if len({b.dough for b in cold if b.start <= a.start < b.end}) > k.fridge:
                yield f"no place in the fridge at {a.start}"
        bakes = [a for a in self.plan.activities if a.kind == "bake" and a.end > self.now]
        for a in bakes:
            beside = sum(b.start <= a.start < b.end for b in bakes)
            if a.id.to("load") not in taken and beside > k.shelves:
                yield f"{beside} trays in the oven at {a.start}"


def a_small_session(chance: random.Random) -> Work:
    while True:
        work, _, _ = a_session(chance)
        if len(work.trays) <= MOST_TRAYS:
            return work


@pytest.mark.parametrize("seed", range(so_many(6)))
def test_whatever_happens_costs_no_more_than_moving_all(seed: int) -> None:
    chance = random.Random(seed)
    work = a_small_session(chance)
    played = Played(work, quick_plan(work), chance)
    twenty = 20 / len(played.ahead())
    while played.ahead():
        if chance.random() < twenty:
            played.happen(chance.choice(HAPPENINGS))
        else:
            played.do()
        played.plan_on()
    assert {a.id for a in played.plan.activities if a.hands} <= played.done.keys()
