"""Cross-checks: each slip of a written card is found, told with its evidence, and mended."""

from dataclasses import replace
from typing import Any

import pytest

from finebatch.core.formula.card_text import read_card
from finebatch.core.formula.checks.check import Check
from finebatch.core.formula.checks.method import ForeseenPiece
from finebatch.core.formula.checks.run import cross_check
from finebatch.core.formula.dough import Card, Line
from finebatch.core.formula.step import Step
from finebatch.core.formula.weigh import weigh
from finebatch.core.measures.figures import read_in
from finebatch.facts import formula, tables

READER = tables.reader()
PIECE = ForeseenPiece(grams=28, minutes=12, pieces=30)


def card_of(text: str, **more: Any) -> Card:
    lines = tuple(line.line for line in read_card(text, READER).lines)
    return Card("A", "drop", "creamed", lines, **more)


GOOD = "250 g plain flour\n150 g butter\n150 g sugar\n1 egg\n1 tsp baking powder\n1/2 tsp salt"


def checks(card: Card, piece: ForeseenPiece | None = PIECE) -> list[Check]:
    facts = formula.checking(READER)
    return cross_check(card, weigh(card.lines, READER.larder), facts, piece)


def only(card: Card, **more: Any) -> Check:
    (found,) = checks(card, **more)
    return found


def test_a_sound_card_has_nothing_to_look_at() -> None:
    steps = (Step("Cream butter and sugar; beat in the egg."), Step("Add the dry ingredients."))
    sound = card_of(GOOD, steps=steps, stated_oven="180 °C / 350 °F, gas 4, 10–12 minutes")
    assert checks(replace(sound, stated_pieces=24)) == []


def test_cups_against_grams() -> None:
    found = only(card_of("1 cup (160 g) plain flour\n" + GOOD))
    assert found.where == "lines.0"
    assert "115 to 142 g" in found.evidence
    assert found.mend
    assert (found.mend.line, found.mend.amount, found.mend.unit) == (0, "125", "g")


def test_ounces_against_grams() -> None:
    found = only(card_of(GOOD + "\n1 oz (50 g) raisins"))
    assert found.title == "Ounces and grams contradict each other"
    assert "1 oz is 28 g" in read_in(found.evidence)


def test_a_contradiction_is_over_once_the_line_was_changed() -> None:
    card = card_of("1 cup (160 g) plain flour\n" + GOOD)
    changed = replace(card.lines[0], amount="140")
    assert checks(replace(card, lines=(changed, *card.lines[1:]))) == []


@pytest.mark.parametrize(
    ("line", "title", "mend"),
    [
        ("1 1/2 tbsp salt", "Too much salt", ("1 1/2", "tsp")),
        ("1 tbsp baking soda", "Too much baking soda", None),
        ("2 tbsp cloves", "Too much ground cloves", None),
        ("60 g vanilla extract", "Too much vanilla extract", ("6", "g")),
    ],
)
def test_amounts_that_cannot_be(line: str, title: str, mend: tuple[str, str] | None) -> None:
    found = next(c for c in checks(card_of(f"{GOOD}\n{line}")) if c.title == title)
    assert "% of the flour" in found.evidence
    if mend:
        assert found.mend
        assert (found.mend.amount, found.mend.unit) == mend


@pytest.mark.parametrize(
    ("oven", "title", "mended"),
    [
        ("350°C / 180°F", "°C and °F are swapped", "350 °F / 180 °C"),
        ("350°C/180°F", "°C and °F are swapped", "350 °F/180 °C"),
        ("180C/180C fan", "The fan setting does not match", "180C/160 °C fan"),
        ("350 °C", "No oven bakes cookies at that", "350 °F"),
        ("180 °F", "No oven bakes cookies at that", "180 °C"),
        ("190 °C (350 °F)", "°C and °F do not match", "190 °C (375 °F)"),
        ("177 °C (425 °F)", "°C and °F do not match", "220 °C (425 °F)"),
        ("350°F (200°C / gas 4)", "°C and °F do not match", "350°F (175 °C / gas 4)"),
        ("180 °C, gas 7", "The gas mark does not match", "180 °C, gas 4"),
        ("180 °C (fan 180 °C)", "The fan setting does not match", "180 °C (160 °C fan)"),
    ],
)
def test_oven_settings_that_do_not_agree(oven: str, title: str, mended: str) -> None:
    found = only(card_of(GOOD, stated_oven=oven))
    assert found.title == title
    assert found.mend
    assert found.mend.stated_oven == mended
    assert checks(card_of(GOOD, stated_oven=mended)) == []


@pytest.mark.parametrize(
    "oven",
    [
        "180 °C",
        "350°F",
        "gas mark 4",
        "180C/160C fan/gas 4",
        "Bake at 190 °C / 375 °F",
        "",
        "180 °C for 10 minutes, then 160 °C",
        "fan 160",
    ],
)
def test_oven_settings_that_agree(oven: str) -> None:
    assert checks(card_of(GOOD, stated_oven=oven)) == []


def test_a_slip_in_a_step_is_mended_in_that_step() -> None:
    steps = (Step("Mix all the ingredients."), Step("Bake at 350°C until gold."))
    found = only(card_of(GOOD, steps=steps))
    assert found.where == "steps.1"
    assert found.mend
    assert (found.mend.step, found.mend.step_text) == (1, "Bake at 350 °F until gold.")


def test_an_ingredient_that_no_step_uses_and_a_step_that_uses_what_is_not_listed() -> None:
    steps = (Step("Cream butter and sugar with the egg."), Step("Fold in flour and raisins."))
    found = {c.key: c for c in checks(card_of(GOOD, steps=steps))}
    assert set(found) == {"unused:baking_powder", "unused:salt_fine", "unlisted:raisins"}
    assert found["unlisted:raisins"].where == "steps.1"


def test_a_step_may_name_an_ingredient_in_short() -> None:
    good = card_of(GOOD)
    lines = (*good.lines, Line("1/2", "tsp", "baking_soda"), Line("50", "g", "peanut_butter"))
    steps = (Step("Cream butter, sugar, egg, salt and baking powder; add flour and the soda."),)
    found = [c.key for c in checks(replace(good, lines=lines, steps=steps))]
    assert found == ["unused:peanut_butter"]


def test_greased_sheets_and_part_lines_are_not_missing() -> None:
    steps = (Step("Mix all the ingredients."), Step("Butter the tray; dust with the raisins."))
    assert [c.key for c in checks(card_of(GOOD, steps=steps))] == ["unlisted:raisins"]
    assert checks(card_of(GOOD, steps=(Step("Mix everything on a lightly oiled bench."),))) == []


def test_minutes_that_do_not_fit_the_piece() -> None:
    assert only(card_of(GOOD, stated_oven="180 °C, 40–45 minutes")).where == "stated_oven"
    assert only(card_of(GOOD, stated_oven="180 °C, 5 minutes")).where == "stated_oven"
    assert checks(card_of(GOOD, stated_oven="180 °C, 20–24 minutes")) == []
    assert checks(card_of(GOOD, stated_oven="180 °C, 40–45 minutes"), piece=None) == []


@pytest.mark.parametrize(("pieces", "what"), [(200, "Too little dough"), (3, "Too much dough")])
def test_a_yield_that_the_dough_cannot_give(pieces: int, what: str) -> None:
    found = only(card_of(GOOD, stated_pieces=pieces))
    assert found.title.startswith(what)
    assert found.mend
    assert found.mend.stated_pieces == PIECE.pieces


def test_what_was_dismissed_for_good_does_not_come_back() -> None:
    card = card_of("1 cup (160 g) plain flour\n" + GOOD)
    settled = replace(card, settled=(only(card).key,))
    assert checks(settled) == []
    other = replace(settled, lines=(Line("1", "g", "flour_ap"), *settled.lines))
    assert checks(other) == []


@pytest.mark.parametrize(
    "tool",
    [
        "an ice-cream scoop",
        "an ice cream scoop",
        "a pastry cutter",
        "a butter knife",
        "a cookie scoop",
        "a chocolate thermometer",
    ],
)
def test_a_tool_is_no_ingredient(tool: str) -> None:
    card = card_of(
        "Plain rounds\n250 g plain flour\n150 g butter\n1 egg\n100 g sugar\nMethod\n"
        f"Cream the butter with the sugar, beat in the egg, stir in the flour with {tool}."
    )
    assert [c.title for c in checks(card) if "in no list" in c.title] == []
