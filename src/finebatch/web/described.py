"""The application's description (OpenAPI), as those who read its answers need it."""

from collections.abc import Iterator
from typing import Any

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi

from finebatch.web import problems
from finebatch.web.problems import REF


def _named(part: Any) -> Iterator[str]:
    """The schemas that a part of the description names."""
    if isinstance(part, dict):
        ref = part.get("$ref")
        if isinstance(ref, str):
            yield ref.removeprefix(REF)
        for inner in part.values():
            yield from _named(inner)
    elif isinstance(part, list):
        for inner in part:
            yield from _named(inner)


def _asked_for(described: dict[str, Any]) -> set[str]:
    """The schemas of what is sent in, and all that they name."""
    schemas = described["components"]["schemas"]
    wanted = [
        name
        for path in described["paths"].values()
        for operation in path.values()
        for name in _named(operation.get("requestBody"))
    ]
    found: set[str] = set()
    while wanted:
        name = wanted.pop()
        if name not in found:
            found.add(name)
            wanted += _named(schemas[name])
    return found


RULES = """Fine Batch answers on this machine only. Whatever is asked, `Host` is `127.0.0.1` or \
`localhost`, with or without a port; else the answer is 403. A request that changes something \
(any but GET, HEAD and OPTIONS) has an `Origin`, as browsers send it, that is the address that it \
goes to, or, as programs do, the token that `finebatch token` says, in the header \
`X-Fine-Batch-Token`; else the answer is 403. A body is JSON unless its operation says otherwise, \
and has at most 1 MB, a photo 15 MB (413). What is refused, missing or in the way is told as \
problem details (RFC 9457), and nothing is changed by it. Moments are ms since 1970 (UTC), \
temperatures °C, lengths mm, masses g."""


def _without_titles(part: Any) -> None:
    """Only the schemas that are named have a title: those of their fields say nothing new, and
    twenty fields of one name would be twenty things of one title."""
    inner = part.values() if isinstance(part, dict) else part if isinstance(part, list) else ()
    if isinstance(part, dict) and isinstance(part.get("title"), str):
        del part["title"]
    for each in inner:
        _without_titles(each)


def describe(app: FastAPI) -> dict[str, Any]:
    """The description: what is only ever given out always has all its fields, usual or not."""
    if app.openapi_schema is None:
        described = get_openapi(
            title=app.title,
            version=app.version,
            summary=app.summary,
            description=RULES,
            routes=app.routes,
        )
        for path in described["paths"].values():
            _without_titles(path)
        schemas = described["components"]["schemas"]
        schemas |= problems.schemas()
        asked = _asked_for(described)
        _without_titles(described["components"])
        for name, schema in schemas.items():
            if name not in asked and "properties" in schema:
                schema["required"] = list(schema["properties"])
            schema["title"] = name
        described["components"]["schemas"] = dict(sorted(schemas.items()))
        app.openapi_schema = described
    return app.openapi_schema
