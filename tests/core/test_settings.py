"""Settings that lie near each other: the dial is told, and nothing is proven that is not so."""

from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from finebatch.core.plan import model
from finebatch.core.plan.bound import plain_bound
from finebatch.core.plan.by_hand import plain_method, sensible_method
from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.keys import JobKey, oven_key
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.schedule import place, sound, times_of
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import Bake, DoughWork, Kitchen, Make, Oven, TrayWork, Work
from tests.chance import so_many

LETTERS = "ABCDEFGHIJ"


def chain(*settings_c: int, bake: int = 12, **kitchen: Any) -> Work:
    """A tray of a dough of its own at each of those settings."""
    letters = LETTERS[: len(settings_c)]
    doughs = tuple(DoughWork(letter, (Make("Mix", 2),)) for letter in letters)
    trays = tuple(
        TrayWork(f"{letter}1", letter, 12, 2, (Bake(bake, None, oven_c),), 2, 10)
        for letter, oven_c in zip(letters, settings_c, strict=True)
    )
    return Work(doughs, trays, Kitchen(4, **{"ovens": (Oven(1),), **kitchen}))


def dial_at(plan: Plan, tray: str) -> int:
    """What the dial was told last before a tray is in."""
    load = next(a for a in plan.activities if a.id == JobKey(tray, "load"))
    told = [a for a in plan.activities if a.kind == "heat" and a.start < load.end]
    dial = max(told, key=lambda a: a.start).dial_c
    assert dial is not None
    return dial


@pytest.mark.parametrize("tolerance_c", [5, 10])
def test_the_dial_is_told_through_a_chain_of_near_settings(tolerance_c: int) -> None:
    wanted = range(150, 190, tolerance_c)
    work = chain(*wanted, tolerance_c=tolerance_c)
    for plan in (quick_plan(work), best_plan(work, 1)):
        assert find_faults(plan, work) == []
        for tray, oven_c in zip(work.trays, wanted, strict=True):
            assert abs(dial_at(plan, tray.name) - oven_c) <= tolerance_c


def test_a_few_near_settings_are_one_setting() -> None:
    """Within the tolerance of each other nobody is bothered with the dial."""
    plan = quick_plan(chain(175, 180, 175, 180))
    assert sum(a.kind == "heat" for a in plan.activities) == 1


def test_nine_settings_five_degrees_apart_are_not_proven_to_take_longer_than_they_do() -> None:
    work = chain(*range(150, 195, 5))
    plan = best_plan(work, 3)
    assert plan.bound <= plan.finish <= in_order(work)


def in_order(work: Work) -> int:
    """From the coolest to the hottest, one after the other, reckoned with pencil and paper: the
    oven is hot before, a tray goes in as the one before it comes out."""
    k = work.kitchen
    heated = max(k.ovens[0].heat_min(work.trays[0].bakes[0].oven_c), 4 + k.load_min)
    bakes = sum(t.bakes[0].length for t in work.trays)
    door = (len(work.trays) - 1) * (k.load_min + k.out_min)
    last = work.trays[-1]
    return heated + bakes + door + k.out_min + last.rest_min + k.rack_min + last.cool_min


@st.composite
def chains(draw: st.DrawFn) -> Work:
    low, step = draw(st.integers(140, 170)), draw(st.sampled_from([2, 4, 5, 6, 9, 12]))
    count = draw(st.integers(2, 5))
    wanted = [low + draw(st.integers(0, 6)) * step for _ in range(count)]
    oven = Oven(
        draw(st.integers(1, 2)),
        rise_c_min=draw(st.sampled_from([4.0, 8.0, 30.0])),
        fall_c_min=draw(st.sampled_from([1.0, 5.0, 20.0])),
    )
    return chain(
        *wanted,
        bake=draw(st.integers(6, 20)),
        ovens=(oven,),
        tolerance_c=draw(st.sampled_from([0, 5, 10])),
        load_min=draw(st.integers(1, 3)),
    )


@settings(max_examples=so_many(200))
@given(chains())
def test_no_plan_by_any_hand_is_below_the_bound(work: Work) -> None:
    low = plain_bound(work)
    orders = [replace(work, doughs=tuple(sorted(work.doughs, key=key))) for key in ORDERS]
    for one in orders:
        assert low <= min(quick_plan(one).finish, plain_method(one), sensible_method(one))


ORDERS = (lambda d: d.letter, lambda d: -ord(d.letter), lambda d: (ord(d.letter) * 7) % 5)


def test_the_best_without_the_bound_is_not_below_it(monkeypatch: pytest.MonkeyPatch) -> None:
    """The same search, let down to zero, finds nothing below what is called the least."""
    monkeypatch.setattr(model, "plain_bound", lambda _work: 0)

    @settings(max_examples=so_many(15))
    @given(chains())
    def search(work: Work) -> None:
        assert plain_bound(work) <= best_plan(work, 0.5).finish

    search()


def test_a_bound_above_a_plan_is_a_fault_and_not_hidden() -> None:
    plan = quick_plan(chain(180))
    with pytest.raises(AssertionError, match="nobody is said to finish before"):
        place(chain(180), times_of(plan.activities), plan.finish + 1)
    assert sound(3, 3) == 3


def test_the_checker_finds_a_dial_that_was_not_told() -> None:
    work = chain(150, 155, 160)
    plan = quick_plan(work)
    bare = [a for a in plan.activities if a.kind != "heat" or a.id == oven_key(1, 0)]
    assert any(
        "dial was told" in fault
        for fault in find_faults(replace(plan, activities=tuple(bare)), work)
    )
    none = tuple(a for a in plan.activities if a.kind != "heat")
    assert any("turn the oven on" in f for f in find_faults(replace(plan, activities=none), work))
