"""A dough's formula as CSV: one row a line, the dough's name and family repeated on each."""

import csv
import io
from collections.abc import Iterable, Sequence

from pydantic import TypeAdapter, ValidationError

from finebatch.core.formula.dough import Card, Line, Part, WeighedDough
from finebatch.core.formula.reading import Reader
from finebatch.core.larder.ingredient import Larder
from finebatch.formats.unreadable import UnreadableFile

COLUMNS = (
    "dough",
    "family",
    "mixing",
    "part",
    "part_kind",
    "per_piece_g",
    "amount",
    "unit",
    "ingredient",
    "name",
    "chosen",
    "cup",
    "egg",
    "text",
    "grams",
    "percent",
)
MOST_ROWS = 500
_DELIMITERS = (",", ";", "\t")
_FORMULA_SIGNS = ("=", "+", "-", "@", "\t", "\r")
_LINE = TypeAdapter(Line)
_PART = TypeAdapter(Part)
_CARD = TypeAdapter(Card)


def safe_cell(cell: str) -> str:
    """A cell that no spreadsheet takes for a formula."""
    return f"'{cell}" if cell.startswith(_FORMULA_SIGNS) else cell


def _unsafe(cell: str) -> str:
    return cell[1:] if cell[:1] == "'" and cell[1:].startswith(_FORMULA_SIGNS) else cell


def _rows(
    lines: Iterable[Line], weighed: WeighedDough, larder: Larder, head: Sequence[str]
) -> Iterable[list[str]]:
    for line, w in zip(lines, weighed.lines, strict=True):
        ingredient = larder.known(line.ingredient)
        name = ingredient.name if ingredient else ""
        figures = ["" if x is None else f"{x:.2f}" for x in (w.grams, w.percent)]
        cells = [
            *head,
            line.amount,
            line.unit,
            line.ingredient or "",
            name,
            line.chosen,
            line.cup or "",
            line.egg or "",
            line.text,
            *figures,
        ]
        yield [safe_cell(cell) for cell in cells]


def write_csv(
    card: Card, weighed: WeighedDough, parts: Sequence[WeighedDough], larder: Larder
) -> str:
    """The formula of a dough and its parts, with grams and percent beside what is written."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    head = [card.name, card.family, card.mixing]
    writer.writerows(_rows(card.lines, weighed, larder, [*head, "", "", ""]))
    for part, found in zip(card.parts, parts, strict=True):
        own = [part.name, part.kind, f"{part.per_piece_g:g}"]
        writer.writerows(_rows(part.lines, found, larder, [*head, *own]))
    return out.getvalue()


def _line(row: dict[str, str], number: int, reader: Reader) -> Line:
    """One row's line: by its key where it has one, else read as written."""
    key = row.get("ingredient", "")
    if key in reader.larder and row.get("unit"):
        try:
            return _LINE.validate_python(
                {
                    "amount": row.get("amount", ""),
                    "unit": row["unit"],
                    "ingredient": key,
                    "text": row.get("text", ""),
                    "chosen": row.get("chosen", ""),
                    "cup": row.get("cup") or None,
                    "egg": row.get("egg") or None,
                }
            )
        except ValidationError as error:
            field = str(error.errors()[0]["loc"][0])
            raise UnreadableFile(
                f"Row {number}: “{row.get(field, '')}” is no {field}. See the units that the "
                "Dough screen offers."
            ) from error
    said = row.get("name") or row.get("text") or key
    written = row.get("text") or f"{row.get('amount', '')} {row.get('unit', '')} {said}".strip()
    return reader.read(written).line


def _cells(row: dict[str | None, object]) -> dict[str, str]:
    return {
        key.strip().casefold(): _unsafe(value.strip())
        for key, value in row.items()
        if isinstance(key, str) and isinstance(value, str)
    }


def _read_rows(text: str) -> list[dict[str, str]]:
    first = text.split("\n", maxsplit=1)[0]
    delimiter = max(_DELIMITERS, key=first.count)
    try:
        rows = [_cells(row) for row in csv.DictReader(io.StringIO(text), delimiter=delimiter)]
    except csv.Error as error:
        raise UnreadableFile(f"This is not CSV: {error}.") from error
    if len(rows) > MOST_ROWS:
        raise UnreadableFile(f"At most {MOST_ROWS} rows at once; this file has {len(rows):,}.")
    columns = set(rows[0]) if rows else set()
    if not columns & {"ingredient", "name", "text"} or not columns & {"amount", "text"}:
        raise UnreadableFile(
            "The first row has to name the columns: at least amount, unit and name (or text)."
        )
    return rows


def read_csv(text: str, name: str, reader: Reader) -> list[Card]:
    """The doughs of a CSV file, in order; `name` for rows that name none.

    Raises `UnreadableFile` naming the row that does not fit.
    """
    doughs: dict[str, list[tuple[int, dict[str, str]]]] = {}
    for number, row in enumerate(_read_rows(text), start=2):
        if any(row.values()):
            doughs.setdefault(row.get("dough") or name, []).append((number, row))
    if not doughs:
        raise UnreadableFile("There is no line in this file below its first row.")
    return [_card(title, rows, reader) for title, rows in doughs.items()]


def _card(title: str, rows: list[tuple[int, dict[str, str]]], reader: Reader) -> Card:
    lines: list[Line] = []
    parts: dict[str, dict[str, object]] = {}
    for number, row in rows:
        line = _line(row, number, reader)
        part = row.get("part", "")
        if not part:
            lines.append(line)
            continue
        own = parts.setdefault(
            part,
            {
                "name": part,
                "kind": row.get("part_kind") or "topping",
                "per_piece_g": row.get("per_piece_g") or 0.0,
                "lines": [],
            },
        )
        own["lines"].append(line)  # type: ignore[attr-defined]
    first_number, first = rows[0]
    try:
        found = [_PART.validate_python(part) for part in parts.values()]
        return _CARD.validate_python(
            {
                "name": title[:80],
                "family": first.get("family") or "drop",
                "mixing": first.get("mixing") or "creamed",
                "lines": lines,
                "parts": found,
            }
        )
    except ValidationError as error:
        wrong = error.errors()[0]
        raise UnreadableFile(
            f"Row {first_number}: “{wrong['input']}” is no {wrong['loc'][-1]}."
        ) from error
