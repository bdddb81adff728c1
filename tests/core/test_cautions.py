"""Cautions and allergens: each given for what brings it, and for nothing else."""

from dataclasses import replace

import pytest

from finebatch.core.care.cautions import allergens, cautions
from finebatch.core.formula.dough import Card, Line, Part, PartKind
from finebatch.facts import formula, tables

LARDER = tables.larder()
TEXTS = formula.caution_texts()
PLAIN = Card("A", "drop", "oil", (Line("100", "g", "sugar_white"), Line("50", "g", "oil_neutral")))


def given(card: Card) -> set[str]:
    said = cautions(card, LARDER, TEXTS)
    return {trigger for trigger, text in TEXTS.items() if text in said}


def with_line(key: str) -> Card:
    return replace(PLAIN, lines=(*PLAIN.lines, Line("20", "g", key)))


def with_part(kind: PartKind, key: str) -> Card:
    return replace(PLAIN, parts=(Part(kind, "top", (Line("20", "g", key),), 3),))


@pytest.mark.parametrize(
    ("key", "triggers"),
    [
        ("sugar_white", set()),
        ("flour_ap", {"flour"}),
        ("oats_rolled", {"flour", "oats"}),
        ("cream_double", {"dairy"}),
        ("margarine", set()),
        ("cornstarch", {"flour"}),
        ("egg_yolk", {"egg"}),
        ("egg_white", {"egg"}),
        ("butter_unsalted", {"dairy"}),
        ("cream_heavy", {"dairy"}),
        ("honey", {"honey"}),
        ("liqueur", {"alcohol"}),
        ("spirit", {"alcohol"}),
        ("toffee_bits", {"syrup", "dairy"}),
    ],
)
def test_an_ingredient_brings_its_cautions_in_the_dough_and_in_a_part(
    key: str, triggers: set[str]
) -> None:
    assert given(with_line(key)) == triggers
    assert given(with_part("topping", key)) == triggers


@pytest.mark.parametrize("kind", ["icing", "dip", "filling"])
@pytest.mark.parametrize("key", ["egg_white", "egg_whole"])
def test_uncooked_white_is_cautioned_where_it_is_not_baked(kind: PartKind, key: str) -> None:
    assert given(with_part(kind, key)) == {"egg", "raw_white"}


@pytest.mark.parametrize(
    ("kind", "key"),
    [("wash", "egg_white"), ("coating", "egg_white"), ("icing", "egg_yolk")],
)
def test_white_that_is_baked_needs_no_caution_of_its_own(kind: PartKind, key: str) -> None:
    assert given(with_part(kind, key)) == {"egg"}


@pytest.mark.parametrize(
    ("changes", "triggers"),
    [
        ({"mixing": "melted"}, {"hot_fat"}),
        ({"mixing": "creamed"}, {"mixer"}),
        ({"mixing": "whisked"}, {"mixer"}),
        ({"mixing": "rubbed_in"}, set()),
        ({"family": "twice_baked"}, {"slicing"}),
        ({"family": "rolled"}, set()),
    ],
)
def test_how_it_is_made_brings_its_cautions(changes: dict[str, str], triggers: set[str]) -> None:
    assert given(replace(PLAIN, **changes)) == triggers  # type: ignore[arg-type]


def test_every_caution_that_there_is_can_be_given() -> None:
    everything = replace(
        PLAIN,
        family="twice_baked",
        lines=tuple(Line("20", "g", key) for key in LARDER),
        parts=(Part("icing", "icing", (Line("1", "white", "egg_white"),), 3),),
    )
    assert given(everything) | given(replace(everything, mixing="melted")) | given(
        replace(everything, mixing="creamed")
    ) == set(TEXTS)


def test_an_allergen_says_what_brings_it_and_where_in_the_order_of_the_card() -> None:
    card = replace(
        PLAIN,
        lines=(
            Line("1", "egg", "egg_whole"),
            Line("2", "egg", "egg_whole"),
            Line("9", "g", "butter_unsalted"),
            Line("9", "g", None),
        ),
        parts=(
            Part("icing", "glaze", (Line("9", "g", "milk_whole"), Line("9", "g", "no_such")), 3),
            Part("wash", "wash", (Line("9", "g", "egg_whole"),), 3),
        ),
    )
    found = [(a.name, a.brought_by) for a in allergens(card, LARDER)]
    name = {key: LARDER[key].name for key in ("egg_whole", "butter_unsalted", "milk_whole")}
    assert found == [
        ("eggs", (name["egg_whole"], f"{name['egg_whole']} in the wash")),
        ("milk", (name["butter_unsalted"], f"{name['milk_whole']} in the glaze")),
    ]


def test_what_only_some_kinds_hold_is_told_as_that() -> None:
    card = replace(PLAIN, lines=(Line("9", "g", "margarine"), Line("9", "g", "chocolate_chips")))
    found = {a.name: (a.surely, a.brought_by) for a in allergens(card, LARDER)}
    name = {key: LARDER[key].name for key in ("margarine", "chocolate_chips")}
    may = f"{name['margarine']} (may; read its label)"
    assert found == {
        "milk": (True, (may, name["chocolate_chips"])),
        "soy": (True, (may, name["chocolate_chips"])),
    }
    alone = replace(PLAIN, lines=(Line("9", "g", "margarine"),))
    assert [(a.name, a.surely) for a in allergens(alone, LARDER)] == [
        ("milk", False),
        ("soy", False),
    ]


@pytest.mark.parametrize(
    ("key", "cereals"),
    [
        ("flour_ap", {"wheat"}),
        ("flour_spelt", {"wheat", "gluten"}),
        ("flour_rye", {"gluten"}),
        ("flour_barley", {"gluten"}),
        ("oats_rolled", {"gluten"}),
        ("flour_rice", set()),
    ],
)
def test_cereals_with_gluten_are_told_from_wheat(key: str, cereals: set[str]) -> None:
    assert {a.name for a in allergens(with_line(key), LARDER)} == cereals
