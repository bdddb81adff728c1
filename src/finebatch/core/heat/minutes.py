"""Bake minutes: heat flows into a piece in proportion to how far the oven is above the temperature
near which its wet surface is held; what it has to heat and dry sets how long that takes.

    ln t = Σ figure · term − ln((T_oven − 85 °C) / 95 °C)

The terms are what of dough, piece and wanted doneness makes a bake longer (`core/piece/timing`).
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from finebatch.core.formula.dough import Doneness, Family
from finebatch.core.measures.figures import degrees
from finebatch.core.refusal import refuse

DONE_AT_C: Mapping[Doneness, float] = {
    "soft_centre": 80.0,
    "chewy": 90.0,
    "set": 96.0,
    "crisp": 100.0,
    "dry": 102.0,
}
"""Centre temperature at which a piece is done, with what the hot sheet adds once it is out (probe
readings, rounded)."""

CARRY_OVER_C = 9.0
"""On the hot sheet the centre goes on by 7 to 11 °C once the tray is out (probe readings)."""
PROBED: frozenset[Doneness] = frozenset({"soft_centre", "chewy", "set"})
"""What is done to these is soft enough inside for a probe; crisp and dry are told by the eye."""

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

TENTH_SD = 1.2816
"""One in ten lies more than this many standard deviations below the mean."""

SLICE_DRYING_MIN = 18.0
SLICE_REFERENCE_MM, SLICE_REFERENCE_C = 13.0, 165.0
"""A 13 mm slice dries in about 18 minutes at 165 °C, turned over half way (household recipes)."""
SLICE_POWER, SLICE_HELD_C = 1.1, 70.0
"""Slices of 10 mm take 11 to 15 minutes at 160 °C and of 20 mm 24 to 32 (household recipes)."""


SURFACE_HELD_C, REFERENCE_DRIVE_C = 85.0, 95.0
"""While water leaves it the surface of a piece stays near boiling: heat flows in proportion to what
the oven is above that (about 85 °C as a mean over the bake); 180 °C, the reference, is 95 above."""

ABOVE_DONE_C = 20.0


@dataclass(frozen=True, slots=True)
class HeatModel:
    """What each term adds to ln of minutes, by its name, and what is left from bake to bake."""

    figures: Mapping[str, float]
    noise_sd: float


def out_at_c(doneness: Doneness) -> float | None:
    """The centre's temperature (°C) at which to take a tray out, for the sheet to finish it; None
    where no probe tells."""
    return DONE_AT_C[doneness] - CARRY_OVER_C if doneness in PROBED else None


def oven_drive(oven_c: float, done_c: float) -> float:
    """How fast heat flows in, 1 in a still oven of 180 °C; `Refusal` when the oven is too cool."""
    if oven_c < done_c + ABOVE_DONE_C:
        message = f"At {degrees(oven_c)} it would never be done; set the oven above "
        raise refuse("oven_c", f"{message}{degrees(done_c + ABOVE_DONE_C)}.")
    return (oven_c - SURFACE_HELD_C) / REFERENCE_DRIVE_C


def sheet_factor(surface: str, shelves: int) -> float:
    """What sheet and shelves make a bake longer, as a factor."""
    return SHEET_FACTOR.get(surface, 1.0) * (TWO_SHELVES_FACTOR if shelves > 1 else 1.0)


def bake_minutes(model: HeatModel, terms: Mapping[str, float], drive: float) -> float:
    """Minutes in the oven for a piece of those terms."""
    return math.exp(sum(model.figures[name] * term for name, term in terms.items())) / drive


def look_from(
    minutes: float, early: float, swing_c: float, *, oven_c: float, said: float = 0.0
) -> int:
    """The whole minute at which to look first: one bake in ten is done before.

    Bakes differ by `early` (sd in ln of minutes), or are done from `said` (ln) before their usual
    minutes on, as a card has it. `oven_c` is a still oven's setting; its swing moves the mean of
    one bake by up to a quarter of it (half a cycle up or down).
    """
    swings = TENTH_SD * swing_c / 4 / (oven_c - SURFACE_HELD_C)
    before = math.hypot(said or TENTH_SD * early, swings)
    return max(math.floor(minutes * math.exp(-before) + 1e-9), 1)


Lying = Literal["flat", "standing"]
STANDING, UNTURNED = 0.85, 1.1
"""Slices that stand dry from both faces at once and need no turning; flat ones that are not turned
dry slower from below (household practice)."""


def second_bake_minutes(
    slice_mm: float, oven_c: float, lying: Lying = "flat", *, turned: bool = True
) -> float:
    """Minutes that slices of a twice-baked log take to dry, both sides together."""
    thickness = math.pow(slice_mm / SLICE_REFERENCE_MM, SLICE_POWER)
    factor = STANDING if lying == "standing" else 1.0 if turned else UNTURNED
    drive = (SLICE_REFERENCE_C - SLICE_HELD_C) / (max(oven_c, 100.0) - SLICE_HELD_C)
    return SLICE_DRYING_MIN * thickness * drive * factor
