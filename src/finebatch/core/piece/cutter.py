"""A cutter: its box and what it cuts out. Lengths in mm."""

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.measures.figures import area
from finebatch.core.refusal import refuse
from finebatch.core.values import FromOutside

CutterShape = Literal["round", "square", "rectangle", "hexagon", "own"]
OWN_SHARE = 0.65
"""What the outline of a leaf or a heart fills of its box, about."""


@dataclass(frozen=True, slots=True)
class Cutter(FromOutside):
    """A cutter by its bounding box; `area_cm2` is needed for an outline of its own only."""

    NEEDED = ("shape", "across_mm", "down_mm")

    shape: CutterShape = "round"
    across_mm: Annotated[float, Interval(ge=8, le=300)] = 60.0
    down_mm: Annotated[float, Interval(ge=8, le=300)] = 60.0
    area_cm2: Annotated[float, Interval(gt=0, le=900)] | None = None

    @property
    def box_mm(self) -> tuple[float, float]:
        """Across and down, in mm, of the box around it."""
        match self.shape:
            case "round" | "square":
                return self.across_mm, self.across_mm
            case "hexagon":
                return self.across_mm, self.across_mm * 2 / math.sqrt(3)
            case "rectangle" | "own":
                return self.across_mm, self.down_mm

    @property
    def area_mm2(self) -> float:
        """What it cuts out, in mm²; `Refusal` when its own outline is not known or too large."""
        across, down = self.box_mm
        match self.shape:
            case "round":
                return math.pi / 4 * across**2
            case "hexagon":
                return math.sqrt(3) / 2 * across**2
            case "square" | "rectangle":
                return across * down
            case "own":
                most = across * down / 100
                if self.area_cm2 is None or not 0 < self.area_cm2 <= most:
                    raise refuse(
                        "cutter.area_cm2",
                        f"Its box is {area(most)}; say what it cuts out of that, for a leaf or "
                        f"heart about {area(OWN_SHARE * most)}.",
                    )
                return 100 * self.area_cm2
