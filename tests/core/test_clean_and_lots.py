"""The bowl between doughs, clearing up, parts made in time, and batters mixed in several lots."""

from dataclasses import replace
from typing import Any

import pytest

from finebatch.core.plan.keys import CLEAR_UP
from finebatch.core.plan.lots import in_lots
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import Bake, DoughWork, Kitchen, Make, Oven, PartWork, TrayWork, Work
from finebatch.core.refusal import Refusal
from finebatch.core.session.bowls import bowls_of, shares_of
from tests.core.test_checker_edges import KITCHEN, TRAY, found_in, laid, mixed, placed, plan
from tests.keys import key

TWO = Work(
    (DoughWork("A", (Make("Mix", 10),)), DoughWork("B", (Make("Mix", 10),))),
    (TRAY, replace(TRAY, name="B1", dough="B")),
    replace(KITCHEN, wash_min=4, clear_min=10),
)


def washed(**at: int) -> Plan:
    """Two doughs mixed with the bowl washed in between, and all cleared up at the end."""
    begun = {"wash": 10, "mix": 14, "again": 90, "clear": 94, **at}
    return plan(
        mixed(),
        placed("A", "wash", begun["wash"], begun["wash"] + at.get("washes", 4)),
        mixed(begun["mix"], begun["mix"] + 10, "B"),
        placed("B", "wash", begun["again"], begun["again"] + 4),
        *laid(portion=24, load=30),
        *laid("B1", portion=50, load=60, sheet=2),
        placed("all", "clear", begun["clear"], begun["clear"] + at.get("clears", 10), dough=None),
    )


@pytest.mark.parametrize(
    ("at", "found"),
    [
        ({}, []),
        ({"wash": 9}, ["two jobs at once", "A.wash is before the dough is mixed"]),
        ({"washes": 3}, ["A.wash takes 3, not 4"]),
        ({"wash": 80}, ["more doughs are mixed at once than there are mixers"]),
        ({"wash": 11, "mix": 14}, ["two jobs at once", "more doughs are mixed at once"]),
        ({"clears": 9}, ["all.clear takes 9, not 10"]),
        ({"again": 91}, ["two jobs at once", "all.clear is before all else is done"]),
    ],
)
def test_the_bowl_is_washed_between_doughs_and_all_is_cleared_up(
    at: dict[str, int], found: list[str]
) -> None:
    faults = found_in(washed(**at), TWO)
    assert len(faults) == len(found), faults
    assert all(fault.startswith(words) for fault, words in zip(faults, found, strict=True))


@pytest.mark.parametrize(("wash_min", "clear_min"), [(0, 10), (4, 0)])
def test_a_habit_that_is_off_is_not_in_the_plan(wash_min: int, clear_min: int) -> None:
    work = replace(TWO, kitchen=replace(TWO.kitchen, wash_min=wash_min, clear_min=clear_min))
    found = quick_plan(work)
    assert found_in(found, work) == []
    kinds = [a.kind for a in found.activities]
    assert kinds.count("wash") == (2 if wash_min else 0)
    assert kinds.count("clear") == (1 if clear_min else 0)
    assert any("too often" in fault for fault in found_in(washed(), work))


def test_clearing_up_is_left_out_of_the_finish() -> None:
    found = best_plan(TWO, 0.5)
    times = {a.id: a for a in found.activities}
    assert times[CLEAR_UP].end - times[CLEAR_UP].start == 10
    without = replace(TWO, kitchen=replace(TWO.kitchen, clear_min=0))
    assert best_plan(without, 0.5).finish == found.finish


ICED = replace(
    TWO,
    doughs=(DoughWork("A", (Make("Mix", 10),), parts=(PartWork("icing", 5, "finish", 60),)),),
    trays=(replace(TRAY, finish_min=5, set_min=45),),
    kitchen=KITCHEN,
)


@pytest.mark.parametrize(
    ("made", "found"),
    [(63, []), (5, []), (2, ["A.part is 61 min before A1"]), (64, ["A.part is not ready for A1"])],
)
def test_a_part_is_made_in_time_but_not_too_early(made: int, found: list[str]) -> None:
    """The tray is iced at minute 68 here; five minutes of making the icing end just before."""
    iced = plan(
        mixed(-20, -10),
        placed("A", "part", made, made + 5),
        *laid(),
        placed("A1", "finish", 68, 73),
        placed("A1", "set", 73, 118),
    )
    late = [f for f in found_in(iced, ICED) if "part" in f]
    assert [fault for fault in late if "two jobs" not in fault] == found


def batter(trays: int, within: int = 45, **more: Any) -> Work:
    """A batter for trays of eight minutes each, one at a time in the oven."""
    dough = DoughWork("A", (Make("Whisk", 6),), bake_within=within, **more)
    names = [f"A{n + 1}" for n in range(trays)]
    return Work(
        (dough,),
        tuple(TrayWork(name, "A", 6, 3, (Bake(8, None, 180),), cool_min=10) for name in names),
        Kitchen(2, ovens=(Oven(1),)),
    )


def test_a_batter_too_large_for_its_window_is_mixed_in_lots() -> None:
    work = in_lots(batter(12))
    dough = work.doughs[0]
    assert dough.lots > 1
    for found in (quick_plan(work), best_plan(work, 0.5)):
        assert found_in(found, work) == []
        jobs = {a.id: a for a in found.activities}
        for tray in work.trays:
            made = jobs[key(f"A.mix{tray.lot + 1}" if tray.lot else "A.mix")]
            assert made.end <= jobs[key(f"{tray.name}.portion")].start
            assert jobs[key(f"{tray.name}.load")].start - made.end <= 45
    bowls = bowls_of(dough, work.trays)
    assert sum(bowl.share for bowl in bowls) == pytest.approx(1)
    assert [name for bowl in bowls for name in bowl.trays] == [tray.name for tray in work.trays]
    assert str(bowls[0]).startswith(f"bowl 1 of {dough.lots}, ")


def test_no_more_lots_than_it_takes() -> None:
    assert in_lots(batter(2)).doughs[0].lots == 1
    few = in_lots(batter(6))
    many = in_lots(batter(12))
    assert few.doughs[0].lots < many.doughs[0].lots
    # What is split once is not split again.
    assert in_lots(many) == many
    # A tray that alone takes longer is mixed for, and the window is what that takes.
    hasty = in_lots(batter(3, within=2))
    assert (hasty.doughs[0].lots, hasty.doughs[0].bake_within) == (3, 3)
    assert found_in(best_plan(hasty, 0.5), hasty) == []


def test_a_tray_of_the_wrong_lot_is_found() -> None:
    work = in_lots(batter(12))
    first = replace(work.trays[0], lot=work.doughs[0].lots - 1)
    wrong = replace(work, trays=(first, *work.trays[1:]))
    assert any("A1 is portioned before" in fault for fault in found_in(quick_plan(work), wrong))


def test_a_dough_that_lies_in_the_cold_is_not_mixed_in_lots() -> None:
    assert in_lots(batter(12, chill_min=30)).doughs[0].lots == 1
    with pytest.raises(Refusal, match="cannot be mixed in 2 lots"):
        batter(2, chill_min=30, lots=2)
    with pytest.raises(Refusal, match="lots 0 to 0"):
        work = batter(2)
        replace(work, trays=tuple(replace(tray, lot=1) for tray in work.trays))


@pytest.mark.parametrize(
    ("total_g", "eggs", "shares"),
    [
        (1900, 3, [1]),
        (3000, 4, [1 / 2, 1 / 2]),
        (5000, 7, [2 / 7, 2 / 7, 2 / 7, 1 / 7]),
        (5000, 6, [1 / 3, 1 / 3, 1 / 3]),
        (3000, 3, [2 / 3, 1 / 3]),
        (3000, 2.5, [1 / 2, 1 / 2]),
        (3000, None, [1 / 2, 1 / 2]),
        (9000, 1, [1 / 5] * 5),
    ],
)
def test_bowls_hold_whole_eggs_where_there_are_whole_ones(
    total_g: float, eggs: float | None, shares: list[float]
) -> None:
    found = shares_of(total_g, 2000, eggs)
    assert list(found) == pytest.approx(shares)
    assert max(found) * total_g <= 2000
