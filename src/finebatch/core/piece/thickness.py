"""Thickness: how high a piece stands once it has spread and lifted, and what water it loses."""

import math
from collections.abc import Mapping
from dataclasses import dataclass

from finebatch.core.piece.effects import REFERENCE_FAT
from finebatch.core.piece.portion import RawPiece

RIM, LEAST_FILL = 4 / 3, 2 / 3
LOG_PROFILE, PAN_PROFILE = 2 / 3, 1.0
SOLVED_IN = 30
"""Share of the enclosing cylinder (or box) that a baked piece fills: its rim is about as round as
it is high, so 1 less 4/3 of its height over its width, about 0.80 for most drops and 0.9 for thin
discs, and never less than a half ball; a log's section is near a parabola's."""

STEEPEST = 1.5
"""No mound stands higher than its width over this: of all that were measured the steepest, a ball
of butter and nuts without leavening, is 1.6 times as wide as high. What gas a lean dough with much
soda makes beyond that does not stay in it."""

LIFTS = ("plain", "soda", "powder", "egg", "lean_soda", "eggless_soda", "pieces")
"""The terms of lift, as `fit_priors.csv` names them; `bubbles_mm` beside them is what the bubbles
of any piece add, and most of what there is of a lace."""
LEAN_FAT = 0.45
"""Grams of fat a gram of structure below which soda lifts more: what holds the gas is flour, not
fat (laboratory protocols of lean doughs)."""

LOSES = 1.2
"""How much of a usual drop's water bakes off, as an exposure: 12 minutes at 180 °C of a piece 8 mm
high take 70 % of it (10 % of its mass; usual losses are 7 to 16 %)."""
LOSES_MIN, LOSES_MM = 12.0, 8.0


@dataclass(frozen=True, slots=True)
class LiftModel:
    """ln of baked over raw volume is the sum of `figures` times their terms; `bubbles_mm` (mm) come
    on top of the height."""

    figures: Mapping[str, float]
    bubbles_mm: float
    noise_sd: float


@dataclass(frozen=True, slots=True)
class Thickness:
    """Baked height in mm, its width : thickness ratio, baked mass and the water left in it (g)."""

    height_mm: float
    width_to_thickness: float
    baked_g: float
    water_left_g: float


def lift_terms(measured: Mapping[str, float]) -> Mapping[str, float]:
    """Every term of `LIFTS` for a dough whose effects are `measured`."""
    soda = measured["soda"]
    fat = REFERENCE_FAT * 2.0 ** measured["fat"]
    return {
        "plain": 1.0,
        "soda": soda,
        "powder": measured["powder"],
        "egg": 1 - measured["no_egg"],
        "lean_soda": min(soda, 1.0) * max(math.log2(LEAN_FAT / fat), 0.0),
        "eggless_soda": soda * measured["no_egg"],
        "pieces": measured["pieces"],
    }


def fill_share(raw: RawPiece, height_mm: float, width_mm: float) -> float:
    """How much of its enclosing cylinder or box the baked piece fills, 0 to 1.

    A piece is flat on top with a rim as round as it is high, so that a taller one fills less.
    """
    if raw.form in ("pan", "slab"):
        return PAN_PROFILE
    if raw.length_mm is not None:
        return LOG_PROFILE
    rim = math.exp(-RIM / (1 - LEAST_FILL) * height_mm / width_mm)
    return LEAST_FILL + (1 - LEAST_FILL) * rim


def baked_area_mm2(raw: RawPiece, width_mm: float) -> float:
    """Footprint in mm² of a piece of that width; a log keeps its length and rounded ends."""
    if raw.length_mm is None:
        return math.pi / 4 * width_mm**2
    return width_mm * (raw.length_mm + 0.5 * (width_mm - raw.width_mm))


def even_height_mm(raw: RawPiece, width_mm: float) -> float:
    """Mean height in mm of a piece that bakes to `width_mm`, before it lifts."""
    return 1000 * raw.volume_cm3 / baked_area_mm2(raw, width_mm)


def lift(model: LiftModel, measured: Mapping[str, float]) -> float:
    """Baked volume over raw volume, bubbles aside."""
    terms = lift_terms(measured)
    return math.exp(sum(model.figures[name] * term for name, term in terms.items()))


def _height_mm(raw: RawPiece, even_mm: float, width_mm: float) -> float:
    """The height at which a piece `even_mm` high if it were a box holds the same volume."""
    height = even_mm
    for _ in range(SOLVED_IN):
        # h · fill(h / w) = even grows with h, and hardly bends: so this ends soon.
        height = even_mm / fill_share(raw, height, width_mm)
    return height


def water_lost_share(exposure: float) -> float:
    """Share of a piece's water that bakes off, 0 to 1: what is left of it leaves ever slower."""
    return 1 - math.exp(-LOSES * exposure)


def exposure(minutes: float, drive: float, even_mm: float) -> float:
    """How much drying a piece gets: by its minutes, the oven's drive and how thin it is; 1 of a
    drop 8 mm high that bakes for 12 minutes at 180 °C."""
    return minutes / LOSES_MIN * drive * LOSES_MM / even_mm


def predict_thickness(
    model: LiftModel,
    measured: Mapping[str, float],
    raw: RawPiece,
    width_mm: float,
    *,
    water_share: float,
    dried: float,
) -> Thickness:
    """Height, W/T and baked mass of a piece that bakes to `width_mm`; `water_share` of its raw mass
    is water, and it gets so much `exposure`."""
    even = even_height_mm(raw, width_mm)
    height = _height_mm(raw, even * lift(model, measured) + model.bubbles_mm, width_mm)
    if raw.form == "mound" and raw.length_mm is None:
        height = min(height, width_mm / STEEPEST)
    water_g = raw.grams * water_share
    lost_g = water_g * water_lost_share(dried)
    return Thickness(height, width_mm / height, raw.grams - lost_g, water_g - lost_g)
