"""A schema.org Recipe that another program wrote, as a card is written: its ingredients and steps
in whatever shape the vocabulary allows, and the rest as notes or named as left out."""

import html
import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from html.parser import HTMLParser

from finebatch.core.formula.card_says import card_of, says_of
from finebatch.core.formula.card_text import read_card, read_step
from finebatch.core.formula.dough import MOST_STEPS, Card
from finebatch.core.formula.reading import Reader
from finebatch.core.formula.step import Step
from finebatch.core.formula.yields import pieces_in
from finebatch.core.measures.durations import find_durations
from finebatch.formats.linked import Node, is_a, nodes_in, text_in, texts_in

MOST_TEXT = 1000
MOST_NOTE = 5000
LONGEST_CUE = 300
LONGEST_BAKE_MIN = 90
"""A longer `cookTime` is that of all trays, or of more than the oven."""

_UNIT_CODES = {
    "GRM": "g",
    "KGM": "kg",
    "MLT": "ml",
    "LTR": "l",
    "ONZ": "oz",
    "LBR": "lb",
    "G21": "cup",
    "G24": "tbsp",
    "G25": "tsp",
    "C62": "",
    "EA": "",
}
"""Codes of UN/ECE Recommendation 20 that ingredients are measured in."""
_NOTED = {
    "author": "Author",
    "creator": "Author",
    "keywords": "Keywords",
    "recipeCategory": "Category",
    "recipeCuisine": "Cuisine",
    "cookingMethod": "Cooking method",
    "suitableForDiet": "Diet",
    "tool": "Tools",
    "url": "From",
    "isBasedOn": "After",
    "copyrightHolder": "Copyright",
    "datePublished": "Published",
    "comment": "Comment",
}
"""What is kept as a note, and how it is called there."""
_TIMES = {"prepTime": "preparation", "cookTime": "baking", "totalTime": "in all"}
_READ = {
    *("name", "description", "recipeYield", "yield", "recipeIngredient", "ingredients", "supply"),
    *("recipeInstructions", "step", "steps", "hasPart", "additionalProperty", *_NOTED, *_TIMES),
}
_UNSAID = {
    "mainEntityOfPage",
    "isPartOf",
    "inLanguage",
    "identifier",
    "position",
    "potentialAction",
}
"""What says nothing of the dough."""
_DURATION = re.compile(
    r"P(?:(\d{1,3})D)?(?:T(?:(\d{1,4}(?:\.\d+)?)H)?(?:(\d{1,5}(?:\.\d+)?)M)?(?:(\d{1,6})S)?)?", re.I
)
_STEP_NAME = re.compile(r"\W*(?:step|direction|instruction)?\W*\d{0,3}\W*", re.IGNORECASE)
_CAMEL = re.compile(r"(?<=[a-z])[A-Z]")
_FOR_PART = re.compile(r"for (?:the )?", re.IGNORECASE)
_PART = re.compile(r"\b(?:icing|filling|glaze|frosting|topping|coating)\b", re.IGNORECASE)
_SAID_ALONE = re.compile(r"\d+(?: (?:cookies|biscuits|pieces))?", re.IGNORECASE)


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


def plain(written: str) -> str:
    """Text without markup: what other tools put in may be HTML."""
    if "<" in written:
        parser = _Plain()
        parser.feed(written)
        parser.close()
        written = "".join(parser.text)
    written = html.unescape(written).replace("\0", "")
    return written.encode("utf-8", "ignore").decode().strip()


@dataclass(frozen=True, slots=True)
class Foreign:
    """A recipe as it would be written on a card: lines of ingredients, with the heading of each
    part, its steps, notes; and the names of what has no place on a card."""

    name: str
    pieces: int | None
    lines: tuple[str, ...]
    steps: tuple[Step, ...]
    notes: tuple[str, ...]
    left_out: tuple[str, ...]
    bake_min: int | None = None

    def text(self) -> str:
        """All of it as a card is written."""
        makes = [f"Makes {self.pieces}"] if self.pieces else []
        notes = ["", "Notes", *self.notes] if self.notes else []
        steps = [step.text for step in self.steps]
        return "\n".join(
            [self.name, *makes, "", "Ingredients", *self.lines, "", "Method", *steps, *notes]
        )

    def card(self, reader: Reader) -> Card:
        """The same read as a card."""
        read = read_card("\n".join(["Ingredients", *self.lines]), reader)
        found = card_of(replace(read, steps=self.steps), self.name, self.pieces)
        found = replace(found, note="\n".join([*read.notes, *self.notes])[:MOST_NOTE])
        if self.bake_min is not None and says_of(found).minutes is None:
            oven = f"{found.stated_oven}, {self.bake_min} minutes".strip(" ,")
            found = replace(found, stated_oven=oven)
        return found


def recipes_in(nodes: Iterable[Node]) -> list[Node]:
    """Every Recipe that stands for itself, in order; those that are parts of one are in it."""
    found: list[Node] = []

    def look(node: Node) -> None:
        if is_a(node, "Recipe"):
            key = node.get("@id")
            if key is None or all(key != other.get("@id") for other in found):
                found.append(node)
            return
        for values in node.values():
            for inner in values if isinstance(values, list) else ():
                if isinstance(inner, dict):
                    look(inner)

    for node in nodes:
        look(node)
    parts = {inner.get("@id") for node in found for inner in nodes_in(node, "hasPart")} - {None}
    return [node for node in found if node.get("@id") not in parts]


def read_foreign(node: Node) -> Foreign:
    """What a Recipe of another program says."""
    lines = list(_ingredients(node))
    told = list(_steps(node))
    for part in nodes_in(node, "hasPart"):
        name, inner = plain(text_in(part, "name")), list(_ingredients(part))
        lines += [_heading(name), *inner] if inner else []
        told += _for_part([_Told(one.step) for one in _steps(part)], name)
    steps = [one.step for one in told]
    more = [f"steps from the {MOST_STEPS + 1}th on"] if len(steps) > MOST_STEPS else []
    unread = (
        _CAMEL.sub(lambda large: f" {large[0].lower()}", re.split(r"[/#:]", name)[-1])
        for name, values in node.items()
        if not name.startswith("@") and name not in _READ | _UNSAID and values
    )
    bake = minutes_of(text_in(node, "cookTime"))
    return Foreign(
        plain(text_in(node, "name"))[:80] or "A dough without a name",
        pieces_in(_yields(node)),
        tuple(lines),
        tuple(steps[:MOST_STEPS]),
        (*_notes(node), *_headings(told)),
        (*sorted(unread), *more),
        bake if bake is not None and 0 < bake <= LONGEST_BAKE_MIN else None,
    )


# Ingredients


def _ingredients(node: Node) -> Iterator[str]:
    for name in ("recipeIngredient", "ingredients", "supply"):
        for value in node.get(name, []):
            yield from _lines_of(value)


def _lines_of(value: object) -> Iterator[str]:
    """An ingredient, or a list of them with its heading, a line each."""
    if isinstance(value, str):
        yield from _split(value)
    if not isinstance(value, dict):
        return
    inner = [*value.get("itemListElement", []), *value.get("item", [])]
    if inner:
        name = plain(text_in(value, "name"))
        if name and not is_a(value, "ListItem"):
            yield _heading(name)
        for one in _in_order(inner):
            yield from _lines_of(one)
        return
    amount = _amount(value)
    said = plain(text_in(value, "name") or text_in(value, "text") or text_in(value, "description"))
    line = " ".join(f"{amount} {said}".split())
    if line:
        yield line[:MOST_TEXT]


def _amount(value: Node) -> str:
    """The amount of an ingredient that is a thing with a quantity."""
    for quantity in value.get("requiredQuantity", []):
        if isinstance(quantity, dict):
            return _amount(quantity) or plain(text_in(quantity, "name"))
        return plain(f"{quantity:g}" if isinstance(quantity, float) else str(quantity))
    low, high = text_in(value, "minValue"), text_in(value, "maxValue")
    number = text_in(value, "value") or (f"{low}-{high}" if low and high else low or high)
    code = text_in(value, "unitCode")
    unit = text_in(value, "unitText") or _UNIT_CODES.get(code, code)
    return plain(f"{number} {unit}".strip())


def _heading(name: str) -> str:
    """A heading of a group of lines, as a card has it."""
    bare = name.rstrip(": ")
    return f"{bare}:" if _FOR_PART.match(bare) else f"For the {bare[:1].lower()}{bare[1:]}:"


def _split(written: str) -> Iterator[str]:
    yield from (line.strip()[:MOST_TEXT] for line in plain(written).splitlines() if line.strip())


def _in_order(values: Sequence[object]) -> list[object]:
    """Things by their positions, where all have one."""
    places = [text_in(v, "position") if isinstance(v, dict) else "" for v in values]
    if all(re.fullmatch(r"\d{1,6}(?:\.\d+)?", place) for place in places):
        return [v for _, v in sorted(zip(places, values, strict=True), key=lambda p: float(p[0]))]
    return list(values)


# Steps


_INNER = ("itemListElement", "step", "steps", "item")


@dataclass(frozen=True, slots=True)
class _Told:
    """A step, and what it and those after it are called, where they are."""

    step: Step
    called: str = ""


def _steps(node: Node) -> Iterator[_Told]:
    for name in ("recipeInstructions", "step", "steps"):
        for value in _in_order(node.get(name, [])):
            yield from _steps_of(value)


def _steps_of(value: object) -> Iterator[_Told]:
    """The steps that a step, a section, a list or a text comes to."""
    if isinstance(value, str):
        yield from (_Told(read_step(line)) for line in _split(value))
    if not isinstance(value, dict):
        return
    name = plain(text_in(value, "name"))
    inner = [
        one for key in ("itemListElement", "step", "steps", "item") for one in value.get(key, [])
    ]
    tips = [one for one in inner if isinstance(one, dict) and is_a(one, "HowToTip")]
    found = [
        step for one in _in_order([i for i in inner if i not in tips]) for step in _steps_of(one)
    ]
    if not found:
        written = text_in(value, "text") or text_in(value, "description") or name
        found = [_Told(_timed(read_step(line), value)) for line in _split(written)]
    for tip in tips:
        found = _with_tip(found, plain(text_in(tip, "text") or text_in(tip, "name")))
    yield from found if is_a(value, "ListItem") else _named(found, name)


def _timed(step: Step, value: Node) -> Step:
    """A step with the times that it is given, where its words name none."""
    if find_durations(step.text):
        return step
    if all(minutes_of(text_in(value, name)) is None for name in ("performTime", "totalTime")):
        return step
    hands, wait = times_of(value)
    return replace(step, hands_min=min(hands, 240), wait_min=min(wait, 2880))


def _with_tip(told: list[_Told], tip: str) -> list[_Told]:
    """A tip is what to look for, or, where there is one already, stands behind the words."""
    if not told or not tip:
        return told
    last = told[-1].step
    if last.cue or len(tip) > LONGEST_CUE:
        last = replace(last, text=f"{last.text} ({tip})"[:MOST_TEXT])
    else:
        last = replace(last, cue=tip)
    return [*told[:-1], replace(told[-1], step=last)]


def _named(told: list[_Told], name: str) -> list[_Told]:
    """Steps with what they are called together, where that is no number and not said anyway."""
    if not told or _STEP_NAME.fullmatch(name):
        return told
    if _PART.search(name):
        return _for_part(told, name)
    first = told[0]
    if name.rstrip(":. ").casefold() in first.step.text.casefold():
        return told
    called = f"{name}: {first.called}" if first.called else name
    return [replace(first, called=called), *told[1:]]


def _for_part(told: Iterable[_Told], name: str) -> list[_Told]:
    """Steps said to be for a part."""
    lead = _heading(name)
    lead = f"{lead[:1].upper()}{lead[1:]}"
    return [
        replace(one, step=replace(one.step, text=f"{lead} {one.step.text}"[:MOST_TEXT]))
        for one in told
    ]


# The rest


def minutes_of(written: str) -> int | None:
    """Whole minutes of a duration (ISO 8601); None where it is none."""
    found = _DURATION.fullmatch(written.strip())
    if not found or not any(found.groups()):
        return None
    days, hours, minutes, seconds = (float(part or 0) for part in found.groups())
    return round(1440 * days + 60 * hours + minutes + seconds / 60)


def times_of(step: Node) -> tuple[int, int]:
    """Minutes of hands and of waiting of a step, 0 where it names none."""
    hands = minutes_of(text_in(step, "performTime")) or 0
    return hands, max((minutes_of(text_in(step, "totalTime")) or 0) - hands, 0)


def _yields(node: Node) -> list[str]:
    found = []
    for value in [*node.get("recipeYield", []), *node.get("yield", [])]:
        if isinstance(value, dict):
            found.append(f"{_amount(value)} {plain(text_in(value, 'name'))}".strip())
        else:
            found.append(plain(str(value)))
    return found


def _headings(told: Iterable[_Told]) -> Iterator[str]:
    """What steps are called has no place of its own on a card, and would be read as done."""
    names = [f"{n} {one.called}" for n, one in enumerate(told, start=1) if one.called]
    if names:
        yield f"Steps from: {'; '.join(names)}"


def _notes(node: Node) -> Iterator[str]:
    yield from (line for text in texts_in(node, "description") for line in _split(text))
    for name, called in _NOTED.items():
        said = [plain(text) for text in texts_in(node, name)]
        said += [
            plain(text_in(inner, "name") or text_in(inner, "text") or text_in(inner, "url"))
            for inner in nodes_in(node, name)
        ]
        if any(said):
            yield f"{called}: {', '.join(one for one in said if one)}"
    times = [
        f"{called} {minutes} min"
        for name, called in _TIMES.items()
        if (minutes := minutes_of(text_in(node, name)))
    ]
    if times:
        yield f"Times: {', '.join(times)}"
    said = _yields(node)
    if said and not (len(said) == 1 and _SAID_ALONE.fullmatch(said[0])):
        yield f"Yield: {'; '.join(said)}"
    for part in nodes_in(node, "hasPart"):
        yield from (f"{plain(text_in(part, 'name'))}: {line}" for line in _notes(part))
