"""How a dough is portioned, chilled and baked."""

from dataclasses import dataclass
from typing import Annotated

from annotated_types import Interval, MaxLen

from finebatch.core.formula.dough import Doneness
from finebatch.core.piece.effects import Surface
from finebatch.core.piece.evidence import By
from finebatch.core.piece.kinds.every import AnyKind
from finebatch.core.piece.sizes import MOST_SIZES, AlsoPieces
from finebatch.core.piece.tray import Evenness
from finebatch.core.values import FromOutside, Text


@dataclass(frozen=True, slots=True)
class TraySetting(FromOutside):
    """How a dough is portioned, chilled and baked. g, mm, °C and minutes.

    Without a wanted `doneness` it is the family's; `rested` says that the dough lay overnight;
    `minutes_by` and `width_by` what its minutes and its width go by, where its card says any.
    `sheet` names a sheet of the kitchen other than the usual one; `also` are pieces of other
    sizes or forms.
    """

    piece: AnyKind
    evenness: Evenness
    dough_temp_c: Annotated[float, Interval(ge=-25, le=40)]
    oven_c: Annotated[float, Interval(ge=60, le=300)]
    surface: Surface
    chill_min: Annotated[int, Interval(ge=0, le=4320)]
    doneness: Doneness | None = None
    rested: bool = False
    sheet: Annotated[Text, MaxLen(40)] = ""
    also: Annotated[tuple[AlsoPieces, ...], MaxLen(MOST_SIZES)] = ()
    minutes_by: By = "all"
    width_by: By = "all"
