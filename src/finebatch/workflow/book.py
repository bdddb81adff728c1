"""The book: what came out, beside what was foreseen, and what that taught."""

from dataclasses import asdict, dataclass

from sqlalchemy.orm import Session

from finebatch.core.piece.effects import measure_effects
from finebatch.core.piece.tray import PORTION_CV
from finebatch.core.refusal import Fault, Refusal
from finebatch.store.models import BakeRow, SessionRow
from finebatch.workflow.baking import baked_minutes
from finebatch.workflow.doughs import get_dough
from finebatch.workflow.errors import Missing
from finebatch.workflow.kitchen import get_kitchen
from finebatch.workflow.larder import get_larder
from finebatch.workflow.plans import asked_of, find_session
from finebatch.workflow.trays import TrayQuestion, answer, book_rows, lessons, question

COLOURS = ("raw", "pale", "blond", "gold", "amber", "brown", "dark")
"""The colour strip, lightest first; the book keeps the step's number, counted from 1."""

NARROWEST_MM, WIDEST_MM = 10.0, 400.0
MOST_MINUTES = 240.0
MOST_NOTE = 2000


@dataclass(frozen=True, slots=True)
class Record:
    """What a baker writes down: widths in mm, minutes, the colour's step, a note."""

    dough_id: int
    session_id: int | None
    tray: str | None
    widths_mm: tuple[float, ...]
    minutes: float | None
    colour: int | None
    note: str


@dataclass(frozen=True, slots=True)
class Entry:
    """One bake of the book, and whether its reading was set aside as absurd."""

    row: BakeRow
    set_aside: bool


def _check(record: Record) -> None:
    faults = [
        Fault(f"widths_mm.{n}",
              f"{width:g} mm is not the width of a piece. Give {NARROWEST_MM:g} to "
              f"{WIDEST_MM:g} mm.")
        for n, width in enumerate(record.widths_mm)
        if not NARROWEST_MM <= width <= WIDEST_MM
    ]  # fmt: skip
    if record.minutes is not None and not 1 <= record.minutes <= MOST_MINUTES:
        faults.append(Fault("minutes", f"Give 1 to {MOST_MINUTES:g} minutes in the oven."))
    figures = (record.minutes, record.colour, record.note.strip() or None)
    if not record.widths_mm and all(figure is None for figure in figures):
        faults.append(Fault("widths_mm", "Measure a piece, or write down what came out."))
    if faults:
        raise Refusal(*faults)


def _asked(session: Session, record: Record) -> tuple[TrayQuestion, SessionRow | None]:
    """The dough as it was planned when the tray is of a session, else as it is now."""
    dough = get_dough(session, record.dough_id)
    if record.session_id is None:
        return question(dough, dough.tray, get_kitchen(session)), None
    row = find_session(session, record.session_id)
    return asked_of(row, record.dough_id).question, row


def add_bake(session: Session, record: Record, now: int) -> BakeRow:
    """Keep a bake beside what was foreseen for it at this moment; `Refusal` for absurd figures."""
    _check(record)
    asked, row = _asked(session, record)
    minutes = record.minutes
    if minutes is None and row is not None and record.tray is not None:
        minutes = baked_minutes(row, record.tray)
    larder = get_larder(session)
    plain = answer(asked, larder, None).foreseen
    foreseen = answer(asked, larder, lessons(session).of_dough(record.dough_id)).foreseen
    effects = measure_effects(asked.composition(larder), plain.raw, asked.conditions())
    bake = BakeRow(
        dough_id=record.dough_id,
        session_id=record.session_id,
        tray=record.tray,
        baked_at=now,
        portion_cv=PORTION_CV[asked.setting.evenness],
        raw=asdict(plain.raw),
        effects=dict(effects),
        plain_minutes=plain.minutes,
        foreseen_mm=foreseen.width.middle_mm,
        low_mm=foreseen.width.low_mm,
        high_mm=foreseen.width.high_mm,
        foreseen_minutes=foreseen.minutes,
        widths_mm=list(record.widths_mm),
        minutes=minutes,
        colour=record.colour,
        note=record.note.strip(),
    )
    session.add(bake)
    session.flush()
    return bake


def entries(session: Session, dough_id: int | None = None) -> list[Entry]:
    """The book, newest first; of one dough when named."""
    everything = book_rows(session)
    aside = {everything[n].id for n in lessons(session).set_aside}
    wanted = [r for r in everything if dough_id is None or r.dough_id == dough_id]
    return [Entry(row, row.id in aside) for row in reversed(wanted)]


def remove_bake(session: Session, bake_id: int) -> None:
    """Take a bake out of the book; what it taught goes with it."""
    row = session.get(BakeRow, bake_id)
    if row is None:
        raise Missing("This bake")
    session.delete(row)
