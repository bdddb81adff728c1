"""A session as a file, a calendar as busy times, and what a session needs from the shelf."""

from typing import Annotated

from fastapi.responses import Response
from pydantic import Field

from finebatch.core.refusal import refuse
from finebatch.formats.session_file import read_session
from finebatch.web import routing
from finebatch.web.deps import Data, Now, Planner, Screens
from finebatch.web.routers.bake import tell_session
from finebatch.web.routers.plan import planned
from finebatch.web.types import Body, Id, Out, Text
from finebatch.workflow.errors import Missing
from finebatch.workflow.session import session_files, session_rows
from finebatch.workflow.session.lists import Shelf, shelf_of
from finebatch.workflow.session.session_files import FileForm
from finebatch.workflow.session.shown import ShownSession, show
from finebatch.workflow.session.under_way import go_on

router = routing.begin("plan")


class SessionFileBody(Body):
    """A file as text, at most 1 MB."""

    text: Annotated[Text, Field(min_length=1, max_length=1_000_000)]


class BusyOut(Out):
    """A time that a calendar says is taken (UTC ms)."""

    from_at: int
    to_at: int
    what: str


class BusyTimesOut(Out):
    """The busy times of a calendar in the next fortnight; `left_out` says how many entries are
    none, for what reason, and which."""

    times: list[BusyOut]
    left_out: list[str]


@router.get(
    "/sessions/{session_id}/file",
    response_class=Response,
    responses=routing.files("text/calendar", "text/csv", "text/markdown", "application/json"),
)
def give_out_session(session_id: Id, data: Data, now: Now, form: FileForm = "json") -> Response:
    """The session as JSON, its run sheet as iCalendar with alarms, CSV or Markdown. What a calendar
    has of it is remembered, so that a later file mends the same entries."""
    with data.writing() if form == "ics" else data.reading() as session:
        row = session_rows.find_session(session, session_id)
        kind, contents = session_files.give_out(row, form, now)
    name = f'attachment; filename="session-{session_id}.{form}"'
    return Response(contents, media_type=kind, headers={"content-disposition": name})


@router.post("/plan/bring-in")
def bring_in_session(
    body: SessionFileBody, data: Data, now: Now, planner: Planner, screens: Screens
) -> ShownSession:
    """Plan what a session file asks for; one under way is baked on, its rest planned from what
    happened. Its doughs are found by name. All of it, or nothing."""
    file = read_session(body.text)
    with data.reading() as session:
        wish = session_files.wish_of(session, file)
    if not file.events:
        return planned(wish, data, now, planner)
    with data.writing() as session:
        shown = show(session, go_on(session, file, wish, now), now)
    tell_session(screens, shown)
    return shown


@router.post("/plan/calendar")
def read_calendar(body: SessionFileBody, now: Now) -> BusyTimesOut:
    """The busy times of an iCalendar file; nothing is kept."""
    if "BEGIN:VCALENDAR" not in body.text.upper():
        raise refuse("text", "That is no calendar: an iCalendar file (.ics) is wanted.")
    found = session_files.busy_times(body.text, now)
    return BusyTimesOut(
        times=[
            BusyOut(
                from_at=round(b.start.timestamp() * 1000),
                to_at=round(b.end.timestamp() * 1000),
                what=b.what,
            )
            for b in found.times
        ],
        left_out=list(found.left_out),
    )


@router.get("/sessions/{session_id}/shelf")
def shelf(session_id: Id, data: Data) -> Shelf:
    """The weighing list of the whole session, and what to take out of the cold when."""
    with data.reading() as session:
        row = session_rows.find_session(session, session_id)
        if not row.plan.activities:
            raise Missing("A plan of this session")
        return shelf_of(session, row)
