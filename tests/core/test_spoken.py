"""Lines as people say them: number words, halves of things, and what a line is for."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.card_text import read_card
from finebatch.core.formula.dough import Line
from finebatch.core.formula.reading import ReadLine
from finebatch.core.formula.weigh import weigh
from finebatch.core.measures.quantities import find_quantities
from finebatch.core.measures.spoken import plain_text
from finebatch.facts import tables

READER = tables.reader()
ONES = ["", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"]
PARTS = {
    Fraction(1, 2): ("half", "1/2", "½", ".5"),
    Fraction(1, 3): ("third", "1/3", "⅓", None),
    Fraction(2, 3): ("two thirds", "2/3", "⅔", None),
    Fraction(1, 4): ("quarter", "1/4", "¼", ".25"),
    Fraction(3, 4): ("three quarters", "3/4", "¾", ".75"),
}


def read(text: str) -> ReadLine:
    (found,) = READER.read_all(text)
    return found


def spoken(whole: int, part: Fraction | None, unit: str) -> list[str]:
    """One amount in every style in which cards have it."""
    units = f"{unit}s"
    if part is None:
        few = {1: [f"a {unit}"], 2: [f"a couple of {units}"]}.get(whole, [])
        return [f"{whole} {units}", f"{ONES[whole]} {units}", *few]
    words, digits, sign, decimal = PARTS[part]
    top, _, name = words.rpartition(" ")
    a_part = words if top else f"a {words}"
    if whole == 0:
        of = f"{top} {name.removesuffix('s')}s" if top else words
        tops = {"two": "2", "three": "3"}.get(top, "1")
        return [
            f"{digits} {unit}",
            f"{sign} {unit}",
            f"{a_part} of a {unit}" if name != "half" else f"half a {unit}",
            f"{of.replace(' ', '-')} {unit}",
            f"{tops} {name} {unit}",
            f"{digits} of a {unit}",
        ]
    styles = [
        f"{whole} {digits} {units}",
        f"{whole}{sign} {units}",
        f"{whole} and {digits} {units}",
        f"{whole} & {digits} {units}",
        f"{whole}-{digits} {units}",
        f"{ONES[whole]} and {a_part} {units}",
        f"{whole} and {a_part} {units}",
        f"{whole} {units} and {a_part} of",
        f"{ONES[whole]} {units} and {a_part}",
    ]
    if whole == 1:
        styles += [f"a {unit} and {a_part}", f"a {unit} and {a_part} of"]
    if decimal:
        styles += [f"{whole}{decimal} {units}", f"{whole}{decimal.replace('.', ',')} {units}"]
    return styles


@given(
    st.integers(0, 10),
    st.sampled_from([None, *PARTS]),
    st.sampled_from(["cup", "tablespoon", "teaspoon", "ounce", "pound"]),
    st.sampled_from(["sugar", "flour", "milk"]),
    st.data(),
)
def test_an_amount_weighs_the_same_however_it_is_said(
    whole: int, part: Fraction | None, unit: str, what: str, data: st.DataObject
) -> None:
    if whole == 0 and part is None:
        return
    said = data.draw(st.sampled_from(spoken(whole, part, unit)))
    plain = read(f"1 {unit} {what}").grams
    found = read(f"{said} {what}")
    assert plain is not None
    assert found.grams == pytest.approx(plain * float(whole + (part or 0)), rel=2e-3), said
    assert not found.asks, said


@pytest.mark.parametrize(
    ("text", "grams"),
    [
        ("a stick and a half of butter", 169.5),
        ("two and a half sticks butter", 282.5),
        ("half an egg", 25),
        ("an egg", 50),
        ("half a dozen eggs", 300),
        ("a hundred and twenty grams of sugar", 120),
        ("two hundred grams flour", 200),
        ("twenty-five grams of honey", 25),
        ("3 fourths of a cup of sugar", 150),
        ("a pound and a quarter of sugar", 567),
        ("2 packages (each 100 g) dates", 200),
        ("one 8-ounce bag of chocolate chips", 226.8),
        ("eight-ounce bag chocolate chips", 226.8),
        ("1,250 g flour", 1250),
        ("1,5 kg flour", 1500),
        ("3 medium eggs (large in the US)", 150),
        ("the white of an egg", 32),
        ("three handfuls of raisins", None),
        ("a little salt", None),
    ],
)
def test_lines_as_they_are_said(text: str, grams: float | None) -> None:
    assert read(text).grams == (None if grams is None else pytest.approx(grams, rel=0.01))


@pytest.mark.parametrize(
    ("text", "one", "other"),
    [
        ("11/4 cups sugar", "1 1/4", "2 3/4"),
        ("21/2 tsp salt", "2 1/2", "10 1/2"),
        ("1.5 a cup of flour", "1 1/2", "1/2"),
        ("2,5 of a cup of milk", "2 1/2", "1/2"),
        ("1.250 g flour", "1250", "1 1/4"),
    ],
)
def test_what_can_be_meant_in_two_ways_is_asked_with_both(text: str, one: str, other: str) -> None:
    (ask,) = read(text).asks
    assert ask == f"Is that {one} or {other}? {one} is taken."


@pytest.mark.parametrize(
    ("text", "eggs", "key"),
    [
        ("the weight of three eggs in flour", "3", "flour_ap"),
        ("sugar, as much as 4 eggs weigh", "4", "sugar_white"),
        ("butter, the same weight as 2 1/2 eggs", "2 1/2", "butter_unsalted"),
        ("2 eggs' weight of ground almonds", "2", "flour_almond"),
    ],
)
def test_weights_of_eggs_have_a_number_of_their_own(text: str, eggs: str, key: str) -> None:
    found = read(text)
    assert (found.line.amount, found.line.unit, found.ingredient) == (eggs, "egg_weight", key)
    assert found.grams == pytest.approx(50 * float(sum(map(Fraction, eggs.split()))))
    assert "50 g" in found.asks[-1]
    weighed = weigh([found.line], READER.larder)
    assert weighed.total_g == pytest.approx(found.grams)


def test_the_weight_of_the_eggs_is_that_of_the_doughs_own() -> None:
    found = read("butter, the same weight as the eggs")
    assert (found.line.amount, found.line.unit) == ("1", "of_eggs")
    both = weigh([Line("3", "egg", "egg_whole"), found.line], READER.larder)
    assert [line.grams for line in both.lines] == [150, 150]


@pytest.mark.parametrize(
    ("text", "purpose"),
    [
        ("200 g sugar", "dough"),
        ("100 g sugar for dipping", "coating"),
        ("sugar, to roll them in", "coating"),
        ("1/2 cup demerara for rolling the logs", "coating"),
        ("desiccated coconut to coat", "coating"),
        ("melted chocolate for dipping", "dip"),
        ("icing sugar to dust", "dusting"),
        ("flour for dusting", "bench"),
        ("flour, to dust the work surface", "bench"),
        ("a little flour for your hands", "bench"),
        ("flour for rolling out", "bench"),
        ("butter to grease the tin", "bench"),
        ("plus extra flour for dusting", "bench"),
        ("1 egg, to brush", "wash"),
        ("milk for brushing the tops", "wash"),
        ("flaked almonds for the tops", "topping"),
        ("flaky salt, to finish", "topping"),
        ("sprinkles to decorate", "topping"),
        ("jam for the centres", "filling"),
        ("250 g flour, plus more for rolling", "dough"),
        ("250 g flour plus extra for the bench", "dough"),
        ("1/2 egg, beaten (keep the rest for brushing)", "dough"),
        ("60 g walnuts, a few kept back for the tops", "dough"),
        ("100 g butter for the dough", "dough"),
    ],
)
def test_a_line_says_what_it_is_for(text: str, purpose: str) -> None:
    found, *_ = READER.read_all(text)
    assert found.purpose == purpose
    assert found.ingredient is not None
    if purpose != "dough":
        assert not found.asks


def test_one_egg_has_two_uses() -> None:
    found = READER.read_all("1 egg, half for the dough, half to brush")
    assert [(one.purpose, one.grams) for one in found] == [("dough", 25), ("wash", 25)]


def test_a_line_without_an_amount_stops_nothing() -> None:
    lines = (Line("200", "g", "flour_ap"), Line("", "g", "salt_fine"))
    weighed = weigh(lines, READER.larder)
    assert (weighed.total_g, weighed.faults) == (200, ())
    assert weighed.lines[1].grams is None
    unknown = weigh([Line("", "g", None)], READER.larder)
    assert unknown.faults


CARD = """Caraway moons
30 pieces

a stick and a half of butter
half a cup sugar
two cups and a quarter flour
1 egg yolk
a little salt
sugar to roll them in
flour for your hands

Glaze
100 g icing sugar
a spoonful of milk

cream the butter and sugar
Add the yolk, then the flour
Chill an hour
Shape moons, 15 g each
325F for 12-14 minutes
Decorations: sprinkles, 2 tbsp chopped pistachios"""


def test_a_hurried_card_is_sorted_into_dough_parts_bench_and_steps() -> None:
    card = read_card(CARD, READER)
    assert (card.title, card.stated_pieces) == ("Caraway moons", 30)
    assert [line.ingredient for line in card.lines] == [
        "butter_unsalted",
        "sugar_white",
        "flour_ap",
        "egg_yolk",
        "salt_fine",
    ]
    assert sum(line.grams or 0 for line in card.lines) == pytest.approx(
        169.5 + 100 + 281 + 18, 0.01
    )
    assert {part.kind: [line.ingredient for line in part.lines] for part in card.parts} == {
        "coating": ["sugar_white"],
        "icing": ["sugar_icing", "milk_whole"],
        "topping": ["sprinkles", "pistachios"],
        "bench": ["flour_ap"],
    }
    assert len(card.steps) == 5
    assert card.notes == ()


def test_a_glaze_in_one_line_is_a_part_of_its_own() -> None:
    card = read_card(
        "200 g flour\nGlaze: 100 g icing sugar, 2 tbsp lemon juice\n100 g butter", READER
    )
    assert [line.ingredient for line in card.lines] == ["flour_ap", "butter_unsalted"]
    (icing,) = card.parts
    assert [line.grams for line in icing.lines] == [100, pytest.approx(30, 0.1)]


@given(st.text(alphabet="0123456789 /.,-½¼ahlfqutrndcoupsig&", max_size=60))
def test_whatever_is_said_reads_to_something(text: str) -> None:
    plain = plain_text(text)
    for group in find_quantities(plain):
        for quantity in group:
            assert 0 < quantity.low <= quantity.high


@pytest.mark.parametrize(
    ("text", "others"),
    [
        ("11/4 cups flour", [("2 3/4", "cup", "flour_ap")]),
        ("1.5 a cup of custard powder", [("1/2", "cup", "custard_powder")]),
        ("2 packages (3.4 oz) raisins", [("6.8", "oz", "raisins")]),
        ("1 cup (160 g) flour", [("1", "cup", "flour_ap")]),
        ("100 g butter or margarine", [("100", "g", "margarine")]),
        ("2 tbsp fresh (or 2 tsp dried) rosemary", [("2", "tsp", "herb_dried")]),
        ("1/2 cup walnuts or pecans, chopped", [("1/2", "cup", "pecans")]),
        ("200 g flour", []),
        ("1 tsp salt or to taste", []),
    ],
)
def test_the_other_readings_of_a_line_are_kept(
    text: str, others: list[tuple[str, str, str]]
) -> None:
    read = READER.read(text)
    found = [(one.line.amount, one.line.unit, one.line.ingredient) for one in read.others]
    assert found == others
    assert all(one.line.text == text and one.grams > 0 for one in read.others)
    assert not any("more of the same" in ask for ask in read.asks)
