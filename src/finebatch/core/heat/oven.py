"""Ovens: modes and equivalent temperatures."""

from dataclasses import dataclass
from typing import Literal

from finebatch.core.measures.temperatures import FAN_LOWER_C, fahrenheit_of, nearest_gas

OvenMode = Literal["conventional", "fan"]


@dataclass(frozen=True, slots=True)
class OvenSettings:
    """One oven setting said in every way: still and fan in °C and °F, and the nearest gas mark."""

    still_c: float
    fan_c: float
    still_f: float
    fan_f: float
    gas: str


def equivalents(oven_c: float, mode: OvenMode) -> OvenSettings:
    """The other ways to say `oven_c` as it is set in that mode."""
    still = conventional_c(oven_c, mode)
    return OvenSettings(
        still, still - FAN_LOWER_C, fahrenheit_of(still), fahrenheit_of(still - FAN_LOWER_C),
        nearest_gas(still),
    )  # fmt: skip


def conventional_c(oven_c: float, mode: OvenMode) -> float:
    """The conventional setting in °C that bakes like `oven_c` in that mode."""
    return oven_c + FAN_LOWER_C if mode == "fan" else oven_c
