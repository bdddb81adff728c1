"""The sheet: how pieces lie on it so that they do not touch when baked.

All lengths in mm, the origin at the sheet's upper left inner corner, x to the right, y down.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations
from typing import Literal

from finebatch.core.refusal import refuse

Pattern = Literal["rows", "staggered across", "staggered down"]

TOUCH_MM = 1e-6


@dataclass(frozen=True, slots=True)
class Sheet:
    """A baking sheet's inner size in mm, the margin kept free at its edge and the wanted gap."""

    width_mm: float
    depth_mm: float
    margin_mm: float = 10.0
    gap_mm: float = 12.0


@dataclass(frozen=True, slots=True)
class Footprint:
    """Room that one baked piece may need: a circle, or a box for a log. Across and down in mm."""

    across_mm: float
    down_mm: float
    is_round: bool


@dataclass(frozen=True, slots=True)
class Layout:
    """Where the pieces lie. `across_mm` and `down_mm` are the distances between middles in a
    row and between rows; `nearest_mm` is the least distance between two middles, if there are
    two."""

    pattern: Pattern
    centres: tuple[tuple[float, float], ...]
    rows: tuple[int, ...]
    across_mm: float
    down_mm: float
    nearest_mm: float | None
    turned: bool = False


@dataclass(frozen=True, slots=True)
class _Grid:
    """Rows of pieces before they are placed: counts, shifts and pitches."""

    pattern: Pattern
    counts: tuple[int, ...]
    shifts: tuple[float, ...]
    pitch: float
    row_pitch: float

    @property
    def size(self) -> int:
        return sum(self.counts)


def _spans(sheet: Sheet, foot: Footprint) -> tuple[float, float]:
    across = sheet.width_mm - 2 * sheet.margin_mm - foot.across_mm
    down = sheet.depth_mm - 2 * sheet.margin_mm - foot.down_mm
    if across < 0 or down < 0:
        need = f"{foot.across_mm / 10:.1f} × {foot.down_mm / 10:.1f} cm"
        room = f"{(sheet.width_mm - 2 * sheet.margin_mm) / 10:.1f} × "
        room += f"{(sheet.depth_mm - 2 * sheet.margin_mm) / 10:.1f} cm"
        raise refuse(
            "grams",
            f"One piece may need {need}, and the sheet has {room} inside its margin. "
            "Make the piece smaller or use a larger sheet.",
        )
    return across, down


def _fit(span: float, pitch: float) -> int:
    return math.floor(span / pitch + 1e-9) + 1


def _even_pitch(span: float, least: float, steps: float, foot: float) -> float:
    """How far apart `steps` + 1 pieces are when the room at the ends is half of that between."""
    if steps == 0:
        return least
    return min(max((span + foot) / (steps + 1), least), span / steps)


def _aligned(span_x: float, span_y: float, foot: Footprint, gap: float) -> Iterator[_Grid]:
    dx, dy = foot.across_mm + gap, foot.down_mm + gap
    for c in range(1, _fit(span_x, dx) + 1):
        for r in range(1, _fit(span_y, dy) + 1):
            pitch = _even_pitch(span_x, dx, c - 1, foot.across_mm)
            row_pitch = _even_pitch(span_y, dy, r - 1, foot.down_mm)
            yield _Grid("rows", (c,) * r, (0.0,) * r, pitch, row_pitch)


def _staggered(
    span_x: float, span_y: float, foot: float, gap: float, pattern: Pattern
) -> Iterator[_Grid]:
    """Rows shifted by half a pitch; every second row equal or one shorter."""
    d = foot + gap
    for c in range(2, _fit(span_x, d) + 1):
        for short in (True, False):
            steps = c - 1 if short else c - 0.5
            widest = span_x / steps
            if widest < d - TOUCH_MM:
                continue
            pitches = (d, _even_pitch(span_x, d, steps, foot), widest) if d < widest else (widest,)
            for pitch in pitches:
                # Neighbouring rows touch along the slant, rows two apart straight down.
                least = max(math.sqrt(max(d**2 - (pitch / 2) ** 2, 0.0)), d / 2)
                for r in range(2, _fit(span_y, least) + 1):
                    row_pitch = _even_pitch(span_y, least, r - 1, foot)
                    counts = tuple(c - 1 if short and k % 2 else c for k in range(r))
                    shifts = tuple(pitch / 2 if k % 2 else 0.0 for k in range(r))
                    yield _Grid(pattern, counts, shifts, pitch, row_pitch)


def _grids(sheet: Sheet, foot: Footprint) -> Iterator[tuple[_Grid, bool]]:
    """Every grid that fits, with whether its rows run down the sheet."""
    span_x, span_y = _spans(sheet, foot)
    gap = sheet.gap_mm
    for grid in _aligned(span_x, span_y, foot, gap):
        yield grid, False
    if foot.is_round:
        for grid in _staggered(span_x, span_y, foot.across_mm, gap, "staggered across"):
            yield grid, False
        for grid in _staggered(span_y, span_x, foot.across_mm, gap, "staggered down"):
            yield grid, True


def capacity(sheet: Sheet, foot: Footprint) -> int:
    """The most pieces one sheet holds; `Refusal` when not even one fits."""
    return max(grid.size for grid, _ in _grids(sheet, foot))


def _nearest(centres: tuple[tuple[float, float], ...]) -> float | None:
    return min((math.dist(a, b) for a, b in combinations(centres, 2)), default=None)


def _thin_out(counts: tuple[int, ...], surplus: int) -> list[tuple[int, int]]:
    """For each row the first and last place kept, the surplus taken off the last row's ends."""
    kept = [[0, c - 1] for c in counts]
    for k in range(surplus):
        kept[-1][k % 2 == 0] += -1 if k % 2 == 0 else 1
    return [(a, b) for a, b in kept]


def _place(grid: _Grid, down: bool, n: int, sheet: Sheet) -> Layout:
    rows = _thin_out(grid.counts, grid.size - n)
    along = [
        (grid.shifts[r] + k * grid.pitch, r * grid.row_pitch)
        for r, (first, last) in enumerate(rows)
        for k in range(first, last + 1)
    ]
    points = [(b, a) if down else (a, b) for a, b in along]
    shift_x = sheet.width_mm / 2 - (min(p[0] for p in points) + max(p[0] for p in points)) / 2
    shift_y = sheet.depth_mm / 2 - (min(p[1] for p in points) + max(p[1] for p in points)) / 2
    centres = tuple((x + shift_x, y + shift_y) for x, y in points)
    across, rows_apart = (grid.row_pitch, grid.pitch) if down else (grid.pitch, grid.row_pitch)
    counts = tuple(last - first + 1 for first, last in rows)
    return Layout(grid.pattern, centres, counts, across, rows_apart, _nearest(centres), down)


def lay_out(sheet: Sheet, foot: Footprint, pieces: int) -> Layout:
    """Lay out exactly `pieces` pieces, as evenly as a simple pattern allows, and centre them.

    Raises `Refusal` when they do not fit on one sheet.
    """
    fitting = [
        (grid, down) for grid, down in _grids(sheet, foot)
        if grid.size >= pieces and grid.size - pieces < grid.counts[-1]
    ]  # fmt: skip
    if not fitting:
        raise refuse("pieces", f"{pieces} pieces do not fit on one sheet.")
    least = min(grid.size for grid, _ in fitting)
    best = [_place(grid, down, pieces, sheet) for grid, down in fitting if grid.size == least]
    return max(best, key=lambda lay: (round(_ease(lay, sheet, foot), 1), lay.pattern == "rows"))


def _ease(layout: Layout, sheet: Sheet, foot: Footprint) -> float:
    """The tightest room in mm: between two pieces, or twice that between a piece and the edge."""
    wide = max(foot.across_mm, foot.down_mm) if foot.is_round else 0.0
    between = math.inf if layout.nearest_mm is None else layout.nearest_mm - wide
    xs, ys = zip(*layout.centres, strict=True)
    edge = min(
        min(xs) - foot.across_mm / 2,
        sheet.width_mm - max(xs) - foot.across_mm / 2,
        min(ys) - foot.down_mm / 2,
        sheet.depth_mm - max(ys) - foot.down_mm / 2,
    )
    return float(min(between, 2 * edge))


def spread_evenly(pieces: int, most: int) -> tuple[int, ...]:
    """Pieces on each tray: as few trays as hold them, none with more than one fewer (13 + 13)."""
    trays = math.ceil(pieces / most)
    each, over = divmod(pieces, trays) if trays else (0, 0)
    return tuple(each + (1 if k < over else 0) for k in range(trays))
