"""Lists as CSV, for a spreadsheet to read: the cold store, the larder, what is in the house."""

import csv
import io
from collections.abc import Iterable, Mapping, Sequence

from finebatch.formats.spreadsheet import safe_cell


def write_list(columns: Sequence[str], rows: Iterable[Mapping[str, object]]) -> str:
    """A line of names and one for each row; nothing in it is taken for a formula."""
    written = io.StringIO(newline="")
    writer = csv.writer(written, lineterminator="\r\n")
    writer.writerow(columns)
    for row in rows:
        writer.writerow([_cell(row.get(column)) for column in columns])
    return written.getvalue()


def _cell(value: object) -> str:
    if value is None:
        return ""
    return f"{value:.10g}" if isinstance(value, float) else safe_cell(str(value))
