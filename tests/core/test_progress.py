from dataclasses import replace

import pytest

from finebatch.core.plan.bound import plain_bound
from finebatch.core.plan.explain import critical_chain, hold_ups, mark_critical
from finebatch.core.plan.prepare import bake_of
from finebatch.core.plan.progress import MoreMinutes, happened_by, order_of, with_extras
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.replan import replan
from finebatch.core.plan.schedule import place, times_of
from finebatch.core.plan.shift import shift_plan, shift_work
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import Oven
from tests.core.test_plan import drops, twice_baked
from tests.keys import key


def test_the_jobs_before_a_job_are_those_of_its_tray_and_the_mixing() -> None:
    work = drops(2)
    assert order_of(work, key("A.mix")) == []
    assert order_of(work, key("A2.load")) == [key("A.mix"), key("A2.portion")]
    assert order_of(work, key("A1.rack")) == [
        key("A.mix"),
        key("A1.portion"),
        key("A1.load"),
        key("A1.out"),
    ]
    assert order_of(work, key("A1.turn"))[-1] == key("A1.load")


def test_a_twice_baked_tray_goes_round_twice() -> None:
    before = order_of(twice_baked(1, 1, 1), key("A1.rack"))
    assert before[-4:] == [key("A1.out"), key("A1.slice"), key("A1.load2"), key("A1.out2")]


def test_minutes_more_add_up_on_their_own_bake() -> None:
    work = with_extras(
        twice_baked(2, 2, 1),
        [
            MoreMinutes(key("A1.bake"), 3),
            MoreMinutes(key("A1.bake"), 2),
            MoreMinutes(key("A2.bake2"), 4),
        ],
    )
    lengths = [[bake.length for bake in tray.bakes] for tray in work.trays]
    assert lengths == [[32, 18], [27, 22]]


def test_two_presses_within_a_minute_still_take_their_time() -> None:
    work = drops(1)
    plan = best_plan(work)
    done = {key("A.mix"): 15.0, key("A1.portion"): 49.0, key("A1.load"): 50.1, key("A1.out"): 50.2}
    happened = happened_by(work, plan, done, 51)
    assert happened.done[key("A1.load")] == 50
    assert happened.done[key("A1.out")] == 51
    assert happened.now == 51


def test_a_long_job_under_way_is_begun_and_a_short_one_is_not() -> None:
    work = drops(2)
    plan = best_plan(work)
    begun = happened_by(work, plan, {}, 5).begun
    assert begun == {key("A.mix"): 0}
    portion = next(a for a in plan.activities if a.id == key("A1.portion"))
    later = happened_by(work, plan, {key("A.mix"): 15.0}, portion.start + 2)
    assert later.begun == {key("A1.portion"): portion.start}
    waiting = happened_by(work, plan, {key("A.mix"): 15.0}, portion.start - 5)
    assert waiting.begun == {}


def test_a_job_under_way_that_takes_longer_ends_no_sooner_than_now() -> None:
    work = drops(2)
    plan = best_plan(work)
    happened = happened_by(work, plan, {}, 22)
    again = replan(work, happened, times_of(plan.activities))
    mix = next(a for a in again.activities if a.id == key("A.mix"))
    assert (mix.start, mix.end) == (0, 22)
    assert again.finish == plan.finish + 7


def test_a_turn_whose_chance_has_passed_is_left_out() -> None:
    work = drops(1)
    plan = best_plan(work)
    done = {key("A.mix"): 15.0, key("A1.portion"): 49.0, key("A1.load"): 50.0}
    again = replan(work, happened_by(work, plan, done, 61), times_of(plan.activities))
    assert not [a for a in again.activities if a.kind == "turn"]


def test_times_read_back_from_a_plan_make_the_same_plan() -> None:
    work = twice_baked(2, 2, 2)
    plan = best_plan(work)
    again = place(work, times_of(plan.activities), plan.bound)
    assert again == plan


@pytest.mark.parametrize("work", [drops(4), drops(6, 3, 2), twice_baked(3, 3, 1)])
def test_the_bound_is_below_every_plan(work: object) -> None:
    assert plain_bound(work) <= best_plan(work).finish <= quick_plan(work).finish  # type: ignore[arg-type]


def test_only_the_chain_is_drawn_heavier() -> None:
    plan = mark_critical(best_plan(drops(4)))
    marked = {a.id for a in plan.activities if a.critical}
    assert marked == {a.id for a in critical_chain(plan)}
    assert 0 < len(marked) < len(plan.activities)
    causes = [h.cause for h in hold_ups(critical_chain(plan))]
    assert causes[:3] == ["mixing", "chilling", "portioning"]
    assert causes[-1] == "cooling"


@pytest.mark.parametrize(
    ("minutes", "whole", "turn"), [(10.4, 10, 5), (10.5, 11, 5), (5.2, 5, None), (0.2, 1, None)]
)
def test_a_bake_is_whole_minutes_and_turned_at_half(
    minutes: float, whole: int, turn: int | None
) -> None:
    bake = bake_of(minutes)
    assert (bake.minutes, bake.turn_after) == (whole, turn)


def test_an_oven_rises_eight_degrees_a_minute_and_falls_five() -> None:
    oven = Oven(1)
    assert oven.heat_min(180) == 20
    assert oven.heat_min(220) == 25
    assert (oven.change_min(160, 180, 5), oven.change_min(180, 160, 5)) == (3, 4)
    assert oven.change_min(176, 180, 5) == 0


def test_times_moved_keep_their_distances() -> None:
    work = replace(drops(2), ready_by=300)
    plan = shift_plan(best_plan(drops(2)), 45)
    assert plan.begin == 45
    moved = shift_work(work, -45)
    assert moved.ready_by == 255
