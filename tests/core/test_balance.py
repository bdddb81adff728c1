"""Balance, method, character, cautions: what follows from a formula, in figures and words."""

import pytest
from hypothesis import given

from finebatch.core.care.cautions import allergens, cautions
from finebatch.core.formula.balance import Balance, balance
from finebatch.core.formula.compare import changes, compare_lines
from finebatch.core.formula.dough import Card, Line, Part
from finebatch.core.formula.method import method_of, usual_steps
from finebatch.core.formula.parts import part_needs
from finebatch.core.formula.step import Step
from finebatch.core.formula.weigh import weigh
from finebatch.core.larder.measuring import Measuring
from finebatch.core.measures.figures import read_in
from finebatch.core.piece.character import difference
from finebatch.facts import formula, tables
from tests.cards import cards

LARDER = tables.larder()
DROP = {"flour_ap": 250.0, "butter_unsalted": 160.0, "sugar_brown_light": 200.0, "egg_whole": 50.0}


def balanced(formula_g: dict[str, float], family: str = "drop") -> Balance:
    return balance(
        formula_g,
        family,
        LARDER,
        formula.bands(),
        formula.soda_per_g(),  # type: ignore[arg-type]
    )


def test_a_usual_dough_stands_inside_every_band() -> None:
    found = balanced(DROP)
    assert [s.said for s in found.standings] == [""] * len(found.standings)
    by = {s.figure: s for s in found.standings}
    assert by["sugar"].percent == pytest.approx(
        100 * (200 * 0.965 + 160 * 0.005 + 50 * 0.005) / 250
    )
    assert (by["sugar"].low, by["sugar"].high) == (45, 115)
    assert found.fat_g == pytest.approx(160 * 0.81 + 250 * 0.01 + 50 * 0.095)


@pytest.mark.parametrize(
    ("key", "grams", "words"),
    [
        ("sugar_brown_light", 460, "thin and brittle"),
        ("sugar_brown_light", 30, "cakey"),
        ("egg_whole", 260, "Wet"),
        ("butter_unsalted", 40, "bready"),
        ("chocolate_chips", 600, "breaks apart"),
    ],
)
def test_outside_a_band_it_says_what_will_happen(key: str, grams: float, words: str) -> None:
    said = " ".join(s.said for s in balanced({**DROP, key: grams}).standings)
    assert words in said


def test_soda_is_set_against_acid() -> None:
    plain = balanced({**DROP, "sugar_white": 200.0, "baking_soda": 2.0, "sugar_brown_light": 0})
    assert plain.leavening.left_g == pytest.approx(2)
    brown = balanced({**DROP, "baking_soda": 2.0})
    assert brown.leavening.neutralised_g == pytest.approx(200 * 0.003)
    tartar = balanced({**DROP, "baking_soda": 1.0, "cream_of_tartar": 5.0})
    assert tartar.leavening.left_g == 0


def test_self_raising_flour_is_flour_with_leavening_and_salt() -> None:
    found = balanced({"flour_self_raising": 250.0, "butter_unsalted": 100.0})
    assert found.leavening.powder_g == pytest.approx(10)
    assert found.salt_g == pytest.approx(1.5)
    weighed = weigh([Line("250", "g", "flour_self_raising")], LARDER)
    assert weighed.base_g == pytest.approx(250 * 0.954)


def test_salted_butter_brings_its_salt() -> None:
    assert balanced({"flour_ap": 250.0, "butter_salted": 200.0}).salt_g == pytest.approx(3)


@given(cards())
def test_any_dough_is_balanced_without_harm(card: Card) -> None:
    found = balanced(weigh(card.lines, LARDER).known_g(), card.family)
    assert found.water_free_g <= found.water_g + 1e-9
    assert all(s.percent >= 0 for s in found.standings)


CARD = Card(
    "A",
    "drop",
    "creamed",
    (
        Line("250", "g", "flour_ap"),
        Line("160", "g", "butter_unsalted"),
        Line("200", "g", "sugar_white"),
        Line("1", "egg", "egg_whole"),
        Line("80", "g", "walnuts"),
    ),
)


def with_mixing(mixing: str) -> Card:
    return Card("A", "drop", mixing, CARD.lines)  # type: ignore[arg-type]


@pytest.mark.parametrize("mixing", ["creamed", "rubbed_in", "melted", "oil", "whisked"])
def test_each_method_has_steps_that_name_the_dough(mixing: str) -> None:
    steps = usual_steps(with_mixing(mixing), formula.step_templates(), LARDER)
    text = " ".join(step.text for step in steps)
    for word in ("unsalted butter", "whole egg", "all-purpose flour", "walnuts"):
        assert word in text
    assert "{" not in text
    assert all(step.cue for step in steps)
    assert any(step.caution for step in steps)
    assert 5 <= sum(step.hands_min + step.wait_min for step in steps) <= 40


def test_steps_for_what_is_not_there_are_left_out() -> None:
    bare = Card("A", "shortbread", "creamed", CARD.lines[:2])
    text = " ".join(s.text for s in usual_steps(bare, formula.step_templates(), LARDER))
    assert "Beat in" not in text
    assert "with ." not in text


def test_own_steps_go_over_the_usual_ones() -> None:
    own = (Step("Stir.", 3, 20),)
    card = Card("A", "drop", "creamed", CARD.lines, steps=own)
    assert method_of(card, formula.step_templates(), LARDER) == own


def test_changes_are_said_in_a_bakers_words() -> None:
    lines = (Line("300", "g", "flour_ap"), *CARD.lines[1:4], Line("2", "tsp", "cinnamon"))
    wash = Part("wash", "egg wash", (), 1)
    after = Card("B", "rolled", "melted", lines, parts=(wash,))
    assert tuple(map(read_in, changes(CARD, after, LARDER))) == (
        "All-purpose (plain) flour 250 → 300 g",
        "Ground cinnamon added, 5.2 g",
        "Walnuts (chopped) taken out",
        "drop → rolled",
        "creamed → melted",
        "egg wash added",
    )
    assert changes(CARD, Card("Other name", "drop", "creamed", CARD.lines), LARDER) == ()
    double = tuple(Line(str(2 * int(x.amount)), x.unit, x.ingredient) for x in CARD.lines)
    assert changes(CARD, Card("A", "drop", "creamed", double), LARDER) == ("all × 2",)


def test_two_versions_line_by_line() -> None:
    after = weigh([*CARD.lines[:1], Line("10", "g", "honey")], LARDER)
    rows = {row.ingredient: row for row in compare_lines(weigh(CARD.lines, LARDER), after)}
    assert rows["honey"].before_g is None
    assert rows["walnuts"].after_g is None
    assert rows["flour_ap"].changed is False
    assert rows["honey"].after_pct == pytest.approx(4)


def test_differences_in_words() -> None:
    assert difference("tender", 0, 0.01) == "about the same"
    assert difference("tender", 0, 0.1) == "a little more tender"
    assert difference("browning", 1, 0.7) == "stays paler"
    assert difference("keeping", 0, 1) == "keeps clearly longer"


def test_parts_are_scaled_to_the_pieces() -> None:
    icing = Part("icing", "icing", (Line("100", "g", "sugar_icing"), Line("20", "g", "water")), 3)
    empty = Part("dip", "dip", (), 3)
    need, nothing = part_needs((icing, empty), 50, LARDER)
    assert (need.need_g, need.factor) == (150, pytest.approx(1.25))
    assert nothing.factor is None


def test_allergens_and_cautions_count_the_parts_as_well() -> None:
    icing = Part("icing", "icing", (Line("1", "white", "egg_white"), Line("5", "g", "honey")), 3)
    card = Card("A", "twice_baked", "melted", CARD.lines, parts=(icing,))
    found = {a.name: a.brought_by for a in allergens(card, LARDER)}
    assert set(found) == {"wheat", "milk", "eggs", "tree nuts"}
    assert "Egg white in the icing" in found["eggs"]
    said = " ".join(cautions(card, LARDER, formula.caution_texts()))
    for word in ("pasteurised", "under one year", "spits", "hot logs", "Raw flour", "two hours"):
        assert word in said
    assert cautions(Card("A", "drop", "oil", ()), LARDER, formula.caution_texts()) == []


def test_the_assumption_decides_the_grams() -> None:
    lines = (
        Line("1", "cup", "flour_ap"),
        Line("1", "cup", "flour_ap", cup="sifted"),
        Line("2", "egg", "egg_whole"),
        Line("2", "egg", "egg_whole", egg="US medium"),
    )
    kitchen = Measuring("dipped", "EU/UK large", tables.egg_sizes())
    found = weigh(lines, LARDER, kitchen)
    assert [line.grams for line in found.lines] == [142, 115, 120, 88]
    assert [line.assumed for line in found.lines] == [
        "dipped",
        "sifted",
        "EU/UK large",
        "US medium",
    ]


@pytest.mark.parametrize(
    ("line", "fault"),
    [
        (Line("1 1/4", "of_eggs", "flour_ap"), "lines.0.unit"),
        (Line("80–110", "g", "sugar_white", chosen="120"), "lines.0.chosen"),
        (Line("80–110", "g", "sugar_white", chosen="x"), "lines.0.chosen"),
        (Line("110–80", "g", "sugar_white"), "lines.0.amount"),
    ],
)
def test_ratios_and_ranges_that_make_no_sense_are_named(line: Line, fault: str) -> None:
    assert [f.field for f in weigh([line], LARDER).faults] == [fault]


@pytest.mark.parametrize(
    ("keys", "given"),
    [
        (("butter_unsalted",), {"dairy"}),
        (("milk_whole", "egg_whole"), {"dairy", "egg"}),
        (("egg_whole",), {"egg"}),
        (("oil_neutral",), set()),
    ],
)
def test_dairy_and_egg_are_cautioned_each_for_itself(
    keys: tuple[str, ...], given: set[str]
) -> None:
    texts = formula.caution_texts()
    lines = tuple(Line("100", "g", key) for key in keys)
    said = cautions(Card("A", "drop", "oil", lines), LARDER, texts)
    assert {trigger for trigger in ("dairy", "egg") if texts[trigger] in said} == given


def test_cereals_carry_gluten_and_wheat_is_its_own() -> None:
    for key in ("flour_rye", "flour_barley", "flour_spelt", "oats_rolled", "oats_quick"):
        assert "gluten" in LARDER[key].allergens, key
    assert LARDER["flour_rye"].allergens == ("gluten",)
    assert LARDER["flour_ap"].allergens == ("wheat",)
    assert "wheat" in LARDER["flour_spelt"].allergens
    assert LARDER["flour_buckwheat"].allergens == ()
