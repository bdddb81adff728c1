"""The same work gives the same plan, however often it is looked at meanwhile."""

from dataclasses import replace

import pytest

from finebatch.core.plan import solver
from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.shelves import colour
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import Bake, DoughWork, Kitchen, Make, Oven, TrayWork, Work


def supper() -> Work:
    """Three doughs of three trays, two of them chilled, on two shelves and three sheets."""
    doughs = (
        DoughWork("A", chill_min=30),
        DoughWork("B", (Make("Mix", 12),), chill_min=60),
        DoughWork("C", (Make("Mix", 10),)),
    )
    trays = tuple(
        TrayWork(f"{letter}{n + 1}", letter, 12, 5, (Bake(minutes, minutes // 2, oven_c),), 3, 20)
        for letter, minutes, oven_c in (("A", 11, 180), ("B", 16, 160), ("C", 10, 175))
        for n in range(3)
    )
    return Work(doughs, trays, Kitchen(3, (Oven(2),)))


def starts(plan: Plan) -> list[tuple[str, int, int | None, int | None]]:
    return sorted((a.id, a.start, a.sheet, a.shelf) for a in plan.activities)


def test_looking_on_changes_nothing(monkeypatch: pytest.MonkeyPatch) -> None:
    # A machine that stands still is another matter.
    monkeypatch.setattr("finebatch.core.plan.solver.SLOWEST", 1000)
    seen: list[int] = []

    def look(plan: Plan) -> bool:
        # Whoever keeps a plan takes its time over it.
        seen.append(plan.finish)
        sum(range(300_000))
        return True

    watched = best_plan(supper(), 1.0, look)
    alone = best_plan(supper(), 1.0)
    assert starts(watched) == starts(alone)
    assert seen
    assert seen == sorted(seen, reverse=True)
    assert watched.finish <= seen[-1]


def test_the_quick_plan_is_always_the_same_and_keeps_every_window() -> None:
    work = supper()
    first = quick_plan(work)
    assert starts(first) == starts(quick_plan(work))
    assert find_faults(first, work) == []


def test_who_stops_the_search_gets_a_plan_that_holds() -> None:
    work = supper()
    stopped = best_plan(work, 1.0, lambda plan: False)
    assert find_faults(stopped, work) == []
    assert stopped.finish <= quick_plan(work).finish


@pytest.mark.parametrize("sheets", [1, 3])
def test_more_sheets_never_make_it_later(sheets: int, monkeypatch: pytest.MonkeyPatch) -> None:
    # No wall clock cuts the search, however slow the machine.
    monkeypatch.setattr(solver, "SLOWEST", 1000)
    work = supper()
    fewer = replace(work, kitchen=replace(work.kitchen, sheets=sheets))
    more = replace(work, kitchen=replace(work.kitchen, sheets=sheets + 1))
    assert best_plan(more, 1.0).finish <= best_plan(fewer, 1.0).finish + 1


@pytest.mark.parametrize(
    "spans",
    [
        [(0, 10), (10, 20), (20, 30)],
        [(0, 10), (5, 15), (10, 20)],
        [(0, 30), (5, 10), (12, 20), (21, 29)],
        [],
    ],
)
def test_places_are_given_so_that_none_is_taken_twice(spans: list[tuple[int, int]]) -> None:
    found = colour(spans, 2)
    assert len(found) == len(spans)
    for n, (start, end) in enumerate(spans):
        for m, (other, until) in enumerate(spans[:n]):
            if start < until and other < end:
                assert found[n] != found[m]
