"""A cutter: its box and what it cuts out. Lengths in mm."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.measures.figures import area
from finebatch.core.refusal import refuse
from finebatch.core.values import FromOutside, Point

CutterShape = Literal["round", "square", "rectangle", "hexagon", "leaf", "star", "heart", "own"]
OWN_SHARE = 0.65
"""What an outline of one's own fills of its box, about."""
STAR_INNER = 0.55
"""How far in a star's inner corners are, of its outer ones: cutters' stars are plump."""


def _unit(points: Sequence[Point]) -> tuple[Point, ...]:
    """The outline in a box from −1/2 to 1/2 across and down."""
    (left, right), (top, bottom) = ((min(along), max(along)) for along in zip(*points, strict=True))
    return tuple(
        (
            round((x - (left + right) / 2) / (right - left), 4),
            round((y - (top + bottom) / 2) / (bottom - top), 4),
        )
        for x, y in points
    )


def _star() -> tuple[Point, ...]:
    corners = [(k * math.pi / 5, 1.0 if k % 2 == 0 else STAR_INNER) for k in range(10)]
    return _unit([(far * math.sin(at), -far * math.cos(at)) for at, far in corners])


def _heart() -> tuple[Point, ...]:
    turns = [2 * math.pi * k / 48 for k in range(48)]
    return _unit(
        [
            (
                16 * math.sin(t) ** 3,
                -13 * math.cos(t) + 5 * math.cos(2 * t) + 2 * math.cos(3 * t) + math.cos(4 * t),
            )
            for t in turns
        ]
    )


def _leaf() -> tuple[Point, ...]:
    down = [k / 12 for k in range(-6, 7)]
    side = [(0.5 * (1 - (2 * y) ** 2), y) for y in down]
    return _unit([*side, *((-x, y) for x, y in side[-2:0:-1])])


OUTLINES: Mapping[CutterShape, tuple[Point, ...]] = {
    "leaf": _leaf(),
    "star": _star(),
    "heart": _heart(),
}
"""Outlines as they are drawn, in a box from −1/2 to 1/2."""


def _share(points: Sequence[Point]) -> float:
    """What an outline fills of its box (the shoelace formula)."""
    beside = zip(points, (*points[1:], points[0]), strict=True)
    return abs(sum(a * d - c * b for (a, b), (c, d) in beside)) / 2


SHARES = {shape: _share(points) for shape, points in OUTLINES.items()}


@dataclass(frozen=True, slots=True)
class Cutter(FromOutside):
    """A cutter by its bounding box; `area_cm2` is needed for an outline of its own only."""

    NEEDED = ("shape", "across_mm", "down_mm")

    shape: CutterShape = "round"
    across_mm: Annotated[float, Interval(ge=8, le=300)] = 60.0
    down_mm: Annotated[float, Interval(ge=8, le=300)] = 60.0
    area_cm2: Annotated[float, Interval(gt=0, le=900)] | None = None

    @property
    def box_mm(self) -> tuple[float, float]:
        """Across and down, in mm, of the box around it."""
        match self.shape:
            case "round" | "square":
                return self.across_mm, self.across_mm
            case "hexagon":
                return self.across_mm, self.across_mm * 2 / math.sqrt(3)
            case "rectangle" | "own" | "leaf" | "star" | "heart":
                return self.across_mm, self.down_mm

    @property
    def outline(self) -> tuple[Point, ...]:
        """Its outline in a box from −1/2 to 1/2, where it is known and no plain figure."""
        return OUTLINES.get(self.shape, ())

    @property
    def outline_mm(self) -> tuple[Point, ...]:
        """The same at its size, about its middle."""
        across, down = self.box_mm
        return tuple((across * x, down * y) for x, y in self.outline)

    @property
    def area_mm2(self) -> float:
        """What it cuts out, in mm²; `Refusal` when its own outline is not known or too large."""
        across, down = self.box_mm
        match self.shape:
            case "round":
                return math.pi / 4 * across**2
            case "hexagon":
                return math.sqrt(3) / 2 * across**2
            case "square" | "rectangle":
                return across * down
            case "leaf" | "star" | "heart":
                return SHARES[self.shape] * across * down
            case "own":
                most = across * down / 100
                if self.area_cm2 is None or not 0 < self.area_cm2 <= most:
                    raise refuse(
                        "cutter.area_cm2",
                        f"Its box is {area(most)}; say what it cuts out of that, usually "
                        f"about {area(OWN_SHARE * most)}.",
                    )
                return 100 * self.area_cm2
