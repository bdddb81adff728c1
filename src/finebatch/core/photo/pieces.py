"""The pieces of a photographed tray: their sizes on the sheet, their colour, which ran together."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np

from finebatch.core.heat.colour import STRIP_RGB
from finebatch.core.photo.edges import sides_of
from finebatch.core.photo.names import rows_of
from finebatch.core.photo.outlines import Outline, outlines
from finebatch.core.photo.plan_view import PX_PER_MM, Area, PlanView, plan_view
from finebatch.core.photo.view import Floats, Picture, View, view_of
from finebatch.core.values import Point

DIRECTIONS = np.radians(np.arange(0, 180, 5))
ACROSS = np.column_stack((np.cos(DIRECTIONS), np.sin(DIRECTIONS)))
UPWARDS = np.linspace(0, 0.999, 40)
PROFILE = (1 - UPWARDS**2.2) ** (1 / 2.6)
"""A dome's half width at each height, over that at its foot (kitchen measurements of drop and
rolled pieces; see `docs/photo.md`)."""
FROM_FOOT = 0.35
"""The middle of a silhouette lies as if at so much of the piece's height."""


OUT_OF_PLACE = (0.4, 2.2)
"""What is so much narrower or wider than the pieces are is none: a crumb, a hand, a glint."""
AT_SIDE, AT_SIDE_MM = 0.22, 0.9
"""What lies along the sheet's side with so much of its outline reaches over it."""
NEIGHBOURS = 6
ROUNDISH = 0.88
TOUCH_MM = 1.0
"""Pieces of one blob that are nearer than that ran together; others only seem to, one before the
other."""


@dataclass(frozen=True, slots=True)
class PieceSeen:
    """A piece as a photograph shows it: its middle on the sheet, its mean width over all
    directions, its least width and the one across that (mm); its step on the colour strip (from
    1); its silhouette's points on the sheet's plane (mm); its widths in all `DIRECTIONS`; the
    numbers of those it ran into, and how far the nearest is (mm; None where it is alone)."""

    middle: Point
    mean_mm: float
    width_mm: float
    length_mm: float
    step: float
    outline: Floats
    widths_mm: Floats
    touches: tuple[int, ...] = ()
    gap_mm: float | None = None


def pieces_seen(
    image: Picture,
    corners_px: Floats,
    sheet_mm: tuple[float, float],
    sheet_rgb: tuple[float, float, float],
    height_mm: float,
    about_mm: float | None = None,
    beside: bool = False,
) -> tuple[View, list[PieceSeen]]:
    """What lies on a photographed sheet, or `beside` a thing of known size, row by row from the
    far left, and how it is seen.

    `image` is h × w × 3 (blue first), `corners_px` the sheet's inner corners (far left, far right,
    near right, near left), `sheet_rgb` the bare sheet's own colour, `height_mm` about how high and
    `about_mm` how wide pieces are. Beside a thing, all three are of that thing.
    """
    sides = sides_of(image, corners_px)
    view = view_of(sides.corners, sheet_mm, sides.lens)
    sheet = Area.of_sheet(sheet_mm)
    if beside:
        plan = plan_view(image, view, Area.around(view, sheet_mm), sheet)
    else:
        plan = plan_view(image, view, sheet)
    to_side = _to_side(plan)
    found = [
        (one, _piece(plan, one, view, sheet_rgb, height_mm))
        for one in outlines(plan, about_mm)
        if not _over_side(one, to_side, plan)
    ]
    usual = about_mm or float(np.median([piece.mean_mm for _, piece in found] or [1]))
    least, most = (share * usual for share in OUT_OF_PLACE)
    kept = [both for both in found if least <= both[1].mean_mm <= most]
    rows = rows_of([piece.middle for _, piece in kept], usual)
    kept = [kept[k] for row in rows for k in row]
    numbers = {one.number: k for k, (one, _) in enumerate(kept)}
    pieces = [piece for _, piece in kept]
    return view, [
        replace(
            piece,
            gap_mm=_nearest_mm(piece, pieces),
            touches=tuple(
                sorted(
                    numbers[other]
                    for other in one.touches
                    if other in numbers and _gap_mm(piece, pieces[numbers[other]]) < TOUCH_MM
                )
            ),
        )
        for one, piece in kept
    ]


def _to_side(plan: PlanView) -> Floats:
    """How far each place of a plan view is from what is not looked at (mm)."""
    padded = np.pad(plan.inside, 1).astype(np.uint8)
    far = np.asarray(cv2.distanceTransform(padded, cv2.DIST_L2, 5), float)
    return far[1:-1, 1:-1] / PX_PER_MM


def _over_side(outline: Outline, to_side: Floats, plan: PlanView) -> bool:
    """Whether something reaches over the side of what is looked at: a hand, the rim's shadow."""
    points = np.round(plan.in_view(outline.points_mm)).astype(int)
    height, width = to_side.shape
    x, y = points[:, 0].clip(0, width - 1), points[:, 1].clip(0, height - 1)
    return float((to_side[y, x] < AT_SIDE_MM).mean()) > AT_SIDE


def _nearest_mm(piece: PieceSeen, pieces: Sequence[PieceSeen]) -> float | None:
    """How far a piece is from the nearest other one; 0 where it ran into one."""
    others = sorted(
        (other for other in pieces if other is not piece),
        key=lambda other: np.hypot(*(np.array(other.middle) - np.array(piece.middle))),
    )[:NEIGHBOURS]
    return max(min(_gap_mm(piece, other) for other in others), 0.0) if others else None


def _gap_mm(one: PieceSeen, other: PieceSeen) -> float:
    """How far two pieces are apart on the sheet, on the way from middle to middle: what both take
    together, less what each takes. Where one hides part of the other, their far ends are seen, and
    of what is round the widths across."""
    apart = np.array(other.middle) - np.array(one.middle)
    towards = round(float(np.arctan2(apart[1], apart[0])) / (np.pi / len(ACROSS))) % len(ACROSS)
    ends, room, risen = [], 0.0, 0.0
    for piece in (one, other):
        along = piece.outline @ ACROSS[towards]
        ends += [float(along.min()), float(along.max())]
        risen += (ends[-1] - ends[-2] - float(piece.widths_mm[towards])) / 2
        is_round = piece.width_mm > ROUNDISH * piece.length_mm
        own = (towards + len(ACROSS) // 2) % len(ACROSS) if is_round else towards
        room += float(piece.widths_mm[own])
    return max(ends) - min(ends) - risen - room


def _piece(
    plan: PlanView,
    outline: Outline,
    view: View,
    sheet_rgb: tuple[float, float, float],
    height_mm: float,
) -> PieceSeen:
    widths, middle = _at_foot(outline.points_mm, view.camera_mm, height_mm)
    least = int(widths.argmin())
    return PieceSeen(
        (float(middle[0]), float(middle[1])),
        float(widths.mean()),
        float(widths[least]),
        float(widths[(least + len(widths) // 2) % len(widths)]),
        _step(plan, outline, sheet_rgb),
        outline.points_mm,
        widths,
    )


def _at_foot(points: Floats, camera: Floats, height_mm: float) -> tuple[Floats, Floats]:
    """A piece's widths in all `DIRECTIONS`, and its middle, by its silhouette: what stands up
    from the sheet is seen larger, and farther from the camera than it lies."""
    along = points @ ACROSS.T
    seen = along.max(axis=0) - along.min(axis=0)
    middle = points.mean(axis=0)
    nearer = camera[2] / (camera[2] - UPWARDS * height_mm)
    drawn = (camera[:2] + (middle - camera[:2]) * nearer[:, None]) @ ACROSS.T
    half = seen.mean() / 2
    more = np.zeros_like(seen)
    for _ in range(4):
        reach = (half * PROFILE * nearer)[:, None]
        more = (drawn + reach).max(axis=0) + (reach - drawn).max(axis=0) - 2 * half
        half = float((seen - more).mean()) / 2
    lies = camera[:2] + (middle - camera[:2]) * (1 - FROM_FOOT * height_mm / camera[2])
    return seen - more, lies


def _step(plan: PlanView, outline: Outline, sheet_rgb: tuple[float, float, float]) -> float:
    """The step of the strip that is nearest to a piece's colour, by the bare sheet beside it."""
    left, top = outline.corner_px
    height, width = outline.solid.shape
    box = (slice(top, top + height), slice(left, left + width))
    ratio = np.median((plan.light[box] - plan.bare[box])[outline.solid], axis=0)
    own = ratio + np.log(sheet_rgb)
    strip = np.log(STRIP_RGB)
    steps = np.arange(0, len(STRIP_RGB) - 0.99, 0.05)
    low = np.minimum(steps.astype(int), len(STRIP_RGB) - 2)
    share = (steps - low)[:, None]
    shades = strip[low] * (1 - share) + strip[low + 1] * share
    return 1 + float(steps[((shades - own) ** 2).sum(axis=1).argmin()])
