"""Markdown as others write it: one card in twenty-five styles, and nothing of it is lost unsaid."""

import pytest

from finebatch.core.refusal import Refusal
from finebatch.facts import tables
from finebatch.formats.card_markdown import MOST_LETTERS, card_of_markdown
from finebatch.formats.incoming import read_doughs

READER = tables.reader()
LINES = "- 250 g plain flour\n- 120 g butter\n"
STEPS = "1. Mix.\n2. Bake at 180 °C for 12 minutes.\n"
HEAD = "# Rounds\n\nMakes 24.\n\n"
USUAL = f"{HEAD}## Ingredients\n\n{LINES}\n## Method\n\n{STEPS}"


def tabled(*rows: str) -> str:
    return "\n".join([f"{HEAD}{rows[0]}", *rows[1:], "", "## Method", "", STEPS])


STYLES = {
    "headings with signs": USUAL,
    "headings underlined": (
        "Rounds\n======\n\nMakes 24.\n\nIngredients\n-----------\n\n"
        f"{LINES}\nMethod\n------\n\n{STEPS}"
    ),
    "smaller headings": USUAL.replace("# ", "### "),
    "other words": USUAL.replace("Method", "Directions"),
    "bold headings": USUAL.replace("## Ingredients", "**Ingredients**").replace(
        "## Method", "**Method**"
    ),
    "plus signs and brackets": USUAL.replace("- ", "+ ").replace("1.", "1)").replace("2.", "2)"),
    "tasks": USUAL.replace("- 250", "- [ ] 250").replace("- 120", "- [x] 120"),
    "bold amounts": USUAL.replace("250 g", "**250 g**").replace("Mix.", "**Mix.**"),
    "bold facts": USUAL.replace("Makes 24.", "**Makes 24.**"),
    "what stands before it": (
        f"---\ntitle: Rounds\nyield: 24\n---\n\n## Ingredients\n\n{LINES}\n## Method\n\n{STEPS}"
    ),
    "a table": tabled(
        "| amount | ingredient |", "|---|---|", "| 250 g | plain flour |", "| 120 g | butter |"
    ),
    "a table, names first": tabled(
        "| ingredient | amount |", "|---|---:|", "| plain flour | 250 g |", "| butter | 120 g |"
    ),
    "a table of three columns": tabled(
        "amount | unit | ingredient", "---|---|---", "250 | g | plain flour", "120 | g | butter"
    ),
    "a table with the unit in its heading": tabled(
        "| Ingredient | Amount (g) |", "|---|---|", "| plain flour | 250 |", "| butter | 120 |"
    ),
    "a list in a list": USUAL.replace(LINES, "- Dough\n  - 250 g plain flour\n  - 120 g butter\n"),
    "lines without a list": USUAL.replace(LINES, "250 g plain flour  \n120 g butter\n").replace(
        STEPS, "Mix.\n\nBake at 180 °C for 12 minutes.\n"
    ),
    "loose lists": USUAL.replace("\n- 120", "\n\n- 120").replace("\n2. ", "\n\n2. "),
    "links": USUAL.replace("plain flour", "[plain flour](https://example.org/flour)"),
    "headings between": USUAL.replace(LINES, f"### For the dough\n\n{LINES}")
    .replace("1. Mix", "### Mix it\n\n1. Mix")
    .replace("2. Bake", "\n### Bake it\n\n1. Bake"),
    "code": USUAL.replace(LINES, "```\n250 g plain flour\n120 g butter\n```\n"),
    "entities": USUAL.replace("250 g", "250&nbsp;g").replace("°C", "&deg;C"),
    "breaks and what is hidden": USUAL.replace("24.", "24.<br>").replace(
        "\n## Method", "\n<!-- not this -->\n\n## Method"
    ),
    "steps with signs": USUAL.replace("1. ", "- ").replace("2. ", "- "),
    "another machine's lines": USUAL.replace("\n", "\r\n"),
    "rules": USUAL.replace("\n## ", "\n---\n\n## "),
}


@pytest.mark.parametrize("style", STYLES)
def test_a_card_in_any_style(style: str) -> None:
    (read,) = read_doughs(STYLES[style], "file.md", READER)
    card = read.card
    assert (card.name, card.stated_pieces, card.parts, card.note) == ("Rounds", 24, (), "")
    assert [(line.amount, line.unit, line.ingredient) for line in card.lines] == [
        ("250", "g", "flour_ap"),
        ("120", "g", "butter_unsalted"),
    ]
    assert [step.text for step in card.steps] == ["Mix.", "Bake at 180 °C for 12 minutes."]
    assert read.left_out == ()


def test_what_is_beside_the_card_is_a_note_or_named() -> None:
    quoted = USUAL.replace("Makes", "> From my aunt.\n\nMakes")
    quoted += "\n***\n\nThey keep a week.\n\n![on a plate](rounds.jpg)\n"
    (read,) = read_doughs(quoted, "file.md", READER)
    assert read.card.note == "From my aunt.\nThey keep a week."
    assert len(read.card.steps) == 2
    assert read.left_out == ("picture “on a plate”",)


def test_what_stands_before_it_and_is_no_fact_is_a_note() -> None:
    text = (
        f"---\ntitle: Rounds\nauthor: Kim\n---\n\n## Ingredients\n\n{LINES}\n## Method\n\n{STEPS}"
    )
    (read,) = read_doughs(text, "file.md", READER)
    assert (read.card.name, read.card.note) == ("Rounds", "author: Kim")


def test_what_takes_too_long_to_read_is_refused() -> None:
    with pytest.raises(Refusal, match="at most 100,000 letters"):
        card_of_markdown("# a\n# b\n" + "![" * MOST_LETTERS)
