"""The checker finds every rule that a plan breaks: a check that finds nothing proves nothing."""

from dataclasses import replace
from functools import cache
from typing import Any

import pytest

from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.placed import Placed, Plan
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import (
    COOL_JOBS,
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


def rich() -> Work:
    """A session with everything in it: drops from scraps and iced, logs baked twice, wafers shaped
    hot, a disc out of the cold; two shelves, two settings."""
    icing, filling = PartWork("icing", 4, "finish"), PartWork("filling", 5, "portion")
    doughs = (
        DoughWork(
            "A",
            (Make("Melt", 6, 5), Make("Fold", 4)),
            chill_min=30,
            chill_most=300,
            parts=(icing, filling),
        ),
        DoughWork("B", (Make("Mix", 10),)),
        DoughWork("C", (Make("Whisk", 8),), bake_within=60),
        DoughWork(
            "D",
            (Make("Take it out of the fridge", 1, kind="take"),),
            temper_min=20,
            first_within=30,
        ),
    )
    drop = TrayWork("A1", "A", 12, 5, (Bake(12, 6, 180),), 3, 20, finish_min=3, set_min=10)
    logs = TrayWork("B1", "B", 2, 6, (Bake(26, 13, 170), Bake(16, 8, 150)), 10, 25, slice_min=8)
    wafer = TrayWork("C1", "C", 6, 4, (Bake(7, None, 180),), 0, 10, shape_min=2, shape_within=0)
    disc = TrayWork("D1", "D", 16, 7, (Bake(10, 5, 180),), 3, 20, sharp=True)
    trays = (
        drop,
        replace(drop, name="A2"),
        replace(drop, name="A3", scraps=True),
        logs,
        wafer,
        disc,
    )
    kitchen = Kitchen(4, (Oven(2),), racks=4, fridge=2, bowls=3, other_sheets=(1,))
    return Work(doughs, trays, kitchen)


@cache
def planned() -> tuple[Work, Plan]:
    work = rich()
    plan = best_plan(work, 1)
    assert find_faults(plan, work) == []
    return work, plan


def job(plan: Plan, key: str) -> Placed:
    return next(a for a in plan.activities if a.id == JobKey.read(key))


def spoil(plan: Plan, key: str, by: int = 0, **changes: object) -> Plan:
    """The plan with one activity moved, or changed otherwise."""
    wanted = JobKey.read(key)
    moved = tuple(
        replace(a, **{"start": a.start + by, "end": a.end + by, **changes}) if a.id == wanted else a
        for a in plan.activities
    )
    assert moved != plan.activities, key
    return replace(plan, activities=moved)


def lacking(plan: Plan, key: str) -> Plan:
    """The plan with one activity left out."""
    wanted = JobKey.read(key)
    return replace(plan, activities=tuple(a for a in plan.activities if a.id != wanted))


def said(plan: Plan, work: Work, words: str) -> bool:
    return any(words in fault for fault in find_faults(plan, work))


@pytest.mark.parametrize(
    ("key", "by", "words"),
    [
        ("A.mix", -500, "A.mix runs from"),
        ("A1.portion", -90, "portioned before the dough is ready"),
        ("A1.portion", 500, "A1 goes in before it is made"),
        ("A1.portion", -500, "min for the oven"),
        ("A1.load", -1, "not loaded or taken out at its bake's ends"),
        ("A1.out", 1, "not loaded or taken out at its bake's ends"),
        ("A1.turn", 30, "A1 is turned outside its bake"),
        ("A1.turn", 3, "A1 is turned at"),
        ("A1.rack", -40, "min on the sheet"),
        ("A1.rack", 60, "min on the sheet"),
        ("A1.cool", -5, "A1 cools before it is on the rack"),
        ("A1.finish", -90, "A1 is finished before it is cold"),
        ("B1.slice", -9, "min before it is sliced"),
        ("B1.slice", 60, "min before it is sliced"),
        ("C1.shape", 1, "C1 is shaped"),
        ("C1.shape", -3, "C1 is shaped"),
        ("A.mix2", -40, "A.mix2 begins before the step before it is over"),
        ("A.part", 900, "A.part is not ready for A"),
        ("A.part2", 900, "A.part2 is not ready for A"),
        ("A3.portion", -20, "A3 is rolled before the scraps are chilled"),
        ("D1.portion", 31, "min after the dough is tempered"),
        ("D1.portion", -31, "D1 is portioned before the dough is ready"),
        ("A1.sheet", 1, "the sheet of A1 is not given time to cool"),
    ],
)
def test_a_job_out_of_its_place_is_found(key: str, by: int, words: str) -> None:
    work, plan = planned()
    assert said(spoil(plan, key, by), work, words)


@pytest.mark.parametrize(
    ("key", "changes", "words"),
    [
        ("A1.bake", {"shelf": 3}, "there is no shelf 3"),
        ("A1.bake", {"oven": 2}, "there is no oven 2"),
        ("A1.load", {"who": 1}, "nobody does A1.load"),
        ("A1.portion", {"sheet": 9}, "there is no sheet 9"),
        ("A1.portion", {"sheet": 5}, "A1 is on a sheet of another kind"),
        ("A1.load", {"pause": (1, 2)}, "A1.load may not be broken off"),
    ],
)
def test_a_place_that_there_is_not_is_found(key: str, changes: dict[str, Any], words: str) -> None:
    work, plan = planned()
    assert said(spoil(plan, key, 0, **changes), work, words)


@pytest.mark.parametrize(
    "key", ["A1.portion", "A1.cool", "A1.finish", "A1.set", "B1.slice", "C1.shape", "B1.bake2"]
)
def test_what_takes_another_time_or_is_left_out_is_found(key: str) -> None:
    work, plan = planned()
    longer = spoil(plan, key, 0, end=job(plan, key).end + 1)
    assert said(longer, work, f"{key} takes")
    without = replace(
        plan, activities=tuple(a for a in plan.activities if a.id != JobKey.read(key))
    )
    assert said(without, work, f"there is no {key}")


@pytest.mark.parametrize("key", ["A1.load", "B1.out2", "A1.rack", "A1.sheet"])
def test_what_takes_a_moment_and_is_left_out_is_found(key: str) -> None:
    work, plan = planned()
    without = replace(
        plan, activities=tuple(a for a in plan.activities if a.id != JobKey.read(key))
    )
    assert said(without, work, f"there is no {key}")


def test_a_step_of_mixing_takes_its_minutes() -> None:
    work, plan = planned()
    assert said(spoil(plan, "B.mix", 0, end=job(plan, "B.mix").end + 1), work, "B.mix takes 11")


def test_a_turn_too_few_or_too_many_is_found() -> None:
    work, plan = planned()
    without = replace(
        plan, activities=tuple(a for a in plan.activities if a.id != JobKey.read("A1.turn"))
    )
    assert said(without, work, "A1 has a turn too many or too few")
    extra = replace(job(plan, "A1.turn"), id=JobKey("C1", "turn"), tray="C1")
    assert said(replace(plan, activities=(*plan.activities, extra)), work, "C1 has a turn too many")


def in_kitchen(**changes: Any) -> Work:
    work, _ = planned()
    return replace(work, kitchen=replace(work.kitchen, **changes))


def test_hands_are_in_one_place_there_and_allowed() -> None:
    work, plan = planned()
    load = job(plan, "A1.load")
    early = spoil(plan, "A2.portion", 0, start=load.start, end=load.start + 5)
    assert said(early, work, "two jobs at once for one pair of hands")
    away = in_kitchen(workers=(Worker(away=((load.start, load.end),)),))
    assert said(plan, away, "A1.load is to be done while you is away")
    two = in_kitchen(workers=(Worker(), Worker("Kim", COOL_JOBS)))
    assert said(spoil(plan, "A1.load", 0, who=1), two, "Kim may not do A1.load")
    assert said(spoil(plan, "D1.portion", 0, who=1), two, "Kim may not slice D1")


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"mixers": 0}, "more doughs are mixed at once"),
        ({"racks": 0}, "more trays cool than the rack holds"),
        ({"fridge": 0}, "more doughs are cold than the fridge holds"),
        ({"bowls": 0}, "more doughs wait in bowls"),
        ({"raw_wait_min": -1}, "min for the oven"),
        ({"sheet_ready_min": 9}, "is not given time to cool"),
    ],
)
def test_a_smaller_kitchen_is_found_too_small(changes: dict[str, Any], words: str) -> None:
    _, plan = planned()
    assert said(plan, in_kitchen(**changes), words)


def test_an_oven_is_hot_and_has_a_shelf_for_each() -> None:
    work, plan = planned()
    assert said(plan, in_kitchen(ovens=(Oven(2, rise_c_min=0.5),)), "goes into a cold oven")
    assert said(plan, in_kitchen(ovens=(Oven(2, fall_c_min=0.2),)), "min after")
    beside = plan
    for key in ("load", "bake", "out"):
        one = job(plan, f"A1.{key}")
        beside = spoil(beside, f"A2.{key}", 0, shelf=one.shelf, start=one.start, end=one.end + 1)
    assert said(beside, work, "holds A1.bake and A2.bake at once")
    other = 3 - (job(plan, "A1.bake").shelf or 1)
    pinned = tuple(replace(t, shelf=other) if t.name == "A1" else t for t in work.trays)
    assert said(plan, replace(work, trays=pinned), f"A1 is not on shelf {other}")
    swapped = spoil(plan, "A1.turn", 0, to_shelf=other)
    assert said(swapped, work, "is swapped and taken out elsewhere, or may not be swapped")


def test_portioning_is_broken_off_for_the_oven_only_and_briefly() -> None:
    _, plan = planned()
    kitchen = in_kitchen(interrupts=True)
    portion = job(plan, "D1.portion")
    start, end = portion.start, portion.end
    whole = spoil(plan, "D1.portion", 0, pause=(start + 1, end - 1), end=end + end - start - 2)
    assert said(whole, kitchen, "is broken off from")
    brief = spoil(plan, "D1.portion", 0, pause=(start + 1, start + 2))
    other = spoil(brief, "A.part", 0, start=start + 1, end=start + 2)
    assert said(other, kitchen, "D1.portion is broken off for A.part")


@pytest.mark.parametrize(
    ("letter", "changes", "words"),
    [
        ("A", {"chill_most": 30}, "after the dough has been cold too long"),
        ("C", {"bake_within": 1}, "min after mixing"),
        ("D", {"first_within": -1}, "after the dough is tempered"),
    ],
)
def test_a_narrower_window_is_found_broken(
    letter: str, changes: dict[str, Any], words: str
) -> None:
    work, plan = planned()
    doughs = tuple(replace(d, **changes) if d.letter == letter else d for d in work.doughs)
    assert said(plan, replace(work, doughs=doughs), words)


def test_a_pin_and_the_finish_are_checked() -> None:
    work, plan = planned()
    pinned = replace(work, pins=(Pin(JobKey("A1", "load"), job(plan, "A1.load").start + 1),))
    assert said(plan, pinned, "A1.load is not at")
    assert said(replace(plan, finish=plan.finish - 1), work, "the finish is not when")


def test_a_sheet_holds_one_tray() -> None:
    work, plan = planned()
    one, other = job(plan, "A1.portion"), job(plan, "A2.portion")
    assert one.sheet != other.sheet
    assert said(spoil(plan, "A2.portion", 0, sheet=one.sheet), work, "holds A1 and A2 at once")
