"""The cold store: dough and baked pieces kept for another day, each with a trace of its own."""

from dataclasses import dataclass
from typing import Annotated

from annotated_types import Interval, MaxLen
from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from finebatch.core.care.keeping import (
    DAY_MS,
    SOON_DAYS,
    KeptAs,
    KeptIn,
    is_filled,
    keeping_of,
    thawed_use_by,
    use_by,
)
from finebatch.core.refusal import refuse
from finebatch.core.values import FromOutside, Id, Moment, Text
from finebatch.facts import formula
from finebatch.store.bin import empty_later
from finebatch.store.models import ColdEventRow, ColdRow, DoughRow
from finebatch.workflow.dough import versions
from finebatch.workflow.dough.doughs import get_dough
from finebatch.workflow.errors import Missing
from finebatch.workflow.kitchen.larder import get_larder

MOST_PIECES = 2000
MOST_NOTE = 300
OLDEST_MS = 2 * 365 * DAY_MS
FORM_WORDS: dict[KeptAs, str] = {
    "dough": "dough in a lump",
    "disc": "discs to roll",
    "log": "logs",
    "portions": "portions",
    "slices": "slices",
    "baked": "baked",
}


@dataclass(frozen=True, slots=True)
class Put(FromOutside):
    """What is put away: of which dough, in what shape, how many pieces it gives, where."""

    dough_id: Id
    form: KeptAs
    pieces: Annotated[int, Interval(ge=1, le=MOST_PIECES)]
    place: KeptIn
    since: Moment | None = None
    note: Annotated[Text, MaxLen(MOST_NOTE)] = ""


def _key(session: Session, dough_id: int | None, form: KeptAs, place: KeptIn, fallback: str) -> str:
    """The row of the keeping table; a dough that was thrown away keeps as it did."""
    row = session.get(DoughRow, dough_id) if dough_id is not None else None
    if row is None:
        return fallback if place == formula.keepings()[fallback].place else "dough_frozen"
    done = row.tray.setting.doneness
    return keeping_of(row.card, get_larder(session), form, place, done)


def _check(pieces: int, most: int = MOST_PIECES) -> None:
    if not 1 <= pieces <= most:
        raise refuse("pieces", f"Give 1 to {most} pieces.")


def _tell(row: ColdRow, now: int, said: str) -> None:
    row.events.append(ColdEventRow(at=now, said=said))


def put_away(session: Session, put: Put, now: int) -> ColdRow:
    """Put dough or pieces away; `Refusal` for where it does not keep."""
    _check(put.pieces)
    since = now if put.since is None else put.since
    if not now - OLDEST_MS <= since <= now:
        raise refuse("since", "Give a day that has been, in the last two years.")
    dough = get_dough(session, put.dough_id)
    key = _key(session, put.dough_id, put.form, put.place, "dough_egg")
    kept = versions.history(session, put.dough_id)
    row = ColdRow(
        dough_id=put.dough_id,
        name=dough.card.name,
        version=kept[0].number if kept else None,
        form=put.form,
        place=put.place,
        keeping=key,
        pieces=put.pieces,
        since=since,
        use_by=use_by(since, formula.keepings()[key]),
        note=put.note.strip()[:MOST_NOTE],
    )
    if put.place == "freezer":
        fresh: KeptIn = "fridge" if put.form != "baked" or is_filled(dough.card) else "tin"
        before = _key(session, put.dough_id, put.form, fresh, key)
        row.due_before, row.frozen_at = use_by(since, formula.keepings()[before]), since
    session.add(row)
    _tell(row, now, f"{put.pieces} pieces as {FORM_WORDS[put.form]} into the {put.place}")
    session.flush()
    return row


def find(session: Session, item_id: int) -> ColdRow:
    """Something kept cold; `Missing` when there is none of that number."""
    row = session.get(ColdRow, item_id)
    if row is None:
        raise Missing("This in the cold store")
    return row


def take_out(session: Session, item_id: int, pieces: int, now: int, why: str = "") -> ColdRow:
    """Take some or all of it out."""
    row = find(session, item_id)
    if row.pieces == 0:
        raise refuse("pieces", "Nothing is left of it.")
    _check(pieces, row.pieces)
    row.pieces -= pieces
    _tell(row, now, f"{pieces} taken out{f' {why}' if why else ''}; {row.pieces} left")
    session.flush()
    return row


def move(session: Session, item_id: int, place: KeptIn, now: int) -> ColdRow:
    """Move it to another place; its days go on from what it has left."""
    row = find(session, item_id)
    if place == row.place:
        return row
    key = _key(session, row.dough_id, row.form, place, row.keeping)
    keeping = formula.keepings()[key]
    if place == "freezer":
        if row.use_by < now:
            raise refuse("place", "It is past its day. Freezing does not make it good again.")
        row.due_before, row.frozen_at = row.use_by, now
        row.use_by = use_by(now, keeping)
    elif row.due_before is not None and row.frozen_at is not None:
        row.use_by = thawed_use_by(row.frozen_at, row.due_before, now, keeping)
        row.due_before = row.frozen_at = None
    else:
        row.use_by = use_by(now, keeping, row.use_by)
    _tell(row, now, f"moved from the {row.place} to the {place}")
    row.place, row.keeping = place, key
    session.flush()
    return row


def correct(session: Session, item_id: int, pieces: int, note: str, now: int) -> ColdRow:
    """Correct how many pieces there are, and the note; what it was stays in the trace."""
    row = find(session, item_id)
    if not 0 <= pieces <= MOST_PIECES:
        raise refuse("pieces", f"Give 0 to {MOST_PIECES} pieces.")
    if pieces != row.pieces:
        _tell(row, now, f"corrected from {row.pieces} to {pieces} pieces")
    row.pieces, row.note = pieces, note.strip()[:MOST_NOTE]
    session.flush()
    return row


def throw_away(session: Session, item_id: int, now: int) -> ColdRow:
    """Throw what is left of it away; its trace stays, and for a month it can be put back."""
    row = find(session, item_id)
    if row.pieces:
        was = {"pieces": row.pieces}
        empty_later(session, "cold", row.name, now, "cold_item", row.id, was)
    _tell(row, now, f"{row.pieces} thrown away")
    row.pieces = 0
    session.flush()
    return row


def kept(session: Session) -> list[ColdRow]:
    """All that is kept, the soonest due first."""
    query = select(ColdRow).where(ColdRow.pieces > 0).order_by(ColdRow.use_by, ColdRow.id)
    return list(session.scalars(query.options(selectinload(ColdRow.events))))


def gone(session: Session, most: int = 20) -> list[ColdRow]:
    """The latest of which nothing is left."""
    query = select(ColdRow).where(ColdRow.pieces == 0).order_by(ColdRow.id.desc())
    return list(session.scalars(query.options(selectinload(ColdRow.events)).limit(most)))


def is_soon(row: ColdRow, now: int) -> bool:
    """Whether it is due soon, or past its day."""
    return row.use_by - now <= SOON_DAYS * DAY_MS
