"""The demo: opened beside a kitchen of one's own; in it, a bake under way, and a clock that is put
on by hand."""

from math import ceil
from typing import Annotated

from fastapi import Request
from pydantic import Field

from finebatch.web import routing
from finebatch.web.clock import MovedClock
from finebatch.web.demo_beside import DemoBeside
from finebatch.web.deps import Data, Now, Screens
from finebatch.web.routers.bake import tell_session
from finebatch.web.types import Body, Out
from finebatch.workflow.errors import Missing
from finebatch.workflow.session import session_rows
from finebatch.workflow.session.baking import current
from finebatch.workflow.session.shown import ShownSession, show

router = routing.begin("demo", "/api/demo")


class PutOnBody(Body):
    """By how many minutes the clock is put on."""

    minutes: Annotated[int, Field(ge=1, le=240)]


class ClockOut(Out):
    """What the clock shows (UTC ms)."""

    now: int


def _clock(request: Request) -> MovedClock:
    """`Missing` where baking is in earnest."""
    clock = request.app.state.clock
    if request.app.state.show_bake is None or not isinstance(clock, MovedClock):
        raise Missing("This of the demo")
    return clock


@router.post("/under-way")
def show_bake(request: Request, data: Data, now: Now, screens: Screens) -> ShownSession:
    """Begin a bake, and put the clock on until it is well under way. Only in the demo."""
    clock = _clock(request)
    begun, then = request.app.state.show_bake(data, now)
    clock.put_on(max(0, ceil((then - clock()) / 60_000)))
    with data.reading() as session:
        shown = show(session, session_rows.find_session(session, begun), clock())
    tell_session(screens, shown)
    return shown


@router.post("/clock")
def put_clock_on(body: PutOnBody, request: Request, data: Data, screens: Screens) -> ClockOut:
    """Put the clock on, so that a bake goes on faster than ovens do. Only in the demo."""
    clock = _clock(request)
    clock.put_on(body.minutes)
    with data.reading() as session:
        baked = current(session)
        if baked is not None:
            tell_session(screens, show(session, baked, clock()))
    return ClockOut(now=clock())


class BesideOut(Out):
    """Where the demo is, and whether it answers yet: it takes seconds to start."""

    address: str
    answers: bool


@router.post("/beside")
def open_demo(request: Request) -> BesideOut:
    """Start the demo beside this kitchen, in a process of its own and on data that are thrown away
    when this one is stopped; nothing of this kitchen is touched."""
    if request.app.state.show_bake is not None:
        raise Missing("Another demo")
    beside: DemoBeside = request.app.state.demo_beside
    address, answers = beside.look(str(request.base_url).rstrip("/"))
    return BesideOut(address=address, answers=answers)
