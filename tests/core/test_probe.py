"""What a thermometer in the oven tells, set against ovens whose truth is known."""

import math
from collections.abc import Sequence

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from finebatch.core.heat.probe import judge_oven, ready_at


def cycling(
    mean_c: float, swing_c: float, minutes: float, *, cycle_min: float = 6.0, warm_min: float = 15.0
) -> list[tuple[float, float]]:
    """An oven that warms up in a straight line and then swings like a sine around its mean."""
    trace = []
    for n in range(int(minutes * 6)):
        minute = n / 6
        if minute < warm_min:
            celsius = 20 + (mean_c + swing_c / 2 - 20) * minute / warm_min
        else:
            turn = 2 * math.pi * (minute - warm_min) / cycle_min
            celsius = mean_c + swing_c / 2 * math.cos(turn)
        trace.append((minute, celsius))
    return trace


def opened(
    trace: Sequence[tuple[float, float]], at: float, by_c: float
) -> list[tuple[float, float]]:
    """The same trace with a door opened: it falls at once and comes back within four minutes."""
    return [(m, c - by_c * max(1 - (m - at) / 4, 0) if m >= at else c) for m, c in trace]


@given(st.floats(150, 220), st.floats(6, 40), st.floats(4, 10), st.floats(150, 220))
def test_mean_swing_and_offset_are_found(
    mean_c: float, swing_c: float, cycle_min: float, dial_c: float
) -> None:
    assume(math.pi * swing_c / cycle_min < 10)  # °C a minute: no closed oven falls faster
    found = judge_oven(cycling(mean_c, swing_c, 60, cycle_min=cycle_min), dial_c)
    assert found is not None
    assert found.mean_c == pytest.approx(mean_c, abs=0.08 * swing_c + 0.3)
    assert found.swing_c == pytest.approx(swing_c, abs=0.05 * swing_c + 0.5)
    assert found.offset_c == pytest.approx(found.mean_c - dial_c)
    assert found.ready_min == pytest.approx(15, abs=1.0)


def test_half_a_cycle_more_on_one_side_does_not_count() -> None:
    means = []
    for minutes in (34, 35, 36, 37, 38, 39):
        found = judge_oven(cycling(180, 18, minutes), 180)
        assert found is not None
        means.append(found.mean_c)
    assert max(means) - min(means) < 1.0


def test_an_open_door_is_not_the_oven_s_swing() -> None:
    calm = cycling(180, 12, 70)
    found = judge_oven(opened(opened(calm, 30, 45), 50, 40), 180)
    assert found is not None
    assert found.mean_c == pytest.approx(180, abs=2)
    assert found.swing_c == pytest.approx(12, abs=3)


def test_an_oven_that_still_warms_up_is_not_judged() -> None:
    rising = [(n / 6, 20 + 1.5 * n) for n in range(90)]
    assert ready_at(rising) is None
    assert judge_oven(rising, 180) is None
    assert judge_oven([], 180) is None


def test_it_is_too_early_to_tell_from_a_few_minutes() -> None:
    assert judge_oven(cycling(180, 20, 19), 180) is None
    assert judge_oven(cycling(180, 20, 30), 180) is not None


def test_an_oven_that_holds_its_air_level_has_no_swing() -> None:
    level = [(n / 6, min(20 + 2 * n, 176.0)) for n in range(240)]
    found = judge_oven(level, 180)
    assert found is not None
    assert found.offset_c == pytest.approx(-4, abs=0.5)
    assert found.swing_c < 1
