"""How long this baker's hands take: learnt from the sessions that were baked to their end."""

from collections.abc import Iterator
from typing import Literal

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from finebatch.core.book.hands import Hands, Pace, learn_pace
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.work import Work
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.store.models import SessionRow
from finebatch.store.once import once

LATEST_SESSIONS = 8
Taught = Literal["mix", "portion"]


def finished(session: Session) -> list[SessionRow]:
    """The latest sessions that were baked to their end."""
    return once(session, "finished sessions", _read_finished)


def _read_finished(session: Session) -> list[SessionRow]:
    query = select(SessionRow).where(SessionRow.state == "finished").order_by(SessionRow.id.desc())
    rows = session.scalars(query.options(selectinload(SessionRow.events)).limit(LATEST_SESSIONS))
    return list(rows)


def hands_of(session: Session, kitchen: KitchenSetting) -> Hands:
    """The paces that the latest bakes taught; the kitchen's where the baker wants none learnt."""
    own = kitchen.planning.pace
    if not kitchen.planning.learns_hands:
        return Hands(Pace(own))
    ratios = [pair for row in finished(session) for pair in _ratios(row)]
    return Hands(
        learn_pace([ratio for kind, ratio in ratios if kind == "portion"], own),
        learn_pace([ratio for kind, ratio in ratios if kind == "mix"]),
    )


def _ratios(row: SessionRow) -> Iterator[tuple[Taught, float]]:
    """Minutes taken over the usual ones, for each long job that followed right on another."""
    work = row.work
    if len(work.kitchen.workers) > 1:  # whose job took how long is not told apart
        return
    usual: dict[JobKey | None, tuple[Taught, float]] = dict(_usual(work, row.snapshot.hands))
    before = row.start_at
    # Turning a dial takes no time of its own.
    done = (e for e in row.events if e.kind == "done" and e.job and e.job.step != "heat")
    for event in sorted(done, key=lambda e: (e.at, e.id)):
        known = usual.get(event.job)
        if known is not None:
            kind, minutes = known
            yield kind, (event.at - before) / 60_000 / minutes
        before = event.at


def _usual(work: Work, reckoned: Hands) -> Iterator[tuple[JobKey, tuple[Taught, float]]]:
    """The usual minutes of mixing and portioning, without what was learnt before."""
    for dough in work.doughs:
        for make, key in zip(dough.makes, dough.made, strict=True):
            if make.kind == "mix":
                yield key, ("mix", make.hands_min / reckoned.mix.times)
    for tray in work.trays:
        minutes = tray.portion_min / reckoned.portion.times
        yield JobKey(tray.name, "portion"), ("portion", minutes)
