"""Logs baked whole, then sliced and dried."""

import math
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.heat.chilling import Purpose, Shape, log_shape
from finebatch.core.heat.minutes import second_bake_minutes
from finebatch.core.measures.figures import centimetres, millimetres
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.kinds.portioning import (
    Grams,
    Making,
    Portioning,
    SecondBake,
)
from finebatch.core.piece.kinds.says import MASS, Ask, Handle, Says
from finebatch.core.piece.layout import share_out
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.lying import Lies
from finebatch.core.piece.portion import Log, RawPiece
from finebatch.core.piece.rows import Footprint, Sheet
from finebatch.core.piece.tools import Tools
from finebatch.core.refusal import refuse

MOST_LEAN_DEG = 60.0
HEEL_MM = 8.0
"""The rounded end of a baked log that gives no slice, each side."""
DRIED_LOSS, DRIED_WATER = 0.09, 0.9
"""Share of a slice's mass that the second bake dries off; with the first bake's loss it makes the
usual 18 to 25 % of a twice-baked piece. A slice with little water left loses this much of that."""
SLICE_GAP_MM = 6.0
"""Slices hardly grow in the second bake; air has to pass between them."""
SLICES_DRIED_MM = (9.0, 11.0, 13.0, 15.0, 18.0, 22.0)


@dataclass(frozen=True, slots=True)
class SlicesDried(Making):
    """A baked log cut into slices, laid on their cut faces for the second bake.

    `face_mm` is how long a slice is, `high_mm` how high; `step_mm` what each takes of the log, from
    `first_mm` on, each cut `slant_mm` farther along at its other end; `lost_g` are the two ends of
    one log; grams are before and after drying.
    """

    log_mm: float
    face_mm: float
    high_mm: float
    step_mm: float
    first_mm: float
    slant_mm: float
    per_log: int
    lost_g: float
    slice_g: float
    dried_g: float
    kind: Literal["twice_baked"] = "twice_baked"

    @property
    def each_gives(self) -> int:
        return self.per_log


@dataclass(frozen=True, slots=True)
class TwiceBaked(Portioning):
    """Logs baked whole, then sliced `lean_deg` away from straight across, and dried."""

    NEEDED = ("kind", "grams", "length_mm", "width_mm")
    SAYS = Says(
        "twice-baked logs",
        tab="Slices",
        counted="logs",
        across="baked wide",
        measured="How wide are the logs, before they are sliced",
        work="Shape",
        drawn_in=("portion", "slice"),
    )
    HANDLES = (
        replace(MASS, label="Mass of a log", typed="A log weighs", range=(100, 700), step=5),
        Handle("slice_mm", "Slice on the ruler", "Thickness of a slice", "mm", (6, 26), 0.5),
    )
    ASKS = (
        Ask("grams", "Logs, all of it", "shared_out", ""),
        Ask("length_mm", "Log long", step=5),
        Ask("width_mm", "Log wide"),
        Ask("lean_deg", "Cut leans", unit="°", step=5),
    )
    KEPT_AS = "log"
    LAID_AS = frozenset({"portions", "slices", "log"})
    ONE_SIZE = True

    grams: Grams = 375.0
    length_mm: Annotated[float, Interval(ge=50, le=600)] = 300.0
    width_mm: Annotated[float, Interval(ge=15, le=200)] = 55.0
    slice_mm: Annotated[float, Interval(ge=4, le=60)] = 13.0
    lean_deg: Annotated[float, Interval(ge=0, le=90)] = 0.0
    kind: Literal["twice_baked"] = "twice_baked"

    def worked(self) -> str:
        return f"{centimetres(self.length_mm)} long, {centimetres(self.width_mm)} wide"

    def portion(self, lot: Lot) -> Log:
        return Log(self.length_mm, self.width_mm, self.grams)

    def weighing(self, grams: float, lot: Lot) -> "TwiceBaked":
        return replace(self, grams=grams)

    def wider(self, by: float) -> "TwiceBaked":
        return replace(self, grams=self.grams * by)

    def sizes(self, tools: Tools, lot: Lot) -> list[tuple[str, "TwiceBaked"]]:
        return [(f"slices of {millimetres(t)}", replace(self, slice_mm=t)) for t in SLICES_DRIED_MM]

    def making(self, found: Foreseen) -> SlicesDried:
        baked = found.thickness
        dries = min(DRIED_LOSS, DRIED_WATER * baked.water_left_g / baked.baked_g)
        width = found.width.middle_mm
        return self.dry(found.raw, width, baked.height_mm, baked.baked_g, dries)

    def dry(
        self,
        raw: RawPiece,
        width_mm: float,
        height_mm: float,
        baked_g: float,
        dries: float = DRIED_LOSS,
    ) -> SlicesDried:
        """Slices of one log that bakes so wide and high and weighs so much then; the second bake
        dries off so much of them.

        A slice is width / cos(lean) long; each end loses its heel and half the slant. Raises
        `Refusal` for a lean past 60° or slices that leave nothing.
        """
        if not 0 <= self.lean_deg <= MOST_LEAN_DEG:
            raise refuse(
                "lean_deg",
                f"At {self.lean_deg:g}° the knife runs along the log; lean it {MOST_LEAN_DEG:g}° "
                "at most, 0 is straight across.",
            )
        lean = math.radians(self.lean_deg)
        length = self.lies(raw, width_mm).baked_mm[0]
        step = self.slice_mm / math.cos(lean)
        slant = width_mm * math.tan(lean)
        usable = length - 2 * HEEL_MM - slant
        per_log = int(usable / step + 1e-9) if usable > 0 else 0
        if per_log < 1:
            raise refuse(
                "lean_deg" if self.lean_deg else "slice_mm",
                f"A log of {centimetres(length, 0)} gives no whole slice so. Cut straighter or "
                "thinner, or make the log longer.",
            )
        slice_g = step * baked_g / length
        return SlicesDried(
            log_mm=length,
            face_mm=width_mm / math.cos(lean),
            high_mm=height_mm,
            step_mm=step,
            first_mm=(length - per_log * step - slant) / 2,
            slant_mm=slant,
            per_log=per_log,
            lost_g=baked_g - per_log * slice_g,
            slice_g=slice_g,
            dried_g=slice_g * (1 - dries),
        )

    def lies(self, raw: RawPiece, width_mm: float) -> Lies:
        long = raw.length_mm or self.length_mm
        grown = long + 0.5 * (width_mm - raw.width_mm)
        return Lies("log", (long, raw.width_mm), (grown, width_mm))

    def second(self, found: Foreseen, logs: int, sheet: Sheet, still_c: float) -> SecondBake:
        slices = self.making(found)
        foot = Footprint(slices.face_mm, slices.high_mm, is_round=False)
        close = Sheet(sheet.width_mm, sheet.depth_mm, sheet.margin_mm, SLICE_GAP_MM)
        pieces = logs * slices.per_log
        shared = share_out(close, foot, pieces)
        minutes = second_bake_minutes(self.slice_mm, still_c)
        return SecondBake(pieces, minutes, slices.dried_g, foot, shared.trays, shared.layouts)

    def chilled(self, lot: Lot) -> tuple[Shape, Purpose]:
        return log_shape(self.width_mm, self.length_mm), "scoop"
