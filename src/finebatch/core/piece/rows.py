"""Rows of pieces, straight or staggered, before they are placed on a sheet. Lengths in mm."""

import math
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval, MaxLen

from finebatch.core.measures.figures import by, centimetres
from finebatch.core.refusal import refuse
from finebatch.core.values import FromOutside, Point

Pattern = Literal["rows", "staggered across", "staggered down", "close", "nested"]

TOUCH_MM = 1e-6
MOST_CORNERS = 400


@dataclass(frozen=True, slots=True)
class Sheet:
    """A baking sheet's inner size in mm, the margin kept free at its edge and the wanted gap.

    `hot_corners` leaves the four corners free.
    """

    width_mm: float
    depth_mm: float
    margin_mm: float = 10.0
    gap_mm: float = 12.0
    hot_corners: bool = False


@dataclass(frozen=True, slots=True)
class Footprint(FromOutside):
    """Room that one baked piece may need: a circle, or a box for a log. Across and down in mm. Of
    one with an outline of its own, its corners in a box from −1/2 to 1/2."""

    across_mm: Annotated[float, Interval(gt=0, le=1000)]
    down_mm: Annotated[float, Interval(gt=0, le=1000)]
    is_round: bool
    outline: Annotated[tuple[Point, ...], MaxLen(MOST_CORNERS)] = ()

    @property
    def outline_mm(self) -> tuple[Point, ...]:
        """Its corners about its middle, in mm."""
        return tuple((x * self.across_mm, y * self.down_mm) for x, y in self.outline)


@dataclass(frozen=True, slots=True)
class Grid:
    """Rows of pieces before they are placed: counts, shifts, and how far down each row is."""

    pattern: Pattern
    counts: tuple[int, ...]
    shifts: tuple[float, ...]
    pitch: float
    downs: tuple[float, ...]

    @property
    def size(self) -> int:
        """How many pieces it holds."""
        return sum(self.counts)


def room(sheet: Sheet, foot: Footprint, *, turned: bool) -> tuple[float, float]:
    """How far middles may lie apart along the rows and across them; negative when none fits."""
    across = sheet.width_mm - 2 * sheet.margin_mm
    down = sheet.depth_mm - 2 * sheet.margin_mm
    along, over = (down, across) if turned else (across, down)
    return along - foot.across_mm, over - foot.down_mm


def _check_room(sheet: Sheet, foot: Footprint) -> None:
    if any(min(room(sheet, foot, turned=turned)) >= 0 for turned in (False, True)):
        return
    across = sheet.width_mm - 2 * sheet.margin_mm
    down = sheet.depth_mm - 2 * sheet.margin_mm
    raise refuse(
        "piece",
        f"One piece may need {by(foot.across_mm, foot.down_mm)} when baked, "
        f"and the sheet has {by(across, down)} inside its margin. Make the "
        f"piece at most {centimetres(min(across, down))} across, or use a larger sheet.",
    )


def _fit(span: float, pitch: float) -> int:
    return math.floor(span / pitch + 1e-9) + 1


def _even_pitch(span: float, least: float, steps: float, foot: float) -> float:
    """How far apart `steps` + 1 pieces are when the room at the ends is half of that between."""
    if steps == 0:
        return least
    return min(max((span + foot) / (steps + 1), least), span / steps)


def _downs(steps: Sequence[float], span: float, foot: float) -> tuple[float, ...]:
    """How far down each row lies when what is over is shared out between the steps."""
    total = sum(steps)
    if not steps:
        return (0.0,)
    by = _even_pitch(span, total / len(steps), len(steps), foot) * len(steps) / total
    found = [0.0]
    for step in steps:
        found.append(found[-1] + by * step)
    return tuple(found)


@dataclass(frozen=True, slots=True)
class _Wanted:
    """Which grids are worth building: the fullest, or those that just hold so many pieces."""

    pieces: int | None
    corners_free: bool = False

    def rows(self, size: Callable[[int], int], least: int, most: int) -> Iterable[int]:
        """Numbers of rows between `least` and `most`, where so many rows hold `size` pieces."""
        if most < least:
            return ()
        if self.pieces is None:
            return range(least if self.corners_free else most, most + 1)
        first = next((r for r in range(least, most + 1) if size(r) >= self.pieces), most + 1)
        return range(first, (most if self.corners_free else min(first, most)) + 1)


def _aligned(
    along: float, over: float, foot: Footprint, gap: float, wanted: _Wanted
) -> Iterator[Grid]:
    dx, dy = foot.across_mm + gap, foot.down_mm + gap
    for c in range(1, _fit(along, dx) + 1):
        pitch = _even_pitch(along, dx, c - 1, foot.across_mm)
        for r in wanted.rows(lambda r, c=c: c * r, 1, _fit(over, dy)):  # type: ignore[misc]
            downs = _downs((dy,) * (r - 1), over, foot.down_mm)
            yield Grid("rows", (c,) * r, (0.0,) * r, pitch, downs)


def _slant(apart: float, shift: float) -> float:
    """From a row to one shifted by `shift` so that neighbours are just `apart`."""
    return math.sqrt(max(apart**2 - shift**2, 0.0))


@dataclass(frozen=True, slots=True)
class _Strip:
    """What staggered rows are laid across: how far middles may lie apart over the rows, a piece
    and the least distance, and which grids are worth building."""

    over: float
    foot: float
    apart: float
    pattern: Pattern
    wanted: _Wanted


def _staggered(along: float, strip: _Strip) -> Iterator[Grid]:
    """Every second row shifted: by half a pitch, equal or one shorter; or by what room there is."""
    d = strip.apart
    for c in range(2, _fit(along, d) + 1):
        for short in (True, False):
            steps = c - 1 if short else c - 0.5
            widest = along / steps
            if widest < d - TOUCH_MM:
                continue
            even = _even_pitch(along, d, steps, strip.foot)
            for pitch in (d, even, widest) if d < widest else (widest,):
                yield from _rows_of(c, pitch, pitch / 2, strip, short=short)
        room_left = along - (c - 1) * d
        if 0 < room_left < d / 2:
            yield from _rows_of(c, d, room_left, strip, short=False)


def _rows_of(c: int, pitch: float, shift: float, strip: _Strip, *, short: bool) -> Iterator[Grid]:
    # Neighbouring rows touch along the slant, rows two apart straight down.
    step = max(_slant(strip.apart, min(shift, pitch - shift)), strip.apart / 2)
    most = _fit(strip.over, step)

    def size(r: int) -> int:
        return c * r - (r // 2 if short else 0)

    for r in strip.wanted.rows(size, 2, most):
        counts = tuple(c - 1 if short and k % 2 else c for k in range(r))
        shifts = tuple(shift if k % 2 else 0.0 for k in range(r))
        downs = _downs((step,) * (r - 1), strip.over, strip.foot)
        yield Grid(strip.pattern, counts, shifts, pitch, downs)
    if short:
        # A row fewer, with some straight under each other, may hold more than one shorter each.
        for r in range(max(2, most - 1), most + 1):
            yield from _mixed(c, r, pitch, step, strip)


def _mixed(c: int, r: int, pitch: float, step: float, strip: _Strip) -> Iterator[Grid]:
    """Rows one shorter only where the room calls for it; the others straight under each other."""
    d = strip.apart
    straight = math.floor((strip.over - (r - 1) * step) / (d - step) + 1e-9) if d > step else 0
    for m in range(1, min(straight, r - 2) + 1):
        counts, shifts, steps, shifted = [c], [0.0], [], False
        for k in range(r - 1):
            stays = k >= r - 1 - m and not shifted
            steps.append(d if stays else step)
            shifted = shifted if stays else not shifted
            counts.append(c - 1 if shifted else c)
            shifts.append(pitch / 2 if shifted else 0.0)
        if sum(steps) <= strip.over + TOUCH_MM:
            downs = _downs(steps, strip.over, strip.foot)
            yield Grid(strip.pattern, tuple(counts), tuple(shifts), pitch, downs)


def grids(sheet: Sheet, foot: Footprint, pieces: int | None = None) -> Iterator[tuple[Grid, bool]]:
    """Every grid worth building, with whether its rows run down the sheet."""
    _check_room(sheet, foot)
    # Where corners stay free, a grid loses pieces there and needs rows to make up for them.
    wanted = _Wanted(pieces, sheet.hot_corners)
    patterns: tuple[Pattern, Pattern] = ("staggered across", "staggered down")
    for turned, pattern in zip((False, True), patterns, strict=True):
        along, over = room(sheet, foot, turned=turned)
        if along < 0 or over < 0:
            continue
        if not (turned and foot.is_round):
            for grid in _aligned(along, over, foot, sheet.gap_mm, wanted):
                yield grid, turned
        if foot.is_round:
            apart = foot.across_mm + sheet.gap_mm
            for grid in _staggered(along, _Strip(over, foot.across_mm, apart, pattern, wanted)):
                yield grid, turned
