"""What a session takes of what is in the house: off when a bowl is mixed, or a part made."""

from collections.abc import Mapping

from sqlalchemy.orm import Session

from finebatch.core.formula.parts import part_needs
from finebatch.core.session.bowls import bowls_of
from finebatch.core.session.wish import Asked
from finebatch.store.models import DoughRow, EventRow, SessionRow
from finebatch.workflow.dough.doughs import get_dough
from finebatch.workflow.kitchen.equipment import get_kitchen, measuring_of
from finebatch.workflow.kitchen.larder import get_larder
from finebatch.workflow.kitchen.stock import put_back, take_off
from finebatch.workflow.session.weighing import weighed_events


def take_stock(session: Session, row: SessionRow, event: EventRow) -> None:
    """Where the event is that a bowl was mixed or a part made, what went in is taken off."""
    job = event.job
    if event.kind != "done" or job is None or job.step not in ("mix", "part"):
        return
    asked = next((one for one in row.snapshot.items if one.letter == job.whose), None)
    if asked is None:
        return
    if job.step == "part":
        parts = parts_g(session, row, asked)
        taken = parts[job.round] if job.round < len(parts) else {}
    else:
        taken = _mixed_g(row, asked, job.round)
    take_off(session, taken, event)


def give_stock_back(session: Session, event: EventRow) -> None:
    """Where that is taken back, it is there again."""
    if event.id is not None:
        put_back(session, event.id)


def _mixed_g(row: SessionRow, asked: Asked, number: int) -> Mapping[str, float]:
    """What went into the bowl that is mixed with that job, once the last job of it is done: what
    was weighed where it was, else what the formula has."""
    dough = row.work.dough(asked.letter)
    mixes = sum(make.kind == "mix" for make in dough.makes)
    bowls = bowls_of(dough, row.work.trays_of(asked.letter))
    if not bowls:
        if number < mixes - 1:
            return {}
        share = 1.0
    else:
        own = [n for n, one in enumerate(bowls) if one.number == bowls[number].number]
        if number < own[-1]:
            return {}
        share = bowls[number].share
    planned = {key: grams * share for key, grams in asked.question.formula_g.items()}
    weighed = {event.what: event.grams for event in weighed_events(row, asked.letter)}
    if bowls:
        return planned
    return {key: weighed.get(key) or grams for key, grams in planned.items()}


def parts_g(session: Session, row: SessionRow, asked: Asked) -> list[Mapping[str, float]]:
    """Each part of a dough in grams, scaled to the pieces that are baked."""
    if asked.dough_id is None or session.get(DoughRow, asked.dough_id) is None:
        return []
    dough = get_dough(session, asked.dough_id)
    trays = row.work.trays_of(asked.letter)
    pieces = sum(tray.pieces for tray in trays)
    larder, measuring = get_larder(session), measuring_of(get_kitchen(session))
    needs = part_needs(dough.card.parts, pieces, larder, measuring)
    found: list[Mapping[str, float]] = []
    for part, need in zip(dough.card.parts, needs, strict=True):
        factor = 1.0 if need.factor is None or not part.per_piece_g else need.factor
        found.append({key: grams * factor for key, grams in need.weighed.known_g().items()})
    return found
