"""What a card says beside its lines: oven, minutes, chilling, rests, sizes, pieces.

Each fact is taken from the sentence that tells of it; nothing is made up where the card is silent.
"""

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import asdict, dataclass
from functools import lru_cache
from typing import Literal, TypeVar

from finebatch.core.formula.card_text import ReadCard
from finebatch.core.formula.checks.oven import is_of_oven
from finebatch.core.formula.dough import MOST_STEPS, Card, Doneness, Part
from finebatch.core.formula.guess import guess_family, guess_mixing
from finebatch.core.measures.durations import find_durations, mixed_number
from finebatch.core.measures.spoken import plain_text
from finebatch.core.measures.temperatures import Temperature, find_temperatures
from finebatch.core.measures.units import RATIO_UNITS
from finebatch.core.values import Range

Colour = Literal["pale", "golden", "brown"]
Surface = Literal["parchment", "bare", "greased", "silicone"]
"""What a sheet is said to be."""
Worked = Literal["ball", "left", "tapped", "pressed", "dented"]
"""What hands do to a dropped piece."""
Word = TypeVar("Word", bound=str)

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
_HARD = re.compile(r"\bif (?:it|the dough)(?: is|'s)? too\b", re.IGNORECASE)
_BARE_OVEN = re.compile(
    r"(?:\b(?:at|to|oven:?|bake:?|temp(?:erature)?\.?:?)\s+|^\s*|,\s*(?=\d{3}\s+\d))(?P<value>[12345]\d0|[12345]\d5)\b(?!\s*(?:g|ml|mm|cm|°|º|deg|[CF]\b|gram|"
    r"minutes?|mins?))",
    re.IGNORECASE,
)
USUAL_PIECE_G = 3.0
"""What a piece takes of a part that says nothing of it, in g (household practice)."""
WIDEST_LOG_MM = 150.0
"""What is longer than this of a log is its length."""
LEAST_F = 275.0
"""A number without a unit from here on is in °F, a smaller one in °C: no oven for cookies is set
where both could be meant."""


def _length(n: str = "") -> str:
    """A length as a pattern; `n` tells the names of its groups apart."""
    return (
        rf"(?P<low{n}>\d{{1,3}}(?:[.,]\d{{1,2}})?(?:\s+\d/\d{{1,2}})?|\d/\d{{1,2}})"
        rf"(?:\s*(?:mm|cm|in\.?|inch(?:es)?|[\"”])?\s*(?:[-–—]|to)\s*"
        rf"(?P<high{n}>\d/\d{{1,2}}|\d{{1,3}}(?:[.,]\d{{1,2}})?))?\s*-?\s*"
        rf"(?P<unit{n}>mm|cm|millimet(?:re|er)s?|centimet(?:re|er)s?|in\b\.?|inch(?:es)?|[\"”])"
    )


_ANY_LENGTH = re.compile(_length(), re.IGNORECASE)
_THICK = re.compile(
    rf"{_length()}\s+(?:thick|deep|high)|(?:thickness of|roll(?:ed)?(?: it| the dough)?(?: out)?"
    rf"(?: to)?)\s+(?:about\s+)?{_length('2')}",
    re.IGNORECASE,
)
_EACH_G = re.compile(
    r"(?P<low>\d{1,3}(?:[.,]\d)?)(?:\s*(?:[-–—]|to)\s*(?P<high>\d{1,3}))?\s*(?:g|grams?)\b"
    r"(?:\s*(?:each|a piece|apiece|per|balls?|pieces|portions?))",
    re.IGNORECASE,
)
_LOGS = re.compile(
    r"\b(?P<n>\d{1,2})\s+(?:equal\s+|long\s+|even\s+)?(?:logs?|rolls?|sausages?|cylinders?|"
    r"loaves)\b",
    re.I,
)
_LOG_WORDS = re.compile(
    r"\b(?:logs?|(?:\d|a|an) (?:\w+ ){0,3}rolls?|rolls? (?:about|of)|sausages?|cylinders?|"
    r"loaves)\b",
    re.IGNORECASE,
)
_DIVIDE = re.compile(
    r"\b(?:divide|cut|cutting|split|portion|make|shape|form|mark|score|heap|drop|scoop|spoon|pipe|roll)"
    r"(?: (?:it|them|the dough|up|while|"
    r"still|hot|warm)){0,4}\s+(?:in(?:to)?\s+)?"
    r"(?P<n>\d{1,3})\s*(?:equal|even|pieces|balls|portions|parts|squares|bars|fingers|wedges|"
    r"mounds|heaps|drops|dollops|cookies|biscuits|rounds\b(?! of)|"
    r"\.?$|and\b)",
    re.IGNORECASE,
)
_MAKES = re.compile(
    r"(?:this )?(?:makes?|yields?|gives?|amount:?)\s+(?:about |around |ca\.? )?(?P<n>\d{1,4})\s*"
    r"(?P<dozen>doz(?:en)?\b)?",
    re.IGNORECASE,
)
_SLICED = re.compile(rf"{_length()}[ -]*(?:thick )?slices?\b", re.IGNORECASE)
_SIDES = re.compile(
    r"(?P<across>\d{1,3}(?:[.,]\d)?)\s*(?:mm|cm|in(?:ch(?:es)?)?|[\"”])?[- ]*(?:x|×|by)[- ]*"
    r"(?P<down>\d{1,3}(?:[.,]\d)?)[- ]*(?P<unit>mm|cm|in(?:ch(?:es)?)?\b|[\"”])?",
    re.IGNORECASE,
)
_WORKED: tuple[tuple[Worked, str], ...] = (
    ("dented", r"dent|thumbprint|(?:press|make|push) (?:a |your )?(?:thumb|hollow|well|hole)"),
    ("pressed", r"(?:flatten|press(?:ed)?|squash) (?:\w+ ){0,5}to (?:about )?\d"),
    (
        "tapped",
        r"flatten(?:ed)?\b|(?:press|tap|push)\w* (?:\w+ ){0,3}(?:slightly|lightly|gently|a little|"
        r"down|flat|with)|(?:slightly|lightly|gently) press|tap (?:the|each|them)",
    ),
    ("ball", r"(?:roll|shape|form)(?:ed)? (?:[\w/½¼¾-]+ ){0,7}balls?"),
    (
        "left",
        r"drop(?:ped)? (?:\w+ ){0,4}(?:by|from|spoon|heap|mound|tablesp|teasp)"
        r"|(?:spoon|heap|mound)\w* (?:\w+ ){0,3}(?:on|onto)|(?:table|tea)spoons? on",
    ),
)
_BALL = re.compile(
    rf"{_length()}[- ]*(?:balls?|rounds of dough)|balls? (?:of |about |around )*(?:about )?"
    rf"{_length('2')}",
    re.IGNORECASE,
)
_WALNUT = re.compile(r"walnut[- ]?siz|size of (?:a |small )*walnut|\bwalnuts of dough", re.I)
WALNUT_MM = 30.0
"""A walnut is about so wide (household practice)."""
_PORTIONS = re.compile(
    r"\b(?:scoop|drop|spoon|ball|mound|heap|roll|portion|shape)\w*", re.IGNORECASE
)
_SPOONED = re.compile(
    r"(?:(?:heaped|heaping|level|rounded|small|large)\s+)?(?:table|tea|dessert)[- ]?"
    r"spoon(?:ful)?s\s+on",
    re.IGNORECASE,
)
"""“Tablespoons onto lined trays”."""
_SPOONS: tuple[tuple[str, float], ...] = (
    (r"(?:table|tb?l?sp)", 15.0),
    (r"(?:tea|tsp)", 5.0),
    (r"dessert", 10.0),
    (r"cup", 240.0),
    (r"ml", 1.0),
)
_SPOON = re.compile(
    r"(?:(?P<n>\d/\d|\d{1,2}(?:\.\d)?(?:\s\d/\d)?)\s*-?\s*)?(?P<heaped>(?:heap(?:ed|ing)|rounded|"
    r"generous)\s+)?(?:level\s+)?(?P<spoon>(?:table|tea|dessert)[- ]?spoon|tbsp|tsp|cup|ml)"
    r"(?:ful)?s?\b",
    re.IGNORECASE,
)
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
_TIN = re.compile(r"\b(?:tin|pan|dish|mould|mold)\b", re.IGNORECASE)
_PAN = re.compile(rf"{_length()}[^.;]{{0,20}}{_TIN.pattern}", re.IGNORECASE)
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
class CardSays:
    """What the card says; None where it says nothing. Times in minutes, lengths in mm, °C as the
    card's own setting (`fan`: of a fan oven), `oven` as it is written there; `oven_guessed` where
    its scale is not. `asked` are fields that wait for an answer.

    Of a piece it may say its mass, a spoon or scoop (`spoon_ml`, level or `heaped`), a ball's
    width (`ball_about` where it is likened to something) or what is done to it (`shape`); of a pan
    its inner size, or that it is round; of the sheet what lies on it. A cutter with two sides is a
    rectangle.
    """

    oven: str = ""
    oven_c: float | None = None
    fan: bool = False
    oven_guessed: bool = False
    oven_asked: bool = False
    minutes: Range | None = None
    second_minutes: Range | None = None
    second_oven_c: float | None = None
    chill_min: Range | None = None
    rest_min: Range | None = None
    wait_min: Range | None = None
    setting_min: Range | None = None
    cool_before_slicing_min: Range | None = None
    pieces: int | None = None
    piece_g: float | None = None
    thickness_mm: float | None = None
    cutter_mm: float | None = None
    slice_mm: float | None = None
    logs: int | None = None
    log_mm: float | None = None
    log_length_mm: float | None = None
    pan_mm: float | None = None
    pan_down_mm: float | None = None
    pan_round: bool = False
    spoon_ml: float | None = None
    heaped: bool = False
    ball_mm: float | None = None
    ball_about: bool = False
    shape: Worked | None = None
    by_spoon: bool = False
    square_cutter: bool = False
    cutter_down_mm: float | None = None
    surface: Surface | None = None
    of_eggs: bool = False
    doneness: Doneness | None = None
    colour: Colour | None = None
    asked: tuple[str, ...] = ()


def says_of(card: Card) -> CardSays:
    """What a card says beside its lines."""
    eggs = any(line.unit in RATIO_UNITS for line in card.lines)
    texts = tuple(step.text for step in card.steps[:MOST_STEPS])
    return _says(texts, card.stated_oven, card.stated_pieces, eggs)


@lru_cache(maxsize=512)
def _says(
    texts: tuple[str, ...], stated_oven: str, stated_pieces: int | None, of_eggs: bool
) -> CardSays:
    """The same from all that it rests on. Every screen asks it anew, so the latest are kept."""
    sentences = [part for text in texts for part in _SENTENCE.split(text) if part.strip()]
    told = [plain_text(part) for part in sentences]
    oven = _oven([stated_oven, *_of_oven(sentences)])
    bakes = [n for n, text in enumerate(told) if _is_bake(text)]
    first = bakes[0] if bakes else len(told)
    times = _times(told, first)
    if stated := _range(stated_oven):
        times.setdefault("minutes", stated)
    # “They should stay pale” may stand behind the sentence that bakes them.
    judged = [told[n] for n in bakes]
    judged += [
        t for n in bakes for t in told[n + 1 : n + 2] if _SHOULD.search(t) or _LOOKS.match(t)
    ]
    return CardSays(
        **asdict(oven),
        second_oven_c=_second_oven(told, first),
        **asdict(_sizes(told, stated_pieces)),
        surface=_first(_SURFACES, told),
        of_eggs=of_eggs,
        doneness=_first(_DONE, judged),
        colour=_first(_COLOURS, judged),
        asked=("oven",) if oven.oven_asked else (),
        minutes=times.get("minutes"),
        second_minutes=times.get("second_minutes"),
        chill_min=times.get("chill_min"),
        rest_min=times.get("rest_min"),
        wait_min=times.get("wait_min"),
        setting_min=times.get("setting_min"),
        cool_before_slicing_min=times.get("cool_before_slicing_min"),
    )


def card_of(read: ReadCard, name: str, pieces: int | None = None) -> Card:
    """A card that was read, as a dough; `pieces` where the yield is known from elsewhere."""
    steps = [step.text for step in read.steps]
    parts = tuple(
        Part(
            p.kind,
            p.name,
            tuple(line.line for line in p.lines),
            0.0 if p.kind == "bench" else USUAL_PIECE_G,
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
        stated_oven=read.stated_oven[:500],
        note="\n".join(read.notes)[:5000],
    )


def _first(table: Sequence[tuple[Word, str]], texts: Iterable[str]) -> Word | None:
    """The first of a table's meanings whose words stand in any of the texts."""
    said = " ".join(texts)
    return next((key for key, words in table if re.search(rf"\b(?:{words})", said, re.I)), None)


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
            return next((round(one.ways[0].celsius, 1) for one in _settings([text])), None)
    return None


def _agree(one: float, other: float) -> bool:
    return abs(one - other) <= 10


@dataclass(frozen=True, slots=True)
class _Oven:
    oven: str = ""
    oven_c: float | None = None
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
    open_ = any(not _agree(celsius, one.celsius) for one in still) or not 110 <= celsius <= 245
    return _Oven(said.written, round(celsius, 1), not still, said.guessed, open_)


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
    if _TOASTS.search(text):
        return False
    if _HEATS.search(text) and not find_durations(text):
        return False
    if _TIMED.match(text) or (_BARE_OVEN.search(text) and find_durations(text)):
        return True
    return bool(_BAKES.search(text)) or bool(find_temperatures(text) and find_durations(text))


def _range(text: str) -> Range | None:
    found = find_durations(text)
    return (found[0].low, found[0].high) if found else None


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
            keep("wait_min", time)
    return found


@dataclass(slots=True)
class _Sizes:
    pieces: int | None = None
    spoon_ml: float | None = None
    heaped: bool = False
    ball_mm: float | None = None
    ball_about: bool = False
    shape: Worked | None = None
    by_spoon: bool = False
    square_cutter: bool = False
    cutter_down_mm: float | None = None
    pan_down_mm: float | None = None
    pan_round: bool = False
    piece_g: float | None = None
    thickness_mm: float | None = None
    cutter_mm: float | None = None
    slice_mm: float | None = None
    logs: int | None = None
    log_mm: float | None = None
    log_length_mm: float | None = None
    pan_mm: float | None = None


def _mm(low: str, high: str | None, unit: str) -> float:
    written = unit.casefold()
    size = 25.4 if written[0] in 'i"”' else 1.0 if written.startswith(("mm", "millim")) else 10.0
    value = mixed_number(low)
    return size * (value if high is None else (value + mixed_number(high)) / 2)


def _sizes(told: Sequence[str], stated_pieces: int | None) -> _Sizes:
    """Lengths and counts by what they are said of; the yield that the card states goes before."""
    found = _Sizes(stated_pieces)
    for text in told:
        _of_pieces(found, text)
        _of_hands(found, text)
        _of_logs(found, text)
        if (
            found.thickness_mm is None
            and not _LOG_WORDS.search(text)
            and (thick := _THICK.search(text))
        ):
            n = "" if thick["low"] else "2"
            size = _mm(thick[f"low{n}"], thick[f"high{n}"], thick[f"unit{n}"])
            if re.search(r"\bslic(?:e|ed|es)\b", text, re.IGNORECASE):
                found.slice_mm = found.slice_mm or size
            else:
                found.thickness_mm = size
        if found.slice_mm is None and (sliced := _SLICED.search(text)):
            found.slice_mm = _mm(sliced["low"], sliced["high"], sliced["unit"])
        if found.pan_mm is None and _TIN.search(text):
            _of_pan(found, text)
    return found


def _of_pan(found: _Sizes, text: str) -> None:
    """How large the tin is that a sentence speaks of; a pair of bare numbers is in inches."""
    if sides := _SIDES.search(text):
        found.pan_mm = _mm(sides["across"], None, sides["unit"] or "in")
        found.pan_down_mm = _mm(sides["down"], None, sides["unit"] or "in")
    elif pan := _PAN.search(text):
        found.pan_mm = _mm(pan["low"], pan["high"], pan["unit"])
        found.pan_round = re.search(r"\bround\b", text, re.IGNORECASE) is not None


def _of_hands(found: _Sizes, text: str) -> None:
    """What hands do to a dropped piece, and with what spoon or scoop."""
    if found.shape is None:
        found.shape = _first(_WORKED, [text])
    if found.ball_mm is None and (ball := _BALL.search(text)):
        n = "" if ball["low"] else "2"
        found.ball_mm = _mm(ball[f"low{n}"], ball[f"high{n}"], ball[f"unit{n}"])
    elif found.ball_mm is None and _WALNUT.search(text):
        found.ball_mm, found.ball_about = WALNUT_MM, True
    portions = _PORTIONS.search(text) or _SPOONED.match(text)
    if found.spoon_ml is None and portions and (spoon := _SPOON.search(text)):
        size = next(ml for words, ml in _SPOONS if re.match(words, spoon["spoon"], re.IGNORECASE))
        found.spoon_ml = size * mixed_number(spoon["n"] or "1")
        found.heaped = spoon["heaped"] is not None
        found.by_spoon = "scoop" not in text.casefold()


def _of_pieces(found: _Sizes, text: str) -> None:
    if found.piece_g is None and (each := _EACH_G.search(text)):
        low = float(each["low"].replace(",", "."))
        found.piece_g = (low + float(each["high"])) / 2 if each["high"] else low
    if found.pieces is None and (makes := _MAKES.match(text)):
        count = int(makes["n"]) * (12 if makes["dozen"] else 1)
        found.pieces = count if count > 1 else None
    if found.pieces is None and (shared := _DIVIDE.search(text)) and not _LOGS.search(text):
        found.pieces = int(shared["n"]) if int(shared["n"]) > 3 else None
    cuts = re.search(r"\b(?:cut|stamp)\b", text, re.IGNORECASE)
    if found.cutter_mm is None and cuts and not re.search(r"\bslic", text, re.IGNORECASE):
        found.square_cutter = re.search(r"\bsquares?\b", text, re.IGNORECASE) is not None
        if (sides := _SIDES.search(text)) and sides["unit"]:
            found.cutter_mm = _mm(sides["across"], None, sides["unit"])
            found.cutter_down_mm = _mm(sides["down"], None, sides["unit"])
            return
        sizes = sorted(_ANY_LENGTH.finditer(text), key=lambda size: size.start() < cuts.start())
        for size in sizes:
            after = text[size.end() : size.end() + 12].lstrip()
            if not after.casefold().startswith(("thick", "deep", "high", "slice")):
                found.cutter_mm = _mm(size["low"], size["high"], size["unit"])
                break


def _of_logs(found: _Sizes, text: str) -> None:
    if not _LOG_WORDS.search(text):
        return
    if logs := _LOGS.search(text):
        found.logs = found.logs or int(logs["n"])
    elif found.logs is None and re.search(r"\b(?:1|a|the) log\b", text, re.IGNORECASE):
        found.logs = 1
    for size in _ANY_LENGTH.finditer(text):
        after = text[size.end() : size.end() + 10].lstrip(" -").casefold()
        length = _mm(size["low"], size["high"], size["unit"])
        if after.startswith("long") or (length > WIDEST_LOG_MM and not after.startswith("wide")):
            found.log_length_mm = found.log_length_mm or length
        elif not after.startswith("slice"):
            found.log_mm = found.log_mm or length
