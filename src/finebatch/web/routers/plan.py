"""The Plan screen: the doughs of a session placed in time."""

from typing import Annotated

from fastapi import APIRouter, Path
from pydantic import Field, model_validator

from finebatch.core.care.keeping import Form
from finebatch.core.plan.helps import What
from finebatch.core.plan.prepare import Joins
from finebatch.core.session.wish import Away, Item, ShelfPin, TimedPin, Wish
from finebatch.store.database import Database
from finebatch.web.deps import Config, Data, Now, Planner
from finebatch.web.session_out import SessionOut, session_out
from finebatch.web.types import Body, Id, Key, Millis, Out
from finebatch.workflow.errors import Missing
from finebatch.workflow.session import ideas as helps
from finebatch.workflow.session import plans, session_rows
from finebatch.workflow.session.search import Searches

router = APIRouter(prefix="/api", tags=["plan"])


class ItemBody(Body):
    """One dough: so many of its pieces (all when null), mixed in the session or from the cold,
    where it was kept in that form (null: the usual one of its kind)."""

    dough_id: Id
    pieces: Annotated[int, Field(ge=1, le=2000)] | None = None
    joins: Joins = "fresh"
    form: Form | None = None


class AwayBody(Body):
    """When the baker is away or asleep (UTC ms)."""

    from_at: Millis
    to_at: Millis


class TimedPinBody(Body):
    """A job put at a time (UTC ms)."""

    job: Key
    start_at: Millis


class ShelfPinBody(Body):
    """A tray put on a shelf, counted from the top."""

    tray: Key
    shelf: Annotated[int, Field(ge=1, le=8)]


class WishBody(Body):
    """Doughs, sheets and shelves, and either a start or a ready-by (UTC ms), or neither for now."""

    items: Annotated[list[ItemBody], Field(max_length=40)]
    sheets: Annotated[int, Field(ge=1, le=12)]
    shelves: Annotated[int, Field(ge=1, le=4)]
    start_at: Millis | None = None
    ready_by: Millis | None = None
    away: Annotated[list[AwayBody], Field(max_length=40)] = []
    pins: Annotated[list[TimedPinBody], Field(max_length=40)] = []
    shelf_pins: Annotated[list[ShelfPinBody], Field(max_length=60)] = []
    first_c: Annotated[int, Field(ge=50, le=350)] | None = None

    @model_validator(mode="after")
    def _one_time(self) -> "WishBody":
        if self.start_at is not None and self.ready_by is not None:
            raise ValueError("Give a start or a ready-by time, not both.")
        return self

    def wish(self) -> Wish:
        """The workflow's wish."""
        return Wish(
            tuple(Item(i.dough_id, i.pieces, i.joins, i.form) for i in self.items),
            self.sheets,
            self.shelves,
            self.start_at,
            self.ready_by,
            tuple(Away(a.from_at, a.to_at) for a in self.away),
            tuple(TimedPin(p.job, p.start_at) for p in self.pins),
            tuple(ShelfPin(p.tray, p.shelf) for p in self.shelf_pins),
            self.first_c,
        )


def planned(wish: Wish, data: Database, now: int, planner: Searches) -> SessionOut:
    """The quick plan of a wish, and the search for better ones begun."""
    planner.stop()
    session_id = plans.plan_quick(data, wish, now)
    planner.begin(session_id)
    searched = planner.searching()
    with data.reading() as session:
        row = session_rows.find_session(session, session_id)
        return session_out(session, row, now, searching=searched == session_id)


@router.get("/plan")
def get_plan(data: Data, now: Now, planner: Planner) -> SessionOut | None:
    """The plan that has not been started; null when there is none."""
    searched = planner.searching()
    with data.reading() as session:
        row = session_rows.planned_row(session)
        if row is None:
            return None
        return session_out(session, row, now, searching=searched == row.id)


@router.put("/plan")
def make_plan(body: WishBody, data: Data, now: Now, planner: Planner) -> SessionOut:
    """Plan a session: a quick plan at once, better ones as they are found (ask again)."""
    return planned(body.wish(), data, now, planner)


@router.post("/plan/stop")
def stop_search(data: Data, now: Now, planner: Planner) -> SessionOut | None:
    """Look no further: the best plan so far stands."""
    planner.stop()
    with data.reading() as session:
        row = session_rows.planned_row(session)
        return session_out(session, row, now) if row else None


@router.delete("/plan", status_code=204)
def drop_plan(data: Data, planner: Planner) -> None:
    """Throw the plan that has not been started away."""
    planner.stop()
    with data.writing() as session:
        row = session_rows.planned_row(session)
        if row is not None:
            session.delete(row)


class IdeaOut(Out):
    """One thing that might help; `number` names it."""

    number: int
    what: What
    letter: str | None
    first_c: int | None


class HelpOut(Out):
    """What an idea brings: minutes sooner, planned anew; null where no plan was found."""

    number: int
    saves_min: int | None


@router.get("/plan/ideas")
def list_ideas(data: Data) -> list[IdeaOut]:
    """What may be tried to be ready sooner."""
    with data.reading() as session:
        row = session_rows.planned_row(session)
        found = helps.ideas_of(row) if row else ()
        return [
            IdeaOut(number=n, what=idea.what, letter=idea.letter, first_c=idea.first_c)
            for n, idea in enumerate(found)
        ]


@router.post("/plan/ideas/{number}")
def try_idea(number: Annotated[int, Path(ge=0, le=20)], data: Data, config: Config) -> HelpOut:
    """Plan the session again with that one thing changed, and keep nothing of it."""
    with data.reading() as session:
        row = session_rows.planned_row(session)
        if row is None:
            raise Missing("A plan")
        session_id = row.id
    found = helps.help_of(data, session_id, number, config.plan_seconds)
    return HelpOut(number=number, saves_min=found.saves_min)
