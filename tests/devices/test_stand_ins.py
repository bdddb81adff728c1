"""The stand-ins behave like the devices that they stand in for."""

import math
from dataclasses import replace

import pytest

from finebatch.core.heat.probe import judge_oven
from finebatch.devices.readings import (
    DeviceFault,
    Weight,
    temperature_of,
    weight_of,
)
from finebatch.devices.stand_in_oven import OvenKnobs, StandInOven
from finebatch.devices.stand_in_scale import OnTheScale, StandInScale
from tests.conftest import HandClock


def trace_of(oven: StandInOven, clock: HandClock, minutes: float) -> list[tuple[float, float]]:
    begun, trace = clock(), []
    for _ in range(round(minutes * 6)):
        clock.pass_minutes(1 / 6)
        trace.append(((clock() - begun) / 60_000, temperature_of(oven)))
    return trace


def test_a_scale_sways_and_settles(clock: HandClock) -> None:
    scale = StandInScale(clock)
    scale.play(OnTheScale(load_g=100))
    shown = []
    for _ in range(40):
        clock.at += 50
        shown.append(weight_of(scale))
    assert max(w.grams for w in shown) > 101
    assert not shown[5].steady
    assert shown[-1].steady
    assert shown[-1].grams == pytest.approx(100, abs=0.5)


def test_a_tared_scale_counts_from_there(clock: HandClock) -> None:
    scale = StandInScale(clock)
    scale.play(OnTheScale(load_g=350))
    clock.at += 5000
    scale.tare()
    scale.play(OnTheScale(load_g=378))
    clock.at += 5000
    assert weight_of(scale).grams == pytest.approx(28, abs=0.5)


def test_a_scale_drifts_and_a_new_tare_mends_it(clock: HandClock) -> None:
    scale = StandInScale(clock)
    scale.play(OnTheScale(drift_g_min=2))
    clock.pass_minutes(5)
    assert weight_of(scale).grams == pytest.approx(10, abs=0.5)
    scale.tare()
    assert weight_of(scale).grams == pytest.approx(0, abs=0.5)
    scale.play(OnTheScale(drift_g_min=0))
    clock.pass_minutes(5)
    assert weight_of(scale).grams == pytest.approx(0, abs=0.5)


def test_a_scale_says_when_too_much_lies_on_it(clock: HandClock) -> None:
    scale = StandInScale(clock)
    scale.play(OnTheScale(load_g=6000))
    clock.at += 5000
    assert weight_of(scale).overloaded
    assert not weight_of(scale).steady


def test_trouble_is_a_fault_that_says_what_to_do(clock: HandClock) -> None:
    scale, oven = StandInScale(clock), StandInOven(clock)
    for trouble, words in (("unplugged", "does not answer"), ("rubbish", "what is no")):
        scale.play(OnTheScale(trouble=trouble))  # type: ignore[arg-type]
        oven.play(OvenKnobs(trouble=trouble))  # type: ignore[arg-type]
        with pytest.raises(DeviceFault, match=words):
            weight_of(scale)
        with pytest.raises(DeviceFault, match=words):
            temperature_of(oven)
    scale.play(OnTheScale(load_g=10))
    clock.at += 5000
    assert weight_of(scale).grams == 10


class Mad:
    """A device that answers anything at all."""

    def __init__(self, said: object) -> None:
        self.said = said

    def read(self) -> object:
        return self.said

    def tare(self) -> None: ...


@pytest.mark.parametrize("said", [math.nan, math.inf, -1e9, 1e9, None, "12 g", True, [3]])
def test_rubbish_never_gets_through(said: object) -> None:
    with pytest.raises(DeviceFault):
        temperature_of(Mad(said))  # type: ignore[arg-type]
    with pytest.raises(DeviceFault):
        weight_of(Mad(said))  # type: ignore[arg-type]
    with pytest.raises(DeviceFault):
        weight_of(Mad(Weight(said, steady=True)))  # type: ignore[arg-type]


@pytest.mark.parametrize("offset_c", [-12.0, 0.0, 15.0])
def test_an_oven_s_offset_is_found_again(clock: HandClock, offset_c: float) -> None:
    oven = StandInOven(clock)
    assert temperature_of(oven) < 30
    oven.play(OvenKnobs(dial_c=180, offset_c=offset_c, swing_c=20))
    found = judge_oven(trace_of(oven, clock, 60), 180)
    assert found is not None
    assert found.offset_c == pytest.approx(offset_c, abs=2)
    assert 12 <= found.swing_c <= 20
    assert found.ready_min > 12


def test_an_open_door_dips_and_the_oven_comes_back(clock: HandClock) -> None:
    oven = StandInOven(clock)
    knobs = OvenKnobs(dial_c=180, offset_c=0, swing_c=10)
    oven.play(knobs)
    before = trace_of(oven, clock, 40)[-1][1]
    oven.play(replace(knobs, door_open=True))
    clock.pass_minutes(0.4)
    oven.play(knobs)
    clock.pass_minutes(0.3)
    dipped = temperature_of(oven)
    assert dipped < before - 15
    clock.pass_minutes(12)
    assert temperature_of(oven) > dipped + 15


def test_an_oven_that_nobody_looked_at_for_a_day_is_cold(clock: HandClock) -> None:
    oven = StandInOven(clock)
    oven.play(OvenKnobs(dial_c=180))
    clock.pass_minutes(40)
    assert temperature_of(oven) > 150
    oven.play(OvenKnobs(dial_c=0))
    clock.pass_minutes(24 * 60)
    assert temperature_of(oven) < 30
