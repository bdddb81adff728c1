"""How every router of the application is begun, so that its routes serve as they are written.

Routes that are included in an application (`include_router`) are built a second time, all of
them at its first request: more than a second. Begun here, with what the whole application would
add to them, they are built once, when their module is loaded, and the application takes them over.
"""

from fastapi import APIRouter
from fastapi.routing import APIRoute

from finebatch.web import problems


def _operation_id(route: APIRoute) -> str:
    return route.name


def begin(tag: str, prefix: str = "/api") -> APIRouter:
    """A router whose operations are described under one tag, named as their functions are, and
    may answer any problem."""
    return APIRouter(
        prefix=prefix,
        tags=[tag],
        responses=problems.RESPONSES,
        generate_unique_id_function=_operation_id,
    )
