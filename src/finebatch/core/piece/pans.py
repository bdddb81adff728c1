"""A pan with walls, by its inner size in mm."""

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.values import FromOutside

PanShape = Literal["round", "square", "rectangle"]


@dataclass(frozen=True, slots=True)
class PanFloor(FromOutside):
    """The floor of a pan: a round or square one is as long as it is wide."""

    shape: PanShape = "square"
    across_mm: Annotated[float, Interval(ge=60, le=600)] = 200.0
    down_mm: Annotated[float, Interval(ge=60, le=600)] = 200.0

    @property
    def box_mm(self) -> tuple[float, float]:
        """Across and down, in mm."""
        return self.across_mm, self.down_mm if self.shape == "rectangle" else self.across_mm

    @property
    def area_mm2(self) -> float:
        """Its area in mm²."""
        across, down = self.box_mm
        return math.pi / 4 * across**2 if self.shape == "round" else across * down


@dataclass(frozen=True, slots=True)
class PanBox(PanFloor):
    """A pan with its wall."""

    wall_mm: Annotated[float, Interval(ge=5, le=150)] = 40.0


def depth_in(pan: PanFloor, other: PanFloor) -> float:
    """How much of a recipe for `pan` fills `other` to the same depth: the ratio of their floors."""
    return other.area_mm2 / pan.area_mm2
