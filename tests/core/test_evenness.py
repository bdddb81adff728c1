"""Portions weighed one by one: mean, evenness, and which are off."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.piece.evenness import judge_portions


def test_the_last_few_that_are_off_are_named() -> None:
    judged = judge_portions([28, 28.5, 31, 27.6, 24.9, 28], 28)
    assert [(off.number, off.how) for off in judged.off] == [(3, "heavy"), (5, "light")]


def test_one_that_was_off_long_ago_is_forgiven() -> None:
    judged = judge_portions([40, 28, 28, 28, 28, 28, 28], 28)
    assert judged.off == ()


def test_of_too_few_no_evenness_is_told() -> None:
    assert judge_portions([], 28).mean_g is None
    few = judge_portions([28, 29, 30], 28)
    assert few.mean_g == pytest.approx(29)
    assert few.cv is None


@given(st.lists(st.floats(5, 100), min_size=4, max_size=40), st.floats(0.5, 3))
def test_evenness_does_not_depend_on_the_size(weighed: list[float], times: float) -> None:
    judged = judge_portions(weighed, 20)
    larger = judge_portions([grams * times for grams in weighed], 20 * times)
    assert judged.cv is not None
    assert larger.cv == pytest.approx(judged.cv, abs=1e-9)
    assert [off.number for off in larger.off] == [off.number for off in judged.off]
