"""Bake minutes: lumped heating of a piece to the temperature at which it is done.

    t = τ · ln((T_oven − T_dough) / (T_oven − T_done)),   τ = τ₆ · (h / 6 mm)^n

with h the mean height in mm as the piece lies after half its spread.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass

from finebatch.core.formula.dough import Doneness, Family
from finebatch.core.heat.oven import OvenMode, conventional_c
from finebatch.core.measures.figures import degrees
from finebatch.core.refusal import refuse

DONE_AT_C: Mapping[Doneness, float] = {
    "soft_centre": 80.0,
    "chewy": 90.0,
    "set": 96.0,
    "crisp": 100.0,
    "dry": 102.0,
}
"""Centre temperature at which a piece is taken out (probe readings, rounded)."""

USUAL_DONENESS: Mapping[Family, Doneness] = {
    "drop": "chewy",
    "rolled": "set",
    "shortbread": "crisp",
    "twice_baked": "set",
}

SHEET_FACTOR: Mapping[str, float] = {"insulated": 1.10, "dark": 0.95}
TWO_SHELVES_FACTOR = 1.10
"""Two trays at once take about a tenth longer; so does an insulated sheet, and a dark
one takes about a twentieth less (usual guidance)."""

PAN_FACTOR = 1.7
"""A pan's walls keep the heat off: 12 mm of shortbread in a tin take 30 to 35 minutes at 160 °C
(household recipes)."""

SLAB_FACTOR = 1.3
"""The middle of a slab that bakes in one has no edge near: 10 mm of shortbread on paper take 25 to
30 minutes at 160 °C (household recipes)."""

TENTH_SD = 1.2816
"""One in ten lies more than this many standard deviations below the mean."""

SLICE_DRYING_MIN = 18.0
SLICE_REFERENCE_MM, SLICE_REFERENCE_C = 13.0, 165.0
"""A 13 mm slice dries in about 18 minutes at 165 °C, turned over half way (household recipes)."""


@dataclass(frozen=True, slots=True)
class HeatModel:
    """`tau_min` in minutes at 6 mm and `power` of the height.

    `log` is what a whole log takes longer, in ln of minutes: it bakes until firm right through.
    `noise_sd` is what is left from bake to bake, in ln of minutes.
    """

    tau_min: float
    power: float
    log: float
    noise_sd: float


def oven_share(oven_c: float, dough_temp_c: float, done_c: float) -> float:
    """ln((T_oven − T_dough) / (T_oven − T_done)); `Refusal` when the oven is too cool."""
    if oven_c < done_c + 20:
        message = f"At {degrees(oven_c)} it would never be done; set the oven above "
        raise refuse("oven_c", f"{message}{degrees(done_c + 20)}.")
    return math.log((oven_c - dough_temp_c) / (oven_c - done_c))


def bake_minutes(
    model: HeatModel,
    *,
    height_mm: float,
    oven_c: float,
    oven_mode: OvenMode,
    dough_temp_c: float,
    doneness: Doneness,
    surface: str,
    is_log: bool = False,
    in_pan: bool = False,
    is_slab: bool = False,
    shelves: int = 1,
    learnt: float = 0.0,
) -> float:
    """Minutes in the oven for a piece of that mean height (mm, after half its spread).

    `learnt` is the shift in ln of minutes that this kitchen's bakes have shown.
    """
    share = oven_share(conventional_c(oven_c, oven_mode), dough_temp_c, DONE_AT_C[doneness])
    factor = SHEET_FACTOR.get(surface, 1.0) * (TWO_SHELVES_FACTOR if shelves > 1 else 1.0)
    factor *= PAN_FACTOR if in_pan else SLAB_FACTOR if is_slab else 1.0
    factor *= math.exp(learnt + (model.log if is_log else 0.0))
    return model.tau_min * math.pow(height_mm / 6, model.power) * share * factor


def look_from(
    model: HeatModel,
    minutes: float,
    swing_c: float,
    *,
    oven_c: float,
    dough_temp_c: float,
    doneness: Doneness,
) -> int:
    """The whole minute at which to look first: one bake in ten is done before.

    `oven_c` as a still oven's setting. The oven's swing moves the mean of one bake by up to a
    quarter of it (half a cycle up or down).
    """
    done_c = DONE_AT_C[doneness]
    share = oven_share(oven_c, dough_temp_c, done_c)
    slope = (1 / (oven_c - done_c) - 1 / (oven_c - dough_temp_c)) / share
    sd = math.hypot(model.noise_sd, slope * swing_c / 4)
    return max(math.floor(minutes * math.exp(-TENTH_SD * sd)), 1)


def second_bake_minutes(slice_mm: float, oven_c: float) -> float:
    """Minutes that slices of a twice-baked log take to dry, both sides together."""
    thickness = math.pow(slice_mm / SLICE_REFERENCE_MM, 1.2)
    return SLICE_DRYING_MIN * thickness * (SLICE_REFERENCE_C - 70) / (max(oven_c, 100.0) - 70)
