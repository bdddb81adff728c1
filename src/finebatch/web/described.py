"""The application's description (OpenAPI), as those who read its answers need it."""

from collections.abc import Iterator
from typing import Any

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi

REF = "#/components/schemas/"


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


def describe(app: FastAPI) -> dict[str, Any]:
    """The description: what is only ever given out always has all its fields, usual or not."""
    if app.openapi_schema is None:
        described = get_openapi(
            title=app.title, version=app.version, summary=app.summary, routes=app.routes
        )
        asked = _asked_for(described)
        for name, schema in described["components"]["schemas"].items():
            if name not in asked and "properties" in schema:
                schema["required"] = list(schema["properties"])
        app.openapi_schema = described
    return app.openapi_schema
