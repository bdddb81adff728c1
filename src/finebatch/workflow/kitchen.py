"""The kitchen: what there is to bake with."""

from dataclasses import asdict, dataclass

from sqlalchemy.orm import Session

from finebatch.core.heat.oven import OvenMode
from finebatch.core.piece.layout import Sheet
from finebatch.core.refusal import refuse
from finebatch.store.models import KitchenRow


@dataclass(frozen=True, slots=True)
class KitchenSetting:
    """Sheets (inner size, margin and gap in mm, and how many), shelves, oven mode."""

    sheet_width_mm: float = 405.0
    sheet_depth_mm: float = 305.0
    margin_mm: float = 10.0
    gap_mm: float = 12.0
    sheets: int = 2
    shelves: int = 1
    oven_mode: OvenMode = "conventional"

    @property
    def sheet(self) -> Sheet:
        """One sheet, as the layout wants it."""
        return Sheet(self.sheet_width_mm, self.sheet_depth_mm, self.margin_mm, self.gap_mm)


def get_kitchen(session: Session) -> KitchenSetting:
    """The kitchen; the usual one until it was set."""
    row = session.get(KitchenRow, 1)
    if row is None:
        return KitchenSetting()
    mode: OvenMode = row.oven_mode  # type: ignore[assignment]
    return KitchenSetting(
        row.sheet_width_mm, row.sheet_depth_mm, row.margin_mm, row.gap_mm, row.sheets,
        row.shelves, mode,
    )  # fmt: skip


def change_kitchen(session: Session, kitchen: KitchenSetting) -> KitchenSetting:
    """Keep the kitchen; `Refusal` when the margin leaves no sheet."""
    least = min(kitchen.sheet_width_mm, kitchen.sheet_depth_mm)
    if 2 * kitchen.margin_mm >= least - 20:
        raise refuse("margin_mm", "The margin leaves no room on the sheet. Make it smaller.")
    session.merge(KitchenRow(id=1, **asdict(kitchen)))
    session.flush()
    return kitchen
