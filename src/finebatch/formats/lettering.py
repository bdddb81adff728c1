"""A line of text in any script, shaped and set in fonts that ship with the application.

Lines are drawn as outlines, so that they look the same wherever a file is opened. Lengths are in
ems (the font's size), y counts upwards.
"""

import unicodedata
from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import groupby
from typing import Any, Literal

from finebatch.facts.typefaces import FontFile, font_files, open_font

MISSING = "\ufffd"
"""Stands for a letter that no font has."""
MORE = "…"
REGULAR = {"wght": 400.0}
LINES_KEPT = 256
PLAIN, SHAPED_FROM = "noto-sans", "\u0590"
"""The family of plain letters, and the first that no script without shaping has."""

Direction = Literal["ltr", "rtl"]


@dataclass(frozen=True, slots=True)
class Run:
    """Letters of one font in one direction: their outlines as pen strokes, in units of which `em`
    make one, and how far they take the line."""

    text: str
    font: FontFile
    direction: Direction
    strokes: tuple[tuple[str, tuple[Any, ...]], ...]
    em: int
    advance: float

    @property
    def is_plain(self) -> bool:
        """Letters that stand side by side as they are in a font whose usual weight is regular."""
        return (
            self.font.family == PLAIN
            and not any(map(_joins, self.text))
            and max(self.text) < SHAPED_FROM
        )

    def draw(self, pen: Any) -> None:
        """Its outlines, drawn by a pen of fontTools."""
        for name, points in self.strokes:
            getattr(pen, name)(*points)


@dataclass(frozen=True, slots=True)
class Line:
    """Runs from left to right."""

    runs: tuple[Run, ...]

    @property
    def width(self) -> float:
        """In ems."""
        return sum(run.advance for run in self.runs)


@lru_cache(LINES_KEPT)
def set_line(text: str) -> Line:
    """A line of text, as it is read in its script."""
    pieces = list(_pieces(" ".join(text.split())))
    runs = [_shaped(*piece) for piece in pieces]
    return Line(tuple(_in_order(runs, _base(text))))


def cut(text: str, width: float) -> str:
    """The text, or as much of it as fits in so many ems, with an ellipsis for the rest."""
    text = " ".join(text.split())
    if set_line(text).width <= width:
        return text
    ends = [end for end in range(1, len(text)) if not _joins(text[end])]

    def shorter(end: int) -> str:
        return text[:end].rstrip() + MORE

    fitting = bisect_right(ends, width, key=lambda end: set_line(shorter(end)).width)
    return shorter(ends[fitting - 1]) if fitting else MORE


def _direction(letter: str) -> Direction | None:
    match unicodedata.bidirectional(letter):
        case "L" | "EN":
            return "ltr"
        case "R" | "AL" | "AN":
            return "rtl"
        case _:
            return None


def _base(text: str) -> Direction:
    """The direction of a whole line: that of its first letter that has one."""
    return next((way for letter in text if (way := _direction(letter))), "ltr")


def _joins(letter: str) -> bool:
    """A mark, joiner or variant that belongs to the letter before it."""
    return unicodedata.category(letter) in ("Mn", "Mc", "Me", "Cf") or "🏻" <= letter <= "🏿"


def _font_of(letter: str, last: FontFile | None) -> FontFile | None:
    """The font of a letter, the one before it where that has it too."""
    fonts: Sequence[FontFile] = (last, *font_files()) if last else font_files()
    for font in fonts:
        if font.may_have(letter) and ord(letter) in open_font(font.file)[1]:
            return font
    return None


def _pieces(text: str) -> Iterator[tuple[str, FontFile, Direction]]:
    """Letters that are set in one go: those that follow each other in one font and direction."""
    placed: list[tuple[str, FontFile, Direction]] = []
    font: FontFile | None = None
    for letter, way in zip(text, _ways(text), strict=True):
        own = font if _joins(letter) and font else _font_of(letter, font)
        font = own or _font_of(MISSING, font)
        if font:
            placed.append((letter if own else MISSING, font, way))
    for (font, way), piece in groupby(placed, key=lambda one: one[1:]):
        yield "".join(letter for letter, _, _ in piece), font, way


def _ways(text: str) -> Sequence[Direction]:
    """The direction of each letter."""
    strong = [_direction(letter) for letter in text]
    base = _base(text)
    ways: list[Direction] = []
    for n, way in enumerate(strong):
        before = ways[-1] if ways else base
        after = next((w for w in strong[n:] if w), base)
        ways.append(way or (before if before == after else base))
    return ways


def _in_order(runs: Sequence[Run], base: Direction) -> Iterator[Run]:
    """The runs as they stand on paper, from left to right."""
    if base == "rtl":
        return _turned(list(runs)[::-1], "ltr")
    return _turned(runs, "rtl")


def _turned(runs: Sequence[Run], way: Direction) -> Iterator[Run]:
    """The runs with those of that direction that stand together the other way round."""
    together: list[Run] = []
    for run in runs:
        if run.direction == way:
            together.insert(0, run)
            continue
        yield from together
        together = []
        yield run
    yield from together


def _shaped(text: str, font: FontFile, direction: Direction) -> Run:
    import uharfbuzz as hb  # takes time to load
    from fontTools.pens.recordingPen import RecordingPen
    from fontTools.pens.transformPen import TransformPen

    face = hb.Face(open_font(font.file)[0])
    made = hb.Font(face)
    made.set_variations(REGULAR)
    letters = hb.Buffer()
    letters.add_str(text)
    letters.guess_segment_properties()
    letters.direction = direction
    hb.shape(made, letters)
    strokes, x = RecordingPen(), 0
    for glyph, place in zip(letters.glyph_infos, letters.glyph_positions, strict=True):
        at = (1, 0, 0, 1, x + place.x_offset, place.y_offset)
        made.draw_glyph_with_pen(glyph.codepoint, TransformPen(strokes, at))
        x += place.x_advance
    return Run(text, font, direction, tuple(strokes.value), face.upem, x / face.upem)
