"""A dough of a session in its pieces: what is drawn beside a job."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from finebatch.core.piece.sizes import Sizes
from finebatch.core.tray.question import Ground, TrayQuestion, sizes
from finebatch.facts import tables
from finebatch.workflow.errors import Missing
from finebatch.workflow.kitchen.larder import get_larder
from finebatch.workflow.kitchen.lessons import lessons
from finebatch.workflow.session.session_rows import find_session


@dataclass(frozen=True, slots=True)
class Drawn:
    """A dough as the session foresees it: what was asked, the pieces of each size, its mass in
    g."""

    asked: TrayQuestion
    found: Sizes
    total_g: float


def drawn(session: Session, session_id: int, letter: str) -> Drawn:
    """The pieces of a session's dough. Raises `Missing` where it has none of that letter."""
    row = find_session(session, session_id)
    asked = next((one for one in row.snapshot.items if one.letter == letter), None)
    if asked is None:
        raise Missing("This dough in that session")
    larder = get_larder(session)
    ground = Ground(larder, tables.models(), lessons(session).of_dough(asked.dough_id))
    total_g = asked.question.composition(larder).total_g
    return Drawn(asked.question, sizes(asked.question, ground), total_g)
