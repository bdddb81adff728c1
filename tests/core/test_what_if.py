"""Changes to try: each in the table does what its label says, and nothing else."""

import pytest

from finebatch.core.formula.dough import Card, Line
from finebatch.core.formula.what_if import card_if, said
from finebatch.core.measures.figures import read_in
from finebatch.facts import formula, tables
from finebatch.workflow.tray.what_ifs import find_what_ifs

CARD = Card(
    name="Rounds",
    family="drop",
    mixing="creamed",
    lines=(
        Line("250", "g", "flour_ap"),
        Line("170", "g", "butter_unsalted"),
        Line("1", "cup", "sugar_white"),
        Line("2", "egg", "egg_whole"),
        Line("1 1/2", "tsp", "baking_soda"),
        Line("200", "g", "chocolate_chips"),
        Line("", "g", None),
    ),
)
ON_LINES = [t for t in formula.what_ifs().values() if t.factor != 1]


@pytest.mark.parametrize("key", [t.key for t in ON_LINES])
def test_a_try_changes_only_the_lines_it_means(key: str) -> None:
    tried, larder = formula.what_ifs()[key], tables.larder()
    after = card_if(CARD, tried, larder)
    for before, line in zip(CARD.lines, after.lines, strict=True):
        ingredient = larder[before.ingredient] if before.ingredient else None
        meant = ingredient is not None and (
            ingredient.role in tried.roles or bool(ingredient.traits & set(tried.traits))
        )
        assert (line != before) == meant
        assert (line.unit, line.ingredient) == (before.unit, before.ingredient)


def test_amounts_are_scaled_as_they_were_written() -> None:
    less = card_if(CARD, formula.what_ifs()["less_sugar"], tables.larder())
    assert less.lines[2].amount == "0.9"
    half = card_if(CARD, formula.what_ifs()["half_soda"], tables.larder())
    assert half.lines[4].amount == "3/4"


def test_another_way_of_mixing_is_a_try() -> None:
    melted = card_if(CARD, formula.what_ifs()["melted"], tables.larder())
    assert (melted.mixing, melted.lines) == ("melted", CARD.lines)
    assert card_if(CARD, formula.what_ifs()["creamed"], tables.larder()) is CARD


def test_every_try_is_of_an_effect_or_a_surface() -> None:
    known = {effect.key for effect in tables.effects()}
    for tried in formula.what_ifs().values():
        assert tried.effect in known or tried.effect in ("surface", "baked", "portioned", "laid")
        assert tried.factor != 1 or tried.mixing or tried.setting


def test_what_was_tried_is_said_in_order() -> None:
    words = said(find_what_ifs(["cooler", "less_sugar"]))
    assert read_in(words) == "Tried: oven 10 °C cooler, 10 % less sugar"
