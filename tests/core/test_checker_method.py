"""The checker's limits for what the method brings: each rule just kept, and broken by a minute."""

from dataclasses import replace
from typing import Any

import pytest

from finebatch.core.plan.placed import Placed
from finebatch.core.plan.work import Make, Work
from tests.core.test_checker_edges import DOUGH, WORK, found_in, laid, mixed, placed, plan, trays

METHOD = replace(
    DOUGH,
    before=(Make("Toast", 5, 15, "ready"),),
    makes=(Make("Mix", 10), Make("Wrap", 2, 0, "form")),
    chill_min=30,
    chill_most=60,
    fetch_min=1,
    temper_min=10,
)
AS_METHOD = replace(WORK, doughs=(METHOD,))


def method(**at: int) -> list[Placed]:
    """Toasted, mixed, wrapped, fetched and tempered: 25 minutes, ten, two, thirty, one and ten."""
    begun = {"ready": 0, "mix": 20, "form": 30, "fetch": 62, **at}
    return [
        placed("A", "ready", begun["ready"], begun["ready"] + at.get("toasts", 5)),
        mixed(begun["mix"], begun["mix"] + 10),
        placed("A", "form", begun["form"], begun["form"] + at.get("wraps", 2)),
        placed("A", "fetch", begun["fetch"], begun["fetch"] + at.get("fetches", 1)),
    ]


@pytest.mark.parametrize(
    ("at", "portion", "found"),
    [
        ({}, 73, []),
        ({}, 103, []),
        ({}, 104, ["A1 is portioned 31 min after the dough is tempered"]),
        ({}, 72, ["A1 is portioned before the dough is ready"]),
        ({"mix": 19, "form": 29}, 73, ["A.mix begins before the step before it is over"]),
        ({"form": 29}, 73, ["A.form begins before the step before it is over", "two jobs at once"]),
        (
            {"toasts": 6},
            73,
            ["A.ready takes 6, not 5", "A.mix begins before the step before it is"],
        ),
        (
            {"wraps": 3},
            74,
            ["A.form takes 3, not 2", "A.fetch is after 29 min in the cold, not 30"],
        ),
        ({"fetches": 2}, 74, ["A.fetch takes 2, not 1"]),
        ({"fetch": 61}, 73, ["A.fetch is after 29 min in the cold, not 30"]),
        ({"fetch": 92}, 103, []),
        ({"fetch": 93}, 104, ["A.fetch is after 61 min in the cold, more than 60"]),
    ],
)
def test_a_method_is_kept_to_the_minute(at: dict[str, int], portion: int, found: list[str]) -> None:
    faults = found_in(plan(*method(**at), *laid(portion=portion, load=portion + 14)), AS_METHOD)
    assert len(faults) == len(found), faults
    assert all(fault.startswith(words) for fault, words in zip(faults, found, strict=True))


def test_each_job_of_the_method_takes_hands_of_its_own() -> None:
    clash = plan(*method(form=25), *laid(portion=73, load=87))
    assert "two jobs at once for one pair of hands: A.mix and A.form" in found_in(clash, AS_METHOD)


@pytest.mark.parametrize(("load", "found"), [(30, []), (29, ["A1 goes in before it is made"])])
def test_a_tray_stands_before_it_is_loaded(load: int, found: list[str]) -> None:
    work = replace(WORK, trays=(replace(WORK.trays[0], stand_min=15),))
    standing = placed("A1", "stand", 15, 30)
    assert found_in(plan(standing, *laid(portion=10, load=load)), work) == found
    assert found_in(plan(*laid(portion=10, load=30)), work) == ["there is no A1.stand"]
    assert found_in(plan(standing, *laid(portion=10, load=75)), work) == []
    late = plan(standing, *laid(portion=10, load=76))
    assert found_in(late, work) == ["A1 waits 61 min for the oven"]


def apart(gap: int, **more: Any) -> tuple[list[Placed], Work]:
    """Two trays, the second portioned so long after the first, of a dough that was fetched."""
    work = replace(trays(2, AS_METHOD), kitchen=replace(WORK.kitchen, raw_wait_min=200))
    one = laid(portion=73, load=87, sheet=1)
    second = 78 + gap
    two = laid("A2", portion=second, load=second + 14, sheet=2, shelf=2, **more)
    return [*method(), *one, *two], work


def test_a_dough_that_was_fetched_is_warm_for_two_hours_at_most() -> None:
    # Two minutes before the fridge, and from minute 63 until the second tray is in.
    jobs, work = apart(89)
    assert found_in(plan(*jobs), work) == []
    jobs, work = apart(90)
    assert found_in(plan(*jobs), work) == ["dough A is warm for 121 min"]
    hot = replace(work, doughs=(replace(METHOD, warm_most=60),))
    near, _ = apart(30)
    assert found_in(plan(*near), hot) == ["dough A is warm for 61 min"]
    back = placed("A", "chill", 78, 168)
    assert found_in(plan(back, *jobs), work) == []


def test_a_dough_that_waits_in_the_cold_between_trays_has_a_place_there() -> None:
    """One lies in the fridge until minute 62; the other is put back into it from then on."""
    other = replace(DOUGH, letter="B")
    tray = replace(WORK.trays[0], name="B1", dough="B")
    two = replace(
        WORK,
        doughs=(METHOD, other),
        trays=(*WORK.trays, tray),
        kitchen=replace(WORK.kitchen, fridge=1),
    )

    def waiting(start: int) -> list[str]:
        return found_in(
            plan(
                *method(),
                *laid(portion=73, load=87),
                mixed(33, 43, "B"),
                placed("B", "chill", start, 130, cold="waits"),
                *laid("B1", portion=130, load=140, sheet=2),
            ),
            two,
        )

    assert waiting(62) == []
    assert waiting(61) == ["more doughs are cold than the fridge holds"]
