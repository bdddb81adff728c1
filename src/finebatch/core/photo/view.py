"""From where a photograph was taken: the lens, and the camera over the sheet.

Points on the sheet are in mm, the origin at its far left inner corner, x to the right, y towards
the near side; points in the photograph in px, the origin at the upper left, y down.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, TypeAlias

import numpy as np
from numpy.typing import NDArray

from finebatch.core.values import Point

Floats: TypeAlias = NDArray[np.floating[Any]]
Picture: TypeAlias = NDArray[np.uint8]
"""A photograph (h × w × 3, blue first), or a mask of one (h × w)."""

USUAL_FOCAL = 0.95
"""Focal length over the photograph's width where four corners do not tell it (straight from above);
usual main cameras of phones have about as much."""
FOCAL_LN = 0.3
"""By how much in ln it differs among cameras, and where a photograph was cut (one in three)."""
CORNERS = 0.004
"""How exactly corners tell the sheet's shape (of its length)."""
LEAST_TURN = 0.005
"""Less than that (twice the area of three corners, of the photograph's) is too small to measure."""
NEARER = 5
"""Steps of the fixed point by which a lens is turned around."""


@dataclass(frozen=True, slots=True)
class Lens:
    """A lens that bends straight lines: a point at `r` (in half diagonals of the photograph) from
    its middle would be at `r · (1 + bend · r²)` by a lens that does not."""

    bend: float
    size_px: tuple[int, int]

    @property
    def _middle(self) -> Floats:
        return np.array(self.size_px, float) / 2

    @property
    def _reach(self) -> float:
        return float(np.hypot(*self.size_px)) / 2

    def straight(self, points: Floats) -> Floats:
        """Where points (n × 2, px) would be without the bend, from the photograph's middle."""
        from_middle = points - self._middle
        square = (from_middle**2).sum(axis=1) / self._reach**2
        return np.asarray(from_middle * (1 + self.bend * square)[:, None], float)

    def bent(self, points: Floats) -> Floats:
        """Where in the photograph (px) points are that would be there without the bend."""
        wanted = np.hypot(points[:, 0], points[:, 1])
        found = wanted.copy()
        for _ in range(NEARER):
            found = wanted / (1 + self.bend * (found / self._reach) ** 2)
        share = np.where(wanted > 0, found / np.maximum(wanted, 1e-9), 1.0)
        return np.asarray(points * share[:, None] + self._middle, float)


@dataclass(frozen=True, slots=True)
class View:
    """How the sheet is seen: its plane onto the photograph (`onto`, 3 × 3, mm to px from the
    middle without bend), where the camera is over it (mm; the third upwards), and how far the
    sheet is from the shape that it has, so seen (`skew`, of its sides)."""

    lens: Lens
    onto: Floats
    camera_mm: Floats
    skew: float = 0.0

    def seen(self, points_mm: Floats) -> Floats:
        """Where points of the sheet's plane (n × 2, mm) are in the photograph (px)."""
        flat = np.column_stack((points_mm, np.ones(len(points_mm)))) @ self.onto.T
        return self.lens.bent(flat[:, :2] / flat[:, 2:])

    def lying(self, points_px: Floats) -> Floats:
        """Where on the sheet's plane (mm) points of the photograph (n × 2, px) lie."""
        straight = self.lens.straight(points_px)
        flat = np.column_stack((straight, np.ones(len(straight)))) @ np.linalg.inv(self.onto).T
        return np.asarray(flat[:, :2] / flat[:, 2:], float)


def corners_of(sheet_mm: tuple[float, float]) -> Floats:
    """A sheet's corners (mm): far left, far right, near right, near left."""
    width, depth = sheet_mm
    return np.array([[0, 0], [width, 0], [width, depth], [0, depth]], float)


def may_be_corners(corners: Sequence[Point]) -> bool:
    """Whether four corners, in order around, may be a sheet's (shares of the photograph): no one
    lies within the others, and they are not all in one place."""
    turns = []
    for k in range(4):
        (x0, y0), (x1, y1), (x2, y2) = (corners[(k + n) % 4] for n in range(3))
        turns.append((x1 - x0) * (y2 - y1) - (y1 - y0) * (x2 - x1))
    return min(turns) > LEAST_TURN


def view_of(straight: Floats, sheet_mm: tuple[float, float], lens: Lens) -> View:
    """The view in which a sheet's corners (far left, far right, near right, near left; px from the
    photograph's middle, without the lens's bend) are there."""
    onto = _homography(corners_of(sheet_mm), straight)
    focal, skew = _focal(onto, lens.size_px[0])
    bare = np.diag([1 / focal, 1 / focal, 1.0]) @ onto
    scale = 2 / (np.linalg.norm(bare[:, 0]) + np.linalg.norm(bare[:, 1]))
    across, down, away = (bare * scale).T
    left, _, right = np.linalg.svd(np.column_stack((across, down, np.cross(across, down))))
    camera = -(left @ right).T @ away
    # The sheet's axes are a left-handed pair with "up": what is seen from below is seen from above.
    camera[2] = abs(camera[2])
    return View(lens, onto, camera, skew)


def _homography(of: Floats, to: Floats) -> Floats:
    """The plane onto a plane by four points each, exactly (3 × 3; its last figure is 1)."""
    rows, values = [], []
    for (x, y), (u, v) in zip(of, to, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        values += [u, v]
    found = np.linalg.solve(np.array(rows), np.array(values))
    return np.append(found, 1.0).reshape(3, 3)


def _focal(onto: Floats, width_px: int) -> tuple[float, float]:
    """The focal length (px) with which two sides of the sheet are at right angles and of one
    scale, weighed against what is usual: from straight above, corners tell little of it. And how
    far they are from that."""
    focals = width_px * np.exp(np.arange(-0.8, 1.2, 0.01))
    ways = onto[:, :2].T[:, None, :] / np.stack((focals, focals, np.ones_like(focals)), axis=1)
    lengths = np.linalg.norm(ways, axis=2)
    square = (ways[0] * ways[1]).sum(axis=1) / (lengths[0] * lengths[1])
    skew = np.hypot(np.log(lengths[0] / lengths[1]), square)
    usual = np.log(focals / (USUAL_FOCAL * width_px)) / FOCAL_LN
    best = int(((skew / CORNERS) ** 2 + usual**2).argmin())
    return float(focals[best]), float(skew[best])
