"""Today: the doughs as they last came out, what waits to be written down, and all that is found."""

from typing import Annotated

from fastapi import Path, Query

from finebatch.web import routing
from finebatch.web.deps import Data, Now
from finebatch.web.types import Out, Text
from finebatch.workflow.dough.base_doughs import begin_from
from finebatch.workflow.dough.doughs import Dough
from finebatch.workflow.today.drawer import DrawnBase, DrawnDough, drawn_bases, drawn_doughs
from finebatch.workflow.today.found import Found, find
from finebatch.workflow.today.waiting import ToWrite, to_write

router = routing.begin("today")


class TodayOut(Out):
    """What waits to be written down, the latest first."""

    to_write: list[ToWrite]


class DrawnOut(Out):
    """Doughs, the one changed last first, and how many there are in all."""

    doughs: list[DrawnDough]
    total: int


@router.get("/today")
def today(data: Data, now: Now) -> TodayOut:
    """What waits for the baker."""
    with data.reading() as session:
        return TodayOut(to_write=to_write(session, now))


@router.get("/drawer")
def drawer(
    data: Data,
    search: Annotated[Text, Query(max_length=100)] = "",
    most: Annotated[int, Query(ge=1, le=200)] = 12,
) -> DrawnOut:
    """The doughs as they last came out, the latest first."""
    with data.reading() as session:
        doughs, total = drawn_doughs(session, search, most)
    return DrawnOut(doughs=doughs, total=total)


@router.get("/find")
def find_all(data: Data, text: Annotated[Text, Query(max_length=100)] = "") -> list[Found]:
    """Whatever has those letters in its name or note, a few of each kind."""
    with data.reading() as session:
        return find(session, text)


@router.get("/base-doughs")
def base_doughs(data: Data) -> list[DrawnBase]:
    """The doughs that ship for a baker to begin from, as they are foreseen in this kitchen."""
    with data.reading() as session:
        return drawn_bases(session)


@router.post("/base-doughs/{key}", status_code=201)
def begin_from_base(
    key: Annotated[str, Path(max_length=40, pattern="^[a-z_]+$")], data: Data, now: Now
) -> Dough:
    """Begin a dough of one's own from one of them."""
    with data.writing() as session:
        return begin_from(session, key, now)
