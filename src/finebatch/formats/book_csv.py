"""The book as CSV: a line a bake, in words and plain figures, out and in again."""

import csv
import io
import math
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime

from finebatch.formats.spreadsheet import point, read_table, safe_cell
from finebatch.formats.unreadable import UnreadableFile

COLUMNS = (
    "day",
    "dough",
    "tray",
    "piece_g",
    "widths_mm",
    "heights_mm",
    "minutes",
    "colour",
    "oven_c",
    "edges",
    "texture",
    "tastes",
    "verdict",
    "troubles",
    "note",
    "foreseen_mm",
    "low_mm",
    "high_mm",
    "foreseen_minutes",
    "foreseen_height_mm",
)
NEEDED = ("day", "dough")
MOST_LINES = 5000
_ALSO = {
    **dict.fromkeys(("date", "baked", "datum"), "day"),
    **dict.fromkeys(("recipe", "cookie", "name"), "dough"),
    **dict.fromkeys(("width", "widths", "width (mm)", "width mm", "diameter"), "widths_mm"),
    **dict.fromkeys(("height", "heights", "height (mm)", "height mm"), "heights_mm"),
    **dict.fromkeys(("time", "min", "minutes baked", "bake time"), "minutes"),
    **dict.fromkeys(("notes", "comment", "remarks"), "note"),
}
"""What tables of others call a column."""
# Within a cell of several words a semicolon that is part of one has a backslash before it.
_SPECIAL = re.compile(r"([;\\])")
_WORD = re.compile(r"(?:[^;\\]|\\.?)+", re.DOTALL)
_PLAIN = re.compile(r"\\([;\\])")


@dataclass(frozen=True, slots=True)
class BookLine:
    """One line: its number in the file, the moment (UTC ms), and the other cells as text."""

    number: int
    at: int
    cells: Mapping[str, str]

    def words(self, column: str) -> tuple[str, ...]:
        """A cell of several words."""
        words = (_PLAIN.sub(r"\1", w.strip()) for w in _WORD.findall(self.cells.get(column, "")))
        return tuple(word for word in words if word)

    def numbers(self, column: str) -> tuple[float, ...]:
        """A cell of several figures; `UnreadableFile` for what is none."""
        found = []
        for word in self.words(column):
            number = _number(word)
            if number is None:
                raise UnreadableFile(f"Line {self.number}: “{word[:30]}” in {column} is no number.")
            found.append(number)
        return tuple(found)

    def number_in(self, column: str) -> float | None:
        """A cell of one figure; None when it is empty."""
        found = self.numbers(column)
        return found[0] if found else None


def _number(word: str) -> float | None:
    try:
        number = float(point(word))
    except ValueError:
        return None
    return number if math.isfinite(number) else None


def write_book(rows: Iterable[Mapping[str, object]]) -> str:
    """The book as CSV, its header first. A cell that a spreadsheet would take for a formula is
    written with a leading apostrophe."""
    out = io.StringIO()
    writer = csv.DictWriter(out, COLUMNS, lineterminator="\r\n")
    writer.writeheader()
    for row in rows:
        writer.writerow({name: _cell(row.get(name)) for name in COLUMNS})
    return out.getvalue()


def _cell(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, list | tuple):
        return safe_cell(";".join(_SPECIAL.sub(r"\\\1", _cell_text(one)) for one in value))
    return _cell_text(value) if isinstance(value, int | float) else safe_cell(str(value))


def _cell_text(value: object) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".") if isinstance(value, float) else str(value)


def _moment(number: int, text: str) -> int:
    try:
        moment = datetime.fromisoformat(text.strip())
    except ValueError as error:
        raise UnreadableFile(
            f"Line {number}: “{text[:30]}” is no day. Write it as 2026-10-24 or 2026-10-24T15:30."
        ) from error
    # The year as written: at the ends of the calendar nothing can be reckoned with.
    if not 1970 < moment.year < 2200:
        raise UnreadableFile(f"Line {number}: {text[:30]} is no day on which anybody bakes.")
    if moment.tzinfo is None:
        moment = moment.astimezone()
    return round(moment.timestamp() * 1000)


def read_book(text: str) -> tuple[list[BookLine], tuple[str, ...]]:
    """The lines of a book's file, and the columns that have no place in a book; `UnreadableFile`
    says which line cannot be read and why."""
    table = read_table(text, MOST_LINES).called(_ALSO)
    missing = [name for name in NEEDED if name not in table.columns]
    if missing:
        raise UnreadableFile(
            f"The first line has to name the columns; {missing[0]} is missing. Known are "
            + ", ".join(COLUMNS)
            + "."
        )
    lines = [
        BookLine(number, _moment(number, cells.get("day", "")), cells)
        for number, cells in table.rows
    ]
    return lines, table.left_out(COLUMNS)
