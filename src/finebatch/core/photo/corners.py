"""Where a sheet's corners are in a photograph, looked for as a start: a hand may put them right."""

from dataclasses import dataclass, replace
from itertools import combinations

import cv2
import numpy as np

from finebatch.core.photo.edges import Slopes
from finebatch.core.photo.view import Floats, Lens, Picture, view_of

LOOKED_AT_PX = 480
"""The longer side of the photograph that is looked at."""
SHORTEST = 0.06
"""Lines that are shorter (of that) are no part of a side."""
MOST_LINES = 9
"""So many lines of each direction may be sides."""
SAME_PX, SAME_RAD = 5.0, 0.06
LEAST_AREA, SMALLEST_AREA = 0.2, 0.02
"""A sheet that fills less of a photograph is too far away to measure."""
INWARDS = np.linspace(-0.03, 0.07, 51)
"""A rim has three edges: the innermost is where the sheet ends (of the sheet's length)."""
TURNED = np.linspace(-0.02, 0.02, 9)
COLOUR_ENDS = 0.05
"""So much does the colour of a lined sheet differ at least from that of its rim (in ln)."""
BESIDE_PX = 3.0
WIRE_PX = 9
"""What is narrower is no sheet of paper."""
MOST_SKEWED = 0.12
AS_STRONG, AS_GOOD = 0.5, 0.97
BENDS = np.arange(-0.12, 0.081, 0.02)

Line = tuple[float, float, float]
"""`x·cos + y·sin = off`: its direction across (radians), its offset (px), its length."""


@dataclass(frozen=True, slots=True)
class Corners:
    """A sheet's corners (upper left, upper right, lower right, lower left; px), and whether the
    sheet's own colour ends there: a bare one's goes on over its rim, so a hand has to see."""

    at: Floats
    sure: bool


def find_corners(
    image: Picture, sheet_mm: tuple[float, float], lined: bool = True, beside: bool = False
) -> Corners | None:
    """A sheet's corners in a photograph; None where four sides are not found. What it is `lined`
    with ends at its bottom; the metal of a bare one goes on over its rim. What pieces lie `beside`
    may be far smaller than a sheet."""
    height, width = image.shape[:2]
    scale = LOOKED_AT_PX / max(height, width)
    shrunk = cv2.resize(image, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    small = np.asarray(shrunk, np.uint8)
    soft = np.asarray(cv2.GaussianBlur(small, (0, 0), 1.0), np.uint8)
    slopes = Slopes.of(soft)
    white = _whiteness(soft) if beside else None
    grey = np.asarray(cv2.cvtColor(small, cv2.COLOR_BGR2GRAY), np.uint8)
    lines = _lines(grey if white is None else white)
    flat = [line for line in lines if abs(np.sin(line[0])) > np.sin(np.pi / 4)]
    steep = [line for line in lines if line not in flat]
    best, most = None, 0.0
    middle = np.array([small.shape[1], small.shape[0]]) / 2
    flat = sorted(flat[:MOST_LINES], key=lambda line: _met(line, middle, np.pi / 2))
    steep = sorted(steep[:MOST_LINES], key=lambda line: _met(line, middle, 0.0))
    for far, near in combinations(flat, 2):
        for left, right in combinations(steep, 2):
            corners = _crossings(far, right, near, left)
            if corners is None or not _may_be(
                corners, small.shape[:2], sheet_mm, SMALLEST_AREA if beside else LEAST_AREA
            ):
                continue
            found = _support(slopes, corners)
            if white is not None:
                found *= _filled(white, corners)
            if found > most:
                best, most = corners, found
    if best is None:
        return None
    inner = _innermost(slopes, soft if lined else None, best, beside)
    # A place of the smaller picture is the middle of several of the photograph.
    return replace(inner, at=(inner.at + 0.5) / scale - 0.5)


def _whiteness(soft: Picture) -> Picture:
    """How white each place is, and wide enough: neither the wires of a rack are, nor crumbs."""
    wide = cv2.getStructuringElement(cv2.MORPH_RECT, (WIRE_PX, WIRE_PX))
    least = np.asarray(soft.min(axis=2), np.uint8)
    return np.asarray(cv2.morphologyEx(least, cv2.MORPH_OPEN, wide), np.uint8)


def _filled(white: Picture, corners: Floats) -> float:
    """How white what lies between four corners is beside the whitest of the photograph (0 to 1);
    it is white throughout, so its paler places count."""
    inside = np.zeros(white.shape, np.uint8)
    cv2.fillConvexPoly(inside, np.round(corners).astype(np.int32), 1)
    return float(np.percentile(white[inside > 0], 20) / max(int(white.max()), 1))


def _lines(small: Picture) -> list[Line]:
    """The straight lines of a photograph, those with most length first, pieces of one together."""
    segments = cv2.createLineSegmentDetector().detect(small)[0]
    kept: list[list[float]] = []
    parts = [] if segments is None else segments.reshape(-1, 4)
    for x1, y1, x2, y2 in sorted(parts, key=lambda s: -float(np.hypot(s[2] - s[0], s[3] - s[1]))):
        length = float(np.hypot(x2 - x1, y2 - y1))
        if length < SHORTEST * LOOKED_AT_PX:
            break
        way = float(np.arctan2(x2 - x1, -(y2 - y1)))
        middle = np.array([(x1 + x2) / 2, (y1 + y2) / 2])
        for line in kept:
            turned = abs((line[0] - way + np.pi / 2) % np.pi - np.pi / 2)
            off = abs(middle @ [np.cos(line[0]), np.sin(line[0])] - line[1])
            if turned < SAME_RAD and off < SAME_PX:
                line[2] += length
                break
        else:
            kept.append([way, float(middle @ [np.cos(way), np.sin(way)]), length])
    return [(a, b, c) for a, b, c in sorted(kept, key=lambda line: -line[2])]


def _met(line: Line, middle: Floats, way: float) -> float:
    """How far in a direction (radians) from the middle of the photograph a line is met."""
    across, off, _ = line
    own = np.array([np.cos(across), np.sin(across)])
    return float((off - middle @ own) / (own @ [np.cos(way), np.sin(way)]))


def _crossings(far: Line, right: Line, near: Line, left: Line) -> Floats | None:
    found = []
    for one, other in ((far, left), (far, right), (near, right), (near, left)):
        matrix = np.array([[np.cos(k[0]), np.sin(k[0])] for k in (one, other)])
        if abs(np.linalg.det(matrix)) < 0.3:
            return None
        found.append(np.linalg.solve(matrix, [one[1], other[1]]))
    return np.array(found)


def _may_be(
    corners: Floats, shape: tuple[int, ...], sheet_mm: tuple[float, float], least: float
) -> bool:
    """Whether a sheet of that size may be seen so: in the photograph, not too far away, and in
    perspective like no other shape."""
    height, width = shape
    room = 0.06 * LOOKED_AT_PX
    x, y = corners.T
    if x.min() < -room or y.min() < -room or x.max() > width + room or y.max() > height + room:
        return False
    contour = corners.astype(np.float32)
    area = cv2.contourArea(contour)
    if area < least * width * height or not cv2.isContourConvex(contour):
        return False
    lens = Lens(0.0, (width, height))
    straight = lens.straight(corners)
    ways = (straight, np.roll(straight, 1, axis=0))
    return min(view_of(way, sheet_mm, lens).skew for way in ways) < MOST_SKEWED


def _support(slopes: Slopes, corners: Floats) -> float:
    """How much edge lies near the sides of four corners (0 to 1)."""
    sides = []
    for k in range(4):
        start, end = corners[k], corners[(k + 1) % 4]
        points = start + np.linspace(0.05, 0.95, 60)[:, None] * (end - start)
        across = np.array([start[1] - end[1], end[0] - start[0]])
        across /= np.hypot(*across)
        beside = [slopes.across(points + off * across, across) for off in (-3, -1.5, 0, 1.5, 3)]
        sides.append(float(np.minimum(np.max(beside, axis=0) / slopes.usual, 1).mean()))
    return float(np.mean(sides) * np.min(sides))


def _innermost(slopes: Slopes, lined: Picture | None, corners: Floats, rimless: bool) -> Corners:
    """The corners where the innermost strong edges along the sides meet, by the lens with which
    most edge is found."""
    height, width = slopes.right.shape
    found = []
    for bend in BENDS:
        lens = Lens(float(bend), (width, height))
        sides = [_Side(slopes, lens, corners, k) for k in range(4)]
        found.append((sum(float(side.edge.max()) for side in sides), lens, sides))
    _, lens, sides = max(found, key=lambda one: one[0])
    colours = None
    if lined is not None:
        light = np.log(lined.astype(np.float32) + 8)
        colours = np.ascontiguousarray(light[..., [0, 2]] - light[..., [1]])
    lines = [side.innermost(colours, rimless) for side in sides]
    met = [_crossing(lines[k - 1][:2], lines[k][:2]) for k in range(4)]
    return Corners(lens.bent(np.array(met)), all(line[2] for line in lines))


class _Side:
    """Lines beside a side, moved inwards at both ends, and how much edge lies along each."""

    def __init__(self, slopes: Slopes, lens: Lens, corners: Floats, k: int) -> None:
        self.lens, straight = lens, lens.straight(corners)
        middle = straight.mean(axis=0)
        self.start, self.end = straight[k], straight[(k + 1) % 4]
        way = (self.end - self.start) / np.hypot(*(self.end - self.start))
        self.inwards = np.array([-way[1], way[0]])
        if self.inwards @ (middle - self.start) < 0:
            self.inwards = -self.inwards
        length = float(np.hypot(*(corners[1] - corners[0])))
        off, turned = np.meshgrid(INWARDS * length, TURNED * length, indexing="ij")
        self.first, self.last = off - turned, off + turned
        along = np.linspace(0.06, 0.94, 60)
        points = self.start + along[:, None] * (self.end - self.start)
        moved = self.first[..., None] * (1 - along) + self.last[..., None] * along
        where = points + moved[..., None] * self.inwards
        steep = slopes.across(lens.bent(where.reshape(-1, 2)), self.inwards)
        self.edge = np.minimum(steep.reshape(moved.shape) / slopes.usual, 1).mean(axis=2)

    def innermost(self, colours: Floats | None, rimless: bool) -> tuple[Floats, Floats, bool]:
        """Both ends of the innermost line with much edge along it, and whether the sheet has a
        colour that ends there. Then it is looked for where it does: the rim may throw a shadow with
        an edge as strong. What is `rimless` has one edge: the strongest."""
        best = self.edge.max(axis=1)
        # An edge is as strong as can be over its whole softness, so over a few turns of a line.
        alike = self.edge >= AS_GOOD * best[:, None]
        turned = np.round((alike * np.arange(len(TURNED))).sum(axis=1) / alike.sum(axis=1)).astype(
            int
        )
        strong = best >= AS_STRONG * best.max()
        most = 0.0
        if colours is not None:
            change = np.array([self._change(colours, k, int(turned[k])) for k in range(len(best))])
            most = float(change[strong].max())
        if most > COLOUR_ENDS:
            strong &= change >= 0.5 * most
        if rimless:
            at = round(float(np.flatnonzero(best >= AS_GOOD * best.max()).mean()))
        else:
            at = int(np.flatnonzero(strong)[-1])
        while not rimless and at > 0 and strong[at - 1] and best[at - 1] > best[at]:
            at -= 1
        return (
            self.start + self.first[at, turned[at]] * self.inwards,
            self.end + self.last[at, turned[at]] * self.inwards,
            most > COLOUR_ENDS,
        )

    def _change(self, colours: Floats, off: int, turned: int) -> float:
        """How far the colour outside of a line is from that inside (ln of its ratios)."""
        first = self.start + self.first[off, turned] * self.inwards
        last = self.end + self.last[off, turned] * self.inwards
        points = first + np.linspace(0.06, 0.94, 60)[:, None] * (last - first)
        beside = []
        for far in (-BESIDE_PX, BESIDE_PX):
            x, y = self.lens.bent(points + far * self.inwards).astype(np.float32).T.copy()
            beside.append(cv2.remap(colours, x, y, cv2.INTER_LINEAR).reshape(-1, 2))
        return float(np.hypot(*np.median(beside[1] - beside[0], axis=0)))


def _crossing(one: tuple[Floats, Floats], other: tuple[Floats, Floats]) -> Floats:
    """Where two lines through two points each cross."""
    along = np.linalg.solve(
        np.column_stack((one[1] - one[0], other[0] - other[1])), other[0] - one[0]
    )
    return np.asarray(one[0] + along[0] * (one[1] - one[0]), float)
