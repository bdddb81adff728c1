"""Ready by a time around nights and breaks, and settings that lie near each other."""

import random
from dataclasses import replace

from bench_plans import supper, two_doughs
from bench_rows import row

from finebatch.core.plan.bound import plain_bound
from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.latest import latest_quick
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.shift import shift_work
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import (
    HAND_JOBS,
    Bake,
    DoughWork,
    Kitchen,
    Make,
    Oven,
    Span,
    TrayWork,
    Work,
    Worker,
)

DAY = 24 * 60
NIGHTS = tuple((d * DAY + 14 * 60, d * DAY + 23 * 60) for d in range(10))
"""With minute 0 at eight in the morning: from ten at night till seven."""
LATER_MIN = 16
CHAINS, SEED = 200, 7


def ready_by(work: Work, ready: int, *away: Span) -> Work:
    hands = (Worker("you", HAND_JOBS, away),)
    return replace(work, ready_by=ready, kitchen=replace(work.kitchen, workers=hands))


def overnight(work: Work) -> Work:
    first, *others = work.doughs
    return replace(work, doughs=(replace(first, chill_min=12 * 60), *others))


def begin_of(plan: Plan) -> int:
    return min(a.start for a in plan.activities if a.hands)


def begun_later(work: Work, begin: int) -> bool:
    """Whether a search of its own finds a plan that is in time and begun a quarter of an hour
    later, or in a later stretch between two times away."""
    assert work.ready_by is not None
    ends = [end for worker in work.kitchen.workers for _, end in worker.away]
    for minute in (begin + LATER_MIN, *(e for e in ends if begin + LATER_MIN < e < work.ready_by)):
        rest = replace(shift_work(work, -minute), ready_by=None)
        if best_plan(rest, 5).finish <= work.ready_by - minute:
            return True
    return False


def measure_ready_by() -> None:
    sessions = (
        (
            "two doughs, Saturday, an hour and a half away",
            two_doughs(),
            7 * DAY + 600,
            ((7 * DAY + 240, 7 * DAY + 330),),
        ),
        ("two doughs, in six days, away every night", two_doughs(), 6 * DAY + 420, NIGHTS),
        ("two doughs, one chilled overnight", overnight(two_doughs()), 6 * DAY + 420, NIGHTS),
        ("the supper, in a week, nobody away", supper(), 7 * DAY, ()),
        ("the supper, in six days, away every night", supper(), 6 * DAY + 420, NIGHTS),
    )
    for name, plain, ready, away in sessions:
        work = ready_by(plain, ready, *away)
        quick, plan = latest_quick(work), best_plan(work, 5)
        assert quick is not None
        begin, late = ready - begin_of(plan), plan.finish > ready
        row(
            f"{name}: begun before",
            f"{begin} min (quick {ready - begin_of(quick)})",
            "in time",
            not late and not find_faults(plan, work),
        )
        later = begun_later(work, begin_of(plan))
        row(
            "  a start a quarter of an hour later is found",
            "yes" if later else "no",
            "no",
            not later,
        )


def chain(chance: random.Random) -> Work:
    """A few doughs at settings that lie near each other, one by one."""
    letters = "ABCDEF"[: chance.randint(2, 6)]
    step = chance.choice((2, 4, 5, 6, 10))
    trays = tuple(
        TrayWork(
            f"{letter}1",
            letter,
            12,
            chance.randint(2, 5),
            (Bake(chance.randint(6, 18), None, 150 + step * chance.randint(0, 8)),),
            2,
            10,
        )
        for letter in letters
    )
    doughs = tuple(DoughWork(letter, (Make("Mix", 2),)) for letter in letters)
    oven = Oven(
        chance.randint(1, 2),
        rise_c_min=chance.choice((4.0, 8.0, 30.0)),
        fall_c_min=chance.choice((1.0, 5.0)),
    )
    return Work(doughs, trays, Kitchen(4, (oven,), tolerance_c=chance.choice((0, 5, 10))))


def measure_settings() -> None:
    trays = tuple(
        TrayWork(f"{letter}1", letter, 12, 2, (Bake(12, None, 150 + 5 * n),), 2, 10)
        for n, letter in enumerate("ABCDEFGHI")
    )
    doughs = tuple(DoughWork(tray.dough, (Make("Mix", 2),)) for tray in trays)
    nine = Work(doughs, trays, Kitchen(4))
    plan = best_plan(nine, 5)
    # One after the other from the coolest, reckoned by hand.
    by_hand = nine.kitchen.ovens[0].heat_min(150) + 9 * 12 + 8 * 2 + 1 + 2 + 1 + 10
    row(
        "nine settings 5 °C apart: finish, bound",
        f"{plan.finish}, {plan.bound} min",
        f"<= {by_hand}",
        plan.bound <= plan.finish <= by_hand,
    )
    chance = random.Random(SEED)
    false = dials = 0
    for _ in range(CHAINS):
        work = chain(chance)
        quick = quick_plan(work)
        found = best_plan(work, 0.3)
        false += plain_bound(work) > min(quick.finish, found.finish)
        dials += any(
            "dial" in fault for plan in (quick, found) for fault in find_faults(plan, work)
        )
    row(f"{CHAINS} chains of near settings: false bounds", f"{false}", "none", not false)
    row("  loads for which the dial was not told", f"{dials}", "none", not dials)


if __name__ == "__main__":
    measure_ready_by()
    measure_settings()
