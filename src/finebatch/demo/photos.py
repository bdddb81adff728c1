"""Photos of the demo's bakes: drawn, so that they show nobody's kitchen.

What lies on the paper is to one scale, of the widths and the colour that the record says.
"""

import io
import math
import random
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageDraw, ImageFilter

from finebatch.core.book.pictured import Pictured
from finebatch.core.heat.colour import STRIP_RGB
from finebatch.core.piece.outlines import Lines
from finebatch.core.values import Point

SIZE_PX = (600, 400)
FINER = 2
"""Drawn so many times finer, then made smaller, that no edge has steps."""
AIR = 1.3
"""The room of a piece on the paper, for its size."""
COARSER = 4
CORNERS = 90
PAPER, SHADE, STEEL = (240, 233, 219), (104, 84, 60), (118, 123, 130)


@dataclass(frozen=True, slots=True)
class Looks:
    """What is seen of a piece beside its size: bits in it (RGB), how long (mm) and how many; how
    uneven its edge is, in parts of its size; whether the first two have run together."""

    bits: tuple[int, int, int] = (60, 34, 20)
    bit_mm: float = 0.0
    many: int = 0
    uneven: float = 0.02
    together: bool = False


def draw(widths_mm: Sequence[float], outline: Lines, colour: int, looks: Looks) -> bytes:
    """A JPEG of pieces so wide. `outline` is that of one piece 1 wide about its middle, and
    `colour` the step on the strip, from 1 to 7."""
    chance = random.Random(f"{widths_mm} {colour}")
    line = _even(outline[0]) if outline else _round()
    rows, scale = _rows(widths_mm, line, looks)
    pieces = [
        _Drawn(_body(line, middle, width * scale, looks, chance), colour)
        for middle, width in zip(rows, widths_mm, strict=True)
    ]
    return _painted(pieces, SIZE_PX, scale, looks, chance)


def draw_tray(pictured: Pictured, outline: Lines, looks: Looks) -> bytes:
    """A JPEG of a whole sheet from straight above, each piece where it lay."""
    chance = random.Random(str(pictured))
    line = _even(outline[0]) if outline else _round()
    scale = SIZE_PX[0] * FINER / pictured.wide_mm
    pieces = [
        _Drawn(
            _body(line, (one.x_mm * scale, one.y_mm * scale), one.width_mm * scale, looks, chance),
            one.step,
        )
        for one in pictured.pieces
    ]
    size = (SIZE_PX[0], round(pictured.deep_mm * scale / FINER))
    return _painted(pieces, size, scale, looks, chance)


@dataclass(frozen=True, slots=True)
class _Drawn:
    """A piece where it lies (px), and its step on the colour strip."""

    body: list[Point]
    step: float


def _painted(
    pieces: Sequence[_Drawn],
    size_px: tuple[int, int],
    scale: float,
    looks: Looks,
    chance: random.Random,
) -> bytes:
    dice = np.random.default_rng(chance.randrange(1 << 32))
    size = (size_px[0] * FINER, size_px[1] * FINER)
    whole, crust, middles = Image.new("L", size), Image.new("RGB", size), Image.new("RGB", size)
    for one in pieces:
        ImageDraw.Draw(whole).polygon(one.body, fill=255)
        ImageDraw.Draw(crust).polygon(one.body, fill=_shade(one.step), outline=_shade(one.step))
        ImageDraw.Draw(middles).polygon(one.body, fill=_shade(one.step - 2))
    reach = max(max(x for x, _ in one.body) - min(x for x, _ in one.body) for one in pieces) / 2

    picture = _mottled(Image.new("RGB", size, PAPER), 4, dice)
    shadow = Image.new("L", size)
    shadow.paste(whole, (round(reach / 9), round(reach / 7)))
    dimmed = _soft(shadow, reach / 8).point(lambda v: v * 0.55)
    picture.paste(Image.new("RGB", size, SHADE), mask=dimmed)

    # Away from its edge a piece is paler, as it stays moist there for longer.
    inside = _soft(whole, reach / 4).point(lambda v: max(v - 128, 0) * 2)
    crust.paste(middles, mask=inside)
    crust = _mottled(crust, 9, dice)
    for one in pieces:
        _put_bits(crust, one.body, looks, scale, chance)
    picture.paste(crust, mask=whole.filter(ImageFilter.GaussianBlur(FINER)))
    edge = ImageDraw.Draw(picture)
    edge.rectangle((0, 0, size[0] - 1, size[1] - 1), outline=STEEL, width=9 * FINER)
    written = io.BytesIO()
    picture.resize(size_px, Image.Resampling.LANCZOS).save(written, "JPEG", quality=84)
    return written.getvalue()


def _shade(step: float) -> tuple[int, int, int]:
    """The strip's colour at a step of it, the nearest end for what is beyond."""
    places = range(len(STRIP_RGB))
    red, green, blue = (
        round(float(np.interp(step, places, channel))) for channel in zip(*STRIP_RGB, strict=True)
    )
    return red, green, blue


def _rows(
    widths_mm: Sequence[float], line: Sequence[Point], looks: Looks
) -> tuple[list[Point], float]:
    """Where pieces of that outline lie in rows (px), and how many px a mm is."""
    size = (SIZE_PX[0] * FINER, SIZE_PX[1] * FINER)
    across, down = (max(along) - min(along) for along in zip(*line, strict=True))
    columns = min(len(widths_mm), 1 if across > 2 * down else 2 if down < 1.2 else 4)
    rows = math.ceil(len(widths_mm) / columns)
    wide, tall = (AIR * max(widths_mm) * along for along in (across, down))
    scale = min(size[0] * 0.94 / (columns * wide), size[1] * 0.92 / (rows * tall))
    found = []
    for n, width in enumerate(widths_mm):
        column, row = n % columns, n // columns
        x = size[0] / 2 + (column - (columns - 1) / 2) * wide * scale
        y = size[1] / 2 + (row - (rows - 1) / 2) * tall * scale
        if looks.together and row == 0 and columns > 1:
            x += (0.5 - column) * (wide - width * 0.95) * scale
        found.append((x, y))
    return found, scale


def _body(
    line: Sequence[Point], middle: Point, width_px: float, looks: Looks, chance: random.Random
) -> list[Point]:
    """The outline of one piece where it lies, uneven as a hand shapes it."""
    turn = chance.uniform(-0.05, 0.05)
    waves = [(k, chance.uniform(0, math.tau), chance.uniform(0.3, 1) / k) for k in range(2, 9)]
    body = []
    for u, v in line:
        at = math.atan2(v, u)
        far = 1 + looks.uneven * sum(a * math.sin(k * at + p) for k, p, a in waves)
        body.append((u * width_px * far, v * width_px * far))
    return _laid(body, middle, turn)


def _laid(line: Sequence[Point], middle: Point, turn: float) -> list[Point]:
    """A line about its own middle, turned (radians) and laid with that middle there."""
    across, up = math.cos(turn), math.sin(turn)
    x, y = middle
    return [(x + u * across - v * up, y + u * up + v * across) for u, v in line]


def _round() -> list[Point]:
    turns = [math.tau * k / CORNERS for k in range(CORNERS)]
    return [(math.cos(at) / 2, math.sin(at) / 2) for at in turns]


def _even(line: Sequence[Point]) -> list[Point]:
    """The same line with corners so close that each side can be uneven."""
    ends = [*line[1:], line[0]]
    lengths = [math.dist(a, b) for a, b in zip(line, ends, strict=True)]
    step = sum(lengths) / CORNERS
    return [
        (a[0] + (b[0] - a[0]) * k / n, a[1] + (b[1] - a[1]) * k / n)
        for a, b, length in zip(line, ends, lengths, strict=True)
        for n in [max(round(length / step), 1)]
        for k in range(n)
    ]


def _soft(mask: Image.Image, by: float) -> Image.Image:
    """A mask with a wide soft edge, worked out on fewer points."""
    blurred = mask.reduce(COARSER).filter(ImageFilter.GaussianBlur(by / COARSER))
    return blurred.resize(mask.size, Image.Resampling.BILINEAR)


def _mottled(picture: Image.Image, by: float, dice: np.random.Generator) -> Image.Image:
    """The same uneven in tone, as dough and paper are, and lit from the upper left."""
    wide, tall = picture.size
    coarse = dice.normal(0, 1, (tall // 16, wide // 16)) * 40 + 128
    blots = Image.fromarray(coarse.clip(0, 255).astype(np.uint8)).resize(
        picture.size, Image.Resampling.BICUBIC
    )
    tone = (np.asarray(blots, dtype=np.float32) - 128) / 40 * by
    light = np.linspace(6, -6, wide)[None, :] + np.linspace(6, -6, tall)[:, None]
    lit = np.asarray(picture, dtype=np.float32) + (tone + light)[:, :, None]
    return Image.fromarray(lit.clip(0, 255).astype(np.uint8))


def _put_bits(
    crust: Image.Image, body: Sequence[Point], looks: Looks, scale: float, chance: random.Random
) -> None:
    middle = (sum(x for x, _ in body) / len(body), sum(y for _, y in body) / len(body))
    pen = ImageDraw.Draw(crust)
    for _ in range(looks.many):
        # Between the middle and somewhere on the edge, so never outside it.
        edge, far = chance.choice(body), 0.92 * math.sqrt(chance.random())
        x, y = (m + (e - m) * far for m, e in zip(middle, edge, strict=True))
        half, at = looks.bit_mm * scale / 2 * chance.uniform(0.6, 1.2), chance.uniform(0, math.pi)
        flat = chance.uniform(0.45, 0.8)
        turns = [math.tau * k / 14 for k in range(14)]
        shape = [(half * math.cos(t), half * flat * math.sin(t)) for t in turns]
        lighter = chance.randint(-14, 14)
        tint = tuple(max(0, min(255, c + lighter)) for c in looks.bits)
        pen.polygon(_laid(shape, (x, y), at), fill=tint)
