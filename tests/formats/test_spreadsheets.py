"""Tables as spreadsheets write them: any sign between cells, any encoding, decimal commas."""

import csv
import io
from pathlib import Path

import pytest
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from finebatch.core.formula.dough import Card, Line, Part
from finebatch.core.formula.weigh import weigh
from finebatch.facts import tables
from finebatch.formats.book_csv import write_book
from finebatch.formats.card_csv import read_csv, write_csv
from finebatch.formats.decoded import decoded, text_of
from finebatch.formats.read_dough import ReadDough
from finebatch.formats.spreadsheet import plain_cell, safe_cell
from tests.books import lines_of
from tests.cards import cards
from tests.chance import so_many

READER = tables.reader()
LARDER = READER.larder
CARD = Card(
    "Größte Äpfel; klein",
    "drop",
    "creamed",
    (Line("250.5", "g", "flour_ap"), Line("2", "egg", "egg_whole")),
    parts=(
        Part("icing", "icing", (Line("100", "g", "sugar_icing"),), 2.5),
        Part("icing", "icing", (Line("1", "tbsp", "lemon_juice"),), 1.5),
    ),
    cup="dipped",
    egg="US large",
)
BOOK = 'day;dough;widths_mm;minutes;note\n2026-10-24;Rounds;"61,5;62,25";11,5;"süß; ""gut"""\n'
ENCODINGS = ("utf-8", "utf-8-sig", "utf-16", "utf-16-le", "utf-16-be", "cp1252")


def as_csv(card: Card) -> str:
    parts = [weigh(part.lines, LARDER) for part in card.parts]
    return write_csv(card, weigh(card.lines, LARDER), parts, LARDER)


def rewritten(text: str, delimiter: str, *, commas: bool) -> str:
    """The same table as a spreadsheet of another country writes it."""
    out = io.StringIO()
    writer = csv.writer(out, delimiter=delimiter, lineterminator="\r\n")
    for row in csv.reader(io.StringIO(text)):
        writer.writerow(
            [cell.replace(".", ",") if commas and _is_figure(cell) else cell for cell in row]
        )
    return out.getvalue()


def _is_figure(cell: str) -> bool:
    return cell.replace(".", "", 1).isdigit()


@pytest.mark.parametrize("encoding", ENCODINGS)
@pytest.mark.parametrize("delimiter", [",", ";", "\t", "|"])
@pytest.mark.parametrize("said", [False, True])
def test_a_dough_is_read_however_a_spreadsheet_writes_it(
    encoding: str, delimiter: str, said: bool, tmp_path: Path
) -> None:
    table = rewritten(as_csv(CARD), delimiter, commas=delimiter != ",")
    file = tmp_path / "dough.csv"
    file.write_bytes(((f"sep={delimiter}\r\n" if said else "") + table).encode(encoding))
    assert read_csv(text_of(file), "file", READER) == [ReadDough(CARD)]


@pytest.mark.parametrize("encoding", ENCODINGS)
def test_a_book_is_read_however_a_spreadsheet_writes_it(encoding: str) -> None:
    (line,) = lines_of(decoded(("sep=;\n" + BOOK).encode(encoding)))
    assert line.numbers("widths_mm") == (61.5, 62.25)
    assert line.number_in("minutes") == 11.5
    assert line.cells["note"] == 'süß; "gut"'
    assert line.number == 3


@given(cards(whole=False))
@settings(max_examples=so_many(60), suppress_health_check=[HealthCheck.too_slow])
def test_cup_egg_and_parts_of_one_name_come_back(card: Card) -> None:
    assume(card.lines)
    back = read_csv(as_csv(card), "file", READER)[0].card
    shown = [(p.kind, p.name.strip(" \n\r\u00a0"), len(p.lines)) for p in card.parts if p.lines]
    assert [(p.kind, p.name, len(p.lines)) for p in back.parts] == shown
    assert (back.cup, back.egg) == (card.cup, card.egg)


@given(st.text(st.sampled_from("'=+-@a1\t"), max_size=6))
def test_a_leading_apostrophe_comes_back(cell: str) -> None:
    written = safe_cell(cell)
    assert plain_cell(written) == cell
    assert not written.startswith(("=", "+", "-", "@", "\t", "\r"))


def test_a_note_with_apostrophes_comes_back_from_the_book() -> None:
    row = {"day": "2026-10-24", "dough": "'=Rounds", "note": "'tis good", "minutes": -0.5}
    (line,) = lines_of(write_book([row]))
    assert (line.cells["dough"], line.cells["note"]) == ("'=Rounds", "'tis good")
    assert line.number_in("minutes") == -0.5
