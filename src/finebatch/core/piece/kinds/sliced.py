"""Pieces sliced from a chilled log."""

import math
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.heat.chilling import Purpose, Shape, log_shape
from finebatch.core.measures.figures import millimetres
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.kinds.portioning import Made, Making, Portioning, ThicknessMm, moved
from finebatch.core.piece.kinds.says import THICKNESS, Ask, Handle, Says
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.portion import LogSlice, disc_volume_cm3
from finebatch.core.piece.tools import Tools
from finebatch.core.refusal import refuse

SLICES_MM = (4.0, 5.0, 6.0, 7.0, 8.0, 10.0, 12.0)
ACROSS = Handle("log_diameter_mm", "Size of the log", "Log across", "mm", (25, 85), 1)


@dataclass(frozen=True, slots=True)
class LogsCut(Making):
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


@dataclass(frozen=True, slots=True)
class Sliced(Portioning):
    """Logs of one diameter, none longer than the shelf, cut in slices; the ends are trimmed."""

    NEEDED = ("kind", "log_diameter_mm", "thickness_mm")
    SAYS = Says(
        "sliced from a log", tab="Logs", work="Slice logs for", drawn_in=("form", "portion")
    )
    HANDLES = (THICKNESS, ACROSS)
    ASKS = (Ask("ends_mm", "Trimmed each end"), Ask("longest_mm", "Shelf takes", step=10))
    KEPT_AS = "log"
    KNIFE = True

    log_diameter_mm: Annotated[float, Interval(ge=10, le=150)] = 50.0
    thickness_mm: ThicknessMm = 7.0
    ends_mm: Annotated[float, Interval(ge=0, le=50)] = 4.0
    longest_mm: Annotated[float, Interval(ge=80, le=600)] = 300.0
    kind: Literal["sliced"] = "sliced"

    def worked(self) -> str:
        return f"slices of {millimetres(self.thickness_mm, 1)}"

    def portion(self, lot: Lot) -> LogSlice:
        return LogSlice(self.log_diameter_mm, self.thickness_mm)

    def weighing(self, grams: float, lot: Lot) -> "Sliced":
        return moved(self, THICKNESS, grams / self.raw(lot).grams)

    def wider(self, by: float) -> "Sliced":
        return moved(self, ACROSS, by)

    def sizes(self, tools: Tools, lot: Lot) -> list[tuple[str, "Sliced"]]:
        return [(f"{millimetres(t)} thick", replace(self, thickness_mm=t)) for t in SLICES_MM]

    def cut(self, usable_g: float, density_g_cm3: float) -> LogsCut:
        """Share so much dough over logs of equal length, none longer than the shelf takes."""
        volume = usable_g / density_g_cm3
        length = 10 * volume / disc_volume_cm3(self.log_diameter_mm, 10)
        count = max(1, math.ceil(length / self.longest_mm - 1e-9))
        each = length / count
        if each < 2 * self.ends_mm + self.thickness_mm:
            raise refuse(
                "ends_mm",
                f"The log is only {millimetres(each)} long; nothing is left between its ends. "
                "Make it "
                "thinner or trim less.",
            )
        slices = int((each - 2 * self.ends_mm) / self.thickness_mm + 1e-9)
        per_mm = usable_g / length
        ends = count * 2 * self.ends_mm * per_mm
        rest = usable_g - ends - count * slices * self.thickness_mm * per_mm
        return LogsCut((each,) * count, (slices,) * count, ends, max(rest, 0.0))

    def make(self, lot: Lot, found: Foreseen) -> Made:
        logs = self.cut(lot.usable_g, lot.density_g_cm3)
        return Made(logs.pieces, logs.rest_g + logs.ends_g, logs)

    def chilled(self, lot: Lot) -> tuple[Shape, Purpose]:
        logs = self.cut(lot.total_g, lot.density_g_cm3)
        return log_shape(self.log_diameter_mm, logs.lengths_mm[0]), "slice"

    def without_leftover(self, lot: Lot, pieces: int) -> list["Sliced"]:
        # The last slice of each log has to end where the trim begins.
        lengths = self.cut(lot.usable_g, lot.density_g_cm3).lengths_mm
        usable = lengths[0] - 2 * self.ends_mm
        each = pieces // len(lengths)
        return [replace(self, thickness_mm=usable / n) for n in (each, each + 1)]
