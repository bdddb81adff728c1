"""Tables of doughs as others write them: every line is read, and what has no place is named."""

import pytest

from finebatch.facts import tables
from finebatch.formats.incoming import read_doughs

READER = tables.reader()
USUAL = [("250", "g", "flour_ap"), ("120", "g", "butter_unsalted")]
Lines = list[tuple[str, str, str | None]]

FOREIGN: dict[str, tuple[str, Lines, list[str]]] = {
    "the three columns": (
        "amount,unit,name\n250,g,plain flour\n120,g,unsalted butter\n",
        USUAL,
        [],
    ),
    "in another order, in capitals": (
        "Name,Unit,Amount\nplain flour,g,250\nunsalted butter,g,120\n",
        USUAL,
        [],
    ),
    "quoted cells": (
        '"Name","Unit","Amount"\n"plain flour","g","250"\n"unsalted butter","g","120"\n',
        USUAL,
        [],
    ),
    "semicolons and decimal commas": (
        "Name;Unit;Amount\nplain flour;g;250,5\nunsalted butter;g;120\n",
        [("250 1/2", "g", "flour_ap"), USUAL[1]],
        [],
    ),
    "tabs": ("name\tunit\tamount\nplain flour\tg\t250\nunsalted butter\tg\t120\n", USUAL, []),
    "other words for the columns": (
        "Ingredients,Qty,Units\nplain flour,250,g\nunsalted butter,120,g\n",
        USUAL,
        [],
    ),
    "what and quantity": (
        "What,Quantity,Unit\nplain flour,250,g\nunsalted butter,120,g\n",
        USUAL,
        [],
    ),
    "the unit in the heading": (
        "Ingredient,Weight (g)\nplain flour,250\nunsalted butter,120\n",
        USUAL,
        [],
    ),
    "grams and no amount": ("ingredient,grams\nplain flour,250\nunsalted butter,120\n", USUAL, []),
    "another language's heading": (
        "Zutat;Menge;Einheit\nplain flour;250;g\nunsalted butter;120;g\n",
        USUAL,
        [],
    ),
    "the amount with its unit in one cell": (
        "name,amount\nplain flour,250 g\nunsalted butter,120 g\n",
        USUAL,
        [],
    ),
    "whole lines": ("text\n250 g plain flour\n120 g unsalted butter\n", USUAL, []),
    "cups and spoons": (
        "amount,unit,name\n1 1/2,cups,plain flour\n1/2,tsp,salt\n",
        [("1 1/2", "cup", "flour_ap"), ("1/2", "tsp", "salt_fine")],
        [],
    ),
    "counted": (
        "amount,unit,name\n250,g,plain flour\n2,,eggs\n",
        [USUAL[0], ("2", "egg", "egg_whole")],
        [],
    ),
    "notes beside the lines": (
        "amount,unit,name,notes\n250,g,plain flour,sifted\n120,g,unsalted butter,\n",
        USUAL,
        ["notes"],
    ),
    "prices and shops": (
        "amount,unit,name,price,shop\n250,g,plain flour,1.20,corner\n120,g,unsalted butter,2,\n",
        USUAL,
        ["price", "shop"],
    ),
    "columns without anything": (
        "amount,unit,name,notes,\n250,g,plain flour,,\n120,g,unsalted butter,,\n",
        USUAL,
        [],
    ),
    "more cells than columns": (
        "amount,unit,name\n250,g,plain flour,the fine one\n120,g,unsalted butter\n",
        USUAL,
        ["1 cell without a column"],
    ),
    "empty rows and blanks": (
        "amount , unit , name\n\n 250 , g , plain flour \n,,\n120,g,unsalted butter\n\n",
        USUAL,
        [],
    ),
    "what nobody knows": (
        "amount,unit,name\n250,g,plain flour\n3,g,stardust\n",
        [USUAL[0], ("", "g", None)],
        [],
    ),
    "the program's first line": (
        "sep=;\namount;unit;name\n250;g;plain flour\n120;g;unsalted butter\n",
        USUAL,
        [],
    ),
}


@pytest.mark.parametrize("name", FOREIGN)
def test_tables_of_others(name: str) -> None:
    text, lines, left_out = FOREIGN[name]
    (read,) = read_doughs(text, "Rounds.csv", READER)
    assert [(line.amount, line.unit, line.ingredient) for line in read.card.lines] == lines
    assert list(read.left_out) == left_out
    assert read.card.name == "Rounds"
    # What nobody knows stands there as it was written.
    assert all(line.ingredient or "stardust" in line.text for line in read.card.lines)


def test_a_column_of_recipes_makes_a_dough_of_each_and_sections_are_parts() -> None:
    text = (
        "Recipe,Section,Item,Qty,Unit\n"
        "Rounds,,plain flour,250,g\nRounds,Icing,icing sugar,100,g\nStars,,plain flour,200,g\n"
    )
    rounds, stars = (read.card for read in read_doughs(text, "all.csv", READER))
    assert (rounds.name, stars.name) == ("Rounds", "Stars")
    assert [part.name for part in rounds.parts] == ["Icing"]
    assert rounds.parts[0].lines[0].ingredient == "sugar_icing"
