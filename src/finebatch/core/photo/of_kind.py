"""Which width of a piece a photograph's silhouette comes to: that which the book writes down."""

import math
from collections.abc import Callable, Sequence

from finebatch.core.piece.lying import Lies
from finebatch.core.piece.outlines import outline_lines
from finebatch.core.values import Point

LyingOf = Callable[[float], Lies]
"""How a piece lies that bakes so wide (mm)."""
NEARLY_MM = 0.5


def mean_width(lies: Lies, baked: bool = True) -> float:
    """The mean width of a piece over all directions, in mm (by Cauchy: what a string around it
    takes, over π)."""
    size = lies.baked_mm if baked else lies.raw_mm
    lines = outline_lines(lies.outline, size, lies.points)
    if not lines:
        return (size[0] + size[1]) / 2
    return _around(lines[0]) / math.pi


def _around(points: Sequence[Point]) -> float:
    hull = _hull(points)
    return sum(math.dist(hull[k - 1], hull[k]) for k in range(len(hull)))


def _hull(points: Sequence[Point]) -> list[Point]:
    """The corners of what a string around those points touches, in order."""
    ordered = sorted(set(points))

    def half(along: Sequence[Point]) -> list[Point]:
        found: list[Point] = []
        for x, y in along:
            while len(found) > 1 and (
                (found[-1][0] - found[-2][0]) * (y - found[-2][1])
                <= (found[-1][1] - found[-2][1]) * (x - found[-2][0])
            ):
                found.pop()
            found.append((x, y))
        return found[:-1]

    return half(ordered) + half(ordered[::-1])


def width_of(mean_mm: float, least_mm: float, lying: LyingOf, about_mm: float) -> float:
    """The width (mm) of a piece as the book has it, by its mean width and its least one: of what
    has straight sides the least, of all else that with which it would be as wide in the mean."""
    if lying(about_mm).outline in ("log", "box"):
        return least_mm
    here, beside = (mean_width(lying(about_mm + off)) for off in (0.0, NEARLY_MM))
    return about_mm + (mean_mm - here) * NEARLY_MM / (beside - here)
