"""What can be made of what is in the house."""

from collections.abc import Mapping
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.care.keeping import DAY_MS
from finebatch.core.larder.stock import makes_of
from finebatch.core.refusal import Refusal
from finebatch.core.tray.question import Ground, sizes
from finebatch.core.tray.scaled import MOST_TIMES, eaten_of_all, times_over
from finebatch.facts import tables
from finebatch.store.models import DoughRow
from finebatch.workflow.dough.doughs import Dough, get_doughs
from finebatch.workflow.dough.from_card import tray_question
from finebatch.workflow.kitchen.equipment import get_kitchen
from finebatch.workflow.kitchen.larder import get_larder
from finebatch.workflow.kitchen.stock import good_g, packs

LEAST_TIMES = 0.25
MOST_SHORT = 3
"""A dough that lacks more things is not nearly there."""
MOST_TOLD = 30
WEEK_MS = 7 * DAY_MS


@dataclass(frozen=True, slots=True)
class Short:
    """What is missing of an ingredient for one dough as its card has it (g)."""

    name: str
    grams: float


@dataclass(frozen=True, slots=True)
class CanMake:
    """A dough that can be made of what is there: so many times its card, and about so many pieces;
    what is `short` for the whole card. `uses_up` are ingredients of it that have to be used within
    a week."""

    dough_id: int
    name: str
    times: float
    pieces: int | None
    short: tuple[Short, ...]
    uses_up: tuple[str, ...]


def can_make(session: Session, now: int) -> list[CanMake]:
    """What can be made, what has to be used up first; then what is nearly there."""
    there, larder = good_g(session, now), get_larder(session)
    due = {
        pack.ingredient
        for pack in packs(session)
        if pack.use_by is not None and now <= pack.use_by <= now + WEEK_MS and pack.grams > 0
    }
    found = []
    for dough in get_doughs(session, session.scalars(select(DoughRow.id)).all()).values():
        formula_g = _formula_g(dough)
        makes = makes_of(formula_g, there, larder)
        if makes.times < LEAST_TIMES and not 0 < len(makes.short) <= MOST_SHORT:
            continue
        if len(makes.short) == len(formula_g):
            continue
        uses_up = tuple(larder[key].name for key in formula_g if key in due)
        found.append((dough, makes, uses_up))
    found.sort(key=lambda one: (len(one[1].short), -len(one[2]), -one[1].times, one[0].card.name))
    return [
        CanMake(
            dough.id,
            dough.card.name,
            makes.times,
            _pieces(session, dough, makes.times),
            tuple(
                Short(larder[key].name, grams)
                for key, grams in sorted(makes.short.items(), key=lambda one: -one[1])
            ),
            uses_up,
        )
        for dough, makes, uses_up in found[:MOST_TOLD]
    ]


def _formula_g(dough: Dough) -> Mapping[str, float]:
    try:
        return dough.weighed.formula_g()
    except Refusal:
        return {}


def _pieces(session: Session, dough: Dough, times: float) -> int | None:
    """The pieces of a dough made so many times; None where it cannot be foreseen."""
    if times < LEAST_TIMES:
        return None
    larder = get_larder(session)
    try:
        asked = tray_question(dough.card, dough.weighed, dough.tray, get_kitchen(session), larder)
        scaled = times_over(asked, min(times, MOST_TIMES))
        return eaten_of_all(sizes(scaled, Ground(larder, tables.models())))
    except Refusal:
        return None
