"""The Dough screen: cards, weighed while they are typed."""

from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import Field

from finebatch.core.formula.dough import Family, Line, Mixing, WeighedDough
from finebatch.core.formula.weigh import MAX_LINES, weigh
from finebatch.core.measures.units import Unit
from finebatch.core.piece.effects import Surface
from finebatch.core.piece.tray import Evenness, PieceSetting
from finebatch.core.refusal import refuse
from finebatch.facts import tables
from finebatch.web.deps import Data, Now
from finebatch.web.problems import FieldFault
from finebatch.web.types import Body, Id, Out, Text
from finebatch.workflow import doughs

router = APIRouter(prefix="/api", tags=["dough"])


class LineBody(Body):
    """One line as written."""

    amount: Annotated[Text, Field(max_length=40)]
    unit: Unit
    ingredient: Annotated[Text, Field(max_length=60)] | None

    def line(self) -> Line:
        """The core's line."""
        return Line(self.amount, self.unit, self.ingredient)


class LinesBody(Body):
    """Lines to weigh, kept nowhere."""

    lines: Annotated[list[LineBody], Field(max_length=20_000)]


class CardBody(LinesBody):
    """A dough as written."""

    name: Annotated[Text, Field(max_length=500)]
    family: Family
    mixing: Mixing = "creamed"

    def card(self) -> doughs.Card:
        """The workflow's card."""
        return doughs.Card(self.name, self.family, self.mixing, tuple(x.line() for x in self.lines))


class CardChange(CardBody):
    """A dough as written, on top of the revision that was read."""

    revision: Id


class WeighedLineOut(Out):
    """A line in grams and percent of the flour and grain."""

    grams: float | None
    percent: float | None


class WeighedOut(Out):
    """A dough in grams; faults name the lines that could not be weighed."""

    lines: list[WeighedLineOut]
    total_g: float
    base_g: float
    faults: list[FieldFault]


class LineOut(Out):
    """One line as written."""

    amount: str
    unit: Unit
    ingredient: str | None


class PieceBody(Body):
    """How a piece follows from its mass. g and mm."""

    model_config = {**Body.model_config, "from_attributes": True}

    grams: Annotated[float, Field(gt=0, le=5000)]
    thickness_mm: Annotated[float, Field(ge=1, le=60)]
    log_diameter_mm: Annotated[float, Field(ge=10, le=150)]
    log_length_mm: Annotated[float, Field(ge=50, le=600)]
    log_width_mm: Annotated[float, Field(ge=15, le=200)]


class TraySettingBody(Body):
    """How a dough is portioned, chilled and baked."""

    model_config = {**Body.model_config, "from_attributes": True}

    piece: PieceBody
    evenness: Evenness
    dough_temp_c: Annotated[float, Field(ge=-25, le=40)]
    oven_c: Annotated[float, Field(ge=60, le=300)]
    surface: Surface
    chill_min: Annotated[int, Field(ge=0, le=4320)]

    def setting(self) -> doughs.TraySetting:
        """The workflow's setting."""
        piece = PieceSetting(**self.piece.model_dump())
        rest = self.model_dump(exclude={"piece"})
        return doughs.TraySetting(piece=piece, **rest)


class DoughOut(Out):
    """A dough as kept."""

    id: int
    revision: int
    changed_at: int
    name: str
    family: Family
    mixing: Mixing
    lines: list[LineOut]
    tray: TraySettingBody
    weighed: WeighedOut


class DoughShort(Out):
    """A dough in the list."""

    id: int
    name: str
    family: Family
    total_g: float
    lines: int
    changed_at: int


class NaturalUnitOut(Out):
    """An egg, a stick."""

    unit: Unit
    name: str
    grams: float


class IngredientOut(Out):
    """An ingredient that a line may name."""

    key: str
    name: str
    role: str
    units: list[Unit]
    natural_unit: NaturalUnitOut | None
    allergens: list[str]


class LabelOut(Out):
    """A word of the API with its label."""

    key: str
    label: str


class WordsOut(Out):
    """What a card can be made of: ingredients, families, mixing methods."""

    ingredients: list[IngredientOut]
    families: list[LabelOut]
    mixing: list[LabelOut]


def weighed_out(found: WeighedDough) -> WeighedOut:
    """A weighed dough as the API gives it."""
    return WeighedOut.model_validate(
        {**{k: getattr(found, k) for k in ("total_g", "base_g")},
         "lines": [WeighedLineOut.model_validate(line) for line in found.lines],
         "faults": [FieldFault(field=f.field, message=f.message) for f in found.faults]}
    )  # fmt: skip


def _out(dough: doughs.Dough) -> DoughOut:
    return DoughOut(
        id=dough.id,
        revision=dough.revision,
        changed_at=dough.changed_at,
        name=dough.card.name,
        family=dough.card.family,
        mixing=dough.card.mixing,
        lines=[LineOut.model_validate(line) for line in dough.card.lines],
        tray=TraySettingBody.model_validate(dough.tray),
        weighed=weighed_out(dough.weighed),
    )


@router.get("/words")
def words() -> WordsOut:
    """Ingredients, families and mixing methods."""
    families, mixing = tables.families().values(), tables.mixing_methods().values()
    return WordsOut(
        ingredients=[IngredientOut.model_validate(i) for i in tables.larder().values()],
        families=[LabelOut(key=f.family, label=f.label) for f in families],
        mixing=[LabelOut(key=m.mixing, label=m.label) for m in mixing],
    )


@router.post("/weigh")
def weigh_lines(body: LinesBody) -> WeighedOut:
    """Weigh lines while they are typed; keeps nothing."""
    return weighed_out(weigh([x.line() for x in body.lines], tables.larder()))


class CardText(Body):
    """A card's ingredients as they were written, one a line."""

    text: Annotated[Text, Field(max_length=100_000)]


class ReadLineOut(Out):
    """A line as understood: `line` is what the dough would keep, `asks` what is unsure of it."""

    text: str
    line: LineOut
    grams: float | None
    range_g: list[float] | None
    conflict: bool
    asks: list[str]


@router.post("/read")
def read_card(body: CardText) -> list[ReadLineOut]:
    """Read a pasted card line by line; keeps nothing."""
    lines = [line for line in body.text.splitlines() if line.strip()]
    if len(lines) > MAX_LINES:
        message = f"A card has at most {MAX_LINES} lines; this one has {len(lines):,}."
        raise refuse("text", message)
    reader = tables.reader()
    return [ReadLineOut.model_validate(reader.read(line)) for line in lines]


@router.get("/doughs")
def all_doughs(data: Data) -> list[DoughShort]:
    """All doughs, the one changed last first."""
    with data.reading() as session:
        return [
            DoughShort(
                id=d.id, name=d.card.name, family=d.card.family, total_g=d.weighed.total_g,
                lines=len(d.card.lines), changed_at=d.changed_at,
            )
            for d in doughs.list_doughs(session)
        ]  # fmt: skip


@router.post("/doughs", status_code=201)
def add_dough(body: CardBody, data: Data, now: Now) -> DoughOut:
    """Start a dough."""
    with data.writing() as session:
        return _out(doughs.add_dough(session, body.card(), now))


@router.get("/doughs/{dough_id}")
def one_dough(dough_id: Id, data: Data) -> DoughOut:
    """One dough, weighed."""
    with data.reading() as session:
        return _out(doughs.get_dough(session, dough_id))


@router.put("/doughs/{dough_id}")
def change_dough(dough_id: Id, body: CardChange, data: Data, now: Now) -> DoughOut:
    """Write a dough anew; 409 when it was changed elsewhere meanwhile."""
    with data.writing() as session:
        return _out(doughs.change_dough(session, dough_id, body.revision, body.card(), now))


@router.delete("/doughs/{dough_id}", status_code=204, response_class=Response)
def remove_dough(dough_id: Id, data: Data) -> None:
    """Take a dough out, with its bakes."""
    with data.writing() as session:
        doughs.remove_dough(session, dough_id)


@router.put("/doughs/{dough_id}/tray")
def change_tray(dough_id: Id, body: TraySettingBody, data: Data) -> DoughOut:
    """Keep how a dough is portioned and baked."""
    with data.writing() as session:
        return _out(doughs.change_tray(session, dough_id, body.setting()))
