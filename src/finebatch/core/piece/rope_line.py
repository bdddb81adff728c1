"""The line of a rope as it is laid: straight, or bent to a form, to scale."""

import math
from collections.abc import Callable, Mapping, Sequence
from itertools import pairwise
from typing import Literal

from finebatch.core.piece.portion import MassPortion, Rope, rope_across_mm
from finebatch.core.values import Point

RopeForm = Literal["straight", "ring", "twist", "spiral", "bow", "s", "crossed"]
DRAWN = 72
"""Points of a line: enough that it looks round."""
TWIST_WIDTH, TWIST_LENGTH = 1.7, 0.45
"""A rope folded and twisted is about this many ropes wide, and this share of its length long."""
TWISTS = 3.0
CROSSED_STRAIGHT = 0.28
"""The share of its length that each end of a crossed rope lies straight."""
S_TURN = 1.35 * math.pi
"""How far each half of an S turns."""
CROSSED_TURN = 1.55 * math.pi

Heading = Callable[[float], float]
"""The direction of the line (rad) at a share of its length."""


def _ring(share: float) -> float:
    return 2 * math.pi * share


def _s(share: float) -> float:
    return S_TURN * (2 * share if share < 0.5 else 2 - 2 * share)


def _bow(share: float) -> float:
    """Two loops side by side, the one turned the other way round; the rope crosses itself where
    they meet."""
    whole = 4 + 3 * math.pi
    straight, loop = 1 / whole, 1.5 * math.pi / whole
    if share < 0.5:
        turned = min(max((share - straight) / loop, 0.0), 1.0)
    else:
        turned = min(max((1 - straight - share) / loop, 0.0), 1.0)
    return 1.5 * math.pi * turned - math.pi / 4


def _crossed(share: float) -> float:
    bent = (share - CROSSED_STRAIGHT) / (1 - 2 * CROSSED_STRAIGHT)
    return CROSSED_TURN * min(max(bent, 0.0), 1.0)


_BENT: Mapping[RopeForm, Heading] = {"ring": _ring, "s": _s, "bow": _bow, "crossed": _crossed}


def _along(heading: Heading, length_mm: float, bent: float) -> list[Point]:
    step = length_mm / DRAWN
    x = y = 0.0
    found = [(x, y)]
    for n in range(DRAWN):
        angle = bent * heading((n + 0.5) / DRAWN)
        x, y = x + step * math.cos(angle), y + step * math.sin(angle)
        found.append((x, y))
    return found


def _spiral(length_mm: float, rope_mm: float, bent: float) -> list[Point]:
    """Coils that touch, wound from the middle; what is not wound yet lies straight."""
    wound = length_mm * bent
    turns = math.sqrt(4 * math.pi * wound / rope_mm)
    found = []
    for n in range(DRAWN + 1):
        angle = turns * n / DRAWN
        radius = rope_mm * angle / (2 * math.pi)
        found.append((radius * math.cos(angle), radius * math.sin(angle)))
    if wound < length_mm:
        last, angle = found[-1], turns + math.pi / 2
        rest = length_mm - wound
        found.append((last[0] + rest * math.cos(angle), last[1] + rest * math.sin(angle)))
    return found


def _twist(length_mm: float, rope_mm: float) -> list[Point]:
    """Folded in half, and the halves wound about each other."""
    long = max(TWIST_LENGTH * length_mm - rope_mm, rope_mm)
    swing = (TWIST_WIDTH - 1) * rope_mm / 2
    waves = [
        (long * n / DRAWN, swing * math.sin(2 * math.pi * TWISTS * n / DRAWN))
        for n in range(DRAWN + 1)
    ]
    return [*waves, *((p[0], -p[1]) for p in reversed(waves))]


def _folded(length_mm: float, rope_mm: float) -> list[Point]:
    half = length_mm / 2
    return [
        (0, -rope_mm / 2),
        (half, -rope_mm / 2),
        (half, rope_mm / 2),
        (0, rope_mm / 2),
    ]


def rope_line(
    form: RopeForm, length_mm: float, rope_mm: float, *, half: bool = False
) -> tuple[Point, ...]:
    """The middle of a rope of that length and thickness (mm), from its own upper left corner, the
    thickness included; `half` bent, as the hands have it on the way."""
    if form == "twist":
        line = _folded(length_mm, rope_mm) if half else _twist(length_mm, rope_mm)
    elif form == "spiral":
        line = _spiral(length_mm, rope_mm, 0.5 if half else 1.0)
    elif form in _BENT:
        line = _along(_BENT[form], length_mm, 0.5 if half else 1.0)
    else:
        line = [(0.0, 0.0), (length_mm, 0.0)]
    left, top = min(p[0] for p in line), min(p[1] for p in line)
    edge = rope_mm / 2
    return tuple((p[0] - left + edge, p[1] - top + edge) for p in line)


def box_of(line: Sequence[Point], rope_mm: float) -> tuple[float, float]:
    """Across and down (mm) of a rope so thick along that line."""
    return max(p[0] for p in line) + rope_mm / 2, max(p[1] for p in line) + rope_mm / 2


def length_of(line: Sequence[Point]) -> float:
    """How long a line is (mm)."""
    return sum(math.hypot(b[0] - a[0], b[1] - a[1]) for a, b in pairwise(line))


def rope_portion(
    grams: float, length_mm: float, form: RopeForm, density_g_cm3: float
) -> Rope | MassPortion:
    """How a rope of that form bakes: a spiral as a flat piece, two strands wound about each other
    as one thicker rope."""
    match form:
        case "twist":
            return Rope(grams, TWIST_LENGTH * length_mm, bent=True)
        case "spiral":
            strand = rope_across_mm(grams / density_g_cm3, length_mm)
            across, down = box_of(rope_line("spiral", length_mm, strand), strand)
            return MassPortion(grams, "flattened", (across + down) / 2)
        case _:
            return Rope(grams, length_mm, bent=form != "straight")
