"""A dough in words: its lines as a card writes them, the card as plain text and as Markdown."""

import re
from collections.abc import Sequence

from finebatch.core.formula.card_text import read_step
from finebatch.core.formula.dough import Card, Line, Part, WeighedDough, WeighedLine
from finebatch.core.formula.method import short_name
from finebatch.core.formula.names import Names
from finebatch.core.formula.step import Step
from finebatch.core.larder.ingredient import Ingredient, Larder
from finebatch.core.measures.figures import centimetres, grams_between
from finebatch.core.measures.figures import grams as in_grams
from finebatch.core.measures.units import MASS_UNITS

_MARKS = re.compile(r"[\\\\`*_{}\[\]<>|#&~]|(?<=\d)[.)](?=\s)|^[-+=](?=\s|$)")
"""What Markdown may take for more than itself."""
_COUNTED = {"egg": "egg", "yolk": "egg yolk", "white": "egg white"}


def _grams(grams: float) -> str:
    return in_grams(grams, 2 if grams < 1 else 1 if grams < 10 else 0)


def card_name(ingredient: Ingredient, names: Names) -> str:
    """What to call an ingredient so that it is read back as the same."""
    for name in (short_name(ingredient), *names.of(ingredient.key), ingredient.name):
        found = names.find(name)
        if found is not None and found.key == ingredient.key and found.ask is None:
            return name
    return short_name(ingredient)


def _plural(word: str, amount: str) -> str:
    return word if amount in ("1", "1/2", "1/4", "3/4", "1/3", "2/3") else f"{word}s"


def line_words(line: Line, weighed: WeighedLine, larder: Larder, names: Names) -> str:
    """A line as a card writes it, with its grams: ``2 1/4 cups plain flour (281 g)``."""
    ingredient = larder.known(line.ingredient)
    if ingredient is None:
        return line.text or f"{line.amount} {line.unit}".strip()
    name = card_name(ingredient, names)
    if weighed.grams is None:
        return f"{line.amount} {name}".strip()
    if line.unit in MASS_UNITS and not weighed.range_g:
        return f"{line.amount} {line.unit} {name}"
    if weighed.range_g:
        return f"{grams_between(*weighed.range_g)} {name}"
    if line.unit == "egg_weight":
        return f"the weight of {line.amount} eggs in"
    if line.unit == "of_eggs":
        return f"{_grams(weighed.grams)} {name}"
    if line.unit in _COUNTED:
        return (
            f"{line.amount} {_plural(_COUNTED[line.unit], line.amount)} ({_grams(weighed.grams)})"
        )
    unit = "" if line.unit in ("zest", "each") else f" {_plural(line.unit, line.amount)}"
    if line.unit in ("tbsp", "tsp", "ml", "dl"):
        unit = f" {line.unit}"
    if line.unit == "pinch":
        unit = " pinch" if line.amount == "1" else " pinches"
    return f"{line.amount}{unit} {name} ({_grams(weighed.grams)})"


def lines_words(
    lines: Sequence[Line], weighed: WeighedDough, larder: Larder, names: Names
) -> list[str]:
    """All lines of a dough or part in words."""
    pairs = zip(lines, weighed.lines, strict=True)
    return [line_words(line, w, larder, names) for line, w in pairs]


def _facts(card: Card) -> list[str]:
    """What the card says of yield, size and oven, a line each."""
    out = []
    if card.stated_pieces:
        out.append(f"Makes {card.stated_pieces}")
    if card.stated_width_mm:
        out.append(f"Baked size: {centimetres(card.stated_width_mm, 2)}")
    if card.stated_oven:
        out.append(f"Oven: {card.stated_oven}")
    return out


def write_text(
    card: Card, texts: Sequence[str], part_texts: Sequence[Sequence[str]], steps: Sequence[Step]
) -> str:
    """The card as plain text that can be pasted in again."""
    out = [_one_line(card.name), *_facts(card)]
    out += ["", "Ingredients", *map(_one_line, texts)]
    for part, lines in zip(card.parts, part_texts, strict=True):
        out += ["", f"{_part_said(part)}:", *map(_one_line, lines)]
    out += ["", "Method"]
    for n, step in enumerate(steps, start=1):
        out.append(f"{n}. {_one_line(step.text)}")
        out += [f"   {said}" for said in _below(step)]
    if card.note:
        out += ["", "Notes", card.note]
    return "\n".join(out) + "\n"


def _one_line(text: str) -> str:
    return " ".join(text.split())


def _part_said(part: Part) -> str:
    """A part's heading: what it is, and how much of it a piece takes."""
    return f"For the {_one_line(part.name)} ({part.kind}, {in_grams(part.per_piece_g, 2)} a piece)"


def _below(step: Step) -> list[str]:
    """What is said of a step beside its words, a line each."""
    read = read_step(step.text)
    said = [f"{what}: {_one_line(text)}" for what, text in _beside(step) if text.strip()]
    if (read.hands_min, read.wait_min) != (step.hands_min, step.wait_min):
        said.append(f"Takes: {step.hands_min} min, then {step.wait_min} min")
    return said


def _beside(step: Step) -> Sequence[tuple[str, str]]:
    return (("Until", step.cue), ("Mind", step.caution))


def in_markdown(text: str) -> str:
    """A text as Markdown has it in a line: what it would take for a mark is escaped."""
    return _MARKS.sub(r"\\\g<0>", _one_line(text))


def write_markdown(
    card: Card,
    weighed: WeighedDough,
    texts: Sequence[str],
    part_texts: Sequence[Sequence[str]],
    steps: Sequence[Step],
) -> str:
    """The card as Markdown, with grams and percent of the flour."""
    out = [f"# {in_markdown(card.name)}", ""]
    for fact in _facts(card):
        out += [in_markdown(fact), ""]
    out += ["| Ingredient | Weight | % of flour |", "|---|--:|--:|"]
    for text, w in zip(texts, weighed.lines, strict=True):
        grams = "" if w.grams is None else _grams(w.grams)
        percent = "" if w.percent is None else f"{w.percent:.1f}"
        out.append(f"| {in_markdown(text)} | {grams} | {percent} |")
    out.append(f"| **In all** | **{_grams(weighed.total_g)}** | |")
    for part, lines in zip(card.parts, part_texts, strict=True):
        out += ["", f"## {in_markdown(_part_said(part))}", ""]
        out += [f"- {in_markdown(line)}" for line in lines]
    out += ["", "## Method", ""]
    for n, step in enumerate(steps, start=1):
        out.append(f"{n}. {in_markdown(step.text)}")
        out += [f"{' ' * (len(str(n)) + 2)}- {in_markdown(said)}" for said in _below(step)]
    if card.note:
        notes = [in_markdown(line) for line in card.note.splitlines() if line.strip()]
        out += ["", "## Notes", "", "\\\n".join(notes)]
    return "\n".join(out) + "\n"
