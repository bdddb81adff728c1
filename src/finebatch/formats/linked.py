"""JSON-LD, alone or in a saved web page, as plain nodes: whatever way its writer chose of those
that the language has (prefixes, IRIs, lists, values, references, graphs), a processor makes one.

A node is a dict: `@type` a list of names without schema.org before them, `@id` where it has one,
and for each property a list of texts, numbers, truth values and nodes, in the order of the file.
What a node is only named by (`{"@id": …}`) is put in its place.
"""

import json
import re
from collections import deque
from collections.abc import Iterator
from html.parser import HTMLParser
from typing import Any

from finebatch.formats.apart import TooMuchError, answer_apart, ask_apart
from finebatch.formats.unreadable import UnreadableFile

Node = dict[str, Any]

LETTERS_HERE = 200_000
"""A longer file, or one with terms of its own, is read in a process of its own."""
MOST_DEPTH = 60
TOO_DEEP = "This file nests too deep to be a recipe."
MOST_NODES = 100_000

_SCHEMA = re.compile(r"^https?://(?:www\.)?schema\.org/")
_CONTEXT = {
    "@vocab": "http://schema.org/",
    "schema": "http://schema.org/",
    "id": "@id",
    "type": "@type",
}
"""What schema.org's own context says, as far as recipes need it; it ships with the application, as
nothing is fetched. A file that names no context is taken to mean this one, too."""
_BEFORE_TEXT = "\ufeff \t\r\n"
"""What may stand before a file begins."""
_WRAPPED = re.compile(r"^\s*(?:<!--|//\s*<!\[CDATA\[|<!\[CDATA\[)|(?:-->|//\s*\]\]>|\]\]>)\s*$")
"""What old pages put around a script's text."""


_PAGE, _JSON = re.compile(r"<[!?a-zA-Z]"), re.compile(r"[{\[]\s*[\"{}\[\]]|[{\[]\s*$")
"""How a page and how JSON begins; a card's name may begin with such a sign, too."""


class _Scripts(HTMLParser):
    """What a web page says of itself in JSON-LD."""

    def __init__(self) -> None:
        super().__init__()
        self.inside = False
        self.found: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        kind = (dict(attrs).get("type") or "").split(";")[0].strip().casefold()
        self.inside = tag == "script" and kind == "application/ld+json"
        if self.inside:
            self.found.append("")

    def handle_endtag(self, tag: str) -> None:
        self.inside = False

    def handle_data(self, data: str) -> None:
        if self.inside:
            self.found[-1] += data


def is_page(text: str) -> bool:
    """Whether a text is a web page."""
    return _PAGE.match(text.lstrip(_BEFORE_TEXT)) is not None


def may_be_linked(text: str) -> bool:
    """Whether a text looks like JSON-LD, alone or in a web page."""
    return is_page(text) or _JSON.match(text.lstrip(_BEFORE_TEXT)) is not None


def nodes_of(text: str) -> list[Node]:
    """The nodes at the top of each JSON-LD document of a text, in order.

    Raises `UnreadableFile` where it is no JSON, nests without end, or takes too long.
    """
    documents = [_document(one) for one in _written(text)]
    if len(text) <= LETTERS_HERE and not any(_has_own_terms(one) for one in documents):
        return _nodes(documents)
    try:
        found: list[Node] | None = ask_apart(__name__, documents)
    except TooMuchError:
        found = None
    if found is None:
        raise UnreadableFile("This file takes too long to read. Bring in fewer recipes at once.")
    return found


def _written(text: str) -> list[str]:
    if not is_page(text):
        return [text.lstrip(_BEFORE_TEXT)]
    page = _Scripts()
    page.feed(text)
    page.close()
    if not page.found:
        raise UnreadableFile("This page says nothing of a recipe that can be read. Paste it.")
    return [_WRAPPED.sub("", one) for one in page.found]


def _refuse_constant(name: str) -> None:
    raise ValueError(name)


def _document(written: str) -> object:
    try:
        document = json.loads(written, parse_constant=_refuse_constant)
    except (ValueError, RecursionError) as error:
        raise UnreadableFile("This is not JSON: the file may be cut off.") from error
    if _depth(document) > MOST_DEPTH:
        raise UnreadableFile(TOO_DEEP)
    return document


def _depth(document: object) -> int:
    """How deep a document nests; told level by level, for it may be deep indeed."""
    level, depth = [document], 0
    while level:
        depth += 1
        inner: list[object] = []
        for one in level:
            inner += one.values() if isinstance(one, dict) else one if isinstance(one, list) else ()
        level = inner
    return depth


def _has_own_terms(document: object) -> bool:
    """Whether a document has contexts that are more than a name: reading these may have no end."""
    found = [document]
    while found:
        one = found.pop()
        if isinstance(one, dict):
            contexts = one.get("@context")
            listed = contexts if isinstance(contexts, list) else [contexts]
            if any(isinstance(context, dict) for context in listed):
                return True
            found += one.values()
        elif isinstance(one, list):
            found += one
    return False


def _load(url: str, _options: object) -> Node:
    """Every context that is only named is schema.org's."""
    return {
        "contentType": "application/ld+json",
        "contextUrl": None,
        "documentUrl": url,
        "document": {"@context": _CONTEXT},
    }


def _nodes(documents: list[object]) -> list[Node]:
    from pyld import jsonld  # takes time to load

    expanded: list[Any] = []
    for document in documents:
        try:
            expanded += jsonld.expand(
                document, {"documentLoader": _load, "expandContext": _CONTEXT, "base": ""}
            )
        except (jsonld.JsonLdError, RecursionError, TypeError, ValueError, KeyError) as error:
            raise UnreadableFile(
                "This is no JSON-LD that can be read: what it says of its words does not fit."
            ) from error
    return _Graph(expanded).nodes()


class _Graph:
    """Expanded nodes with what they name put in its place."""

    def __init__(self, expanded: list[Any]) -> None:
        self.top = expanded
        self.named: dict[str, Node] = {}
        self.made = 0
        for node in self._all(expanded):
            key = node.get("@id")
            if isinstance(key, str) and len(node) > 1:
                known = self.named.setdefault(key, {"@id": key})
                for name, values in node.items():
                    if name != "@id":
                        known.setdefault(name, values)

    def _all(self, expanded: list[Any]) -> Iterator[Node]:
        waiting = deque(expanded)
        while waiting:
            one = waiting.popleft()
            if isinstance(one, list):
                waiting += one
            elif isinstance(one, dict) and "@value" not in one:
                yield one
                waiting += [value for name, value in one.items() if name != "@type"]

    def nodes(self) -> list[Node]:
        """All that stands at the top."""
        plain = (plain for one in self.top for plain in self._plain(one, ()))
        return [node for node in plain if isinstance(node, dict)]

    def _plain(self, value: Any, within: tuple[str, ...]) -> Iterator[Any]:
        """What a value comes to, which a list makes several; `within` are the names of the nodes
        that it is in, nothing for those without."""
        self.made += 1
        if self.made > MOST_NODES:
            raise UnreadableFile("There is too much in this file. Bring in fewer recipes at once.")
        if isinstance(value, list):
            for one in value:
                yield from self._plain(one, within)
        elif not isinstance(value, dict):
            yield value
        elif "@value" in value:
            yield value["@value"]
        elif "@list" in value or "@set" in value:
            yield from self._plain(value.get("@list", value.get("@set")), within)
        else:
            yield self._node(value, within)

    def _node(self, value: Node, within: tuple[str, ...]) -> Node | str:
        key = value.get("@id")
        if len(within) > MOST_DEPTH:
            raise UnreadableFile(TOO_DEEP)
        if isinstance(key, str):
            known = self.named.get(key)
            if known is None or key in within:
                # Something of elsewhere, or that this is within itself, has only its name here.
                return _SCHEMA.sub("", key)
            value = known
        node: Node = {"@type": [_SCHEMA.sub("", str(kind)) for kind in value.get("@type", [])]}
        if isinstance(key, str):
            node["@id"] = key
        for name, inner in value.items():
            if name in ("@id", "@type"):
                continue
            plain = "@graph" if name in ("@graph", "@included") else _SCHEMA.sub("", name)
            node.setdefault(plain, []).extend(self._plain(inner, (*within, key or "")))
        return node


def texts_in(node: Node, name: str) -> list[str]:
    """The values of a property that are words or numbers, as text."""
    return [
        f"{value:g}" if isinstance(value, float) else str(value)
        for value in node.get(name, [])
        if isinstance(value, str | int | float) and not isinstance(value, bool)
    ]


def text_in(node: Node, name: str) -> str:
    """The first of them; nothing where there is none."""
    return next(iter(texts_in(node, name)), "")


def nodes_in(node: Node, name: str) -> list[Node]:
    """The values of a property that are nodes."""
    return [value for value in node.get(name, []) if isinstance(value, dict)]


def value_in(node: Node, name: str) -> Any:
    """The first value of a property, whatever it is; None where there is none."""
    return next(iter(node.get(name, [])), None)


def is_a(node: Node, *kinds: str) -> bool:
    """Whether a node is of one of these types."""
    return not set(kinds).isdisjoint(node.get("@type", []))


if __name__ == "__main__":

    def _answer(documents: list[object]) -> object:
        try:
            return _nodes(documents)
        except UnreadableFile:
            return None

    answer_apart(_answer)
