"""How long things keep: never longer by being moved than they were good for."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.care.keeping import DAY_MS, keeping_key, thawed_use_by, use_by
from finebatch.core.refusal import Refusal
from finebatch.facts import formula


def test_the_cautious_end_of_the_days_counts() -> None:
    kept = formula.keepings()["dough_egg"]
    assert use_by(0, kept) == 2 * DAY_MS


@pytest.mark.parametrize(
    ("form", "place", "perishable", "filled", "key"),
    [
        ("dough", "fridge", True, False, "dough_egg"),
        ("log", "fridge", False, False, "dough_plain"),
        ("portions", "freezer", True, False, "dough_frozen"),
        ("baked", "tin", True, False, "baked_shortbread"),
        ("baked", "fridge", True, True, "baked_filled"),
        ("baked", "freezer", True, True, "baked_frozen"),
    ],
)
def test_each_has_its_row(form: str, place: str, perishable: bool, filled: bool, key: str) -> None:
    found = keeping_key(
        form,
        place,
        "shortbread",
        perishable=perishable,
        filled=filled,  # type: ignore[arg-type]
    )
    assert found == key
    assert formula.keepings()[found].place == place


@pytest.mark.parametrize(
    ("form", "place", "filled"),
    [("dough", "tin", False), ("baked", "fridge", False), ("baked", "tin", True)],
)
def test_where_it_does_not_keep_is_refused(form: str, place: str, filled: bool) -> None:
    with pytest.raises(Refusal):
        keeping_key(form, place, "drop", perishable=True, filled=filled)  # type: ignore[arg-type]


@given(st.integers(0, 10 * DAY_MS), st.integers(0, 200 * DAY_MS), st.integers(0, 200 * DAY_MS))
def test_frozen_dough_gets_back_what_was_left_and_no_more(due: int, froze: int, lay: int) -> None:
    kept = formula.keepings()["dough_egg"]
    now = froze + lay
    by = thawed_use_by(froze, due, now, kept)
    assert now <= by <= now + min(max(due - froze, 0), 2 * DAY_MS)
