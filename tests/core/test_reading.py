import json
from fractions import Fraction
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from typer.testing import CliRunner

from finebatch.cli import app
from finebatch.core.formula.dough import Line
from finebatch.core.formula.judge_lines import judge_lines
from finebatch.core.formula.reading import Reader, ReadLine
from finebatch.core.formula.scaling import scale_line
from finebatch.core.formula.weigh import weigh
from finebatch.core.measures.quantities import find_quantities
from finebatch.core.measures.spoken import plain_text
from finebatch.facts import tables
from finebatch.formats.cases import parse_lines

LINES = Path(tables.__file__).parent / "data" / "card_lines.json"


@pytest.fixture(scope="module")
def reader() -> Reader:
    return tables.reader()


def read(text: str) -> ReadLine:
    return tables.reader().read(text)


def test_the_public_lines_are_read_right(reader: Reader) -> None:
    judged = judge_lines(parse_lines(LINES.read_text(encoding="utf-8")), reader)
    missed = [j.read.text for j in judged if j.verdict != "right"]
    assert missed == []
    assert len(judged) == 34


@pytest.mark.parametrize(
    ("text", "ingredient", "grams"),
    [
        ("2 c. flour", "flour_ap", 250),
        ("1 T sugar", "sugar_white", 12.5),
        ("1 t sugar", "sugar_white", 4.17),
        ("2 sticks (1 cup) butter, at room temperature", "butter_unsalted", 227),
        ("1/2 lb. butter", "butter_unsalted", 226.8),
        ("3 oz (85 g) cream cheese", "cream_cheese", 85),
        ("1 cup less 2 tbsp caster sugar", "sugar_caster", 175),
        ("3/4 cup + 2 tablespoons all-purpose flour", "flour_ap", 109.4),
        ("2 heaped tablespoons cocoa powder", "cocoa", 15.9),
        ("scant 1/2 cup sugar", "sugar_white", 90),
        ("1,5 dl plain flour", "flour_ap", 79.3),
        ("500ml double cream", "cream_double", 503),
        ("2 small eggs", "egg_whole", 76),
        ("1 size 7 egg", "egg_whole", 56),
        ("250 gr. butter", "butter_unsalted", 250),
        ("Sugar - 1 cup", "sugar_white", 200),
        ("brown sugar, packed, 1 cup", "sugar_brown_light", 213),
        ("2 x 100 g bars dark chocolate", "chocolate_dark", 200),
        ("1 12-oz. bag chocolate chips", "chocolate_chips", 340.2),
        ("100 g 70% dark chocolate", "chocolate_dark", 100),
        ("1-1/2 cups rolled oats", "oats_rolled", 138),
        ("2 medium eggs", "egg_whole", 88),
        ("2 large eggs (UK)", "egg_whole", 120),
        ("3 egg yolks", "egg_yolk", 54),
        ("half an egg", "egg_whole", 25),
        ("1 dozen eggs", "egg_whole", 600),
        ("pinch salt", "salt_fine", 0.375),
        ("2 cups sifted cake flour", "flour_cake", 200),
        ("300g/10½oz plain flour, plus extra for dusting", "flour_ap", 300),
        ("1 cup butter or margarine, softened", "butter_unsalted", 227),
        ("1 tbsp dried rosemary, crumbled", "herb_dried", 3.3),
        ("1/2 cup (1 stick) plus 1 tbsp unsalted butter", "butter_unsalted", 127.7),
        ("1 cup (125 g) plus 2 tbsp (16 g) plain flour", "flour_ap", 141),
        ("125 g (1 stick + 1 tbsp) butter", "butter_unsalted", 125),
        ("2 packets (7 g each) vanilla sugar", "vanilla_sugar", 14),
        ("1 sachet vanilla sugar (8g)", "vanilla_sugar", 8),
        ("80–110 g caster sugar, I like 90", "sugar_caster", 90),
        ("1/2 to 3/4 cup sugar, preferably 2/3", "sugar_white", 133.3),
        ("2-3 tbsp milk (best with 2)", "milk_whole", 30.5),
        ("1 extra-large egg", "egg_whole", 56),
        ("2 med. eggs", "egg_whole", 88),
    ],
)
def test_lines_as_people_write_them(text: str, ingredient: str, grams: float) -> None:
    found = read(text)
    assert (found.ingredient, found.asks, found.conflict) == (ingredient, (), False)
    assert found.grams == pytest.approx(grams, rel=0.01)


@pytest.mark.parametrize(
    ("text", "ingredient", "words"),
    [
        ("1 tbsp cornflour", "cornstarch", "America"),
        ("225 g self-raising flour", "flour_self_raising", "baking powder"),
        ("coconut sugar 100 g", "sugar_white", "“coconut”"),
        ("peanut flour 50 g", "flour_ap", "“peanut”"),
        ("1 tsp bakign powder", "baking_powder", "is read as baking powder"),
        ("1 (14 oz) can sweetened condensed milk", "milk_whole", "condensed"),
        ("2 tsp chopped rosemary", "herb_fresh", "Fresh or dried"),
        ("Salt", "salt_fine", "No amount"),
        ("a knob of butter", "butter_unsalted", "No amount"),
        ("100 g butter plus 2 tbsp", "butter_unsalted", "2 tbsp"),
        ("3/4 cup sugar, plus 2 tbsp for rolling", "sugar_white", "2 tbsp"),
        ("2 packages (8 oz) dark chocolate", "chocolate_dark", "size of each"),
        ("1 king size egg", "egg_whole", "No egg of that size"),
        ("80–110 g caster sugar, I like 150", "sugar_caster", "outside"),
        ("1 bag chocolate chips", "chocolate_chips", "No amount"),
        ("1/0 cup flour", "flour_ap", "No amount"),
        ("1.5 dl stardust", None, "Which ingredient"),
        ("🍪", None, "Which ingredient"),
        ("", None, "Which ingredient"),
    ],
)
def test_what_is_unsure_is_asked(text: str, ingredient: str | None, words: str) -> None:
    found = read(text)
    assert found.ingredient == ingredient
    assert any(words in ask for ask in found.asks), found.asks


@pytest.mark.parametrize(
    ("text", "conflict"),
    [
        ("1 cup (160 g) plain flour", True),
        ("1 cup (142 g) plain flour", False),
        ("1 cup (115 g) plain flour", False),
        ("2 1/2 cups (500 g) flour", True),
        ("1 oz (50 g) raisins", True),
        ("9 oz (250 g) raisins", False),
        ("1 egg (50 g)", False),
        ("2 sticks (340 g) butter", True),
    ],
)
def test_two_amounts_that_do_not_agree_are_a_conflict(text: str, conflict: bool) -> None:
    found = read(text)
    assert found.conflict is conflict
    assert bool(found.asks) is conflict


def test_a_range_is_kept_with_a_value_between() -> None:
    found = read("10–40 ml milk until it holds together")
    assert found.range_g == pytest.approx((10.3, 41.3), abs=0.1)
    assert found.grams == pytest.approx(25.8, abs=0.1)


@pytest.mark.parametrize(
    ("text", "amount", "unit"),
    [
        ("2 1/4 cups plain flour", "2 1/4", "cup"),
        ("1½ sticks butter", "1 1/2", "stick"),
        ("2 large eggs", "2", "egg"),
        ("9 oz raisins", "9", "oz"),
        ("2/3 cup sugar", "2/3", "cup"),
        ("1 tbsp plus 1 tsp cornstarch", "1 1/3", "tbsp"),
        ("2 medium eggs", "2", "egg"),
        ("1 cup sifted flour", "1", "cup"),
        ("80–110 g caster sugar", "80–110", "g"),
        ("1 cup (160 g) plain flour", "160", "g"),
        ("100 ml milk", "100", "ml"),
        ("Salt", "", "g"),
    ],
)
def test_a_line_is_kept_in_the_unit_in_which_it_was_written(
    text: str, amount: str, unit: str
) -> None:
    found = read(text)
    assert (found.line.amount, found.line.unit) == (amount, unit)
    assert found.line.ingredient == found.ingredient


@given(
    st.integers(0, 9),
    st.sampled_from(["", "1/4", "1/3", "1/2", "2/3", "3/4", "1/8"]),
    st.sampled_from(["g", "oz", "cup", "tbsp", "tsp"]),
    st.sampled_from(["flour_ap", "honey", "cocoa", "butter_unsalted", "raisins"]),
)
def test_what_is_kept_weighs_what_was_read(whole: int, part: str, unit: str, key: str) -> None:
    amount = f"{whole or ''} {part}".strip()
    if not amount:
        return
    name = {"flour_ap": "plain flour", "butter_unsalted": "butter"}.get(key, key)
    found = read(f"{amount} {unit} {name}")
    (weighed,) = weigh([found.line], tables.larder()).lines
    assert weighed.grams == pytest.approx(found.grams, rel=0.005)


def test_sifting_counts_before_measuring_only() -> None:
    assert read("1 cup sifted flour").grams == 115
    assert read("1 cup flour, sifted").grams == 125


@given(st.text(max_size=120))
def test_any_text_is_read_without_harm(text: str) -> None:
    found = read(text)
    assert found.text == text
    assert found.grams is None or found.grams >= 0
    assert found.ingredient is not None or found.asks


@given(st.integers(1, 40), st.sampled_from(["g", "oz", "cups", "tbsp", "tsp", "ml", "dl"]))
def test_an_amount_before_or_after_the_name_is_the_same(amount: int, unit: str) -> None:
    before, after = read(f"{amount} {unit} honey"), read(f"Honey: {amount} {unit}")
    assert before.grams == pytest.approx(after.grams)
    assert before.ingredient == after.ingredient == "honey"


@given(st.integers(1, 9), st.integers(1, 3), st.sampled_from(["plus", "and", "+"]))
def test_joined_amounts_add_up(cups: int, spoons: int, word: str) -> None:
    ((quantity,),) = find_quantities(plain_text(f"{cups} cups {word} {spoons} tbsp sugar"))
    assert quantity.low == pytest.approx(cups + spoons / 16)


@pytest.mark.parametrize("as_json", [True, False])
def test_evaluate_judges_lines(as_json: bool) -> None:
    ran = CliRunner().invoke(app, ["evaluate", str(LINES), *["--json"] * as_json])
    assert ran.exit_code == 0
    if not as_json:
        assert "34 lines: 34 right, 0 wrong, 0 asked." in ran.stdout
        return
    answer = json.loads(ran.stdout)
    assert answer["summary"] == {"n": 34, "right": 34, "wrong": 0, "asked": 0}
    first = answer["lines"][0]
    assert set(first) == {
        "text",
        "ingredient",
        "grams",
        "range_grams",
        "conflict",
        "asked",
        "verdict",
        "purpose",
    }
    flagged = [line["text"] for line in answer["lines"] if line["asked"]]
    assert "1 cup (160 g) plain flour" in flagged


def test_a_wrong_line_is_told_from_an_asked_one(reader: Reader, tmp_path: Path) -> None:
    lines = [
        {"text": "100 g sugar", "ingredient": "honey", "grams": 100},
        {"text": "coconut sugar 100 g", "ingredient": "coconut_flaked", "grams": 100},
        {"text": "100 g sugar", "ingredient": "sugar_white", "grams": 90, "tolerance_pct": 5},
    ]
    judged = judge_lines(parse_lines(json.dumps({"lines": lines})), reader)
    assert [j.verdict for j in judged] == ["wrong", "asked", "wrong"]


@pytest.mark.parametrize(
    ("text", "ingredient", "grams"),
    [
        ("1,250 g flour", "flour_ap", 1250),
        ("1,250–1,500 g flour", "flour_ap", 1375),
        ("1,5 kg flour", "flour_ap", 1500),
        ("0,5 kg butter", "butter_unsalted", 500),
        ("a cup and a half of flour", "flour_ap", 187.5),
        ("1 cup and a half flour", "flour_ap", 187.5),
        ("flour, a cup and a half", "flour_ap", 187.5),
        ("a stick and a half of butter", "butter_unsalted", 169.5),
        ("stick and a half butter", "butter_unsalted", 169.5),
        ("two and a half sticks of butter", "butter_unsalted", 282.5),
        ("1 half cup sugar", "sugar_white", 100),
        ("one half cup of sugar", "sugar_white", 100),
        ("1 1/2 cups sugar", "sugar_white", 300),
        ("1 cup and 1 tbsp sugar", "sugar_white", 212.5),
        ("1 cup and 1/2 tbsp sugar", "sugar_white", 206.25),
    ],
)
def test_halves_and_thousands_as_people_write_them(
    text: str, ingredient: str, grams: float
) -> None:
    found = read(text)
    assert found.ingredient == ingredient
    assert found.grams == pytest.approx(grams, rel=0.012)


def test_thousands_typed_into_a_field_are_thousands_of_grams() -> None:
    larder = tables.larder()
    weighed = weigh([Line("1,250", "g", "flour_ap"), Line("1,5", "kg", "flour_ap")], larder)
    assert [w.grams for w in weighed.lines] == [1250, 1500]
    assert scale_line(Line("1,250", "g", "flour_ap"), Fraction(2)).amount == "2500"
