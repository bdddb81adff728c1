"""A loaded tray before it is baked: how even its portions are, and which will run together."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from finebatch.core.values import Point

ODD = 0.2
"""A portion that is so much heavier or lighter than the others is told (a photograph's own error
in width is up to 4 % in one of ten, three times that in mass)."""
OFF_PLAN = 0.12
"""So far off what was planned are all together before it is told: a camera's error in all is 1.2 %
of width, and a ball's height is not seen."""
OF_MASS = 0.4
"""By how much in ln a piece bakes wider with its mass (as in learning)."""
NEAR_MM = 1.0


@dataclass(frozen=True, slots=True)
class OddPortion:
    """A portion that is heavier than the others by that share, lighter where it is below 0."""

    name: str
    share: float


@dataclass(frozen=True, slots=True)
class RawTray:
    """A loaded tray: how uneven its portions are (standard deviation over the mean of mass), how
    much heavier than planned all are together (a share; None where it is too little to tell),
    those that are odd, and the pairs that will touch when they are baked."""

    cv: float
    heavier: float | None
    odd: tuple[OddPortion, ...]
    will_touch: tuple[tuple[str, ...], ...]


@dataclass(frozen=True, slots=True)
class LoadedPiece:
    """A raw piece on its sheet: its name, its middle and its width (mm)."""

    name: str
    middle: Point
    width_mm: float


def look_at(
    pieces: Sequence[LoadedPiece], planned_mm: float, baked_mm: float, flat: bool
) -> RawTray | None:
    """What a loaded tray of pieces says that are planned to be `planned_mm` wide raw and `baked_mm`
    baked; those of a sheet of dough (`flat`) are as thick as it. None for fewer than two."""
    if len(pieces) < 2:
        return None
    widths = np.array([piece.width_mm for piece in pieces])
    masses = (widths / widths.mean()) ** (2 if flat else 3)
    # One that is far off shall not make the others odd.
    shares = masses / float(np.median(masses)) - 1
    odd = [
        OddPortion(piece.name, round(float(share), 2))
        for piece, share in zip(pieces, shares, strict=True)
        if abs(share) > ODD
    ]
    heavier = float((np.median(widths) / planned_mm) ** (2 if flat else 3) - 1)
    baked = baked_mm * (1 + heavier) ** OF_MASS * (1 + shares) ** OF_MASS
    middles = np.array([piece.middle for piece in pieces])
    touching = [
        (pieces[j].name, pieces[k].name)
        for k in range(len(pieces))
        for j in range(k)
        if np.hypot(*(middles[j] - middles[k])) - (baked[j] + baked[k]) / 2 < NEAR_MM
    ]
    return RawTray(
        round(float(masses.std(ddof=1) / masses.mean()), 3),
        round(heavier, 2) if abs(heavier) > OFF_PLAN else None,
        tuple(sorted(odd, key=lambda one: -abs(one.share))),
        tuple(touching),
    )
