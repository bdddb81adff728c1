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
