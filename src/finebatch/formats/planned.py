"""A plan as a session file has it: every activity with its moments, place, hands and window."""

from datetime import datetime, timedelta

from finebatch.core.plan.placed import Plan
from finebatch.core.plan.quick import by_hand_min
from finebatch.core.plan.windows import windows
from finebatch.core.plan.work import Work
from finebatch.formats.session_file import FileActivity, FilePlan


def file_plan(work: Work, plan: Plan, base: datetime) -> FilePlan:
    """The plan with its minute 0 at `base`, beside the finish of the sensible hand method."""

    def at(minute: int) -> datetime:
        return base + timedelta(minutes=minute)

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
