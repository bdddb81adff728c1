"""A dough studied while it is written: weighed, balanced, checked, foreseen; cards read."""

from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import Field

from finebatch.core.formula.card_text import ReadCard, read_card
from finebatch.core.formula.dough import PartKind
from finebatch.core.formula.kitchen_amounts import UnitSystem
from finebatch.core.formula.reading import ReadLine
from finebatch.core.heat.minutes import Doneness
from finebatch.core.measures.rounding import whole_minutes
from finebatch.core.measures.units import Unit
from finebatch.web.cards import (
    CardBody,
    LineBody,
    RangeOut,
    StepBody,
    TraySettingBody,
    WeighedOut,
    range_out,
    weighed_out,
)
from finebatch.web.deps import Data
from finebatch.web.pieces import RawOut, ThicknessOut, WidthOut
from finebatch.web.types import Body, Id, Out, Text
from finebatch.workflow.dough import study as work
from finebatch.workflow.kitchen.larder import get_reader, teach_name

router = APIRouter(prefix="/api", tags=["study"])


class StudyBody(Body):
    """A card and its tray as they are on the screen. `dough_id` names the dough that it is."""

    card: CardBody
    tray: TraySettingBody
    dough_id: Id | None = None


class KitchenAmountOut(Out):
    """An amount in the baker's own units; `noted` when its rounding error is worth saying."""

    text: str
    error_pct: float
    noted: bool


class StandingOut(Out):
    """One figure in percent of the flour, with the family's band and what it means outside it."""

    figure: str
    percent: float
    low: float | None
    high: float | None
    said: str


class LeaveningOut(Out):
    """Soda against acid, in grams."""

    soda_g: float
    powder_g: float
    neutralised_g: float
    left_g: float


class BalanceOut(Out):
    """The dough's composition in grams and its standing in its family."""

    fat_g: float
    sugar_g: float
    water_g: float
    water_free_g: float
    egg_g: float
    structure_g: float
    salt_g: float
    pieces_g: float
    leavening: LeaveningOut
    standings: list[StandingOut]


class MendOut(Out):
    """What one press changes."""

    label: str
    line: int | None
    amount: str | None
    unit: Unit | None
    stated_oven: str | None
    stated_pieces: int | None
    oven_c: float | None
    step: int | None
    step_text: str | None


class CheckOut(Out):
    """Something that does not agree: where, why, what is likely meant, and what mends it."""

    key: str
    where: str
    title: str
    evidence: str
    likely: str
    mend: MendOut | None


class PieceOut(Out):
    """One piece raw and baked (g, mm, min), and how many there are.

    `wider_pct` is against the same piece of the baker's `others` doughs of that family.
    """

    raw: RawOut
    width: WidthOut
    thickness: ThicknessOut
    minutes: int
    doneness: Doneness
    pieces: int
    leftover_g: float
    wider_pct: float | None
    others: int


class PartNeedOut(Out):
    """A part as written, what the pieces take of it, and the factor from one to the other."""

    weighed: WeighedOut
    need_g: float
    factor: float | None


class AllergenOut(Out):
    """An allergen and what brings it."""

    name: str
    brought_by: list[str]


class StudyOut(Out):
    """All that the Dough screen shows of a card."""

    weighed: WeighedOut
    own_units: UnitSystem
    own: list[KitchenAmountOut | None]
    balance: BalanceOut | None
    checks: list[CheckOut]
    piece: PieceOut | None
    piece_fault: str
    steps: list[StepBody]
    method_min: int
    parts: list[PartNeedOut]
    allergens: list[AllergenOut]
    cautions: list[str]


def _piece_out(found: work.PieceStudy | None) -> PieceOut | None:
    if found is None:
        return None
    foreseen = found.foreseen
    return PieceOut(
        raw=RawOut.model_validate(foreseen.raw),
        width=WidthOut.model_validate(foreseen.width),
        thickness=ThicknessOut.model_validate(foreseen.thickness),
        minutes=whole_minutes(foreseen.minutes),
        doneness=foreseen.doneness,
        pieces=found.pieces,
        leftover_g=found.leftover_g,
        wider_pct=found.wider_pct,
        others=found.others,
    )


def study_out(found: work.Study) -> StudyOut:
    """A study as the API gives it."""
    return StudyOut(
        weighed=weighed_out(found.weighed),
        own_units=found.own_units,
        own=[KitchenAmountOut.model_validate(a) if a else None for a in found.own],
        balance=BalanceOut.model_validate(found.balance) if found.balance else None,
        checks=[CheckOut.model_validate(check) for check in found.checks],
        piece=_piece_out(found.piece),
        piece_fault=found.piece_fault,
        steps=[StepBody.model_validate(step) for step in found.steps],
        method_min=found.method_min,
        parts=[
            PartNeedOut(weighed=weighed_out(p.weighed), need_g=p.need_g, factor=p.factor)
            for p in found.parts
        ],
        allergens=[AllergenOut.model_validate(a) for a in found.allergens],
        cautions=list(found.cautions),
    )


@router.post("/study")
def study(body: StudyBody, data: Data) -> StudyOut:
    """Study a card while it is written; keeps nothing."""
    with data.reading() as session:
        bench = work.get_bench(session)
        found = work.study(session, body.card.card(), body.tray.setting(), bench, body.dough_id)
    return study_out(found)


class CardText(Body):
    """A card as it was written: a whole one, or its ingredients one a line."""

    text: Annotated[Text, Field(max_length=200_000)]


class ReadLineOut(Out):
    """A line as understood: `line` is what the dough would keep, `asks` what is unsure of it."""

    text: str
    line: LineBody
    grams: float | None
    range_g: RangeOut | None
    conflict: bool
    asks: list[str]
    name: str


class ReadPartOut(Out):
    """A part as understood."""

    kind: PartKind
    name: str
    lines: list[ReadLineOut]


class ReadCardOut(Out):
    """A card as understood; `notes` are the lines that fit nowhere else."""

    title: str
    lines: list[ReadLineOut]
    parts: list[ReadPartOut]
    steps: list[StepBody]
    stated_pieces: int | None
    stated_oven: str
    notes: list[str]


def _line_out(read: ReadLine) -> ReadLineOut:
    return ReadLineOut(
        text=read.text, line=LineBody.model_validate(read.line), grams=read.grams,
        range_g=range_out(read.range_g), conflict=read.conflict, asks=list(read.asks),
        name=read.name,
    )  # fmt: skip


def read_card_out(found: ReadCard) -> ReadCardOut:
    """A card as understood, as the API gives it."""
    return ReadCardOut(
        title=found.title,
        lines=[_line_out(line) for line in found.lines],
        parts=[
            ReadPartOut(kind=p.kind, name=p.name, lines=[_line_out(line) for line in p.lines])
            for p in found.parts
        ],
        steps=[StepBody.model_validate(step) for step in found.steps],
        stated_pieces=found.stated_pieces,
        stated_oven=found.stated_oven[:500],
        notes=list(found.notes),
    )


@router.post("/read")
def read(body: CardText, data: Data) -> ReadCardOut:
    """Read a pasted card; keeps nothing."""
    with data.reading() as session:
        return read_card_out(read_card(body.text, get_reader(session)))


class NameBody(Body):
    """What this baker's cards call an ingredient."""

    name: Annotated[Text, Field(min_length=1, max_length=300)]
    ingredient: Annotated[Text, Field(max_length=60)]


@router.post("/names", status_code=204, response_class=Response)
def teach(body: NameBody, data: Data) -> None:
    """Remember a name for the next card."""
    with data.writing() as session:
        teach_name(session, body.name, body.ingredient)
