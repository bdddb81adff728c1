"""How a dough is portioned, chilled and baked."""

from dataclasses import dataclass

from finebatch.core.heat.minutes import Doneness
from finebatch.core.piece.effects import Surface
from finebatch.core.piece.kinds import Portioning
from finebatch.core.piece.sizes import AlsoPieces
from finebatch.core.piece.tray import Evenness


@dataclass(frozen=True, slots=True)
class TraySetting:
    """How a dough is portioned, chilled and baked. g, mm, °C and minutes.

    Without a wanted `doneness` it is the family's; `rested` says that the dough lay overnight.
    `sheet` names a sheet of the kitchen other than the usual one; `also` are pieces of another
    size.
    """

    piece: Portioning
    evenness: Evenness
    dough_temp_c: float
    oven_c: float
    surface: Surface
    chill_min: int
    doneness: Doneness | None = None
    rested: bool = False
    sheet: str = ""
    also: AlsoPieces | None = None
