import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.names import IngredientName, Names, split_words
from finebatch.core.larder.ingredient import Larder
from finebatch.core.measures.units import MASS_UNITS, VOLUME_UNITS, cups_in, grams_in
from finebatch.core.refusal import Refusal
from finebatch.facts import tables

INGREDIENTS = list(tables.larder().values())


def test_units_of_mass_and_volume_are_the_usual_ones() -> None:
    assert grams_in("g") == 1
    assert grams_in("oz") == pytest.approx(28.3495, rel=1e-5)
    assert cups_in("cup") == 1
    assert cups_in("tbsp") == pytest.approx(1 / 16)
    assert cups_in("tsp") == pytest.approx(1 / 48)


@given(st.sampled_from(INGREDIENTS), st.floats(0.01, 500))
def test_three_teaspoons_are_a_tablespoon_and_sixteen_of_those_a_cup(
    ingredient: object, amount: float
) -> None:
    grams = ingredient.grams  # type: ignore[attr-defined]
    assert grams(3 * amount, "tsp") == pytest.approx(grams(amount, "tbsp"))
    assert grams(16 * amount, "tbsp") == pytest.approx(grams(amount, "cup"))


@given(st.sampled_from(INGREDIENTS), st.floats(0.01, 500), st.floats(0.1, 10))
def test_grams_are_proportional_to_the_amount(
    ingredient: object, amount: float, factor: float
) -> None:
    for unit in ingredient.units:  # type: ignore[attr-defined]
        one = ingredient.grams(amount, unit)  # type: ignore[attr-defined]
        assert ingredient.grams(amount * factor, unit) == pytest.approx(one * factor)  # type: ignore[attr-defined]


def test_a_unit_that_does_not_fit_names_those_that_do(larder: Larder) -> None:
    with pytest.raises(Refusal, match="use g, kg, oz, lb, cup, tbsp, tsp, ml"):
        larder["flour_ap"].grams(1, "egg")
    with pytest.raises(Refusal) as refused:
        larder.find("moonshine", "lines.2.ingredient")
    assert refused.value.faults[0].field == "lines.2.ingredient"


def test_every_ingredient_is_measured_by_mass_and_volume(larder: Larder) -> None:
    for ingredient in larder.values():
        assert set(MASS_UNITS) | set(VOLUME_UNITS) <= set(ingredient.units)
        sifted, dipped = ingredient.g_per_cup_sifted, ingredient.g_per_cup_dipped
        assert sifted is None or sifted <= ingredient.g_per_cup
        assert dipped is None or dipped >= ingredient.g_per_cup


def test_every_ingredient_is_found_by_each_of_its_names() -> None:
    names = tables.reader().names
    for row in tables.name_rows():
        for name in row.names if row.key else ():
            found = names.find(name)
            assert found is not None, name
            assert found.key == row.key or found.ask, (name, found)


NAMES = Names(
    [
        IngredientName(("brown", "sugar"), "brown", None),
        IngredientName(("sugar",), "white", None),
        IngredientName(("cornflour",), "starch", "Starch or maize?"),
    ],
    ["fine", "chopped"],
)


@pytest.mark.parametrize(
    ("text", "key", "asked"),
    [
        ("brown sugar", "brown", False),
        ("Brown Sugars", "brown", False),
        ("fine brown sugar", "brown", False),
        ("sugar", "white", False),
        ("palm sugar", "white", True),
        ("cornflour", "starch", True),
        ("borwn sugar", "brown", True),
    ],
)
def test_the_longest_name_counts_and_a_guess_is_asked(text: str, key: str, asked: bool) -> None:
    found = NAMES.find(text)
    assert found is not None
    assert (found.key, found.ask is not None) == (key, asked)


@pytest.mark.parametrize("text", ["", "salt", "🍪", "chopped fine", "zz"])
def test_what_has_no_name_here_is_not_found(text: str) -> None:
    assert NAMES.find(text) is None


def test_words_are_split_whatever_stands_between() -> None:
    assert split_words("Brown-sugar, (fine) – all!") == ["brown-sugar", "fine", "all"]
    assert split_words("Baker’s ammonia") == ["baker's", "ammonia"]
