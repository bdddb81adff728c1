"""The sheet's sides in a photograph: they are straight, so what bends them is the lens; and where
they meet are its corners, better than a hand puts them."""

from dataclasses import dataclass

import cv2
import numpy as np

from finebatch.core.photo.view import Floats, Lens, Picture

LIGHT_AND_COLOURS = np.array([[0.114, 0.587, 0.299], [1, -1, 0], [0, -1, 1]])
MOST_BENT = (-0.16, 0.12)
"""Between barrel and pincushion: more than that has no lens of a phone or tablet."""
STEP = 0.01
NEARER = ((0.05, 0.01), (0.008, 0.002))
"""Around the first answer it is looked for again, so near and in such steps, by lines through the
edge that was found."""
TRIED = 3
"""So many lenses that may be right are followed up."""
POINTS = 80
BESIDE_PX = (-1.5, -0.75, 0.0, 0.75, 1.5)
OFF_PX = np.arange(-7.0, 7.01, 0.5)
"""So far beside the straight side its edge is looked for."""
BENDS = 0.08
"""What it costs an edge to leave its line by one step from one point to the next."""
LOOSE_PX = 0.6
FARTHEST_PX = 12.0
"""A corner is not put farther from where it was given."""


@dataclass(frozen=True, slots=True)
class Slopes:
    """How fast a photograph gets lighter to the right and downwards (h × w each), and how fast it
    does at its steeper places."""

    right: Floats
    down: Floats
    usual: float

    @staticmethod
    def of(image: Picture) -> "Slopes":
        """Those of a photograph (h × w × 3, blue first), each place's in what changes most there:
        its lightness, or one of its colours over green."""
        told = cv2.transform(image.astype(np.float32), LIGHT_AND_COLOURS)
        right, down = (cv2.Sobel(told, cv2.CV_32F, *way, ksize=3) for way in ((1, 0), (0, 1)))
        most = (right**2 + down**2).argmax(axis=2)[..., None]
        right, down = (np.take_along_axis(one, most, axis=2)[..., 0] for one in (right, down))
        return Slopes(
            np.asarray(right, float),
            np.asarray(down, float),
            float(np.percentile(np.abs(right[::4, ::4]), 97)) + 1,
        )

    def across(self, points: Floats, way: Floats) -> Floats:
        """How steep it is at points (n × 2, px) in one direction, whichever sign."""
        x, y = points.astype(np.float32).T.copy()
        right, down = (
            cv2.remap(one, x, y, cv2.INTER_LINEAR).ravel() for one in (self.right, self.down)
        )
        return np.asarray(np.abs(right * way[0] + down * way[1]), float)


@dataclass(frozen=True, slots=True)
class Sides:
    """The lens, and the sheet's corners as it would show them without its bend (px, from the
    photograph's middle)."""

    lens: Lens
    corners: Floats


def sides_of(image: Picture, corners_px: Floats) -> Sides:
    """The lens with which the sides between four corners of a sheet are straight, and the corners
    where they meet (`image`: h × w × 3, blue first; corners in px, in order around)."""
    height, width = image.shape[:2]
    slopes = Slopes.of(image)
    bends = np.arange(*MOST_BENT, STEP)
    edge = np.array(
        [_edge_along(slopes, Lens(float(b), (width, height)), corners_px) for b in bends]
    )
    smooth = np.convolve(np.pad(edge, 2, mode="edge"), [0.1, 0.2, 0.4, 0.2, 0.1], "valid")
    higher = np.pad(smooth, 1, constant_values=-1.0)
    tops = np.flatnonzero((smooth >= higher[:-2]) & (smooth >= higher[2:]))
    tops = tops[smooth[tops].argsort()[::-1]][:TRIED]
    tried = [_from(slopes, Lens(float(bends[top]), (width, height)), corners_px) for top in tops]
    return max(tried, key=lambda one: one[0])[1]


def _from(slopes: Slopes, lens: Lens, corners_px: Floats) -> tuple[float, Sides]:
    """The sides by the edge that is found with a lens that is about right; how well they lie."""
    corners, met, support = corners_px, corners_px, 0.0
    for _ in range(2):
        found = [_side(slopes, lens, corners[k], corners[(k + 1) % 4]) for k in range(4)]
        lens, support = _straightest(found, lens)
        lines = [_line(lens.straight(points)) for points, _ in found]
        met = np.array([_meet(lines[k - 1], lines[k]) for k in range(4)])
        given = lens.straight(corners_px)
        far = np.hypot(*(met - given).T) > FARTHEST_PX
        met[far] = given[far]
        corners = lens.bent(met)
    return support, Sides(lens, met)


def _between(lens: Lens, start: Floats, end: Floats) -> tuple[Floats, Floats]:
    """Points along a side without the lens's bend, and the direction across it."""
    first, last = lens.straight(np.array([start, end]))
    way = (last - first) / np.hypot(*(last - first))
    line = first + np.linspace(0.06, 0.94, POINTS)[:, None] * (last - first)
    return line, np.array([-way[1], way[0]])


def _edge_along(slopes: Slopes, lens: Lens, corners_px: Floats) -> float:
    """How much edge lies along the sides; no place of one counts more than its strong ones."""
    total = 0.0
    for k in range(4):
        line, across = _between(lens, corners_px[k], corners_px[(k + 1) % 4])
        beside = [slopes.across(lens.bent(line + off * across), across) for off in BESIDE_PX]
        strongest = np.max(beside, axis=0)
        total += float(np.minimum(strongest, np.percentile(strongest, 90) + 1e-3).mean())
    return total


def _side(slopes: Slopes, lens: Lens, start: Floats, end: Floats) -> tuple[Floats, Floats]:
    """Points of the photograph (px) along the edge that runs between two corners, and how much of
    an edge each is (0 to 1): the path along it with the most edge and the fewest turns."""
    line, across = _between(lens, start, end)
    steep = np.column_stack(
        [slopes.across(lens.bent(line + off * across), across) for off in OFF_PX]
    )
    edge = np.minimum(steep / (np.percentile(steep.max(axis=1), 75) + slopes.usual), 1)
    costs = 1 - edge
    total, cameby = costs.copy(), np.zeros(costs.shape, int)
    turns = BENDS * np.abs(np.subtract.outer(np.arange(len(OFF_PX)), np.arange(len(OFF_PX))))
    for k in range(1, len(line)):
        ways = total[k - 1][None, :] + turns
        cameby[k] = ways.argmin(axis=1)
        total[k] += ways.min(axis=1)
    at = int(total[-1].argmin())
    path = [at]
    for k in range(len(line) - 1, 0, -1):
        at = int(cameby[k][at])
        path.append(at)
    path = path[::-1]
    on_edge = lens.bent(line + OFF_PX[path][:, None] * across)
    return on_edge, edge[np.arange(len(line)), path]


def _line(points: Floats) -> tuple[Floats, Floats]:
    """A point of the line through points (n × 2), and its direction; far ones count little."""
    weights = np.ones(len(points))
    middle, way = points.mean(axis=0), np.array([1.0, 0.0])
    for _ in range(5):
        middle = weights @ points / weights.sum()
        x, y = (points - middle).T
        turned = 0.5 * np.arctan2(2 * (weights @ (x * y)), weights @ (x * x - y * y))
        way = np.array([np.cos(turned), np.sin(turned)])
        weights = 1 / (1 + (_beside(points, middle, way) / LOOSE_PX) ** 2)
    return middle, way


def _beside(points: Floats, middle: Floats, way: Floats) -> Floats:
    off = points - middle
    return np.asarray(off[:, 0] * way[1] - off[:, 1] * way[0], float)


def _straightest(sides: list[tuple[Floats, Floats]], lens: Lens) -> tuple[Lens, float]:
    """The lens near to that one by which the sides are nearest to lines, and how much of them
    lies on those (0 to 1)."""

    def lies(bend: float) -> float:
        straight = [(Lens(bend, lens.size_px).straight(points), edge) for points, edge in sides]
        return float(
            np.mean(
                [
                    edge / (1 + (_beside(points, *_line(points)) / LOOSE_PX) ** 2)
                    for points, edge in straight
                ]
            )
        )

    best = lens.bend
    for near, step in NEARER:
        best = max((best + off for off in np.arange(-near, near + step / 2, step)), key=lies)
    return Lens(float(best), lens.size_px), lies(best)


def _meet(one: tuple[Floats, Floats], other: tuple[Floats, Floats]) -> Floats:
    """Where two lines meet; far away where they hardly do."""
    matrix = np.column_stack((one[1], -other[1]))
    if abs(float(np.linalg.det(matrix))) < 0.05:
        return np.array([1e9, 1e9])
    along = np.linalg.solve(matrix, other[0] - one[0])
    return np.asarray(one[0] + along[0] * one[1], float)
