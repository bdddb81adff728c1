"""The units in which a kitchen reads figures, and its clock and order of dates."""

from dataclasses import dataclass
from typing import Literal

from finebatch.core.values import FromOutside

DateOrder = Literal["day first", "month first", "year first"]


@dataclass(frozen=True, slots=True, kw_only=True)
class KitchenUnits(FromOutside):
    """Each kind of figure in its unit: temperatures in °C or °F, lengths in mm and cm or in inches,
    masses in g or oz and lb, volumes in ml or in cups and spoons; the clock of 24 or 12 hours."""

    temperature: Literal["C", "F"] = "C"
    length: Literal["metric", "inches"] = "metric"
    mass: Literal["metric", "ounces"] = "metric"
    volume: Literal["metric", "cups"] = "metric"
    clock: Literal["24 h", "12 h"] = "24 h"
    dates: DateOrder = "day first"


METRIC = KitchenUnits()
US = KitchenUnits(
    temperature="F",
    length="inches",
    mass="ounces",
    volume="cups",
    clock="12 h",
    dates="month first",
)
