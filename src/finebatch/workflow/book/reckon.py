"""What the law says of a bake: reckoned when it is kept, and anew when the law has changed."""

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from finebatch.core.formula.weigh import weigh_card
from finebatch.core.piece.effects import BakeConditions, conditions_of, measure_effects
from finebatch.core.piece.foresee import foresee
from finebatch.core.piece.portion import RawPiece
from finebatch.core.refusal import Refusal
from finebatch.core.tray.question import TrayQuestion
from finebatch.facts import tables
from finebatch.store.models import LAW, BakeRow
from finebatch.workflow.dough import versions
from finebatch.workflow.dough.doughs import get_dough
from finebatch.workflow.dough.from_card import tray_question
from finebatch.workflow.errors import Missing
from finebatch.workflow.kitchen.equipment import get_kitchen
from finebatch.workflow.kitchen.larder import Pantry, get_pantry
from finebatch.workflow.session.session_rows import asked_of, find_session


def reckoned(
    asked: TrayQuestion, how: BakeConditions, raw: RawPiece, pantry: Pantry
) -> tuple[dict[str, float | str], float]:
    """The effects of a bake, marked with the law, and its minutes (min) by that law alone."""
    dough = asked.composition(pantry.larder)
    plain = foresee(
        tables.models(),
        dough,
        asked.family,
        raw,
        how,
        doneness=asked.setting.doneness,
        colour=asked.setting.colour,
        shelves=asked.kitchen.shelves,
    )
    return {**measure_effects(dough, raw, how), LAW: tables.law_mark()}, plain.minutes


def _asked_then(session: Session, row: BakeRow, pantry: Pantry) -> TrayQuestion:
    """The dough as it was planned, else as its card was then, in the kitchen as it is."""
    if row.session_id is not None:
        return asked_of(find_session(session, row.session_id), row.dough_id, row.tray).question
    dough, kitchen = get_dough(session, row.dough_id), get_kitchen(session)
    if row.seen.version is None:
        return tray_question(dough.card, dough.weighed, dough.tray, kitchen, pantry.larder)
    then = versions.find(session, row.dough_id, row.seen.version)
    return tray_question(
        then.card,
        weigh_card(then.card, pantry.larder, pantry.measuring),
        dough.tray,
        kitchen,
        pantry.larder,
    )


def of_earlier_laws(session: Session) -> list[BakeRow]:
    """The bakes that an earlier law reckoned."""
    mark = func.json_extract(BakeRow.effects, f"$.{LAW}")
    old = select(BakeRow).where(func.coalesce(mark, "") != tables.law_mark())
    return list(session.scalars(old))


def reckon_anew(session: Session) -> int:
    """Reckon them by today's law, and say how many.

    One whose dough cannot be foreseen any more stays as it is, and teaches nothing.
    """
    pantry, done = get_pantry(session), 0
    for row in of_earlier_laws(session):
        try:
            asked = _asked_then(session, row, pantry)
            how = conditions_of(row.effects, asked.conditions())
            row.effects, row.plain_minutes = reckoned(asked, how, row.raw, pantry)
            done += 1
        except (Missing, Refusal):
            continue
    return done
