"""Where an oven browns and spreads most: by the pieces of photographed trays.

Each piece is compared with the others of its own tray, so that doughs of any width and colour teach
the same. A tray that was turned half-way tells nothing of sides, as both had their share.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from finebatch.core.book.pictured import Pictured, PiecePictured, SheetSide
from finebatch.core.heat.oven import HotSide

FEWEST = 6
"""A tray with fewer pieces tells nothing of sides."""
TURNS: dict[SheetSide, int] = {"far": 0, "right": 1, "near": 2, "left": 3}
"""By how many quarters, against the clock, a sheet is turned so that this side is at the back."""
OWN_SD_STEPS = 0.35
"""How far pieces of one tray differ in colour by themselves (steps of the strip)."""
OWN_SD_LN = 0.04
"""The same in ln of width: portions and hands."""
USUAL_SD_STEPS, USUAL_SD_LN = 0.6, 0.03
"""How far the middles of an oven's fields differ, as far as is usual."""
HOT_STEPS = 0.4
"""A side that is so many steps darker than the one across is told."""
SURE = 2.0
HOT_CORNER_STEPS = 0.5
Floats: TypeAlias = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Tilt:
    """How much more the right and the near side of one sheet are than the left and the far one: in
    steps of the strip and in ln of width."""

    right_steps: float
    near_steps: float
    right_ln: float
    near_ln: float


@dataclass(frozen=True, slots=True)
class MapField:
    """One field of the oven's floor: how much darker (steps) and wider (%) pieces come out there
    than on their tray, and how many were seen there."""

    steps: float
    wider_pct: float
    pieces: int


@dataclass(frozen=True, slots=True)
class OvenMap:
    """An oven's floor in three rows of three fields, the back one first, each from the left; which
    oven's, and from how many trays. `hot_side` is where it browns first, if that is sure;
    `hot_corners` whether the four corners do."""

    fields: tuple[tuple[MapField, ...], ...]
    oven: int
    trays: int
    hot_side: HotSide
    hot_side_steps: float
    hot_corners: bool


def _places(pictured: Pictured, back: SheetSide) -> Floats:
    """Each piece's place in the oven, from −1 at the left and at the back to 1 (n × 2)."""
    places = np.array(
        [
            [2 * piece.x_mm / pictured.wide_mm - 1, 2 * piece.y_mm / pictured.deep_mm - 1]
            for piece in pictured.pieces
        ]
    )
    for _ in range(TURNS[back]):
        places = np.column_stack((places[:, 1], -places[:, 0]))
    return places


def _figures(pieces: Sequence[PiecePictured]) -> Floats:
    """Each piece's step and ln of width beside those of its tray (n × 2)."""
    found = np.array([[piece.step, np.log(piece.width_mm)] for piece in pieces])
    return np.asarray(found - found.mean(axis=0), float)


def tilt_of(pictured: Pictured) -> Tilt | None:
    """How one sheet came out from side to side, as it is photographed; None for few pieces."""
    if len(pictured.pieces) < FEWEST:
        return None
    places = _places(pictured, "far")
    slopes = np.linalg.lstsq(
        np.column_stack((np.ones(len(places)), places)), _figures(pictured.pieces), rcond=None
    )[0]
    return Tilt(*(2 * float(v) for v in (slopes[1, 0], slopes[2, 0], slopes[1, 1], slopes[2, 1])))


def oven_maps(trays: Sequence[Pictured]) -> list[OvenMap]:
    """Each oven by all trays that were not turned; of one without enough pieces there is none."""
    told = [tray for tray in trays if not tray.turned and len(tray.pieces) >= FEWEST]
    ovens = sorted({tray.oven for tray in told})
    return [_map(oven, [tray for tray in told if tray.oven == oven]) for oven in ovens]


def _map(oven: int, told: Sequence[Pictured]) -> OvenMap:
    places = np.concatenate([_places(tray, tray.back) for tray in told])
    figures = np.concatenate([_figures(tray.pieces) for tray in told])
    column, row = (np.clip(((places[:, k] + 1) * 1.5).astype(int), 0, 2) for k in (0, 1))
    fields = tuple(
        tuple(_field(figures[(row == y) & (column == x)]) for x in range(3)) for y in range(3)
    )
    side, steps = _hot_side(places, figures[:, 0])
    corners = [fields[y][x].steps for y in (0, 2) for x in (0, 2)]
    return OvenMap(fields, oven, len(told), side, steps, min(corners) > HOT_CORNER_STEPS)


def _field(figures: Floats) -> MapField:
    """The mean of what was seen in a field, nearer to none the less was seen."""
    count = len(figures)
    if count == 0:
        return MapField(0.0, 0.0, 0)
    share_steps = count / (count + (OWN_SD_STEPS / USUAL_SD_STEPS) ** 2)
    share_ln = count / (count + (OWN_SD_LN / USUAL_SD_LN) ** 2)
    steps, wider = figures.mean(axis=0) * (share_steps, share_ln)
    return MapField(round(float(steps), 2), round(float(100 * np.expm1(wider)), 1), count)


def _hot_side(places: Floats, steps: Floats) -> tuple[HotSide, float]:
    """The side that browns first, and by how many steps before the one across."""
    terms = np.column_stack((np.ones(len(places)), places))
    slopes, _, _, _ = np.linalg.lstsq(terms, steps, rcond=None)
    left = steps - terms @ slopes
    noise = max(float((left**2).sum()) / max(len(steps) - 3, 1), 0.1**2)
    spread = np.sqrt(noise * np.diag(np.linalg.pinv(terms.T @ terms)))
    ways: tuple[tuple[int, HotSide, HotSide], ...] = ((1, "left", "right"), (2, "back", "front"))
    k, less, more = max(ways, key=lambda way: abs(slopes[way[0]]))
    across = 2 * float(slopes[k])
    if abs(across) < HOT_STEPS or abs(slopes[k]) < SURE * spread[k]:
        return "even", 0.0
    return (more if across > 0 else less), round(abs(across), 2)
