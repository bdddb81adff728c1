import itertools
from dataclasses import replace
from itertools import pairwise
from typing import Any, Literal

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from finebatch.core.plan.bound import plain_bound
from finebatch.core.plan.by_hand import by_rules, plain_method, sensible_method
from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.explain import critical_chain, hold_ups
from finebatch.core.plan.heating import EMPTY_MIN
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.progress import MoreMinutes, happened_by, order_of, with_extras
from finebatch.core.plan.quick import quick_plan, quick_times, strong_hand
from finebatch.core.plan.replan import replan
from finebatch.core.plan.schedule import finish_of, place, times_of
from finebatch.core.plan.shift import shift_plan, shift_work
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import (
    COOL_JOBS,
    HAND_JOBS,
    Bake,
    DoughWork,
    Kitchen,
    Make,
    Oven,
    PartWork,
    Pin,
    TrayWork,
    Work,
    Worker,
)
from finebatch.core.refusal import Refusal
from finebatch.core.session.words import Scene, length, line, say
from tests.chance import so_many
from tests.keys import key

few = settings(max_examples=so_many(6), deadline=None, suppress_health_check=[HealthCheck.too_slow])


def drops(trays: int, sheets: int = 2, shelves: int = 1, bake: int = 12) -> Work:
    each = [TrayWork(f"A{n + 1}", "A", 12, 4, (Bake(bake, 6),), 3, 20) for n in range(trays)]
    return Work((DoughWork("A", chill_min=30),), tuple(each), Kitchen(sheets, (Oven(shelves),)))


def twice_baked(trays: int, sheets: int, shelves: int) -> Work:
    bakes = (Bake(27, 13), Bake(18, 9))
    each = [TrayWork(f"A{n + 1}", "A", 2, 6, bakes, 10, 25, slice_min=8) for n in range(trays)]
    dough = DoughWork("A", (Make("Mix", 16),))
    return Work((dough,), tuple(each), Kitchen(sheets, (Oven(shelves),)))


def two_doughs(before_c: int = 180, after_c: int = 160, **kitchen: Any) -> Work:
    """Drops at once and a chilled one at another heat, two trays each."""
    doughs = (DoughWork("A"), DoughWork("B", chill_min=45))
    trays = [
        TrayWork(f"{letter}{n + 1}", letter, 12, 5, (Bake(11, 5, oven_c),), 3, 20)
        for letter, oven_c in (("A", before_c), ("B", after_c))
        for n in range(2)
    ]
    return Work(doughs, tuple(trays), Kitchen(**{"sheets": 3, **kitchen}))


minutes = st.integers(1, 12)


@st.composite
def dough_works(draw: st.DrawFn, letter: str) -> DoughWork:
    cold = draw(st.integers(0, 3)) == 0
    kind: Literal["mix", "take"] = "take" if cold else "mix"
    makes = [
        Make("Mix", draw(st.integers(2, 15)), draw(st.sampled_from([0, 0, 10])), kind)
        for _ in range(draw(st.integers(0, 2)))
    ]
    mixed = bool(makes) and not cold
    chilled = draw(st.sampled_from([0, 0, 30, 90])) if mixed else 0
    before: tuple[Make, ...] = ()
    if mixed and draw(st.booleans()):
        before = (Make("Toast", draw(minutes), draw(st.sampled_from([0, 15])), "ready"),)
        makes.append(Make("Wrap", draw(minutes), 0, "form"))
    fetched = chilled and draw(st.booleans())
    wanted = draw(st.sampled_from(["portion", "finish"]))
    parts = [PartWork("icing", draw(minutes), wanted, draw(st.sampled_from([None, 60])))]
    return DoughWork(
        letter,
        tuple(makes),
        chill_min=chilled,
        chill_most=chilled + 90 if fetched and draw(st.booleans()) else None,
        first_within=draw(st.sampled_from([None, 30])) if makes and cold else None,
        temper_min=draw(st.sampled_from([0, 10])) if makes else 0,
        bake_within=draw(st.sampled_from([None, None, 400])) if makes else None,
        freeze_min=draw(st.sampled_from([0, 4])),
        parts=tuple(parts) if draw(st.booleans()) else (),
        before=before,
        fetch_min=1 if fetched else 0,
    )


@st.composite
def tray_works(draw: st.DrawFn, letter: str) -> tuple[TrayWork, ...]:
    count, first = draw(st.integers(1, 3)), draw(st.integers(6, 25))
    oven_c = draw(st.sampled_from([150, 175, 180, 200]))
    bakes = [Bake(first, draw(st.sampled_from([None, first // 2])), oven_c)]
    twice = draw(st.booleans())
    if twice:
        bakes.append(Bake(16, 8, oven_c - draw(st.sampled_from([0, 25]))))
    tray = TrayWork(
        "",
        letter,
        draw(st.integers(1, 24)),
        draw(minutes),
        tuple(bakes),
        draw(st.integers(0, 12)),
        draw(st.integers(5, 40)),
        slice_min=draw(minutes) if twice else 0,
        shape_min=draw(st.sampled_from([0, 0, 2])),
        shape_within=draw(st.integers(0, 2)),
        finish_min=draw(st.sampled_from([0, 3])),
        set_min=draw(st.sampled_from([0, 20])),
        stand_min=draw(st.sampled_from([0, 0, 15])),
        cut_rest_min=draw(st.sampled_from([None, 15])) if twice else None,
    )
    scraps = draw(st.booleans()) and count > 1
    return tuple(
        replace(tray, name=f"{letter}{n + 1}", scraps=scraps and n == count - 1)
        for n in range(count)
    )


@st.composite
def works(draw: st.DrawFn) -> Work:
    letters = "ABC"[: draw(st.integers(1, 3))]
    helper = draw(st.sampled_from([None, HAND_JOBS, COOL_JOBS]))
    away = draw(st.sampled_from([(), ((0, 20),), ((40, 90),), ((30, 60), (200, 700))]))
    workers = [Worker("you", HAND_JOBS, away)]
    if helper is not None:
        workers.append(Worker("Kim", helper))
    ovens = [Oven(draw(st.integers(1, 3)))]
    if draw(st.integers(0, 3)) == 0:
        ovens.append(Oven(1, rise_c_min=12))
    kitchen = Kitchen(
        draw(st.integers(1, 4)),
        tuple(ovens),
        tuple(workers),
        sheet_ready_min=draw(st.integers(0, 12)),
        raw_wait_min=draw(st.integers(20, 60)),
        slides=draw(st.booleans()),
        racks=draw(st.integers(2, 12)),
        fridge=draw(st.integers(1, 3)),
        mixers=draw(st.integers(1, 2)),
        bowls=draw(st.integers(1, 3)),
        other_sheets=(draw(st.integers(1, 2)),),
        interrupts=draw(st.booleans()),
        wash_min=draw(st.sampled_from([0, 4])),
        clear_min=draw(st.sampled_from([0, 10])),
        swaps=draw(st.booleans()),
    )
    doughs = tuple(draw(dough_works(letter)) for letter in letters)
    trays = tuple(
        replace(tray, pool=draw(st.integers(0, 1)), sharp=draw(st.booleans()))
        for letter in letters
        for tray in draw(tray_works(letter))
    )
    return Work(doughs, trays, kitchen)


@few
@given(works())
def test_every_plan_keeps_every_rule(work: Work) -> None:
    plan = best_plan(work, 1)
    assert find_faults(plan, work) == []
    assert find_faults(*from_its_begin(plan, work)) == []
    assert plain_bound(work) <= plan.bound <= plan.finish


def from_its_begin(plan: Plan, work: Work) -> tuple[Plan, Work]:
    """The plan as a session keeps it: its minute 0 where it begins."""
    return shift_plan(plan, -plan.begin), shift_work(work, -plan.begin)


@few
@given(works())
def test_the_quick_plan_keeps_every_rule(work: Work) -> None:
    plan = quick_plan(work)
    assert find_faults(plan, work) == []
    assert find_faults(*from_its_begin(plan, work)) == []


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


def test_one_oven_takes_its_time_from_one_heat_to_another() -> None:
    same, other = best_plan(two_doughs(180, 180)), best_plan(two_doughs(180, 150))
    heats = [a for a in other.activities if a.kind == "heat"]
    assert [a.dial_c for a in heats] == [180, 150]
    assert heats[1].end - heats[1].start == 6
    assert other.finish >= same.finish
    assert best_plan(two_doughs(180, 176)).finish == same.finish


def test_a_second_oven_and_a_helper_are_never_slower() -> None:
    alone = best_plan(two_doughs()).finish
    assert best_plan(two_doughs(ovens=(Oven(1), Oven(1)))).finish <= alone
    helped = two_doughs(workers=(Worker(), Worker("Kim", COOL_JOBS)))
    assert best_plan(helped).finish < alone
    hot = [a for a in best_plan(helped).activities if a.kind in ("load", "out", "turn")]
    assert {a.who for a in hot} == {0}


def test_nobody_works_while_away_and_all_is_ready_by_the_time() -> None:
    work = replace(two_doughs(workers=(Worker(away=((60, 120),)),)), ready_by=400)
    plan = best_plan(work)
    assert find_faults(plan, work) == []
    assert plan.finish <= 400
    assert plan.begin > 120


def test_a_ready_by_with_nobody_away_is_met_to_the_minute() -> None:
    work = replace(two_doughs(), ready_by=500)
    assert best_plan(work).finish == 500
    late = replace(two_doughs(), ready_by=30)
    assert best_plan(late).finish == best_plan(two_doughs()).finish


def test_a_pinned_job_stays_and_the_rest_is_planned_around_it() -> None:
    work = two_doughs()
    pinned = replace(work, pins=(Pin(key("A1.portion"), 90),))
    plan = best_plan(pinned)
    assert find_faults(plan, pinned) == []
    assert next(a.start for a in plan.activities if a.id == key("A1.portion")) == 90
    impossible = replace(work, pins=(Pin(key("A1.portion"), 90), Pin(key("A1.load"), 80)))
    with pytest.raises(Refusal, match="pinned"):
        best_plan(impossible)


def test_a_tray_pinned_to_a_shelf_is_baked_there() -> None:
    work = two_doughs(ovens=(Oven(2),))
    trays = tuple(replace(t, shelf=2) if t.name == "A1" else t for t in work.trays)
    plan = best_plan(replace(work, trays=trays))
    assert find_faults(plan, replace(work, trays=trays)) == []
    assert next(a.shelf for a in plan.activities if a.id == key("A1.bake")) == 2


def test_the_planner_beats_both_methods_by_hand() -> None:
    work = two_doughs(ovens=(Oven(2),))
    best = best_plan(work).finish
    assert best <= sensible_method(work) <= plain_method(work)


@pytest.mark.parametrize("ovens", [(Oven(1),), (Oven(2),), (Oven(2), Oven(1))])
def test_the_quick_plan_is_never_worse_than_a_strong_hand(ovens: tuple[Oven, ...]) -> None:
    work = two_doughs(ovens=ovens)
    strong = strong_hand(work)
    assert strong is not None
    assert quick_plan(work).finish <= strong
    ends = []
    for times in by_rules(work):
        assert set(times.jobs) == set(quick_times(work).jobs)
        if not find_faults(place(work, times, 0), work):
            ends.append(finish_of(work, times.jobs))
    assert strong == min(ends)


def test_better_plans_are_told_as_they_come_and_the_search_can_be_stopped() -> None:
    told: list[Plan] = []

    def tell(plan: Plan) -> bool:
        told.append(plan)
        return len(told) < 2

    work = two_doughs(ovens=(Oven(2),))
    best = best_plan(work, 5, tell)
    assert 1 <= len(told) <= 2
    assert all(find_faults(plan, work) == [] for plan in told)
    assert best.finish <= told[-1].finish


def test_what_holds_it_up_is_one_chain_from_the_start_to_the_finish() -> None:
    plan = best_plan(drops(4))
    chain = critical_chain(plan)
    assert chain[0].start == 0
    assert chain[-1].end == plan.finish
    assert all(a.end <= b.start for a, b in itertools.pairwise(chain))
    assert sum(h.minutes for h in hold_ups(chain)) == plan.finish


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"sheets": 0}, "sheets"),
        ({"ovens": (Oven(0),)}, "shelves"),
        ({"ovens": ()}, "shelves"),
        ({"workers": (Worker("Kim", COOL_JOBS),)}, "workers"),
    ],
)
def test_a_kitchen_with_nothing_in_it_is_refused(change: dict[str, Any], field: str) -> None:
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
    plan, done, clock, given_extras = best_plan(work, 0.5), {}, 0.0, []
    for step in range(200):
        pending = [a for a in plan.activities if a.hands and a.id not in done]
        if not pending:
            return
        job = next(a for a in pending if all(k in done for k in order_of(work, a.id)))
        clock = max(clock, job.end) + delays[step % len(delays)]
        done[job.id] = clock
        extra = extras[step % len(extras)]
        if job.kind == "load" and extra:
            given_extras.append(MoreMinutes(job.id.to("bake"), extra))
        now_work = with_extras(work, given_extras)
        happened = happened_by(now_work, plan, done, round(clock + 0.5))
        before = plan
        plan = replan(now_work, happened, times_of(before.activities), 0.05)
        for a in plan.activities:
            if a.hands and a.id not in done and a.id not in happened.begun:
                assert a.start >= happened.now, (a, happened)
        ahead = [a for a in plan.activities if a.hands and a.end > happened.now]
        busy = [
            (a.who, low, high)
            for a in ahead
            for low, high in pairwise((a.start, *(a.pause or (a.end, a.end)), a.end))
            if low < high and (low, high) != a.pause
        ]
        assert all(
            one[2] <= other[1] or other[2] <= one[1]
            for one, other in itertools.combinations(busy, 2)
            if one[0] == other[0]
        )
        for done_job, minute in happened.done.items():
            kept = next((a for a in plan.activities if a.id == done_job), None)
            assert kept is None or kept.end == minute
    raise AssertionError("the session never ends")


@settings(few, max_examples=so_many(3))
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
    mix = {key("A.mix"): 15.0, key("A1.portion"): 49.0, key("A1.load"): 50.0}
    again = replan(work, happened_by(work, plan, mix, 50), times_of(plan.activities))
    assert again.finish == plan.finish
    assert find_faults(again, work) == []


def test_three_more_minutes_move_the_rest_by_no_more() -> None:
    work = drops(4)
    plan = best_plan(work)
    done = {key("A.mix"): 15.0, key("A1.portion"): 49.0, key("A1.load"): 50.0}
    longer = with_extras(work, [MoreMinutes(key("A1.bake"), 3)])
    again = replan(longer, happened_by(longer, plan, done, 52), times_of(plan.activities))
    out = next(a for a in again.activities if a.id == key("A1.out"))
    assert out.start == 50 + 12 + 3
    assert plan.finish < again.finish <= plan.finish + 3


def test_an_oven_that_would_stand_empty_for_long_is_turned_off() -> None:
    work = two_doughs()
    first, second = work.doughs
    late = replace(work, doughs=(first, replace(second, chill_min=240)))
    plan = quick_plan(late)
    assert find_faults(plan, late) == []
    outs = [a for a in plan.activities if a.kind == "out"]
    off = [a for a in outs if a.off_min]
    assert len(off) == 1
    # It is off from the last tray of the first dough until it is heated anew in good time.
    (last,) = off
    heat = next(a for a in plan.activities if a.kind == "heat" and a.start >= last.end)
    assert last.off_min == heat.start - last.end >= EMPTY_MIN
    assert not any(last.end < a.start < heat.start for a in plan.activities if a.kind == "load")
    said = say(last, Scene())
    assert said.title.endswith("out, then turn the oven off")
    assert line(last).endswith("out, then turn the oven off")
    assert f"Nothing goes into the oven for {length(last.off_min)}." in said.cue
    assert all("oven off" not in say(a, Scene()).title + line(a) for a in outs if not a.off_min)
    heats = [a for a in plan.activities if a.kind == "heat"]
    assert say(heat, Scene(heats=heats)).title == "Turn the oven on"


def test_the_oven_is_off_while_nobody_is_there() -> None:
    work = two_doughs()
    away = replace(work.kitchen.workers[0], away=((90, 400),))
    late = replace(work, kitchen=replace(work.kitchen, workers=(away,)))
    plan = quick_plan(late)
    assert find_faults(plan, late) == []
    outs = [a for a in plan.activities if a.kind == "out"]
    before = [a for a in outs if a.end <= 90]
    assert before
    assert before[-1].off_min >= 300
    assert not any(a.off_min for a in outs if a is not before[-1] and a.end <= 90)
