"""Ovens: modes and equivalent temperatures."""

from typing import Literal

OvenMode = Literal["conventional", "fan"]

FAN_C = 20.0
"""A fan oven does the work of a still one set about 20 °C higher (usual appliance guidance)."""


def conventional_c(oven_c: float, mode: OvenMode) -> float:
    """The conventional setting in °C that bakes like `oven_c` in that mode."""
    return oven_c + FAN_C if mode == "fan" else oven_c
