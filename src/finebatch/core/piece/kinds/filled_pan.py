"""Fill this pan: all of the dough, or a share of it, in the pans that there are; how deep it lies
follows."""

from dataclasses import asdict, dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.measures.figures import marked, millimetres
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.kinds.in_pan import PAN_ASKS, InPan, PanScored, pan_says
from finebatch.core.piece.kinds.portioning import Made
from finebatch.core.piece.kinds.says import Ask, Handle
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.tools import Tools
from finebatch.core.refusal import refuse

LEAST_MM = 3.0
"""Thinner than this a pressed dough tears and burns (household practice)."""


@dataclass(frozen=True, slots=True)
class DoughShared(PanScored):
    """Pans that share the dough."""

    kind: Literal["filled_pan"] = "filled_pan"


@dataclass(frozen=True, slots=True)
class FilledPan(InPan):
    """So many pans that share the dough, or `share_pct` of it; the rest is left over."""

    NEEDED = ("kind", "shape", "across_mm", "down_mm", "wall_mm")
    SAYS = pan_says("pressed to fill a pan")
    HANDLES = (Handle("share_pct", "Share of the dough", "Of the dough", "%", (10, 100), 5),)
    ASKS = (PAN_ASKS[0], Ask("pans", "How many", "count", ""), *PAN_ASKS[1:])
    MAKING = DoughShared

    share_pct: Annotated[float, Interval(gt=0, le=100)] = 100.0
    pans: Annotated[int, Interval(ge=1, le=12)] = 1
    kind: Literal["filled_pan"] = "filled_pan"

    def deep_mm(self, lot: Lot) -> float:
        deep = self._deep_mm(lot)
        if deep > self.wall_mm:
            most = 100 * self.pans * self.area_mm2 * self.wall_mm / lot.usable_mm3
            raise refuse(
                "share_pct",
                f"So much dough lies {millimetres(deep)} deep, and the pan is "
                f"{millimetres(self.wall_mm)} deep. "
                f"Take {most:.0f} % of it at most, more pans, or a larger one.",
            )
        if deep < LEAST_MM:
            raise refuse(
                "share_pct",
                f"So little dough lies only {millimetres(deep, 1)} deep. Take more of it, fewer "
                "pans, or a "
                "smaller one.",
            )
        return deep

    def weighing(self, grams: float, lot: Lot) -> "FilledPan":
        share = 100 * grams * self.pans / lot.usable_g
        return replace(self, share_pct=min(share, 100.0))

    def sizes(self, tools: Tools, lot: Lot) -> list[tuple[str, "FilledPan"]]:
        each = [(pan.name, replace(self, **asdict(pan.pan))) for pan in tools.pans]
        return [(f"{marked(name)}, {piece.told(lot)}", piece) for name, piece in each]

    def make(self, lot: Lot, found: Foreseen) -> Made:
        left = lot.usable_g * (1 - self.share_pct / 100)
        scored = self.score(found.raw.grams, found.raw.height_mm, self.pans)
        return Made(self.pans, left, scored)

    def without_leftover(self, lot: Lot, pieces: int) -> list["FilledPan"]:
        return [replace(self, share_pct=100.0)]

    @property
    def least_times(self) -> float:
        return 1 / self.pans

    def times_over(self, times: float) -> "FilledPan":
        return replace(self, pans=min(max(round(self.pans * times), 1), 12))

    def more_gives_more(self) -> None:
        raise refuse("pieces", "A pan gives as many as it is scored in. Score more, or add a pan.")

    def told(self, lot: Lot) -> str:
        return f"{millimetres(self._deep_mm(lot))} deep"

    def _deep_mm(self, lot: Lot) -> float:
        return self.share_pct / 100 * lot.usable_mm3 / (self.pans * self.area_mm2)
