"""Ready by a time: as late a start as can be, around any nights and breaks."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.latest import latest_quick
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.shift import shift_work
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import Bake, DoughWork, Kitchen, Make, Oven, Span, TrayWork, Work
from tests.chance import so_many
from tests.core.test_plan import two_doughs, works

DAY = 24 * 60
NIGHTS = tuple((d * DAY + 14 * 60, d * DAY + 23 * 60) for d in range(12))
"""With minute 0 at eight in the morning: from ten at night till seven."""


def ready_by(work: Work, ready: int, *away: Span) -> Work:
    you, *others = work.kitchen.workers
    workers = (replace(you, away=tuple(sorted(away))), *others)
    return replace(work, ready_by=ready, kitchen=replace(work.kitchen, workers=workers))


def can_begin(work: Work, minute: int) -> bool:
    """Whether any plan that is found begins then and is ready in time."""
    assert work.ready_by is not None
    rest = replace(shift_work(work, -minute), ready_by=None)
    return best_plan(rest, 3).finish <= work.ready_by - minute


@pytest.mark.parametrize(
    ("away", "ready"),
    [
        ((), 6 * DAY),
        (((7 * DAY + 240, 7 * DAY + 330),), 7 * DAY + 600),
        (NIGHTS, 6 * DAY + 7 * 60),
        ((*NIGHTS, (6 * DAY + 120, 6 * DAY + 165)), 6 * DAY + 6 * 60),
        (NIGHTS, 6 * DAY),
    ],
)
def test_the_start_is_the_latest_around_breaks_and_nights(
    away: tuple[Span, ...], ready: int
) -> None:
    work = ready_by(two_doughs(), ready, *away)
    plan = best_plan(work, 2)
    assert find_faults(plan, work) == []
    assert plan.finish <= ready
    begin = min(a.start for a in plan.activities if a.hands)
    quick = latest_quick(work)
    assert quick is not None
    assert begin >= min(a.start for a in quick.activities if a.hands)
    # A quarter of an hour later it cannot be begun any more, in the same stretch or a later one.
    for minute in {begin + 16, *(end for _, end in away if begin + 15 < end < ready)}:
        assert not can_begin(work, minute), minute


def test_only_what_lies_overnight_is_mixed_the_evening_before() -> None:
    chilled = two_doughs()
    doughs = (replace(chilled.doughs[0], chill_min=600), *chilled.doughs[1:])
    work = ready_by(replace(chilled, doughs=doughs), 6 * DAY + 7 * 60, *NIGHTS)
    for plan in (latest_quick(work), best_plan(work, 2)):
        assert plan is not None
        assert find_faults(plan, work) == []
        mixed = {a.dough: a.start for a in plan.activities if a.kind == "mix"}
        last_evening, morning = NIGHTS[5]
        assert last_evening - 60 <= mixed["A"] < last_evening
        assert mixed["B"] >= morning


def test_what_cannot_be_in_time_is_planned_as_soon_as_can_be() -> None:
    work = ready_by(two_doughs(), 60)
    assert latest_quick(work) is None
    assert best_plan(work, 1).finish == best_plan(replace(work, ready_by=None), 1).finish


def begin_of(plan: Plan) -> int:
    return min(a.start for a in plan.activities if a.hands)


@settings(max_examples=so_many(40))
@given(works(), st.integers(0, 4000))
def test_a_ready_by_is_kept_by_the_quick_plan_with_every_rule(work: Work, spare: int) -> None:
    soonest = quick_plan(work)
    work = replace(work, ready_by=soonest.finish + spare)
    late = latest_quick(work)
    assert late is not None
    assert late.finish <= soonest.finish + spare
    assert find_faults(late, work) == []
    assert begin_of(late) >= begin_of(soonest)


def test_an_oven_that_is_turned_on_before_the_first_job_counts_in_the_begin() -> None:
    # Melted and scooped in a few minutes, it waits for the oven, not the oven for it.
    dough = DoughWork("A", (Make("Mix", 2),), before=(Make("Weigh", 2, kind="ready"),))
    tray = TrayWork("A1", "A", 12, 5, (Bake(12, 5, 180),), cool_min=25)
    kitchen = Kitchen(2, ovens=(Oven(2),))
    work = ready_by(Work((dough,), (tray,), kitchen), 2 * DAY + 3 * 60, (DAY, DAY + 600))
    plan = best_plan(work, 1)
    assert find_faults(plan, work) == []
    assert plan.finish == work.ready_by
    first = min(a.start for a in plan.activities if a.hands)
    assert plan.begin < first
    assert plan.bound <= plan.finish
