"""A paper template: a drawing at 1 : 1, to cut along or to slide under the paper. In mm."""

import math
from dataclasses import dataclass
from typing import Literal

from finebatch.core.measures.figures import MM_IN
from finebatch.core.measures.kitchen_units import KitchenUnits
from finebatch.core.piece.outlines import Lines

TemplateOf = Literal["sheet", "slab"]
Paper = Literal["A4", "Letter"]
Role = Literal["raw", "baked", "cut", "line"]


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
    """One outline about its middle; `role` is what it stands for (a `line` is the middle of a rope,
    and open). Its `lines` are about its middle, before it is turned by `turn` degrees; where there
    are none it is an ellipse."""

    x_mm: float
    y_mm: float
    across_mm: float
    down_mm: float
    role: Role
    lines: Lines = ()
    turn: int = 0

    @property
    def placed(self) -> Lines:
        """Its lines where they lie on the paper."""
        at = math.radians(self.turn)
        cos, sin = math.cos(at), math.sin(at)
        return tuple(
            tuple((self.x_mm + x * cos - y * sin, self.y_mm + x * sin + y * cos) for x, y in line)
            for line in self.lines
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
