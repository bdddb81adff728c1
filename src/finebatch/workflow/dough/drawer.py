"""The drawer of doughs: found, sorted, marked and copied."""

import re
import unicodedata
from dataclasses import dataclass, replace
from typing import Literal

from sqlalchemy import ColumnElement, String, func, or_, select, type_coerce
from sqlalchemy.orm import Session, selectinload

from finebatch.core.formula.dough import MOST_NAME
from finebatch.core.larder.ingredient import Larder
from finebatch.core.refusal import refuse
from finebatch.store.models import BakeRow, DoughRow
from finebatch.workflow.dough.doughs import Dough, Marks, add_dough, dough_of, find_row
from finebatch.workflow.kitchen.larder import get_pantry

Order = Literal["changed", "name", "baked"]
"""Changed last first, by the alphabet, or baked last first."""
MOST_LABELS = 12
MOST_LABEL = 30
_COPY = re.compile(r", copy(?: (\d+))?$")


def _matching(search: str, larder: Larder) -> ColumnElement[bool]:
    """Doughs by a part of their name, or by an ingredient of that name."""
    wanted = search.strip().casefold()
    found: list[ColumnElement[bool]] = [DoughRow.name.icontains(wanted, autoescape=True)]
    keys = [key for key, ingredient in larder.items() if wanted in ingredient.name.casefold()]
    written = type_coerce(DoughRow.card, String)
    found += [written.contains(f'"ingredient": "{key}"', autoescape=True) for key in keys[:20]]
    return or_(*found)


def list_doughs(
    session: Session,
    search: str = "",
    most: int = 60,
    *,
    skip: int = 0,
    order: Order = "changed",
    label: str = "",
) -> tuple[list[Dough], int]:
    """Doughs with that label, favourites first, each in that order, at most so many after those
    that are skipped; and how many there are in all."""
    pantry = get_pantry(session)
    query = select(DoughRow.id, DoughRow.name, DoughRow.favourite, DoughRow.changed_at)
    if search.strip():
        query = query.where(_matching(search, pantry.larder))
    if label:
        written = "\n" + DoughRow.labels + "\n"
        query = query.where(written.contains(f"\n{label}\n", autoescape=True))
    found = session.execute(query.order_by(DoughRow.changed_at.desc(), DoughRow.id.desc())).all()
    if order == "name":
        found = sorted(found, key=lambda row: _by_alphabet(row.name))
    elif order == "baked":
        last = select(BakeRow.dough_id, func.max(BakeRow.baked_at)).group_by(BakeRow.dough_id)
        baked = {int(dough): int(at) for dough, at in session.execute(last)}
        found = sorted(found, key=lambda row: -baked.get(row.id, 0))
    found = sorted(found, key=lambda row: not row.favourite)
    page = [row.id for row in found[skip : skip + most]]
    rows = session.scalars(
        select(DoughRow).options(selectinload(DoughRow.tray)).where(DoughRow.id.in_(page))
    )
    by_id = {row.id: row for row in rows}
    return [dough_of(by_id[key], pantry) for key in page], len(found)


def _by_alphabet(name: str) -> str:
    return unicodedata.normalize("NFKD", name).casefold()


@dataclass(frozen=True, slots=True)
class DoughName:
    """A dough by its name alone, for a list to choose from."""

    id: int
    name: str


def names_of_all(session: Session) -> list[DoughName]:
    """Every dough, favourites first, the one changed last before the others."""
    order = (DoughRow.favourite.desc(), DoughRow.changed_at.desc(), DoughRow.id.desc())
    found = session.execute(select(DoughRow.id, DoughRow.name).order_by(*order))
    return [DoughName(key, name) for key, name in found]


def dough_names(session: Session) -> dict[int, str]:
    """Every dough's name by its number."""
    return {one.id: one.name for one in names_of_all(session)}


def labels_known(session: Session) -> list[str]:
    """Every label that a dough has, by the alphabet."""
    written = session.scalars(select(DoughRow.labels).where(DoughRow.labels != ""))
    known = {label for labels in written for label in labels.splitlines()}
    return sorted(known, key=_by_alphabet)


def mark(session: Session, dough_id: int, marks: Marks) -> Dough:
    """Keep a dough's marks; they change neither its card nor its versions.

    `Refusal` for too many labels, or one that is too long.
    """
    tidy = dict.fromkeys(" ".join(label.split()) for label in marks.labels)
    tidy.pop("", None)
    if len(tidy) > MOST_LABELS:
        raise refuse("labels", f"A dough has at most {MOST_LABELS} labels. Take one off.")
    for label in tidy:
        if len(label) > MOST_LABEL:
            raise refuse("labels", f"A label has at most {MOST_LABEL} letters: “{label[:20]}…”.")
    row = find_row(session, dough_id)
    row.favourite, row.labels = marks.favourite, "\n".join(tidy)
    session.flush()
    return dough_of(row, get_pantry(session))


def copy_dough(session: Session, dough_id: int, now: int) -> Dough:
    """Begin another dough with the card and the tray of this one; its bakes stay where they are."""
    row = find_row(session, dough_id)
    names = set(session.scalars(select(DoughRow.name)))
    name = _copy_name(row.name, names)
    made = add_dough(
        session, replace(row.card, name=name), now, row.tray.setting, f"copied from {row.name}"
    )
    return mark(session, made.id, Marks(labels=tuple(row.labels.splitlines())))


def _copy_name(name: str, taken: set[str]) -> str:
    """``Rye drops, copy``, ``Rye drops, copy 2``; a long name is cut before it."""
    plain = _COPY.sub("", name)
    for number in range(1, len(taken) + 2):
        end = ", copy" if number == 1 else f", copy {number}"
        found = plain[: MOST_NAME - len(end)].rstrip() + end
        if found not in taken:
            return found
    raise AssertionError(name)
