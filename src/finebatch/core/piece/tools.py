"""A kitchen's tools for portioning: scoops, cutters, and the pans that bakers have."""

from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.piece.kinds import Cutter, Pan, PanShape
from finebatch.core.values import FromOutside, Name

SheetKind = Literal["plain", "dark", "insulated", "perforated"]
SAME_PAN_MM = 5.0
"""Pans that differ by less than this, across and down, are the same pan."""


@dataclass(frozen=True, slots=True)
class Scoop(FromOutside):
    """A scoop or spoon by the ml that it holds level."""

    name: Name
    ml: Annotated[float, Interval(gt=0, le=500)]


@dataclass(frozen=True, slots=True)
class NamedCutter(FromOutside):
    """A cutter of the kitchen."""

    name: Name
    cutter: Cutter


@dataclass(frozen=True, slots=True)
class NamedPan:
    """A pan that bakers have, filled to no depth yet."""

    name: str
    pan: Pan


@dataclass(frozen=True, slots=True)
class NamedSheet:
    """A sheet that bakers have, by its inner size in mm."""

    name: str
    width_mm: float
    depth_mm: float


@dataclass(frozen=True, slots=True)
class OwnSheet(FromOutside):
    """Sheets of one further size and kind, and how many there are; inner size in mm."""

    name: Name
    width_mm: Annotated[float, Interval(ge=100, le=1000)]
    depth_mm: Annotated[float, Interval(ge=100, le=1000)]
    kind: SheetKind = "plain"
    number: Annotated[int, Interval(ge=1, le=12)] = 1


@dataclass(frozen=True, slots=True)
class OwnPan(FromOutside):
    """Pans of one size, and how many there are; inner size in mm."""

    name: Name
    shape: PanShape
    across_mm: Annotated[float, Interval(ge=60, le=600)]
    down_mm: Annotated[float, Interval(ge=60, le=600)]
    number: Annotated[int, Interval(ge=1, le=12)] = 1

    def holds(self, pan: Pan) -> bool:
        """Whether that is the pan a dough is pressed into."""
        across, down = pan.box_mm
        own_down = self.down_mm if self.shape == "rectangle" else self.across_mm
        near = abs(across - self.across_mm) < SAME_PAN_MM and abs(down - own_down) < SAME_PAN_MM
        return pan.shape == self.shape and near
