"""Oven settings as cards write them: found, grouped, turned into each other."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.measures.durations import find_minutes
from finebatch.core.measures.temperatures import (
    celsius_of,
    fahrenheit_of,
    find_temperatures,
    gas_celsius,
    nearest_gas,
)


@given(st.floats(-40, 500))
def test_degrees_go_there_and_back(celsius: float) -> None:
    assert celsius_of(fahrenheit_of(celsius)) == pytest.approx(celsius, abs=1e-9)


@given(st.floats(100, 260), st.floats(0, 20))
def test_hotter_is_never_a_lower_mark(celsius: float, by: float) -> None:
    order = ["¼", "½", *map(str, range(1, 11))]
    assert order.index(nearest_gas(celsius + by)) >= order.index(nearest_gas(celsius))


@pytest.mark.parametrize(
    ("mark", "fahrenheit"), [(0.25, 225), (0.5, 250), (1, 275), (4, 350), (6, 400), (9, 475)]
)
def test_gas_marks_are_where_household_tables_have_them(mark: float, fahrenheit: float) -> None:
    assert gas_celsius(mark) == pytest.approx(celsius_of(fahrenheit))


@given(st.sampled_from(["¼", "½", *map(str, range(1, 11))]))
def test_a_mark_is_nearest_to_itself(mark: str) -> None:
    value = {"¼": 0.25, "½": 0.5}.get(mark) or float(mark)
    assert nearest_gas(gas_celsius(value)) == mark


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("Bake at 180 °C", [["180 °C"]]),
        ("350F", [["350 °F"]]),
        ("gas mark 4", [["gas 4"]]),
        ("gas ½", [["gas ½"]]),
        ("gas 2¾, or gas mark 3 1/2", [["gas 2¾", "gas 3½"]]),
        ("gas 3/4", [["gas ¾"]]),
        ("gas 12/4", []),
        ("180 °C (fan 160), gas 4", [["180 °C", "160 °C fan", "gas 4"]]),
        ("fan 160 °C", [["160 °C fan"]]),
        ("160°C fan / 350°F", [["160 °C fan", "350 °F"]]),
        ("convection 325 F", [["325 °F fan"]]),
        ("180º", [["180 °C"]]),
        ("400 degrees", [["400 °F"]]),
        ("200 °C for 5 minutes, then 150 °C", [["200 °C"], ["150 °C"]]),
        ("bake 12 minutes", []),
        ("180 g flour and 20 pieces", []),
        ("1/180 C", []),
    ],
)
def test_settings_are_found_as_they_are_written(text: str, found: list[list[str]]) -> None:
    assert [[str(one) for one in group] for group in find_temperatures(text)] == found


@given(st.text(max_size=120))
def test_any_text_is_read_without_harm(text: str) -> None:
    for group in find_temperatures(text):
        for one in group:
            assert 0 <= one.start < one.end <= len(text)
    for low, high in find_minutes(text):
        assert low > 0
        assert high >= 0


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("10–12 minutes", [(10, 12)]),
        ("for 8 to 9 min, then 2 mins", [(8, 9), (2, 2)]),
        ("9'", [(9, 9)]),
        ("0 min", []),
        ("12 pieces", []),
    ],
)
def test_minutes_are_found(text: str, found: list[tuple[float, float]]) -> None:
    assert find_minutes(text) == found
