"""The Cold store: what is kept for another day, and what is due soon."""

from typing import Annotated

from pydantic import Field

from finebatch.core.care.cautions import DEFER
from finebatch.core.care.keeping import KeptAs, KeptIn
from finebatch.facts import formula
from finebatch.store.models import ColdRow
from finebatch.web import routing
from finebatch.web.deps import Data, Now
from finebatch.web.types import Body, Id, Out, Text
from finebatch.workflow.cold import cold_store as cold

router = routing.begin("cold", "/api/cold")

Pieces = Annotated[int, Field(ge=1, le=cold.MOST_PIECES)]
Note = Annotated[Text, Field(max_length=cold.MOST_NOTE)]


class TakeBody(Body):
    """How many pieces are taken out, and what for."""

    pieces: Pieces
    why: Annotated[Text, Field(max_length=80)] = ""


class MoveBody(Body):
    """Where it is moved."""

    place: KeptIn


class CorrectBody(Body):
    """How many pieces there really are, and the note."""

    pieces: Annotated[int, Field(ge=0, le=cold.MOST_PIECES)]
    note: Note = ""


class ColdEventOut(Out):
    """What happened to it."""

    at: int
    said: str


class ColdOut(Out):
    """Something kept: pieces left, since when and until when (UTC ms), what to mind."""

    id: int
    dough_id: int | None
    name: str
    version: int | None
    form: KeptAs
    form_words: str
    place: KeptIn
    pieces: int
    since: int
    use_by: int
    soon: bool
    past: bool
    advice: str
    note: str
    events: list[ColdEventOut]


class StoreOut(Out):
    """The cold store: what is kept, the soonest due first, and what has gone lately."""

    now: int
    kept: list[ColdOut]
    gone: list[ColdOut]
    caution: str


def _out(row: ColdRow, now: int) -> ColdOut:
    keeping = formula.keepings()[row.keeping]
    days = f"{keeping.from_days:g} to {keeping.to_days:g} days"
    return ColdOut.model_validate(
        {
            **{name: getattr(row, name) for name in ColdOut.model_fields if hasattr(row, name)},
            "form_words": next(
                words for form, words in cold.FORM_WORDS.items() if form == row.form
            ),
            "soon": cold.is_soon(row, now),
            "past": row.use_by < now,
            "advice": f"{keeping.what.capitalize()}, {keeping.place}: {days}; {keeping.advice}.",
            "events": [ColdEventOut.model_validate(event) for event in row.events],
        }
    )


@router.get("")
def cold_store(data: Data, now: Now) -> StoreOut:
    """What is kept, the soonest due first, and what has gone lately."""
    with data.reading() as session:
        return StoreOut(
            now=now,
            kept=[_out(row, now) for row in cold.kept(session)],
            gone=[_out(row, now) for row in cold.gone(session)],
            caution=DEFER,
        )


@router.post("", status_code=201)
def put_away(body: cold.Put, data: Data, now: Now) -> ColdOut:
    """Put dough or pieces away."""
    with data.writing() as session:
        return _out(cold.put_away(session, body, now), now)


@router.post("/{item_id}/take")
def take_out(item_id: Id, body: TakeBody, data: Data, now: Now) -> ColdOut:
    """Take some or all of it out."""
    with data.writing() as session:
        return _out(cold.take_out(session, item_id, body.pieces, now, body.why), now)


@router.post("/{item_id}/move")
def move(item_id: Id, body: MoveBody, data: Data, now: Now) -> ColdOut:
    """Move it to another place; its days go on from what it has left."""
    with data.writing() as session:
        return _out(cold.move(session, item_id, body.place, now), now)


@router.put("/{item_id}")
def correct(item_id: Id, body: CorrectBody, data: Data, now: Now) -> ColdOut:
    """Correct how many pieces there are; what it was stays in the trace."""
    with data.writing() as session:
        return _out(cold.correct(session, item_id, body.pieces, body.note, now), now)


@router.post("/{item_id}/throw-away")
def throw_away(item_id: Id, data: Data, now: Now) -> ColdOut:
    """Throw what is left of it away; its trace stays."""
    with data.writing() as session:
        return _out(cold.throw_away(session, item_id, now), now)
