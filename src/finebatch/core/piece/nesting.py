"""How the pieces of one cutter lie closest: rows whose outlines reach into each other.

An outline is told by its profiles: how far up and down it goes at each place across, how far left
and right at each place down, half a web wider all round. Two rows may be as near as their profiles
allow. Lengths in mm, y counts downwards.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from finebatch.core.piece.cutter import Cutter
from finebatch.core.values import Point

Profile = npt.NDArray[np.float64]

FINE_MM = 0.5
"""How finely a profile is told."""
SHIFTS = 24
KEPT = 4
"""Of all ways in which an outline nests, so many of the densest are tried on a slab."""


@dataclass(frozen=True, slots=True)
class Nest:
    """One way to lay pieces in rows: how far it is to the next in a row and how each is turned
    (both go round), from row to row, how far every second row is shifted, how it is turned (°)."""

    steps_mm: tuple[float, ...]
    turns: tuple[int, ...]
    row_mm: float
    shift_mm: float = 0.0
    odd_turn: int = 0

    @property
    def area_mm2(self) -> float:
        """What one piece takes of a large slab."""
        return sum(self.steps_mm) / len(self.steps_mm) * self.row_mm

    def along(self, count: int) -> list[float]:
        """The middles of so many pieces of a row, from the first."""
        found = [0.0]
        for k in range(count - 1):
            found.append(found[-1] + self.steps_mm[k % len(self.steps_mm)])
        return found[:count]

    def turn(self, row: int, place: int) -> int:
        """How the piece at that place of a row lies, in degrees."""
        return (self.turns[place % len(self.turns)] + (self.odd_turn if row % 2 else 0)) % 360


@dataclass(frozen=True, slots=True)
class _Sides:
    """An outline by its edges at each place: upper and lower across, left and right down."""

    top: Profile
    bottom: Profile
    left: Profile
    right: Profile

    def over(self) -> "_Sides":
        """The same turned by half a circle."""
        return _Sides(-self.bottom[::-1], -self.top[::-1], -self.right[::-1], -self.left[::-1])


def _edge(at: Profile, value: Profile, reach: int, *, least: bool) -> Profile:
    """The outermost value at each place, or infinitely far in where there is none; a hair too far
    rather than too near."""
    far = math.inf if least else -math.inf
    found = np.full(2 * reach + 1, far)
    places = np.rint(at / FINE_MM).astype(int) + reach
    keep = np.minimum.at if least else np.maximum.at
    for beside in (-1, 0, 1):
        keep(found, np.clip(places + beside, 0, 2 * reach), value)
    return found


def _sides(outline: Sequence[Point], web_mm: float) -> _Sides:
    corners = np.array([*outline, outline[0]])
    lengths = np.hypot(*np.diff(corners, axis=0).T)
    along = [
        a + (b - a) * np.linspace(0, 1, max(2, math.ceil(2 * length / FINE_MM)))[:, None]
        for a, b, length in zip(corners[:-1], corners[1:], lengths, strict=True)
    ]
    angles = np.linspace(0, 2 * math.pi, 32, endpoint=False)
    rim = web_mm / 2 * np.column_stack([np.cos(angles), np.sin(angles)])
    points = (np.vstack(along)[:, None, :] + rim[None, :, :]).reshape(-1, 2)
    x, y = points.T
    reach = math.ceil(np.abs(points).max() / FINE_MM) + 2
    return _Sides(
        _edge(x, y, reach, least=True),
        _edge(x, y, reach, least=False),
        _edge(y, x, reach, least=True),
        _edge(y, x, reach, least=False),
    )


def _apart(one: _Sides, other: _Sides) -> float:
    """How far to the right of one the other may lie, at the nearest."""
    return float(np.max(one.right - other.left))


def _row(pieces: Sequence[_Sides], at: Sequence[float], around: float) -> tuple[Profile, Profile]:
    """The upper and lower edge of a row that goes on for ever, over one round of it."""
    places = max(1, math.floor(around / FINE_MM))
    top, bottom = np.full(places, math.inf), np.full(places, -math.inf)
    for sides, middle in zip(pieces, at, strict=True):
        reach = len(sides.top) // 2
        there = (np.arange(-reach, reach + 1) + round(middle / FINE_MM)) % places
        np.minimum.at(top, there, sides.top)
        np.maximum.at(bottom, there, sides.bottom)
    return top, bottom


def nests(cutter: Cutter, web_mm: float) -> tuple[Nest, ...]:
    """The closest ways to lay that cutter's outline with a web between the cuts, densest first, the
    straight rows of its box last."""
    across, down = cutter.box_mm
    plain = Nest((across + web_mm,), (0,), down + web_mm)
    if not cutter.outline:
        return (plain,)
    return (*nested(cutter.outline_mm, web_mm)[:KEPT], plain)


@lru_cache(maxsize=64)
def nested(outline_mm: tuple[Point, ...], web_mm: float) -> tuple[Nest, ...]:
    """All ways to lay an outline in rows with so much between two, densest first."""
    ys = [y for _, y in outline_mm]
    down = max(ys) - min(ys)
    up = _sides(outline_mm, web_mm)
    over = up.over()
    found = []
    for turns in ((0,), (0, 180)):
        pieces = [up if turn == 0 else over for turn in turns]
        steps = tuple(_apart(one, pieces[(k + 1) % len(pieces)]) for k, one in enumerate(pieces))
        at = [0.0, *np.cumsum(steps)[:-1]]
        around = float(sum(steps))
        top, bottom = _row(pieces, at, around)
        for odd_turn in (0, 180):
            others = pieces if odd_turn == 0 else [s.over() for s in pieces]
            other_top, other_bottom = _row(others, at, around)
            # Rows two apart lie above each other unshifted.
            own = max(float(np.max(bottom - top)), float(np.max(other_bottom - other_top)))
            for k in range(SHIFTS // 2 + 1):
                by = round(k / SHIFTS * len(top))
                down_to = float(np.max(bottom - np.roll(other_top, by)))
                up_to = float(np.max(other_bottom - np.roll(top, -by)))
                row = max(down_to, up_to, own / 2, (down + web_mm) / 3)
                shift = by * FINE_MM
                if shift <= min(steps):
                    found.append(Nest(steps, turns, row, shift, odd_turn))
    return tuple(sorted(found, key=lambda nest: (round(nest.area_mm2), nest.shift_mm)))
