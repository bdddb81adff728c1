"""A card that is given out as text or Markdown and brought in again: name, parts, grams and steps
are the same, whatever the words."""

from typing import Literal

import pytest
from hypothesis import HealthCheck, assume, example, given, settings
from hypothesis import strategies as st

from finebatch.core.formula.dough import Card, Line, Part
from finebatch.core.formula.step import Step
from finebatch.core.formula.weigh import weigh, weigh_card
from finebatch.core.measures.figures import read_in
from finebatch.facts import tables
from finebatch.formats.card_words import lines_words, write_markdown, write_text
from finebatch.formats.incoming import read_doughs
from finebatch.formats.linked import may_be_linked
from tests.chance import so_many

READER = tables.reader()
LARDER = READER.larder
Form = Literal["txt", "md"]
FORMS: tuple[Form, ...] = ("txt", "md")
NAMES = (
    "Butter",
    "2 eggs",
    "100 g of love",
    "1-2-3 rounds",
    "Sugar & spice | half *and* half",
    "# 5 [the best] <b>",
    "Bake at 180 °C",
    "Grandmother's",
    "Crème brûlée — 焼き菓子",
    "Makes 24",
    "Source",
    "The dough:",
)
VERBS = ("Cream the butter", "Stir in the flour", "Roll out 4 mm thick", "180 °C for 12 minutes")
MARKS = (
    "",
    " until *pale*",
    " (by hand)",
    "; mind the edges",
    " | slowly",
    " <b>now</b>",
    " 1_2_3",
)

names = st.one_of(
    st.sampled_from(NAMES),
    st.text(st.characters(codec="utf-8", categories=["L", "N", "P", "S"]), min_size=1, max_size=30),
).map(lambda name: " ".join(name.split()))
words = st.builds(lambda verb, mark: f"{verb}{mark}.", *map(st.sampled_from, (VERBS, MARKS)))
sayings = st.one_of(st.just(""), st.sampled_from(("It is pale.", "The *middle* is soft", "4 | 5")))
steps = st.builds(
    Step, words, st.integers(0, 60), st.integers(0, 300), cue=sayings, caution=sayings
)
lines = st.builds(
    lambda grams, key: Line(str(grams), "g", key),
    st.integers(1, 900),
    st.sampled_from([key for key in sorted(LARDER) if LARDER[key].natural_unit is None]),
)
parts = st.builds(
    Part,
    st.sampled_from(["wash", "filling", "coating", "topping", "icing", "dip", "dusting"]),
    st.sampled_from(("Lemon drizzle", "icing", "Dark (bitter) dip", "To finish *it*")),
    st.lists(lines, min_size=1, max_size=4).map(tuple),
    st.floats(0, 400).map(lambda g: round(g, 2)),
)
cards = st.builds(
    Card,
    names,
    st.just("drop"),
    st.just("creamed"),
    st.lists(lines, min_size=1, max_size=9).map(lambda some: (Line("250", "g", "flour_ap"), *some)),
    steps=st.lists(steps, min_size=1, max_size=8).map(tuple),
    parts=st.lists(parts, max_size=3).map(tuple),
    stated_pieces=st.none() | st.integers(2, 300),
    note=st.sampled_from(("", "From my aunt.", "Two | lines\nof *it*")),
)


def written(card: Card, form: Form) -> str:
    weighed = weigh_card(card, LARDER, READER.measuring)
    found = [weigh(part.lines, LARDER) for part in card.parts]
    texts = lines_words(card.lines, weighed, LARDER, READER.names)
    part_texts = [
        lines_words(part.lines, one, LARDER, READER.names)
        for part, one in zip(card.parts, found, strict=True)
    ]
    if form == "txt":
        return read_in(write_text(card, texts, part_texts, card.steps))
    return read_in(write_markdown(card, weighed, texts, part_texts, card.steps))


def shown(card: Card) -> object:
    return (
        card.name,
        [(line.ingredient, line.amount) for line in card.lines],
        [
            (p.kind, p.name, p.per_piece_g, [(line.ingredient, line.amount) for line in p.lines])
            for p in card.parts
        ],
        [(s.text, s.hands_min, s.wait_min, s.cue.strip(), s.caution.strip()) for s in card.steps],
        card.stated_pieces,
        card.note,
    )


@pytest.mark.parametrize("form", FORMS)
@given(cards)
@settings(max_examples=so_many(300), suppress_health_check=[HealthCheck.too_slow])
@example(Card("Butter", "drop", "creamed", (Line("250", "g", "flour_ap"),), steps=(Step("Mix."),)))
def test_what_is_given_out_comes_back_the_same(form: Form, card: Card) -> None:
    assume(not may_be_linked(card.name))
    (read,) = read_doughs(written(card, form), f"a.{form}", READER)
    assert shown(read.card) == shown(card)


FOREIGN = """# Ginger rounds

Makes about 30.

| Amount | Ingredient |
|-------:|------------|
| 250 g | plain flour |
| 1 tsp | ground **ginger** |
| 120 g | butter |

## For the icing

* 100 g icing sugar
* 1 tbsp lemon juice

## Method

1. Rub the butter into the flour.
2. Roll out 5 mm thick.
3. 180 °C for 12 minutes.
"""


def test_markdown_of_others_is_read_without_its_marks() -> None:
    (read,) = read_doughs(FOREIGN, "a.md", READER)
    card = read.card
    assert (card.name, card.stated_pieces) == ("Ginger rounds", 30)
    assert [(line.amount, line.unit, line.ingredient) for line in card.lines] == [
        ("250", "g", "flour_ap"),
        ("1", "tsp", "ginger_ground"),
        ("120", "g", "butter_unsalted"),
    ]
    ((kind, count),) = ((part.kind, len(part.lines)) for part in card.parts)
    assert (kind, count) == ("icing", 2)
    assert [step.text for step in card.steps] == [
        "Rub the butter into the flour.",
        "Roll out 5 mm thick.",
        "180 °C for 12 minutes.",
    ]
