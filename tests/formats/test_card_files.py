"""A dough as CSV and as text: what is written is read back, and bad files say what to do."""

import csv
import io
from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from finebatch.core.formula.card_text import read_card
from finebatch.core.formula.dough import Card, Line, Part
from finebatch.core.formula.step import Step
from finebatch.core.formula.weigh import weigh
from finebatch.core.measures.figures import read_in
from finebatch.core.measures.kitchen_units import METRIC, US
from finebatch.facts import tables
from finebatch.formats.card_csv import read_csv, write_csv
from finebatch.formats.card_words import lines_words, write_markdown, write_text
from finebatch.formats.incoming import read_doughs
from finebatch.formats.read_dough import ReadDough
from finebatch.formats.unreadable import UnreadableFile
from tests.cards import cards, lines

READER = tables.reader()
LARDER = READER.larder


def as_csv(card: Card) -> str:
    parts = [weigh(part.lines, LARDER) for part in card.parts]
    return write_csv(card, weigh(card.lines, LARDER), parts, LARDER)


@given(cards())
def test_a_formula_comes_back_from_csv(card: Card) -> None:
    assume(card.name == card.name.strip())
    back = read_csv(as_csv(card), "file", READER)[0].card
    assert (back.name, back.family, back.mixing) == (card.name, card.family, card.mixing)
    assert back.lines == card.lines


def test_parts_come_back_from_csv() -> None:
    icing = Part("icing", "lemon icing", (Line("100", "g", "sugar_icing"),), 3.5)
    card = Card("A", "drop", "melted", (Line("250", "g", "flour_ap"),), parts=(icing,))
    assert read_csv(as_csv(card), "file", READER) == [ReadDough(card)]


@pytest.mark.parametrize("name", ["=1+1", "+a", "-a", "@a"])
def test_no_cell_is_a_formula_to_a_spreadsheet(name: str) -> None:
    card = Card(name, "drop", "creamed", (Line("1", "g", "flour_ap", text=name),))
    text = as_csv(card)
    for row in list(csv.reader(io.StringIO(text)))[1:]:
        assert not any(cell.startswith(("=", "+", "-", "@")) for cell in row)
    assert read_csv(text, "file", READER) == [ReadDough(card)]


def test_a_plain_table_of_another_hand_is_read_by_its_names() -> None:
    text = "amount;unit;name\n250;g;plain flour\n2;;large eggs\n1;pinch;salt\n"
    card = read_csv(text, "Shop list", READER)[0].card
    assert card.name == "Shop list"
    assert [line.ingredient for line in card.lines] == ["flour_ap", "egg_whole", "salt_fine"]


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "first row"),
        ("a,b\n1,2\n", "first row"),
        ("amount,unit,ingredient\n", "first row"),
        ("amount,unit,ingredient\n1,bucket,flour_ap\n", "Row 2: “bucket” is no unit"),
        ("dough,family,amount,unit,name\nA,cake,1,g,salt\n", "Row 2: “cake” is no family"),
        ("amount,unit,name\n" + "1,g,salt\n" * 501, "At most 500 rows"),
    ],
)
def test_a_table_that_does_not_fit_names_the_row(text: str, words: str) -> None:
    with pytest.raises(UnreadableFile, match=words):
        read_csv(text, "file", READER)


def in_words(card: Card) -> list[str]:
    words = lines_words(card.lines, weigh(card.lines, LARDER), LARDER, READER.names)
    return [read_in(text) for text in words]


@given(lines())
def test_a_line_that_is_printed_is_read_back(line: Line) -> None:
    weighed = weigh([line], LARDER)
    grams = weighed.lines[0].grams
    assume(grams is not None and grams >= 0.05)
    (words,) = lines_words([line], weighed, LARDER, READER.names)
    for units in (METRIC, US):
        text = read_in(words, units)
        read = READER.read(text)
        assert read.ingredient == line.ingredient, text
        assert not read.conflict, text
        assert read.grams == pytest.approx(grams, rel=0.06, abs=0.006), text


def test_a_range_is_printed_and_read_back_as_a_range() -> None:
    (text,) = in_words(Card("A", "drop", "creamed", (Line("80–110", "g", "sugar_caster"),)))
    assert READER.read(text).range_g == pytest.approx((80, 110))


CARD = Card(
    "Oat rounds",
    "drop",
    "creamed",
    (Line("2 1/4", "cup", "flour_ap"), Line("1", "stick", "butter_unsalted")),
    steps=(Step("Cream the butter.", 4), Step("Bake for 12 minutes.")),
    parts=(Part("icing", "icing", (Line("100", "g", "sugar_icing"),), 3.0),),
    stated_pieces=24,
    stated_oven="180 °C",
    note="Better with | pipes",
)


def test_a_card_that_is_printed_is_read_back_whole() -> None:
    icing = lines_words(
        CARD.parts[0].lines, weigh(CARD.parts[0].lines, LARDER), LARDER, READER.names
    )
    read = read_card(read_in(write_text(CARD, in_words(CARD), [icing], CARD.steps)), READER)
    assert read.title == CARD.name
    assert [line.ingredient for line in read.lines] == ["flour_ap", "butter_unsalted"]
    assert [step.text for step in read.steps] == [step.text for step in CARD.steps]
    assert (read.parts[0].kind, read.parts[0].lines[0].grams) == ("icing", 100)
    assert (read.stated_pieces, read.stated_oven) == (24, "180 °C")


def test_markdown_has_a_row_a_line_and_no_broken_table() -> None:
    weighed = weigh(CARD.lines, LARDER)
    text = write_markdown(
        replace(CARD, name="A | B"), weighed, in_words(CARD), [["100 g a | b"]], CARD.steps
    )
    table = [row for row in text.splitlines() if row.startswith("|")]
    assert len(table) == 2 + len(CARD.lines) + 1
    assert "281 g" in table[2]
    assert "a \\| b" in text


@pytest.mark.parametrize(
    ("name", "text"),
    [
        ("a.txt", "Rounds\n250 g plain flour\n100 g butter"),
        ("a.csv", "amount,unit,name\n250,g,plain flour\n100,g,butter\n"),
        ("a.json", '{"@type":"Recipe","recipeIngredient":["250 g plain flour","100 g butter"]}'),
        ("", "\ufeff250 g plain flour\n100 g butter"),
    ],
)
def test_a_file_is_known_by_its_looks(name: str, text: str) -> None:
    (card,) = (read.card for read in read_doughs(text, name, READER))
    assert [line.ingredient for line in card.lines] == ["flour_ap", "butter_unsalted"]


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("x" * 1_000_001, "1 MB"),
        ("flour\0", "not a text file"),
        ("\n\n", "No ingredient"),
        ("1 g salt\n" * 501, "at most 500 lines"),
    ],
)
def test_a_file_that_is_too_much_or_nothing_says_so(text: str, words: str) -> None:
    with pytest.raises(UnreadableFile, match=words):
        read_doughs(text, "a.txt", READER)


@given(st.text(max_size=300), st.sampled_from(["a.txt", "a.csv", "a.json"]))
def test_any_file_is_read_or_refused(text: str, name: str) -> None:
    try:
        assert all(r.card.lines or r.card.name for r in read_doughs(text, name, READER))
    except UnreadableFile as error:
        assert str(error).endswith((".", "flour."))
