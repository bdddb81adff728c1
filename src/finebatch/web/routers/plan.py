"""The Plan screen: the trays of one dough placed in time."""

from typing import Annotated, Any

from fastapi import APIRouter
from pydantic import Field, model_validator
from sqlalchemy.orm import Session

from finebatch.core.formula.dough import Family
from finebatch.core.larder.ingredient import Larder
from finebatch.core.piece.kinds import Kind as PieceKind
from finebatch.core.piece.kinds import TwiceBaked, batch_grams
from finebatch.core.plan.explain import Cause
from finebatch.core.plan.schedule import HAND_JOBS, Kind, Place
from finebatch.core.refusal import refuse
from finebatch.store.models import SessionRow
from finebatch.web.deps import Config, Data, Now
from finebatch.web.types import Body, Id, Millis, Out
from finebatch.workflow import baking, plans
from finebatch.workflow.larder import get_larder
from finebatch.workflow.plans import MINUTE, Wish
from finebatch.workflow.trays import TrayQuestion

router = APIRouter(prefix="/api", tags=["plan"])


class WishBody(Body):
    """Sheets and shelves, and either a start or a ready-by time (UTC ms), or neither for now."""

    sheets: Annotated[int, Field(ge=1, le=12)]
    shelves: Annotated[int, Field(ge=1, le=4)]
    start_at: Millis | None = None
    ready_by: Millis | None = None

    @model_validator(mode="after")
    def _one_time(self) -> "WishBody":
        if self.start_at is not None and self.ready_by is not None:
            raise ValueError("Give a start or a ready-by time, not both.")
        return self

    def wish(self) -> Wish:
        """The workflow's wish."""
        return Wish(self.sheets, self.shelves, self.start_at, self.ready_by)


class ActivityOut(Out):
    """One activity. Times in UTC ms; `due_at` is exact for a tray in the oven."""

    key: str
    kind: Kind
    tray: str | None
    place: Place
    hands: bool
    start_at: int
    end_at: int
    due_at: int
    done_at: int | None
    sheet: int | None
    shelf: int | None
    critical: bool


class TrayWorkOut(Out):
    """One tray: its pieces and the minutes of its bakes, those added included."""

    name: str
    pieces: int
    bakes: list[int]


class HoldUpOut(Out):
    """Minutes of the chain that sets the finish, by cause."""

    cause: Cause
    minutes: int
    trays: list[str]


class PieceOut(Out):
    """What a piece of this session is: mass in g, temperatures in °C."""

    grams: float
    kind: PieceKind
    slice_mm: float | None
    oven_c: float
    family: Family


class SessionOut(Out):
    """A session: planned, running or finished. Times in UTC ms, `now` the server's clock."""

    id: int
    dough_id: int | None
    name: str
    state: str
    now: int
    start_at: int
    finish_at: int
    ready_by: int | None
    gap_min: int
    proven: bool
    stale: bool
    said: str | None
    can_undo: bool
    sheets: int
    shelves: int
    piece: PieceOut
    trays: list[TrayWorkOut]
    activities: list[ActivityOut]
    hold_ups: list[HoldUpOut]


def _piece_out(asked: TrayQuestion, larder: Larder) -> PieceOut:
    piece = asked.setting.piece
    return PieceOut(
        grams=batch_grams(piece, asked.composition(larder).density_g_cm3),
        kind=piece.kind,
        slice_mm=piece.slice_mm if isinstance(piece, TwiceBaked) else None,
        oven_c=asked.setting.oven_c,
        family=asked.family,
    )


def session_out(session: Session, row: SessionRow, now: int) -> SessionOut:
    """A session as the API gives it."""
    work, done, due = baking.work_now(row), baking.done_at(row), baking.due_at(row)
    asked = plans.question_of(row)
    finish = max(a.end for a in row.activities if a.kind == "cool")
    planned = row.state == "planned"

    def at(minute: int) -> int:
        return row.start_at + minute * MINUTE

    activities: list[dict[str, Any]] = [
        {"key": a.key, "kind": a.kind, "tray": a.tray, "place": a.place, "sheet": a.sheet,
         "shelf": a.shelf, "critical": a.critical, "hands": a.kind in HAND_JOBS,
         "start_at": at(a.start), "end_at": at(a.end), "due_at": due[a.key],
         "done_at": done.get(a.key)}
        for a in row.activities
    ]  # fmt: skip
    return SessionOut(
        id=row.id,
        dough_id=row.dough_id,
        name=row.snapshot["name"],
        state=row.state,
        now=now,
        start_at=row.start_at,
        finish_at=at(finish),
        ready_by=row.ready_by,
        gap_min=max(finish - row.bound, 0) if planned else 0,
        proven=planned and row.bound >= finish,
        stale=planned and plans.is_stale(session, row),
        said=row.said,
        can_undo=bool(row.events),
        sheets=work.kitchen.sheets,
        shelves=work.kitchen.shelves,
        piece=_piece_out(asked, get_larder(session)),
        trays=[
            TrayWorkOut(name=t.name, pieces=t.pieces, bakes=[b.length for b in t.bakes])
            for t in work.trays
        ],
        activities=[ActivityOut.model_validate(a) for a in activities],
        hold_ups=[HoldUpOut.model_validate(h) for h in plans.explain(row)],
    )


@router.get("/doughs/{dough_id}/plan")
def get_plan(dough_id: Id, data: Data, now: Now) -> SessionOut | None:
    """The dough's plan that has not been started; null when there is none."""
    with data.reading() as session:
        row = plans.planned_row(session, dough_id)
        return session_out(session, row, now) if row else None


@router.put("/doughs/{dough_id}/plan")
def plan_dough(dough_id: Id, body: WishBody, data: Data, now: Now, config: Config) -> SessionOut:
    """Plan the dough's trays; takes the place of its earlier plan."""
    session_id = plans.plan_dough(data, dough_id, body.wish(), now, config.plan_seconds)
    with data.reading() as session:
        return session_out(session, plans.find_session(session, session_id), now)


class DeedBody(Body):
    """A job done, or minutes more for a tray in the oven."""

    kind: baking.EventKind
    activity: Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[A-Za-z0-9.]+$")]
    minutes: Annotated[int, Field(ge=1, le=baking.MOST_MORE)] | None = None


@router.get("/sessions/current")
def current_session(data: Data, now: Now) -> SessionOut | None:
    """The session that is being baked; null when none is."""
    with data.reading() as session:
        row = baking.current(session)
        return session_out(session, row, now) if row else None


@router.get("/sessions/{session_id}")
def one_session(session_id: Id, data: Data, now: Now) -> SessionOut:
    """One session."""
    with data.reading() as session:
        return session_out(session, plans.find_session(session, session_id), now)


@router.post("/sessions/{session_id}/start")
def start_session(session_id: Id, data: Data, now: Now) -> SessionOut:
    """Start baking now."""
    with data.writing() as session:
        return session_out(session, baking.start(session, session_id, now), now)


@router.post("/sessions/{session_id}/events")
def record(session_id: Id, body: DeedBody, data: Data, now: Now) -> SessionOut:
    """Say what happened; the rest is planned again."""
    if body.kind == "more" and body.minutes is None:
        raise refuse("minutes", "How many minutes more?")
    deed = baking.Deed(body.kind, body.activity, body.minutes)
    with data.writing() as session:
        return session_out(session, baking.record(session, session_id, deed, now), now)


@router.post("/sessions/{session_id}/undo")
def undo(session_id: Id, data: Data, now: Now) -> SessionOut:
    """Take the last thing back that was said."""
    with data.writing() as session:
        return session_out(session, baking.undo(session, session_id, now), now)
