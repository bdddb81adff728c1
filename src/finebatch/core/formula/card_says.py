"""What a card says beside its lines: oven, minutes, chilling, rests (its sizes: `card_sizes`).

Each fact is taken from the sentence that tells of it; nothing is made up where the card is silent.
"""

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

from finebatch.core.formula.card_sizes import Sizes, find_sizes, first_said
from finebatch.core.formula.card_text import ReadCard
from finebatch.core.formula.checks.oven import is_of_oven, possible
from finebatch.core.formula.dough import MOST_STEPS, Card, Colour, Doneness, Part, PartKind
from finebatch.core.formula.guess import guess_family, guess_mixing
from finebatch.core.formula.until_oven import only_says_how_long, until_oven_min
from finebatch.core.measures.durations import find_durations
from finebatch.core.measures.spoken import plain_text
from finebatch.core.measures.temperatures import Temperature, find_temperatures
from finebatch.core.measures.units import RATIO_UNITS
from finebatch.core.values import Range, values_of

Surface = Literal["parchment", "bare", "greased", "silicone"]
"""What a sheet is said to be."""

_SENTENCE = re.compile(
    r"(?<=[.;!])(?<!\bin\.)(?<!\bmin\.)(?<!\bhr\.)(?<!\bca\.)(?<!approx\.)\s+|\n+"
    r"|(?:(?<=\bin\.)|(?<=\bmin\.)|(?<=\bhr\.))\s+(?=(?-i:[A-Z]))|(?<=\w),? then (?=\w)"
    r"|,\s+(?:and\s+)?(?=(?:cut|slice|dry|bake|chill|rest|leave|let|cool|return|wrap)\b)",
    re.IGNORECASE,
)
"""Between what is told apart: sentences, and what is done next in one of them."""
_BAKES = re.compile(
    r"\b(?:bak(?:e|ed|ing)(?! (?:powder|soda|paper|parchment|sheet|tray|tin|ammonia))|in the oven)"
    r"\b",
    re.IGNORECASE,
)
_HEATS = re.compile(
    r"\bpre-?heat\b|\b(?:heat|set|turn) (?:the |your )?oven\b|^temp(?:erature)?\b", re.IGNORECASE
)
_TOASTS = re.compile(r"\b(?:toast|roast)(?:ed|ing)?\b(?!.*\bbake\b)", re.IGNORECASE)
_AGAIN = re.compile(
    r"\b(?:again|second (?:time|bake)|bake twice|(?:back|return(?:ed)?) (?:in|to) the oven|dry)\b",
    re.IGNORECASE,
)
_A_SIDE = re.compile(r"\b(?:a|1|each|per|on each|on both) sides?\b", re.IGNORECASE)
_CHILLS = re.compile(
    r"\b(?:chill(?:ed|ing)?|refrigerat\w*|fridge|freez\w+|in the cold|cold place|"
    r"cool place|keep (?:\w+ )?(?:cool|cold))\b",
    re.IGNORECASE,
)
_RESTS = re.compile(
    r"\b(?:leave|let|rest(?:s|ed)?|stand|cool(?:ed|ing)?|sit|(?:do not|don.t) (?:touch|move))\b",
    re.IGNORECASE,
)
_SETS = re.compile(
    r"\b(?:to set|until (?:it is |they are )?set|sets?|setting|dry)\b", re.IGNORECASE
)
_TIMED = re.compile(r"(?:baking |oven )?time\b", re.IGNORECASE)
"""“Time: 6 to 8 min”, as a label."""
_LOOKS = re.compile(
    r"(?:still |just |very |until )*(?:crisp|soft|pale|golden|brown|firm|dry|set)\b", re.IGNORECASE
)
_SHOULD = re.compile(
    r"\b(?:they|it|cookies|biscuits|edges|centres?)\b.*\b(?:should|will|are)\b", re.I
)
_SLICES = re.compile(r"\b(?:slice|cut)\b", re.IGNORECASE)
_LOOK = re.compile(
    r"\b(?:(?:check|look|peek|watch)(?:ing|s)?"
    r"(?: (?:on|in|at|them|it|the oven|carefully|closely)){0,3}"
    r" (?:from|after|at|in)|from|after)"
    r" (?:about |around )?(?:the )?(?P<n>\d{1,3})(?:st|nd|rd|th)? ?-?min(?:ute)?s?\b",
    re.IGNORECASE,
)
"""“Start checking after 8 minutes”, “look from 9 minutes on”."""
_TO_LOOK = re.compile(r"\b(?:check|look|peek|watch)(?:ing|s)?\b", re.IGNORECASE)
_HARD = re.compile(r"\bif (?:it|the dough)(?: is|'s)? too\b", re.IGNORECASE)
_BARE_OVEN = re.compile(
    r"(?:\b(?:at|to|oven:?|bake:?|temp(?:erature)?\.?:?)\s+|^\s*|,\s*(?=\d{3}\s+\d))"
    r"(?P<value>[12345]\d0|[12345]\d5)\b"
    r"(?!\s*(?:g|ml|mm|cm|°|º|deg|[CF]\b|gram|minutes?|mins?))",
    re.IGNORECASE,
)
USUAL_PIECE_G = 3.0
"""What a piece takes of a part that says nothing of it, in g (household practice)."""
_LONG_REST_MIN = 240.0
_WARM = re.compile(r"\b(?:room temp\w*|bench|counter|warm)\b", re.IGNORECASE)
LEAST_F = 275.0
"""A number without a unit from here on is in °F, a smaller one in °C: no oven for cookies is set
where both could be meant."""


_SURFACES: tuple[tuple[Surface, str], ...] = (
    ("bare", r"un-?greased"),
    ("silicone", r"silicone"),
    (
        "parchment",
        r"parchment|baking paper|lin(?:e|ed|ing) (?:\w+ ){0,4}(?:sheets?|trays?|with paper)"
        r"|paper[- ]lined",
    ),
    ("greased", r"(?:greased?|buttered|oiled) (?:\w+ ){0,3}(?:sheets?|trays?)"),
)
_COLOURS: tuple[tuple[Colour, str], ...] = (
    ("brown", r"deep(?:ly)? (?:golden|brown)|well browned|dark(?:er)? (?:golden|brown)"),
    (
        "pale",
        r"pale|barely (?:coloured|colored)|just (?:coloured|colored|beginning)|blond"
        r"|(?:stay|still|be) white|not (?:brown|colou?r)",
    ),
    ("golden", r"golden|lightly brown(?:ed)?|light brown"),
)
_DONE: tuple[tuple[Doneness, str], ...] = (
    (
        "soft_centre",
        r"(?:still )?(?:very )?soft (?:in|at) the (?:cent(?:re|er)|middle)|underdone|gooey"
        r"|(?:cent(?:re|er)s?|middles?) (?:\w+ ){0,3}(?:soft|underdone|gooey|wet)",
    ),
    ("chewy", r"still soft|chewy|soft when|stay soft"),
    ("dry", r"(?:quite |completely )?dry|hard all through"),
    ("crisp", r"crisp"),
    ("set", r"(?:just |until )?(?:set|firm)\b"),
)


@dataclass(frozen=True, slots=True)
class CardSays(Sizes):
    """What the card says; None where it says nothing. Times in minutes, lengths in mm, °C as the
    card's own setting (`fan`: of a fan oven), `oven` as it is written there, `oven_in_f` in °F
    where that is (also) written; `oven_guessed` where its scale is not. `asked` are fields that
    wait for an answer.

    `bake_within_min` is how long after mixing it has to be in the oven; `look_min` is from when on
    it says to look; `surface` is what lies on the sheet; `of_eggs` says
    that lines are weighed by the eggs.
    """

    oven: str = ""
    oven_c: float | None = None
    oven_in_f: float | None = None
    fan: bool = False
    oven_guessed: bool = False
    oven_asked: bool = False
    minutes: Range | None = None
    bake_within_min: float | None = None
    look_min: float | None = None
    second_minutes: Range | None = None
    second_oven_c: float | None = None
    chill_min: Range | None = None
    rest_min: Range | None = None
    wait_min: Range | None = None
    setting_min: Range | None = None
    cool_before_slicing_min: Range | None = None
    surface: Surface | None = None
    of_eggs: bool = False
    doneness: Doneness | None = None
    colour: Colour | None = None
    asked: tuple[str, ...] = ()


def left_in_the_cold(minutes: float, text: str) -> bool:
    """Whether a dough that is left for so long is left in the cold: where the card does not say
    that it is elsewhere."""
    return minutes >= _LONG_REST_MIN and not _WARM.search(text)


def says_of(card: Card) -> CardSays:
    """What a card says beside its lines."""
    eggs = any(line.unit in RATIO_UNITS for line in card.lines)
    texts = tuple(step.text for step in card.steps[:MOST_STEPS])
    return _says(texts, card.stated_oven, card.stated_pieces, card.stated_width_mm, eggs)


@lru_cache(maxsize=512)
def _says(
    texts: tuple[str, ...],
    stated_oven: str,
    stated_pieces: int | None,
    stated_width_mm: float | None,
    of_eggs: bool,
) -> CardSays:
    """The same from all that it rests on. Every screen asks it anew, so the latest are kept."""
    sentences = [part for text in texts for part in _SENTENCE.split(text) if part.strip()]
    told = [plain_text(part) for part in sentences]
    oven = _oven([stated_oven, *_of_oven(sentences)])
    bakes = [n for n, text in enumerate(told) if _is_bake(text)]
    first = bakes[0] if bakes else len(told)
    times: dict[str, Any] = {**_times(told, first)}
    if stated := _range(stated_oven):
        times.setdefault("minutes", stated)
    # “They should stay pale” may stand behind the sentence that bakes them.
    judged = [told[n] for n in bakes]
    judged += [
        t for n in bakes for t in told[n + 1 : n + 2] if _SHOULD.search(t) or _LOOKS.match(t)
    ]
    return CardSays(
        **values_of(_Oven, oven),
        second_oven_c=_second_oven(told, first),
        **values_of(Sizes, find_sizes(told, stated_pieces, stated_width_mm)),
        surface=first_said(_SURFACES, told),
        of_eggs=of_eggs,
        doneness=first_said(_DONE, judged),
        colour=first_said(_COLOURS, judged),
        bake_within_min=until_oven_min(told, first),
        look_min=_look_min(told[first:]),
        asked=("oven",) if oven.oven_asked else (),
        **times,
    )


def _each_g(kind: PartKind, said: float | None) -> float:
    """What a piece takes of a part."""
    if said is not None:
        return said
    return 0.0 if kind == "bench" else USUAL_PIECE_G


def card_of(read: ReadCard, name: str, pieces: int | None = None) -> Card:
    """A card that was read, as a dough; `pieces` where the yield is known from elsewhere."""
    steps = [step.text for step in read.steps]
    parts = tuple(
        Part(
            p.kind,
            p.name,
            tuple(line.line for line in p.lines),
            _each_g(p.kind, p.each_g),
        )
        for p in read.parts
    )
    return Card(
        name=name,
        family=guess_family([name, *steps]),
        mixing=guess_mixing(steps),
        lines=tuple(line.line for line in read.lines),
        steps=read.steps,
        parts=parts,
        stated_pieces=pieces or read.stated_pieces,
        stated_width_mm=read.stated_width_mm,
        stated_oven=read.stated_oven[:500],
        note="\n".join(read.notes)[:5000],
    )


@dataclass(frozen=True, slots=True)
class _Setting:
    """One setting in all the ways that a text says it; `written` as it stands there."""

    ways: Sequence[Temperature]
    written: str
    guessed: bool = False


def _settings(texts: Iterable[str]) -> Iterator[_Setting]:
    """The oven's settings in order, a number without a unit by what it can be."""
    for text in texts:
        groups = find_temperatures(text)
        for ways in groups:
            yield _Setting(ways, text[ways[0].start : ways[-1].end].strip())
        if not groups and (bare := _BARE_OVEN.search(plain_text(text))):
            value = float(bare["value"])
            scale: Literal["C", "F"] = "F" if value >= LEAST_F else "C"
            way = Temperature(value, scale, False, bare.start(), bare.end())
            yield _Setting([way], bare["value"], guessed=True)


def _second_oven(told: Sequence[str], first: int) -> float | None:
    """The setting for the second bake, in °C, where the card gives it one of its own."""
    for text in told[first + 1 :]:
        if _is_bake(text) and _AGAIN.search(text):
            return next((round(one.ways[0].celsius, 2) for one in _settings([text])), None)
    return None


def _agree(one: float, other: float) -> bool:
    return abs(one - other) <= 10


@dataclass(frozen=True, slots=True)
class _Oven:
    oven: str = ""
    oven_c: float | None = None
    oven_in_f: float | None = None
    fan: bool = False
    oven_guessed: bool = False
    oven_asked: bool = False


def _oven(texts: Sequence[str]) -> _Oven:
    """The oven's setting as the card says it first; asked where its ways of saying it leave open
    which is meant."""
    said = next(_settings(texts), None)
    if said is None:
        return _Oven()
    still = [one for one in said.ways if not one.fan]
    used = (still or said.ways)[0]
    celsius = next((one.value for one in still if one.scale == "C"), used.celsius)
    open_ = any(not _agree(celsius, one.celsius) for one in still) or not possible(celsius)
    in_f = next((one.value for one in said.ways if one.scale == "F"), None)
    return _Oven(said.written, round(celsius, 2), in_f, not still, said.guessed, open_)


def _of_oven(sentences: Sequence[str]) -> list[str]:
    """The sentences that may tell the oven's setting, those that bake or heat it first: a syrup or
    a bowl over hot water has a temperature as well, and nuts are toasted at one."""
    others = [text for text in sentences if not _TOASTS.search(text)]
    sure = [text for text in others if _is_bake(plain_text(text)) or _HEATS.search(text)]
    rest = [
        text
        for text in others
        if text not in sure and any(is_of_oven(ways, text) for ways in find_temperatures(text))
    ]
    return [*sure, *rest]


def _is_bake(text: str) -> bool:
    """Whether a sentence tells to bake: not how hot the oven is to be before."""
    if _TOASTS.search(text) or only_says_how_long(text):
        return False
    if _HEATS.search(text) and not find_durations(text):
        return False
    if _TIMED.match(text) or (_BARE_OVEN.search(text) and find_durations(text)):
        return True
    return bool(_BAKES.search(text)) or bool(find_temperatures(text) and find_durations(text))


def _range(text: str) -> Range | None:
    found = find_durations(text)
    return (found[0].low, found[0].high) if found else None


def _look_min(told: Sequence[str]) -> float | None:
    """From which minute on the card says to look into the oven."""
    looks = (_LOOK.search(text) for text in told if _TO_LOOK.search(text))
    return next((float(found["n"]) for found in looks if found and float(found["n"])), None)


def _times(told: Sequence[str], first: int) -> dict[str, Range]:
    """Minutes in the oven, in the cold, on the sheet, on the bench, to set: each by the words of
    its sentence and by whether it stands before the bake or after."""
    found: dict[str, Range] = {}

    def keep(what: str, time: Range | None) -> None:
        if time is not None:
            found.setdefault(what, time)

    for n, text in enumerate(told):
        if _TOASTS.search(text):
            continue
        time = _range(text)
        if _is_bake(text):
            again = n > first and _AGAIN.search(text)
            if again and time is not None and _A_SIDE.search(text):
                time = (2 * time[0], 2 * time[1])
            keep("second_minutes" if again else "minutes", time)
        elif _CHILLS.search(text):
            keep("chill_min", time)
        elif n > first and _SETS.search(text):
            keep("setting_min", time)
        elif n > first and _RESTS.search(text):
            next_slices = n + 1 < len(told) and _SLICES.search(told[n + 1]) is not None
            cuts = _SLICES.search(text) is not None or next_slices
            keep("cool_before_slicing_min" if cuts else "rest_min", time)
        elif n < first and _RESTS.search(text) and not _HARD.search(text):
            cold = time is not None and left_in_the_cold(time[0], text)
            keep("chill_min" if cold else "wait_min", time)
    return found
