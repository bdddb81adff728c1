import contextlib
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.measures.amounts import parse_amount
from finebatch.core.refusal import Refusal


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("2", 2),
        ("2.5", 2.5),
        ("2,5", 2.5),
        ("1/2", 0.5),
        ("2 1/4", 2.25),
        ("½", 0.5),
        ("2½", 2.5),
        ("1 ¾", 1.75),
        (" 3 / 4 ", 0.75),
        (".5", 0.5),
        ("1⁄3", 1 / 3),
    ],
)
def test_amounts_as_people_write_them(text: str, value: float) -> None:
    assert float(parse_amount(text).middle) == pytest.approx(value)


@pytest.mark.parametrize(
    "text",
    [
        "",
        "  ",
        "a",
        "1/0",
        "-2",
        "0",
        "1e3",
        "1 2",
        "1/2 1",
        "1 2 1/2",
        "1e999",
        "10" * 9,
        "½ ½",
        "🍪",
        "١",
        "²",
        "1 cup",
        "nan",
        "inf",
    ],
)
def test_what_is_no_amount_is_refused_at_its_field(text: str) -> None:
    with pytest.raises(Refusal) as refused:
        parse_amount(text, field="lines.3.amount")
    (fault,) = refused.value.faults
    assert fault.field == "lines.3.amount"
    assert fault.message.endswith(".")


@given(whole=st.integers(0, 500), top=st.integers(1, 7), bottom=st.integers(2, 8))
def test_mixed_numbers_are_the_sum_of_their_parts(whole: int, top: int, bottom: int) -> None:
    text = f"{whole} {top}/{bottom}" if whole else f"{top}/{bottom}"
    assert float(parse_amount(text).middle) == pytest.approx(float(whole + Fraction(top, bottom)))


@given(st.text(max_size=30))
def test_any_text_is_a_positive_amount_or_refused(text: str) -> None:
    with contextlib.suppress(Refusal):
        assert 0 < parse_amount(text).low <= 1e6
