"""How every router of the application is begun, so that its routes serve as they are written.

Routes that are included in an application (`include_router`) are built a second time, all of
them at its first request: more than a second. Begun here, with what the whole application would
add to them, they are built once, when their module is loaded, and the application takes them over.
"""

from typing import Any

from fastapi import APIRouter
from fastapi.routing import APIRoute

from finebatch.web import problems
from finebatch.web.answers import LateRoute


def _operation_id(route: APIRoute) -> str:
    return route.name


IN_BYTES = {"schema": {"type": "string", "format": "binary"}}
IN_LETTERS = {"schema": {"type": "string"}}


def files(*kinds: str) -> dict[int | str, dict[str, Any]]:
    """The answer of a route that gives out a file, by the media types that it may have."""
    return {200: {"description": "The file.", "content": contents(*kinds)}}


def contents(*kinds: str) -> dict[str, Any]:
    """A body by its media types."""
    return {
        kind: IN_LETTERS if kind.startswith("text/") else {} if kind.endswith("json") else IN_BYTES
        for kind in kinds
    }


def begin(tag: str, prefix: str = "/api") -> APIRouter:
    """A router whose operations are described under one tag, named as their functions are, and
    may answer any problem."""
    return APIRouter(
        prefix=prefix,
        tags=[tag],
        responses=problems.RESPONSES,
        route_class=LateRoute,
        generate_unique_id_function=_operation_id,
    )
