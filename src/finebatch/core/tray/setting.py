"""How a dough is portioned, chilled and baked."""

from dataclasses import dataclass
from typing import Annotated

from annotated_types import Interval, MaxLen

from finebatch.core.care.keeping import KeptAs
from finebatch.core.formula.dough import Colour, Doneness
from finebatch.core.piece.effects import Surface
from finebatch.core.piece.evidence import By
from finebatch.core.piece.kinds.every import AnyKind
from finebatch.core.piece.sizes import MOST_SIZES, AlsoPieces
from finebatch.core.piece.tray import Evenness
from finebatch.core.values import FromOutside, Text


@dataclass(frozen=True, slots=True)
class TraySetting(FromOutside):
    """How a dough is portioned, chilled and baked. g, mm, °C and minutes.

    Without a wanted `doneness` it is the family's, without a
    `colour` the usual one of that; `rested` says that the dough lay overnight;
    `chilled_as` in what shape it is chilled, where that is not as is best;
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
    colour: Colour | None = None
    rested: bool = False
    sheet: Annotated[Text, MaxLen(40)] = ""
    also: Annotated[tuple[AlsoPieces, ...], MaxLen(MOST_SIZES)] = ()
    chilled_as: KeptAs | None = None
    minutes_by: By = "all"
    width_by: By = "all"

    @property
    def cold_as(self) -> KeptAs:
        """In what shape its dough lies in the cold: as it is set, else as its kind does."""
        own = self.chilled_as
        return own if own in self.piece.CHILLED_AS and own is not None else self.piece.KEPT_AS
