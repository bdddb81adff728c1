"""Read a whole card as text: title, ingredients, parts, steps, oven setting, yield.

Headings are followed where there are any; without them each line is judged by what it looks like.
What fits nowhere is kept as a note: nothing that was pasted is lost.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Literal, get_args

from finebatch.core.formula.card_sizes import yielded_mm
from finebatch.core.formula.dough import PartKind
from finebatch.core.formula.reading import Reader, ReadLine
from finebatch.core.formula.step import Step
from finebatch.core.measures.durations import find_minutes
from finebatch.core.measures.quantities import has_quantity, starts_with_quantity
from finebatch.core.measures.spoken import plain_text
from finebatch.core.measures.temperatures import find_temperatures
from finebatch.core.refusal import refuse

MOST_TEXT_LINES = 500
MOST_STEP_LETTERS = 1000
MOST_SAYING = 300
LONG_LINE = 90
"""A line longer than this is a sentence, not an ingredient."""

Section = Literal["lines", "part", "method", "notes"]

_PART_WORDS: tuple[tuple[PartKind, str], ...] = (
    ("wash", r"(?:egg )?wash|egg glaze|glazing|to brush|brushing"),
    ("icing", r"icing|glaze|frosting|buttercream"),
    ("filling", r"filling|to fill"),
    ("bench", r"(?:work ?)?bench|work ?(?:top|surface)"),
    ("dusting", r"dusting|to dust"),
    ("dip", r"dip|dipping|to dip"),
    ("coating", r"coating|to coat|rolling|to roll in"),
    (
        "topping",
        r"toppings?|decorations?|decorating|to decorate|to finish|finish|garnish|to sprinkle|"
        r"sprinkling",
    ),
)
_FOR_THE = r"(?:for )?(?:the |your )?"
_ANY_PART = "|".join(words for _, words in _PART_WORDS)
_BARE_PART = re.compile(
    rf"{_FOR_THE}(?:\w+ )?(?:{_ANY_PART})|for (?:brushing|sprinkling|the tops?)", re.IGNORECASE
)
"""A heading of a part that stands by itself, with a colon or without: “Icing”, “To finish”."""
_COUNTED = re.compile(r"(?P<n>\d{1,2})[.)] +")
"""The number of a step that is the next one: “4. 160 °C for 12 min” is no 4.160."""
_PART_SAID = re.compile(
    rf"for the (?P<name>.{{1,60}}) \((?P<kind>{'|'.join(get_args(PartKind))})"
    r"(?:, (?P<each>\d{1,3}(?:\.\d{1,2})?) g a piece)?\):",
    re.IGNORECASE,
)
"""A heading of a part that says what it is and how much of it a piece takes, as a card that was
given out has it: “For the lemon drizzle (icing, 5 g a piece):”."""
_OF_STEP = re.compile(r"\s+(?:[-*] )?(?P<what>Until|Mind|Takes): (?P<said>.*)")
"""What stands below a step, set in."""
_TAKES = re.compile(r"(?P<hands>\d{1,3}) min(?:, then (?P<wait>\d{1,4}) min)?\.?")
TITLE_WITHIN = 6
"""Lines that may stand before the heading of the ingredients: the title, yield, size and oven."""
_PART_IN_A_LINE = re.compile(
    rf"(?P<name>{_FOR_THE}(?:\w+ )?(?:{_ANY_PART}))\s*[:–—]\s*(?P<lines>\S.*)", re.IGNORECASE
)
"""A part written in one line: “Glaze: 100 g icing sugar, 2 tbsp lemon juice”."""
_LINES = re.compile(
    r"(?:the )?(?:ingredients?|you(?:'ll| will)? need|what you need|(?:for )?(?:the )?"
    r"(?:dough|cookies?|biscuits?|shortbread|base|logs?))",
    re.IGNORECASE,
)
_METHOD = re.compile(
    r"(?:the )?(?:method|directions?|instructions?|steps?|preparation|procedure|"
    r"how to make(?: them| it)?)",
    re.IGNORECASE,
)
_NOTES = re.compile(r"(?:notes?|tips?|storage|keeping|source)", re.IGNORECASE)
_BULLET = re.compile(r"^\s*(?:[-*•▢□–]\s+|\[[ xX]?\]\s*|#+\s*)+")
_FILLER = re.compile(r"^(?:(?:then|and|plus|also|now|okay|ok|so|um)\b,?\s+)+(?=\S)", re.IGNORECASE)
"""What a speaker says before a line: “then three tablespoons sugar”."""
_NUMBERED = re.compile(r"^\s*(?:step\s*)?\d{1,2}\s*[.):]\s+(?=\D)", re.IGNORECASE)
_STEP_WORD = re.compile(
    r"^(?:pre-?heat|heat|beat|mix|stir|whisk|sift|sieve|fold|add|combine|melt|rub|cut|knead|roll|"
    r"chill|rest|shape|form|scoop|drop|place|put|bake|cool|leave|let|line|grease|slice|spread|"
    r"brush|dust|pour|bring|turn|using|in a|with a|once|when|meanwhile|divide|press|toast|crush|"
    r"chop|grate|wrap|cover|flatten|refrigerate|freeze|thaw|remove|take|transfer|move|store|keep|serve|"
    r"drizzle|sprinkle|dip|decorate|fill|sandwich|score|prick|dock|stamp|re-?roll|gather|work|"
    r"pulse|blitz|process|scrape|break|separate|strain|soak|warm|simmer|boil|do not|don.t|"
    r"repeat|allow|start|begin|make|measure|weigh|prepare|gently|carefully|lightly|slowly|then|next|finally|after|"
    r"before|while|as soon as|if|it|they|you|first|set (?:aside|the)|stop|hold|push|lay|arrange|"
    r"coat|ice (?:the|them|when|once)|cream(?=,)|"
    r"cream (?:the|together|butter|shortening|margarine|lard|soft\w*|sugar|in|until|it|up)|"
    r"butter (?:a|the|your)|flour (?:a|the|your)|salt the|zest the|juice the)\b",
    re.IGNORECASE,
)
"""What a sentence begins with that tells to do something. Words that are ingredients as well count
only with what follows them."""
_FEWEST_WORDS = 3
_SENTENCES = re.compile(r"[a-z]{2}\.\s+[A-Z][a-z]")
"""Two sentences in a line: “Cream it. Add the egg”."""
_YIELD = re.compile(
    r"\b(?:makes?|yields?|gives?|for)\b\D{0,20}(?P<low>\d{1,4})"
    r"(?:\s*(?:[-–—]|to)\s*(?P<high>\d{1,4}))?\s*(?P<dozen>doz(?:en)?\b)?",
    re.IGNORECASE,
)
_YIELD_LINE = re.compile(
    r"^\s*(?:makes?|yields?|serves?|gives?|quantity|amount|portions?)\b", re.IGNORECASE
)
_ONLY_YIELD = re.compile(
    r"\s*(?:makes?|yields?|gives?):?(?: about| around| approx\.?)? \d{1,4}"
    r"(?:\s*(?:[-–—]|to)\s*\d{1,4})?(?: dozen)?(?: \w+){0,3}\.?\s*",
    re.IGNORECASE,
)
"""“Makes about 40.” is no step where it ends the method."""
_PIECES_LINE = re.compile(
    r"^\s*(?:about |approx\.? |around )?\d{1,4}(?:\s*(?:[-–—]|to)\s*\d{1,4})?\s*(?:dozen )?"
    r"(?:[\d./ ]+[- ]?(?:mm|cm|in(?:ch(?:es)?)?\.?|[\"”])[- ])?"
    r"(?:(?:small|medium|large|big|thin|thick) )?"
    r"(?:pieces?|cookies|biscuits|drops|slices|bars|rounds|stars|servings)"
    r"(?:,? (?:of |about )*[\w./]+ ?(?:mm|cm|in(?:ch(?:es)?)?|[\"”])(?: across| wide)?)?\s*$",
    re.IGNORECASE,
)
_SIZE_LINE = re.compile(r"^\s*baked (?:size|width)\s*:\s*", re.IGNORECASE)
_TITLE = re.compile(
    r"(?P<title>\D{3,70}?)\s*[-–—:(,]+\s*(?:makes |for |about |around |ca\.? )*"
    r"(?P<count>\d{1,4}(?:\s*(?:[-–—]|to)\s*\d{1,4})?\s*"
    r"(?:(?:dozen|pieces?|cookies|biscuits|slices|bars|pairs|sandwiches|rounds|squares)"
    r"|(?=\)\s*$)|(?<=makes \d)|(?<=makes \d\d)))"
    r"\)?\s*",
    re.IGNORECASE,
)
_ASIDE = re.compile(r"\([^()]{3,80}\)\.?")
"""A remark below the title: “(from next door, about 40)”."""
_OVEN_LINE = re.compile(r"^\s*(?:oven|bake|baking|temperature|cooking)\b", re.IGNORECASE)
_TO = re.compile(r"^to (?:the )?", re.IGNORECASE)
_LABEL = re.compile(r"^\s*(?:oven|temperature)\s*:\s*", re.IGNORECASE)
_TRAY_WORK = re.compile(
    r"\b(?:bake|baking(?! (?:powder|soda|ammonia)\b)|pre-?heat|oven|scoop|spoon (?:on|mounds)|"
    r"drop|roll out|cut out|cutter|slice|shape|form into|place on|arrange|chill|refrigerat|fridge|"
    r"freez|cool on|rack|store|tin)",
    re.IGNORECASE,
)
_WAITING = re.compile(r"\b(?:rest|stand|cool|leave|set aside|soak|steep)\b", re.IGNORECASE)
LEAST_WIDE_MM, MOST_WIDE_MM = 10.0, 400.0
USUAL_STEP_MIN = 2
"""Minutes of hands for a mixing step that names none (household practice)."""


@dataclass(frozen=True, slots=True)
class PartHeading:
    """What is said above the lines of a part; `each_g` is what a piece takes of it, where that is
    said."""

    kind: PartKind
    name: str
    each_g: float | None = None


@dataclass(frozen=True, slots=True)
class ReadPart(PartHeading):
    """A part of the card as read."""

    lines: tuple[ReadLine, ...] = ()


@dataclass(frozen=True, slots=True)
class ReadCard:
    """A whole card as understood. `notes` are the lines that fit nowhere else."""

    title: str
    lines: tuple[ReadLine, ...]
    parts: tuple[ReadPart, ...]
    steps: tuple[Step, ...]
    stated_pieces: int | None
    stated_width_mm: float | None
    stated_oven: str
    notes: tuple[str, ...]


@dataclass(slots=True)
class _Draft:
    title: str = ""
    lines: list[ReadLine] = field(default_factory=list)
    parts: list[ReadPart] = field(default_factory=list)
    steps: list[Step] = field(default_factory=list)
    pieces: int | None = None
    wide_mm: float | None = None
    oven: str = ""
    notes: list[str] = field(default_factory=list)
    section: Section | None = None

    def place(self, read: ReadLine, *, alone: bool) -> None:
        """A line to where it belongs: the dough, or a part by what it is for. A line that was typed
        by itself stays where it was typed."""
        if alone or read.purpose == "dough":
            self.lines.append(read)
            return
        there = [n for n, part in enumerate(self.parts) if part.kind == read.purpose]
        if not there:
            self.parts.append(ReadPart(read.purpose, read.purpose))
        self.to_part([read], there[0] if there else -1)

    def to_part(self, read: Sequence[ReadLine], place: int = -1) -> None:
        """Lines to a part, the latest where none is told."""
        part = self.parts[place]
        self.parts[place] = replace(part, lines=(*part.lines, *read))


def _part_kind(heading: str) -> PartKind | None:
    bare = re.sub(r"^(?:for )?(?:the )?", "", heading.strip().rstrip(":"), flags=re.IGNORECASE)
    for kind, words in _PART_WORDS:
        if re.search(rf"\b(?:{words})\b", bare, re.IGNORECASE) and len(bare) < 40:
            return kind
    return None


def _heading(line: str) -> tuple[Section, str] | None:
    """The section that a heading opens, with its name; none when the line is no heading."""
    text = line.strip().strip("*_").strip()
    bare = text.rstrip(":").strip()
    for section, pattern in (("lines", _LINES), ("method", _METHOD), ("notes", _NOTES)):
        if pattern.fullmatch(bare):
            return section, bare  # type: ignore[return-value]
    marked = text.endswith(":") or bool(
        re.match(r"^for (?:the )?\w+(?: \w+)?$", bare, re.IGNORECASE)
    )
    if _BARE_PART.fullmatch(bare):
        return "part", bare
    if marked and not re.search(r"\d", bare) and len(bare) < 50:
        return ("part", bare) if _part_kind(bare) else ("lines", bare)
    return None


def read_step(text: str) -> Step:
    """A written step, with its minutes where it names them; work on trays is planned elsewhere."""
    text = _NUMBERED.sub("", text).strip()[:MOST_STEP_LETTERS]
    if _TRAY_WORK.search(text) or find_temperatures(text):
        return Step(text)
    times = find_minutes(text)
    minutes = round(sum(times[-1]) / 2) if times else 0
    if _WAITING.search(text) and minutes:
        return Step(text, 1, minutes)
    return Step(text, minutes or USUAL_STEP_MIN)


def _stated_pieces(text: str) -> int | None:
    found = _YIELD.search(text)
    if not found:
        return None
    count = int(found["low"])
    if found["high"]:
        count = round((count + int(found["high"])) / 2)
    return (count * 12 if found["dozen"] else count) or None


def _stated_width_mm(text: str) -> float | None:
    wide = yielded_mm(plain_text(text))
    fits = wide is not None and LEAST_WIDE_MM <= wide <= MOST_WIDE_MM
    return round(wide, 1) if wide is not None and fits else None


def _has_amount(line: str) -> bool:
    return has_quantity(plain_text(line))


def _take_fact(draft: _Draft, line: str) -> bool:
    """Yield and oven as lines of their own, outside the method."""
    if size := _SIZE_LINE.match(line):
        draft.wide_mm = _stated_width_mm(f"1 of {line[size.end() :]}")
        if draft.wide_mm is not None:
            return True
    counted = _PIECES_LINE.match(line) is not None
    if counted or (_YIELD_LINE.match(line) and len(line) < LONG_LINE):
        pieces = _stated_pieces(f"makes {line}" if counted else line)
        if pieces is not None:
            draft.pieces = pieces
            draft.wide_mm = _stated_width_mm(line) or draft.wide_mm
            return True
    if find_temperatures(line) and (_OVEN_LINE.match(line) or len(line) < 40):
        said = _LABEL.sub("", line)
        draft.oven = f"{draft.oven}; {said}" if draft.oven else said
        return True
    return False


def _is_step(line: str) -> bool:
    """Whether a line tells to do something, however short it is and wherever it stands."""
    text = _NUMBERED.sub("", line).strip()
    if _SENTENCES.search(text) and not _has_amount(text.split(".")[0]):
        return True
    if not _STEP_WORD.match(text):
        # “180C for 10 to 12 min until just coloured” is one as well.
        return bool(find_temperatures(text) and find_minutes(text))
    return len(text.split()) >= _FEWEST_WORDS or text.endswith(".")


def _take_title(draft: _Draft, line: str) -> bool:
    """A first line that says how many there will be is the title: “Sesame crisps – 40 pieces”."""
    found = _TITLE.fullmatch(line)
    if found is None:
        return False
    draft.title, draft.pieces = found["title"], _stated_pieces(f"makes {found['count']}")
    return True


def _guess(
    draft: _Draft, line: str, reader: Reader, *, first: bool, alone: bool
) -> Section | Literal["title"]:
    """What a line is when no heading said so."""
    if alone:
        return "lines"
    amount = _has_amount(line)
    if _NUMBERED.match(line) or len(line) > LONG_LINE or _is_step(line):
        return "method"
    if amount:
        return "lines"
    named = reader.names.find(line)
    if first and (named is None or named.ask):
        return "title"
    if draft.section == "method":
        return "method"
    return "lines" if named is not None or (draft.lines and len(line) < 60) else "notes"


def _put(draft: _Draft, section: Section, line: str, reader: Reader, *, alone: bool) -> None:
    if section == "method":
        counted = _COUNTED.match(line)
        if counted and int(counted["n"]) == len(draft.steps) + 1:
            line = line[counted.end() :]
        draft.steps.append(read_step(line))
    elif section == "notes":
        draft.notes.append(line)
    elif section == "part":
        draft.to_part(reader.read_all(line))
    else:
        found = reader.read_all(line)
        for read in found[:1] if alone and found[0].purpose == "dough" else found:
            draft.place(read, alone=alone)


def _take_part(draft: _Draft, name: str, reader: Reader, lines: Sequence[str] = ()) -> None:
    """Begin a part by its heading, with the lines that stand behind it."""
    kind = _part_kind(name) or "topping"
    named = re.sub(rf"^{_FOR_THE}", "", name, flags=re.IGNORECASE)
    draft.parts.append(ReadPart(kind, named[:60] or kind))
    for line in lines:
        draft.to_part(reader.read_all(line))


def _take_said(draft: _Draft, raw: str) -> bool:
    """What a card that was given out says outright: of a part what it is, of a step what to wait
    for, to mind, and how long it takes."""
    if part := _PART_SAID.fullmatch(raw.strip()):
        each = float(part["each"]) if part["each"] else None
        kind: PartKind = part["kind"].casefold()  # type: ignore[assignment]
        draft.parts.append(ReadPart(kind, part["name"], each))
        draft.section = "part"
        return True
    below = _OF_STEP.fullmatch(raw)
    if below is None or draft.section != "method" or not draft.steps:
        return False
    said, last = below["said"].strip()[:MOST_SAYING], draft.steps[-1]
    if below["what"] == "Until":
        draft.steps[-1] = replace(last, cue=said)
    elif below["what"] == "Mind":
        draft.steps[-1] = replace(last, caution=said)
    elif takes := _TAKES.fullmatch(said):
        hands, wait = int(takes["hands"]), int(takes["wait"] or 0)
        draft.steps[-1] = replace(last, hands_min=min(hands, 240), wait_min=min(wait, 2880))
    return True


def _take(draft: _Draft, raw: str, reader: Reader, *, first: bool, alone: bool) -> None:
    line = _BULLET.sub("", raw).strip()
    spoken = _FILLER.sub("", line)
    if spoken != line and not alone and starts_with_quantity(plain_text(spoken)):
        line = spoken
    heading = None if alone else _heading(line)
    if heading is not None:
        if draft.section == "method" and _STEP_WORD.match(_TO.sub("", heading[1])):
            return  # “To bake:”, between steps
        draft.section, name = heading
        if draft.section == "part":
            _take_part(draft, name, reader)
        return
    if not alone and (inline := _PART_IN_A_LINE.fullmatch(line)):
        _take_part(draft, inline["name"], reader, re.split(r"\s*[,;]\s+", inline["lines"]))
        return
    if first and not alone and _take_title(draft, line):
        return
    if not draft.lines and not alone and _ASIDE.fullmatch(line):
        draft.pieces = draft.pieces or _stated_pieces(f"makes {line[1:-1].split(',')[-1]}")
        draft.notes.append(line)
        return
    fact = draft.section != "method" and not alone and not _NUMBERED.match(line)
    if (fact or _ONLY_YIELD.fullmatch(line)) and _take_fact(draft, line):
        return
    section = draft.section
    told = section in ("lines", "part") and not alone and _is_step(line)
    if section is None or told or (section != "method" and _NUMBERED.match(line)):
        guess = _guess(draft, line, reader, first=first, alone=alone)
        if guess == "title":
            draft.title = line
            return
        section = guess
        if guess == "method":
            draft.section = "method"
    _put(draft, section, line, reader, alone=alone)


def _title_line(written: Sequence[str]) -> str | None:
    """The title of a card with a heading above its ingredients: its first line, whatever that is,
    where facts alone stand between them."""
    heads = [n for n, line in enumerate(written[: TITLE_WITHIN + 1]) if _is_ingredients(line)]
    if not heads or heads[0] == 0:
        return None
    between = (line.strip() for line in written[1 : heads[0]])
    if any(_heading(line) or not _take_fact(_Draft(), line) for line in between):
        return None
    return written[0].strip()


def _is_ingredients(line: str) -> bool:
    return line.strip().rstrip(":").casefold() == "ingredients"


def read_card(text: str, reader: Reader) -> ReadCard:
    """Understand a pasted card; `Refusal` at ``text`` when it has more than 500 lines."""
    written: Sequence[str] = [line for line in text.splitlines() if line.strip()]
    if len(written) > MOST_TEXT_LINES:
        message = f"A card has at most {MOST_TEXT_LINES} lines; this one has {len(written):,}."
        raise refuse("text", message)
    draft = _Draft()
    title = _title_line(written)
    draft.title = title or ""
    for n, line in enumerate(written[1:] if title else written):
        if not _take_said(draft, line):
            first = n == 0 and not title
            _take(draft, line.strip(), reader, first=first, alone=len(written) == 1)
    return ReadCard(
        title=title or draft.title.strip("# *_").rstrip(":"),
        lines=tuple(draft.lines),
        parts=tuple(part for part in draft.parts if part.lines),
        steps=tuple(draft.steps),
        stated_pieces=draft.pieces,
        stated_width_mm=draft.wide_mm,
        stated_oven=draft.oven,
        notes=tuple(draft.notes),
    )
