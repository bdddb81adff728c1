"""A kitchen's tools for portioning: scoops, cutters, and the pans that bakers have."""

from dataclasses import dataclass
from typing import Literal

from finebatch.core.piece.kinds import Cutter, Pan, PanShape

SheetKind = Literal["plain", "dark", "insulated", "perforated"]
SAME_PAN_MM = 5.0
"""Pans that differ by less than this, across and down, are the same pan."""


@dataclass(frozen=True, slots=True)
class Scoop:
    """A scoop or spoon by the ml that it holds level."""

    name: str
    ml: float


@dataclass(frozen=True, slots=True)
class NamedCutter:
    """A cutter of the kitchen."""

    name: str
    cutter: Cutter


@dataclass(frozen=True, slots=True)
class NamedPan:
    """A pan that bakers have, filled to no depth yet."""

    name: str
    pan: Pan


@dataclass(frozen=True, slots=True)
class OwnSheet:
    """Sheets of one further size and kind, and how many there are; inner size in mm."""

    name: str
    width_mm: float
    depth_mm: float
    kind: SheetKind = "plain"
    number: int = 1


@dataclass(frozen=True, slots=True)
class OwnPan:
    """Pans of one size, and how many there are; inner size in mm."""

    name: str
    shape: PanShape
    across_mm: float
    down_mm: float
    number: int = 1

    def holds(self, pan: Pan) -> bool:
        """Whether that is the pan a dough is pressed into."""
        across, down = pan.box_mm
        own_down = self.down_mm if self.shape == "rectangle" else self.across_mm
        near = abs(across - self.across_mm) < SAME_PAN_MM and abs(down - own_down) < SAME_PAN_MM
        return pan.shape == self.shape and near
