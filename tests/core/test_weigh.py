import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.composition import compose
from finebatch.core.formula.dough import Line
from finebatch.core.formula.limits import MOST_LINES
from finebatch.core.formula.weigh import BASE_ROLES, weigh
from finebatch.core.larder.ingredient import Larder
from finebatch.core.refusal import Refusal
from finebatch.facts import tables

KEYS = sorted(tables.larder())
lines = st.lists(
    st.builds(
        lambda grams, key: Line(f"{grams:.2f}", "g", key),
        st.floats(0.5, 2000),
        st.sampled_from(KEYS),
    ),
    min_size=1,
    max_size=30,
)


@pytest.mark.parametrize(
    ("amount", "unit", "key", "grams"),
    [
        ("2 1/4", "cup", "flour_ap", 281.25),
        ("1", "oz", "flour_ap", 28.3495),
        ("3", "tbsp", "golden_syrup", 63.75),
        ("1", "tsp", "vanilla_extract", 208 / 48),
        ("2", "egg", "egg_whole", 100),
        ("1 1/2", "stick", "butter_unsalted", 169.5),
        ("1", "yolk", "egg_yolk", 18),
    ],
)
def test_a_line_in_grams(larder: Larder, amount: str, unit: str, key: str, grams: float) -> None:
    found = weigh([Line(amount, unit, key)], larder)  # type: ignore[arg-type]
    assert found.lines[0].grams == pytest.approx(grams, rel=1e-4)


@given(lines)
def test_percentages_of_the_flour_and_grain_sum_to_a_hundred(card: list[Line]) -> None:
    larder = tables.larder()
    found = weigh(card, larder)
    assert found.total_g == pytest.approx(sum(line.grams or 0 for line in found.lines))
    base = sum(
        (line.percent or 0) * larder.share_of(line.ingredient or "", BASE_ROLES)
        for line in found.lines
    )
    if base:
        assert base == pytest.approx(100)
    else:
        assert all(line.percent is None for line in found.lines)


@given(lines, st.floats(0.1, 5))
def test_scaling_a_card_keeps_its_percentages(card: list[Line], factor: float) -> None:
    larder = tables.larder()
    found = weigh(card, larder)
    scaled = weigh(
        [Line(repr(float(line.amount) * factor), "g", line.ingredient) for line in card], larder
    )
    for one, other in zip(found.lines, scaled.lines, strict=True):
        assert (one.percent or 0) == pytest.approx(other.percent or 0)


def test_faulty_lines_are_named_and_the_others_are_weighed(larder: Larder) -> None:
    found = weigh(
        [
            Line("250", "g", "flour_ap"),
            Line("much", "g", "butter_unsalted"),
            Line("2", "stick", "flour_ap"),
            Line("1", "g", None),
            Line("999999", "cup", "sugar_white"),
        ],
        larder,
    )
    assert [f.field for f in found.faults] == [
        "lines.1.amount",
        "lines.2.unit",
        "lines.3.ingredient",
        "lines.4.amount",
    ]
    assert found.total_g == 250
    with pytest.raises(Refusal):
        found.formula_g()


def test_too_many_lines_are_refused(larder: Larder) -> None:
    with pytest.raises(Refusal, match="10,000"):
        weigh([Line("1", "g", "flour_ap")] * 10_000, larder)
    assert len(weigh([Line("1", "g", "flour_ap")] * MOST_LINES, larder).lines) == MOST_LINES


@given(lines)
def test_composition_keeps_the_mass_and_has_a_dough_s_density(card: list[Line]) -> None:
    larder = tables.larder()
    found = weigh(card, larder)
    made = compose(found.formula_g(), larder)
    assert made.total_g == pytest.approx(found.total_g)
    assert made.base_g == pytest.approx(found.base_g)
    assert made.structure_g >= made.base_g
    assert 0.8 < made.density_g_cm3 < 1.5
    assert 0 <= made.pieces_share_by_volume + made.candy_share_by_volume <= 1.0001
