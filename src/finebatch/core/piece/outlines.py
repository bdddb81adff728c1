"""Outlines as closed lines about a piece's middle, before it is turned. Lengths in mm."""

import math
from collections.abc import Sequence

from finebatch.core.piece.lying import Outline, Size
from finebatch.core.values import Point

Lines = tuple[tuple[Point, ...], ...]
"""Closed lines; what lies within an odd number of them is dough. None at all is an ellipse."""
FINE_MM = 0.05
"""What a line may lie off where it is drawn with fewer corners."""
ROUND_END = 12
"""Corners of a half circle."""
HEXAGON = ((0.0, -0.5), (0.5, -0.25), (0.5, 0.25), (0.0, 0.5), (-0.5, 0.25), (-0.5, -0.25))
"""A hexagon that stands on a corner, in a box from −1/2 to 1/2."""


def outline_lines(outline: Outline, size_mm: Size, points: Sequence[Point] = ()) -> Lines:
    """The outline of what fills that box; `points` are a known one's, in a box from −1/2 to 1/2."""
    across, down = size_mm
    if points or outline == "hexagon":
        return (tuple((across * x, down * y) for x, y in points or HEXAGON),)
    match outline:
        case "round" | "ring":
            return ()
        case "log":
            return (_with_round_ends(across, down),)
        case _:
            x, y = across / 2, down / 2
            return (((-x, -y), (x, -y), (x, y), (-x, y)),)


def _with_round_ends(across: float, down: float) -> tuple[Point, ...]:
    """A rope from the side: straight between two half circles."""
    if down > across:
        return tuple((y, x) for x, y in _with_round_ends(down, across))
    radius = down / 2
    straight = across / 2 - radius
    turns = [math.pi * (k / ROUND_END - 0.5) for k in range(ROUND_END + 1)]
    right = [(straight + radius * math.cos(at), radius * math.sin(at)) for at in turns]
    return (*right, *((-x, -y) for x, y in right))


def fitted(lines: Lines, size_mm: Size) -> Lines:
    """The same stretched to just that box, about its middle."""
    xs, ys = zip(*(point for line in lines for point in line), strict=True)
    (left, top), (right, bottom) = (min(xs), min(ys)), (max(xs), max(ys))
    wide, tall = size_mm[0] / (right - left), size_mm[1] / (bottom - top)
    middle = ((left + right) / 2, (top + bottom) / 2)
    return tuple(
        tuple(((x - middle[0]) * wide, (y - middle[1]) * tall) for x, y in line) for line in lines
    )


def around(line: Sequence[Point], thick_mm: float) -> Lines:
    """The outline of a rope so thick along its middle, the holes between its bends included."""
    from shapely import LineString  # takes time to load

    body = LineString(line).buffer(thick_mm / 2, quad_segs=ROUND_END // 2).simplify(FINE_MM)
    return (
        tuple(body.exterior.coords[:-1]),
        *(tuple(hole.coords[:-1]) for hole in body.interiors if hole.length > thick_mm / 4),
    )
