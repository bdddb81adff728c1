"""The clock, handed in so that a test can move it."""

import time
from collections.abc import Callable

Clock = Callable[[], int]


def system_clock() -> int:
    """UTC milliseconds now."""
    return time.time_ns() // 1_000_000


def steady_clock() -> int:
    """Milliseconds that go on evenly, whatever this machine's clock is set to, also while it
    sleeps; from no moment in particular."""
    which = getattr(time, "CLOCK_BOOTTIME", time.CLOCK_MONOTONIC)
    return time.clock_gettime_ns(which) // 1_000_000


class MovedClock:
    """The clock of a demo: this machine's, and as much ahead as somebody has put it on by hand."""

    def __init__(self) -> None:
        self.ahead_ms = 0

    def __call__(self) -> int:
        """UTC milliseconds now."""
        return system_clock() + self.ahead_ms

    def put_on(self, minutes: int) -> None:
        """Put it on by so many minutes."""
        self.ahead_ms += 60_000 * minutes
