"""How long these hands take, learnt from what they took."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.book.hands import (
    LEAST_RATIO,
    MOST_RATIO,
    between_ticks,
    learn_pace,
    within_job,
)
from finebatch.core.heat.minutes import look_from
from finebatch.core.heat.oven import OvenNature, conventional_c, dial_c, setting_c

ratios = st.lists(st.floats(0.01, 20), max_size=30)


def test_nothing_known_is_the_usual_pace() -> None:
    assert learn_pace([]).times == 1.0
    assert learn_pace([], 1.4).times == 1.4


def test_few_jobs_move_the_pace_a_little_and_many_nearly_all_the_way() -> None:
    few, many = learn_pace([1.5, 1.5]), learn_pace([1.5] * 30)
    assert 1.1 < few.times < 1.3
    assert 1.4 < many.times < 1.5
    assert (few.jobs, many.jobs) == (2, 30)


def test_a_late_press_teaches_nothing() -> None:
    assert learn_pace([1.2, 1.2, 1.2, 40.0, 0.01]) == learn_pace([1.2, 1.2, 1.2])


@given(ratios, st.floats(0.5, 2))
def test_the_pace_lies_between_the_usual_one_and_what_was_taken(
    taken: list[float], usual: float
) -> None:
    pace = learn_pace(taken, usual)
    kept = [ratio for ratio in taken if LEAST_RATIO <= ratio <= MOST_RATIO]
    assert pace.jobs == len(kept)
    low, high = min([usual, *kept]), max([usual, *kept])
    assert low * 0.999 <= pace.times <= high * 1.001


@given(st.floats(100, 250), st.floats(-30, 30))
def test_a_dial_makes_up_for_its_oven(wanted: float, offset: float) -> None:
    dial = dial_c(wanted, OvenNature(offset_c=offset))
    assert dial + offset == pytest.approx(wanted, abs=0.5)


@given(st.floats(100, 250), st.sampled_from(["conventional", "fan"]))
def test_a_setting_goes_there_and_back(still: float, mode: str) -> None:
    assert conventional_c(setting_c(still, mode), mode) == pytest.approx(still)  # type: ignore[arg-type]


def test_an_oven_that_swings_is_looked_into_sooner() -> None:
    def look(swing: float) -> int:
        return look_from(20.0, 0.08, swing, oven_c=175)

    assert 10 < look(0) < 20
    assert look(40) < look(0)
    assert look_from(0.8, 0.08, 0, oven_c=175) == 1


def test_a_step_took_from_the_tick_before_it_to_its_own() -> None:
    assert between_ticks(10, {0: 13, 1: 18}, 26, 3) == {0: 3, 1: 5, 2: 8}
    # What was not ticked, and what came after it, is not told apart.
    assert between_ticks(10, {0: 13, 2: 20}, 26, 4) == {0: 3, 3: 6}
    assert between_ticks(None, {0: 13, 1: 18}, 26, 3) == {1: 5, 2: 8}
    # Ticked all at once at the end: nothing is known but the first.
    assert between_ticks(10, {0: 26, 1: 26, 2: 26}, 26, 3) == {0: 16}


@given(st.dictionaries(st.integers(0, 9), st.floats(0.2, 30), min_size=2), st.floats(0.3, 3))
def test_steps_are_slow_or_quick_against_each_other_however_long_the_job_took(
    usual: dict[int, float], times: float
) -> None:
    even = within_job({place: times * minutes for place, minutes in usual.items()}, usual)
    assert all(ratio == pytest.approx(1) for ratio in even.values())
    first = min(usual)
    slow = within_job({**usual, first: 2 * usual[first]}, usual)
    assert all(slow[place] < slow[first] for place in usual if place != first)
    assert within_job({first: 4.0}, usual) == {}
