"""Ovens: modes and equivalent temperatures."""

from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.measures.temperatures import FAN_LOWER_C, fahrenheit_of, nearest_gas
from finebatch.core.values import FromOutside

OvenMode = Literal["conventional", "fan"]
HotSide = Literal["even", "back", "front", "left", "right"]


@dataclass(frozen=True, slots=True, kw_only=True)
class OvenAir(FromOutside):
    """How an oven's air moves: it rises and falls by so many °C a minute, door shut, and is
    `offset_c` hotter than its dial in the mean (cooler, below zero)."""

    rise_c_min: Annotated[float, Interval(ge=1, le=60)] = 8.0
    fall_c_min: Annotated[float, Interval(ge=0.5, le=60)] = 5.0
    offset_c: Annotated[float, Interval(ge=-60, le=60)] = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class OvenNature(OvenAir):
    """How an oven behaves, by a thermometer standing in it: its air swings `swing_c` from lowest to
    highest; `hot_side` is where it browns first."""

    swing_c: Annotated[float, Interval(ge=0, le=80)] = 0.0
    hot_side: HotSide = "even"


STEADY = OvenNature()
"""An oven that nobody has put a thermometer in yet."""


@dataclass(frozen=True, slots=True)
class SecondOven(FromOutside):
    """A second oven: its shelves, whether it blows, and its nature."""

    shelves: Annotated[int, Interval(ge=1, le=4)] = 1
    mode: OvenMode = "conventional"
    nature: OvenNature = STEADY


def dial_c(wanted_c: float, nature: OvenAir) -> float:
    """What to set the dial to for air of `wanted_c` (°C, the oven's own mode): just that where the
    oven keeps to its dial, else to the whole degree."""
    return round(wanted_c - nature.offset_c) if nature.offset_c else wanted_c


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
        still,
        still - FAN_LOWER_C,
        fahrenheit_of(still),
        fahrenheit_of(still - FAN_LOWER_C),
        nearest_gas(still),
    )


def setting_c(still_c: float, mode: OvenMode) -> float:
    """The setting in °C in that mode that bakes like a still oven at `still_c`."""
    return still_c - FAN_LOWER_C if mode == "fan" else still_c


def conventional_c(oven_c: float, mode: OvenMode) -> float:
    """The conventional setting in °C that bakes like `oven_c` in that mode."""
    return oven_c + FAN_LOWER_C if mode == "fan" else oven_c
