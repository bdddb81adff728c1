"""Whatever a baker keeps, found by a few letters of it."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from sqlalchemy import or_, select
from sqlalchemy.orm import Session

from finebatch.store.models import BakeRow, ColdRow, DoughRow, KeptSessionRow, OccasionRow
from finebatch.workflow.cold.cold_store import FORM_WORDS
from finebatch.workflow.dough.drawer import list_doughs
from finebatch.workflow.kitchen.larder import get_larder

MOST_OF_A_KIND = 6


@dataclass(frozen=True, slots=True)
class Found:
    """One thing: its number, or the key of an ingredient; the dough that it is of; what it is
    called and what else is to be said of it; when it was, or is to be used (UTC ms)."""

    kind: Literal["dough", "bake", "cold", "ingredient", "occasion"]
    key: str
    dough_id: int | None
    name: str
    said: str = ""
    at: int | None = None


def find(session: Session, wanted: str) -> list[Found]:
    """What has those letters in its name or its note, a few of each kind; all kinds in one list."""
    wanted = " ".join(wanted.split())
    if not wanted:
        return []
    return [
        *_doughs(session, wanted),
        *_cold(session, wanted),
        *_bakes(session, wanted),
        *_ingredients(session, wanted),
        *_occasions(session, wanted),
    ]


def _doughs(session: Session, wanted: str) -> Iterator[Found]:
    for dough in list_doughs(session, wanted, MOST_OF_A_KIND)[0]:
        named = wanted.casefold() in dough.card.name.casefold()
        said = "" if named else f"has {wanted} in it"
        yield Found("dough", str(dough.id), dough.id, dough.card.name, said, dough.changed_at)


def _cold(session: Session, wanted: str) -> Iterator[Found]:
    has = or_(
        ColdRow.name.icontains(wanted, autoescape=True),
        ColdRow.note.icontains(wanted, autoescape=True),
    )
    kept = select(ColdRow).where(ColdRow.pieces > 0, has).order_by(ColdRow.use_by)
    for row in session.scalars(kept.limit(MOST_OF_A_KIND)):
        said = f"{row.pieces} as {FORM_WORDS[row.form]} in the {row.place}"
        yield Found("cold", str(row.id), row.dough_id, row.name, said, row.use_by)


def _bakes(session: Session, wanted: str) -> Iterator[Found]:
    has = or_(
        DoughRow.name.icontains(wanted, autoescape=True),
        BakeRow.note.icontains(wanted, autoescape=True),
    )
    baked = (
        select(BakeRow, DoughRow.name)
        .join(DoughRow, DoughRow.id == BakeRow.dough_id)
        .where(has)
        .order_by(BakeRow.baked_at.desc(), BakeRow.id.desc())
    )
    for row, name in session.execute(baked.limit(MOST_OF_A_KIND)):
        yield Found("bake", str(row.id), row.dough_id, name, row.note[:120], row.baked_at)


def _ingredients(session: Session, wanted: str) -> Iterator[Found]:
    letters = wanted.casefold()
    named = [
        (key, one) for key, one in get_larder(session).items() if letters in one.name.casefold()
    ]
    named.sort(key=lambda one: (not one[1].name.casefold().startswith(letters), one[1].name))
    for key, ingredient in named[:MOST_OF_A_KIND]:
        yield Found("ingredient", key, None, ingredient.name)


def _occasions(session: Session, wanted: str) -> Iterator[Found]:
    occasions = session.scalars(select(OccasionRow).order_by(OccasionRow.id.desc()))
    sessions = session.scalars(select(KeptSessionRow).order_by(KeptSessionRow.id.desc()))
    called = [
        *((f"session {row.id}", row.kept.name) for row in sessions),
        *((str(row.id), row.kept.occasion.name or "") for row in occasions),
    ]
    named = [(number, name) for number, name in called if wanted.casefold() in name.casefold()]
    for number, name in named[:MOST_OF_A_KIND]:
        yield Found("occasion", number, None, name)
