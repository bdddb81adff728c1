"""How long things keep: never longer by being moved than they were good for."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.care.keeping import (
    DAY_MS,
    KeptAs,
    KeptIn,
    keeping_key,
    thawed_use_by,
    use_by,
)
from finebatch.core.formula.dough import Family
from finebatch.core.refusal import Refusal
from finebatch.facts import formula


def test_the_cautious_end_of_the_days_counts() -> None:
    kept = formula.keepings()["dough_egg"]
    assert use_by(5, kept) == 5 + 2 * DAY_MS


@pytest.mark.parametrize(
    ("key", "best_by", "by"),
    [
        # never later than it already was due …
        ("dough_egg", DAY_MS, DAY_MS),
        ("dough_egg", 3 * DAY_MS, 2 * DAY_MS),
        ("baked_drop", DAY_MS, DAY_MS),
        # … unless it is frozen, and ages no more
        ("dough_frozen", DAY_MS, 30 * DAY_MS),
    ],
)
def test_what_is_moved_is_good_for_no_longer(key: str, best_by: int, by: int) -> None:
    assert use_by(0, formula.keepings()[key], best_by) == by


RAW: tuple[KeptAs, ...] = ("dough", "disc", "log", "portions", "slices")


@pytest.mark.parametrize("form", RAW)
def test_raw_dough_keeps_by_what_is_in_it(form: KeptAs) -> None:
    def key(place: KeptIn, *, perishable: bool) -> str:
        return keeping_key(form, place, "drop", perishable=perishable, filled=True)

    assert key("fridge", perishable=True) == "dough_egg"
    assert key("fridge", perishable=False) == "dough_plain"
    assert key("freezer", perishable=True) == "dough_frozen"


@pytest.mark.parametrize(
    ("family", "in_a_tin"),
    [
        ("drop", "baked_drop"),
        ("rolled", "baked_rolled"),
        ("shortbread", "baked_shortbread"),
        ("twice_baked", "baked_twice"),
    ],
)
def test_baked_pieces_keep_by_their_family_and_by_what_is_on_them(
    family: Family, in_a_tin: str
) -> None:
    def key(place: KeptIn, *, filled: bool) -> str:
        return keeping_key("baked", place, family, perishable=True, filled=filled)

    assert key("tin", filled=False) == in_a_tin
    assert key("fridge", filled=True) == "baked_filled"
    assert key("freezer", filled=True) == key("freezer", filled=False) == "baked_frozen"


def test_every_row_is_for_the_place_that_it_is_kept_in() -> None:
    rows = formula.keepings()
    for form in (*RAW, "baked"):
        for place in ("fridge", "freezer", "tin"):
            for filled in (True, False):
                try:
                    key = keeping_key(form, place, "drop", perishable=True, filled=filled)
                except Refusal:
                    continue
                assert rows[key].place == place


@pytest.mark.parametrize(
    ("form", "place", "filled", "instead"),
    [
        ("dough", "tin", False, "in the fridge or the freezer"),
        ("log", "tin", True, "in the fridge or the freezer"),
        ("baked", "fridge", False, "a tin or the freezer"),
        ("baked", "tin", True, "in the fridge"),
    ],
)
def test_where_it_does_not_keep_is_refused_with_where_it_does(
    form: KeptAs, place: KeptIn, filled: bool, instead: str
) -> None:
    with pytest.raises(Refusal) as said:
        keeping_key(form, place, "drop", perishable=True, filled=filled)
    (fault,) = said.value.faults
    assert fault.field == "place"
    assert instead in fault.message


@pytest.mark.parametrize(
    ("frozen_at", "due", "left"),
    [(0, DAY_MS, DAY_MS), (DAY_MS, 9 * DAY_MS, 2 * DAY_MS), (DAY_MS, DAY_MS // 2, 0)],
)
def test_thawed_dough_has_what_was_left_when_it_was_frozen(
    frozen_at: int, due: int, left: int
) -> None:
    now = 40 * DAY_MS
    assert thawed_use_by(frozen_at, due, now, formula.keepings()["dough_egg"]) == now + left


@given(st.integers(0, 10 * DAY_MS), st.integers(0, 200 * DAY_MS), st.integers(0, 200 * DAY_MS))
def test_frozen_dough_gets_back_what_was_left_and_no_more(due: int, froze: int, lay: int) -> None:
    kept = formula.keepings()["dough_egg"]
    now = froze + lay
    by = thawed_use_by(froze, due, now, kept)
    assert now <= by <= now + min(max(due - froze, 0), 2 * DAY_MS)
