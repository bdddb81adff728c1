"""What bakers say while they bake, and what it makes of the work and of what has happened."""

import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

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
from finebatch.core.plan.work import HAND_JOBS, MAY_BE_LEFT_OUT, Happened, Work

ToldKind = Literal[
    "done",
    "more",
    "skip",
    "away",
    "slow",
    "dropped",
    "weighed",
    "scaled",
    "felt",
    "ticked",
    "closed",
]
"""A job is done, or left out; a bake needs more minutes; the baker is away for so many, or the oven
takes so many more to get hot; a tray was dropped; something was weighed; all else is made to go
with too much of it; a dough felt so firm; a step of a job is ticked, or not any more; the session
is closed: nothing is left to do."""
MOVING: frozenset[ToldKind] = frozenset({"done", "more", "skip", "away", "slow", "dropped", "felt"})
"""What the rest is planned again for; all else that is said moves nothing."""
MOST_AWAY = 12 * 60


@dataclass(frozen=True, slots=True)
class Told:
    """One thing that was said at a minute of the session: a job (or the bake, for more minutes of
    it), a tray that was dropped, or neither, and the `minutes` that it is about."""

    kind: str
    at: float
    job: JobKey | None = None
    tray: str | None = None
    minutes: int = 0


def done_in(told: Sequence[Told]) -> dict[JobKey, float]:
    """At which minute each job was done, or left out."""
    return {one.job: one.at for one in told if one.kind in ("done", "skip") and one.job is not None}


def dropped_in(told: Sequence[Told]) -> set[str]:
    """The trays that were dropped."""
    return {one.tray for one in told if one.kind == "dropped" and one.tray is not None}


def whose_jobs(work: Work) -> set[str]:
    """Whose jobs there are: the doughs by letter, the trays by name."""
    return {dough.letter for dough in work.doughs} | {tray.name for tray in work.trays}


def work_after(work: Work, told: Sequence[Told]) -> Work:
    """The work with what came up while baking: minutes more, breaks, trays dropped."""
    extras = [MoreMinutes(one.job, one.minutes) for one in told if one.kind == "more" and one.job]
    work = without(with_extras(work, extras), dropped_in(told))
    for one in told:
        if one.kind == "away":
            start = math.floor(one.at)
            work = with_break(work, start, start + one.minutes)
    return work


def hot_from(work: Work, plan: Plan, told: Sequence[Told]) -> tuple[int, ...]:
    """The minutes before which each oven is not hot: slow, as was said, or its dial was turned
    later than planned."""
    heats: dict[JobKey | None, Placed] = {a.id: a for a in plan.activities if a.kind == "heat"}
    hot = [0.0] * len(work.kitchen.ovens)
    for one in told:
        heat = heats.get(one.job)
        if one.kind == "slow":
            hot = [max(before, one.at + one.minutes) for before in hot]
        elif one.kind == "done" and heat is not None:
            oven = (heat.oven or 1) - 1
            hot[oven] = max(hot[oven], one.at + heat.end - heat.start)
    return tuple(map(math.ceil, hot))


def held_in(plan: Plan, told: Sequence[Told]) -> dict[str, int]:
    """Until which minute doughs that were too soft or too hard wait, by letter."""
    doughs = {a.id: a.dough for a in plan.activities}
    felt = ((doughs.get(one.job), one) for one in told if one.kind == "felt" and one.job)
    return {letter: math.ceil(one.at + one.minutes) for letter, one in felt if letter is not None}


def happened_after(work: Work, plan: Plan, told: Sequence[Told], now: float = 0) -> Happened:
    """What is so once all that was said, at `now` or when the last of it was; `work` is as it is
    after it (see `work_after`), `plan` what was planned before."""
    done = {key: minute for key, minute in done_in(told).items() if key.step != "heat"}
    clock = max(math.ceil(max([now, *(one.at for one in told)])), 0)
    held = held_in(plan, told)
    return happened_by(work, plan, done, clock, hot_from(work, plan, told), held)


def cannot_be(work: Work, plan: Plan, told: Sequence[Told], kind: str, job: Placed) -> str | None:
    """Why that cannot be said of a job of the plan after all that; none where it can. `work` is as
    it is now."""
    done = done_in(told)
    if kind == "skip" and job.kind not in MAY_BE_LEFT_OUT:
        return "This step cannot be left out: what follows needs it."
    if kind == "more":
        inside = job.kind == "bake" and job.id.to("load") in done and job.id.to("out") not in done
        return None if inside else "More minutes are for a tray that is in the oven now."
    if job.kind == "heat" and kind == "done":
        return None
    if job.kind not in HAND_JOBS:
        return "This step needs no hands; it ends by itself."
    if kind == "felt":
        filled = job.kind != "portion" or job.id in done
        return "A dough is felt before it is portioned." if filled else None
    return _out_of_turn(work, done, dropped_in(told), job)


def _out_of_turn(
    work: Work, done: Mapping[JobKey, float], gone: Collection[str], job: Placed
) -> str | None:
    """What has to be done before a job."""
    missing = [key for key in order_of(work, job.id) if key not in done]
    if missing:
        return f"First: {missing[0].said}."
    if job.kind == "load":
        inside = [
            key
            for key in done
            if key.step == "load" and key.to("out") not in done and key.whose not in gone
        ]
        if len(inside) >= work.kitchen.shelves:
            return f"The oven is full. Take {inside[0].whose} out first."
    return None
