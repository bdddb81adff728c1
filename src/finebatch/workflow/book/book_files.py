"""The book given out as CSV and brought in again: all of it, or nothing."""

from dataclasses import dataclass
from typing import get_args

from sqlalchemy.orm import Session

from finebatch.core.book.record import (
    COLOURS,
    MOST_NOTE,
    MOST_TASTES,
    Edges,
    Record,
    Texture,
    Verdict,
)
from finebatch.core.refusal import Refusal, refuse
from finebatch.formats.book_csv import BookLine, read_book, write_book
from finebatch.formats.moments import local
from finebatch.formats.unreadable import UnreadableFile
from finebatch.store.documents import SEEN
from finebatch.store.models import BakeRow, DoughRow
from finebatch.workflow.book.bakes import add_bake
from finebatch.workflow.dough.doughs import find_by_name
from finebatch.workflow.errors import Missing
from finebatch.workflow.kitchen.lessons import book_rows, lessons


def book_csv(session: Session, dough_id: int | None = None) -> str:
    """The book as CSV, oldest first; of one dough when named."""
    names = {row.id: row.name for row in session.query(DoughRow)}
    return write_book(_cells(row, names) for row in book_rows(session, dough_id))


def _cells(row: BakeRow, names: dict[int, str]) -> dict[str, object]:
    seen = row.seen
    day = local(row.baked_at)
    return {
        "day": day.isoformat(timespec="milliseconds"),
        "dough": names.get(row.dough_id, ""),
        "tray": row.tray,
        "piece_g": row.raw.grams,
        "widths_mm": row.widths_mm,
        "heights_mm": seen.heights_mm,
        "minutes": row.minutes,
        "colour": None if row.colour is None else COLOURS[row.colour - 1],
        "oven_c": seen.oven_c,
        "edges": seen.edges,
        "texture": seen.texture,
        "tastes": seen.tastes,
        "verdict": seen.verdict,
        "troubles": seen.troubles,
        "note": row.note,
        "foreseen_mm": row.foreseen_mm,
        "low_mm": row.low_mm,
        "high_mm": row.high_mm,
        "foreseen_minutes": row.foreseen_minutes,
        "foreseen_height_mm": row.foreseen_height_mm,
    }


@dataclass(frozen=True, slots=True)
class BroughtBook:
    """How many bakes were added, how many were there already, and which columns were left out."""

    added: int
    known: int
    left_out: tuple[str, ...]


def bring_in(session: Session, text: str) -> BroughtBook:
    """Bring the bakes of a CSV file in.

    What was foreseen is foreseen anew by this book. `Refusal` names the line that cannot be taken.
    """
    try:
        lines, left_out = read_book(text)
    except UnreadableFile as error:
        raise refuse("text", f"{error} Nothing was kept.") from error
    there = {(row.dough_id, row.baked_at) for row in book_rows(session)}
    taught = lessons(session)
    added = known = 0
    for line in sorted(lines, key=lambda found: found.at):
        try:
            record = _record(session, line)
            if (record.dough_id, line.at) in there:
                known += 1
                continue
            add_bake(session, record, line.at, taught)
        except UnreadableFile as error:
            raise refuse("text", f"{error} Nothing was kept.") from error
        except Refusal as refusal:
            message = refusal.faults[0].message
            raise refuse("text", f"Line {line.number}: {message} Nothing was kept.") from refusal
        added += 1
    return BroughtBook(added, known, left_out)


def _record(session: Session, line: BookLine) -> Record:
    cells = line.cells
    try:
        dough_id = find_by_name(session, cells["dough"])
    except Missing as error:
        raise UnreadableFile(
            f"Line {line.number}: no dough is called “{cells['dough'][:60]}”. Bring it in first."
        ) from error
    seen = SEEN.read(
        {
            "heights_mm": line.numbers("heights_mm"),
            "oven_c": line.number_in("oven_c"),
            "edges": _one_of(line, "edges", get_args(Edges)),
            "texture": [
                _word(line, "texture", w, get_args(Texture)) for w in line.words("texture")
            ],
            "tastes": line.words("tastes")[:MOST_TASTES],
            "verdict": _one_of(line, "verdict", get_args(Verdict)),
            "troubles": line.words("troubles"),
        }
    )
    colour = _one_of(line, "colour", COLOURS)
    return Record(
        dough_id,
        None,
        cells.get("tray") or None,
        line.numbers("widths_mm"),
        line.number_in("minutes"),
        None if colour is None else COLOURS.index(colour) + 1,
        cells.get("note", "")[:MOST_NOTE],
        seen,
    )


def _word(line: BookLine, column: str, word: str, known: tuple[str, ...]) -> str:
    if word not in known:
        raise UnreadableFile(
            f"Line {line.number}: {column} cannot be “{word[:30]}”. Use {', '.join(known)}."
        )
    return word


def _one_of(line: BookLine, column: str, known: tuple[str, ...]) -> str | None:
    word = line.cells.get(column, "")
    return _word(line, column, word, known) if word else None
