"""Ovens: modes and equivalent temperatures."""

from typing import Literal

from finebatch.core.measures.temperatures import FAN_LOWER_C

OvenMode = Literal["conventional", "fan"]


def conventional_c(oven_c: float, mode: OvenMode) -> float:
    """The conventional setting in °C that bakes like `oven_c` in that mode."""
    return oven_c + FAN_LOWER_C if mode == "fan" else oven_c
