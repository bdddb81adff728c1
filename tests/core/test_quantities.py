import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.measures.quantities import Quantity, find_quantities
from finebatch.core.measures.spoken import plain_text
from finebatch.core.measures.written_units import ML_IN_CUP


def only(text: str) -> Quantity:
    ((found,),) = find_quantities(plain_text(text))
    return found


@pytest.mark.parametrize(
    ("text", "dimension", "low"),
    [
        ("250 g flour", "mass", 250),
        ("250g flour", "mass", 250),
        ("0.25 kg flour", "mass", 250),
        ("9 oz flour", "mass", 255.15),
        ("2 lbs flour", "mass", 907.18),
        ("1 pound flour", "mass", 453.59),
        ("2 cups flour", "volume", 2),
        ("3 tbsp flour", "volume", 3 / 16),
        ("3 tablespoons flour", "volume", 3 / 16),
        ("1 T flour", "volume", 1 / 16),
        ("1 t flour", "volume", 1 / 48),
        ("2 tsp. flour", "volume", 2 / 48),
        ("8 fl oz milk", "volume", 1),
        ("1 pint milk", "volume", 2),
        ("100 ml milk", "volume", 100 / ML_IN_CUP),
        ("10 cl milk", "volume", 100 / ML_IN_CUP),
        ("1 dl milk", "volume", 100 / ML_IN_CUP),
        ("0,1 l milk", "volume", 100 / ML_IN_CUP),
        ("a pinch of salt", "volume", 1 / 768),
        ("two dashes of bitters", "volume", 2 / 384),
        ("1 1/2 sticks butter", "count", 1.5),
        ("3 eggs", "count", 3),
        ("half a lemon", "count", 0.5),
        ("1 bag raisins", "count", 1),
        ("about 40 g nuts", "mass", 40),
        ("heaped tbsp cocoa", "volume", 1.5 / 16),
        ("1 rounded tsp cocoa", "volume", 1.25 / 48),
        ("1 level tsp cocoa", "volume", 1 / 48),
        ("6-ounce bar", "mass", 170.1),
    ],
)
def test_units_as_they_are_written(text: str, dimension: str, low: float) -> None:
    found = only(text)
    assert found.dimension == dimension
    assert found.low == pytest.approx(low, rel=1e-4)
    assert not found.is_range


@pytest.mark.parametrize(
    ("text", "low", "high"),
    [
        ("80-110 g sugar", 80, 110),
        ("80–110 g sugar", 80, 110),
        ("80 to 110 g sugar", 80, 110),
        ("80 or 110 g sugar", 80, 110),
    ],
)
def test_ranges_keep_both_ends(text: str, low: float, high: float) -> None:
    found = only(text)
    assert (found.low, found.high, found.is_range) == (low, high, True)


@pytest.mark.parametrize(
    ("text", "sizes"),
    [
        ("1 cup (160 g) flour", [("volume", 1), ("mass", 160)]),
        ("250g/9oz flour", [("mass", 250), ("mass", 255.15)]),
        ("1 cup (2 sticks) butter", [("volume", 1), ("count", 2)]),
        ("2 cups plus 2 tbsp (270 g) flour", [("volume", 2.125), ("mass", 270)]),
        ("100 g or 3 1/2 oz flour", [("mass", 100), ("mass", 99.22)]),
    ],
)
def test_the_same_amount_said_twice_is_one_group(text: str, sizes: list[tuple[str, float]]) -> None:
    (group,) = find_quantities(plain_text(text))
    assert [q.dimension for q in group] == [dimension for dimension, _ in sizes]
    assert [q.low for q in group] == pytest.approx([low for _, low in sizes], rel=1e-3)


@pytest.mark.parametrize(
    "text", ["flour", "", "70% chocolate", "0 g flour", "1/0 cup flour", "A4 paper", "x2y"]
)
def test_where_there_is_no_amount_none_is_found(text: str) -> None:
    assert find_quantities(plain_text(text)) == []


@given(st.integers(1, 20), st.sampled_from(["x", "×"]), st.integers(10, 500))
def test_so_many_of_so_much_is_multiplied(count: int, sign: str, grams: int) -> None:
    assert only(f"{count} {sign} {grams} g bars").low == pytest.approx(count * grams)


@given(st.text(max_size=200))
def test_quantities_stand_in_order_inside_the_line(text: str) -> None:
    plain = plain_text(text)
    places = [(q.start, q.end) for group in find_quantities(plain) for q in group]
    assert places == sorted(places)
    assert all(0 <= start < end <= len(plain) for start, end in places)
