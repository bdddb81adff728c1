"""Occasions and sessions that come again, and what is in the house."""

from typing import Annotated

from pydantic import Field

from finebatch.core.larder.stock import Pack
from finebatch.core.session.occasion import Outcome
from finebatch.web import routing
from finebatch.web.deps import Data, Now
from finebatch.web.types import Id, Text, ValueBody
from finebatch.workflow.dough.makes import CanMake, can_make
from finebatch.workflow.kitchen import stock
from finebatch.workflow.kitchen.stock import KeptPack
from finebatch.workflow.kitchen.thrown import Thrown, told
from finebatch.workflow.session import kept_occasions, kept_sessions
from finebatch.workflow.session.kept_occasions import ShownOccasion
from finebatch.workflow.session.kept_sessions import SessionAgain

router = routing.begin("occasions")


class KeepBody(ValueBody):
    """The session that is kept, or whose occasion is, and what it is called."""

    session_id: Id
    name: Annotated[Text, Field(min_length=1, max_length=120)]


@router.get("/occasions")
def all_occasions(data: Data) -> list[ShownOccasion]:
    """The occasions that are kept, the latest first."""
    with data.reading() as session:
        return kept_occasions.kept_occasions(session)


@router.post("/occasions", status_code=201)
def keep_occasion(body: KeepBody, data: Data) -> ShownOccasion:
    """Keep a session's occasion under a name; what came of that name before stays."""
    with data.writing() as session:
        return kept_occasions.keep(session, body.session_id, body.name)


@router.put("/occasions/{occasion_id}/outcome")
def write_outcome(occasion_id: Id, body: Outcome, data: Data) -> ShownOccasion:
    """Write down how many of each kind were baked, and how many were left."""
    with data.writing() as session:
        return kept_occasions.write_outcome(session, occasion_id, body)


@router.delete("/occasions/{occasion_id}")
def let_occasion_go(occasion_id: Id, data: Data, now: Now) -> Thrown:
    """Keep an occasion no longer: it goes into the bin."""
    with data.writing() as session:
        return told(kept_occasions.let_go(session, occasion_id, now))


@router.get("/sessions-to-plan")
def all_kept_sessions(data: Data, now: Now) -> list[SessionAgain]:
    """The sessions that are kept to be planned again, each as it is wished the next time."""
    with data.reading() as session:
        return kept_sessions.kept_sessions(session, now)


@router.post("/sessions-to-plan", status_code=201)
def keep_session(body: KeepBody, data: Data, now: Now) -> SessionAgain:
    """Keep a session under a name, to be planned again; one of that name is replaced."""
    with data.writing() as session:
        return kept_sessions.keep(session, body.session_id, body.name, now)


@router.delete("/sessions-to-plan/{kept_id}")
def let_session_go(kept_id: Id, data: Data, now: Now) -> Thrown:
    """Keep a session no longer: it goes into the bin."""
    with data.writing() as session:
        return told(kept_sessions.let_go(session, kept_id, now))


@router.get("/stock")
def all_packs(data: Data) -> list[KeptPack]:
    """What is in the house, in the order in which it came."""
    with data.reading() as session:
        return stock.packs(session)


@router.post("/stock", status_code=201)
def add_pack(body: Pack, data: Data) -> KeptPack:
    """Put so much of an ingredient into the house."""
    with data.writing() as session:
        return stock.put_pack(session, body)


@router.put("/stock/{pack_id}")
def change_pack(pack_id: Id, body: Pack, data: Data) -> KeptPack:
    """Change what is there of it, its packs, price or day."""
    with data.writing() as session:
        return stock.put_pack(session, body, pack_id)


@router.delete("/stock/{pack_id}")
def remove_pack(pack_id: Id, data: Data, now: Now) -> Thrown:
    """It is not in the house any more: it goes into the bin."""
    with data.writing() as session:
        return told(stock.take_pack_out(session, pack_id, now))


@router.get("/stock/makes")
def what_can_be_made(data: Data, now: Now) -> list[CanMake]:
    """What can be made of what is in the house, what has to be used up first."""
    with data.reading() as session:
        return can_make(session, now)
