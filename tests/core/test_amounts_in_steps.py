"""How much goes in with a step: what it names, where it is named first."""

import pytest

from finebatch.core.method.steps import TypedStep
from finebatch.core.session.amounts import amounts_of
from finebatch.facts import tables

FORMULA = {
    "flour_ap": 280.0,
    "butter_unsalted": 180.0,
    "sugar_white": 100.0,
    "sugar_brown_light": 50.0,
    "egg_whole": 50.0,
    "egg_yolk": 18.0,
    "baking_soda": 3.0,
    "cocoa": 20.0,
    "vanilla_extract": 4.0,
    "sesame_seed": 30.0,
}


@pytest.mark.parametrize(
    ("texts", "named"),
    [
        (
            ["Cream butter and both sugars.", "Beat the butter again with the egg."],
            [["unsalted butter", "granulated sugar", "light brown sugar"], ["whole egg"]],
        ),
        (["Stir in the brown sugar, then the sugar."], [["light brown sugar"]]),
        (["Add the yolk, then the egg.", "Fold in."], [["whole egg", "egg yolk"], []]),
        (["Sift flour, cocoa and bicarb."], [["all-purpose flour", "baking soda", "cocoa powder"]]),
        (["Beat in the vanilla. Roll in sesame."], [["vanilla extract", "sesame seeds"]]),
        (["Whisk the whites, brush with egg wash."], [[]]),
        (["Butterfly it."], [[]]),
    ],
)
def test_what_a_step_names_goes_in_with_it(texts: list[str], named: list[list[str]]) -> None:
    steps = [TypedStep("beat_in", text, card_step=n) for n, text in enumerate(texts, start=1)]
    found = amounts_of(steps, FORMULA, tables.larder())
    for step, names in zip(steps, named, strict=True):
        told = found.get((step.card_step, step.text), ())
        assert sorted(name for name, _ in told) == sorted(names)
    grams = dict(pair for told in found.values() for pair in told)
    if "unsalted butter" in grams:
        assert grams["unsalted butter"] == 180
