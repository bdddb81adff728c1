"""Versions of a dough: what it was at each moment, what changed, and why."""

from dataclasses import dataclass

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from finebatch.core.formula.compare import changes
from finebatch.core.formula.dough import Card
from finebatch.store.models import BakeRow, DoughRow, VersionRow
from finebatch.workflow.errors import Missing
from finebatch.workflow.kitchen.larder import Pantry

SITTING_MS = 10 * 60_000
"""Changes that follow each other within ten minutes belong to one version."""

MOST_SAID = 4
MOST_REASON = 200


@dataclass(frozen=True, slots=True)
class Version:
    """A dough at one moment. `at` in UTC milliseconds; `said` is what changed since the last."""

    number: int
    at: int
    said: str
    reason: str


@dataclass(frozen=True, slots=True)
class VersionCard(Version):
    """A version with its whole card."""

    card: Card


def _sentence(said: tuple[str, ...]) -> str:
    more = len(said) - MOST_SAID
    return "; ".join(said[:MOST_SAID]) + (f"; and {more} more" if more > 0 else "")


def _is_open(session: Session, latest: VersionRow, now: int) -> bool:
    """Whether more changes still belong to the latest version: not once it was baked or named."""
    baked = session.scalar(
        select(func.max(BakeRow.baked_at)).where(BakeRow.dough_id == latest.dough_id)
    )
    return not latest.reason and now - latest.at < SITTING_MS and (baked or 0) <= latest.at


def keep(
    session: Session, row: DoughRow, card: Card, now: int, reason: str, pantry: Pantry
) -> None:
    """Keep a change as a version: of its own with a reason, else joined to what is being done.

    What does not change the baking (a name, a remark) belongs to the version that it is made in.
    """
    latest = row.versions[-1]
    before = latest.card
    said = changes(before, card, pantry.larder, pantry.measuring)
    if not said:
        latest.card = card
        return
    if not reason and _is_open(session, latest, now):
        latest.card, latest.at = card, now
        if latest.number > 1:
            earlier = row.versions[-2].card
            since = changes(earlier, card, pantry.larder, pantry.measuring)
            latest.said = _sentence(since) or "as it was before"
        return
    row.versions.append(
        VersionRow(
            number=latest.number + 1,
            at=now,
            said=_sentence(said),
            reason=reason[:MOST_REASON],
            card=card,
        )
    )


def _version(row: VersionRow) -> VersionCard:
    return VersionCard(row.number, row.at, row.said, row.reason, row.card)


def _row(session: Session, dough_id: int, number: int) -> VersionRow:
    query = select(VersionRow).where(VersionRow.dough_id == dough_id, VersionRow.number == number)
    row = session.scalar(query)
    if row is None:
        raise Missing("This version")
    return row


def history(session: Session, dough_id: int) -> list[VersionCard]:
    """All versions of a dough, the newest first."""
    if session.get(DoughRow, dough_id) is None:
        raise Missing("This dough")
    query = select(VersionRow).where(VersionRow.dough_id == dough_id)
    return [_version(row) for row in session.scalars(query.order_by(VersionRow.number.desc()))]


def find(session: Session, dough_id: int, number: int) -> VersionCard:
    """One version; `Missing` when there is none of that number."""
    return _version(_row(session, dough_id, number))


def give_reason(session: Session, dough_id: int, number: int, reason: str) -> VersionCard:
    """Write down why a version was made."""
    row = _row(session, dough_id, number)
    row.reason = " ".join(reason.split())[:MOST_REASON]
    session.flush()
    return _version(row)
