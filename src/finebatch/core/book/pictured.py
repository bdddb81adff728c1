"""What a photograph of a tray measured, as the baker let it stand: kept with the bake's record."""

from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval, Len, MaxLen

from finebatch.core.values import FromOutside, Text

MOST_PIECES = 80
"""So many pieces of one sheet are written down."""
SheetSide = Literal["far", "right", "near", "left"]
Length = Annotated[float, Interval(ge=-50, le=2000)]
Width = Annotated[float, Interval(ge=1, le=600)]


@dataclass(frozen=True, slots=True, kw_only=True)
class PiecePictured(FromOutside):
    """A piece: its name (row and place in it, "B3"), its middle on the sheet from its far left
    corner, its least width and the one across that (mm), its step on the colour strip (from 1)."""

    name: Annotated[Text, Len(1, 6)]
    x_mm: Length
    y_mm: Length
    width_mm: Width
    length_mm: Width
    step: Annotated[float, Interval(ge=1, le=7)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Pictured(FromOutside):
    """The pieces of a photographed sheet (`wide_mm` × `deep_mm` inside); which of its sides was at
    the back of the oven; whether it was `turned` around half-way; in which oven it was."""

    wide_mm: Width
    deep_mm: Width
    pieces: Annotated[tuple[PiecePictured, ...], MaxLen(MOST_PIECES)]
    back: SheetSide = "far"
    turned: bool = False
    oven: Annotated[int, Interval(ge=1, le=2)] = 1
