"""The outlines of pieces in the plan view of a sheet: what differs from it in colour, taken apart
where pieces ran together."""

from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from finebatch.core.photo.plan_view import PX_PER_MM, PlanView
from finebatch.core.photo.view import Floats, Picture

Mask = NDArray[np.bool_]

SMALLEST_MM2 = 250.0
"""Less is a crumb, a chip that fell off or a bubble of the paper (18 mm across)."""
OF_NOISE = 3.0
FAINTEST = 0.035
"""Less colour than that (in ln) is no piece, however even the sheet is."""
DARKER = 0.3
"""What is so much darker than the sheet (in `PlanView.differs`) is a piece whatever its colour."""
CRUMB_MM = 4.0
CHIP_MM = 9.0
"""What is the sheet's colour inside a piece, up to so wide, is a chip or a glint."""
DEEP = 0.5
"""A place that lies so deep in a blob, over the deepest, may be the middle of a piece."""
MOST_PEAKS = 120
"""A blob with more of them is no pieces that ran together: a cloth, a pattern."""
NECK = 0.8
"""Two middles are of two pieces where the way between them gets so much narrower."""
MORE_THAN_ONE = 1.35
"""A blob that is smaller than so much of a usual one's area is one piece, whatever its shape."""
SOFT_EDGE_PX = 6
FINER = 3
"""The edge is looked for at so many places in each px."""


@dataclass(frozen=True, slots=True)
class Outline:
    """A piece's silhouette on the sheet's plane (`points_mm`, n × 2), where in the plan view it
    is solid (from `corner_px` on), its number, and those that it lies against."""

    points_mm: Floats
    solid: Mask
    corner_px: tuple[int, int]
    number: int = 0
    touches: tuple[int, ...] = ()


def outlines(plan: PlanView, about_mm: float | None = None) -> list[Outline]:
    """The outlines of all that may be a piece, in no order; they are `about_mm` wide."""
    mask = _different(plan)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(mask)
    found: list[Outline] = []
    areas = stats[1:, cv2.CC_STAT_AREA]
    areas = areas[areas >= SMALLEST_MM2 * PX_PER_MM**2]
    usual = float(np.median(areas)) if len(areas) else 0.0
    if about_mm is not None:
        about = np.pi / 4 * (about_mm * PX_PER_MM) ** 2
        usual = float(np.clip(usual, 0.55 * about, 1.6 * about))
    for blob in range(1, count):
        if stats[blob, cv2.CC_STAT_AREA] < SMALLEST_MM2 * PX_PER_MM**2:
            continue
        single = stats[blob, cv2.CC_STAT_AREA] < MORE_THAN_ONE * usual
        box = _beside(stats[blob], mask.shape)
        found += _apart(plan, np.asarray(labels[box] == blob), single, box, len(found))
    return found


def _different(plan: PlanView) -> Picture:
    """Where something lies on the sheet, holes filled, crumbs left out."""
    colour = plan.colour
    values = colour[plan.inside]
    most = max(float(np.percentile(values, 99)), 1e-3)
    grey = np.clip(values / most * 255, 0, 255).astype(np.uint8)
    between, _ = cv2.threshold(grey, 0, 255, cv2.THRESH_OTSU)
    least = min(between / 255 * most, 0.6 * float(np.percentile(values, 97)))
    least = max(least, OF_NOISE * plan.noise, FAINTEST)
    on = ((colour > least) | (plan.differs[..., 2] < -DARKER)) & plan.inside
    brush = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (int(CRUMB_MM * PX_PER_MM) | 1,) * 2)
    opened = cv2.morphologyEx(on.astype(np.uint8), cv2.MORPH_OPEN, brush)
    return _filled(np.asarray(opened, np.uint8))


def _filled(mask: Picture) -> Picture:
    """A mask without holes."""
    rims, _ = cv2.findContours(mask, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    return np.asarray(cv2.drawContours(np.zeros_like(mask), rims, -1, 1, -1), np.uint8)


def _beside(stat: NDArray[np.int32], shape: tuple[int, ...]) -> tuple[slice, slice]:
    """The box around a blob, and so much as a soft edge takes beside it."""
    left, top, width, height = (int(v) for v in stat[:4])
    room = 2 * SOFT_EDGE_PX
    return (
        slice(max(top - room, 0), min(top + height + room, shape[0])),
        slice(max(left - room, 0), min(left + width + room, shape[1])),
    )


def _apart(
    plan: PlanView, blob: Mask, single: bool, box: tuple[slice, slice], before: int
) -> list[Outline]:
    """The pieces of a blob, which may be no more than a `single` one; `before` as many were found
    already."""
    parts = [_solid(blob)] if single else _shares(_solid(blob))
    found = []
    for part in parts:
        outline = _outline(plan, part, blob & ~part, box)
        if outline is not None:
            found.append((part, outline))
    return [
        replace(
            outline,
            number=before + n,
            touches=tuple(
                before + k
                for k, (other, _) in enumerate(found)
                if other is not part and bool((_grown(part, 2) & other).any())
            ),
        )
        for n, (part, outline) in enumerate(found)
    ]


def _solid(blob: Mask) -> Mask:
    """A blob with the places of the sheet's colour in it."""
    brush = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (int(CHIP_MM * PX_PER_MM) | 1,) * 2)
    closed = cv2.morphologyEx(blob.astype(np.uint8), cv2.MORPH_CLOSE, brush)
    return np.asarray(_filled(np.asarray(closed, np.uint8)) > 0)


def _shares(blob: Mask) -> list[Mask]:
    """A blob taken apart where it has a neck: each place goes to the middle whose piece, were it
    round, it lies deepest in."""
    depth = np.asarray(cv2.distanceTransform(blob.astype(np.uint8), cv2.DIST_L2, 5), float)
    deepest = float(depth.max())
    around = np.ones((int(deepest / 2) | 1,) * 2, np.uint8)
    peaks = np.argwhere((cv2.dilate(depth, around) == depth) & (depth > DEEP * deepest))
    if len(peaks) > MOST_PEAKS:
        return [blob]
    own = [depth[tuple(peak)] for peak in peaks]
    group = list(range(len(peaks)))
    for j in range(len(peaks)):
        for k in range(j):
            if group[j] != group[k] and _neck(depth, peaks[j], peaks[k]) > NECK * min(
                own[j], own[k]
            ):
                group = [group[k] if one == group[j] else one for one in group]
    kinds = sorted(set(group))
    if len(kinds) < 2:
        return [blob]
    y, x = np.indices(blob.shape)
    far = np.stack(
        [
            np.min(
                [
                    np.hypot(y - peaks[k][0], x - peaks[k][1]) - own[k]
                    for k in range(len(peaks))
                    if group[k] == kind
                ],
                axis=0,
            )
            for kind in kinds
        ]
    )
    nearest = far.argmin(axis=0)
    return [np.asarray(blob & (nearest == k)) for k in range(len(kinds))]


def _neck(depth: Floats, one: NDArray[np.int64], other: NDArray[np.int64]) -> float:
    """How narrow a blob is on the straight way between two of its places."""
    count = int(np.abs(one - other).max()) + 1
    way = np.linspace(one, other, count).round().astype(int)
    return float(depth[way[:, 0], way[:, 1]].min())


def _grown(mask: Mask, by: int) -> Mask:
    """A mask that reaches so many px farther, or less far where that is below 0."""
    brush = np.ones((2 * abs(by) + 1,) * 2, np.uint8)
    work = cv2.dilate if by > 0 else cv2.erode
    return np.asarray(work(mask.astype(np.uint8), brush) > 0)


def _outline(plan: PlanView, part: Mask, others: Mask, box: tuple[slice, slice]) -> Outline | None:
    """The outline of one piece: where half of the light comes from it, half from the sheet."""
    solid = _grown(part, -4)
    if part.sum() < SMALLEST_MM2 * PX_PER_MM**2 or not solid.any():
        return None
    differs = plan.differs[box]
    own = np.median(differs[solid], axis=0)[:2]
    share = differs[..., :2] @ own / max(float(own @ own), 1e-12)
    share = np.where(_grown(part, SOFT_EDGE_PX) & ~others, share, 0)
    share = np.where(solid, 1, share).astype(np.float32)
    half = _half(plan.light[box], part, others, own)
    fine = cv2.resize(share, None, fx=FINER, fy=FINER, interpolation=cv2.INTER_CUBIC)
    rims, _ = cv2.findContours(
        (fine > half).astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE
    )
    rim = max(rims, key=cv2.contourArea)[:, 0, :].astype(float)
    corner = (box[1].start, box[0].start)
    points = (rim + 0.5) / FINER - 0.5 + np.array(corner)
    return Outline(plan.on_sheet(points), solid, corner)


def _half(light: Floats, part: Mask, others: Mask, own: Floats) -> float:
    """At which share of the piece's own colour half of the light is its own: what is darker than
    the sheet has less of a say in the colour of both together."""
    rim = part & ~_grown(part, -2 * SOFT_EDGE_PX)
    beside = _grown(part, 2 * SOFT_EDGE_PX) & ~_grown(part, SOFT_EDGE_PX) & ~_grown(others, 4)
    if not beside.any():
        return 0.5
    of_piece, of_sheet = (np.median(light[where], axis=0) for where in (rim, beside))
    both = np.log((np.exp(of_piece) + np.exp(of_sheet)) / 2)
    colour = (both - of_sheet)[[0, 2]] - (both - of_sheet)[1]
    return float(np.clip(colour @ own / max(float(own @ own), 1e-12), 0.1, 0.93))
