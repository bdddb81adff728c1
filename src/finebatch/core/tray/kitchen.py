"""The kitchen as it is described: what there is to bake with, and its habits."""

from dataclasses import dataclass, field, replace

from finebatch.core.formula.kitchen_amounts import UnitSystem
from finebatch.core.heat.oven import OvenMode
from finebatch.core.larder.measuring import USUAL_EGG, CupHabit
from finebatch.core.piece.rows import Sheet
from finebatch.core.piece.tools import NamedCutter, OwnPan, OwnSheet, Scoop, SheetKind
from finebatch.core.plan.habits import Planning


@dataclass(frozen=True, slots=True)
class KitchenSetting:
    """Sheets (inner size, margin and gap in mm, kind, and how many), shelves, oven mode, habits.

    `other_sheets` are those of other sizes or kinds. `own_units` are those in which the baker
    likes to read amounts; temperatures in °C. `learns` lets the book shift what is foreseen.
    """

    sheet_width_mm: float = 405.0
    sheet_depth_mm: float = 305.0
    margin_mm: float = 10.0
    gap_mm: float = 12.0
    sheets: int = 2
    shelves: int = 1
    oven_mode: OvenMode = "conventional"
    cup: CupHabit = "spooned"
    egg: str = USUAL_EGG
    own_units: UnitSystem = "grams"
    hot_corners: bool = False
    sheet_kind: SheetKind = "plain"
    other_sheets: tuple[OwnSheet, ...] = ()
    pans: tuple[OwnPan, ...] = ()
    fridge_c: float = 4.0
    freezer_c: float = -18.0
    room_c: float = 21.0
    scoops: tuple[Scoop, ...] = ()
    cutters: tuple[NamedCutter, ...] = ()
    planning: Planning = field(default_factory=Planning)
    learns: bool = True

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
        return replace(self, sheet_width_mm=other.width_mm, sheet_depth_mm=other.depth_mm,
                       sheet_kind=other.kind)  # fmt: skip
