"""A photograph of a tray measured, in a process of its own: opened, its sheet found, its pieces."""

from base64 import b64decode
from typing import Any

import cv2
import numpy as np

from finebatch.core.photo.corners import find_corners
from finebatch.core.photo.names import empty_places
from finebatch.core.photo.pieces import pieces_seen
from finebatch.core.photo.view import Floats, Lens, view_of
from finebatch.formats.apart import answer_apart
from finebatch.workflow.book.shrink import NotTaken, opened_small
from finebatch.workflow.book.tray_words import Answer, Asked, Corner

CPU_S = 12.0
"""It takes one to three; an old machine may be so much slower."""
MEMORY = 640 << 20
"""Of addresses; what is in use of it is less than half (docs/photo.md)."""
ROUND = np.array([[np.cos(k * np.pi / 12), np.sin(k * np.pi / 12)] for k in range(24)])
MOST_POINTS = 60
"""An outline is told by so many points."""

INSIDE: list[Corner] = [(0.1, 0.1), (0.9, 0.1), (0.9, 0.9), (0.1, 0.9)]
"""Where the corners are put that a hand has to find."""


def _answer(asked: Asked) -> Answer | dict[str, str]:
    cv2.setNumThreads(1)
    try:
        picture = opened_small(b64decode(asked["photo"]))
    except NotTaken as error:
        return {"fault": str(error)}
    image = np.asarray(picture, np.uint8)[..., ::-1].copy()
    size = np.array(picture.size, float)
    sheet = asked["sheet_mm"]
    if asked["corners"] is not None:
        corners, sure = np.array(asked["corners"], float) * size, True
    else:
        looked = find_corners(image, sheet, asked["lined"], asked["beside"])
        if looked is None:
            return {"found": "none", "corners": INSIDE, "pieces": [], "empty": []}
        corners, sure = looked.at, looked.sure
    own = _turned(corners, sheet, picture.size)
    view, pieces = pieces_seen(
        image,
        own,
        sheet,
        asked["sheet_rgb"],
        asked["height_mm"],
        asked["about_mm"],
        asked["beside"],
    )
    return {
        "found": "sure" if sure else "about",
        "corners": _pairs(corners / size),
        "pieces": [
            {
                "middle_mm": piece.middle,
                "sizes_mm": (piece.mean_mm, piece.width_mm, piece.length_mm),
                "step": piece.step,
                "outline": _pairs(view.seen(_fewer(piece.outline)) / size),
                "touches": list(piece.touches),
                "gap_mm": piece.gap_mm,
            }
            for piece in pieces
        ],
        "empty": [
            _pairs(view.seen(np.array(place) + asked["about_mm"] / 2 * ROUND) / size)
            for place in empty_places(
                asked["places_mm"],
                [piece.middle for piece in pieces],
                asked["sheet_mm"],
                asked["about_mm"],
            )
        ],
    }


def _turned(corners: Floats, sheet_mm: tuple[float, float], size: tuple[int, int]) -> Floats:
    """The corners from the sheet's own far left one on: it may lie a quarter turned."""
    lens = Lens(0.0, size)
    ways = [corners, np.roll(corners, 1, axis=0)]
    return min(ways, key=lambda way: view_of(lens.straight(way), sheet_mm, lens).skew)


def _fewer(points: Floats) -> Floats:
    return points[:: max(1, len(points) // MOST_POINTS)]


def _pairs(points: Floats) -> list[Corner]:
    return [(round(float(x), 4), round(float(y), 4)) for x, y in points]


def _checked(asked: Any) -> object:
    return _answer(asked)


if __name__ == "__main__":
    answer_apart(_checked, memory=MEMORY, cpu_s=CPU_S)
