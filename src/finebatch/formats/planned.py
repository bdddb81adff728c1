"""A plan as a session file has it: every activity with its moments, place, hands and window."""

from collections.abc import Sequence
from datetime import datetime
from typing import cast, get_args

from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.network import network
from finebatch.core.plan.placed import Placed, Plan, Station
from finebatch.core.plan.quick import by_hand_min
from finebatch.core.plan.told import MOVING, Told
from finebatch.core.plan.windows import windows
from finebatch.core.plan.work import Kitchen, Work
from finebatch.core.refusal import refuse
from finebatch.formats.moments import later
from finebatch.formats.session_file import FileActivity, FileEvent, FilePlan, minute_of

MOST_MINUTES = 31 * 24 * 60


def file_plan(work: Work, plan: Plan, base: datetime) -> FilePlan:
    """The plan with its minute 0 at `base`, beside the finish of the sensible hand method."""

    def at(minute: int) -> datetime:
        return later(base, minute)

    kept, workers = windows(work, plan), work.kitchen.workers
    activities = []
    for a in plan.activities:
        window = kept.get(a.id)
        activities.append(
            FileActivity(
                id=f"{a.id}",
                kind=a.kind,
                dough=a.dough,
                tray=a.tray,
                place=a.place,
                start=at(a.start),
                end=at(a.end),
                who=workers[a.who].name if a.who is not None else None,
                sheet=a.sheet,
                oven=a.oven,
                shelf=a.shelf,
                to_shelf=a.to_shelf,
                dial_c=a.dial_c,
                pause=None if a.pause is None else (at(a.pause[0]), at(a.pause[1])),
                window=None
                if window is None
                else (at(window.earliest), None if window.latest is None else at(window.latest)),
            )
        )
    begin = plan.begin if work.ready_by is not None else 0
    return FilePlan(
        finish=at(plan.finish),
        bound=at(plan.bound),
        proven=plan.proven,
        by_hand=at(begin + by_hand_min(work)),
        activities=activities,
    )


def read_plan(found: FilePlan, work: Work, base: datetime) -> Plan:
    """The plan of a file with its minute 0 at `base`; the work is as it is by now.

    Raises `Refusal` where one of its jobs is missing. A turn may be: its chance has passed.
    """
    workers = [worker.name for worker in work.kitchen.workers]
    jobs = network(work).jobs
    placed = []
    for number, a in enumerate(found.activities):
        field, key = f"plan.activities.{number}", JobKey.read(a.id)
        if a.place not in get_args(Station):
            raise refuse(f"{field}.place", f"A place is one of {', '.join(get_args(Station))}.")
        if a.who is not None and a.who not in workers:
            raise refuse(f"{field}.who", "Nobody of that name works in this kitchen.")
        _check_places(a, work.kitchen, field)
        start, end = minute_of(a.start, base), minute_of(a.end, base)
        if not 0 <= start <= end <= MOST_MINUTES:
            raise refuse(f"{field}.end", "It ends after it begins, and within a month in all.")
        placed.append(
            Placed(
                key,
                a.tray,
                cast(Station, a.place),
                start,
                end,
                sheet=a.sheet,
                shelf=a.shelf,
                dough=a.dough,
                oven=a.oven,
                who=None if a.who is None else workers.index(a.who),
                dial_c=a.dial_c,
                pause=None if a.pause is None else _minutes(a.pause, base),
                to_shelf=a.to_shelf,
            )
        )
    missing = {key for key in jobs if key.step != "turn"} - {a.id for a in placed}
    if missing:
        raise refuse("plan.activities", f"The plan has no {min(missing)}: give all its jobs.")
    return Plan(tuple(placed), minute_of(found.finish, base), minute_of(found.bound, base))


def _check_places(a: FileActivity, kitchen: Kitchen, field: str) -> None:
    """`Refusal` where an activity is in a place that this kitchen has not."""
    ovens = kitchen.ovens
    shelves = ovens[min(max(a.oven or 1, 1), len(ovens)) - 1].shelves
    for name, number, there in (
        ("oven", a.oven, len(ovens)),
        ("shelf", a.shelf, shelves),
        ("to_shelf", a.to_shelf, shelves),
        ("sheet", a.sheet, sum(kitchen.pools)),
    ):
        if number is not None and not 0 < number <= there:
            raise refuse(f"{field}.{name}", f"There are {there} of them, counted from 1.")


def _minutes(span: tuple[datetime, datetime], base: datetime) -> tuple[int, int]:
    return minute_of(span[0], base), minute_of(span[1], base)


def told_in(events: Sequence[FileEvent], base: datetime) -> tuple[Told, ...]:
    """What was said and moves the rest, in order, in minutes after `base`; `Refusal` for what lies
    before it, or months after."""
    for number, event in enumerate(events):
        if not 0 <= minute_of(event.at, base) <= MOST_MINUTES:
            raise refuse(f"events.{number}.at", "That is not while this plan is baked.")
    return tuple(
        Told(
            event.kind,
            (event.at - base).total_seconds() / 60,
            None if event.kind in ("dropped", "away", "slow") else JobKey.read(event.activity),
            event.activity or None,
            event.minutes or 0,
        )
        for event in sorted(events, key=lambda event: event.at)
        if event.kind in MOVING
    )
