"""The Bake screen: the session that is being baked, what happens in it, and what is weighed."""

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import Field

from finebatch.core.piece.evenness import OFF
from finebatch.core.refusal import refuse
from finebatch.web.deps import Data, Now, Planner, Screens
from finebatch.web.session_out import SessionOut, session_out
from finebatch.web.types import Body, Id, Key, Out, Text
from finebatch.workflow.session import baking, live, session_rows, single, weighing

router = APIRouter(prefix="/api/sessions", tags=["bake"])


class DeedBody(Body):
    """What happened: a job done or left out, minutes more for a bake, the baker away or the oven
    slow for so many minutes, a tray dropped (its name is the activity), so many grams weighed of
    an ingredient (none: of a portion), or how firm a dough felt before it is portioned (`what` is
    soft, right or hard) and that it waits so many minutes more."""

    kind: baking.EventKind
    activity: Key | Literal[""] = ""
    minutes: Annotated[int, Field(ge=1, le=baking.MOST_AWAY)] | None = None
    grams: Annotated[float, Field(ge=-1e6, le=1e6)] | None = None
    what: Annotated[Text, Field(max_length=80)] | None = None


class ToWeighOut(Out):
    """An ingredient: what the formula wants and what was weighed in, in g."""

    key: str
    name: str
    target_g: float
    weighed_g: float | None


class OffPortionOut(Out):
    """A portion among the last few that is too heavy or too light."""

    number: int
    grams: float
    how: Literal["heavy", "light"]


class PortionsOut(Out):
    """Portions weighed one by one (g): running mean, standard deviation over mean, which are off.

    `cv` is null while there are too few to tell.
    """

    weighed_g: list[float]
    target_g: float
    mean_g: float | None
    cv: float | None
    off: list[OffPortionOut]


class AlongOut(Out):
    """What can be weighed for a job: ingredients to mix, or the portions of a tray.

    `wanted` is how many portions; widths in mm are foreseen for the mean mass and for the target.
    A mass is right within the share `off_by` of its target.
    """

    activity: str
    ingredients: list[ToWeighOut]
    portions: PortionsOut | None
    wanted: int
    off_by: float
    width_mm: float | None
    planned_mm: float | None


def _tell(screens: Screens, session: SessionOut) -> None:
    screens.tell("session", session.model_dump(mode="json"))


def _now_so(session_id: int, data: Data, now: int) -> SessionOut:
    with data.reading() as session:
        return session_out(session, session_rows.find_session(session, session_id), now)


class OneTrayBody(Body):
    """The dough of which one tray is baked now."""

    dough_id: Id


@router.post("", status_code=201)
def bake_one_tray(body: OneTrayBody, data: Data, now: Now, screens: Screens) -> SessionOut:
    """Bake one tray of a dough that is ready, at once and without a plan."""
    with data.writing() as session:
        row = single.bake_one_tray(session, body.dough_id, now)
        started = session_out(session, row, now)
    _tell(screens, started)
    return started


@router.get("/current")
def current_session(data: Data, now: Now) -> SessionOut | None:
    """The session that is being baked, or was finished just now; null when there is none."""
    with data.reading() as session:
        row = baking.current(session) or baking.just_finished(session, now)
        return session_out(session, row, now) if row else None


@router.get("/{session_id}")
def one_session(session_id: Id, data: Data, now: Now) -> SessionOut:
    """One session."""
    return _now_so(session_id, data, now)


class StartBody(Body):
    """When to begin: now, or at the time it is planned for, where that is still to come."""

    as_planned: bool = False


@router.post("/{session_id}/start")
def start_session(
    session_id: Id,
    data: Data,
    now: Now,
    planner: Planner,
    screens: Screens,
    body: StartBody | None = None,
) -> SessionOut:
    """Start baking."""
    planner.stop()
    with data.writing() as session:
        as_planned = body is not None and body.as_planned
        row = live.start(session, session_id, now, as_planned=as_planned)
        started = session_out(session, row, now)
    _tell(screens, started)
    return started


@router.post("/{session_id}/events")
def record(session_id: Id, body: DeedBody, data: Data, now: Now, screens: Screens) -> SessionOut:
    """Say what happened; the rest is planned again."""
    if body.kind in ("more", "away", "slow") and body.minutes is None:
        raise refuse("minutes", "How many minutes?")
    if body.kind == "more" and (body.minutes or 0) > baking.MOST_MORE:
        raise refuse("minutes", f"At most {baking.MOST_MORE} minutes at once.")
    deed = baking.Deed(**body.model_dump())
    live.say(data, session_id, deed, now, lambda: _tell(screens, _now_so(session_id, data, now)))
    return _now_so(session_id, data, now)


@router.post("/{session_id}/give-up")
def give_up(session_id: Id, data: Data, now: Now, screens: Screens) -> SessionOut:
    """End a session before its time; nothing is learnt from it."""
    with data.writing() as session:
        row = live.give_up(session, session_id, now)
        ended = session_out(session, row, now)
    _tell(screens, ended)
    return ended


@router.post("/{session_id}/undo")
def undo(session_id: Id, data: Data, now: Now, screens: Screens) -> SessionOut:
    """Take the last thing back that was said."""
    live.undo(data, session_id, now, lambda: _tell(screens, _now_so(session_id, data, now)))
    return _now_so(session_id, data, now)


@router.get("/{session_id}/weighing/{activity}")
def weigh_along(session_id: Id, activity: Key, data: Data) -> AlongOut:
    """What can be weighed for a job, with what was weighed so far."""
    with data.reading() as session:
        found = weighing.along(session, session_id, activity)
    return AlongOut(
        activity=found.activity,
        ingredients=[ToWeighOut.model_validate(one) for one in found.ingredients],
        portions=PortionsOut.model_validate(found.portions) if found.portions else None,
        wanted=found.wanted,
        off_by=OFF,
        width_mm=found.width.middle_mm if found.width else None,
        planned_mm=found.planned.middle_mm if found.planned else None,
    )
