"""Tables as spreadsheets write them: commas, semicolons, tabs or bars between the cells, a line
that says which, decimal commas, apostrophes before what would be a formula."""

import csv
import io
import re
from collections.abc import Collection, Mapping
from dataclasses import dataclass

from finebatch.formats.unreadable import UnreadableFile

_FORMULA_SIGNS = ("=", "+", "-", "@", "\t", "\r", "\n", "＝", "＋", "－", "＠")
_DELIMITERS = (",", ";", "\t", "|")
_SAYS_WHICH = re.compile(r"\A\s*\"?sep=(?P<which>.)\"?[^\S\n]*\r?\n", re.IGNORECASE)
"""A first line for one spreadsheet program alone; it is no row."""
_QUOTED = re.compile(r'"[^"]*"')
_DECIMAL_COMMA = re.compile(r"[-+]?\d{1,3}(?:\.\d{3})+,\d+|[-+]?\d+,\d+")


def safe_cell(cell: str) -> str:
    """A cell that no spreadsheet takes for a formula."""
    return f"'{cell}" if cell.lstrip("'").startswith(_FORMULA_SIGNS) else cell


def plain_cell(cell: str) -> str:
    """A cell as it was before `safe_cell`."""
    bare = cell.lstrip("'")
    return cell[1:] if bare != cell and bare.startswith(_FORMULA_SIGNS) else cell


def point(cell: str) -> str:
    """A figure with a decimal point, where it is written with a comma; any other text as it is."""
    if not _DECIMAL_COMMA.fullmatch(cell.strip()):
        return cell
    return cell.strip().replace(".", "").replace(",", ".")


@dataclass(frozen=True, slots=True)
class Table:
    """The names of a table's columns, in small letters, and each row below them: its number in the
    file, and its cells by those names. `beyond` counts the cells that no column has."""

    columns: tuple[str, ...]
    rows: tuple[tuple[int, dict[str, str]], ...]
    beyond: int = 0

    def called(self, also: Mapping[str, str]) -> "Table":
        """The same with columns that others call something else by the names that they have here;
        what is there by its name already is not named again."""
        names: dict[str, str] = {}
        for column in self.columns:
            meant = also.get(column, column)
            free = meant not in self.columns and meant not in names.values()
            names[column] = meant if free else column
        rows = (
            (number, {names[column]: cell for column, cell in cells.items()})
            for number, cells in self.rows
        )
        return Table(tuple(names[column] for column in self.columns), tuple(rows), self.beyond)

    def left_out(self, known: Collection[str]) -> tuple[str, ...]:
        """The columns that are none of these and have something in them."""
        others = [name for name in dict.fromkeys(self.columns) if name and name not in known]
        said = [name for name in others if any(cells.get(name) for _, cells in self.rows)]
        if self.beyond:
            said.append(f"{self.beyond} {'cell' if self.beyond == 1 else 'cells'} without a column")
        return tuple(said)


def read_table(text: str, most_rows: int) -> Table:
    """A table whose first row names its columns; rows without any cell are left out.

    Raises `UnreadableFile` where it is none, or has more than so many rows.
    """
    text = text.removeprefix("\ufeff")
    said = _SAYS_WHICH.match(text)
    if said is not None:
        text = text[said.end() :]
    first = _QUOTED.sub("", text.split("\n", maxsplit=1)[0])
    delimiter = said["which"] if said else max(_DELIMITERS, key=first.count)
    try:
        reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter)
        columns = tuple(name.strip().casefold() for name in next(reader, []))
        rows, beyond = [], 0
        for place, cells in enumerate(reader):
            if place >= most_rows:
                raise UnreadableFile(f"At most {most_rows:,} rows at once; this file has more.")
            found = {
                name: plain_cell(cell.lstrip(" \n\u00a0")).strip(" \n\r\u00a0")
                for name, cell in zip(columns, cells, strict=False)
                if name
            }
            beyond += sum(bool(cell.strip()) for cell in cells[len(columns) :])
            if any(found.values()):
                rows.append((place + (3 if said else 2), found))
    except csv.Error as error:
        raise UnreadableFile(f"This is no CSV file: {error}.") from error
    return Table(columns, tuple(rows), beyond)
