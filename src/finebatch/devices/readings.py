"""What a scale and a thermometer must do, and what may come of asking them.

A real device fills `Scale` or `Thermometer`; nothing else in Fine Batch knows how it is reached.
Whatever it says goes through `weight_of` and `temperature_of`: rubbish becomes a `DeviceFault`.
"""

import math
from dataclasses import dataclass
from typing import Protocol

LOWEST_G, HIGHEST_G = -20_000.0, 50_000.0
LOWEST_C, HIGHEST_C = -40.0, 500.0


class DeviceFault(Exception):
    """A device is not there, or says what cannot be; the message says which, and what to do."""


@dataclass(frozen=True, slots=True)
class Weight:
    """A scale's reading in g. `steady` once it has settled; `overloaded` says too much is on it."""

    grams: float
    steady: bool
    overloaded: bool = False


class Scale(Protocol):
    """A kitchen scale."""

    def read(self) -> Weight:
        """What it shows now; `DeviceFault` when it does not answer. Must not block."""

    def tare(self) -> None:
        """Count from what lies on it now; `DeviceFault` when it does not answer."""


class Thermometer(Protocol):
    """A thermometer that stands in an oven."""

    def read(self) -> float:
        """The air there in °C now; `DeviceFault` when it does not answer. Must not block."""


def weight_of(scale: Scale) -> Weight:
    """A scale's reading, when it can be one; `DeviceFault` when not."""
    weight = scale.read()
    if not isinstance(weight, Weight) or not _within(weight.grams, LOWEST_G, HIGHEST_G):
        raise DeviceFault("The scale sends what is no weight. Switch it off and on again.")
    return weight


def temperature_of(thermometer: Thermometer) -> float:
    """A thermometer's reading in °C, when it can be one; `DeviceFault` when not."""
    celsius = thermometer.read()
    if not _within(celsius, LOWEST_C, HIGHEST_C):
        raise DeviceFault(
            "The oven thermometer sends what is no temperature. Switch it off and on again."
        )
    return float(celsius)


def _within(value: object, low: float, high: float) -> bool:
    return (
        isinstance(value, int | float)
        and not isinstance(value, bool)
        and math.isfinite(value)
        and low <= value <= high
    )
