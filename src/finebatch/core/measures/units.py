"""Kitchen units of mass and volume, by pint's definitions (US customary cup, 236.588 ml)."""

from functools import cache
from typing import Literal

from pint import UnitRegistry

MassUnit = Literal["g", "oz"]
VolumeUnit = Literal["cup", "tbsp", "tsp"]
CountUnit = Literal["egg", "yolk", "white", "stick", "zest"]
Unit = Literal["g", "oz", "cup", "tbsp", "tsp", "egg", "yolk", "white", "stick", "zest"]

MASS_UNITS: tuple[MassUnit, ...] = ("g", "oz")
VOLUME_UNITS: tuple[VolumeUnit, ...] = ("cup", "tbsp", "tsp")

_PINT_NAME = {"oz": "ounce", "tbsp": "tablespoon", "tsp": "teaspoon", "g": "gram", "cup": "cup"}


@cache
def _registry() -> UnitRegistry[float]:
    return UnitRegistry()


@cache
def grams_in(unit: MassUnit) -> float:
    """Grams in one `unit` of mass."""
    return float(_registry().Quantity(1.0, _PINT_NAME[unit]).to("gram").magnitude)


@cache
def cups_in(unit: VolumeUnit) -> float:
    """US cups in one `unit` of volume: 1/16 for a tablespoon, 1/48 for a teaspoon."""
    return float(_registry().Quantity(1.0, _PINT_NAME[unit]).to("cup").magnitude)
