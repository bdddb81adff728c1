"""Drawn trays as they are measured, beside how they were drawn."""

from dataclasses import dataclass, field

import cv2
import numpy as np

from finebatch.core.photo.pieces import PieceSeen, pieces_seen
from finebatch.core.photo.view import Picture
from finebatch.facts import tables
from tests.drawn_trays import DrawnTray, draw, gap_mm

TOUCHING_MM, APART_MM = -0.5, 1.5


def image_of(tray: DrawnTray, rng: np.random.Generator, px: tuple[int, int]) -> Picture:
    """A photograph of it, as it is read."""
    sent = np.frombuffer(draw(tray, rng, px), np.uint8)
    return np.asarray(cv2.imdecode(sent, cv2.IMREAD_COLOR), np.uint8)


def seen_in(
    image: Picture, tray: DrawnTray, rng: np.random.Generator, off_px: float
) -> list[PieceSeen]:
    """Its pieces by corners that a hand put, so far off, and by a width and a height that were
    foreseen a tenth off."""
    by_hand = tray.corners + rng.normal(0, off_px, (4, 2))
    high, wide = (
        float(np.median(values)) * float(np.exp(rng.normal(0, 0.1)))
        for values in (
            [piece.high for piece in tray.pieces] or [12],
            [piece.widths.mean() for piece in tray.pieces] or [60],
        )
    )
    rgb = tables.sheet_colours()[tray.surface]
    return pieces_seen(image, by_hand, tray.size, rgb, high, wide)[1]


@dataclass
class Compared:
    """How far widths (as shares) and colours (steps) are off, what was missed and what was made up,
    and of those that run into each other whether that was told, and how often falsely."""

    widths: list[float] = field(default_factory=list)
    colours: list[float] = field(default_factory=list)
    touching: list[bool] = field(default_factory=list)
    pieces: int = 0
    missed: int = 0
    invented: int = 0
    falsely: int = 0

    def count(self, tray: DrawnTray, seen: list[PieceSeen]) -> "Compared":
        """One more tray."""
        of: dict[int, int] = {}
        for n, piece in enumerate(tray.pieces):
            far = [np.hypot(one.middle[0] - piece.x, one.middle[1] - piece.y) for one in seen]
            if far and min(far) < 0.6 * piece.half:
                of[n] = int(np.argmin(far))
                one = seen[of[n]]
                self.widths.append(abs(one.mean_mm / float(piece.widths.mean()) - 1))
                self.colours.append(abs(one.step - piece.step))
        for n, k in of.items():
            for m in (m for m in of if m < n):
                gap, told = gap_mm(tray.pieces[n], tray.pieces[m]), of[m] in seen[k].touches
                if gap < TOUCHING_MM:
                    self.touching.append(told)
                self.falsely += told and gap > APART_MM
        self.pieces += len(tray.pieces)
        self.missed += len(tray.pieces) - len(of)
        self.invented += len(seen) - len(set(of.values()))
        return self
