"""What a change in the larder does to the doughs that use the ingredient."""

import json
import re
from collections import Counter
from dataclasses import dataclass, replace

from sqlalchemy import String, select, type_coerce
from sqlalchemy.orm import Session

from finebatch.core.larder.check import check_ingredient
from finebatch.core.larder.ingredient import Ingredient, Larder
from finebatch.core.refusal import Refusal
from finebatch.core.tray.question import question
from finebatch.store.models import DoughRow
from finebatch.workflow.dough.doughs import Dough, get_dough
from finebatch.workflow.dough.study import Bench, get_bench
from finebatch.workflow.errors import Missing
from finebatch.workflow.kitchen.larder import get_larder, uses

MOST_SHOWN = 12
_USED = re.compile(r'"ingredient": ("(?:[^"\\]|\\.)+")')


@dataclass(frozen=True, slots=True)
class LarderEffect:
    """One dough before and after: grams in all, and mm of its baked piece where it has one."""

    id: int
    name: str
    before_g: float
    after_g: float
    before_mm: float | None
    after_mm: float | None


def use_counts(session: Session) -> Counter[str]:
    """In how many doughs each ingredient is used."""
    counts: Counter[str] = Counter()
    for written in session.scalars(select(type_coerce(DoughRow.card, String))):
        counts.update({json.loads(key) for key in _USED.findall(written)})
    return counts


def _foreseen(dough: Dough, bench: Bench) -> tuple[float, float | None]:
    weighed = bench.weigh(dough.card)
    try:
        asked = question(dough.card, weighed, dough.tray, bench.kitchen)
        width = asked.foresee(bench.ground(dough.id)).width.middle_mm
    except Refusal:
        return weighed.total_g, None
    return weighed.total_g, width


def effects_of(session: Session, ingredient: Ingredient) -> list[LarderEffect]:
    """What these figures would change in the latest doughs that use the ingredient.

    Raises `Refusal` when the ingredient cannot be, `Missing` when the larder has none of that key.
    """
    check_ingredient(ingredient)
    larder = get_larder(session)
    if ingredient.key not in larder:
        raise Missing("This ingredient")
    bench = get_bench(session)
    changed = Larder(
        {**larder, ingredient.key: replace(ingredient, made_of=larder[ingredient.key].made_of)}
    )
    other = replace(bench, reader=replace(bench.reader, larder=changed))
    found = []
    for dough_id, name in uses(session, ingredient.key)[:MOST_SHOWN]:
        dough = get_dough(session, dough_id)
        before, after = _foreseen(dough, bench), _foreseen(dough, other)
        found.append(LarderEffect(dough_id, name, before[0], after[0], before[1], after[1]))
    return found
