"""The Bake screen: the session that is being baked, what happens in it, and what is weighed."""

from finebatch.core.formula.card_says import CardSays
from finebatch.core.piece.evenness import OFF, Portions
from finebatch.core.piece.kinds.every import AnyKind
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.work import Letter
from finebatch.core.refusal import refuse
from finebatch.core.tray.from_card import Started
from finebatch.store.database import Database
from finebatch.web import routing
from finebatch.web.answers import writer_of
from finebatch.web.deps import By, Data, Now, Planner, Screens
from finebatch.web.tray_out import TrayOut, tray_out
from finebatch.web.types import Body, Id, Key, Out
from finebatch.web.wire import Wire
from finebatch.workflow.session import baking, live, session_rows, single, weighing
from finebatch.workflow.session.drawn import drawn
from finebatch.workflow.session.shown import ShownSession, show

router = routing.begin("bake", "/api/sessions")


class AlongOut(Out):
    """What can be weighed for a job: ingredients to mix, or the portions of a tray.

    `wanted` is how many portions; widths in mm are foreseen for the mean mass and for the target.
    A mass is right within the share `off_by` of its target. The dough is made `times` as large as
    planned; of what was `poured` too much went in.
    """

    activity: str
    ingredients: list[weighing.ToWeigh]
    times: float
    poured: weighing.Poured | None
    portions: Portions | None
    wanted: int
    off_by: float
    width_mm: float | None
    planned_mm: float | None


class SessionTray(Out):
    """A dough of a session in its pieces, as they are drawn beside a job."""

    piece: AnyKind
    tray: TrayOut


def tell_session(screens: Wire, session: ShownSession) -> None:
    """Tell every screen how a session stands."""
    screens.tell("session", writer_of(ShownSession).dump_python(session, mode="json"))


def _now_so(session_id: int, data: Database, now: int) -> ShownSession:
    with data.reading() as session:
        return show(session, session_rows.find_session(session, session_id), now)


class _Teller:
    """Tells every screen how a session stands, and keeps what was told last: it is the answer."""

    def __init__(self, session_id: int, data: Database, now: int, screens: Wire) -> None:
        self._of, self._screens = (session_id, data, now), screens
        self.told: ShownSession | None = None

    def __call__(self) -> None:
        self.told = _now_so(*self._of)
        tell_session(self._screens, self.told)


class OneTrayBody(Body):
    """The dough of which one tray is baked now."""

    dough_id: Id


@router.post("", status_code=201)
def bake_one_tray(body: OneTrayBody, data: Data, now: Now, screens: Screens) -> ShownSession:
    """Bake one tray of a dough that is ready, at once and without a plan."""
    with data.writing() as session:
        row = single.bake_one_tray(session, body.dough_id, now)
        started = show(session, row, now)
    tell_session(screens, started)
    return started


@router.get("/current")
def current_session(data: Data, now: Now) -> ShownSession | None:
    """The session that is being baked, or was finished just now; null when there is none."""
    with data.reading() as session:
        row = baking.current(session) or baking.just_finished(session, now)
        return show(session, row, now) if row else None


@router.get("/{session_id}")
def one_session(session_id: Id, data: Data, now: Now) -> ShownSession:
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
) -> ShownSession:
    """Start baking."""
    planner.stop()
    with data.writing() as session:
        as_planned = body is not None and body.as_planned
        row = live.start(session, session_id, now, as_planned=as_planned)
        started = show(session, row, now)
    tell_session(screens, started)
    return started


@router.post("/{session_id}/events")
def record(
    session_id: Id, body: baking.BakeEvent, data: Data, now: Now, screens: Screens, by: By
) -> ShownSession:
    """Say what happened; the rest is planned again."""
    if body.kind in ("more", "away", "slow") and body.minutes is None:
        raise refuse("minutes", "How many minutes?")
    if body.kind == "more" and (body.minutes or 0) > baking.MOST_MORE:
        raise refuse("minutes", f"At most {baking.MOST_MORE} minutes at once.")
    teller = _Teller(session_id, data, now, screens)
    live.say(data, session_id, body, now, teller, by)
    return teller.told or _now_so(session_id, data, now)


@router.post("/{session_id}/give-up")
def give_up(session_id: Id, data: Data, now: Now, screens: Screens) -> ShownSession:
    """End a session before its time; nothing is learnt from it."""
    with data.writing() as session:
        row = live.give_up(session, session_id, now)
        ended = show(session, row, now)
    tell_session(screens, ended)
    return ended


@router.post("/{session_id}/undo")
def undo(session_id: Id, data: Data, now: Now, screens: Screens) -> ShownSession:
    """Take the last thing back that was said."""
    teller = _Teller(session_id, data, now, screens)
    live.undo(data, session_id, now, teller)
    return teller.told or _now_so(session_id, data, now)


@router.get("/{session_id}/doughs/{letter}/tray")
def tray_of(session_id: Id, letter: Letter, data: Data) -> SessionTray:
    """A dough of the session in its pieces: sheets, slabs, logs, as they were foreseen for it."""
    with data.reading() as session:
        found = drawn(session, session_id, letter)
    setting = found.asked.setting
    begun = Started(CardSays(), setting, ())
    return SessionTray(
        piece=setting.piece, tray=tray_out(found.asked, found.found, found.total_g, begun)
    )


@router.get("/{session_id}/weighing/{activity}")
def weigh_along(session_id: Id, activity: Key, data: Data) -> AlongOut:
    """What can be weighed for a job, with what was weighed so far."""
    with data.reading() as session:
        found = weighing.along(session, session_id, JobKey.read(activity))
    return AlongOut(
        activity=f"{found.activity}",
        ingredients=list(found.ingredients),
        times=found.times,
        poured=found.poured,
        portions=found.portions,
        wanted=found.wanted,
        off_by=OFF,
        width_mm=found.width.middle_mm if found.width else None,
        planned_mm=found.planned.middle_mm if found.planned else None,
    )
