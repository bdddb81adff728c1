"""The clock, handed in so that a test can move it."""

import time
from collections.abc import Callable

Clock = Callable[[], int]


def system_clock() -> int:
    """UTC milliseconds now."""
    return time.time_ns() // 1_000_000
