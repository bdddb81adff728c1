"""The kitchen: what there is to bake with."""

from dataclasses import asdict, dataclass, fields

from sqlalchemy.orm import Session

from finebatch.core.formula.kitchen_amounts import UnitSystem
from finebatch.core.heat.oven import OvenMode
from finebatch.core.larder.measuring import USUAL_EGG, CupHabit, Measuring
from finebatch.core.piece.layout import Sheet
from finebatch.core.refusal import refuse
from finebatch.facts import tables
from finebatch.store.models import KitchenRow


@dataclass(frozen=True, slots=True)
class KitchenSetting:
    """Sheets (inner size, margin and gap in mm, and how many), shelves, oven mode, habits.

    `own_units` are those in which the baker likes to read amounts.
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

    @property
    def sheet(self) -> Sheet:
        """One sheet, as the layout wants it."""
        return Sheet(self.sheet_width_mm, self.sheet_depth_mm, self.margin_mm, self.gap_mm)

    @property
    def measuring(self) -> Measuring:
        """What is assumed of cups and eggs."""
        return Measuring(self.cup, self.egg, tables.egg_sizes())


def get_kitchen(session: Session) -> KitchenSetting:
    """The kitchen; the usual one until it was set."""
    row = session.get(KitchenRow, 1)
    if row is None:
        return KitchenSetting()
    return KitchenSetting(**{f.name: getattr(row, f.name) for f in fields(KitchenSetting)})


def change_kitchen(session: Session, kitchen: KitchenSetting) -> KitchenSetting:
    """Keep the kitchen; `Refusal` when the margin leaves no sheet."""
    least = min(kitchen.sheet_width_mm, kitchen.sheet_depth_mm)
    if 2 * kitchen.margin_mm >= least - 20:
        raise refuse("margin_mm", "The margin leaves no room on the sheet. Make it smaller.")
    if kitchen.egg not in tables.egg_sizes():
        raise refuse("egg", "Choose a market and size of egg from the list.")
    session.merge(KitchenRow(id=1, **asdict(kitchen)))
    session.flush()
    return kitchen
