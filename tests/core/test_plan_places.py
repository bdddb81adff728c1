"""Sheets, bowls, shelves, the oven's door, and what hands may be called away from."""

from dataclasses import replace

import pytest

from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.explain import door_openings, heat_changes
from finebatch.core.plan.helps import Idea, changed, try_idea
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.placed import Placed, Plan
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.schedule import place, times_of
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import (
    COOL_JOBS,
    Bake,
    DoughWork,
    Kitchen,
    Make,
    Oven,
    TrayWork,
    Work,
    Worker,
)
from finebatch.core.refusal import Refusal
from tests.keys import key


def trays(letter: str, count: int, portion: int = 5, bake: int = 12) -> list[TrayWork]:
    one = TrayWork("", letter, 12, portion, (Bake(bake, bake // 2),), 3, 20)
    return [replace(one, name=f"{letter}{n + 1}") for n in range(count)]


def work(*doughs: tuple[DoughWork, list[TrayWork]], kitchen: Kitchen) -> Work:
    return Work(
        tuple(dough for dough, _ in doughs),
        tuple(tray for _, own in doughs for tray in own),
        kitchen,
    )


def job(plan: Plan, wanted: JobKey) -> Placed:
    return next(a for a in plan.activities if a.id == wanted)


def spans(plan: Plan, kind: str) -> list[tuple[int, int]]:
    return sorted((a.start, a.end) for a in plan.activities if a.kind == kind)


def slow_portions(*, interrupts: bool) -> Work:
    """Portioning takes far longer than a bake: hands are called to the oven in between."""
    kitchen = Kitchen(4, interrupts=interrupts)
    return work((DoughWork("A"), trays("A", 4, portion=30, bake=10)), kitchen=kitchen)


def test_portioning_is_broken_off_for_the_oven_where_the_baker_allows_it() -> None:
    whole, broken = slow_portions(interrupts=False), slow_portions(interrupts=True)
    before, after = best_plan(whole, 2), best_plan(broken, 2)
    assert find_faults(after, broken) == []
    assert after.finish < before.finish
    paused = [a for a in after.activities if a.pause]
    assert paused
    for a in paused:
        low, high = a.pause or (0, 0)
        assert a.end - a.start == 30 + high - low
    assert all(a.pause is None for a in before.activities)


def test_the_checker_sees_portioning_broken_off_where_it_may_not_be() -> None:
    broken = slow_portions(interrupts=True)
    plan = best_plan(broken, 2)
    faults = find_faults(plan, slow_portions(interrupts=False))
    assert any("may not be broken off" in fault for fault in faults)


def test_a_broken_off_plan_is_read_back_as_it_was() -> None:
    broken = slow_portions(interrupts=True)
    plan = best_plan(broken, 2)
    again = place(broken, times_of(plan.activities), plan.bound)
    assert again.activities == plan.activities


def test_two_trays_that_go_in_together_swap_shelves_at_half_time() -> None:
    kitchen = Kitchen(4, (Oven(2),), swaps=True)
    asked = work((DoughWork("A"), trays("A", 4, portion=1)), kitchen=kitchen)
    plan = best_plan(asked, 2)
    assert find_faults(plan, asked) == []
    turns = [job(plan, key(f"A{n}.turn")) for n in (1, 2)]
    assert {turn.partner for turn in turns} == {"A1", "A2"}
    for turn in turns:
        tray = turn.tray or ""
        assert (
            job(plan, key(f"{tray}.out")).shelf
            == turn.to_shelf
            != job(plan, key(f"{tray}.load")).shelf
        )


def test_trays_stay_on_their_shelves_where_they_are_only_turned() -> None:
    kitchen = Kitchen(4, (Oven(2),))
    asked = work((DoughWork("A"), trays("A", 4)), kitchen=kitchen)
    plan = best_plan(asked, 2)
    for n in range(1, 5):
        shelves = {job(plan, key(f"A{n}.{kind}")).shelf for kind in ("load", "turn", "out")}
        assert len(shelves) == 1
    assert all(a.to_shelf is None for a in plan.activities)


def test_a_pinned_shelf_is_kept_though_the_kitchen_swaps() -> None:
    kitchen = Kitchen(4, (Oven(2),), swaps=True)
    own = trays("A", 2)
    own[0] = replace(own[0], shelf=2)
    asked = work((DoughWork("A"), own), kitchen=kitchen)
    plan = best_plan(asked, 2)
    assert find_faults(plan, asked) == []
    assert {job(plan, key(f"A1.{kind}")).shelf for kind in ("load", "turn", "out")} == {2}


def test_each_kind_of_sheet_is_counted_for_itself() -> None:
    """Two sheets and one pan: the pan's trays follow each other, the sheets' need not wait."""
    pans = [replace(tray, pool=1) for tray in trays("B", 2)]
    asked = work(
        (DoughWork("A"), trays("A", 2)),
        (DoughWork("B"), pans),
        kitchen=Kitchen(2, (Oven(2),), other_sheets=(1,)),
    )
    plan = best_plan(asked, 2)
    assert find_faults(plan, asked) == []
    assert {job(plan, JobKey(f"B{n}", "portion")).sheet for n in (1, 2)} == {3}
    assert {job(plan, JobKey(f"A{n}", "portion")).sheet for n in (1, 2)} == {1, 2}
    first, second = sorted(
        a.start for a in plan.activities if a.id in (key("B1.portion"), key("B2.portion"))
    )
    cleaned = min(a.end for a in plan.activities if a.kind == "sheet" and a.dough == "B")
    assert second >= cleaned > first


def test_a_tray_without_a_pan_is_refused() -> None:
    pan = [replace(trays("A", 1)[0], pool=1)]
    with pytest.raises(Refusal, match="no sheet or pan"):
        work((DoughWork("A"), pan), kitchen=Kitchen(2))


def test_doughs_wait_for_a_bowl() -> None:
    three = [(DoughWork(letter), trays(letter, 1)) for letter in "ABC"]
    many, one = (work(*three, kitchen=Kitchen(3, bowls=bowls)) for bowls in (3, 1))
    plan = best_plan(one, 2)
    assert find_faults(plan, one) == []
    assert find_faults(quick_plan(one), one) == []
    portioned = [job(plan, key(f"{letter}1.portion")).end for letter in "ABC"]
    mixed = [job(plan, key(f"{letter}.mix")).start for letter in "ABC"]
    for later in range(3):
        ended = [end for end in portioned if end <= mixed[later]]
        assert len(ended) == sorted(mixed).index(mixed[later])
    assert plan.finish >= best_plan(many, 2).finish
    assert any("bowls" in fault for fault in find_faults(best_plan(many, 2), one))


def test_a_dough_that_would_be_warm_for_too_long_waits_in_the_cold() -> None:
    """Only the baker mixes and portions, and is away for four hours in between."""
    hands = (Worker(away=((20, 260),)),)
    asked = work((DoughWork("A"), trays("A", 1)), kitchen=Kitchen(1, workers=hands))
    asked = replace(asked, pins=())
    plan = place(asked, times_of(best_plan(asked, 1).activities), 0)
    mixed, first = job(plan, key("A.mix")), job(plan, key("A1.portion"))
    if first.start - mixed.end > 120:
        cold = job(plan, key("A.chill"))
        assert (cold.start, cold.end, cold.place) == (mixed.end, first.start, "cold")
    early = replace(asked, doughs=(DoughWork("A", (Make("Mix", 15),)),))
    jobs = dict(times_of(plan.activities).jobs)
    jobs[key("A.mix")] = replace(jobs[key("A.mix")], start=0, end=15)
    waited = place(early, replace(times_of(plan.activities), jobs=jobs), 0)
    cold = job(waited, key("A.chill"))
    assert (cold.start, cold.end) == (15, job(waited, key("A1.portion")).start)
    assert find_faults(waited, early) == []
    warm = replace(waited, activities=tuple(a for a in waited.activities if a.kind != "chill"))
    assert any("is warm for" in fault for fault in find_faults(warm, early))


def test_the_door_is_opened_once_for_two_trays_side_by_side() -> None:
    kitchen = Kitchen(4, (Oven(2),))
    plan = best_plan(work((DoughWork("A"), trays("A", 2, portion=1)), kitchen=kitchen), 2)
    # Both in, both turned, both out: three openings where trays apart take six.
    assert door_openings(plan) == 3
    assert heat_changes(plan) == 0


def test_a_child_takes_no_knife_even_when_portioning_is_all_there_is() -> None:
    child = Worker("Kim", COOL_JOBS)
    sharp = [replace(tray, sharp=True) for tray in trays("A", 2, portion=20)]
    asked = work((DoughWork("A"), sharp), kitchen=Kitchen(3, workers=(Worker(), child)))
    plan = best_plan(asked, 2)
    assert {job(plan, JobKey(f"A{n}", "portion")).who for n in (1, 2)} == {0}


def test_an_oven_says_what_its_own_dial_is_set_to() -> None:
    oven = Oven(1, fan=True, offset_c=7)
    asked = work((DoughWork("A"), trays("A", 1)), kitchen=Kitchen(1, (oven,)))
    heat = next(a for a in best_plan(asked, 1).activities if a.kind == "heat")
    # 180 °C still is 160 °C with the fan; this one runs 7 °C hot.
    assert heat.dial_c == 153


def test_a_second_shelf_is_tried_with_the_minutes_that_two_trays_take() -> None:
    asked = work((DoughWork("A"), trays("A", 4, bake=20)), kitchen=Kitchen(4))
    tried = changed(asked, Idea("shelf"))
    assert [oven.shelves for oven in tried.kitchen.ovens] == [2]
    assert {(t.bakes[0].minutes, t.bakes[0].turn_after) for t in tried.trays} == {(22, 11)}
    third = changed(tried, Idea("shelf"))
    assert third.trays == tried.trays
    saved = try_idea(asked, Idea("shelf"), best_plan(asked, 1), 1).saves_min
    assert saved is not None
    assert saved > 0


def away(*spans: tuple[int, int]) -> Kitchen:
    return Kitchen(3, workers=(Worker(away=spans),))


def test_an_oven_is_off_in_a_long_break_and_heated_anew_after_it() -> None:
    night = work((DoughWork("A"), trays("A", 6)), kitchen=away((70, 500)))
    for plan in (best_plan(night, 1), quick_plan(night)):
        assert find_faults(plan, night) == []
        loads = [end for _, end in spans(plan, "load")]
        assert min(loads) < 70
        assert min(load for load in loads if load > 500) == 500 + Oven(1).heat_min(180)
        assert [start for start, _ in spans(plan, "heat") if start >= 70] == [500]
        assert heat_changes(plan) == 0


def test_a_tray_into_an_oven_that_was_off_or_left_alone_in_it_is_found_out() -> None:
    night = work((DoughWork("A"), trays("A", 6)), kitchen=away((70, 500)))
    plan = best_plan(night, 1)
    shorter = replace(night, kitchen=away((70, 510)))
    assert any("was off until 510" in fault for fault in find_faults(plan, shorter))
    baked = max(end for _, end in spans(plan, "load") if end < 70)
    longer = replace(night, kitchen=away((baked + 1, 500)))
    assert any("nobody there" in fault for fault in find_faults(plan, longer))


def test_before_a_short_break_the_oven_is_turned_on_and_not_in_it() -> None:
    short = work((DoughWork("A"), trays("A", 2)), kitchen=away((15, 40)))
    plan = best_plan(short, 1)
    assert find_faults(plan, short) == []
    assert not any(15 < start < 40 for start, _ in spans(plan, "heat"))
    there = replace(short.kitchen, workers=(*short.kitchen.workers, Worker("Kim", COOL_JOBS)))
    assert there.nobody == ((15, 40),)
    assert replace(there, workers=(*there.workers, Worker("Jo"))).nobody == ()


def test_breaks_that_touch_or_overlap_are_one() -> None:
    assert away((100, 115), (110, 130), (200, 220)).nobody == ((100, 130), (200, 220))
    assert away((100, 115), (110, 130), (200, 220)).unattended == ((100, 130),)
    assert away((0, 5), (50, 60)).unattended == ((0, 5),)
