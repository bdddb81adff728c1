"""A card in Markdown, read as a card is written: its first heading is the title, tables and lists
are lines, further headings what stands below them."""

import re
from collections.abc import Sequence

from markdown_it import MarkdownIt
from markdown_it.token import Token

_HEADING = re.compile(r"^ {0,3}#{1,6}\s+\S", re.MULTILINE)
_TABLE = re.compile(r"^[^\n|]*\|[^\n]*\n *\|?(?: *:?-{2,}:? *\|)+(?: *:?-{2,}:? *)?$", re.MULTILINE)
_IN_ALL = re.compile(r"in all|total|sum", re.IGNORECASE)
_NAMES_LINES = re.compile(r"ingredients?|what|item|name", re.IGNORECASE)
_READER = MarkdownIt("commonmark", {"html": False, "maxNesting": 20}).enable("table")


def is_markdown(text: str) -> bool:
    """Whether a text has headings or a table as Markdown marks them: one alone may be a name."""
    return len(_HEADING.findall(text)) > 1 or bool(_TABLE.search(text))


def card_of_markdown(text: str) -> str:
    """The text of a card in Markdown."""
    return "\n".join(_Lines(_READER.parse(text)).read())


def as_card(text: str) -> str:
    """A text as a card is written: Markdown without its marks, any other as it is."""
    return card_of_markdown(text) if is_markdown(text) else text


class _Lines:
    def __init__(self, tokens: Sequence[Token]) -> None:
        self.tokens = tokens
        self.out: list[str] = []
        self.row: list[str] | None = None
        self.head: list[str] | None = None
        self.lists: list[str] = []
        self.numbers: list[int] = []
        self.titled = False

    def read(self) -> list[str]:
        """Line after line as on a card."""
        opened: list[str] = []
        for token in self.tokens:
            if token.nesting == 1:
                self._open(token)
                opened.append(token.type)
            elif token.nesting == -1:
                opened.pop()
                self._close(token)
            elif token.type == "inline":
                self._inline(_plain(token), opened)
            elif token.type in ("fence", "code_block"):
                self.out += token.content.splitlines()
        return self.out

    def _open(self, token: Token) -> None:
        if token.type == "tr_open":
            self.row = []
        elif token.type in ("ordered_list_open", "bullet_list_open"):
            self.lists.append(token.type)
            self.numbers.append(int(token.attrs.get("start", 1)) - 1)
        elif token.type == "list_item_open":
            self.numbers[-1] += 1

    def _close(self, token: Token) -> None:
        if token.type == "tr_close" and self.row is not None:
            self._row(self.row)
            self.row = None
        elif token.type == "table_close":
            self.head = None
        elif token.type in ("ordered_list_close", "bullet_list_close"):
            self.lists.pop()
            self.numbers.pop()

    def _inline(self, written: str, opened: Sequence[str]) -> None:
        if self.row is not None:
            self.row.append(written)
        elif "heading_open" in opened:
            self._heading(written)
        elif len(self.lists) > 1 and self.lists[0] == "ordered_list_open":
            self.out += [f"   {line}" for line in written.splitlines()]
        elif self.lists and self.lists[-1] == "ordered_list_open":
            self.out.append(f"{self.numbers[-1]}. {' '.join(written.splitlines())}")
        else:
            self.out += written.splitlines()

    def _heading(self, written: str) -> None:
        if not self.titled:
            self.titled = True
            self.out.append(written)
            return
        self.out += ["", written if written.endswith(":") else f"{written}:"]

    def _row(self, cells: list[str]) -> None:
        """A row of a table: of one whose first column is the line as it is written that alone, of
        another all of its cells."""
        if self.head is None:
            self.head = cells
            if not any(line.startswith("Ingredients") for line in self.out):
                self.out += ["", "Ingredients"]
            return
        if not cells or _IN_ALL.fullmatch(cells[0]):
            return
        whole = bool(_NAMES_LINES.fullmatch(self.head[0])) and bool(re.search(r"\d", cells[0]))
        self.out.append(cells[0] if whole else _as_written(self.head, cells))


def _as_written(head: Sequence[str], cells: Sequence[str]) -> str:
    """The cells of a row in the order in which a card has them: amounts before names."""
    named = [n for n, title in enumerate(head) if _NAMES_LINES.fullmatch(title)]
    both = list(enumerate(zip(head, cells, strict=False)))
    first = [cell for n, (title, cell) in both if n not in named and "%" not in title]
    return " ".join([*first, *(cell for n, (_, cell) in both if n in named)]).strip()


def _plain(token: Token) -> str:
    """Words without their marks; a break is one."""
    out = []
    for inner in token.children or ():
        if inner.type in ("text", "code_inline", "html_inline"):
            out.append(inner.content)
        elif inner.type in ("softbreak", "hardbreak"):
            out.append("\n")
        elif inner.type == "image":
            out.append(inner.content)
    return "".join(out).strip()
