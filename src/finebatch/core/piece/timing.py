"""What of a dough, a piece and the wanted doneness makes a bake longer: `HeatModel`'s terms."""

import math
from collections.abc import Mapping

from finebatch.core.formula.dough import Doneness
from finebatch.core.heat.minutes import DONE_AT_C
from finebatch.core.piece.portion import RawPiece
from finebatch.core.piece.thickness import baked_area_mm2, even_height_mm

TIMES = (
    "reference",
    "height",
    "width",
    "soft",
    "set",
    "crisp",
    "dry",
    "no_egg",
    "chilled",
    "frozen",
    "log",
    "rope",
    "bent",
    "pan",
    "pan_height",
)
"""The terms, as `fit_priors.csv` names them."""

REFERENCE_HEIGHT_MM, REFERENCE_WIDTH_MM = 6.0, 70.0
WIDEST_MM = 130.0
"""Farther than half of this from its edge a piece knows nothing of the edge: a wider one bakes no
longer (household recipes of slabs and of pieces up to 130 mm)."""
STEPS = tuple(DONE_AT_C)


def bake_terms(
    measured: Mapping[str, float], raw: RawPiece, width_mm: float, doneness: Doneness
) -> Mapping[str, float]:
    """Every term of `TIMES` for a piece whose effects are `measured` and that bakes to `width_mm`:
    heights and widths in ln of the reference, doneness in steps above chewy."""
    height = math.log(even_height_mm(raw, width_mm) / REFERENCE_HEIGHT_MM)
    across = math.sqrt(4 / math.pi * baked_area_mm2(raw, width_mm))
    wide = 0.0 if raw.form == "log" else math.log(min(across, WIDEST_MM) / REFERENCE_WIDTH_MM)
    step = STEPS.index(doneness)
    pan = float(raw.form == "pan")
    return {
        "reference": 1.0,
        "height": height,
        "width": wide,
        "soft": -float(step < STEPS.index("chewy")),
        "set": float(step >= STEPS.index("set")),
        "crisp": float(step >= STEPS.index("crisp")),
        "dry": float(step >= STEPS.index("dry")),
        "no_egg": measured["no_egg"],
        "chilled": measured["chilled"],
        "frozen": measured["frozen"],
        "log": float(raw.form == "log"),
        "rope": float(raw.form == "rope"),
        "bent": float(raw.bent),
        "pan": pan,
        "pan_height": pan * height,
    }
