"""Occasions that come again: kept, planned anew, and what was eaten and left each time."""

from dataclasses import dataclass, replace

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from finebatch.core.refusal import refuse
from finebatch.core.session.occasion import (
    MOST_OUTCOMES,
    KeptOccasion,
    Occasion,
    OccasionKind,
    Outcome,
    as_eaten,
)
from finebatch.core.session.wish import Snapshot
from finebatch.store.bin import throw
from finebatch.store.models import BinRow, OccasionRow, SessionRow
from finebatch.workflow.dough.drawer import dough_names
from finebatch.workflow.errors import Missing
from finebatch.workflow.session.session_rows import find_session

MOST_KEPT = 200


@dataclass(frozen=True, slots=True)
class ShownOccasion:
    """A kept occasion by its number: as it was planned last, what came of it, and with the counts
    that were eaten the last time. Kinds that were thrown away are not in it any more."""

    id: int
    name: str
    occasion: Occasion
    outcomes: tuple[Outcome, ...]
    as_eaten: Occasion


def _shown(row: OccasionRow, there: dict[int, str]) -> ShownOccasion:
    kept = row.kept
    kinds = tuple(kind for kind in kept.occasion.kinds if kind.dough_id in there)
    occasion = replace(kept.occasion, kinds=kinds or kept.occasion.kinds)
    now = replace(kept, occasion=occasion)
    return ShownOccasion(
        row.id, occasion.name or "An occasion", occasion, kept.outcomes, as_eaten(now)
    )


def kept_occasions(session: Session) -> list[ShownOccasion]:
    """All that are kept, the latest first."""
    there = dough_names(session)
    rows = session.scalars(select(OccasionRow).order_by(OccasionRow.id.desc()))
    return [_shown(row, there) for row in rows]


def keep(session: Session, session_id: int, name: str) -> ShownOccasion:
    """Keep the occasion of a session under a name, with what was baked for it; one of that name is
    kept once more, with what came of it before. `Refusal` when there are too many."""
    name = name.strip()
    if not name:
        raise refuse("name", "Give it a name by which you find it again.")
    occasion = replace(_occasion_of(find_session(session, session_id)), name=name)
    found = next(
        (one for one in session.scalars(select(OccasionRow)) if one.kept.occasion.name == name),
        None,
    )
    if found is None:
        if (session.scalar(select(func.count(OccasionRow.id))) or 0) >= MOST_KEPT:
            raise refuse("name", f"{MOST_KEPT} occasions are kept already. Take one out first.")
        found = OccasionRow(kept=KeptOccasion(occasion))
        session.add(found)
    else:
        found.kept = replace(found.kept, occasion=occasion)
    session.flush()
    return _shown(found, dough_names(session))


def _occasion_of(row: SessionRow) -> Occasion:
    """What a session was for; of one that was planned for none, its doughs at its finish."""
    snapshot = row.snapshot
    if snapshot.wish is not None and snapshot.wish.occasion is not None:
        return snapshot.wish.occasion
    baked = _baked(row, snapshot)
    kinds = tuple(
        OccasionKind(asked.dough_id, pieces=max(baked[asked.letter], 1))
        for asked in snapshot.items
        if asked.dough_id is not None
    )
    if not kinds:
        raise refuse("name", "None of these doughs is there any more.")
    at = row.start_at + row.plan.finish * 60_000
    return Occasion(at, kinds, pieces=sum(kind.pieces or 0 for kind in kinds))


def _baked(row: SessionRow, snapshot: Snapshot) -> dict[str, int]:
    """How many pieces, as they are eaten, a session bakes of each dough."""
    each = {asked.letter: asked.each_gives for asked in snapshot.items}
    found = dict.fromkeys(each, 0)
    for tray in row.work.trays:
        if tray.dough in found:
            found[tray.dough] += tray.pieces * each[tray.dough]
    return found


def _row(session: Session, occasion_id: int) -> OccasionRow:
    row = session.get(OccasionRow, occasion_id)
    if row is None:
        raise Missing("This occasion")
    return row


def write_outcome(session: Session, occasion_id: int, outcome: Outcome) -> ShownOccasion:
    """Keep what was baked and left; of the same time once. `Refusal` for more left than baked."""
    for number, kind in enumerate(outcome.kinds):
        if kind.left > kind.baked:
            raise refuse(
                f"kinds.{number}.left", f"{kind.baked} were baked: no more than that can be left."
            )
    row = _row(session, occasion_id)
    others = tuple(one for one in row.kept.outcomes if one.at != outcome.at)
    told = sorted([*others, outcome], key=lambda one: one.at)[-MOST_OUTCOMES:]
    row.kept = replace(row.kept, outcomes=tuple(told))
    session.flush()
    return _shown(row, dough_names(session))


def let_go(session: Session, occasion_id: int, now: int) -> BinRow:
    """Keep an occasion no longer."""
    name = _row(session, occasion_id).kept.occasion.name or "An occasion"
    return throw(session, [("occasion", "id", occasion_id)], "occasion", name, now)
