"""Doughs as schema.org Recipes in JSON-LD, out and in.

What the vocabulary has a place for goes there (name, yield, ingredients as text, steps with their
times, tips, parts as recipes of their own). The rest goes into `additionalProperty`, as
PropertyValues whose `propertyID` starts with ``urn:finebatch:``. A file that another tool wrote has
no such properties; its ingredients are read as written lines.
"""

import html
import json
import re
from collections.abc import Iterator, Sequence
from html.parser import HTMLParser
from typing import Any

from pydantic import TypeAdapter, ValidationError

from finebatch.core.formula.card_says import card_of
from finebatch.core.formula.card_text import read_card
from finebatch.core.formula.dough import Card, Line, Part
from finebatch.core.formula.reading import Reader
from finebatch.core.formula.step import Step
from finebatch.core.measures.figures import read_in
from finebatch.formats.unreadable import UnreadableFile

Node = dict[str, Any]

CONTEXT = "https://schema.org"
PREFIX = "urn:finebatch:"
MOST_RECIPES = 100
MOST_TEXT = 1000
_SCALARS = ("family", "mixing", "stated_width_mm", "stated_oven", "cup", "egg")
_MINUTES = re.compile(r"P(?:T(?:(\d{1,4})H)?(?:(\d{1,5})M)?)?", re.IGNORECASE)
_CARD = TypeAdapter(Card)


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
    card: Card, texts: Sequence[str], part_texts: Sequence[Sequence[str]], usual: Sequence[Step]
) -> str:
    """A card as a Recipe. `texts` are its lines in words, `usual` the steps when it has none."""
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
    if card.parts:
        node["hasPart"] = [
            _part_node(part, lines) for part, lines in zip(card.parts, part_texts, strict=True)
        ]
    return read_in(json.dumps(node, indent=1, ensure_ascii=False))


class _Plain(HTMLParser):
    def __init__(self) -> None:
        super().__init__()
        self.text: list[str] = []
        self.hidden = 0

    def handle_starttag(self, tag: str, attrs: object) -> None:
        self.hidden += tag in ("script", "style")
        if tag in ("br", "p", "li", "div"):
            self.text.append("\n")

    def handle_endtag(self, tag: str) -> None:
        self.hidden -= tag in ("script", "style") and self.hidden > 0

    def handle_data(self, data: str) -> None:
        if not self.hidden:
            self.text.append(data)


_BEFORE_TEXT = "\ufeff \t\r\n"
"""What may stand before a file begins."""


class _Scripts(HTMLParser):
    """What a web page says of itself in JSON-LD."""

    def __init__(self) -> None:
        super().__init__()
        self.inside = False
        self.found: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        kind = (dict(attrs).get("type") or "").split(";")[0].strip().casefold()
        self.inside = tag == "script" and kind == "application/ld+json"
        if self.inside:
            self.found.append("")

    def handle_endtag(self, tag: str) -> None:
        self.inside = False

    def handle_data(self, data: str) -> None:
        if self.inside:
            self.found[-1] += data


def is_page(text: str) -> bool:
    """Whether a text is a web page."""
    return text.lstrip(_BEFORE_TEXT).startswith("<")


def may_hold_recipes(text: str) -> bool:
    """Whether a text looks like JSON-LD, alone or in a web page."""
    return is_page(text) or text.lstrip(_BEFORE_TEXT)[:1] in ("{", "[")


def _plain(text: object) -> str:
    """Text without markup: what other tools put in may be HTML."""
    written = str(text) if isinstance(text, str | int | float) else ""
    if "<" in written:
        parser = _Plain()
        parser.feed(written)
        parser.close()
        written = "".join(parser.text)
    written = html.unescape(written).replace("\0", "")
    return written.encode("utf-8", "ignore").decode().strip()


def _many(value: object) -> list[Any]:
    return value if isinstance(value, list) else [] if value is None else [value]


def _is_recipe(node: object) -> bool:
    return isinstance(node, dict) and "Recipe" in [str(t) for t in _many(node.get("@type"))]


def _recipes(data: object) -> Iterator[Node]:
    for node in _many(data):
        if not isinstance(node, dict):
            continue
        if _is_recipe(node):
            yield node
        for inner in _many(node.get("@graph")):
            if _is_recipe(inner):
                yield inner


def _properties(node: Node) -> list[Node]:
    return [
        p
        for p in _many(node.get("additionalProperty"))
        if isinstance(p, dict) and str(p.get("propertyID", "")).startswith(PREFIX)
    ]


def _named(properties: Sequence[Node], name: str) -> list[Node]:
    return [p for p in properties if p.get("propertyID") == PREFIX + name]


def _value(properties: Sequence[Node], name: str) -> Any:
    found = _named(properties, name)
    return found[0].get("value") if found else None


def _own_line(node: Node) -> Node:
    references = [r for r in _many(node.get("valueReference")) if isinstance(r, dict)]
    return {
        "amount": str(node.get("value", "")),
        "unit": node.get("unitText"),
        "ingredient": str(node["name"]) if node.get("name") else None,
        "text": str(node.get("description", "")),
        "chosen": str(_value(references, "chosen") or ""),
        "cup": _value(references, "cup"),
        "egg": _value(references, "egg"),
    }


def _minutes(value: object) -> int:
    found = _MINUTES.fullmatch(str(value or ""))
    return 60 * int(found[1] or 0) + int(found[2] or 0) if found else 0


def _own_step(node: Node) -> Node:
    inside = [i for i in _many(node.get("itemListElement")) if isinstance(i, dict)]
    direction = next((i for i in inside if i.get("@type") == "HowToDirection"), {})
    tips = {str(i.get("name")): str(i.get("text", "")) for i in inside if i is not direction}
    hands = _minutes(direction.get("performTime"))
    own = [p for p in _many(node.get("additionalProperty")) if isinstance(p, dict)]
    said = {name: _value(own, name) for name in _OF_STEP}
    return {
        **{name: value for name, value in said.items() if value is not None},
        "text": str(node.get("text", "")),
        "hands_min": hands,
        "wait_min": max(_minutes(direction.get("totalTime")) - hands, 0),
        "cue": tips.get("cue", ""),
        "caution": tips.get("caution", ""),
    }


def _own_card(node: Node, properties: Sequence[Node]) -> Card:
    """A Recipe that Fine Batch wrote, exactly as it was."""
    steps = [] if _value(properties, "usual_method") else _many(node.get("recipeInstructions"))
    parts = []
    for inner in (n for n in _many(node.get("hasPart")) if isinstance(n, dict)):
        own = _properties(inner)
        parts.append(
            {
                "kind": _value(own, "kind"),
                "name": str(inner.get("name", "")),
                "per_piece_g": _value(own, "per_piece_g"),
                "lines": [_own_line(p) for p in _named(own, "line")],
            }
        )
    document = {
        **{n: _value(properties, n) for n in _SCALARS if _value(properties, n) is not None},
        "name": str(node.get("name", "")),
        "lines": [_own_line(p) for p in _named(properties, "line")],
        "steps": [_own_step(s) for s in steps if isinstance(s, dict)],
        "parts": parts,
        "stated_pieces": _pieces(node.get("recipeYield")),
        "note": str(node.get("description", "")),
        "settled": [str(p.get("value")) for p in _named(properties, "settled")],
        "without": [str(p.get("value")) for p in _named(properties, "without")],
    }
    try:
        return _CARD.validate_python(document)
    except ValidationError as error:
        where = ".".join(str(part) for part in error.errors()[0]["loc"])
        raise UnreadableFile(
            f"“{_plain(node.get('name'))[:60]}” was changed by hand so that {where} no longer "
            "fits. Mend it there, or take its additionalProperty out to have it read as text."
        ) from error


def _pieces(value: object) -> int | None:
    for one in _many(value):
        found = re.search(r"\d{1,4}", str(one.get("value") if isinstance(one, dict) else one))
        if found and int(found[0]) > 0:
            return int(found[0])
    return None


def _instruction_texts(value: object, depth: int = 0) -> Iterator[str]:
    for one in _many(value):
        if isinstance(one, str):
            yield from (line.strip() for line in _plain(one).splitlines() if line.strip())
        elif isinstance(one, dict) and depth < 4:
            if one.get("itemListElement") and one.get("@type") != "HowToStep":
                yield from _instruction_texts(one["itemListElement"], depth + 1)
            else:
                text = _plain(one.get("text") or one.get("name"))
                yield from (line.strip() for line in text.splitlines() if line.strip())


def _as_text(node: Node) -> str:
    """A Recipe's ingredients and instructions, as a card has them."""
    lines = [_plain(t) for t in _many(node.get("recipeIngredient") or node.get("ingredients"))]
    steps = [text[:MOST_TEXT] for text in _instruction_texts(node.get("recipeInstructions"))]
    return "\n".join(["Ingredients", *lines, "Method", *steps])


def _other_card(node: Node, reader: Reader) -> Card:
    """A Recipe that another tool wrote: its ingredients are read as written lines."""
    read = read_card(_as_text(node), reader)
    name = _plain(node.get("name"))[:80] or "A dough without a name"
    return card_of(read, name, _pieces(node.get("recipeYield")))


def _refuse_constant(name: str) -> None:
    raise ValueError(name)


def _nodes(text: str) -> list[Node]:
    """The Recipes of a JSON-LD file, or of the JSON-LD in a saved web page."""
    if is_page(text):
        page = _Scripts()
        page.feed(text)
        page.close()
        written = page.found
        if not written:
            raise UnreadableFile("This page says nothing of a recipe that can be read. Paste it.")
    else:
        written = [text.lstrip(_BEFORE_TEXT)]
    try:
        data = [json.loads(one, parse_constant=_refuse_constant) for one in written]
    except (ValueError, RecursionError) as error:
        raise UnreadableFile("This is not JSON: the file may be cut off.") from error
    return [node for one in data for node in _recipes(one)]


def recipe_text(text: str) -> str:
    """The first Recipe of a JSON-LD file or a saved web page, as a card is written.

    Raises `UnreadableFile` where there is none.
    """
    nodes = _nodes(text)
    if not nodes:
        raise UnreadableFile("There is no schema.org Recipe in this file.")
    pieces = _pieces(nodes[0].get("recipeYield"))
    makes = [f"Makes {pieces}"] if pieces else []
    return "\n".join([_plain(nodes[0].get("name"))[:80], *makes, _as_text(nodes[0])])


def read_recipes(text: str, reader: Reader) -> list[Card]:
    """Every Recipe in a JSON-LD file or a saved web page; `UnreadableFile` when it is no JSON or
    holds none."""
    nodes = _nodes(text)
    if not nodes:
        raise UnreadableFile("There is no schema.org Recipe in this file.")
    if len(nodes) > MOST_RECIPES:
        raise UnreadableFile(f"At most {MOST_RECIPES} recipes at once; this file has {len(nodes)}.")
    return [
        _own_card(node, own)
        if _named(own := _properties(node), "family")
        else _other_card(node, reader)
        for node in nodes
    ]
