"""Figures within words: both systems by one table, whatever the text, and only what is marked."""

import json
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.measures import figures
from finebatch.core.measures.figures import ANCHOR, MM_IN, marked, read_in
from finebatch.core.measures.kitchen_units import METRIC, US, KitchenUnits

CASES = json.loads((Path(__file__).parents[1] / "figures.json").read_text(encoding="utf-8"))
SAY = {
    "dial": figures.dial,
    "degrees": figures.degrees,
    "apart": figures.degrees_apart,
    "span": figures.centimetres,
    "fine": figures.millimetres,
    "mass": figures.grams,
    "volume": figures.millilitres,
}


@pytest.mark.parametrize(("measure", "kept", "metric", "us"), CASES)
def test_a_figure_in_both_systems(measure: str, kept: float, metric: str, us: str) -> None:
    said = SAY[measure](kept)
    assert read_in(said, METRIC) == metric
    assert read_in(said, US) == us


def test_each_measure_is_chosen_by_itself() -> None:
    text = f"{figures.dial(180)}, {figures.millimetres(6)}, {figures.grams(28.35)}"
    assert read_in(text, KitchenUnits(temperature="F")) == "355 °F, 6 mm, 28.4 g"
    assert read_in(text, KitchenUnits(length="inches")) == "180 °C, 1/4 in, 28.4 g"
    assert read_in(text, KitchenUnits(mass="ounces")) == "180 °C, 6 mm, 1 oz"


def test_ranges_and_boxes() -> None:
    said = [
        figures.degrees_between(2, 8),
        figures.length_between(60, 75),
        figures.length_between(5, 10, small=True),
        figures.grams_between(20, 60),
        figures.by(405, 305),
        figures.area(33),
    ]
    assert [read_in(text) for text in said] == [
        *("2 to 8 °C", "6 to 7.5 cm", "5 to 10 mm", "20 to 60 g", "40.5 × 30.5 cm", "33 cm²"),
    ]
    assert [read_in(text, US) for text in said] == [
        *("36 to 46 °F", "2 3/8 to 3 in", "3/16 to 3/8 in", "0.71 to 2.1 oz", "16 × 12 in"),
        "5.1 sq in",
    ]


def test_the_clock() -> None:
    said = [figures.clock(12, 5), figures.clock(0, 30), figures.clock(23, 0)]
    assert [read_in(text) for text in said] == ["12:05", "00:30", "23:00"]
    assert [read_in(text, US) for text in said] == ["12:05 pm", "12:30 am", "11:00 pm"]


def test_the_apps_own_tables_are_marked_and_nothing_else_is() -> None:
    assert read_in(marked("at or below 4 °C, or −18 °C"), US) == "at or below 40 °F, or 0 °F"
    assert read_in(marked("oven 10 °C hotter"), US) == "oven 18 °F hotter"
    assert read_in(marked("18 to 20 °C: it gives"), US) == "64 to 68 °F: it gives"
    assert read_in(marked("round 20 cm"), US) == "round 7 7/8 in"
    assert read_in(marked("oblong 20 × 30 cm"), US) == "oblong 7 7/8 × 11 3/4 in"
    assert marked("two tablespoons, 3 times") == "two tablespoons, 3 times"
    written = "Bake at 180 °C for 10 min"
    assert read_in(written, US) == written


@given(st.lists(st.sampled_from([ANCHOR, "\ufffa", "\ufffb", "=", "mass", "1 g"]), max_size=40))
def test_marks_that_are_no_figure_break_nothing(parts: list[str]) -> None:
    text = "".join(parts)
    read = read_in(text, US)
    assert read == text or f"{ANCHOR}" in text
    assert read_in(ANCHOR + "1 g", US) == ANCHOR + "1 g"


@given(st.floats(min_value=0.5, max_value=1000))
def test_inches_are_as_near_as_a_ruler_shows(mm: float) -> None:
    whole, _, part = figures.inch_figure(mm).rpartition(" ")
    over, _, below = part.partition("/")
    value = float(whole or 0) + (float(over) / float(below) if below else float(over))
    finest = 1 / 8 if mm >= MM_IN else 1 / 16
    assert abs(value * MM_IN - mm) <= finest * MM_IN / 2 + 0.01
    assert not below or int(below) in ((2, 4, 8) if mm >= MM_IN else (2, 4, 8, 16))
