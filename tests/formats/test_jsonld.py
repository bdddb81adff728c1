"""Recipes as JSON-LD: out and in again is identical; what others wrote is read, harm or not."""

import json
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.dough import Card
from finebatch.core.formula.method import usual_steps
from finebatch.core.formula.weigh import weigh
from finebatch.facts import formula, tables
from finebatch.formats.card_words import lines_words
from finebatch.formats.jsonld import Bakes, first_recipe, read_recipes, write_recipe
from finebatch.formats.unreadable import UnreadableFile
from tests.cards import cards

READER = tables.reader()


def cards_in(text: str) -> list[Card]:
    return [read.card for read in read_recipes(text, READER)]


def written(card: Card, bakes: Bakes | None = None) -> str:
    larder, names = READER.larder, READER.names
    texts = lines_words(card.lines, weigh(card.lines, larder), larder, names)
    parts = [lines_words(p.lines, weigh(p.lines, larder), larder, names) for p in card.parts]
    return write_recipe(
        card, texts, parts, usual_steps(card, formula.step_templates(), larder), bakes
    )


@given(cards(whole=False))
def test_out_and_in_again_is_identical(card: Card) -> None:
    text = written(card)
    assert cards_in(text) == [card]
    assert written(cards_in(text)[0]) == text


bakes = st.builds(
    Bakes,
    oven_c=st.floats(120, 240),
    minutes=st.integers(4, 60),
    second_min=st.none() | st.integers(5, 40),
    piece_g=st.floats(2, 900),
    wide_mm=st.none() | st.floats(10, 300),
    pieces=st.integers(1, 300),
    each_gives=st.integers(1, 40),
)


@given(cards(whole=False), bakes)
def test_what_a_stranger_is_told_of_the_oven_does_not_come_back_as_the_cards(
    card: Card, how: Bakes
) -> None:
    text = written(card, how)
    assert cards_in(text) == [card]
    node = json.loads(text)
    assert node["cookTime"] == f"PT{how.minutes + (how.second_min or 0)}M"
    told = node["recipeInstructions"][-1]["text"]
    assert f"about {how.minutes} minutes" in told
    assert "°C" in told
    assert card.stated_pieces or node["recipeYield"] == f"{how.pieces * how.each_gives} pieces"


@given(cards(whole=False), st.sampled_from(["</script>", "<!--", "</", "<script>", "]]>"]))
def test_it_is_safe_inside_a_web_page(card: Card, nasty: str) -> None:
    """A browser and the standard library's parser end a script at the first such tag."""
    card = replace(card, name=f"a{nasty}b", note=nasty)
    page = f'<html><script type="application/ld+json">{written(card)}</script><p>x</p></html>'
    assert cards_in(page) == [card]
    assert page.count("</") == 3
    assert "<!--" not in page


def test_it_is_a_schema_org_recipe_that_others_can_read() -> None:
    from finebatch.core.formula.dough import Line
    from finebatch.core.formula.step import Step

    card = Card(
        "Oat rounds",
        "drop",
        "creamed",
        (Line("2 1/4", "cup", "flour_ap"), Line("2", "egg", "egg_whole")),
        steps=(
            Step("Cream it.", 4, 10, "Pale.", "Mixer."),
            Step("Rest.", 0, 20, kind="rest_bench", wait_most_min=40),
            Step("Balls.", kind="ball", each_s=7.5),
        ),
        without=("weigh", "soften"),
        stated_pieces=24,
    )
    node = json.loads(written(card))
    assert (node["@context"], node["@type"]) == ("https://schema.org", "Recipe")
    assert node["recipeIngredient"] == ["2 1/4 cups all-purpose flour (281 g)", "2 eggs (100 g)"]
    assert node["recipeYield"] == "24"
    assert cards_in(json.dumps(node)) == [card]
    step, *_ = node["recipeInstructions"]
    direction, *tips = step["itemListElement"]
    assert (direction["performTime"], direction["totalTime"]) == ("PT4M", "PT14M")
    assert [tip["text"] for tip in tips] == ["Pale.", "Mixer."]


OTHER = {
    "@context": "https://schema.org",
    "@graph": [
        {"@type": "WebPage"},
        {
            "@type": ["Recipe", "Thing"],
            "name": "Rolled <b>stars</b> &amp; moons",
            "recipeYield": ["36 pieces"],
            "recipeIngredient": [
                "250 g plain flour",
                "1 cup (2 sticks) butter",
                "2 kg moon dust",
                "<script>alert(1)</script>100 g caster sugar",
            ],
            "recipeInstructions": [
                {
                    "@type": "HowToSection",
                    "itemListElement": [
                        {"@type": "HowToStep", "text": "Cream the butter and sugar."},
                        {"@type": "HowToStep", "text": "Roll out and use a cutter."},
                    ],
                },
                "Bake at 180 °C for 10 minutes.",
            ],
        },
    ],
}


def test_a_recipe_of_another_tool_is_read_as_written_lines() -> None:
    (card,) = cards_in(json.dumps(OTHER))
    assert card.name == "Rolled stars & moons"
    assert card.family == "rolled"
    assert card.stated_pieces == 36
    assert [line.ingredient for line in card.lines] == [
        "flour_ap",
        "butter_unsalted",
        None,
        "sugar_caster",
    ]
    assert card.lines[2].text == "2 kg moon dust"
    assert len(card.steps) == 3
    assert "script" not in json.dumps([line.text for line in card.lines])


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("{", "not JSON"),
        ("[" * 100_000, "not JSON"),
        ('{"a": NaN}', "not JSON"),
        ("{}", "no schema.org Recipe"),
        ('{"@type": "Person"}', "no schema.org Recipe"),
        (json.dumps([{"@type": "Recipe"}] * 101), "At most 100"),
    ],
)
def test_what_is_no_recipe_says_so(text: str, words: str) -> None:
    with pytest.raises(UnreadableFile, match=words):
        read_recipes(text, READER)


def test_a_file_changed_by_hand_names_what_no_longer_fits() -> None:
    node = json.loads(written(Card("A", "drop", "creamed", ())))
    node["additionalProperty"][0]["value"] = "cake"
    with pytest.raises(UnreadableFile, match="family no longer fits"):
        read_recipes(json.dumps(node), READER)


finite = st.floats(allow_nan=False, allow_infinity=False)
junk = st.recursive(
    st.one_of(st.none(), st.booleans(), st.integers(), finite, st.text()),
    lambda inner: st.one_of(
        st.lists(inner, max_size=4),
        st.dictionaries(
            st.sampled_from(
                [
                    "@type",
                    "@graph",
                    "name",
                    "recipeIngredient",
                    "recipeYield",
                    "text",
                    "recipeInstructions",
                    "itemListElement",
                    "additionalProperty",
                    "propertyID",
                    "value",
                    "hasPart",
                ]
            ),
            inner,
            max_size=6,
        ),
    ),
    max_leaves=20,
)


@given(junk)
def test_any_json_is_read_or_refused(data: object) -> None:
    node = {"@type": "Recipe", **(data if isinstance(data, dict) else {"name": data})}
    try:
        for card in cards_in(json.dumps(node, allow_nan=False)):
            assert card.name
    except UnreadableFile as error:
        assert str(error)


PAGE = """<!doctype html><html><head><title>A page</title>
<script type="application/ld+json">{"@context": "https://schema.org", "@type": "WebSite"}</script>
<script type="application/ld+json">%s</script></head>
<body><p>Long story &amp; more</p></body></html>
"""


def test_a_saved_web_page_holds_a_recipe() -> None:
    # As all pages have to write it.
    page = PAGE % json.dumps(OTHER).replace("</", "<\\/")
    assert read_recipes(page, READER) == read_recipes(json.dumps(OTHER), READER)
    text = first_recipe(page).text()
    assert text.startswith("Rolled stars & moons\nMakes 36\n\nIngredients\n250 g plain flour")
    assert "Ingredients" in text
    assert "Long story" not in text
    assert first_recipe(json.dumps(OTHER)).text() == text


@pytest.mark.parametrize(
    ("page", "words"),
    [
        ("<p>No recipe</p>", "says nothing of a recipe"),
        ("<a" + "<" * 5000, "says nothing of a recipe"),
        ("<script type='application/ld+json'>{", "cut off"),
        ("<script type='application/ld+json'>{}</script>", "no schema.org Recipe"),
    ],
)
def test_a_page_without_one_says_so(page: str, words: str) -> None:
    with pytest.raises(UnreadableFile, match=words):
        first_recipe(page)
    with pytest.raises(UnreadableFile, match=words):
        read_recipes(page, READER)
