"""The kitchen: what there is to bake with."""

from dataclasses import dataclass, field, fields, replace

from pydantic import TypeAdapter
from sqlalchemy.orm import Session

from finebatch.core.formula.kitchen_amounts import UnitSystem
from finebatch.core.heat.oven import OvenMode
from finebatch.core.larder.measuring import USUAL_EGG, CupHabit, Measuring
from finebatch.core.piece.rows import Sheet
from finebatch.core.piece.tools import NamedCutter, OwnPan, OwnSheet, Scoop, SheetKind
from finebatch.core.plan.habits import Planning
from finebatch.core.refusal import Refusal, refuse
from finebatch.facts import tables
from finebatch.store.models import KitchenRow


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
    scoops: tuple[Scoop, ...] = field(default_factory=tables.scoops)
    cutters: tuple[NamedCutter, ...] = field(default_factory=tables.cutters)
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


def is_described(session: Session) -> bool:
    """Whether the baker has said what there is, or the usual kitchen is still assumed."""
    return session.get(KitchenRow, 1) is not None


def change_kitchen(session: Session, kitchen: KitchenSetting) -> KitchenSetting:
    """Keep the kitchen; `Refusal` when the margin leaves no sheet."""
    least = min(kitchen.sheet_width_mm, kitchen.sheet_depth_mm)
    if 2 * kitchen.margin_mm >= least - 20:
        raise refuse("margin_mm", "The margin leaves no room on the sheet. Make it smaller.")
    for place, own in enumerate(kitchen.other_sheets):
        if 2 * kitchen.margin_mm >= min(own.width_mm, own.depth_mm) - 20:
            raise refuse(
                f"other_sheets.{place}.width_mm",
                f"The margin leaves no room on “{own.name}”. Make the sheet larger.",
            )
    for what, called in (
        ("other_sheets", [sheet.name for sheet in kitchen.other_sheets]),
        ("pans", [pan.name for pan in kitchen.pans]),
        ("planning.helpers", ["you", *(helper.name for helper in kitchen.planning.helpers)]),
    ):
        if len(set(called)) < len(called):
            raise refuse(what, "Two have the same name. Give each one of its own.")
    for helper in kitchen.planning.helpers:
        _ = helper.jobs
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
