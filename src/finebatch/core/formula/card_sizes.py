"""What the sentences of a card say of sizes and counts: pieces, portions, cutters, logs, pans."""

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal, TypeVar

from finebatch.core.measures.durations import mixed_number

Worked = Literal["ball", "left", "tapped", "pressed", "dented"]
"""What hands do to a dropped piece."""
Word = TypeVar("Word", bound=str)

WIDEST_LOG_MM = 150.0
"""What is longer than this of a log is its length."""


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
_SO_MANY_G = r"(?P<low>\d{1,3}(?:[.,]\d)?)(?:\s*(?:[-–—]|to)\s*(?P<high>\d{1,3}))?\s*(?:g|grams?)\b"
_EACH_G = re.compile(
    rf"{_SO_MANY_G}"
    r"(?:\s*(?:each|a piece|apiece|per|balls?|pieces|portions?|heaps?|mounds?|dollops?|drops?))",
    re.IGNORECASE,
)
_OF_G = re.compile(
    r"\b(?:balls?|heaps?|mounds?|pieces|portions?|(?:tea|table)?spoon(?:ful)?s?|scoops?|drops|"
    r"dollops?|lumps?)\s*(?:of|at|weighing|\(|,)\s*(?:about |around |ca\.? )?"
    rf"{_SO_MANY_G}(?=\s*(?:[.,;:)]|$|(?:and|on|onto|in|into|well|to|at|with|spaced|apart|then)\b))",
    re.IGNORECASE,
)
"""“Heaps of 15 g”, “balls (about 30 g)”: not “pieces of 10 g chocolate”."""
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
_HOT = re.compile(
    r"\b(?:curl|curve|drape|bend|mou?ld)\w*\b(?=.*\b(?:hot|warm|once|immediately|pin|handle|cone|"
    r"glass|cup|bowl)\b)|\b(?:over|a?round) (?:a|the) (?:\w+ ){0,2}(?:rolling pin|handle|cone|"
    r"glass|bottle|cup)\b",
    re.IGNORECASE,
)
"""What is shaped once it is out of the oven, while it is soft."""
_SPREAD = re.compile(r"\b(?:spread|smear|smooth)(?! apart| out in the oven)", re.IGNORECASE)
_SPREAD_G = re.compile(r"\b(\d{1,2}(?:[.,]\d)?)\s*g\b", re.IGNORECASE)
_SCORED = re.compile(
    r"\bscor(?:e|es|ed|ing)\b|(?<!gas )(?<!gas-)\bmark(?:s|ed|ing)?\b(?! \d)|"
    r"\b(?:cut|re-?cut)\b.*\bwhile\b.*\b(?:hot|warm)\b",
    re.IGNORECASE,
)
_TO_SLAB = re.compile(r"\b(?:roll|pat|press|flatten)\w*\b", re.IGNORECASE)
_CUTS = re.compile(r"\b(?:cut|stamp)\b", re.IGNORECASE)
_CUTTER = re.compile(r"\b(?:cut|cutters?|stamp)\b", re.IGNORECASE)
CutterOutline = Literal["hexagon", "star", "heart", "leaf"]
_OUTLINES: Mapping[str, CutterOutline] = {
    "hexagon": "hexagon",
    "star": "star",
    "heart": "heart",
    "leaf": "leaf",
    "leave": "leaf",
}
_OUTLINE = re.compile(r"\b(?P<outline>hexagon|star|heart|leaf|leave)(?:s|al)?\b", re.IGNORECASE)
_TRIM = re.compile(r"\b(?:trim|neaten|straighten|square (?:up|off))\w*\b", re.IGNORECASE)
MOST_BARE_IN = 17.0
"""Sides without a unit are in inches under this, else in cm."""
_TIN = re.compile(r"\b(?:tin|pan|dish|mould|mold)\b", re.IGNORECASE)
_PAN = re.compile(rf"{_length()}[^.;]{{0,20}}{_TIN.pattern}", re.IGNORECASE)
_OF_SOMETHING_ELSE = re.compile(
    r"\s*(?:thick|deep|high|long|apart|logs?|rolls?|cutters?|balls?|scoops?|tin|pan|slab)\b", re.I
)
_YIELDED = re.compile(rf"\d[^.;]*?\b{_length()}", re.IGNORECASE)
"""A count, and how wide each is: “36 of 3 inches”, “24 (8 cm) cookies”."""
_COMES_OUT = re.compile(
    rf"(?:\b(?:they|cookies|biscuits|each|it)\b[^.;]{{0,30}}?\b(?:spread|bake|come out|measure|be)"
    rf"(?: out)?(?: to)?|\bbaked(?: size| width| across)?:?(?: they are)?)"
    rf"\s+(?:(?:about|around|roughly|some)\s+)?{_length()}"
    rf"|{_length('2')}\s+(?:across|wide|in diameter)\s+(?:when|once|after)\s+(?:they are |it is )?"
    rf"bak",
    re.IGNORECASE,
)
"""How wide a piece is said to come out: “they spread to about 8 cm”, “7 cm across when baked”."""


@dataclass(frozen=True, slots=True)
class Sizes:
    """What a card says of sizes, lengths in mm; None where it says nothing.

    Of a piece it may say its mass, a spoon or scoop (`spoon_ml`, level or `heaped`), a ball's
    width (`ball_about` where it is likened to something) or what is done to it (`shape`); of a pan
    its inner size, or that it is round. A cutter with two sides is a rectangle. Of what is
    spread flat it may say how much (by mass or spoon) and how wide, and that it is `shaped_hot`.
    A slab that is scored and baked in one has its two sides, and may be `trimmed`; `baked_mm` is
    how wide a piece comes out. `rolled_mm` and `rolled_down_mm` are a rectangle to cut pieces from.
    """

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
    spread_mm: float | None = None
    spread_g: float | None = None
    spread_ml: float | None = None
    shaped_hot: bool = False
    slab_mm: float | None = None
    slab_down_mm: float | None = None
    trimmed: bool = False
    baked_mm: float | None = None
    cutter_outline: CutterOutline | None = None
    rolled_mm: float | None = None
    rolled_down_mm: float | None = None


def find_sizes(
    told: Sequence[str], stated_pieces: int | None, stated_width_mm: float | None = None
) -> Sizes:
    """Lengths and counts of plain sentences, by what they are said of; the yield that the card
    states, and how wide it says that a piece bakes, go before."""
    found = Sizes(stated_pieces, baked_mm=stated_width_mm)
    for text in told:
        for look in (
            _of_baked,
            _of_yield,
            _of_cutter,
            _of_hands,
            _of_logs,
            _of_thickness,
            _of_pan,
            _of_wafer,
        ):
            found = look(found, text)
    return _of_rectangle(_of_slab(found, told), told)


def first_said(table: Sequence[tuple[Word, str]], texts: Iterable[str]) -> Word | None:
    """The first of a table's meanings whose words stand in any of the texts."""
    said = " ".join(texts)
    return next((key for key, words in table if re.search(rf"\b(?:{words})", said, re.I)), None)


def _mm(low: str, high: str | None, unit: str) -> float:
    written = unit.casefold()
    size = 25.4 if written[0] in 'i"”' else 1.0 if written.startswith(("mm", "millim")) else 10.0
    value = mixed_number(low)
    return size * (value if high is None else (value + mixed_number(high)) / 2)


def _length_of(match: re.Match[str]) -> float:
    """The length in a match, in mm: its first one, or where that is not there, its second."""
    n = "" if match["low"] or "low2" not in match.re.groupindex else "2"
    return _mm(match[f"low{n}"], match[f"high{n}"], match[f"unit{n}"])


def _spoon_ml(spoon: re.Match[str]) -> float:
    """What the spoons or the scoop in a match hold, level."""
    one = next(ml for words, ml in _SPOONS if re.match(words, spoon["spoon"], re.IGNORECASE))
    return one * mixed_number(spoon["n"] or "1")


def yielded_mm(text: str) -> float | None:
    """How wide a baked piece is in what tells the yield: “makes 36 of 3 inches”, in mm."""
    said = _YIELDED.search(text)
    if said is None or _OF_SOMETHING_ELSE.match(text[said.end() :].lstrip("-")):
        return None
    if _LOG_WORDS.search(said[0]) or _TIN.search(said[0]):
        return None
    return _length_of(said)


def _of_baked(found: Sizes, text: str) -> Sizes:
    if found.baked_mm is not None:
        return found
    if (makes := _MAKES.match(text)) and (wide := yielded_mm(text[makes.start("n") :])):
        return replace(found, baked_mm=round(wide, 1))
    said = _COMES_OUT.search(text)
    if said is None or _OF_SOMETHING_ELSE.match(text[said.end() :].lstrip(" -")):
        return found
    return replace(found, baked_mm=round(_length_of(said), 1))


def _of_yield(found: Sizes, text: str) -> Sizes:
    piece_g, pieces = found.piece_g, found.pieces
    if piece_g is None and (each := _EACH_G.search(text) or _OF_G.search(text)):
        low = float(each["low"].replace(",", "."))
        piece_g = (low + float(each["high"])) / 2 if each["high"] else low
    if pieces is None and (makes := _MAKES.match(text)):
        count = int(makes["n"]) * (12 if makes["dozen"] else 1)
        pieces = count if count > 1 else None
    if pieces is None and (shared := _DIVIDE.search(text)) and not _LOGS.search(text):
        pieces = int(shared["n"]) if int(shared["n"]) > 3 else None
    return replace(found, piece_g=piece_g, pieces=pieces)


def _of_cutter(found: Sizes, text: str) -> Sizes:
    outline = _OUTLINE.search(text)
    if found.cutter_outline is None and outline and _CUTTER.search(text):
        singular = outline["outline"].casefold()
        found = replace(found, cutter_outline=_OUTLINES[singular])
    cuts = _CUTS.search(text)
    if found.cutter_mm is not None or not cuts or re.search(r"\bslic", text, re.IGNORECASE):
        return found
    # “Roll to 28 by 11 cm and cut into fingers”: the rectangle is not the cutter.
    sides = _SIDES.search(text)
    if sides and sides.end() < cuts.start() and _TO_SLAB.search(text[: sides.start()]):
        text = text[sides.end() :]
        cuts = _CUTS.search(text) or cuts
    square = re.search(r"\bsquares?\b", text, re.IGNORECASE) is not None
    found = replace(found, square_cutter=square)
    if (sides := _SIDES.search(text)) and sides["unit"]:
        across, down = (_mm(sides[side], None, sides["unit"]) for side in ("across", "down"))
        return replace(found, cutter_mm=across, cutter_down_mm=down)
    sizes = sorted(_ANY_LENGTH.finditer(text), key=lambda size: size.start() < cuts.start())
    for size in sizes:
        after = text[size.end() : size.end() + 12].lstrip()
        if not after.casefold().startswith(("thick", "deep", "high", "slice")):
            return replace(found, cutter_mm=_length_of(size))
    return found


def _of_hands(found: Sizes, text: str) -> Sizes:
    """What hands do to a dropped piece, and with what spoon or scoop."""
    if found.shape is None:
        found = replace(found, shape=first_said(_WORKED, [text]))
    if found.ball_mm is None and (ball := _BALL.search(text)):
        found = replace(found, ball_mm=_length_of(ball))
    elif found.ball_mm is None and _WALNUT.search(text):
        found = replace(found, ball_mm=WALNUT_MM, ball_about=True)
    portions = _PORTIONS.search(text) or _SPOONED.match(text)
    if found.spoon_ml is None and portions and (spoon := _SPOON.search(text)):
        return replace(
            found,
            spoon_ml=_spoon_ml(spoon),
            heaped=spoon["heaped"] is not None,
            by_spoon="scoop" not in text.casefold(),
        )
    return found


def _of_logs(found: Sizes, text: str) -> Sizes:
    if not _LOG_WORDS.search(text):
        return found
    if logs := _LOGS.search(text):
        found = replace(found, logs=found.logs or int(logs["n"]))
    elif found.logs is None and re.search(r"\b(?:1|a|the) log\b", text, re.IGNORECASE):
        found = replace(found, logs=1)
    for size in _ANY_LENGTH.finditer(text):
        after = text[size.end() : size.end() + 10].lstrip(" -").casefold()
        length = _length_of(size)
        if after.startswith("long") or (length > WIDEST_LOG_MM and not after.startswith("wide")):
            found = replace(found, log_length_mm=found.log_length_mm or length)
        elif not after.startswith("slice"):
            found = replace(found, log_mm=found.log_mm or length)
    return found


def _of_thickness(found: Sizes, text: str) -> Sizes:
    """How thick dough is rolled, or slices are cut."""
    thick = None if _LOG_WORDS.search(text) else _THICK.search(text)
    if found.thickness_mm is None and thick:
        size = _length_of(thick)
        if re.search(r"\bslic(?:e|ed|es)\b", text, re.IGNORECASE):
            found = replace(found, slice_mm=found.slice_mm or size)
        else:
            found = replace(found, thickness_mm=size)
    if found.slice_mm is None and (sliced := _SLICED.search(text)):
        found = replace(found, slice_mm=_length_of(sliced))
    return found


def _of_pan(found: Sizes, text: str) -> Sizes:
    """How large the tin is that a sentence speaks of; a pair of bare numbers is in inches."""
    if found.pan_mm is not None or not _TIN.search(text):
        return found
    if sides := _SIDES.search(text):
        unit = sides["unit"] or "in"
        across, down = (_mm(sides[side], None, unit) for side in ("across", "down"))
        return replace(found, pan_mm=across, pan_down_mm=down)
    if pan := _PAN.search(text):
        is_round = re.search(r"\bround\b", text, re.IGNORECASE) is not None
        return replace(found, pan_mm=_length_of(pan), pan_round=is_round)
    return found


def _of_slab(found: Sizes, told: Sequence[str]) -> Sizes:
    """The rectangle that dough is rolled to, where it is scored and baked in one."""
    if found.pan_mm is not None or not any(_SCORED.search(text) for text in told):
        return found
    for text in told:
        sides = _SIDES.search(text)
        if sides and _TO_SLAB.search(text):
            bare = "in" if float(sides["across"].replace(",", ".")) < MOST_BARE_IN else "cm"
            lengths = (_mm(sides[side], None, sides["unit"] or bare) for side in ("across", "down"))
            across, down = sorted(lengths)
            trimmed = any(_TRIM.search(other) for other in told)
            return replace(found, slab_mm=across, slab_down_mm=down, trimmed=trimmed)
    return found


def _of_rectangle(found: Sizes, told: Sequence[str]) -> Sizes:
    """The rectangle that dough is rolled to before pieces are cut out of it."""
    if found.slab_mm is not None or found.pan_mm is not None:
        return found
    for n, text in enumerate(told):
        sides = _SIDES.search(text)
        if sides is None or not sides["unit"] or not _TO_SLAB.search(text[: sides.start()]):
            continue
        if not _LOG_WORDS.search(text) and any(map(_CUTS.search, told[n : n + 3])):
            across, down = (_mm(sides[side], None, sides["unit"]) for side in ("across", "down"))
            return replace(found, rolled_mm=across, rolled_down_mm=down)
    return found


def _of_wafer(found: Sizes, text: str) -> Sizes:
    """What is spread flat, how wide and how much of it; and that it is shaped while it is hot."""
    if _HOT.search(text):
        found = replace(found, shaped_hot=True)
    if not _SPREAD.search(text) or _COMES_OUT.search(text):
        return found
    if found.spread_g is None and (each := _SPREAD_G.search(text)):
        found = replace(found, spread_g=float(each[1].replace(",", ".")))
    if found.spread_ml is None and (spoon := _SPOON.search(text)):
        found = replace(found, spread_ml=_spoon_ml(spoon))
    for size in _ANY_LENGTH.finditer(text):
        after = text[size.end() : size.end() + 8].lstrip().casefold()
        if found.spread_mm is None and not after.startswith(("thick", "apart", "deep", "of spac")):
            found = replace(found, spread_mm=_length_of(size))
    return found
