"""Doughs: the drawer, one dough, its tray setting and its versions."""

from dataclasses import dataclass
from typing import Annotated

from fastapi import Query
from pydantic import Field

from finebatch.core.formula.dough import Card, Family
from finebatch.core.formula.kitchen_amounts import UnitSystem
from finebatch.core.formula.step import Stage, StepKind, Where
from finebatch.core.larder.ingredient import NaturalUnit
from finebatch.core.larder.measuring import CupHabit
from finebatch.core.measures.units import Unit
from finebatch.core.method.steps import PLACES
from finebatch.core.tray.setting import TraySetting
from finebatch.core.values import part_of
from finebatch.facts import formula, tables
from finebatch.facts.formula import MixingMethod
from finebatch.web import routing
from finebatch.web.deps import Data, Now
from finebatch.web.types import Body, Id, Out, Text
from finebatch.workflow.book import bakes as book
from finebatch.workflow.dough import doughs, drawer, versions
from finebatch.workflow.dough.doughs import Dough, Marks
from finebatch.workflow.kitchen.larder import get_larder
from finebatch.workflow.kitchen.thrown import Thrown, told

router = routing.begin("dough")

MOST_SHOWN = 200
Reason = Annotated[Text, Field(max_length=200)]


@dataclass(frozen=True, slots=True, kw_only=True)
class CardChange(Card):
    """A dough as written, on top of the revision that was read; a reason makes it a version."""

    NEEDED = ("lines",)

    revision: Id
    reason: Reason = ""


class DoughShort(Out):
    """A dough in the list."""

    id: int
    name: str
    family: Family
    total_g: float
    lines: int
    changed_at: int
    marks: Marks


class DoughsOut(Out):
    """Doughs, favourites first, and how many there are in all."""

    doughs: list[DoughShort]
    total: int


class IngredientOut(Out):
    """An ingredient that a line may name."""

    key: str
    name: str
    role: str
    units: list[Unit]
    natural_unit: NaturalUnit | None
    depends_on_habit: bool
    allergens: list[str]


class FamilyOut(Out):
    """A word of the API with its label."""

    key: Family
    label: str


class EggOut(Out):
    """An egg by market and size, in grams without its shell."""

    key: str
    grams: float


class StepKindOut(Out):
    """A kind of step: what it is called, and the part of the work that it belongs to."""

    kind: StepKind
    label: str
    stage: Stage


class PlaceOut(Out):
    """Where a step is done."""

    key: Where
    label: str


class WordsOut(Out):
    """What a card can be made of."""

    ingredients: list[IngredientOut]
    families: list[FamilyOut]
    mixing: list[MixingMethod]
    eggs: list[EggOut]
    cups: list[CupHabit]
    unit_systems: list[UnitSystem]
    steps: list[StepKindOut]
    places: list[PlaceOut]


@router.get("/words")
def words(data: Data) -> WordsOut:
    """Ingredients, families, mixing methods and measuring habits."""
    with data.reading() as session:
        larder = get_larder(session)
    return WordsOut(
        ingredients=[IngredientOut.model_validate(i) for i in larder.values()],
        families=[FamilyOut(key=f.family, label=f.label) for f in tables.families().values()],
        mixing=list(formula.mixing_methods().values()),
        eggs=[EggOut(key=key, grams=grams) for key, grams in tables.egg_sizes().items()],
        cups=["spooned", "sifted", "dipped"],
        steps=[StepKindOut.model_validate(one) for one in formula.step_habits().values()],
        places=[PlaceOut(key=key, label=label) for key, label in PLACES.items()],
        unit_systems=["grams", "ounces", "cups"],
    )


@router.get("/doughs")
def all_doughs(
    data: Data,
    search: Annotated[Text, Query(max_length=100)] = "",
    most: Annotated[int, Query(ge=1, le=MOST_SHOWN)] = 60,
    skip: Annotated[int, Query(ge=0, le=1_000_000)] = 0,
    order: drawer.Order = "changed",
    label: Annotated[Text, Query(max_length=drawer.MOST_LABEL)] = "",
) -> DoughsOut:
    """Doughs by a part of their name or of an ingredient's, favourites first."""
    with data.reading() as session:
        found, total = drawer.list_doughs(
            session, search, most, skip=skip, order=order, label=label
        )
    short = [
        DoughShort(
            id=d.id,
            name=d.card.name,
            family=d.card.family,
            total_g=d.weighed.total_g,
            lines=len(d.card.lines),
            changed_at=d.changed_at,
            marks=d.marks,
        )
        for d in found
    ]
    return DoughsOut(doughs=short, total=total)


@router.get("/dough-names")
def dough_names(data: Data) -> list[drawer.DoughName]:
    """Every dough by its name, favourites first."""
    with data.reading() as session:
        return drawer.names_of_all(session)


@router.get("/labels")
def all_labels(data: Data) -> list[str]:
    """The labels that doughs have, by the alphabet."""
    with data.reading() as session:
        return drawer.labels_known(session)


@router.post("/doughs", status_code=201)
def add_dough(body: Card, data: Data, now: Now) -> Dough:
    """Start a dough."""
    with data.writing() as session:
        return doughs.add_dough(session, body, now)


@router.get("/doughs/{dough_id}")
def one_dough(dough_id: Id, data: Data) -> Dough:
    """One dough, weighed."""
    with data.reading() as session:
        return doughs.get_dough(session, dough_id)


@router.put("/doughs/{dough_id}")
def change_dough(dough_id: Id, body: CardChange, data: Data, now: Now) -> Dough:
    """Write a dough anew; 409 when it was changed elsewhere meanwhile."""
    with data.writing() as session:
        return doughs.change_dough(
            session, dough_id, body.revision, part_of(Card, body), now, body.reason
        )


@router.delete("/doughs/{dough_id}")
def remove_dough(dough_id: Id, data: Data, now: Now) -> Thrown:
    """Throw a dough away, with its bakes and versions, into the bin."""
    with data.writing() as session:
        return told(doughs.remove_dough(session, dough_id, now))


@router.put("/doughs/{dough_id}/tray")
def change_tray(dough_id: Id, body: TraySetting, data: Data) -> Dough:
    """Keep how a dough is portioned and baked."""
    with data.writing() as session:
        return doughs.change_tray(session, dough_id, body)


@router.put("/doughs/{dough_id}/marks")
def mark_dough(dough_id: Id, body: Marks, data: Data) -> Dough:
    """Keep a dough's marks; its card and its versions stay as they are."""
    with data.writing() as session:
        return drawer.mark(session, dough_id, body)


@router.post("/doughs/{dough_id}/copy", status_code=201)
def copy_dough(dough_id: Id, data: Data, now: Now) -> Dough:
    """Begin another dough from this one's card and tray."""
    with data.writing() as session:
        return drawer.copy_dough(session, dough_id, now)


@dataclass(frozen=True, slots=True, kw_only=True)
class VersionShown(versions.Version):
    """A dough at one moment: what changed since the version before, why, and how it baked."""

    baked: book.VersionBaked | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class VersionCardShown(VersionShown):
    """A version with its whole card."""

    card: Card


@router.get("/doughs/{dough_id}/versions")
def all_versions(dough_id: Id, data: Data) -> list[VersionShown]:
    """A dough's versions, the newest first."""
    with data.reading() as session:
        baked = book.by_version(session, dough_id)
        known = versions.history(session, dough_id)
    return [
        VersionShown(v.number, v.at, v.said, v.reason, baked=baked.get(v.number)) for v in known
    ]


@router.get("/doughs/{dough_id}/versions/{number}")
def one_version(dough_id: Id, number: Id, data: Data) -> VersionCardShown:
    """One version with its card."""
    with data.reading() as session:
        v = versions.find(session, dough_id, number)
        return VersionCardShown(v.number, v.at, v.said, v.reason, card=v.card)


class ReasonBody(Body):
    """Why a version was made."""

    reason: Reason


@router.put("/doughs/{dough_id}/versions/{number}")
def give_reason(dough_id: Id, number: Id, body: ReasonBody, data: Data) -> VersionShown:
    """Write down why a version was made."""
    with data.writing() as session:
        v = versions.give_reason(session, dough_id, number, body.reason)
        return VersionShown(v.number, v.at, v.said, v.reason)
