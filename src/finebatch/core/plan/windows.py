"""The window of each job in a finished plan: how much sooner or later it could start alone."""

from collections.abc import Mapping
from dataclasses import dataclass

from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.network import network
from finebatch.core.plan.placed import Placed, Plan
from finebatch.core.plan.work import Work


@dataclass(frozen=True, slots=True)
class Window:
    """The earliest and latest start that the jobs before and after leave (minutes).

    `latest` is none where nothing that follows holds it.
    """

    earliest: int
    latest: int | None


def windows(work: Work, plan: Plan) -> Mapping[JobKey, Window]:
    """The window of every job of the hands, by id, all others staying where they are."""
    placed: dict[JobKey, Placed] = {a.id: a for a in plan.activities if a.hands}
    earliest: dict[JobKey, int] = dict.fromkeys(placed, 0)
    latest: dict[JobKey, int | None] = dict.fromkeys(placed)
    for link in network(work).links:
        before, after = placed.get(link.before), placed.get(link.after)
        if before is None or after is None:
            continue
        length = before.end - before.start
        _later(earliest, link.after, before.end + link.least)
        _sooner(latest, link.before, after.start - link.least - length)
        if link.most is not None:
            _sooner(latest, link.after, before.end + link.most)
            _later(earliest, link.before, after.start - link.most - length)
    return {key: Window(earliest[key], latest[key]) for key in placed}


def _later(bounds: dict[JobKey, int], key: JobKey, minute: int) -> None:
    bounds[key] = max(bounds[key], minute)


def _sooner(bounds: dict[JobKey, int | None], key: JobKey, minute: int) -> None:
    known = bounds[key]
    bounds[key] = minute if known is None else min(known, minute)
