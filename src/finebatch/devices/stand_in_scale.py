"""A stand-in for a kitchen scale: it settles, drifts, is tared, and is overloaded."""

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.values import FromOutside
from finebatch.devices.readings import DeviceFault, Weight

Trouble = Literal["none", "unplugged", "rubbish"]
"""What can be wrong with a device: it does not answer, or it answers nonsense."""

CAPACITY_G = 5000.0
STEP_G = 0.5
SETTLE_S, SWAY_HZ = 0.35, 1.6
"""A load cell's reading sways so often a second, and the sway dies off in about this time."""
STEADY_AFTER_S = 1.6


@dataclass(frozen=True, slots=True)
class OnTheScale(FromOutside):
    """What a hand puts on it (g), how fast its zero drifts (g a minute), and what is wrong."""

    load_g: Annotated[float, Interval(ge=0, le=20_000)] = 0.0
    drift_g_min: Annotated[float, Interval(ge=-50, le=50)] = 0.0
    trouble: Trouble = "none"


class StandInScale:
    """Reads like a household scale of 5 kg in steps of half a gram.

    `clock` gives UTC milliseconds.
    """

    def __init__(self, clock: Callable[[], int]) -> None:
        self._clock = clock
        self.on_it = OnTheScale()
        self._before_g, self._changed_at = 0.0, clock()
        self._zero_g = 0.0
        self._drifted_g, self._drifting_since = 0.0, clock()

    def play(self, on_it: OnTheScale) -> None:
        """A hand puts something on it, takes it off, or makes trouble."""
        now = self._clock()
        self._before_g = self._swaying_g(now)
        self._drifted_g, self._drifting_since = self._drift_g(now), now
        if on_it.load_g != self.on_it.load_g:
            self._changed_at = now
        self.on_it = replace(on_it)

    def read(self) -> Weight:
        """What it shows now."""
        now = self._clock()
        if self.on_it.trouble == "unplugged":
            raise DeviceFault("The scale does not answer. Check its plug or battery.")
        if self.on_it.trouble == "rubbish":
            return Weight(math.nan, steady=True)
        lies_g = self._swaying_g(now) + self._drift_g(now)
        if self.on_it.load_g > CAPACITY_G:
            return Weight(CAPACITY_G, steady=False, overloaded=True)
        shown = round((lies_g - self._zero_g) / STEP_G) * STEP_G
        return Weight(shown, steady=(now - self._changed_at) / 1000 >= STEADY_AFTER_S)

    def tare(self) -> None:
        """Count from what lies on it now."""
        if self.on_it.trouble == "unplugged":
            raise DeviceFault("The scale does not answer. Check its plug or battery.")
        now = self._clock()
        self._zero_g = self._swaying_g(now) + self._drift_g(now)

    def _drift_g(self, now: int) -> float:
        minutes = (now - self._drifting_since) / 60_000
        return self._drifted_g + self.on_it.drift_g_min * minutes

    def _swaying_g(self, now: int) -> float:
        """The load as the cell feels it: a damped sway from what lay there before."""
        seconds = (now - self._changed_at) / 1000
        step = self._before_g - self.on_it.load_g
        sway = math.exp(-seconds / SETTLE_S) * math.cos(2 * math.pi * SWAY_HZ * seconds)
        return self.on_it.load_g + step * sway
