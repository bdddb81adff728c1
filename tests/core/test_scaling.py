"""More or less of a dough: there and back is the same, and the cook is told what matters."""

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.dough import Card, Line
from finebatch.core.formula.kitchen_amounts import KitchenAmount, kitchen_amount
from finebatch.core.formula.scaling import (
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
