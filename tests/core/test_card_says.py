"""What a card says beside its lines: oven, minutes, cold, rests, sizes, pieces."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.card_says import CardSays, card_of, says_of
from finebatch.core.formula.card_text import read_card
from finebatch.core.formula.guess import guess_family
from finebatch.core.formula.judge_cards import CardCase, UnderstoodCard, understand
from finebatch.core.measures.durations import find_durations
from finebatch.core.refusal import Refusal
from finebatch.facts import formula, tables
from tests.ordinary import CARDS

READER = tables.reader()


def says(*steps: str) -> CardSays:
    text = "\n".join(["Caraway rounds", "200 g flour", "Method", *steps])
    return says_of(card_of(read_card(text, READER), "Caraway rounds"))


@pytest.mark.parametrize(
    ("text", "low", "high"),
    [
        ("10 minutes", 10, 10),
        ("10–12 min", 10, 12),
        ("ten to twelve minutes", 10, 12),
        ("an hour", 60, 60),
        ("half an hour", 30, 30),
        ("an hour and a half", 90, 90),
        ("1 1/2 hours", 90, 90),
        ("1 hour 30 minutes", 90, 90),
        ("a couple of hours", 120, 120),
        ("2 to 3 hrs", 120, 180),
        ("at least 2 hours or overnight", 120, 720),
        ("30 min (or overnight)", 30, 720),
        ("overnight", 480, 720),
        ("a day", 1440, 1440),
        ("90 seconds", 1.5, 1.5),
    ],
)
def test_times_as_cards_say_them(text: str, low: float, high: float) -> None:
    (found,) = find_durations(text)
    assert (found.low, found.high) == pytest.approx((low, high))


@pytest.mark.parametrize("text", ["", "12 pieces", "a minimum", "2 min.5", "heat 350", "0 minutes"])
def test_what_is_no_time_is_none(text: str) -> None:
    assert [d for d in find_durations(text) if d.low != 2] == []


@pytest.mark.parametrize(
    ("step", "celsius", "fan", "asked"),
    [
        ("Bake at 350 for 12 minutes", 176.7, False, False),
        ("Bake at 180 for 12 minutes", 180, False, False),
        ("bake 375 for 8 min", 190.6, False, False),
        ("325 degrees for 15 minutes", 162.8, False, False),
        ("180C (160 fan) for 10 minutes", 180, False, False),
        ("160 °C fan, 12 minutes", 160, True, False),
        ("Gas 4, 12 minutes", 176.7, False, False),
        ("Bake at 350 °F / 180 °C for 9 minutes", 180, False, False),
        ("Bake at 180 °F (350 °C) for 9 minutes", 350, False, True),
        ("Bake at 200 °C / 300 °F for 9 minutes", 200, False, True),
        ("Chill, then eat", None, False, False),
    ],
)
def test_the_oven_as_the_card_means_it(
    step: str, celsius: float | None, fan: bool, asked: bool
) -> None:
    found = says(step)
    assert found.oven_c == (None if celsius is None else pytest.approx(celsius, abs=0.1))
    assert (found.fan, found.oven_asked) == (fan, asked)


@pytest.mark.parametrize(
    ("steps", "fields"),
    [
        (["Chill for 1 hour.", "Bake at 180 °C for 10-12 minutes."], {"chill_min": (60, 60)}),
        (["Wrap and put in the fridge overnight.", "Bake 9 min."], {"chill_min": (480, 720)}),
        (["Rest in the cold for half an hour.", "Bake 9 min."], {"chill_min": (30, 30)}),
        (["Let the dough stand 20 minutes.", "Bake 9 min."], {"wait_min": (20, 20)}),
        (["Let it stand 10 minutes if it is too hard.", "Bake 9 min."], {"wait_min": None}),
        (["Bake 9 min.", "Leave on the tray 5 minutes."], {"minutes": (9, 9), "rest_min": (5, 5)}),
        (["Bake 9 min.", "Don’t touch them for 15 minutes."], {"rest_min": (15, 15)}),
        (["Bake 9 min.", "Ice them and leave to set for an hour."], {"setting_min": (60, 60)}),
        (
            ["Bake 25 minutes.", "Cool 15 minutes, then slice.", "Bake again for 8 min a side."],
            {"cool_before_slicing_min": (15, 15), "second_minutes": (16, 16)},
        ),
        (["Bake 25 min at 170C.", "Bake again 10 min at 150C."], {"second_oven_c": 150}),
        (["Preheat the oven to 180 °C for 20 minutes or so."], {"chill_min": None}),
        (["Roll 5 mm thick and cut 6 cm stars."], {"thickness_mm": 5, "cutter_mm": 60}),
        (["roll to 1/4 inch, cut with a 2 inch cutter"], {"thickness_mm": 6.35, "cutter_mm": 50.8}),
        (["Roll out 3 mm thick. Stamp 5 cm rounds."], {"thickness_mm": 3, "cutter_mm": 50}),
        (["Form into 2 logs about 5 cm across."], {"logs": 2, "log_mm": 50, "log_length_mm": None}),
        (["Shape into 2 logs, 30 cm long and 5 cm wide."], {"log_mm": 50, "log_length_mm": 300}),
        (["Slice 6 mm thick and bake for 15 minutes."], {"slice_mm": 6, "thickness_mm": None}),
        (["Divide in 12 and roll into balls."], {"pieces": 12}),
        (["Shape crescents, 12 g each."], {"piece_g": 12}),
        (["Press into an 8 inch square pan."], {"pan_mm": 203.2}),
        (["Press into a 20 x 30 cm tin."], {"pan_mm": 200}),
        (["Bake 9 min until golden brown."], {"colour": "golden"}),
        (["Bake 9 min, they should stay pale."], {"colour": "pale"}),
        (["Bake 9 min until deep brown."], {"colour": "brown"}),
        (["Bake 9 min, still soft in the middle."], {"doneness": "soft_centre"}),
        (["Bake 20 min until crisp."], {"doneness": "crisp"}),
    ],
)
def test_each_fact_comes_from_the_sentence_that_tells_of_it(
    steps: list[str], fields: dict[str, Any]
) -> None:
    found = says(*steps)
    for name, wanted in fields.items():
        have = getattr(found, name)
        assert have == (pytest.approx(wanted) if isinstance(wanted, (float, tuple)) else wanted), (
            name
        )


@pytest.mark.parametrize(
    ("step", "family"),
    [
        ("Form into a log, chill, slice the log.", "shortbread"),
        ("Re-roll the scraps once.", "rolled"),
        ("Drop spoonfuls on a sheet.", "drop"),
    ],
)
def test_the_family_is_guessed_from_the_steps(step: str, family: str) -> None:
    assert guess_family([step]) == family


FACTS = formula.checking(READER)

SNAPS, WINDOWS, ROUNDS = CARDS["snaps"], CARDS["linzer"], CARDS["rye"]
CRUMBLES = """Nutty crumbles
12 pieces
120 g lard
100 g caster sugar
1/2 an egg (keep the other half to glaze)
200 g plain flour
60 g walnuts, a few kept back for the tops
Cream, add the egg, then flour and nuts
Bake at 175 F (347 C) for 20-25 minutes"""


def understood(text: str) -> UnderstoodCard:
    return understand(CardCase("it", text), FACTS)


@pytest.mark.parametrize(
    ("text", "dough_g", "pieces"),
    [(SNAPS, 507, 36), (WINDOWS, 600, 24), (ROUNDS, 488, None), (CRUMBLES, 505, 12)],
)
def test_ordinary_cards_are_sorted_without_a_question(
    text: str, dough_g: float, pieces: int | None
) -> None:
    card = understood(text)
    assert card.dough_g == pytest.approx(dough_g, rel=0.01)
    assert card.says.pieces == pieces
    assert card.asked == (["oven"] if text == CRUMBLES else [])


@pytest.mark.parametrize("text", [SNAPS, WINDOWS])
def test_ordinary_cards_raise_no_alarm(text: str) -> None:
    assert understood(text).alarms == []


def test_what_is_kept_back_is_a_part_without_an_amount() -> None:
    card = understood(CRUMBLES)
    assert card.alarms == ["temperature"]
    parts = {p.kind: [(one.ingredient, one.grams) for one in p.lines] for p in card.read.parts}
    assert parts == {"wash": [("egg_whole", None)], "topping": [("walnuts", None)]}


@given(st.text(max_size=400))
def test_any_text_is_understood_or_refused(text: str) -> None:
    try:
        card = understood(text)
    except Refusal:
        return
    for name in ("minutes", "chill_min", "rest_min", "wait_min"):
        span = getattr(card.says, name)
        assert span is None or 0 < span[0] <= span[1]
