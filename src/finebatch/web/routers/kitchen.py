"""The kitchen: what there is to bake with."""

from typing import Annotated

from fastapi import APIRouter
from pydantic import Field

from finebatch.core.formula.kitchen_amounts import UnitSystem
from finebatch.core.heat.oven import OvenMode
from finebatch.core.larder.measuring import USUAL_EGG, CupHabit
from finebatch.core.plan.habits import Helper, Planning
from finebatch.facts import tables
from finebatch.web.deps import Data
from finebatch.web.portioning import NamedCutterBody, ScoopBody
from finebatch.web.types import Length, Out, Text, ValueBody
from finebatch.workflow import kitchen
from finebatch.workflow.kitchen import KitchenSetting

router = APIRouter(prefix="/api", tags=["kitchen"])


def _usual_scoops() -> list[ScoopBody]:
    return [ScoopBody.model_validate(scoop) for scoop in tables.scoops()]


def _usual_cutters() -> list[NamedCutterBody]:
    return [NamedCutterBody.model_validate(cutter) for cutter in tables.cutters()]


class HelperBody(ValueBody):
    """Somebody who helps; a child takes no hot or sharp job."""

    name: Annotated[Text, Field(min_length=1, max_length=40)]
    child: bool = False


Job = Annotated[int, Field(ge=1, le=15)]


class PlanningBody(ValueBody):
    """What the planner takes of a kitchen: a second oven, heat, room, helpers, minutes a job."""

    second_oven: Annotated[int, Field(ge=0, le=4)] = 0
    rise_c_min: Annotated[float, Field(ge=1, le=60)] = 8.0
    fall_c_min: Annotated[float, Field(ge=0.5, le=60)] = 5.0
    tolerance_c: Annotated[int, Field(ge=0, le=25)] = 5
    slides: bool = False
    racks: Annotated[int, Field(ge=1, le=60)] = 12
    fridge_places: Annotated[int, Field(ge=1, le=30)] = 6
    mixers: Annotated[int, Field(ge=1, le=6)] = 1
    pace: Annotated[float, Field(ge=0.3, le=4)] = 1.0
    load_min: Job = 1
    turn_min: Job = 1
    out_min: Job = 1
    rack_min: Job = 1
    sheet_ready_min: Annotated[int, Field(ge=0, le=60)] = 8
    raw_wait_min: Annotated[int, Field(ge=5, le=120)] = 45
    helpers: Annotated[list[HelperBody], Field(max_length=4)] = []

    def planning(self) -> Planning:
        """The core's value."""
        helpers = tuple(Helper(helper.name, helper.child) for helper in self.helpers)
        return Planning(**{**self.model_dump(exclude={"helpers"}), "helpers": helpers})


class KitchenBody(ValueBody):
    """Sheets (inner size, margin and gap in mm, and how many), shelves, oven, tools, cold in °C."""

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
    hot_corners: bool = False
    fridge_c: Annotated[float, Field(ge=0, le=12)] = 4.0
    freezer_c: Annotated[float, Field(ge=-40, le=-5)] = -18.0
    room_c: Annotated[float, Field(ge=10, le=40)] = 21.0
    scoops: Annotated[list[ScoopBody], Field(max_length=40)] = Field(default_factory=_usual_scoops)
    cutters: Annotated[list[NamedCutterBody], Field(max_length=40)] = Field(
        default_factory=_usual_cutters
    )
    planning: PlanningBody = PlanningBody()

    def setting(self) -> KitchenSetting:
        """The workflow's kitchen."""
        plain = self.model_dump(exclude={"scoops", "cutters", "planning"})
        return KitchenSetting(
            **plain,
            scoops=tuple(scoop.scoop() for scoop in self.scoops),
            cutters=tuple(named.named() for named in self.cutters),
            planning=self.planning.planning(),
        )


class NamedSheetOut(Out):
    """A sheet that bakers have, by its inner size in mm."""

    name: str
    width_mm: float
    depth_mm: float


@router.get("/sheets")
def list_sheets() -> list[NamedSheetOut]:
    """Sheets that bakers have."""
    return [NamedSheetOut.model_validate(sheet) for sheet in tables.sheets()]


@router.get("/kitchen")
def get_kitchen(data: Data) -> KitchenBody:
    """What there is to bake with."""
    with data.reading() as session:
        return KitchenBody.model_validate(kitchen.get_kitchen(session))


@router.put("/kitchen")
def change_kitchen(body: KitchenBody, data: Data) -> KitchenBody:
    """Keep what there is to bake with."""
    with data.writing() as session:
        kept = kitchen.change_kitchen(session, body.setting())
        return KitchenBody.model_validate(kept)
