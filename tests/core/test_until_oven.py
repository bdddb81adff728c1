"""How long a batter may wait for the oven is read from its card, and not taken for a time to bake
or to rest."""

import pytest

from finebatch.core.formula.card_says import card_of, says_of
from finebatch.core.formula.card_sizes import find_sizes
from finebatch.core.formula.card_text import read_card
from finebatch.core.method.typed import typed_steps
from finebatch.facts import tables

CARD = """Quick soda drops
300 g flour
200 g sugar
180 g butter, melted
3 eggs
1 tsp baking soda

Stir all together. {said}
Drop teaspoons of 6 g on lined sheets. Bake at 180 C for 10 minutes.
Makes 120.
"""
WITHIN = {
    "The batter must be baked within 45 minutes.": 45,
    "Bake within 45 minutes of mixing.": 45,
    "Use the batter within half an hour.": 30,
    "Use up the mixture within 30 min.": 30,
    "Do not let the batter stand for longer than 20 minutes.": 20,
    "Do not leave the mixture for more than half an hour before baking.": 30,
    "Never keep the batter longer than 1 hour.": 60,
    "The batter should not wait over 25 min.": 25,
    "The batter keeps for 1 hour at most.": 60,
    "The batter can stand for 20 minutes.": 20,
    "The mixture must go into the oven within 15 minutes.": 15,
    "Work quickly: the dough must be baked within the hour.": 60,
}
OTHER = (
    "Slice within 20 minutes.",
    "Eat within 3 days.",
    "Use the icing within 30 minutes.",
    "Bake within 20 minutes of taking it out of the fridge.",
    "Chill the dough for no more than 2 hours.",
    "Let it stand for no longer than 10 minutes.",
)


@pytest.mark.parametrize("said", WITHIN)
def test_how_long_it_may_wait_is_no_step_and_no_baking_time(said: str) -> None:
    card = card_of(read_card(CARD.format(said=said), tables.reader()), "x")
    says = says_of(card)
    assert says.bake_within_min == WITHIN[said]
    assert (says.minutes, says.wait_min, says.chill_min) == ((10, 10), None, None)
    steps = [(step.kind, step.wait_min) for step in typed_steps(card.steps)]
    assert steps == [("beat_in", 0), ("scoop", 0), ("bake", 10)]
    assert card.stated_pieces == 120


def test_it_is_read_behind_the_baking_too_where_the_dough_is_named() -> None:
    text = CARD.format(said="").replace("10 minutes.", "10 minutes, within 40 minutes of mixing.")
    assert says_of(card_of(read_card(text, tables.reader()), "x")).bake_within_min == 40
    text = CARD.format(said="").replace("10 minutes.", "10 minutes. Do not let the batter wait ")
    text = text.replace("wait ", "wait more than 15 min.")
    says = says_of(card_of(read_card(text, tables.reader()), "x"))
    assert (says.bake_within_min, says.minutes) == (15, (10, 10))


def test_how_long_they_stay_on_the_sheet_at_most_is_how_long_they_rest() -> None:
    for said in (
        "leave them for longer than 2 minutes on the sheet",
        "leave them on the sheet for more than 2 minutes",
    ):
        text = CARD.format(said="").replace("10 minutes.", f"10 minutes. Do not {said}.")
        says = says_of(card_of(read_card(text, tables.reader()), "x"))
        assert (says.bake_within_min, says.rest_min) == (None, (2, 2))


@pytest.mark.parametrize("said", OTHER)
def test_other_limits_are_not_the_ovens(said: str) -> None:
    card = card_of(read_card(CARD.format(said=said), tables.reader()), "x")
    says = says_of(card)
    assert says.bake_within_min is None
    assert says.minutes == (10, 10)


@pytest.mark.parametrize(
    ("said", "grams"),
    [
        ("Drop teaspoons of 6 g on lined sheets.", 6),
        ("Drop 15 g heaps on sheets.", 15),
        ("Roll into balls of about 30 g and place on a tray.", 30),
        ("Scoop balls (about 25 g) onto the sheet.", 25),
        ("Shape portions of 40 to 50 g.", 45),
        ("Press in pieces of 10 g chocolate.", None),
    ],
)
def test_what_a_piece_weighs_is_read_however_it_is_said(said: str, grams: float | None) -> None:
    assert find_sizes([said], None, None).piece_g == grams
