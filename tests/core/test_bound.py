"""What is said to be the soonest possible is never later than any plan that is found without it."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from finebatch.core.plan import model, solver
from finebatch.core.plan.bound import past, plain_bound
from finebatch.core.plan.by_hand import by_rules
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.schedule import finish_of
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import Work
from tests.chance import so_many
from tests.core.test_plan import works


@st.composite
def with_near_settings(draw: st.DrawFn) -> Work:
    """A session whose settings lie a few degrees apart, in a chain that is gone through for
    nothing, with times away."""
    work = draw(works())
    step = draw(st.sampled_from([3, 5, 7]))
    trays = [
        replace(
            tray,
            bakes=tuple(
                replace(bake, oven_c=160 + step * draw(st.integers(0, 6))) for bake in tray.bakes
            ),
        )
        for tray in work.trays
    ]
    return replace(work, trays=tuple(trays))


@settings(max_examples=so_many(3))
@given(with_near_settings())
def test_no_plan_without_the_bound_is_sooner_than_it(work: Work) -> None:
    said = best_plan(work, 0.5).bound
    with pytest.MonkeyPatch.context() as patch:
        for module in (model, solver):
            patch.setattr(module, "plain_bound", lambda work: 0)
        free = best_plan(work, 1.5)
    assert said <= free.finish


@settings(max_examples=so_many(15))
@given(st.one_of(works(), with_near_settings()))
def test_the_plain_bound_is_below_every_quick_plan(work: Work) -> None:
    low = plain_bound(work)
    assert low <= quick_plan(work).finish
    assert all(low <= finish_of(work, times.jobs) for times in by_rules(work))


def test_minutes_that_go_around_times_away() -> None:
    assert past([], 10, 5) == 15
    assert past([(0, 12), (14, 20), (30, 40)], 10, 5) == 23
    assert past([(14, 20), (23, 30)], 10, 9) == 32
