"""How one piece lies on its sheet, raw and baked. Lengths in mm."""

from dataclasses import dataclass
from typing import Annotated, Literal

from finebatch.core.piece.rows import Footprint
from finebatch.core.values import Point, WithNames

Outline = Literal["round", "box", "hexagon", "own", "log", "ring"]
"""Of a cutter's own outline only the box and the area are known; a log has round ends."""
Size = Annotated[tuple[float, float], WithNames("across", "down")]


@dataclass(frozen=True, slots=True)
class Lies:
    """The outline of a piece and its boxes, raw and baked; a ring has a hole. An outline of its own
    `fills` a share of its box, and has `points` in a box from −1/2 to 1/2 where it is known."""

    outline: Outline
    raw_mm: Size
    baked_mm: Size
    hole_mm: float | None = None
    fills: float = 1.0
    points: tuple[Point, ...] = ()

    @property
    def room(self) -> Footprint:
        """What it takes of the sheet, baked; of a hexagon all that it may turn in."""
        across, down = self.baked_mm
        if self.outline in ("round", "hexagon", "ring"):
            most = max(across, down)
            return Footprint(most, most, is_round=True)
        return Footprint(across, down, is_round=False, outline=self.points)
