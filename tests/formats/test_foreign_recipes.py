"""Recipes as other programs write them, in every shape that JSON-LD and the vocabulary allow: the
same card comes of each, and what has no place on one is named."""

import json
from typing import Any

import pytest
from pyld import jsonld

from finebatch.core.formula.dough import Card
from finebatch.facts import tables
from finebatch.formats.jsonld import read_recipes
from finebatch.formats.read_dough import ReadDough
from finebatch.formats.unreadable import UnreadableFile

READER = tables.reader()
SCHEMA = {"@vocab": "http://schema.org/"}
RECIPE: dict[str, Any] = {
    "@type": "Recipe",
    "name": "Honey & oat rounds",
    "recipeYield": ["8 servings", "24 cookies"],
    "recipeIngredient": ["150 g rolled oats", "120 g plain flour", "100 g butter", "60 g honey"],
    "recipeInstructions": [
        {"@type": "HowToStep", "text": "Melt the butter and honey."},
        {"@type": "HowToStep", "text": "Stir in the dry things."},
        {"@type": "HowToStep", "text": "Bake at 180 °C for 12 minutes."},
    ],
}
EXPANDED = jsonld.expand({"@context": SCHEMA, **RECIPE})
PREFIXED = {"s": "http://schema.org/"}
OWN_WORDS = {
    "Rezept": "http://schema.org/Recipe",
    "Name": "http://schema.org/name",
    "Zutaten": {"@id": "http://schema.org/recipeIngredient", "@container": "@list"},
    "Menge": "http://schema.org/recipeYield",
    "Schritte": {"@id": "http://schema.org/recipeInstructions"},
    "text": "http://schema.org/text",
}
STEPS = RECIPE["recipeInstructions"]
TEXTS = [step["text"] for step in STEPS]


def page(*documents: object) -> str:
    scripts = "".join(
        f'<script type="application/ld+json">{json.dumps(one)}</script>' for one in documents
    )
    return f"<!DOCTYPE html><html><head><title>Rounds</title>{scripts}</head><body>…</body></html>"


def recipe(**more: object) -> dict[str, object]:
    return {"@context": "https://schema.org", **RECIPE, **more}


def listed(values: list[Any]) -> dict[str, object]:
    items = [
        {"@type": "ListItem", "position": n, "item": value}
        for n, value in enumerate(values, start=1)
    ]
    return {"@type": "ItemList", "itemListElement": list(reversed(items))}


def weighed(**of: str) -> list[dict[str, object]]:
    return [
        {"@type": "PropertyValue", "name": name, "value": int(value), "unitCode": "GRM"}
        for name, value in of.items()
    ]


def supplied(kind: str, quantity: object) -> list[dict[str, object]]:
    names = {"rolled oats": 150, "plain flour": 120, "butter": 100, "honey": 60}
    return [
        {
            "@type": kind,
            "name": name,
            "requiredQuantity": f"{grams} g"
            if quantity is str
            else {"@type": "QuantitativeValue", "value": grams, "unitText": "g"},
        }
        for name, grams in names.items()
    ]


SHAPES: dict[str, object] = {
    "as it is": recipe(),
    "no context": RECIPE,
    "http": {**recipe(), "@context": "http://schema.org/"},
    "an object as context": {**recipe(), "@context": SCHEMA},
    "expanded": EXPANDED,
    "flattened": jsonld.flatten(EXPANDED),
    "flattened and compact": jsonld.flatten(EXPANDED, SCHEMA),
    "with a prefix": jsonld.compact(EXPANDED, PREFIXED),
    "in words of another language": jsonld.compact(EXPANDED, OWN_WORDS),
    "type as an IRI": {**recipe(), "@type": "https://schema.org/Recipe"},
    "several types": recipe(**{"@type": ["Thing", "Recipe"]}),
    "id and type": {("type" if key == "@type" else key): value for key, value in recipe().items()},
    "a graph": {"@context": "https://schema.org", "@graph": [{"@type": "Person"}, RECIPE]},
    "main entity": {"@context": "https://schema.org", "@type": "WebPage", "mainEntity": RECIPE},
    "main entity by its name": {
        "@context": "https://schema.org",
        "@graph": [
            {"@type": "WebPage", "@id": "#page", "mainEntity": {"@id": "#rounds"}},
            {"@id": "#rounds", "mainEntityOfPage": {"@id": "#page"}, **RECIPE},
        ],
    },
    "a list of recipes": {"@context": "https://schema.org", **listed([RECIPE])},
    "an array": [{"@context": "https://schema.org", "@type": "WebSite"}, recipe()],
    "values": recipe(recipeIngredient=[{"@value": t} for t in RECIPE["recipeIngredient"]]),
    "a list": recipe(recipeIngredient={"@list": RECIPE["recipeIngredient"]}),
    "an item list": recipe(recipeIngredient=listed(RECIPE["recipeIngredient"])),
    "property values": recipe(
        recipeIngredient=weighed(
            **{"rolled oats": "150", "plain flour": "120", "butter": "100", "honey": "60"}
        )
    ),
    "supplies with a text": recipe(recipeIngredient=supplied("HowToSupply", str)),
    "supplies of a how-to": {
        **{k: v for k, v in recipe().items() if k != "recipeIngredient"},
        "supply": supplied("HowToSupply", dict),
    },
    "the old name": {
        **{k: v for k, v in recipe().items() if k != "recipeIngredient"},
        "ingredients": RECIPE["recipeIngredient"],
    },
    "steps as one text": recipe(recipeInstructions="\n".join(TEXTS)),
    "steps as texts": recipe(recipeInstructions=TEXTS),
    "steps in HTML": recipe(recipeInstructions="".join(f"<p>{t}</p>" for t in TEXTS)),
    "steps listed": recipe(recipeInstructions=listed(STEPS)),
    "steps by position": recipe(
        recipeInstructions=[{**s, "position": n} for n, s in reversed([*enumerate(STEPS)])]
    ),
    "directions": recipe(
        recipeInstructions=[
            {
                "@type": "HowToStep",
                "name": f"Step {n}",
                "itemListElement": {"@type": "HowToDirection", "text": text},
            }
            for n, text in enumerate(TEXTS, start=1)
        ]
    ),
    "names for texts": recipe(
        recipeInstructions=[{"@type": "HowToStep", "name": text} for text in TEXTS]
    ),
}


def the_one(file: str) -> ReadDough:
    (read,) = read_recipes(file, READER)
    return read


def shown(card: Card) -> object:
    lines = [(line.amount, line.unit, line.ingredient) for line in card.lines]
    return card.name, lines, [s.text for s in card.steps], card.stated_pieces


@pytest.mark.parametrize("shape", SHAPES)
@pytest.mark.parametrize("on_a_page", [False, True])
def test_the_same_card_comes_of_every_shape(shape: str, on_a_page: bool) -> None:
    document = SHAPES[shape]
    read = the_one(page({"@type": "WebSite"}, document) if on_a_page else json.dumps(document))
    assert shown(read.card) == (
        "Honey & oat rounds",
        [
            ("150", "g", "oats_rolled"),
            ("120", "g", "flour_ap"),
            ("100", "g", "butter_unsalted"),
            ("60", "g", "honey"),
        ],
        TEXTS,
        24,
    )
    assert read.left_out == ()


def test_sections_tips_times_and_parts_are_kept() -> None:
    steps = [
        {
            "@type": "HowToSection",
            "name": "The dough",
            "itemListElement": [
                {"@type": "HowToStep", "text": "Melt the butter.", "performTime": "PT5M"},
                {
                    "@type": "HowToStep",
                    "text": "Let it stand.",
                    "performTime": "PT1M",
                    "totalTime": "PT31M",
                    "itemListElement": [{"@type": "HowToTip", "text": "It is firm then."}],
                },
            ],
        },
        {
            "@type": "HowToSection",
            "name": "For the icing",
            "itemListElement": [{"@type": "HowToDirection", "text": "Stir it smooth."}],
        },
    ]
    icing = {
        "@type": "Recipe",
        "name": "Lemon icing",
        "description": "Sharp.",
        "recipeIngredient": ["100 g icing sugar", "1 tbsp lemon juice"],
        "recipeInstructions": "Spread it on the cold rounds.",
    }
    card = the_one(
        json.dumps(
            recipe(
                recipeInstructions=steps,
                hasPart=icing,
                description="My aunt's.",
                author={"@type": "Person", "name": "Ines Morel"},
                keywords=["oats", "honey"],
                prepTime="PT20M",
                cookTime="PT0H12M",
            )
        )
    ).card
    melt, stand, stir, spread = card.steps
    assert (melt.hands_min, stand.hands_min, stand.wait_min) == (5, 1, 30)
    assert stand.cue == "It is firm then."
    assert stir.text == "For the icing: Stir it smooth."
    assert spread.text == "For the lemon icing: Spread it on the cold rounds."
    (part,) = card.parts
    assert (part.kind, len(part.lines)) == ("icing", 2)
    assert card.note.splitlines() == [
        "My aunt's.",
        "Author: Ines Morel",
        "Keywords: oats, honey",
        "Times: preparation 20 min, baking 12 min",
        "Yield: 8 servings; 24 cookies",
        "Lemon icing: Sharp.",
        "Steps from: 1 The dough",
    ]
    # No step says how long it bakes: the time of baking does.
    assert "12 minutes" in card.stated_oven


def test_what_has_no_place_on_a_card_is_named() -> None:
    rated = {"@type": "AggregateRating", "ratingValue": 4.5}
    read = the_one(json.dumps(recipe(image="a.jpg", aggregateRating=rated, video={"name": "v"})))
    assert read.left_out == ("aggregate rating", "image", "video")


@pytest.mark.parametrize(
    ("said", "pieces"),
    [
        ("2 dozen", 24),
        ("1,200 pieces", 1200),
        (["8 servings", "24 cookies"], 24),
        ("8 servings, 24 cookies", 24),
        (24, 24),
        ({"@type": "QuantitativeValue", "value": 36, "unitText": "cookies"}, 36),
        ("about 36 3-inch cookies", 36),
        ("1 1/2 dozen", 18),
        ("20 to 24", 22),
        ("Serves 6", 6),
        ("500 g", None),
    ],
)
def test_a_yield_is_read_however_it_is_said(said: object, pieces: int | None) -> None:
    assert the_one(json.dumps(recipe(recipeYield=said))).card.stated_pieces == pieces


def test_each_recipe_of_a_collection_is_one_dough() -> None:
    two = [{**RECIPE, "name": "One"}, {**RECIPE, "name": "Two", "@id": "#two"}]
    document = {"@context": "https://schema.org", "@graph": [listed(two), {"@id": "#two"}]}
    assert sorted(r.card.name for r in read_recipes(json.dumps(document), READER)) == ["One", "Two"]


def test_terms_without_end_are_given_up() -> None:
    terms = {f"t{n}": {"@id": f"http://schema.org/{n}", "@type": "@id"} for n in range(3000)}
    scoped = {"@vocab": "http://schema.org/", "R": {"@id": "Recipe", "@context": terms}}
    document = {"@context": scoped, "@graph": [{"@type": "R", "name": f"{n}"} for n in range(3000)]}
    with pytest.raises(UnreadableFile, match=r"too long|At most"):
        read_recipes(json.dumps(document), READER)
    deep: object = "x"
    for _ in range(200):
        deep = {"hasPart": deep}
    with pytest.raises(UnreadableFile, match="nests too deep"):
        read_recipes(json.dumps(deep), READER)
    chain = [
        {"@id": f"#{n}", "@type": "Recipe", "isPartOf": {"@id": f"#{n + 1}"}} for n in range(2000)
    ]
    with pytest.raises(UnreadableFile, match="nests too deep"):
        read_recipes(json.dumps({"@context": "https://schema.org", "@graph": chain}), READER)
    itself = recipe(**{"@id": "#a", "isPartOf": {"@id": "#a"}})
    assert the_one(json.dumps(itself)).card.name == "Honey & oat rounds"
