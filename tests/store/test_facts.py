import pytest
from pydantic import ValidationError

from finebatch.core.larder.ingredient import Larder
from finebatch.facts import tables

ROW = {
    "key": "x",
    "name": "X",
    "role": "flour",
    "traits": "",
    "g_per_cup": "120",
    "g_per_cup_sifted": "",
    "g_per_cup_dipped": "",
    "unit": "",
    "unit_name": "",
    "g_per_unit": "",
    "water_pct": "12",
    "fat_pct": "1",
    "sugar_pct": "1",
    "other_solids_pct": "86",
    "water_binding": "0.6",
    "melts_at_c": "",
    "allergens": "",
    "source": "typical",
}


def test_every_fact_names_its_source(larder: Larder) -> None:
    assert len(larder) >= 95
    assert all(len(i.source) > 10 for i in larder.values())
    assert all(len(effect.source) > 10 for effect in tables.effects())
    assert all(len(prior.source) > 10 for prior in tables.prior_rows())
    assert all(len(family.source) > 10 for family in tables.families().values())


def test_a_composition_that_does_not_add_up_stops_the_start() -> None:
    tables.IngredientRow.model_validate(ROW)
    with pytest.raises(ValidationError, match="adds up to 110 %"):
        tables.IngredientRow.model_validate({**ROW, "water_pct": "22"})


@pytest.mark.parametrize(
    "change", [{"role": "gravel"}, {"g_per_cup": "0"}, {"source": ""}, {"fat_pct": "x"}]
)
def test_a_row_that_cannot_be_stops_the_start(change: dict[str, str]) -> None:
    with pytest.raises(ValidationError):
        tables.IngredientRow.model_validate({**ROW, **change})


def test_natural_units_have_grams(larder: Larder) -> None:
    assert larder["egg_whole"].units[-1] == "egg"
    assert larder["flour_ap"].natural_unit is None
    for ingredient in larder.values():
        assert ingredient.natural_unit is None or ingredient.natural_unit.grams > 0
