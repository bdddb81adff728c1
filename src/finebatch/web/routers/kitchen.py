"""The kitchen: what there is to bake with."""

from typing import Annotated

from fastapi import APIRouter
from pydantic import Field

from finebatch.core.formula.kitchen_amounts import UnitSystem
from finebatch.core.heat.oven import HotSide, OvenMode, OvenNature, SecondOven
from finebatch.core.larder.measuring import USUAL_EGG, CupHabit
from finebatch.core.piece.kinds import PanShape
from finebatch.core.piece.tools import OwnPan, OwnSheet, SheetKind
from finebatch.core.plan.habits import Helper, Planning, Task, Turning
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.facts import tables
from finebatch.web.deps import Data
from finebatch.web.portioning import NamedCutterBody, ScoopBody
from finebatch.web.types import Length, Out, Text, ValueBody
from finebatch.workflow.kitchen import equipment as kitchen
from finebatch.workflow.kitchen.hands import hands_of

router = APIRouter(prefix="/api", tags=["kitchen"])


def _usual_scoops() -> list[ScoopBody]:
    return [ScoopBody.model_validate(scoop) for scoop in tables.scoops()]


def _usual_cutters() -> list[NamedCutterBody]:
    return [NamedCutterBody.model_validate(cutter) for cutter in tables.cutters()]


class HelperBody(ValueBody):
    """Somebody who helps, and with what (none named: all). A child takes no hot or sharp job."""

    name: Annotated[Text, Field(min_length=1, max_length=40)]
    child: bool = False
    tasks: Annotated[list[Task], Field(max_length=5)] = []

    def helper(self) -> Helper:
        """The core's value."""
        return Helper(self.name, self.child, tuple(dict.fromkeys(self.tasks)))


class OvenNatureBody(ValueBody):
    """How an oven behaves: °C a minute up and down, off its dial, from lowest to highest."""

    rise_c_min: Annotated[float, Field(ge=1, le=60)] = 8.0
    fall_c_min: Annotated[float, Field(ge=0.5, le=60)] = 5.0
    offset_c: Annotated[float, Field(ge=-60, le=60)] = 0.0
    swing_c: Annotated[float, Field(ge=0, le=80)] = 0.0
    hot_side: HotSide = "even"

    def nature(self) -> OvenNature:
        """The core's value."""
        return OvenNature(**self.model_dump())


class SecondOvenBody(ValueBody):
    """A second oven."""

    shelves: Annotated[int, Field(ge=1, le=4)] = 1
    mode: OvenMode = "conventional"
    nature: OvenNatureBody = OvenNatureBody()

    def oven(self) -> SecondOven:
        """The core's value."""
        return SecondOven(self.shelves, self.mode, self.nature.nature())


Job = Annotated[int, Field(ge=1, le=15)]


class PlanningBody(ValueBody):
    """What the planner takes of a kitchen: ovens, heat, room, helpers, habits, minutes a job."""

    oven: OvenNatureBody = OvenNatureBody()
    second: SecondOvenBody | None = None
    tolerance_c: Annotated[int, Field(ge=0, le=25)] = 5
    turning: Turning = "turn"
    slides: bool = False
    interrupts: bool = False
    cold_on_sheet: bool = False
    racks: Annotated[int, Field(ge=1, le=60)] = 12
    fridge_places: Annotated[int, Field(ge=1, le=30)] = 6
    freezer_places: Annotated[int, Field(ge=0, le=60)] = 6
    mixers: Annotated[int, Field(ge=1, le=6)] = 1
    mixer_g: Annotated[float, Field(ge=200, le=50_000)] = 2000.0
    bowls: Annotated[int, Field(ge=1, le=30)] = 6
    pace: Annotated[float, Field(ge=0.3, le=4)] = 1.0
    learns_hands: bool = True
    load_min: Job = 1
    turn_min: Job = 1
    out_min: Job = 1
    rack_min: Job = 1
    sheet_ready_min: Annotated[int, Field(ge=0, le=60)] = 8
    raw_wait_min: Annotated[int, Field(ge=5, le=120)] = 45
    helpers: Annotated[list[HelperBody], Field(max_length=4)] = []

    def planning(self) -> Planning:
        """The core's value."""
        plain = self.model_dump(exclude={"helpers", "oven", "second"})
        return Planning(
            **plain,
            oven=self.oven.nature(),
            second=self.second.oven() if self.second else None,
            helpers=tuple(helper.helper() for helper in self.helpers),
        )


class OwnSheetBody(ValueBody):
    """Sheets of a further size or kind; inner size in mm."""

    name: Annotated[Text, Field(min_length=1, max_length=40)]
    width_mm: Annotated[Length, Field(ge=100, le=1000)]
    depth_mm: Annotated[Length, Field(ge=100, le=1000)]
    kind: SheetKind = "plain"
    number: Annotated[int, Field(ge=1, le=12)] = 1

    def sheet(self) -> OwnSheet:
        """The core's value."""
        return OwnSheet(**self.model_dump())


class OwnPanBody(ValueBody):
    """Pans of one size; inner size in mm."""

    name: Annotated[Text, Field(min_length=1, max_length=40)]
    shape: PanShape
    across_mm: Annotated[float, Field(ge=60, le=600)]
    down_mm: Annotated[float, Field(ge=60, le=600)]
    number: Annotated[int, Field(ge=1, le=12)] = 1

    def pan(self) -> OwnPan:
        """The core's value."""
        return OwnPan(**self.model_dump())


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
    sheet_kind: SheetKind = "plain"
    other_sheets: Annotated[list[OwnSheetBody], Field(max_length=8)] = []
    pans: Annotated[list[OwnPanBody], Field(max_length=12)] = []
    planning: PlanningBody = PlanningBody()
    learns: bool = True

    def setting(self) -> KitchenSetting:
        """The workflow's kitchen."""
        plain = self.model_dump(exclude={"scoops", "cutters", "planning", "other_sheets", "pans"})
        return KitchenSetting(
            **plain,
            scoops=tuple(scoop.scoop() for scoop in self.scoops),
            cutters=tuple(named.named() for named in self.cutters),
            other_sheets=tuple(own.sheet() for own in self.other_sheets),
            pans=tuple(own.pan() for own in self.pans),
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


class PaceOut(Out):
    """How long a job takes against the common time, and how many jobs taught it."""

    times: float
    jobs: int


class KnownKitchenOut(Out):
    """Whether the kitchen was ever described; what bakes have taught of these hands."""

    described: bool
    portion: PaceOut
    mix: PaceOut


@router.get("/kitchen/known")
def known_kitchen(data: Data) -> KnownKitchenOut:
    """What is known of the kitchen that nobody typed in."""
    with data.reading() as session:
        hands = hands_of(session, kitchen.get_kitchen(session))
        return KnownKitchenOut(
            described=kitchen.is_described(session),
            portion=PaceOut.model_validate(hands.portion),
            mix=PaceOut.model_validate(hands.mix),
        )
