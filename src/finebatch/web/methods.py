"""HEAD and OPTIONS as HTTP has them: the same head without a body, and what a path can be asked."""

from collections.abc import Sequence

from starlette.routing import BaseRoute, Match
from starlette.types import ASGIApp, Message, Receive, Scope, Send

API = "/api/"
STREAM = "/api/stream"


def _allowed(routes: Sequence[BaseRoute], scope: Scope) -> list[str]:
    """The methods of the API's routes at that path."""
    found: set[str] = set()
    for route in routes:
        methods = getattr(route, "methods", None)
        if methods and route.matches(scope)[0] is not Match.NONE:
            found |= methods
    if "GET" in found:
        found.add("HEAD")
    return sorted(found | {"OPTIONS"}) if found else []


class HeadAndOptions:
    """ASGI middleware that answers both for every path of the API."""

    def __init__(self, app: ASGIApp, routes: Sequence[BaseRoute]) -> None:
        self.app, self.routes = app, routes

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer such a request, or let another through."""
        asked = scope["type"] == "http" and scope["path"].startswith(API)
        if asked and scope["method"] == "OPTIONS":
            allowed = _allowed(self.routes, scope)
            if allowed:
                head = [(b"allow", ", ".join(allowed).encode())]
                await send({"type": "http.response.start", "status": 204, "headers": head})
                await send({"type": "http.response.body", "body": b""})
                return
        if not (asked and scope["method"] == "HEAD") or scope["path"] == STREAM:
            await self.app(scope, receive, send)
            return

        async def without_body(message: Message) -> None:
            if message["type"] == "http.response.body":
                message = {**message, "body": b""}
            await send(message)

        await self.app({**scope, "method": "GET"}, receive, without_body)
