"""A paper template: a drawing at 1 : 1, to cut along or to slide under the paper. In mm."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from finebatch.core.measures.figures import MM_IN
from finebatch.core.measures.kitchen_units import KitchenUnits
from finebatch.core.piece.lying import Outline
from finebatch.core.values import Point

TemplateOf = Literal["sheet", "slab"]
PaperOutline = Literal["round", "box", "hexagon"]
ON_PAPER: Mapping[Outline, PaperOutline] = {
    "round": "round",
    "ring": "round",
    "hexagon": "hexagon",
    "box": "box",
    "own": "box",
    "log": "box",
}


@dataclass(frozen=True, slots=True)
class ControlLine:
    """A line of known length to lay a ruler on, which shows that a printer has scaled the page."""

    mm: float
    words: str


METRIC_LINE = ControlLine(100.0, "100 mm")
INCH_LINE = ControlLine(4 * MM_IN, "4 in")


def control_line(units: KitchenUnits) -> ControlLine:
    """The control line in the kitchen's unit of length."""
    return METRIC_LINE if units.length == "metric" else INCH_LINE


@dataclass(frozen=True, slots=True)
class Mark:
    """One outline about its middle; `role` is what it stands for. Where its `points` are known (in
    a box from −1/2 to 1/2) they are what is drawn, turned by `turn` degrees."""

    x_mm: float
    y_mm: float
    across_mm: float
    down_mm: float
    outline: PaperOutline
    role: Literal["raw", "baked", "cut"]
    points: tuple[Point, ...] = ()
    turn: int = 0

    @property
    def corners(self) -> tuple[Point, ...]:
        """The corners of an outline that is known, where they lie on the paper."""
        at = math.radians(self.turn)
        cos, sin = math.cos(at), math.sin(at)
        sized = ((self.across_mm * x, self.down_mm * y) for x, y in self.points)
        return tuple(
            (self.x_mm + x * cos - y * sin, self.y_mm + x * sin + y * cos) for x, y in sized
        )

    @property
    def box_mm(self) -> tuple[float, float]:
        """Its box on the paper, across and down."""
        if self.turn % 180:
            return self.down_mm, self.across_mm
        return self.across_mm, self.down_mm


@dataclass(frozen=True, slots=True)
class Template:
    """A drawing to print at its own size: its frame, its marks, and what it says."""

    title: str
    said: str
    across_mm: float
    down_mm: float
    marks: tuple[Mark, ...]
