"""The Tray screen: one dough foreseen in pieces on the kitchen's sheets."""

from typing import Annotated

from fastapi import APIRouter
from pydantic import Field

from finebatch.core.formula.kitchen_amounts import UnitSystem
from finebatch.core.heat.minutes import Doneness
from finebatch.core.heat.oven import OvenMode
from finebatch.core.larder.measuring import USUAL_EGG, CupHabit
from finebatch.core.piece.layout import Layout, Pattern
from finebatch.core.piece.tray import TrayAnswer
from finebatch.core.plan.prepare import bake_of
from finebatch.web.cards import TraySettingBody
from finebatch.web.deps import Data
from finebatch.web.pieces import RawOut, ThicknessOut, WidthOut
from finebatch.web.types import Id, Length, Out, Text, ValueBody
from finebatch.workflow import kitchen, trays
from finebatch.workflow.doughs import get_dough
from finebatch.workflow.kitchen import KitchenSetting
from finebatch.workflow.larder import get_larder

router = APIRouter(prefix="/api", tags=["tray"])


class KitchenBody(ValueBody):
    """Sheets (inner size, margin and gap in mm, and how many), shelves, oven mode."""

    sheet_width_mm: Annotated[Length, Field(ge=100, le=1000)]
    sheet_depth_mm: Annotated[Length, Field(ge=100, le=1000)]
    margin_mm: Annotated[float, Field(ge=0, le=100)]
    gap_mm: Annotated[float, Field(ge=0, le=100)]
    sheets: Annotated[int, Field(ge=1, le=12)]
    shelves: Annotated[int, Field(ge=1, le=4)]
    oven_mode: OvenMode
    cup: CupHabit = "spooned"
    egg: Annotated[Text, Field(max_length=30)] = USUAL_EGG
    own_units: UnitSystem = "grams"


class YieldOut(Out):
    """Pieces, leftover and trays."""

    pieces: int
    leftover_g: float
    bowl_loss_g: float
    most_on_sheet: int
    trays: list[int]


class FootprintOut(Out):
    """Room for one piece up to the upper edge of its band, in mm."""

    across_mm: float
    down_mm: float
    is_round: bool


class PointOut(Out):
    """A place on the sheet in mm from its upper left inner corner."""

    x: float
    y: float


class LayoutOut(Out):
    """Where the pieces lie on a sheet, in mm from its upper left inner corner."""

    pattern: Pattern
    centres: list[PointOut]
    rows: list[int]
    across_mm: float
    down_mm: float
    nearest_mm: float | None
    turned: bool


class TrayOut(Out):
    """All that the Tray screen shows."""

    raw: RawOut
    width: WidthOut
    thickness: ThicknessOut
    minutes: float
    whole_minutes: int
    turn_after: int | None
    doneness: Doneness
    yields: YieldOut
    footprint: FootprintOut
    layouts: list[LayoutOut]
    total_g: float
    density_g_cm3: float
    kitchen: KitchenBody


def _layout_out(layout: Layout) -> LayoutOut:
    fields = {name: getattr(layout, name) for name in LayoutOut.model_fields}
    fields["centres"] = [PointOut(x=x, y=y) for x, y in layout.centres]
    return LayoutOut.model_validate(fields)


def _layouts(found: TrayAnswer) -> list[LayoutOut]:
    """The layout of each size of tray, fullest first; equal trays share one."""
    by_count = {len(layout.centres): layout for layout in found.layouts}
    return [_layout_out(by_count[n]) for n in sorted(by_count, reverse=True)]


@router.post("/doughs/{dough_id}/foresee")
def foresee(dough_id: Id, body: TraySettingBody, data: Data) -> TrayOut:
    """Foresee a dough in pieces with this setting, which is not kept."""
    with data.reading() as session:
        dough = get_dough(session, dough_id)
        here = kitchen.get_kitchen(session)
        asked = trays.question(dough, body.setting(), here)
        larder = get_larder(session)
        found = trays.answer(asked, larder, trays.lessons(session).of_dough(dough_id))
    bake = bake_of(found.foreseen.minutes)
    return TrayOut(
        raw=RawOut.model_validate(found.foreseen.raw),
        width=WidthOut.model_validate(found.foreseen.width),
        thickness=ThicknessOut.model_validate(found.foreseen.thickness),
        minutes=found.foreseen.minutes,
        whole_minutes=bake.minutes,
        turn_after=bake.turn_after,
        doneness=found.foreseen.doneness,
        yields=YieldOut.model_validate(found.yields),
        footprint=FootprintOut.model_validate(found.footprint),
        layouts=_layouts(found),
        total_g=dough.weighed.total_g,
        density_g_cm3=asked.composition(larder).density_g_cm3,
        kitchen=KitchenBody.model_validate(here),
    )


@router.get("/kitchen")
def get_kitchen(data: Data) -> KitchenBody:
    """What there is to bake with."""
    with data.reading() as session:
        return KitchenBody.model_validate(kitchen.get_kitchen(session))


@router.put("/kitchen")
def change_kitchen(body: KitchenBody, data: Data) -> KitchenBody:
    """Keep what there is to bake with."""
    with data.writing() as session:
        kept = kitchen.change_kitchen(session, KitchenSetting(**body.model_dump()))
        return KitchenBody.model_validate(kept)
