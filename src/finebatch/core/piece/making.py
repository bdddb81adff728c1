"""What each kind of portioning asks of the baker beyond the piece: logs to cut, slices to dry,
pans to score, ropes to close, wafers to shape. Lengths in mm, masses in g.
"""

import math
from dataclasses import dataclass
from typing import Literal

from finebatch.core.piece.kinds import (
    TWIST_LENGTH,
    TWIST_WIDTH,
    Pan,
    Roped,
    Sliced,
    TwiceBaked,
    Wafer,
)
from finebatch.core.piece.portion import RawPiece, disc_volume_cm3
from finebatch.core.refusal import refuse

MOST_LEAN_DEG = 60.0
HEEL_MM = 8.0
"""The rounded end of a baked log that gives no slice, each side."""
DRIED_LOSS = 0.09
"""Share of a slice's mass that the second bake dries off; with the first bake's loss it makes the
usual 18 to 25 % of a twice-baked piece."""


@dataclass(frozen=True, slots=True)
class LogsCut:
    """Chilled logs: how long each is, and the slices that each gives. `ends_g` is trimmed off."""

    lengths_mm: tuple[float, ...]
    slices: tuple[int, ...]
    ends_g: float
    rest_g: float
    kind: Literal["sliced"] = "sliced"

    @property
    def pieces(self) -> int:
        """Slices of all logs."""
        return sum(self.slices)


def cut_logs(sliced: Sliced, usable_g: float, density_g_cm3: float) -> LogsCut:
    """Share the dough out over logs of equal length, none longer than the shelf takes."""
    volume = usable_g / density_g_cm3
    length = 10 * volume / disc_volume_cm3(sliced.log_diameter_mm, 10)
    count = max(1, math.ceil(length / sliced.longest_mm - 1e-9))
    each = length / count
    if each < 2 * sliced.ends_mm + sliced.thickness_mm:
        raise refuse(
            "ends_mm",
            f"The log is only {each:.0f} mm long; nothing is left between its ends. Make it "
            "thinner or trim less.",
        )
    slices = int((each - 2 * sliced.ends_mm) / sliced.thickness_mm + 1e-9)
    per_mm = usable_g / length
    ends = count * 2 * sliced.ends_mm * per_mm
    rest = usable_g - ends - count * slices * sliced.thickness_mm * per_mm
    return LogsCut((each,) * count, (slices,) * count, ends, max(rest, 0.0))


@dataclass(frozen=True, slots=True)
class SlicesDried:
    """A baked log cut into slices, laid on their cut faces for the second bake.

    `face_mm` is how long a slice is, `high_mm` how high; `step_mm` what each takes of the log;
    `lost_g` the two ends of one log; grams are before and after drying.
    """

    log_mm: float
    face_mm: float
    high_mm: float
    step_mm: float
    per_log: int
    lost_g: float
    slice_g: float
    dried_g: float
    kind: Literal["twice_baked"] = "twice_baked"


def dry_slices(
    twice: TwiceBaked, raw: RawPiece, baked_width_mm: float, height_mm: float, baked_g: float
) -> SlicesDried:
    """Slices of one baked log, `lean_deg` away from straight across.

    A slice is width / cos(lean) long; each end loses its heel and half the slant. Raises
    `Refusal` for a lean past 60° or slices that leave nothing.
    """
    if not 0 <= twice.lean_deg <= MOST_LEAN_DEG:
        raise refuse(
            "lean_deg",
            f"At {twice.lean_deg:g}° the knife runs along the log; lean it {MOST_LEAN_DEG:g}° at "
            "most, 0 is straight across.",
        )
    lean = math.radians(twice.lean_deg)
    length = (raw.length_mm or 0.0) + 0.5 * (baked_width_mm - raw.width_mm)
    step = twice.slice_mm / math.cos(lean)
    usable = length - 2 * HEEL_MM - baked_width_mm * math.tan(lean)
    per_log = int(usable / step + 1e-9) if usable > 0 else 0
    if per_log < 1:
        raise refuse(
            "lean_deg" if twice.lean_deg else "slice_mm",
            f"A log of {length / 10:.0f} cm gives no whole slice so. Cut straighter or thinner, "
            "or make the log longer.",
        )
    per_mm = baked_g / length
    slice_g = step * per_mm
    return SlicesDried(
        log_mm=length,
        face_mm=baked_width_mm / math.cos(lean),
        high_mm=height_mm,
        step_mm=step,
        per_log=per_log,
        lost_g=baked_g - per_log * slice_g,
        slice_g=slice_g,
        dried_g=slice_g * (1 - DRIED_LOSS),
    )


@dataclass(frozen=True, slots=True)
class PanScored:
    """Pans to fill and score. `across_mm` and `down_mm` are one piece of a grid; a wedge is as
    long as the pan's radius and `across_mm` wide at its rim. `full_g` is what one pan takes."""

    pans: int
    full_g: float
    pieces: int
    across_mm: float
    down_mm: float
    piece_g: float
    kind: Literal["pan"] = "pan"


def score_pan(pan: Pan, full_g: float, pans: int) -> PanScored:
    """How large the scored pieces are; `Refusal` for pieces that no knife would cut."""
    across, down = pan.box_mm
    if pan.shape == "round":
        wide, long, where = math.pi * across / pan.wedges, across / 2, "wedges"
    else:
        wide, long, where = across / pan.scored_across, down / pan.scored_down, "scored_across"
    if min(wide, long) < 10:
        raise refuse(where, f"Pieces would be {min(wide, long):.0f} mm wide. Score fewer.")
    return PanScored(pans, full_g, pan.pieces, wide, long, full_g / pan.pieces)


def depth_in(pan: Pan, other: Pan) -> float:
    """How much of a recipe for `pan` fills `other` to the same depth: the ratio of their floors."""
    return other.area_mm2 / pan.area_mm2


@dataclass(frozen=True, slots=True)
class RopeBaked:
    """How thick to roll the rope, and the piece it makes, baked; `hole_mm` of a ring."""

    rope_mm: float
    across_mm: float
    down_mm: float
    hole_mm: float | None
    kind: Literal["rope"] = "rope"


def close_rope(rope: Roped, raw: RawPiece, baked_width_mm: float) -> RopeBaked:
    """Finished size of a straight rope, a ring or a twist; `Refusal` for a ring without a hole."""
    grows = baked_width_mm - raw.width_mm
    match rope.form:
        case "straight":
            return RopeBaked(raw.width_mm, rope.length_mm + 0.5 * grows, baked_width_mm, None)
        case "twist":
            long = TWIST_LENGTH * rope.length_mm + 0.5 * grows
            return RopeBaked(raw.width_mm, long, TWIST_WIDTH * baked_width_mm, None)
        case "ring":
            middle = rope.length_mm / math.pi
            hole = middle - baked_width_mm
            if hole <= 0:
                need = math.pi * (baked_width_mm + 5)
                raise refuse(
                    "length_mm",
                    f"The ring would bake shut. Roll the rope at least {need:.0f} mm long, or "
                    "take less dough.",
                )
            outer = middle + baked_width_mm
            return RopeBaked(raw.width_mm, outer, outer, hole)


@dataclass(frozen=True, slots=True)
class WaferLimit:
    """The most on a tray that can be shaped before they set, and when the last must be done."""

    by_hand: int
    soft_s: float
    each_s: float
    kind: Literal["wafer"] = "wafer"


def shape_in_time(wafer: Wafer) -> WaferLimit:
    """How many wafers one pair of hands shapes while they are soft; `Refusal` for not even one."""
    by_hand = int(wafer.soft_s / wafer.shape_s + 1e-9)
    if by_hand < 1:
        raise refuse(
            "shape_s",
            f"They are soft for {wafer.soft_s:g} s and one takes {wafer.shape_s:g} s: bake one at "
            "a time, and warm it again for a moment if it sets.",
        )
    return WaferLimit(by_hand, wafer.soft_s, wafer.shape_s)
