"""One piece in answers: raw and baked."""

from finebatch.core.piece.portion import Form
from finebatch.web.types import Out


class RawOut(Out):
    """The raw piece: g, cm³, mm."""

    grams: float
    volume_cm3: float
    width_mm: float
    height_mm: float
    length_mm: float | None
    flat: bool
    form: Form
    across_mm: float
    down_mm: float | None


class MoverOut(Out):
    """What one effect adds to the width."""

    key: str
    label: str
    mm: float


class WidthOut(Out):
    """Baked width in mm with its 80 % band."""

    middle_mm: float
    low_mm: float
    high_mm: float
    formula_sd: float
    oven_sd: float
    hands_sd: float
    learnt_mm: float
    bakes: int
    movers: list[MoverOut]


class ThicknessOut(Out):
    """Baked height in mm, W/T and baked mass in g."""

    height_mm: float
    width_to_thickness: float
    baked_g: float
