"""The devices by the names that a setting calls them by: the one list of drivers.

A real scale, say over a serial line, is a module that fills `Scale`, and a line here; then
``FINEBATCH_SCALE=its-name make run`` reads it.
"""

from collections.abc import Callable, Mapping
from typing import TypeVar

from finebatch.devices.readings import Scale, Thermometer
from finebatch.devices.stand_in_oven import StandInOven
from finebatch.devices.stand_in_scale import StandInScale

STAND_IN = "stand-in"
Clock = Callable[[], int]
"""UTC milliseconds."""
SCALES: Mapping[str, Callable[[Clock], Scale]] = {STAND_IN: StandInScale}
THERMOMETERS: Mapping[str, Callable[[Clock], Thermometer]] = {STAND_IN: StandInOven}
D = TypeVar("D")


class UnknownDevice(Exception):
    """There is no driver of that name; the message says which there are."""


def scale_named(name: str, clock: Clock) -> Scale:
    """The scale of that name; `UnknownDevice` where there is none."""
    return _named(SCALES, "scale", name)(clock)


def thermometer_named(name: str, clock: Clock) -> Thermometer:
    """The oven thermometer of that name; `UnknownDevice` where there is none."""
    return _named(THERMOMETERS, "oven thermometer", name)(clock)


def _named(drivers: Mapping[str, D], what: str, name: str) -> D:
    if name not in drivers:
        known = ", ".join(drivers)
        raise UnknownDevice(f"There is no {what} called “{name}”. Choose one of: {known}.")
    return drivers[name]
