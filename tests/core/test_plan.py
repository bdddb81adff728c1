import itertools
from dataclasses import replace

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.explain import critical_chain, hold_ups
from finebatch.core.plan.progress import Extra, happened_by, order_of, with_extras
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.schedule import Plan, times_of
from finebatch.core.plan.solver import best_plan, replan
from finebatch.core.plan.work import Bake, DoughWork, Kitchen, TrayWork, Work
from finebatch.core.refusal import Refusal

few = settings(max_examples=10, deadline=None, suppress_health_check=[HealthCheck.too_slow])


def drops(trays: int, sheets: int = 2, shelves: int = 1, bake: int = 12) -> Work:
    each = [TrayWork(f"A{n + 1}", 12, 4, (Bake(bake, 6),), 3, 20) for n in range(trays)]
    return Work(DoughWork(15, 30), tuple(each), Kitchen(sheets, shelves, 20))


def twice_baked(trays: int, sheets: int, shelves: int) -> Work:
    bakes = (Bake(27, 13), Bake(18, 9))
    each = [TrayWork(f"A{n + 1}", 2, 6, bakes, 10, 25, slice_min=8) for n in range(trays)]
    return Work(DoughWork(16, 0), tuple(each), Kitchen(sheets, shelves, 20))


@st.composite
def works(draw: st.DrawFn) -> Work:
    twice = draw(st.booleans())
    count = draw(st.integers(1, 5))
    first = draw(st.integers(6, 30))
    bakes = [Bake(first, draw(st.sampled_from([None, first // 2])))]
    if twice:
        bakes.append(Bake(16, 8))
    trays = tuple(
        TrayWork(
            f"A{n + 1}",
            draw(st.integers(1, 24)),
            draw(st.integers(1, 12)),
            tuple(bakes),
            draw(st.integers(0, 12)),
            draw(st.integers(5, 40)),
            slice_min=draw(st.integers(2, 12)) if twice else 0,
        )
        for n in range(count)
    )
    kitchen = Kitchen(
        draw(st.integers(1, 4)),
        draw(st.integers(1, 3)),
        draw(st.integers(0, 25)),
        sheet_ready_min=draw(st.integers(0, 12)),
        raw_wait_min=draw(st.integers(5, 60)),
    )
    return Work(DoughWork(draw(st.integers(5, 20)), draw(st.integers(0, 90))), trays, kitchen)


@few
@given(works())
def test_every_plan_keeps_every_rule(work: Work) -> None:
    plan = best_plan(work, 0.5)
    assert find_faults(plan, work) == []
    assert plan.bound <= plan.finish <= quick_plan(work).finish or find_faults(
        quick_plan(work), work
    )


@pytest.mark.parametrize(("sheets", "shelves"), [(2, 1), (3, 1), (3, 2)])
@pytest.mark.parametrize("trays", [4, 6])
def test_six_trays_are_proven_best(trays: int, sheets: int, shelves: int) -> None:
    work = drops(trays, sheets, shelves)
    plan = best_plan(work, 2)
    assert plan.proven
    assert plan.finish == plan.bound


def test_the_best_plan_beats_one_tray_after_the_other() -> None:
    work = twice_baked(3, 3, 1)
    assert best_plan(work).finish < quick_plan(work).finish


def test_the_same_work_gives_the_same_plan() -> None:
    assert best_plan(drops(5)) == best_plan(drops(5))


def test_another_sheet_or_shelf_is_never_slower() -> None:
    base = best_plan(drops(6, 2, 1)).finish
    assert best_plan(drops(6, 3, 1)).finish <= base
    assert best_plan(drops(6, 3, 2)).finish <= best_plan(drops(6, 3, 1)).finish


def test_what_holds_it_up_is_one_chain_from_the_start_to_the_finish() -> None:
    plan = best_plan(drops(4))
    chain = critical_chain(plan)
    assert chain[0].start == 0
    assert chain[-1].end == plan.finish
    assert all(a.end == b.start for a, b in itertools.pairwise(chain))
    assert sum(h.minutes for h in hold_ups(chain)) == plan.finish


def spoil(plan: Plan, key: str, by: int = 0, **changes: object) -> Plan:
    moved = tuple(
        replace(a, **{"start": a.start + by, "end": a.end + by, **changes}) if a.id == key else a
        for a in plan.activities
    )
    return replace(plan, activities=moved)


@pytest.mark.parametrize(
    ("key", "by", "word"),
    [
        ("A2.portion", -40, "portioned before"),
        ("A1.bake", 1, "not loaded or taken out"),
        ("A1.turn", 30, "turned outside"),
        ("A1.rack", -3, "rests"),
        ("A1.rack", 60, "rests"),
        ("A1.load", 500, "waits"),
        ("A1.cool", -10, "cools before"),
        ("dough.mix", -5, "runs from -5"),
    ],
)
def test_the_checker_finds_a_job_out_of_place(key: str, by: int, word: str) -> None:
    work = drops(2)
    faults = find_faults(spoil(best_plan(work), key, by), work)
    assert any(word in fault for fault in faults), faults


def test_the_checker_finds_shared_places() -> None:
    work = drops(4, 2, 2)
    plan = best_plan(work)
    overlap = [a.id for a in plan.activities if a.kind == "bake" and a.shelf == 2]
    assert any("shelf 1" in f for f in find_faults(spoil(plan, overlap[0], shelf=1), work))
    assert any("no sheet 3" in f for f in find_faults(spoil(plan, "A1.portion", sheet=3), work))
    early = next(a for a in plan.activities if a.id == "A1.portion").start
    late = next(a for a in plan.activities if a.id == "A2.portion").start
    both = find_faults(spoil(plan, "A2.portion", early - late), work)
    assert any("two jobs at once" in f for f in both)


@pytest.mark.parametrize(
    ("change", "field"),
    [({"sheets": 0}, "sheets"), ({"shelves": 0}, "shelves")],
)
def test_a_kitchen_with_nothing_in_it_is_refused(change: dict[str, int], field: str) -> None:
    work = drops(1)
    with pytest.raises(Refusal) as refused:
        replace(work, kitchen=replace(work.kitchen, **change))
    assert refused.value.faults[0].field == field


def test_no_trays_and_too_many_are_refused() -> None:
    for trays in ((), drops(1).trays * 61):
        with pytest.raises(Refusal):
            replace(drops(1), trays=trays)


def play(work: Work, delays: list[float], extras: list[int]) -> None:
    """Bake a whole session, each job done late by some of `delays`, and plan again each time."""
    plan, done, clock, given_extras = best_plan(work, 0.3), {}, 0.0, []
    for step in range(200):
        pending = [a for a in plan.activities if a.hands and a.id not in done]
        if not pending:
            return
        job = next(
            a for a in pending
            if a.kind == "turn" or all(k in done for k in order_of(work, a.id))
        )  # fmt: skip
        clock = max(clock, job.end) + delays[step % len(delays)]
        done[job.id] = clock
        extra = extras[step % len(extras)]
        if job.kind == "load" and extra:
            given_extras.append(Extra(job.id.replace("load", "bake"), extra))
        now_work = with_extras(work, given_extras)
        happened = happened_by(now_work, plan, done, round(clock + 0.5))
        before = plan
        plan = replan(now_work, happened, times_of(before, work))
        for a in plan.activities:
            if a.hands and a.id not in done and a.id not in happened.begun:
                assert a.start >= happened.now, (a, happened)
        ahead = [a for a in plan.activities if a.hands and a.end > happened.now]
        assert all(
            a.end <= b.start or b.end <= a.start
            for n, a in enumerate(ahead)
            for b in ahead[n + 1 :]
        )
        for key, minute in happened.done.items():
            kept = next((a for a in plan.activities if a.id == key), None)
            assert kept is None or kept.end == minute
    raise AssertionError("the session never ends")


@few
@given(
    works(),
    st.lists(st.floats(-0.4, 9), min_size=1, max_size=6),
    st.lists(st.sampled_from([0, 0, 3, 5]), min_size=1, max_size=4),
)
def test_a_session_can_be_baked_to_its_end_whatever_is_late(
    work: Work, delays: list[float], extras: list[int]
) -> None:
    play(work, delays, extras)


def test_planning_again_changes_nothing_when_all_goes_by_plan() -> None:
    work = drops(4)
    plan = best_plan(work)
    mix = {"dough.mix": 15.0, "A1.portion": 49.0, "A1.load": 50.0}
    again = replan(work, happened_by(work, plan, mix, 50), times_of(plan, work))
    assert again.finish == plan.finish
    assert find_faults(again, work) == []


def test_three_more_minutes_move_the_rest_by_no_more() -> None:
    work = drops(4)
    plan = best_plan(work)
    done = {"dough.mix": 15.0, "A1.portion": 49.0, "A1.load": 50.0}
    longer = with_extras(work, [Extra("A1.bake", 3)])
    again = replan(longer, happened_by(longer, plan, done, 52), times_of(plan, work))
    out = next(a for a in again.activities if a.id == "A1.out")
    assert out.start == 50 + 12 + 3
    assert plan.finish < again.finish <= plan.finish + 3
