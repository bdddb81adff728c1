"""The plan view of a sheet, and how each place of it differs from the bare sheet."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from finebatch.core.photo.view import Floats, Picture, View

PX_PER_MM = 2.5
BESIDE_MM = 4.0
"""So much is drawn beside the sheet."""
SOFT_PX = 1.6
OF_LIGHT = 0.35
"""How much lightness counts beside colour: shadows and a lamp from one side change it."""
AROUND_MM = 350.0
"""So far beside a thing of known size pieces are looked for."""
THING_MM = 6.0
"""So near to the sides of that thing its shadow and its edge are neither it nor the table."""
ENDS = (np.min, np.max)
TOLD = np.array([[1, -1, 0], [0, -1, 1], [OF_LIGHT / 3] * 3])
"""Ln of red, green and blue to red over green, blue over green, and lightness."""
EDGE_MM = 2.0
"""So near to the sheet's sides rim and glare are no sheet."""
RING_MM = 16.0
"""So near they are seldom a piece: the first look at the bare sheet is there."""
FITTED = 6_000
ROUNDS, AGAIN = 6, 3


@dataclass(frozen=True, slots=True)
class Area:
    """What is looked at of the plane (mm): its left, far, right and near side."""

    left: float
    far: float
    right: float
    near: float

    @staticmethod
    def of_sheet(sheet_mm: tuple[float, float]) -> "Area":
        """A sheet's inner bottom."""
        return Area(0.0, 0.0, *sheet_mm)

    @staticmethod
    def around(view: View, thing_mm: tuple[float, float]) -> "Area":
        """All that a photograph shows around a thing of known size, within half a metre of it."""
        width, height = view.lens.size_px
        corners = np.array([[0, 0], [width, 0], [width, height], [0, height]], float)
        lying = view.lying(0.98 * corners + 0.01 * np.array([width, height]))
        reach = np.array(thing_mm) / 2 + AROUND_MM
        middle = np.array(thing_mm) / 2
        least, most = (np.clip(f(lying, axis=0), middle - reach, middle + reach) for f in ENDS)
        return Area(float(least[0]), float(least[1]), float(most[0]), float(most[1]))

    def holds(self, x: Floats, y: Floats, inset_mm: float) -> NDArray[np.bool_]:
        """Which places (mm) lie in it, so far from its sides at least."""
        return np.asarray(
            (x > self.left + inset_mm)
            & (x < self.right - inset_mm)
            & (y > self.far + inset_mm)
            & (y < self.near - inset_mm)
        )


@dataclass(frozen=True, slots=True)
class PlanView:
    """A sheet from straight above, or what lies beside a thing of known size.

    `light` (h × w × 3) is ln of red, green and blue; `bare` ln of those of the bare sheet in the
    same light; `differs` (h × w × 3) how each place differs from it: ln of red over green, of blue
    over green, and lightness; `noise` the usual difference of bare places; `inside` (h × w) what
    is neither rim nor beside the sheet; `area` what is seen in all.
    """

    light: Floats
    bare: Floats
    differs: Floats
    noise: float
    inside: NDArray[np.bool_]
    area: Area

    @property
    def colour(self) -> Floats:
        """How far each place is from the bare sheet in colour alone."""
        return np.hypot(self.differs[..., 0], self.differs[..., 1])

    def on_sheet(self, points_px: Floats) -> Floats:
        """Points of the plan view (n × 2, px) on the sheet (mm)."""
        origin = np.array([self.area.left, self.area.far]) - BESIDE_MM
        return np.asarray((points_px + 0.5) / PX_PER_MM + origin, float)

    def in_view(self, points_mm: Floats) -> Floats:
        """Points of the sheet (n × 2, mm) in the plan view (px)."""
        origin = np.array([self.area.left, self.area.far]) - BESIDE_MM
        return np.asarray((points_mm - origin) * PX_PER_MM - 0.5, float)


def plan_view(image: Picture, view: View, area: Area, thing: Area | None = None) -> PlanView:
    """What a camera straight above would have seen of an area (`image`: h × w × 3, blue first); a
    `thing` in it, white as paper, is no piece, and tells the light."""
    across, down = (
        np.arange(low - BESIDE_MM, high + BESIDE_MM, 1 / PX_PER_MM) + 0.5 / PX_PER_MM
        for low, high in ((area.left, area.right), (area.far, area.near))
    )
    x, y = np.meshgrid(across, down)
    places = view.seen(np.column_stack((x.ravel(), y.ravel()))).astype(np.float32)
    right, below = places[:, 0].reshape(x.shape), places[:, 1].reshape(x.shape)
    flat = cv2.remap(image, right, below, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    softened = cv2.GaussianBlur(flat.astype(np.float32) + 1, (0, 0), SOFT_PX)
    light = np.asarray(cv2.log(cv2.cvtColor(softened, cv2.COLOR_BGR2RGB)), np.float32)
    told = np.asarray(cv2.transform(light, TOLD), np.float32)
    inside = area.holds(x, y, EDGE_MM)
    ring = inside & ~area.holds(x, y, RING_MM)
    if thing is not None:
        height, width = image.shape[:2]
        inside &= (right > 1) & (right < width - 2) & (below > 1) & (below < height - 2)
        ring = inside = inside & ~thing.holds(x, y, -THING_MM)
    # The surface is reckoned in figures from −1 to 1.
    place = np.stack(
        (
            2 * (x - area.left) / (area.right - area.left) - 1,
            2 * (y - area.far) / (area.near - area.far) - 1,
        )
    )
    bare, near = _bare(told, place, inside, ring)
    differs = told - bare
    noise = 1.48 * float(np.median(np.hypot(differs[near][:, 0], differs[near][:, 1]))) + 1e-3
    lit = np.asarray(cv2.transform(bare, np.linalg.inv(TOLD)), np.float32)
    if thing is not None:
        white = np.median(light[thing.holds(x, y, THING_MM)], axis=0)
        lit = np.broadcast_to(white, lit.shape)
    return PlanView(light, lit, differs, noise, inside, area)


def _bare(
    told: Floats, place: Floats, inside: NDArray[np.bool_], ring: NDArray[np.bool_]
) -> tuple[Floats, NDArray[np.bool_]]:
    """The bare sheet in the light that falls on it, and where it is seen: a smooth surface through
    what lies along the sides first, then through all that is near to it."""
    x, y = place
    terms = np.dstack((np.ones_like(x), x, y, x * x, y * y, x * y)).astype(np.float32)
    bare, near = _fitted(told, terms[..., :3], ring), ring
    for _ in range(AGAIN):
        off = told - bare
        colour = np.hypot(off[..., 0], off[..., 1])
        usual = 1.48 * float(np.median(colour[ring])) + 0.004
        like = (colour < 3 * usual) & (np.abs(off[..., 2]) < 0.25) & inside
        if like.mean() < 0.05:
            break
        bare, near = _fitted(told, terms, like), like
    return bare, near


def _fitted(told: Floats, terms: Floats, where: NDArray[np.bool_]) -> Floats:
    """The surface of those terms through a few thousand places, far ones counting little."""
    places = np.flatnonzero(where)
    places = places[:: max(1, len(places) // FITTED)]
    of = terms.reshape(-1, terms.shape[-1])[places]
    values = told.reshape(-1, 3)[places]
    weights: Floats = np.ones(len(places))
    factors: Floats = np.zeros((terms.shape[-1], 3))
    for _ in range(ROUNDS):
        root = weights[:, None]
        factors = np.linalg.lstsq(of * root, values * root, rcond=None)[0]
        left = values - of @ factors
        far = np.hypot(left[:, 0], left[:, 1]) + 0.3 * np.abs(left[:, 2])
        usual = 1.48 * float(np.median(far)) + 1e-3
        weights = 1 / (1 + (far / (1.5 * usual)) ** 2)
    return np.asarray(cv2.transform(terms, factors.T), np.float32)
