"""How pieces on a sheet are called: by row from the far side, and by place from the left."""

from collections.abc import Sequence
from string import ascii_uppercase

import numpy as np

from finebatch.core.values import Point

AS_LAID_OUT = 0.35
"""Where more places than that are empty, the tray was laid out otherwise."""


def rows_of(middles: Sequence[Point], width_mm: float) -> list[list[int]]:
    """The numbers of places (mm) row by row from the far side, each from the left: the next row
    begins where one lies more than half a piece nearer than the row does in the mean."""
    rows: list[list[int]] = []
    for k in sorted(range(len(middles)), key=lambda k: middles[k][1]):
        row = rows[-1] if rows else []
        if row and middles[k][1] - np.mean([middles[j][1] for j in row]) < width_mm / 2:
            row.append(k)
        else:
            rows.append([k])
    return [sorted(row, key=lambda k: middles[k][0]) for row in rows]


def place_names(middles: Sequence[Point], width_mm: float) -> list[str]:
    """The name of each place: "B3" is the third from the left in the second row."""
    names = [""] * len(middles)
    for letter, row in enumerate(rows_of(middles, width_mm)):
        for number, k in enumerate(row, start=1):
            names[k] = f"{ascii_uppercase[min(letter, 25)]}{number}"
    return names


def empty_places(
    places: Sequence[Point], middles: Sequence[Point], sheet_mm: Point, width_mm: float
) -> list[Point]:
    """The places of a layout (mm) where nothing was seen, by whichever of its ends the sheet was
    photographed from; none where what lies there was laid out otherwise."""
    turned = [(sheet_mm[0] - x, sheet_mm[1] - y) for x, y in places]
    ways = [_unseen(way, middles, width_mm / 2) for way in (places, turned)]
    fewest = min(ways, key=len)
    return fewest if len(fewest) <= AS_LAID_OUT * len(places) else []


def _unseen(places: Sequence[Point], middles: Sequence[Point], near_mm: float) -> list[Point]:
    seen = np.array(middles, float).reshape(-1, 2)
    return [
        place
        for place in places
        if not len(seen) or np.hypot(*(seen - np.array(place)).T).min() > near_mm
    ]
