"""What a delay does to the rest of the plan, set beside what needs no planner at all: every open
job slid by the delay."""

import time
from dataclasses import dataclass
from statistics import median

from bench_plans import holiday, supper, two_doughs
from bench_rows import row

from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.placed import Placed, Plan
from finebatch.core.plan.progress import happened_by
from finebatch.core.plan.replan import replan
from finebatch.core.plan.schedule import times_of
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import Work

LATE_MIN = 15
MOMENTS = 20
LONG = ("mix", "part", "portion", "slice", "finish")
AT_THE_OVEN = ("turn", "out", "shape")


@dataclass(frozen=True)
class Outcome:
    """One delay: minutes by which it moved the finish, and by which a plain slide would have; the
    share of open jobs moved by more than the delay; seconds."""

    finish: int
    slide: int
    moved: float
    took: float


def slide_finish(work: Work, plan: Plan, open_jobs: list[Placed], delay: int) -> int:
    """The finish when every open job begins so much later, and behind a time away that it would
    run into: worked out with pencil and paper, without the planner."""
    by = delay
    away = sorted(span for worker in work.kitchen.workers for span in worker.away)
    for job in sorted(open_jobs, key=lambda a: (a.start, a.id)):
        for start, end in away:
            if job.start + by < end and job.end + by > start:
                by = end - job.start
    return plan.finish + by


def late_at(work: Work, plan: Plan, job: Placed) -> Outcome:
    """That job is done a quarter of an hour late; the oven was seen to meanwhile."""
    now = job.end + LATE_MIN
    done = {a.id: float(a.end) for a in plan.activities if a.hands and a.end <= job.start}
    done[job.id] = float(now)
    for a in plan.activities:
        inside = a.tray is not None and JobKey(a.tray, "load") in done and a.kind in AT_THE_OVEN
        if inside and a.end <= now and a.id not in done and a.who == job.who:
            done[a.id] = float(a.end)
    open_jobs = [a for a in plan.activities if a.hands and a.id not in done]
    begin = time.perf_counter()
    after = replan(work, happened_by(work, plan, done, now), times_of(plan.activities))
    took = time.perf_counter() - begin
    starts = {a.id: a.start for a in after.activities}
    moved = [a for a in open_jobs if abs(starts.get(a.id, a.start) - a.start) > LATE_MIN]
    slide = slide_finish(work, plan, open_jobs, LATE_MIN)
    share = len(moved) / max(len(open_jobs), 1)
    return Outcome(after.finish - plan.finish, slide - plan.finish, share, took)


def moments(plan: Plan) -> list[Placed]:
    """Jobs of the hands that take a while, spread over the session."""
    jobs = sorted((a for a in plan.activities if a.kind in LONG), key=lambda a: (a.start, a.id))
    if len(jobs) <= MOMENTS:
        return jobs
    return [jobs[n * len(jobs) // MOMENTS] for n in range(MOMENTS)]


def measure_delays() -> None:
    sessions = (
        ("two doughs", two_doughs(), 3),
        ("the supper", supper(), 5),
        ("the holiday", holiday(), 10),
    )
    for name, work, seconds in sessions:
        plan = best_plan(work, seconds)
        found = [late_at(work, plan, job) for job in moments(plan)]
        worse = [o.finish - o.slide for o in found if o.finish > o.slide]
        row(
            f"{name}: {LATE_MIN} min late, later than slid",
            f"{len(worse)} of {len(found)}",
            "never",
            not worse,
        )
        row(
            f"{name}: finish moved by",
            f"{median(o.finish for o in found):g} min, at most {max(o.finish for o in found)}",
        )
        moved = sum(o.moved for o in found) / len(found)
        row(f"{name}: open jobs moved by more than that", f"{moved:.0%}")
        slowest = max(o.took for o in found)
        row(f"{name}: planned again in", f"{slowest:.2f} s", "<= 1 s", slowest <= 1)


if __name__ == "__main__":
    measure_delays()
