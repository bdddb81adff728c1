"""Pressed in a pan to a thickness that is set: as many pans as the dough fills."""

from dataclasses import asdict, dataclass, replace
from typing import Literal

from finebatch.core.measures.figures import marked, millimetres
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.kinds.in_pan import PAN_ASKS, InPan, PanScored, pan_says
from finebatch.core.piece.kinds.portioning import Made, ThicknessMm, moved, whole_pieces
from finebatch.core.piece.kinds.says import THICKNESS
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.tools import Tools
from finebatch.core.refusal import refuse

FILLED = replace(THICKNESS, range=(5, 35))


@dataclass(frozen=True, slots=True)
class PansFilled(PanScored):
    """Pans filled to one thickness."""

    kind: Literal["pan"] = "pan"


@dataclass(frozen=True, slots=True)
class Pan(InPan):
    """Pressed in a pan with walls, scored in a grid (across by down), or a round one in wedges."""

    NEEDED = ("kind", "shape", "across_mm", "down_mm", "wall_mm", "thickness_mm")
    SAYS = pan_says("pressed in a pan")
    HANDLES = (FILLED,)
    ASKS = PAN_ASKS
    MAKING = PansFilled

    thickness_mm: ThicknessMm = 12.0
    kind: Literal["pan"] = "pan"

    def deep_mm(self, lot: Lot) -> float:
        if self.thickness_mm > self.wall_mm:
            raise refuse(
                "thickness_mm",
                f"The pan is {millimetres(self.wall_mm)} deep; fill it to that at most, and lower "
                "if the dough rises.",
            )
        return self.thickness_mm

    def weighing(self, grams: float, lot: Lot) -> "Pan":
        return moved(self, FILLED, grams / self.raw(lot).grams)

    def sizes(self, tools: Tools, lot: Lot) -> list[tuple[str, "Pan"]]:
        return [(marked(p.name), replace(self, **asdict(p.pan))) for p in tools.pans]

    def make(self, lot: Lot, found: Foreseen) -> Made:
        pans, left = whole_pieces(lot, found.raw.grams)
        return Made(pans, left, self.score(found.raw.grams, found.raw.height_mm, pans))
