"""A stand-in for an oven with a thermometer in it: it cycles around its dial, with an offset, and
dips when it is opened."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated

from annotated_types import Interval

from finebatch.core.values import FromOutside
from finebatch.devices.readings import DeviceFault
from finebatch.devices.stand_in_scale import Trouble

ROOM_C = 21.0
PROBE_LAG_S = 25.0
"""A free-standing thermometer follows the air with this time constant."""
DOOR_C_S = 2.5
"""An open door costs the air about this many °C a second, at 180 °C (household measurements)."""
LONGEST_S = 12 * 3600
"""What was not watched for longer than this begins cold again."""


@dataclass(frozen=True, slots=True)
class OvenKnobs(FromOutside):
    """An oven as it is played: the dial (°C, off below 50), how far the mean lies above it, its
    swing from lowest to highest, °C a minute up and down, the door, and what is wrong."""

    dial_c: Annotated[float, Interval(ge=0, le=300)] = 0.0
    offset_c: Annotated[float, Interval(ge=-50, le=50)] = 8.0
    swing_c: Annotated[float, Interval(ge=0, le=60)] = 18.0
    rise_c_min: Annotated[float, Interval(ge=1, le=60)] = 9.0
    fall_c_min: Annotated[float, Interval(ge=0.5, le=60)] = 4.0
    door_open: bool = False
    trouble: Trouble = "none"


class StandInOven:
    """Air and thermometer of a household oven, worked out second by second as it is read.

    `clock` gives UTC milliseconds.
    """

    def __init__(self, clock: Callable[[], int]) -> None:
        self._clock = clock
        self.knobs = OvenKnobs()
        self._air_c = self._probe_c = ROOM_C
        self._heating = False
        self._at = clock()

    def play(self, knobs: OvenKnobs) -> None:
        """A hand turns the dial, opens the door, or makes trouble."""
        self._go_on()
        self.knobs = knobs

    def read(self) -> float:
        """What the thermometer shows now, in °C."""
        self._go_on()
        if self.knobs.trouble == "unplugged":
            raise DeviceFault("The oven thermometer does not answer. Check its battery.")
        if self.knobs.trouble == "rubbish":
            return math.inf
        return round(self._probe_c, 1)

    def _go_on(self) -> None:
        """Work out the seconds since it was looked at last."""
        now = self._clock()
        seconds = (now - self._at) // 1000
        if seconds > LONGEST_S:
            self._air_c = self._probe_c = ROOM_C
            self._at = now
            return
        for _ in range(seconds):
            self._second()
        self._at += max(seconds, 0) * 1000

    def _second(self) -> None:
        knobs = self.knobs
        wanted = knobs.dial_c + knobs.offset_c if knobs.dial_c >= 50 else ROOM_C
        half = knobs.swing_c / 2
        if self._air_c <= wanted - half:
            self._heating = True
        elif self._air_c >= wanted + half or knobs.dial_c < 50:
            self._heating = False
        hotter = (self._air_c - ROOM_C) / (180.0 - ROOM_C)
        change = knobs.rise_c_min / 60 if self._heating else -knobs.fall_c_min / 60 * hotter
        if knobs.door_open:
            change -= DOOR_C_S * hotter
        self._air_c = max(self._air_c + change, ROOM_C)
        self._probe_c += (self._air_c - self._probe_c) / PROBE_LAG_S
