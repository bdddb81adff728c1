"""The kitchen: what there is to bake with."""

from dataclasses import dataclass, field, fields

from pydantic import TypeAdapter
from sqlalchemy.orm import Session

from finebatch.core.formula.kitchen_amounts import UnitSystem
from finebatch.core.heat.oven import OvenMode
from finebatch.core.larder.measuring import USUAL_EGG, CupHabit, Measuring
from finebatch.core.piece.rows import Sheet
from finebatch.core.piece.tools import NamedCutter, Scoop
from finebatch.core.plan.habits import Planning
from finebatch.core.refusal import Refusal, refuse
from finebatch.facts import tables
from finebatch.store.models import KitchenRow


@dataclass(frozen=True, slots=True)
class KitchenSetting:
    """Sheets (inner size, margin and gap in mm, and how many), shelves, oven mode, habits.

    `own_units` are those in which the baker likes to read amounts; temperatures in °C.
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
    fridge_c: float = 4.0
    freezer_c: float = -18.0
    room_c: float = 21.0
    scoops: tuple[Scoop, ...] = field(default_factory=tables.scoops)
    cutters: tuple[NamedCutter, ...] = field(default_factory=tables.cutters)
    planning: Planning = field(default_factory=Planning)

    @property
    def sheet(self) -> Sheet:
        """One sheet, as the layout wants it."""
        return Sheet(
            self.sheet_width_mm, self.sheet_depth_mm, self.margin_mm, self.gap_mm, self.hot_corners
        )

    @property
    def measuring(self) -> Measuring:
        """What is assumed of cups and eggs."""
        return Measuring(self.cup, self.egg, tables.egg_sizes())


_KITCHEN = TypeAdapter(KitchenSetting)
MOST_TOOLS = 60


def get_kitchen(session: Session) -> KitchenSetting:
    """The kitchen; the usual one until it was set."""
    row = session.get(KitchenRow, 1)
    if row is None:
        return KitchenSetting()
    kept = {f.name: getattr(row, f.name) for f in fields(KitchenSetting)}
    # A list that was never touched is the usual one.
    return _KITCHEN.validate_python({k: v for k, v in kept.items() if v is not None})


def change_kitchen(session: Session, kitchen: KitchenSetting) -> KitchenSetting:
    """Keep the kitchen; `Refusal` when the margin leaves no sheet."""
    least = min(kitchen.sheet_width_mm, kitchen.sheet_depth_mm)
    if 2 * kitchen.margin_mm >= least - 20:
        raise refuse("margin_mm", "The margin leaves no room on the sheet. Make it smaller.")
    if kitchen.egg not in tables.egg_sizes():
        raise refuse("egg", "Choose a market and size of egg from the list.")
    names = [scoop.name for scoop in kitchen.scoops] + [cut.name for cut in kitchen.cutters]
    if len(names) > MOST_TOOLS or len(set(names)) < len(names):
        raise refuse("scoops", f"Give each tool a name of its own; {MOST_TOOLS} tools at most.")
    for place, named in enumerate(kitchen.cutters):
        try:
            _ = named.cutter.area_mm2
        except Refusal as refusal:
            where = f"cutters.{place}.{refusal.faults[0].field.removeprefix('cutter.')}"
            raise refuse(where, refusal.faults[0].message) from refusal
    session.merge(KitchenRow(id=1, **_KITCHEN.dump_python(kitchen, mode="json")))
    session.flush()
    return kitchen
