"""A dough's formula as CSV: one row a line, the dough's name and family repeated on each."""

import csv
import io
import re
from collections.abc import Iterable, Sequence
from functools import cache

from pydantic import TypeAdapter, ValidationError

from finebatch.core.formula.dough import Card, Line, Part, WeighedDough
from finebatch.core.formula.reading import Reader
from finebatch.core.larder.ingredient import Larder
from finebatch.formats.read_dough import ReadDough
from finebatch.formats.spreadsheet import Table, point, read_table, safe_cell
from finebatch.formats.unreadable import UnreadableFile

COLUMNS = (
    "dough",
    "family",
    "mixing",
    "part",
    "part_no",
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
    "card_cup",
    "card_egg",
)
MOST_ROWS = 500
_ALSO = {
    **dict.fromkeys(("qty", "quantity", "weight", "measure", "menge", "anzahl"), "amount"),
    **dict.fromkeys(("units", "uom", "einheit"), "unit"),
    **dict.fromkeys(("item", "ingredients", "what", "product", "zutat", "zutaten"), "name"),
    **dict.fromkeys(("recipe", "cookie", "title", "rezept"), "dough"),
    **dict.fromkeys(("section", "component", "for"), "part"),
    **dict.fromkeys(("line", "as written"), "text"),
}
"""What tables of others call a column."""
_IN_UNIT = re.compile(
    r"(?:(?:amount|qty|quantity|weight|mass|menge|gewicht)\W*(?:in\s)?\W*)?"
    r"(?P<unit>g|grams?|gramm|kg|oz|ml)\W*"
)
"""The column of an amount that says its unit: weight (g)."""
_of = cache(TypeAdapter)
"""What reads a line, a part or a card, once one is read."""


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
    head, own = [card.name, card.family, card.mixing], [card.cup or "", card.egg or ""]
    rows = [*_rows(card.lines, weighed, larder, [*head, "", "", "", ""])]
    for number, (part, found) in enumerate(zip(card.parts, parts, strict=True), start=1):
        of_part = [part.name, f"{number}", part.kind, f"{part.per_piece_g:g}"]
        rows += _rows(part.lines, found, larder, [*head, *of_part])
    writer.writerows([*row, *own] for row in rows)
    return out.getvalue()


def _line(row: dict[str, str], number: int, reader: Reader) -> Line:
    """One row's line: by its key where it has one, else read as written."""
    key = row.get("ingredient", "")
    if key in reader.larder and row.get("unit"):
        try:
            line: Line = _of(Line).validate_python(
                {
                    "amount": point(row.get("amount", "")),
                    "unit": row["unit"],
                    "ingredient": key,
                    "text": row.get("text", ""),
                    "chosen": row.get("chosen", ""),
                    "cup": row.get("cup") or None,
                    "egg": row.get("egg") or None,
                }
            )
            return line
        except ValidationError as error:
            field = str(error.errors()[0]["loc"][0])
            raise UnreadableFile(
                f"Row {number}: “{row.get(field, '')}” is no {field}. See the units that the "
                "Dough screen offers."
            ) from error
    said = row.get("name") or row.get("text") or key
    amount = point(row.get("amount", ""))
    written = row.get("text") or " ".join(f"{amount} {row.get('unit', '')} {said}".split())
    return reader.read(written).line


def _named(table: Table) -> tuple[Table, str]:
    """The table with the names of its columns as they are here, and the unit of an amount whose
    column says it."""
    told = {column: found for column in table.columns if (found := _IN_UNIT.fullmatch(column))}
    if not told or {"amount", "text"} & set(table.columns):
        return table.called(_ALSO), ""
    column, found = next(iter(told.items()))
    return table.called({**_ALSO, column: "amount"}), found["unit"]


def read_csv(text: str, name: str, reader: Reader) -> list[ReadDough]:
    """The doughs of a CSV file, in order, with the columns that have no place on a card; `name` for
    rows that name none.

    Raises `UnreadableFile` naming the row that does not fit.
    """
    table, unit = _named(read_table(text, MOST_ROWS))
    columns = set(table.columns)
    if not columns & {"ingredient", "name", "text"} or not columns & {"amount", "text"}:
        raise UnreadableFile(
            "The first row has to name the columns: at least amount, unit and name (or text)."
        )
    doughs: dict[str, list[tuple[int, dict[str, str]]]] = {}
    for number, row in table.rows:
        row.setdefault("unit", unit)
        doughs.setdefault(row.get("dough") or name, []).append((number, row))
    if not doughs:
        raise UnreadableFile("There is no line in this file below its first row.")
    left_out = table.left_out(COLUMNS)
    return [ReadDough(_card(title, rows, reader), left_out) for title, rows in doughs.items()]


def _card(title: str, rows: list[tuple[int, dict[str, str]]], reader: Reader) -> Card:
    lines: list[Line] = []
    parts: dict[str, dict[str, object]] = {}
    for number, row in rows:
        line = _line(row, number, reader)
        part = row.get("part", "")
        if not (part or row.get("part_no")):
            lines.append(line)
            continue
        own = parts.setdefault(
            row.get("part_no") or part,
            {
                "name": part,
                "kind": row.get("part_kind") or "topping",
                "per_piece_g": point(row.get("per_piece_g", "")) or 0.0,
                "lines": [],
            },
        )
        own["lines"].append(line)  # type: ignore[attr-defined]
    first_number, first = rows[0]
    try:
        found = [_of(Part).validate_python(part) for part in parts.values()]
        card: Card = _of(Card).validate_python(
            {
                "name": title[:80],
                "family": first.get("family") or "drop",
                "mixing": first.get("mixing") or "creamed",
                "lines": lines,
                "parts": found,
                "cup": first.get("card_cup") or None,
                "egg": first.get("card_egg") or None,
            }
        )
        return card
    except ValidationError as error:
        wrong = error.errors()[0]
        raise UnreadableFile(
            f"Row {first_number}: “{wrong['input']}” is no {wrong['loc'][-1]}."
        ) from error
