"""The book's file: what goes out comes in, and what cannot be read is named by its line."""

import csv
import io

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.formats.book_csv import COLUMNS, MOST_LINES, read_book, write_book
from finebatch.formats.unreadable import UnreadableFile
from tests.books import lines_of

words = st.text(
    st.characters(codec="utf-8", exclude_categories=["Cs", "Cc"]), min_size=1, max_size=30
).filter(lambda text: text.strip() == text and not text.startswith("'"))
widths = st.lists(st.floats(10, 400).map(lambda mm: round(mm, 2)), max_size=4)


@given(words, words, widths, st.floats(1, 240).map(lambda m: round(m, 2)))
def test_what_goes_out_comes_in(
    dough: str, note: str, widths_mm: list[float], minutes: float
) -> None:
    text = write_book(
        [
            {
                "day": "2026-10-24T15:30:00+02:00",
                "dough": dough,
                "note": note,
                "widths_mm": widths_mm,
                "minutes": minutes,
            }
        ]
    )
    [line] = lines_of(text)
    assert line.cells["dough"] == dough
    assert line.cells["note"] == note
    assert line.numbers("widths_mm") == tuple(widths_mm)
    assert line.number_in("minutes") == minutes
    assert line.at == 1_792_848_600_000


@given(st.sampled_from(["=1+1", "+1", "-1", "@x", "=cmd|' /C calc'!A0"]))
def test_no_cell_is_a_formula(cell: str) -> None:
    text = write_book([{"day": "2026-10-24", "dough": "x", "note": cell}])
    [row] = csv.DictReader(io.StringIO(text))
    assert row["note"][0] == "'"
    assert lines_of(text)[0].cells["note"] == cell


def test_columns_stand_in_any_order_and_case_and_others_are_ignored() -> None:
    [line] = lines_of("\ufeffDough, Minutes ,weather,DAY\nRounds,12,rain,2026-01-02\n")
    assert (line.cells["dough"], line.number_in("minutes")) == ("Rounds", 12.0)
    assert line.number == 2


def test_decimal_commas_and_empty_lines_are_taken() -> None:
    [line] = lines_of('day,dough,widths_mm\n,,\n2026-01-02,Rounds,"70,5; 71,5"\n')
    assert line.numbers("widths_mm") == (70.5, 71.5)
    assert line.number == 3
    assert line.number_in("minutes") is None


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "day is missing"),
        ("day,minutes\n2026-01-02,3", "dough is missing"),
        ("day,dough\nyesterday,Rounds", "Line 2: “yesterday” is no day"),
        ("day,dough\n0003-01-01,Rounds", "Line 2"),
        ("day,dough\n" + "2026-01-02,Rounds\n" * (MOST_LINES + 1), "At most 5,000"),
        ('day,dough\n2026-01-02,"Rounds' + "x" * 200_000, "no CSV"),
    ],
)
def test_what_cannot_be_read_is_named(text: str, words: str) -> None:
    with pytest.raises(UnreadableFile, match=words):
        read_book(text)


def test_a_word_where_a_number_belongs_is_named() -> None:
    [line] = lines_of("day,dough,minutes\n2026-01-02,Rounds,ten\n")
    with pytest.raises(UnreadableFile, match="Line 2: “ten” in minutes is no number"):
        line.number_in("minutes")


def test_the_header_is_the_same_for_an_empty_book() -> None:
    assert write_book([]).strip() == ",".join(COLUMNS)


FOREIGN = [
    ("date,cookie,width (mm),minutes,notes\n2026-10-24,Rounds,61;62,11,good\n", ()),
    ("Date,Recipe,Diameter,Time,Comment\n2026-10-24,Rounds,61; 62,11,good\n", ()),
    ('day;dough;widths_mm;minutes;note\n2026-10-24;Rounds;"61;62";11;good\n', ()),
    ("day\tdough\twidths_mm\tminutes\tnote\n2026-10-24\tRounds\t61;62\t11\tgood\n", ()),
    ("sep=|\nday|dough|widths_mm|minutes|note\n2026-10-24|Rounds|61;62|11|good\n", ()),
    ("day,dough,widths_mm,minutes,note,shelf\n2026-10-24,Rounds,61;62,11,good,2\n", ("shelf",)),
    (
        "day,dough,widths_mm,minutes,note\n2026-10-24,Rounds,61;62,11,good,and warm\n",
        ("1 cell without a column",),
    ),
    ("day,dough,widths_mm,minutes,note,\n2026-10-24,Rounds,61;62,11,good,\n", ()),
    ('"day","dough","widths_mm","minutes","note"\n"2026-10-24","Rounds","61;62","11","good"\n', ()),
    ("\ufeffnote,minutes,widths_mm,dough,day\r\ngood,11,61;62,Rounds,2026-10-24\r\n", ()),
    ("day,dough,widths_mm,minutes,note\n2026-10-24T15:30:00Z,Rounds,61.0;62.00,11.0,good\n", ()),
    ("day,dough,widths_mm,minutes,note\n\n,,,,\n2026-10-24, Rounds , 61 ; 62 , 11 , good \n", ()),
]


@pytest.mark.parametrize(("text", "left_out"), FOREIGN)
def test_books_of_others(text: str, left_out: tuple[str, ...]) -> None:
    ((line,), left) = read_book(text)
    assert line.cells["dough"] == "Rounds"
    assert line.numbers("widths_mm") == (61.0, 62.0)
    assert line.number_in("minutes") == 11.0
    assert line.cells["note"] == "good"
    assert left == left_out
