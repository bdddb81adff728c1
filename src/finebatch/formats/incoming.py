"""A file of doughs: which format it is, and the doughs in it."""

from pathlib import PurePath

from finebatch.core.formula.card_says import card_of
from finebatch.core.formula.card_text import read_card
from finebatch.core.formula.reading import Reader
from finebatch.core.refusal import Refusal
from finebatch.formats.card_csv import read_csv
from finebatch.formats.card_markdown import card_of_markdown, is_markdown
from finebatch.formats.jsonld import read_recipes
from finebatch.formats.linked import may_be_linked
from finebatch.formats.read_dough import ReadDough
from finebatch.formats.unreadable import UnreadableFile

_LINKED = (".json", ".jsonld", ".html", ".htm")
MOST_BYTES = 1_000_000
MOST_LETTERS = 100_000
"""Of a text that is read by heart, letter by letter: about a second."""
MOST_LINES = 500


def read_doughs(text: str, name: str, reader: Reader) -> list[ReadDough]:
    """The doughs of a file: Recipe JSON-LD, alone or in a web page, CSV, or a card as text; by its
    looks, then its name.

    Raises `UnreadableFile` when it is too large, or cannot be read as what it is.
    """
    if len(text.encode("utf-8", "surrogatepass")) > MOST_BYTES:
        raise UnreadableFile("At most 1 MB is read. Bring in fewer doughs at once.")
    if "\0" in text:
        raise UnreadableFile("This is not a text file.")
    path = PurePath(name or "dough.txt")
    try:
        if may_be_linked(text) or path.suffix.casefold() in _LINKED:
            return _bounded(read_recipes(text, reader))
        if path.suffix.casefold() in (".csv", ".tsv"):
            return _bounded(read_csv(text.lstrip("\ufeff"), path.stem, reader))
        if len(text) > MOST_LETTERS:
            raise UnreadableFile(
                f"A card as text has at most {MOST_LETTERS:,} letters. Bring in fewer at once."
            )
        text = text.lstrip("\ufeff")
        written, left_out = card_of_markdown(text) if is_markdown(text) else (text, ())
        found = read_card(written, reader)
    except Refusal as refusal:
        raise UnreadableFile(refusal.faults[0].message) from refusal
    if not any(line.ingredient for line in found.lines):
        raise UnreadableFile(
            "No ingredient is understood in this file. Write one a line: 250 g plain flour."
        )
    card = card_of(found, found.title[:80] or path.stem)
    return _bounded([ReadDough(card, left_out)])


def _bounded(doughs: list[ReadDough]) -> list[ReadDough]:
    cards = [one.card for one in doughs]
    count = sum(len(c.lines) + sum(len(part.lines) for part in c.parts) for c in cards)
    if count > MOST_LINES:
        raise UnreadableFile(f"At most {MOST_LINES} lines at once; this file has {count:,}.")
    return doughs
