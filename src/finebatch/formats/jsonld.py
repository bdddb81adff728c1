"""Doughs as schema.org Recipes in JSON-LD, out and in.

What the vocabulary has a place for goes there (name, yield, ingredients as text, steps with their
times, tips, parts as recipes of their own). The rest goes into `additionalProperty`, as
PropertyValues whose `propertyID` starts with ``urn:finebatch:``. A file that another tool wrote has
no such properties: it is read as `recipe_in` says.
"""

import json
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any

from pydantic import TypeAdapter, ValidationError

from finebatch.core.formula.dough import Card, Line, Part
from finebatch.core.formula.reading import Reader
from finebatch.core.formula.step import Step
from finebatch.core.formula.yields import pieces_in
from finebatch.core.measures.figures import degrees, grams, millimetres, read_in
from finebatch.formats.linked import (
    Node,
    is_a,
    nodes_in,
    nodes_of,
    text_in,
    texts_in,
    value_in,
)
from finebatch.formats.read_dough import ReadDough
from finebatch.formats.recipe_in import Foreign, plain, read_foreign, recipes_in, times_of
from finebatch.formats.unreadable import UnreadableFile

CONTEXT = "https://schema.org"
PREFIX = "urn:finebatch:"
MOST_RECIPES = 100
_SCALARS = ("family", "mixing", "stated_width_mm", "stated_oven", "cup", "egg")


@cache
def _reader() -> TypeAdapter[Card]:
    return TypeAdapter(Card)


def _property(term: str, value: object, /, **more: object) -> Node:
    return {"@type": "PropertyValue", "propertyID": PREFIX + term, "value": value, **more}


def _line_property(line: Line) -> Node:
    more: Node = {"name": line.ingredient or "", "unitText": line.unit}
    if line.text:
        more["description"] = line.text
    extras = {"chosen": line.chosen, "cup": line.cup, "egg": line.egg}
    references = [_property(name, value) for name, value in extras.items() if value]
    if references:
        more["valueReference"] = references
    return _property("line", line.amount, **more)


_OF_STEP = ("kind", "wait_most_min", "each_s", "per", "where")
"""What a step says beside its words and minutes."""


def _step_node(step: Step, position: int) -> Node:
    direction = {
        "@type": "HowToDirection",
        "text": step.text,
        "performTime": f"PT{step.hands_min}M",
        "totalTime": f"PT{step.hands_min + step.wait_min}M",
    }
    tips = [
        {"@type": "HowToTip", "name": name, "text": text}
        for name, text in (("cue", step.cue), ("caution", step.caution))
        if text
    ]
    own = [
        _property(name, value)
        for name in _OF_STEP
        if (value := getattr(step, name)) is not None and value != 0
    ]
    return {
        "@type": "HowToStep",
        "position": position,
        "text": step.text,
        "itemListElement": [direction, *tips],
        **({"additionalProperty": own} if own else {}),
    }


@dataclass(frozen=True, slots=True)
class Bakes:
    """How a dough bakes, as it is foreseen or its card says: the oven's setting in °C, minutes, and
    those of a second bake, a piece in g and how wide it bakes in mm (None: it is as wide as its
    pan), how many there are, and into how many each is cut once it is baked."""

    oven_c: float
    minutes: int
    second_min: int | None
    piece_g: float
    wide_mm: float | None
    pieces: int
    each_gives: int = 1

    @property
    def eaten(self) -> int:
        """Pieces as they are eaten."""
        return self.pieces * self.each_gives


def _bakes_node(bakes: Bakes, position: int) -> Node:
    """The step that says it all to whoever reads only the steps."""
    wide = f", about {millimetres(bakes.wide_mm)} wide when baked" if bakes.wide_mm else ""
    again = f", then {bakes.second_min} more as slices" if bakes.second_min else ""
    cut = f", each cut into {bakes.each_gives}" if bakes.each_gives > 1 else ""
    pieces = "1 piece" if bakes.pieces == 1 else f"{bakes.pieces} pieces"
    text = (
        f"Oven at {degrees(bakes.oven_c)}: about {bakes.minutes} minutes{again}, for {pieces} of "
        f"{grams(bakes.piece_g)}{wide}{cut}."
    )
    return {
        "@type": "HowToStep",
        "position": position,
        "text": text,
        "additionalProperty": [_property("bakes", True)],
    }


def _part_node(part: Part, texts: Sequence[str]) -> Node:
    return {
        "@type": "Recipe",
        "name": part.name,
        "recipeIngredient": list(texts),
        "additionalProperty": [
            _property("kind", part.kind),
            _property("per_piece_g", part.per_piece_g, unitCode="GRM"),
            *(_line_property(line) for line in part.lines),
        ],
    }


def write_recipe(
    card: Card,
    texts: Sequence[str],
    part_texts: Sequence[Sequence[str]],
    usual: Sequence[Step],
    bakes: Bakes | None = None,
) -> str:
    """A card as a Recipe, safe inside a web page. `texts` are its lines in words, `usual` the steps
    when it has none, `bakes` how it bakes, where that can be foreseen."""
    scalars = [_property(n, getattr(card, n)) for n in _SCALARS if getattr(card, n)]
    properties = [*scalars, *(_property("settled", key) for key in card.settled)]
    properties += [_property("without", kind) for kind in card.without]
    if not card.steps:
        properties.append(_property("usual_method", True))
    steps = card.steps or usual
    node: Node = {
        "@context": CONTEXT,
        "@type": "Recipe",
        "name": card.name,
        "recipeCategory": "Cookies",
        "recipeIngredient": list(texts),
        "recipeInstructions": [_step_node(step, n) for n, step in enumerate(steps, start=1)],
        "additionalProperty": [*properties, *(_line_property(line) for line in card.lines)],
    }
    if card.note:
        node["description"] = card.note
    if card.stated_pieces:
        node["recipeYield"] = str(card.stated_pieces)
    if ready := sum(step.hands_min + step.wait_min for step in steps):
        node["prepTime"] = f"PT{ready}M"
    if bakes is not None:
        node["cookTime"] = f"PT{bakes.minutes + (bakes.second_min or 0)}M"
        node["recipeInstructions"].append(_bakes_node(bakes, len(steps) + 1))
        if not card.stated_pieces:
            node["recipeYield"] = f"{bakes.eaten} pieces"
            node["additionalProperty"].append(_property("yield_foreseen", True))
    if card.parts:
        node["hasPart"] = [
            _part_node(part, lines) for part, lines in zip(card.parts, part_texts, strict=True)
        ]
    written = read_in(json.dumps(node, indent=1, ensure_ascii=False))
    # No text of it ends the script of a page, or begins a comment there.
    return written.replace("</", "<\\/").replace("<!--", "<\\u0021--")


def _properties(node: Node) -> list[Node]:
    """What Fine Batch itself wrote of a node."""
    found = nodes_in(node, "additionalProperty")
    return [p for p in found if text_in(p, "propertyID").startswith(PREFIX)]


def _named(properties: Sequence[Node], name: str) -> list[Node]:
    return [p for p in properties if text_in(p, "propertyID") == PREFIX + name]


def _value(properties: Sequence[Node], name: str) -> Any:
    found = _named(properties, name)
    return value_in(found[0], "value") if found else None


def _own_line(node: Node) -> Node:
    references = nodes_in(node, "valueReference")
    return {
        "amount": text_in(node, "value"),
        "unit": value_in(node, "unitText"),
        "ingredient": text_in(node, "name") or None,
        "text": text_in(node, "description"),
        "chosen": str(_value(references, "chosen") or ""),
        "cup": _value(references, "cup"),
        "egg": _value(references, "egg"),
    }


def _own_step(node: Node) -> Node:
    inside = nodes_in(node, "itemListElement")
    direction = next((i for i in inside if is_a(i, "HowToDirection")), {})
    tips = {text_in(i, "name"): text_in(i, "text") for i in inside if i is not direction}
    hands, wait = times_of(direction)
    own = nodes_in(node, "additionalProperty")
    said = {name: _value(own, name) for name in _OF_STEP}
    return {
        **{name: value for name, value in said.items() if value is not None},
        "text": text_in(node, "text"),
        "hands_min": hands,
        "wait_min": wait,
        "cue": tips.get("cue", ""),
        "caution": tips.get("caution", ""),
    }


def _own_card(node: Node, properties: Sequence[Node]) -> Card:
    """A Recipe that Fine Batch wrote, exactly as it was."""
    usual = _value(properties, "usual_method")
    steps = [] if usual else nodes_in(node, "recipeInstructions")
    stated = [] if _value(properties, "yield_foreseen") else texts_in(node, "recipeYield")
    parts = []
    for inner in nodes_in(node, "hasPart"):
        own = _properties(inner)
        parts.append(
            {
                "kind": _value(own, "kind"),
                "name": text_in(inner, "name"),
                "per_piece_g": _value(own, "per_piece_g"),
                "lines": [_own_line(p) for p in _named(own, "line")],
            }
        )
    document = {
        **{n: _value(properties, n) for n in _SCALARS if _value(properties, n) is not None},
        "name": text_in(node, "name"),
        "lines": [_own_line(p) for p in _named(properties, "line")],
        "steps": [_own_step(s) for s in steps if not _value(_properties(s), "bakes")],
        "parts": parts,
        "stated_pieces": pieces_in(stated),
        "note": text_in(node, "description"),
        "settled": [str(value_in(p, "value")) for p in _named(properties, "settled")],
        "without": [str(value_in(p, "value")) for p in _named(properties, "without")],
    }
    try:
        return _reader().validate_python(document)
    except ValidationError as error:
        where = ".".join(str(part) for part in error.errors()[0]["loc"])
        raise UnreadableFile(
            f"“{plain(text_in(node, 'name'))[:60]}” was changed by hand so that {where} no longer "
            "fits. Mend it there, or take its additionalProperty out to have it read as text."
        ) from error


def _recipes(text: str) -> list[Node]:
    found = recipes_in(nodes_of(text))
    if not found:
        raise UnreadableFile("There is no schema.org Recipe in this file.")
    return found


def first_recipe(text: str) -> Foreign:
    """The first Recipe of a JSON-LD file or a saved web page, as a card is written.

    Raises `UnreadableFile` where there is none.
    """
    return read_foreign(_recipes(text)[0])


def read_recipes(text: str, reader: Reader) -> list[ReadDough]:
    """Every Recipe in a JSON-LD file or a saved web page; `UnreadableFile` when it is no JSON or
    holds none."""
    nodes = _recipes(text)
    if len(nodes) > MOST_RECIPES:
        raise UnreadableFile(f"At most {MOST_RECIPES} recipes at once; this file has {len(nodes)}.")
    return [_read(node, reader) for node in nodes]


def _read(node: Node, reader: Reader) -> ReadDough:
    own = _properties(node)
    if _named(own, "family"):
        return ReadDough(_own_card(node, own))
    foreign = read_foreign(node)
    return ReadDough(foreign.card(reader), foreign.left_out)
