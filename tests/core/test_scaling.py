"""More or less of a dough: there and back is the same, and the cook is told what matters."""

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.dough import Card, Line
from finebatch.core.formula.kitchen_amounts import KitchenAmount, kitchen_amount
from finebatch.core.formula.scaling import (
    egg_advice,
    factor_to_mass,
    limits_of,
    parse_factor,
    scale,
    scale_card,
)
from finebatch.core.formula.weigh import weigh
from finebatch.core.larder.measuring import USUAL, Measuring
from finebatch.core.measures.amounts import parse_amount, scale_amount, write_amount
from finebatch.core.refusal import Refusal
from finebatch.facts import tables
from tests.cards import cards

LARDER = tables.larder()
factors = st.fractions("1/20", 20, max_denominator=20)
CARD = Card(
    "A",
    "drop",
    "creamed",
    (
        Line("2 1/4", "cup", "flour_ap"),
        Line("1", "stick", "butter_unsalted"),
        Line("80–110", "g", "sugar_white", chosen="90"),
        Line("2", "egg", "egg_whole"),
        Line("1/2", "tsp", "salt_fine"),
    ),
    stated_pieces=24,
)


@given(cards(), factors)
def test_scaling_there_and_back_is_the_same(card: Card, factor: Fraction) -> None:
    back = scale_card(scale_card(card, factor), 1 / factor)
    before, after = weigh(card.lines, LARDER), weigh(back.lines, LARDER)
    for one, other in zip(before.lines, after.lines, strict=True):
        assert (one.grams or 0) == pytest.approx(other.grams or 0, rel=1e-4, abs=1e-4)


@given(cards(), factors)
def test_a_scaled_card_weighs_the_factor_times_as_much(card: Card, factor: Fraction) -> None:
    before, after = weigh(card.lines, LARDER), weigh(scale_card(card, factor).lines, LARDER)
    if not before.faults and not after.faults:
        assert after.total_g == pytest.approx(before.total_g * float(factor), rel=1e-4)


@given(st.fractions("1/1000", 1000, max_denominator=1000))
def test_an_amount_that_is_written_reads_back(value: Fraction) -> None:
    for fractions in (True, False):
        text = write_amount(value, fractions=fractions)
        assert float(parse_amount(text).middle) == pytest.approx(float(value), rel=1e-3)


def test_ranges_and_their_choice_are_scaled_and_ratios_follow_the_eggs() -> None:
    ratio = Line("1 1/4", "of_eggs", "flour_ap")
    scaled = scale_card(replace(CARD, lines=(*CARD.lines, ratio)), Fraction(2))
    assert (scaled.lines[2].amount, scaled.lines[2].chosen) == ("160–220", "180")
    assert scaled.lines[5] == ratio
    weighed = weigh(scaled.lines, LARDER)
    assert weighed.lines[5].grams == pytest.approx(1.25 * 200)
    assert scaled.stated_pieces == 48
    assert scale_amount("to taste", Fraction(2)) == "to taste"


def test_grams_are_decimals_and_cups_fractions() -> None:
    third = scale_card(CARD, Fraction(1, 3))
    assert third.lines[0].amount == "3/4"
    assert third.lines[2].amount == "26.666667–36.666667"


def test_a_spare_part_of_an_egg_and_near_factors() -> None:
    found = scale(CARD, Fraction(3, 4), LARDER, USUAL, "cups")
    assert found.eggs
    assert (found.eggs.beat, found.eggs.use_g, found.eggs.spare_g) == (2, 75, 25)
    assert [(n.eggs, n.factor) for n in found.near] == [(1, Fraction(1, 2)), (2, 1)]
    assert scale(CARD, Fraction(2), LARDER, USUAL, "cups").near == ()
    other = Measuring("spooned", "EU/UK medium", tables.egg_sizes())
    assert scale(CARD, Fraction(1), LARDER, other, "cups").eggs == replace(
        found.eggs, eggs=2, beat=2, use_g=102, spare_g=0
    )


def test_a_bowl_that_is_too_small_makes_equal_mixes() -> None:
    found = scale(CARD, Fraction(4), LARDER, USUAL, "grams", bowl_cm3=1500, density_g_cm3=1.25)
    assert found.mixes == 2
    assert found.mix_g * 2 == pytest.approx(found.total_g)
    assert found.mix_g / 1.25 <= 1500 * 2 / 3


def test_what_there_is_limits_by_the_scarcest() -> None:
    need = weigh(CARD.lines, LARDER)
    have = weigh([Line("104", "g", "egg_whole"), Line("100", "g", "butter_unsalted")], LARDER)
    scarcest, other = limits_of(need, have, LARDER)
    assert (scarcest.ingredient, scarcest.factor) == ("butter_unsalted", pytest.approx(100 / 113))
    assert scarcest.left_g == pytest.approx(0)
    assert other.left_g == pytest.approx(104 - 100 * 100 / 113)
    with pytest.raises(Refusal, match="no Honey"):
        limits_of(need, weigh([Line("1", "g", "honey")], LARDER), LARDER)


@pytest.mark.parametrize("text", ["0", "-1", "1000", "x", "1/1000"])
def test_an_absurd_factor_is_refused(text: str) -> None:
    with pytest.raises(Refusal):
        parse_factor(text)
    assert parse_factor("1 1/2") == Fraction(3, 2)


def test_an_absurd_mass_is_refused() -> None:
    assert factor_to_mass(500, 750) == Fraction(3, 2)
    for total, wanted in ((0, 100), (500, 1e6)):
        with pytest.raises(Refusal):
            factor_to_mass(total, wanted)


def kitchen(grams: float, key: str, system: str = "cups") -> KitchenAmount:
    return kitchen_amount(grams, LARDER[key], system)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("grams", "key", "text"),
    [
        (281.25, "flour_ap", "2 1/4 cup"),
        (125 / 3, "flour_ap", "1/3 cup"),
        (133, "flour_ap", "1 cup + 1 tbsp"),
        (100, "egg_whole", "2 egg"),
        (25, "egg_whole", "1/2 egg"),
        (226, "butter_unsalted", "2 stick"),
        (1.5, "salt_fine", "1/4 tsp"),
        (12, "cornstarch", "1 1/2 tbsp"),
    ],
)
def test_grams_in_cups_and_spoons(grams: float, key: str, text: str) -> None:
    assert kitchen(grams, key).text == text


@given(
    st.floats(0.2, 3000),
    st.sampled_from(sorted(LARDER)),
    st.sampled_from(["grams", "ounces", "cups"]),
)
def test_kitchen_amounts_are_near_or_say_how_far_off(grams: float, key: str, system: str) -> None:
    found = kitchen(grams, key, system)
    assert found.grams == pytest.approx(grams * (1 + found.error_pct / 100), rel=1e-6)
    assert found.noted is (abs(found.error_pct) > 3)
    if grams > 20:
        assert abs(found.error_pct) < 9


def by_amounts(*lines: tuple[str, str, str], **changes: object) -> Card:
    return replace(CARD, lines=tuple(Line(*line) for line in lines), **changes)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("amount", "unit", "key", "rounded"),
    [
        ("130", "g", "flour_ap", "130"),
        ("130.4", "g", "flour_ap", "130"),
        ("9.96", "g", "salt_fine", "10"),
        ("9.93", "g", "salt_fine", "9.9"),
        ("10", "g", "salt_fine", "10"),
        ("0.02", "g", "salt_fine", "0.1"),
        ("0.3", "cup", "flour_ap", "1/4"),
        ("0.9", "tbsp", "flour_ap", "1"),
        ("0.05", "tsp", "salt_fine", "1/4"),
        ("1.4", "egg", "egg_whole", "1"),
        ("0.2", "egg", "egg_whole", "1"),
        ("1.3", "stick", "butter_unsalted", "1 1/2"),
        ("27", "ml", "milk_whole", "25"),
        ("0.123", "kg", "flour_ap", "0.12"),
        ("3.3", "oz", "flour_ap", "3.25"),
        ("80–110", "g", "sugar_white", "80–110"),
        ("80–80.3", "g", "sugar_white", "80"),
        ("to taste", "g", "salt_fine", "to taste"),
        ("1 1/4", "of_eggs", "flour_ap", "1 1/4"),
    ],
)
def test_an_amount_is_rounded_to_what_a_cook_measures(
    amount: str, unit: str, key: str, rounded: str
) -> None:
    card = by_amounts((amount, unit, key))
    assert scale_card(card, Fraction(1), rounded=True).lines[0].amount == rounded


def test_a_scaled_line_forgets_what_stood_on_the_paper() -> None:
    card = replace(CARD, lines=(replace(CARD.lines[0], text="2 1/4 cups of flour"),))
    assert scale_card(card, Fraction(2)).lines[0].text == ""


@pytest.mark.parametrize(
    ("stated", "factor", "then"), [(24, 2, 48), (24, "1/3", 8), (1, "1/4", None), (None, 2, None)]
)
def test_the_stated_number_of_pieces_goes_with_it(
    stated: int | None, factor: int | str, then: int | None
) -> None:
    assert scale_card(replace(CARD, stated_pieces=stated), Fraction(factor)).stated_pieces == then


@pytest.mark.parametrize(
    ("text", "field"), [("1/100", None), ("100", None), ("101", "factor"), ("1/101", "factor")]
)
def test_a_hundred_times_either_way_is_the_most(text: str, field: str | None) -> None:
    if field is None:
        assert parse_factor(text) == Fraction(text)
        return
    with pytest.raises(Refusal) as said:
        parse_factor(text)
    assert said.value.faults[0].field == field
    assert "hundred times" in said.value.faults[0].message


@pytest.mark.parametrize(
    ("total", "wanted", "found"),
    [
        (0.5, 50, 100),
        (100, 1, Fraction(1, 100)),
        (3, 1, Fraction(1, 3)),
        (0.5, 51, "total_g"),
        (0, 5, "lines"),
        (-1, 5, "lines"),
    ],
)
def test_a_wanted_mass_makes_a_factor_or_says_what_is_wrong(
    total: float, wanted: float, found: Fraction | str
) -> None:
    if not isinstance(found, str):
        assert factor_to_mass(total, wanted) == found
        return
    with pytest.raises(Refusal) as said:
        factor_to_mass(total, wanted)
    assert said.value.faults[0].field == found
    assert ("add ingredients" if found == "lines" else "hundred times") in said.value.faults[
        0
    ].message


def test_what_the_dough_does_not_use_is_named_by_its_line() -> None:
    need = weigh(CARD.lines, LARDER)
    have = weigh(
        [Line("9", "g", "egg_whole"), Line("1", "g", "honey"), Line("2", "g", "oil_neutral")],
        LARDER,
    )
    with pytest.raises(Refusal) as said:
        limits_of(need, have, LARDER)
    assert [fault.field for fault in said.value.faults] == [
        "have.1.ingredient",
        "have.2.ingredient",
    ]


@pytest.mark.parametrize(
    ("eggs", "beat", "spare"),
    [
        (0.01, 1, 49.5),
        (1.0, 1, 0),
        (1.02, 1, 0),
        (1.03, 2, 48.5),
        (1.97, 2, 1.5),
        (1.99, 2, 0),
        (2.5, 3, 25),
    ],
)
def test_so_many_eggs_are_beaten_and_so_much_is_to_spare(
    eggs: float, beat: int, spare: float
) -> None:
    found = egg_advice(50 * eggs, 50)
    assert found is not None
    assert (found.beat, found.eggs) == (beat, pytest.approx(eggs))
    assert found.use_g == 50 * eggs
    assert found.spare_g == pytest.approx(spare)
    assert egg_advice(0, 50) is None


@pytest.mark.parametrize(
    ("factor", "near"),
    [
        ("3/2", []),
        ("1.24", [("1", 2), ("3/2", 3)]),
        ("5/8", [("1/2", 1)]),
        ("3/8", [("1/2", 1)]),
        ("1/4", []),
        ("4/5", [("1", 2)]),
    ],
)
def test_factors_near_by_take_whole_eggs(factor: str, near: list[tuple[str, int]]) -> None:
    found = scale(CARD, Fraction(factor), LARDER, USUAL, "grams")
    assert [(n.factor, n.eggs) for n in found.near] == [(Fraction(f), eggs) for f, eggs in near]
    whole = weigh(CARD.lines, LARDER).total_g
    for one in found.near:
        assert one.total_g == pytest.approx(float(one.factor) * whole)


def test_a_dough_without_eggs_has_no_word_about_them() -> None:
    found = scale(by_amounts(("250", "g", "flour_ap")), Fraction(2), LARDER, USUAL, "grams")
    assert (found.eggs, found.near) == (None, ())


@pytest.mark.parametrize(("bowl", "mixes"), [(600, 1), (599, 2), (300, 2), (299, 3), (None, 1)])
def test_a_bowl_is_filled_to_two_thirds(bowl: float | None, mixes: int) -> None:
    card = by_amounts(("500", "g", "flour_ap"))
    found = scale(card, Fraction(1), LARDER, USUAL, "grams", bowl_cm3=bowl, density_g_cm3=1.25)
    assert (found.total_g, found.mixes) == (500, mixes)
    assert found.mix_g == pytest.approx(500 / mixes)


def test_rounding_is_told_against_the_exact_amount_and_kept_in_the_card() -> None:
    card = by_amounts(("100", "g", "flour_ap"), ("1", "egg", "egg_whole"), ("9", "g", "no_such"))
    exact = scale(card, Fraction(3, 2), LARDER, USUAL, "grams")
    assert [line.grams for line in exact.lines[:2]] == [150, 75]
    assert exact.lines[0].error_pct == pytest.approx(0)
    assert not exact.lines[0].noted
    rounded = scale(card, Fraction(3, 2), LARDER, USUAL, "grams", rounded=True)
    assert rounded.card.lines[1].amount == "2"
    assert rounded.lines[1].grams == 100
    assert rounded.lines[1].error_pct == pytest.approx(100 * (100 / 75 - 1))
    assert rounded.lines[1].noted
    assert rounded.eggs is not None
    assert rounded.eggs.use_g == 100
    assert rounded.total_g == 250
    assert (exact.lines[2].kitchen, exact.lines[2].error_pct) == ("", 0)


def test_the_dough_is_weighed_by_its_own_cups_and_eggs() -> None:
    card = by_amounts(
        ("1", "cup", "flour_ap"), ("1", "egg", "egg_whole"), cup="dipped", egg="EU/UK medium"
    )
    known = Measuring("spooned", "US large", tables.egg_sizes())
    found = scale(card, Fraction(2), LARDER, known, "grams")
    assert [line.grams for line in found.lines] == [284, 102]
    assert found.eggs is not None
    assert (found.eggs.eggs, found.eggs.beat) == (2, 2)
