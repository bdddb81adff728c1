"""Wafers: a level spoonful spread flat, and shaped while it is hot."""

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.measures.figures import centimetres
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.kinds.portioning import (
    Grams,
    HotWork,
    Making,
    Portioning,
    moved,
)
from finebatch.core.piece.kinds.says import MASS, Advice, Ask, Handle, InProportion, Says
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.portion import MassPortion
from finebatch.core.piece.tools import Tools
from finebatch.core.refusal import refuse

SPREADS_MM = (50.0, 60.0, 70.0, 80.0, 90.0, 100.0)
WIDE = Handle("spread_mm", "Spread on the ruler", "Spread to", "mm", (40, 140), 1)
AS_THIN = replace(WIDE, along=(InProportion("grams", 2),))
"""Wider and as thin as before takes dough by the square."""


@dataclass(frozen=True, slots=True)
class WaferLimit(Making):
    """The most on a tray that can be shaped before they set, and when the last must be done."""

    by_hand: int
    soft_s: float
    each_s: float
    kind: Literal["wafer"] = "wafer"

    @property
    def at_once(self) -> int:
        return self.by_hand


@dataclass(frozen=True, slots=True)
class Wafer(Portioning):
    """A level spoonful spread flat, shaped while hot: soft for so long, each takes so long."""

    NEEDED = ("kind", "grams", "spread_mm")
    SAYS = Says(
        "wafers, shaped hot",
        tab="Shaping",
        work="Spread",
        drawn_in=("portion", "shape"),
        after="Shape them at once, the first out first; half a minute in the oven softens them "
        "again.",
        notes=(
            Advice(
                "Hot wafers burn: curve them with a cloth, and keep children to the cool jobs.",
                caution=True,
            ),
        ),
    )
    HANDLES = (replace(MASS, range=(3, 25), step=0.5), WIDE)
    ASKS = (
        Ask("soft_s", "Soft for", unit="s", step=5),
        Ask("shape_s", "Shaping one", unit="s"),
    )
    ONE_SIZE = True
    IS_BATTER = True
    RESTS_ON_SHEET = False

    grams: Grams = 7.0
    spread_mm: Annotated[float, Interval(ge=20, le=250)] = 70.0
    soft_s: Annotated[float, Interval(ge=5, le=600)] = 75.0
    shape_s: Annotated[float, Interval(ge=1, le=600)] = 12.0
    kind: Literal["wafer"] = "wafer"

    def portion(self, lot: Lot) -> MassPortion:
        return MassPortion(self.grams, "flattened", self.spread_mm)

    def weighing(self, grams: float, lot: Lot) -> "Wafer":
        return replace(self, grams=grams)

    def wider(self, by: float) -> "Wafer":
        return moved(self, AS_THIN, by)

    def sizes(self, tools: Tools, lot: Lot) -> list[tuple[str, "Wafer"]]:
        return [(f"spread to {centimetres(w)}", self.wider(w / self.spread_mm)) for w in SPREADS_MM]

    def in_time(self) -> WaferLimit:
        """How many one pair of hands shapes while they are soft; `Refusal` for not even one."""
        by_hand = int(self.soft_s / self.shape_s + 1e-9)
        if by_hand < 1:
            raise refuse(
                "shape_s",
                f"They are soft for {self.soft_s:g} s and one takes {self.shape_s:g} s: bake one "
                "at a time, and warm it again for a moment if it sets.",
            )
        return WaferLimit(by_hand, self.soft_s, self.shape_s)

    def making(self, found: Foreseen) -> WaferLimit:
        return self.in_time()

    @property
    def hot_work(self) -> HotWork:
        return HotWork(self.shape_s, 0)
