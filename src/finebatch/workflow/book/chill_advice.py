"""How long a dough that felt too soft or too hard would better be chilled."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from finebatch.core.book.firmness import Firmness
from finebatch.core.book.hands import Pace
from finebatch.core.refusal import Refusal
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.core.tray.question import chill_for, question
from finebatch.store.models import DoughRow
from finebatch.workflow.dough.doughs import get_dough
from finebatch.workflow.kitchen.fridge import FROM_BOWL_C, felts
from finebatch.workflow.kitchen.hands import finished
from finebatch.workflow.kitchen.larder import get_larder

WORTH_MIN = 10
"""Another chill is advised where it differs by so many minutes."""


@dataclass(frozen=True, slots=True)
class ChillAdvice:
    """A dough that felt too soft or too hard: how long it is chilled now, and would be best."""

    dough_id: int
    name: str
    firmness: Firmness
    planned_min: int
    best_min: int


def advise(session: Session, kitchen: KitchenSetting, pace: Pace) -> list[ChillAdvice]:
    """For each dough whose latest feel was not right, the minutes that this fridge needs."""
    larder, latest = get_larder(session), dict[int, Firmness]()
    for row in finished(session):
        of_row = {dough_id: felt.firmness for dough_id, felt in felts(row, larder)}
        for dough_id, firmness in of_row.items():
            if dough_id is not None:
                latest.setdefault(dough_id, firmness)
    found = []
    for dough_id, firmness in latest.items():
        if session.get(DoughRow, dough_id) is None:
            continue
        dough = get_dough(session, dough_id)
        try:
            asked = question(dough.card, dough.weighed, dough.tray, kitchen)
            best = chill_for(asked, larder, "fridge", FROM_BOWL_C, pace.times).best_min
        except Refusal:
            continue
        planned = dough.tray.chill_min
        if firmness != "right" and best is not None and abs(best - planned) >= WORTH_MIN:
            found.append(ChillAdvice(dough_id, dough.card.name, firmness, planned, round(best)))
    return found
