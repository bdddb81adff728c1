"""Thickness: how high a piece stands once it has spread and lifted, and what water it loses."""

import math
from collections.abc import Mapping
from dataclasses import dataclass

from finebatch.core.formula.dough import Family
from finebatch.core.piece.portion import RawPiece

RIM, LEAST_FILL = 4 / 3, 0.60
DISC_PROFILE, LOG_PROFILE, PAN_PROFILE = 0.95, 2 / 3, 1.0
"""Share of the enclosing cylinder (or box) that a baked piece fills: a mound 1 less 4/3 of its
height over its width, about 0.80 for most drops; a log's section is near a parabola's."""

WATER_LOSS: Mapping[Family, float] = {
    "drop": 0.10,
    "rolled": 0.12,
    "shortbread": 0.09,
    "twice_baked": 0.14,
}
"""Share of raw mass that bakes off, middle of the usual 7 to 16 %; a log loses the rest of its
18 to 25 % in the second bake."""


@dataclass(frozen=True, slots=True)
class LiftModel:
    """ln of baked over raw volume = plain + soda·dose + powder·dose + whisked egg's share."""

    plain: float
    soda: float
    powder: float
    egg: float
    noise_sd: float


@dataclass(frozen=True, slots=True)
class Thickness:
    """Baked height in mm, its width : thickness ratio, and baked mass in grams."""

    height_mm: float
    width_to_thickness: float
    baked_g: float


def fill_share(raw: RawPiece, height_mm: float, width_mm: float) -> float:
    """How much of its enclosing cylinder or box the baked piece fills, 0 to 1.

    A mound is flat on top with a rim as round as it is high, so that a taller one fills less.
    """
    if raw.form in ("pan", "slab"):
        return PAN_PROFILE
    if raw.length_mm is not None:
        return LOG_PROFILE
    return DISC_PROFILE if raw.flat else max(1 - RIM * height_mm / width_mm, LEAST_FILL)


def baked_area_mm2(raw: RawPiece, width_mm: float) -> float:
    """Footprint in mm² of a piece of that width; a log keeps its length and rounded ends."""
    if raw.length_mm is None:
        return math.pi / 4 * width_mm**2
    return width_mm * (raw.length_mm + 0.5 * (width_mm - raw.width_mm))


def lift(model: LiftModel, measured: Mapping[str, float]) -> float:
    """Baked volume over raw volume."""
    return math.exp(
        model.plain
        + model.soda * measured["soda"]
        + model.powder * measured["powder"]
        + model.egg * (1 - measured["no_egg"])
    )


def _height_mm(raw: RawPiece, even_mm: float, width_mm: float) -> float:
    """The height at which a piece `even_mm` high if it were a box holds the same volume."""
    if raw.flat or raw.length_mm is not None:
        return even_mm / fill_share(raw, even_mm, width_mm)
    # h · (1 - RIM · h / w) = even, up to where a mound fills least.
    if even_mm / width_mm >= (1 - LEAST_FILL) / RIM * LEAST_FILL:
        return even_mm / LEAST_FILL
    return width_mm / (2 * RIM) * (1 - math.sqrt(1 - 4 * RIM * even_mm / width_mm))


def predict_thickness(
    model: LiftModel,
    measured: Mapping[str, float],
    raw: RawPiece,
    width_mm: float,
    family: Family,
) -> Thickness:
    """Height, W/T and baked mass of a piece that bakes to `width_mm`."""
    volume_mm3 = 1000 * raw.volume_cm3 * lift(model, measured)
    even = volume_mm3 / baked_area_mm2(raw, width_mm)
    height = _height_mm(raw, even, width_mm)
    return Thickness(height, width_mm / height, raw.grams * (1 - WATER_LOSS[family]))


def height_half_spread_mm(raw: RawPiece, baked_width_mm: float) -> float:
    """Mean height in mm as the piece lies once half its spread is done, before it lifts."""
    half_way = (raw.width_mm + baked_width_mm) / 2
    return 1000 * raw.volume_cm3 / baked_area_mm2(raw, half_way)
