"""The packs in the house, as they are kept."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from finebatch.core.larder.stock import MOST_G, Pack, good_at, take
from finebatch.core.refusal import refuse
from finebatch.core.values import values_of
from finebatch.store.bin import throw
from finebatch.store.models import BinRow, EventRow, StockRow, StockTakenRow
from finebatch.workflow.errors import Missing
from finebatch.workflow.kitchen.larder import get_larder

MOST_PACKS = 1000


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptPack(Pack):
    """A pack in the house, by its number."""

    id: int


def _kept(row: StockRow) -> KeptPack:
    return KeptPack(**values_of(Pack, row.pack), id=row.id)


def packs(session: Session) -> list[KeptPack]:
    """What is in the house, in the order in which it came."""
    return [_kept(row) for row in session.scalars(select(StockRow).order_by(StockRow.id))]


def packs_of_each(session: Session) -> dict[str, list[KeptPack]]:
    """What is in the house, by ingredient."""
    found: dict[str, list[KeptPack]] = {}
    for pack in packs(session):
        found.setdefault(pack.ingredient, []).append(pack)
    return found


def good_g(session: Session, at: int) -> Mapping[str, float]:
    """What is there of each ingredient (g) and may still be used at that moment (UTC ms)."""
    return {
        key: sum(pack.grams for pack in good_at(own, at))
        for key, own in packs_of_each(session).items()
    }


def put_pack(session: Session, pack: Pack, pack_id: int | None = None) -> KeptPack:
    """Keep a pack: a new one, or that one changed. `Refusal` for what the larder does not know, or
    when there are too many."""
    get_larder(session).find(pack.ingredient, "ingredient")
    if pack_id is None:
        if (session.scalar(select(func.count(StockRow.id))) or 0) >= MOST_PACKS:
            raise refuse("ingredient", f"The larder holds {MOST_PACKS:,} packs. Take one out.")
        row = StockRow(pack=pack)
        session.add(row)
    else:
        row = _row(session, pack_id)
        row.pack = pack
    session.flush()
    return _kept(row)


def _row(session: Session, pack_id: int) -> StockRow:
    row = session.get(StockRow, pack_id)
    if row is None:
        raise Missing("This pack")
    return row


def take_pack_out(session: Session, pack_id: int, now: int) -> BinRow:
    """It is not in the house any more."""
    pack = _row(session, pack_id).pack
    name = get_larder(session).find(pack.ingredient, "ingredient").name
    return throw(session, [("stock", "id", pack_id)], "pack", name, now)


def take_off(session: Session, grams: Mapping[str, float], event: EventRow) -> None:
    """Take so much of each ingredient, what has to be used first, first; the event keeps it."""
    there = packs_of_each(session) if grams else {}
    for key, needed in grams.items():
        own = there.get(key, [])
        for taken in take(own, needed):
            row = _row(session, own[taken.place].id)
            row.pack = replace(row.pack, grams=max(row.pack.grams - taken.grams, 0.0))
            session.add(StockTakenRow(stock_id=row.id, event_id=event.id, grams=taken.grams))


def put_back(session: Session, event_id: int) -> None:
    """Put back what an event took."""
    query = select(StockTakenRow).where(StockTakenRow.event_id == event_id)
    for taken in session.scalars(query).all():
        row = session.get(StockRow, taken.stock_id)
        if row is not None:
            row.pack = replace(row.pack, grams=min(row.pack.grams + taken.grams, MOST_G))
        session.delete(taken)
    session.flush()
