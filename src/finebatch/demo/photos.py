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
    dice = np.random.default_rng(chance.randrange(1 << 32))
    size = (SIZE_PX[0] * FINER, SIZE_PX[1] * FINER)
    bodies, scale = _bodies(widths_mm, outline, size, looks, chance)
    whole = Image.new("L", size)
    for body in bodies:
        ImageDraw.Draw(whole).polygon(body, fill=255)
    reach = scale * max(widths_mm) / 2

    picture = _mottled(Image.new("RGB", size, PAPER), 4, dice)
    shadow = Image.new("L", size)
    shadow.paste(whole, (round(reach / 9), round(reach / 7)))
    dimmed = _soft(shadow, reach / 8).point(lambda v: v * 0.55)
    picture.paste(Image.new("RGB", size, SHADE), mask=dimmed)

    crust = Image.new("RGB", size, STRIP_RGB[min(colour, len(STRIP_RGB) - 1)])
    # Away from its edge a piece is paler, as it stays moist there for longer.
    inside = _soft(whole, reach / 4).point(lambda v: max(v - 128, 0) * 2)
    crust.paste(Image.new("RGB", size, STRIP_RGB[max(colour - 2, 0)]), mask=inside)
    crust = _mottled(crust, 9, dice)
    for body in bodies:
        _put_bits(crust, body, looks, scale, chance)
    picture.paste(crust, mask=whole.filter(ImageFilter.GaussianBlur(FINER)))
    edge = ImageDraw.Draw(picture)
    edge.rectangle((0, 0, size[0] - 1, size[1] - 1), outline=STEEL, width=9 * FINER)
    written = io.BytesIO()
    picture.resize(SIZE_PX, Image.Resampling.LANCZOS).save(written, "JPEG", quality=84)
    return written.getvalue()


def _bodies(
    widths_mm: Sequence[float],
    outline: Lines,
    size: tuple[int, int],
    looks: Looks,
    chance: random.Random,
) -> tuple[list[list[Point]], float]:
    """The outlines where they lie, in px, and how many px a mm is."""
    line = _even(outline[0]) if outline else _round()
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
        turn = chance.uniform(-0.05, 0.05)
        waves = [(k, chance.uniform(0, math.tau), chance.uniform(0.3, 1) / k) for k in range(2, 9)]
        body = []
        for u, v in line:
            at = math.atan2(v, u)
            far = 1 + looks.uneven * sum(a * math.sin(k * at + p) for k, p, a in waves)
            body.append((u * width * far * scale, v * width * far * scale))
        found.append(_laid(body, (x, y), turn))
    return found, scale


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
