"""Kitchen units of mass and volume, by pint's definitions (US customary cup, 236.588 ml)."""

from functools import cache
from typing import TYPE_CHECKING, Literal, get_args

if TYPE_CHECKING:
    from pint import UnitRegistry

MassUnit = Literal["g", "kg", "oz", "lb"]
VolumeUnit = Literal["cup", "tbsp", "tsp", "ml", "dl", "pinch"]
CountUnit = Literal["egg", "yolk", "white", "stick", "zest", "each"]
RatioUnit = Literal["of_eggs", "egg_weight"]
"""Doughs written by their eggs: a share of what the dough's eggs weigh together, or as much as so
many eggs weigh, whatever eggs are in it."""
Unit = Literal[MassUnit, VolumeUnit, CountUnit, RatioUnit]

MASS_UNITS: tuple[MassUnit, ...] = get_args(MassUnit)
VOLUME_UNITS: tuple[VolumeUnit, ...] = get_args(VolumeUnit)
RATIO_UNITS: tuple[RatioUnit, ...] = get_args(RatioUnit)

PINCH_CUPS = 1 / 768
"""A pinch is taken as 1/16 teaspoon (usual measuring-spoon sets)."""

_PINT_NAME = {
    "g": "gram",
    "kg": "kilogram",
    "oz": "ounce",
    "lb": "pound",
    "cup": "cup",
    "tbsp": "tablespoon",
    "tsp": "teaspoon",
    "ml": "milliliter",
    "dl": "deciliter",
}


@cache
def _registry() -> "UnitRegistry[float]":
    from pint import UnitRegistry  # takes time to load

    return UnitRegistry()


@cache
def grams_in(unit: MassUnit) -> float:
    """Grams in one `unit` of mass."""
    return float(_registry().Quantity(1.0, _PINT_NAME[unit]).to("gram").magnitude)


@cache
def cups_in(unit: VolumeUnit) -> float:
    """US cups in one `unit` of volume: 1/16 for a tablespoon, 1/48 for a teaspoon."""
    if unit == "pinch":
        return PINCH_CUPS
    return float(_registry().Quantity(1.0, _PINT_NAME[unit]).to("cup").magnitude)
