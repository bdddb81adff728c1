"""The lines of a book's file."""

from finebatch.formats.book_csv import BookLine, read_book


def lines_of(text: str) -> list[BookLine]:
    """Without the names of the columns that are left out."""
    return read_book(text)[0]
