"""Whole cards as text: with headings, without, and in any disorder."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.card_text import ReadCard, read_card
from finebatch.core.formula.guess import guess_family, guess_mixing
from finebatch.core.refusal import Refusal
from finebatch.facts import tables


def read(text: str) -> ReadCard:
    return read_card(text, tables.reader())


WHOLE = """Oat rounds
Makes about 2 dozen
Oven: 180 °C / 350 °F, gas 4

Ingredients
1 cup (125 g) plain flour
• 150 g soft butter
1 large egg plus 1 egg yolk
1/2 tsp each cinnamon and nutmeg
1.5 dl stardust

For the icing:
100 g icing sugar

Method
1. Cream the butter and sugar for 5 minutes.
2. Rest for 15 minutes.
Step 3: Bake for 25-30 minutes.

Notes
Keeps a week.
"""


def test_a_card_with_headings() -> None:
    card = read(WHOLE)
    assert card.title == "Oat rounds"
    assert card.stated_pieces == 24
    assert card.stated_oven == "180 °C / 350 °F, gas 4"
    assert [line.ingredient for line in card.lines] == [
        "flour_ap",
        "butter_unsalted",
        "egg_whole",
        "egg_yolk",
        "cinnamon",
        "nutmeg_ground",
        None,
    ]
    assert card.lines[4].grams == pytest.approx(125 / 96)
    (icing,) = card.parts
    assert (icing.kind, icing.name, len(icing.lines)) == ("icing", "icing", 1)
    assert [(s.hands_min, s.wait_min) for s in card.steps] == [(5, 0), (1, 15), (0, 0)]
    assert card.steps[2].text.startswith("Bake")
    assert card.notes == ("Keeps a week.",)


def test_a_card_without_headings() -> None:
    card = read(
        "Ginger snaps\n250 g plain flour\n2 tsp ground ginger\ndemerara sugar, for rolling\n"
        "Rub the butter into the flour, then bring it together with the syrup.\n"
        "Bake at 190C for 10-12 minutes."
    )
    assert card.title == "Ginger snaps"
    assert [line.ingredient for line in card.lines] == ["flour_ap", "ginger_ground"]
    (coating,) = card.parts
    assert (coating.kind, [one.ingredient for one in coating.lines]) == (
        "coating",
        ["sugar_demerara"],
    )
    assert len(card.steps) == 2


@pytest.mark.parametrize(
    ("heading", "kind"),
    [
        ("For the filling", "filling"),
        ("Glaze:", "icing"),
        ("Egg wash:", "wash"),
        ("For dusting:", "dusting"),
        ("To decorate:", "topping"),
        ("For rolling:", "coating"),
        ("Chocolate dip:", "dip"),
    ],
)
def test_parts_by_their_headings(heading: str, kind: str) -> None:
    card = read(f"Ingredients\n200 g flour\n{heading}\n50 g sugar\n")
    assert len(card.lines) == 1
    assert [part.kind for part in card.parts] == [kind]
    assert card.parts[0].lines[0].grams == 50


def test_single_lines_are_ingredients_whatever_they_look_like() -> None:
    for text in ("Flour: 300 g", "250 g flour", "demerara sugar, for rolling", "moon dust"):
        card = read(text)
        assert (len(card.lines), card.title, card.steps) == (1, "", ())


def test_only_ingredients_make_no_title() -> None:
    card = read("demerara sugar, for rolling\n200 g flour")
    assert (card.title, len(card.lines), len(card.parts)) == ("", 1, 1)
    assert read("Brown sugar drops\n200 g flour").title == "Brown sugar drops"


@given(st.lists(st.text(max_size=60), max_size=20))
def test_nothing_that_is_pasted_is_lost(written: list[str]) -> None:
    text = "\n".join(["Ingredients", "200 g flour", *written])
    try:
        card = read(text)
    except Refusal:
        return
    kept = (
        len(card.lines)
        + len(card.steps)
        + len(card.notes)
        + sum(len(part.lines) for part in card.parts)
    )
    assert kept >= 1


def test_too_many_lines_are_refused() -> None:
    with pytest.raises(Refusal, match="at most 500"):
        read("1 g salt\n" * 501)


def test_family_and_mixing_are_guessed_from_the_words() -> None:
    assert guess_family(["Almond rusks", "Slice and bake again"]) == "twice_baked"
    assert guess_family(["Stars", "Roll out and use a cutter"]) == "rolled"
    assert guess_family(["Butter shortbread"]) == "shortbread"
    assert guess_family(["Chocolate rounds"]) == "drop"
    assert guess_mixing(["Rub in the butter until like breadcrumbs"]) == "rubbed_in"
    assert guess_mixing(["Melt the butter with the syrup"]) == "melted"
    assert guess_mixing(["Whisk the eggs and sugar until thick"]) == "whisked"
    assert guess_mixing(["Stir in the oil"]) == "oil"
    assert guess_mixing(["Mix everything"]) == "creamed"


def test_baking_powder_does_not_make_it_work_at_the_oven() -> None:
    card = read(
        "Rounds\n250 g flour\nMethod\nSift the flour with the baking powder for 4 minutes.\n"
        "Beat in the baking soda.\nBake for 12 minutes."
    )
    assert [step.hands_min for step in card.steps] == [4, 2, 0]
