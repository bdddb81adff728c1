"""A kitchen's tools for portioning: scoops, cutters, and the pans that bakers have."""

from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.piece.cutter import Cutter
from finebatch.core.piece.pans import PanBox, PanFloor
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
    pan: PanBox


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
class OwnPan(PanFloor):
    """Pans of one size, and how many there are; inner size in mm."""

    NEEDED = ("name", "shape", "across_mm", "down_mm")

    name: Name = "pan"
    number: Annotated[int, Interval(ge=1, le=12)] = 1

    def holds(self, pan: PanFloor) -> bool:
        """Whether that is the pan a dough is pressed into."""
        near = zip(self.box_mm, pan.box_mm, strict=True)
        return pan.shape == self.shape and all(abs(a - b) < SAME_PAN_MM for a, b in near)


@dataclass(frozen=True, slots=True)
class Tools:
    """What there is to portion with, here or in any kitchen."""

    scoops: tuple[Scoop, ...] = ()
    cutters: tuple[NamedCutter, ...] = ()
    pans: tuple[NamedPan, ...] = ()
