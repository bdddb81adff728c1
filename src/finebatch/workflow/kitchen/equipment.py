"""The kitchen: what there is to bake with."""

from dataclasses import replace

from sqlalchemy.orm import Session

from finebatch.core.larder.measuring import Measuring
from finebatch.core.measures.kitchen_units import KitchenUnits
from finebatch.core.refusal import Refusal, refuse
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.facts import tables
from finebatch.store.models import KitchenRow
from finebatch.store.once import again, once

KITCHEN = "kitchen"
MOST_TOOLS = 60


def usual_kitchen() -> KitchenSetting:
    """What is assumed of a kitchen until it is described."""
    return KitchenSetting(scoops=tables.scoops(), cutters=tables.cutters())


def measuring_of(kitchen: KitchenSetting) -> Measuring:
    """What is assumed of cups and eggs in that kitchen."""
    return Measuring(kitchen.cup, kitchen.egg, tables.egg_sizes())


def get_kitchen(session: Session) -> KitchenSetting:
    """The kitchen; the usual one until it was set."""
    return once(session, KITCHEN, _read_kitchen)


def _read_kitchen(session: Session) -> KitchenSetting:
    row = session.get(KitchenRow, 1)
    return usual_kitchen() if row is None else row.setting


def is_described(session: Session) -> bool:
    """Whether the baker has said what there is, or the usual kitchen is still assumed."""
    row = session.get(KitchenRow, 1)
    return row is not None and row.described


def choose_units(session: Session, units: KitchenUnits) -> KitchenSetting:
    """Keep the units of the kitchen, whether or not it is described yet."""
    kitchen = replace(get_kitchen(session), units=units)
    session.merge(KitchenRow(id=1, setting=kitchen, described=is_described(session)))
    again(session, KITCHEN)
    session.flush()
    return kitchen


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
    session.merge(KitchenRow(id=1, setting=kitchen, described=True))
    again(session, KITCHEN)
    session.flush()
    return kitchen
