"""What is left to do once a session is baked; it ticks itself off."""

from dataclasses import dataclass
from typing import Literal

from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.plan.keys import CLEAR_UP
from finebatch.store.models import BakeRow, ColdRow, DoughRow, SessionRow
from finebatch.workflow.session.baking import done_at
from finebatch.workflow.session.kept_rest import rests_put_away
from finebatch.workflow.session.session_rows import asked_of


@dataclass(frozen=True, slots=True)
class ToClose:
    """One thing: what came out of a dough is written down, its rest is put away, all is cleared up.

    `dough` is its letter; `kept` the number of what was put away in the cold store, whose label can
    be printed.
    """

    kind: Literal["write", "put_away", "clear"]
    dough: str | None
    done: bool
    kept: int | None = None


def to_close(session: Session, row: SessionRow) -> tuple[ToClose, ...]:
    """The list of a baked session, in the order in which it is done; empty for any other."""
    if row.state != "finished":
        return ()
    doughs = [asked.dough_id for asked in row.snapshot.items]
    there = set(session.scalars(select(DoughRow.id).where(DoughRow.id.in_(doughs))))
    bakes = select(BakeRow.dough_id, BakeRow.tray).where(BakeRow.session_id == row.id)
    written = {asked_of(row, dough, tray).letter for dough, tray in session.execute(bakes)}
    own = [asked for asked in row.snapshot.items if asked.dough_id in there]
    found = [ToClose("write", asked.letter, asked.letter in written) for asked in own]
    away = rests_put_away(row)
    for asked in own:
        if asked.kept and asked.joins == "fresh":
            kept = away.get(asked.letter) or _kept_by_hand(session, asked.dough_id, row.start_at)
            found.append(ToClose("put_away", asked.letter, kept is not None, kept))
    if any(a.id == CLEAR_UP for a in row.plan.activities):
        found.append(ToClose("clear", None, CLEAR_UP in done_at(row)))
    return tuple(found)


def _kept_by_hand(session: Session, dough_id: int | None, since: int) -> int | None:
    """What was put away of a dough since then, on its own screen."""
    newest = ColdRow.id.desc()
    query = select(ColdRow.id).where(ColdRow.dough_id == dough_id, ColdRow.since >= since)
    return session.scalars(query.order_by(newest)).first()
