"""The kitchen as it is described: what there is to bake with, and its habits."""

from dataclasses import dataclass, field, replace
from typing import Annotated

from annotated_types import Interval, MaxLen

from finebatch.core.formula.kitchen_amounts import UnitSystem
from finebatch.core.heat.oven import OvenMode
from finebatch.core.larder.measuring import USUAL_EGG, CupHabit
from finebatch.core.measures.kitchen_units import METRIC, KitchenUnits
from finebatch.core.piece.rows import Sheet
from finebatch.core.piece.tools import NamedCutter, OwnPan, OwnSheet, Scoop, SheetKind
from finebatch.core.plan.habits import Planning
from finebatch.core.values import FromOutside, Text


@dataclass(frozen=True, slots=True)
class KitchenSetting(FromOutside):
    """Sheets (inner size, margin and gap in mm, kind, and how many), shelves, oven mode, habits.

    `other_sheets` are those of other sizes or kinds; temperatures in °C. `learns` lets the book
    shift what is foreseen. `units` are those in which figures are read; None until they are chosen.
    """

    NEEDED = (
        *("sheet_width_mm", "sheet_depth_mm", "margin_mm", "gap_mm"),
        *("sheets", "shelves", "oven_mode"),
    )

    sheet_width_mm: Annotated[float, Interval(ge=100, le=1000)] = 405.0
    sheet_depth_mm: Annotated[float, Interval(ge=100, le=1000)] = 305.0
    margin_mm: Annotated[float, Interval(ge=0, le=100)] = 10.0
    gap_mm: Annotated[float, Interval(ge=0, le=100)] = 12.0
    sheets: Annotated[int, Interval(ge=1, le=12)] = 2
    shelves: Annotated[int, Interval(ge=1, le=4)] = 1
    oven_mode: OvenMode = "conventional"
    cup: CupHabit = "spooned"
    egg: Annotated[Text, MaxLen(30)] = USUAL_EGG
    hot_corners: bool = False
    sheet_kind: SheetKind = "plain"
    other_sheets: Annotated[tuple[OwnSheet, ...], MaxLen(8)] = ()
    pans: Annotated[tuple[OwnPan, ...], MaxLen(12)] = ()
    fridge_c: Annotated[float, Interval(ge=0, le=12)] = 4.0
    freezer_c: Annotated[float, Interval(ge=-40, le=-5)] = -18.0
    room_c: Annotated[float, Interval(ge=10, le=40)] = 21.0
    scoops: Annotated[tuple[Scoop, ...], MaxLen(40)] = ()
    cutters: Annotated[tuple[NamedCutter, ...], MaxLen(40)] = ()
    planning: Planning = field(default_factory=Planning)
    learns: bool = True
    units: KitchenUnits | None = None

    @property
    def reads(self) -> KitchenUnits:
        """The units in which figures are read here: metric until others are chosen."""
        return self.units or METRIC

    @property
    def amounts(self) -> UnitSystem:
        """How amounts of ingredients are measured out here."""
        if self.reads.volume == "cups":
            return "cups"
        return "ounces" if self.reads.mass == "ounces" else "grams"

    @property
    def sheet(self) -> Sheet:
        """One sheet, as the layout wants it."""
        return Sheet(
            self.sheet_width_mm, self.sheet_depth_mm, self.margin_mm, self.gap_mm, self.hot_corners
        )

    def on(self, name: str) -> "KitchenSetting":
        """The kitchen as it is for a dough that is baked on the sheet of that name; the usual one
        where there is none."""
        other = next((own for own in self.other_sheets if own.name == name), None)
        if other is None:
            return self
        return replace(
            self,
            sheet_width_mm=other.width_mm,
            sheet_depth_mm=other.depth_mm,
            sheet_kind=other.kind,
        )
