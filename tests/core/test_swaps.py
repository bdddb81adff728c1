"""Swaps: fat, water and salt are made even, and the dough that results is what is shown."""

from typing import Any

import pytest

from finebatch.core.formula.composition import compose
from finebatch.core.formula.dough import Card, Line
from finebatch.core.formula.swaps import Offer, offers
from finebatch.core.formula.weigh import weigh
from finebatch.core.larder.check import check_ingredient, most_g_per_cup
from finebatch.core.measures.figures import read_in
from finebatch.core.refusal import Refusal
from finebatch.facts import formula, tables

LARDER = tables.larder()


def card_of(*lines: tuple[str, str, str]) -> Card:
    return Card("A", "drop", "creamed", tuple(Line(*line) for line in lines))  # type: ignore[arg-type]


BASE = card_of(
    ("250", "g", "flour_ap"),
    ("160", "g", "butter_unsalted"),
    ("200", "g", "sugar_brown_light"),
    ("1", "egg", "egg_whole"),
    ("1/2", "tsp", "salt_fine"),
)


def offered(card: Card) -> dict[str, Offer]:
    found = offers(card, weigh(card.lines, LARDER), formula.swaps(), LARDER)
    return {offer.swap.key: offer for offer in found}


def made(card: Card) -> Any:
    return compose(weigh(card.lines, LARDER).formula_g(), LARDER)


@pytest.mark.parametrize("key", ["fat_lard", "fat_shortening", "fat_oil", "fat_margarine"])
def test_one_fat_for_another_keeps_fat_and_water(key: str) -> None:
    before, after = made(BASE), made(offered(BASE)[key].card)
    assert after.fat_g == pytest.approx(before.fat_g, abs=1)
    assert after.water_added_g == pytest.approx(before.water_added_g, abs=1.5)


def test_butter_for_oil_takes_its_water_from_the_milk_or_says_so() -> None:
    oil = ("100", "g", "oil_neutral")
    milk = card_of(("250", "g", "flour_ap"), oil, ("50", "g", "milk_whole"))
    after = offered(milk)["fat_butter"]
    assert made(after.card).fat_g == pytest.approx(made(milk).fat_g, rel=0.02)
    assert made(after.card).water_added_g == pytest.approx(made(milk).water_added_g, abs=4)
    dry = card_of(("250", "g", "flour_ap"), oil)
    assert "21 g of water" in read_in(offered(dry)["fat_butter"].said)


def test_salt_is_made_even_between_salted_and_unsalted() -> None:
    def salt(card: Card) -> float:
        grams = weigh(card.lines, LARDER).formula_g()
        return grams.get("salt_fine", 0) + 0.015 * grams.get("butter_salted", 0)

    salted = offered(BASE)["salted"]
    assert salt(salted.card) == pytest.approx(salt(BASE), abs=0.06)
    again = offered(salted.card)["unsalted"]
    assert salt(again.card) == pytest.approx(salt(BASE), abs=0.1)
    little = card_of(("250", "g", "flour_ap"), ("200", "g", "butter_unsalted"))
    assert "more salt than before stays" in offered(little)["salted"].said


def test_shares_keep_the_mass_and_the_other_lines() -> None:
    for key in ("whole_half", "rye_third", "brown_from_white", "plain_to_cake"):
        after = offered(BASE)[key].card
        before_g, after_g = (weigh(c.lines, LARDER).total_g for c in (BASE, after))
        assert after_g == pytest.approx(before_g, abs=1.2), key


def test_fresh_for_dried_goes_by_volume() -> None:
    card = card_of(("250", "g", "flour_ap"), ("3", "tbsp", "herb_fresh"))
    grams = weigh(offered(card)["herb_dried"].card.lines, LARDER).known_g()["herb_dried"]
    assert grams == pytest.approx(LARDER["herb_dried"].g_per_cup / 16, rel=0.03)


def test_water_in_place_of_fat_warns_of_hardening() -> None:
    offer = offered(BASE)["less_fat"]
    assert "hard within days" in offer.swap.caution
    assert made(offer.card).fat_g < 0.85 * made(BASE).fat_g
    salted = card_of(("250", "g", "flour_ap"), ("100", "g", "butter_salted"))
    keys = [line.ingredient for line in offered(salted)["less_fat"].card.lines]
    assert "butter_unsalted" not in keys


def test_only_what_applies_is_offered() -> None:
    keys = set(offered(card_of(("250", "g", "flour_ap"), ("100", "g", "lard"))))
    assert {"plain_to_cake", "fat_butter", "loosen_milk"} <= keys
    assert not keys & {"unsalted", "yolks", "cake_from_plain", "natural_nut", "herb_dried"}
    assert offered(card_of()) == {}


@pytest.mark.parametrize("card", [BASE])
def test_every_offer_can_be_weighed(card: Card) -> None:
    for offer in offered(card).values():
        assert weigh(offer.card.lines, LARDER).faults == (), offer.swap.key


@pytest.mark.parametrize("key", sorted(LARDER))
def test_every_shipped_ingredient_can_be(key: str) -> None:
    check_ingredient(LARDER[key])


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"name": " "}, "name"),
        ({"water_pct": 40.0}, "other_solids_pct"),
        ({"fat_pct": -5.0}, "fat_pct"),
        ({"g_per_cup": 900.0}, "g_per_cup"),
        ({"g_per_cup": 2.0}, "g_per_cup"),
        ({"g_per_cup_sifted": 130.0}, "g_per_cup_sifted"),
        ({"g_per_cup_dipped": 100.0}, "g_per_cup_dipped"),
        ({"water_binding": 9.0}, "water_binding"),
    ],
)
def test_an_ingredient_that_cannot_be_is_refused_with_the_reason(
    change: dict[str, Any], field: str
) -> None:
    from dataclasses import replace

    with pytest.raises(Refusal) as refused:
        check_ingredient(replace(LARDER["flour_ap"], **change))
    assert field in [fault.field for fault in refused.value.faults]


def test_nothing_is_denser_than_its_parts() -> None:
    assert most_g_per_cup(LARDER["water"]) == pytest.approx(1.03 * 236.588)
    assert most_g_per_cup(LARDER["oil_neutral"]) < most_g_per_cup(LARDER["honey"])
