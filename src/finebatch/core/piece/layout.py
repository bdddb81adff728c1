"""The sheet: how pieces lie on it so that they do not touch when baked.

All lengths in mm, the origin at the sheet's upper left inner corner, x to the right, y down.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations
from typing import TYPE_CHECKING

import numpy as np

from finebatch.core.piece.nesting import Nest, nested
from finebatch.core.piece.packing import MOST_PACKED, pack
from finebatch.core.piece.rows import TOUCH_MM, Footprint, Grid, Pattern, Sheet, grids, room
from finebatch.core.refusal import refuse
from finebatch.core.values import Point

if TYPE_CHECKING:
    from shapely import Polygon

HOT_CORNER_MM = 70.0
"""Where an oven is hot in the corners, this much of each stays free, both ways (about the width of
one piece; usual guidance)."""

SPREAD = 1.25
"""Rows that reach into each other are laid so much further apart at most where there is room."""
NEARER_MM = 0.6
"""Profiles tell an outline to half a mm."""
MOST_MORE = 2
"""Rounds are packed closer where so many pieces more on a sheet would save a tray."""


@dataclass(frozen=True, slots=True)
class Layout:
    """Where the pieces lie. `rows` counts the pieces in each row; `nearest_mm` is the least
    distance between two middles, if there are two. When `turned`, rows run down the sheet and
    pieces that are not round lie a quarter turned."""

    pattern: Pattern
    centres: tuple[Point, ...]
    rows: tuple[int, ...]
    nearest_mm: float | None
    turned: bool = False


@dataclass(frozen=True, slots=True)
class Shared:
    """The most on a sheet, and each tray's layout, in order."""

    most_on_sheet: int
    layouts: tuple[Layout, ...]

    @property
    def trays(self) -> tuple[int, ...]:
        """Pieces on each tray."""
        return tuple(len(layout.centres) for layout in self.layouts)


def _free(sheet: Sheet, foot: Footprint, turned: bool, point: Point) -> bool:
    """Whether a piece there keeps out of the corners that are to stay free."""
    if not sheet.hot_corners:
        return True
    across, down = foot.across_mm / 2, foot.down_mm / 2
    if turned:
        across, down = down, across
    left = min(point[0], sheet.width_mm - point[0])
    top = min(point[1], sheet.depth_mm - point[1])
    if foot.is_round and left > HOT_CORNER_MM and top > HOT_CORNER_MM:
        return math.dist((left, top), (HOT_CORNER_MM, HOT_CORNER_MM)) >= across
    return left - across >= HOT_CORNER_MM or top - down >= HOT_CORNER_MM


Rows = list[list[Point]]


def _centred(rows: Rows, sheet: Sheet) -> Rows:
    """The same rows in the middle of the sheet."""
    xs, ys = zip(*(point for row in rows for point in row), strict=True)
    shift_x = sheet.width_mm / 2 - (min(xs) + max(xs)) / 2
    shift_y = sheet.depth_mm / 2 - (min(ys) + max(ys)) / 2
    return [[(x + shift_x, y + shift_y) for x, y in row] for row in rows]


def _on_sheet(grid: Grid, turned: bool, sheet: Sheet, foot: Footprint) -> Rows:
    """The whole grid in the middle of the sheet, without what lies in a corner that stays free."""
    rows = [
        [(shift + k * grid.pitch, down) for k in range(count)]
        for count, shift, down in zip(grid.counts, grid.shifts, grid.downs, strict=True)
    ]
    if turned:
        rows = [[(down, along) for along, down in row] for row in rows]
    rows = _centred(rows, sheet)
    kept = [[p for p in row if _free(sheet, foot, turned, p)] for row in rows]
    return [row for row in kept if row]


def _nearest(centres: tuple[Point, ...]) -> float | None:
    if len(centres) < 2:
        return None
    across, down = np.array(centres).T
    apart = np.hypot(across[:, None] - across, down[:, None] - down)
    return float(apart[np.triu_indices(len(centres), 1)].min())


def _place(grid: Grid, turned: bool, sheet: Sheet, foot: Footprint, pieces: int) -> Layout | None:
    """Just so many pieces of the grid, the surplus taken off the last rows' ends; None when it
    does not hold them."""
    rows = _on_sheet(grid, turned, sheet, foot)
    surplus = sum(map(len, rows)) - pieces
    if surplus < 0:
        return None
    for k in range(surplus):
        del rows[-1][-1 if k % 2 == 0 else 0]
        if not rows[-1]:
            rows.pop()
    if surplus and not sheet.hot_corners:
        rows = _centred(rows, sheet)
    points = tuple(point for row in rows for point in row)
    return Layout(grid.pattern, points, tuple(map(len, rows)), _nearest(points), turned)


def _size(grid: Grid, turned: bool, sheet: Sheet, foot: Footprint) -> int:
    if not sheet.hot_corners:
        return grid.size
    return sum(map(len, _on_sheet(grid, turned, sheet, foot)))


def capacity(sheet: Sheet, foot: Footprint) -> int:
    """The most pieces that rows, straight or staggered, put on one sheet; `Refusal` for none."""
    most = max(_size(grid, turned, sheet, foot) for grid, turned in grids(sheet, foot))
    if most < 1:
        raise refuse(
            "piece", "With its corners free the sheet has no room. Make the piece smaller."
        )
    return most


@lru_cache(maxsize=256)
def pack_closely(sheet: Sheet, foot: Footprint, pieces: int) -> Layout | None:
    """So many round pieces closer than rows would lie, to be laid out by a template; None when
    they do not fit, when there are more than can be laid out so, or when corners stay free."""
    along, over = room(sheet, foot, turned=False)
    if not foot.is_round or sheet.hot_corners or pieces > MOST_PACKED or min(along, over) < 0:
        return None
    points = pack(pieces, foot.across_mm + sheet.gap_mm, along, over)
    if points is None:
        return None
    shift = sheet.margin_mm + foot.across_mm / 2
    centres = sorted(((x + shift, y + shift) for x, y in points), key=lambda p: (p[1], p[0]))
    return Layout("close", tuple(centres), (pieces,), _nearest(tuple(centres)))


@lru_cache(maxsize=256)
def nest_closely(sheet: Sheet, foot: Footprint, pieces: int) -> Layout | None:
    """So many pieces with an outline of their own, all laid alike, in rows that reach into each
    other; None when they do not fit or when corners stay free."""
    if not foot.outline or sheet.hot_corners:
        return None
    for nest in nested(foot.outline_mm, sheet.gap_mm):
        if nest.turns != (0,) or nest.odd_turn:
            continue
        for turned in (False, True):
            along, over = room(sheet, foot, turned=turned)
            grid = _nest_grid(nest, along, over, pieces)
            found = grid and _place(grid, turned, sheet, foot, pieces)
            # Rows that run down the sheet are mirrored: an outline that is not may come too near.
            if found and _rims_apart(foot, found) >= sheet.gap_mm - NEARER_MM:
                return found
    return None


def _nest_grid(nest: Nest, along: float, over: float, pieces: int) -> Grid | None:
    """As few rows as hold so many, spread over the room; None where they do not fit."""
    if along < 0 or over < 0:
        return None
    (pitch,), shift = nest.steps_mm, nest.shift_mm
    equal = math.floor((along - shift) / pitch + TOUCH_MM) + 1
    longer = math.floor(along / pitch + TOUCH_MM) + 1
    for counts in {(equal, equal), (longer, equal), (longer, longer - 1)}:
        # What is shifted has to end within the room as well.
        if min(counts) < 1 or shift + (counts[1] - 1) * pitch > along + TOUCH_MM:
            continue
        rows = next((r for r in range(1, pieces + 1) if _held(counts, r) >= pieces), 0)
        if rows and (rows - 1) * nest.row_mm <= over + TOUCH_MM:
            each = tuple(counts[k % 2] for k in range(rows))
            shifts = tuple(shift if k % 2 else 0.0 for k in range(rows))
            step = min(nest.row_mm * SPREAD, over / (rows - 1)) if rows > 1 else 0.0
            return Grid("nested", each, shifts, pitch, tuple(k * step for k in range(rows)))
    return None


def _rims_apart(foot: Footprint, layout: Layout) -> float:
    """How far apart two outlines lie at the nearest."""
    drawn = [_outline(foot, point, turned=layout.turned) for point in layout.centres]
    return min((a.distance(b) for a, b in combinations(drawn, 2)), default=math.inf)


def _held(counts: tuple[int, int], rows: int) -> int:
    return counts[0] * ((rows + 1) // 2) + counts[1] * (rows // 2)


def lay_out(sheet: Sheet, foot: Footprint, pieces: int) -> Layout:
    """Lay out exactly `pieces` pieces in rows, as evenly as those allow, and centre them.

    Raises `Refusal` when they do not fit on one sheet.
    """
    placed = [
        (grid.size, found)
        for grid, turned in grids(sheet, foot, pieces)
        if grid.size >= pieces and (found := _place(grid, turned, sheet, foot, pieces))
    ]
    if not placed:
        raise refuse("pieces", f"{pieces} pieces do not fit on one sheet.")
    least = min(size for size, _ in placed)
    best = [found for size, found in placed if size == least]
    return max(best, key=lambda lay: (round(_ease(lay, sheet, foot), 1), lay.pattern == "rows"))


def _ease(layout: Layout, sheet: Sheet, foot: Footprint) -> float:
    """The tightest room in mm: between two pieces, or twice that between a piece and the edge."""
    wide = max(foot.across_mm, foot.down_mm) if foot.is_round else 0.0
    between = math.inf if layout.nearest_mm is None else layout.nearest_mm - wide
    xs, ys = zip(*layout.centres, strict=True)
    across, down = foot.across_mm / 2, foot.down_mm / 2
    if layout.turned:
        across, down = down, across
    edge = min(
        min(xs) - across,
        sheet.width_mm - max(xs) - across,
        min(ys) - down,
        sheet.depth_mm - max(ys) - down,
    )
    return float(min(between, 2 * edge))


def spread_evenly(pieces: int, most: int) -> tuple[int, ...]:
    """Pieces on each tray: as few trays as hold them, none with more than one fewer (13 + 13)."""
    trays = math.ceil(pieces / most)
    each, over = divmod(pieces, trays) if trays else (0, 0)
    return tuple(each + (1 if k < over else 0) for k in range(trays))


@lru_cache(maxsize=512)
def share_out(sheet: Sheet, foot: Footprint, pieces: int, most: int | None = None) -> Shared:
    """Pieces evenly over as few sheets as hold them, at most `most` on each where that is given.

    Rows are easier to lay out; what is closer is only taken where it saves a whole tray.
    """
    closer = nest_closely if foot.outline else pack_closely
    most_more = MOST_MORE if foot.is_round else math.inf
    in_rows = capacity(sheet, foot)
    holds = min(in_rows, most or in_rows)
    fewer = math.ceil(pieces / in_rows) - 1
    needed = math.ceil(pieces / fewer) if fewer else 0
    if holds == in_rows and 0 < needed - in_rows <= most_more and needed <= (most or needed):
        holds = needed if closer(sheet, foot, needed) else in_rows
    trays = spread_evenly(pieces, holds)
    by_count = {
        n: (closer(sheet, foot, n) if n > in_rows else None) or lay_out(sheet, foot, n)
        for n in set(trays)
    }
    return Shared(holds, tuple(by_count[n] for n in trays))


@dataclass(frozen=True, slots=True)
class Meeting:
    """Two pieces whose rims would meet, by their places, and by how many mm."""

    one: int
    other: int
    over_mm: float


def _clear_mm(foot: Footprint, one: Point, other: Point, *, turned: bool) -> float:
    """Free mm between the rims of two pieces; negative where they lie over each other."""
    if foot.is_round:
        return math.dist(one, other) - foot.across_mm
    across, down = (foot.down_mm, foot.across_mm) if turned else (foot.across_mm, foot.down_mm)
    boxes = max(abs(one[0] - other[0]) - across, abs(one[1] - other[1]) - down)
    if boxes >= 0 or not foot.outline:
        return boxes
    apart = _outline(foot, one, turned=turned).distance(_outline(foot, other, turned=turned))
    return float(apart) or boxes


def _outline(foot: Footprint, middle: Point, *, turned: bool) -> "Polygon":
    from shapely import Polygon  # takes time to load

    corners = [(-y, x) if turned else (x, y) for x, y in foot.outline_mm]
    return Polygon([(middle[0] + x, middle[1] + y) for x, y in corners])


def meetings(foot: Footprint, centres: Sequence[Point], *, turned: bool) -> list[Meeting]:
    """Pieces that would touch when baked, the worst first."""
    found = [
        Meeting(n, m, -clear)
        for (n, one), (m, other) in combinations(enumerate(centres), 2)
        if (clear := _clear_mm(foot, one, other, turned=turned)) < -TOUCH_MM
    ]
    return sorted(found, key=lambda met: -met.over_mm)


def off_sheet(
    sheet: Sheet, foot: Footprint, centres: Sequence[Point], *, turned: bool
) -> list[int]:
    """Pieces whose rims would run over the sheet's edge."""
    across, down = (foot.down_mm, foot.across_mm) if turned else (foot.across_mm, foot.down_mm)
    return [
        n
        for n, (x, y) in enumerate(centres)
        if min(x, sheet.width_mm - x) < across / 2 or min(y, sheet.depth_mm - y) < down / 2
    ]
