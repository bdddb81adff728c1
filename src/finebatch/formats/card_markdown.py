"""A card in Markdown, read as a card is written: its first heading is the title, tables and lists
are lines, further headings what stands below them."""

import re
from collections.abc import Sequence

from markdown_it import MarkdownIt
from markdown_it.token import Token

from finebatch.core.refusal import refuse

MOST_LETTERS = 100_000
"""Ten times as many take a hundred times as long to read."""
_HEADING = re.compile(
    r"^ {0,3}#{1,6}\s+\S|^\S[^\n]*\n(?:=+|-{3,}) *$|^(?:\*\*|__)[^*_\n]+(?:\*\*|__):? *$",
    re.MULTILINE,
)
_TABLE = re.compile(r"^[^\n|]*\|[^\n]*\n *\|?(?: *:?-{2,}:? *\|)+(?: *:?-{2,}:? *)?$", re.MULTILINE)
_FRONT = re.compile(r"\A\s*---[ \t]*\n(?P<said>(?:[\w -]+:[^\n]*\n|[ \t]*\n)+)---[ \t]*\n")
_BREAK = re.compile(r"<br\s*/?>", re.IGNORECASE)
_HIDDEN = re.compile(r"<!--(?:(?!<!--|-->).)*-->", re.DOTALL)
_IN_ORDER = re.compile(r"\d+\. ")
_UNIT = re.compile(
    r"^(?:(?:amount|weight|quantity)\W*(?:in\W*)?)?(?=(?:g|kg|ml|oz)\W*$)", re.IGNORECASE
)
_IN_ALL = re.compile(r"in all|total|sum", re.IGNORECASE)
_NAMES_LINES = re.compile(r"ingredients?|what|item|name", re.IGNORECASE)
_READER = MarkdownIt("commonmark", {"html": False, "maxNesting": 20}).enable("table")


def is_markdown(text: str) -> bool:
    """Whether a text has headings or a table as Markdown marks them (one alone may be a name), or
    begins with what stands before one."""
    return bool(_FRONT.match(text)) or len(_HEADING.findall(text)) > 1 or bool(_TABLE.search(text))


def card_of_markdown(text: str) -> tuple[str, tuple[str, ...]]:
    """The text of a card in Markdown, and its pictures, for which a card has no place. `Refusal`
    for what is too long to be one."""
    if len(text) > MOST_LETTERS:
        raise refuse(
            "text",
            f"A card in Markdown has at most {MOST_LETTERS:,} letters. Bring in less at once.",
        )
    front, text = _front(text)
    tokens = _READER.parse(_HIDDEN.sub("", _BREAK.sub("\n", text)))
    lines = [*front, *_Lines(tokens, titled=bool(front)).read()]
    inner = (each for token in tokens for each in token.children or () if each.type == "image")
    shown = (f"picture “{one.content}”" if one.content else "picture" for one in inner)
    return "\n".join(lines), tuple(shown)


def _front(text: str) -> tuple[list[str], str]:
    """What stands before the Markdown between two rules, one `name: value` a line, as lines of a
    card; and the rest."""
    found = _FRONT.match(text)
    if found is None:
        return [], text
    said = [line.partition(":") for line in found["said"].splitlines() if ":" in line]
    values = {name.strip().casefold(): value.strip(" \t\"'") for name, _, value in said}
    title = values.pop("title", values.pop("name", ""))
    makes = next((values.pop(name) for name in ("yield", "makes", "pieces") if name in values), "")
    rest = [f"{name}: {value}" for name, value in values.items() if value]
    lines = [title, *([f"Makes {makes}"] if makes else []), *rest]
    return [line for line in lines if line], text[found.end() :]


def as_card(text: str) -> str:
    """A text as a card is written: Markdown without its marks, any other as it is."""
    return card_of_markdown(text)[0] if is_markdown(text) else text


class _Lines:
    def __init__(self, tokens: Sequence[Token], *, titled: bool = False) -> None:
        self.tokens = tokens
        self.out: list[str] = []
        self.row: list[str] | None = None
        self.head: list[str] | None = None
        self.lists: list[str] = []
        self.numbers: list[int] = []
        self.titled = titled
        self.ended = False

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
            elif token.type == "hr":
                self.ended = bool(self.out) and _IN_ORDER.match(self.out[-1]) is not None
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
        elif self.ended:
            self.ended = False
            self.out += ["", "Notes:", *written.splitlines()]
        else:
            self.out += written.splitlines()

    def _heading(self, written: str) -> None:
        self.ended = False
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
    first = [
        f"{cell} {_UNIT.sub('', title)}" if _UNIT.match(title) and cell[-1:].isdigit() else cell
        for n, (title, cell) in both
        if n not in named and "%" not in title
    ]
    return " ".join([*first, *(cell for n, (_, cell) in both if n in named)]).strip()


def _plain(token: Token) -> str:
    """Words without their marks; a break is one."""
    out = []
    for inner in token.children or ():
        if inner.type in ("text", "code_inline", "html_inline"):
            out.append(inner.content)
        elif inner.type in ("softbreak", "hardbreak"):
            out.append("\n")
    return "".join(out).strip()
