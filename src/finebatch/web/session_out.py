"""A session as the API gives it: planned, running or finished."""

from typing import Any

from sqlalchemy.orm import Session

from finebatch.core.formula.dough import Family
from finebatch.core.larder.ingredient import Larder
from finebatch.core.piece.kinds import Kind as PieceKind
from finebatch.core.piece.kinds import TwiceBaked, batch_grams
from finebatch.core.plan.explain import Cause
from finebatch.core.plan.prepare import Joins
from finebatch.core.plan.schedule import Place
from finebatch.core.plan.work import HAND_JOBS, Kind
from finebatch.store.models import DoughRow, SessionRow
from finebatch.web.types import Out
from finebatch.workflow import baking, plans
from finebatch.workflow.larder import get_larder
from finebatch.workflow.plans import MINUTE, Asked


class ActivityOut(Out):
    """One activity. Times in UTC ms; `due_at` is exact for a tray in the oven.

    `who` is the pair of hands, 0 the baker's own.
    """

    key: str
    kind: Kind
    dough: str | None
    tray: str | None
    place: Place
    hands: bool
    start_at: int
    end_at: int
    due_at: int
    done_at: int | None
    sheet: int | None
    oven: int | None
    shelf: int | None
    who: int | None
    label: str
    critical: bool


class TrayWorkOut(Out):
    """One tray: its dough's letter, pieces, and the minutes of its bakes, those added included."""

    name: str
    dough: str
    pieces: int
    bakes: list[int]
    scraps: bool
    pinned_shelf: int | None


class HoldUpOut(Out):
    """Minutes of the chain that sets the finish, by cause."""

    cause: Cause
    minutes: int
    trays: list[str]


class SessionDoughOut(Out):
    """One dough of a session: a piece's mass in g, °C on the dial, pieces kept for another day.

    `dough_id` is null once the dough was thrown away.
    """

    letter: str
    dough_id: int | None
    name: str
    grams: float
    kind: PieceKind
    slice_mm: float | None
    oven_c: float
    family: Family
    joins: Joins
    kept: int


class WishItemOut(Out):
    """One dough that was asked for."""

    dough_id: int
    pieces: int | None
    joins: Joins


class AwayOut(Out):
    """When the baker is away (UTC ms)."""

    from_at: int
    to_at: int


class TimedPinOut(Out):
    """A job put at a time (UTC ms)."""

    job: str
    start_at: int


class ShelfPinOut(Out):
    """A tray put on a shelf."""

    tray: str
    shelf: int


class WishOut(Out):
    """What was asked for, to change and ask again."""

    items: list[WishItemOut]
    sheets: int
    shelves: int
    start_at: int | None
    ready_by: int | None
    away: list[AwayOut]
    pins: list[TimedPinOut]
    shelf_pins: list[ShelfPinOut]
    first_c: int | None


class SessionOut(Out):
    """A session: planned, running or finished. Times in UTC ms, `now` the server's clock.

    `searching` says that better plans are being looked for; `ovens` are the shelves of each.
    """

    id: int
    name: str
    state: str
    now: int
    start_at: int
    finish_at: int
    ready_by: int | None
    gap_min: int
    proven: bool
    searching: bool
    stale: bool
    said: str | None
    can_undo: bool
    sheets: int
    shelves: int
    ovens: list[int]
    workers: list[str]
    doughs: list[SessionDoughOut]
    trays: list[TrayWorkOut]
    activities: list[ActivityOut]
    hold_ups: list[HoldUpOut]
    wish: WishOut | None


def _dough_out(session: Session, asked: Asked, larder: Larder) -> SessionDoughOut:
    there = asked.dough_id is not None and session.get(DoughRow, asked.dough_id) is not None
    piece = asked.question.setting.piece
    return SessionDoughOut(
        letter=asked.letter,
        dough_id=asked.dough_id if there else None,
        name=asked.name,
        grams=batch_grams(piece, asked.question.composition(larder).density_g_cm3),
        kind=piece.kind,
        slice_mm=piece.slice_mm if isinstance(piece, TwiceBaked) else None,
        oven_c=asked.question.setting.oven_c,
        family=asked.question.family,
        joins=asked.joins,
        kept=asked.kept,
    )


def session_out(
    session: Session, row: SessionRow, now: int, *, searching: bool = False
) -> SessionOut:
    """A session as the API gives it."""
    work, done, due = baking.work_now(row), baking.done_at(row), baking.due_at(row)
    snapshot, larder = plans.snapshot_of(row), get_larder(session)
    finish = plans.finish_of(row)
    planned = row.state == "planned"

    def at(minute: int) -> int:
        return row.start_at + minute * MINUTE

    activities: list[dict[str, Any]] = [
        {"key": a.key, "kind": a.kind, "dough": a.dough, "tray": a.tray, "place": a.place,
         "sheet": a.sheet, "shelf": a.shelf, "oven": a.oven, "who": a.who, "label": a.label,
         "critical": a.critical, "hands": a.kind in HAND_JOBS, "start_at": at(a.start),
         "end_at": at(a.end), "due_at": due[a.key], "done_at": done.get(a.key)}
        for a in row.activities
    ]  # fmt: skip
    return SessionOut(
        id=row.id,
        name=snapshot.name,
        state=row.state,
        now=now,
        start_at=row.start_at,
        finish_at=at(finish),
        ready_by=row.ready_by,
        gap_min=max(finish - row.bound, 0) if planned else 0,
        proven=planned and row.bound >= finish,
        searching=searching,
        stale=planned and plans.is_stale(session, row),
        said=row.said,
        can_undo=bool(row.events),
        sheets=work.kitchen.sheets,
        shelves=work.kitchen.shelves,
        ovens=[oven.shelves for oven in work.kitchen.ovens],
        workers=[worker.name for worker in work.kitchen.workers],
        doughs=[_dough_out(session, asked, larder) for asked in snapshot.items],
        trays=[
            TrayWorkOut(name=t.name, dough=t.dough, pieces=t.pieces,
                        bakes=[b.length for b in t.bakes], scraps=t.scraps, pinned_shelf=t.shelf)
            for t in work.trays
        ],
        activities=[ActivityOut.model_validate(a) for a in activities],
        hold_ups=[HoldUpOut.model_validate(h) for h in plans.explain(row)],
        wish=WishOut.model_validate(snapshot.wish) if snapshot.wish else None,
    )  # fmt: skip
