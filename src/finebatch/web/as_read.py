"""What is answered, in the kitchen's units: the figures in its words are read on the way out."""

import asyncio

from starlette.datastructures import MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from finebatch.core.measures.figures import ANCHOR, read_in
from finebatch.core.measures.kitchen_units import KitchenUnits
from finebatch.store.database import Database
from finebatch.workflow.kitchen.equipment import get_kitchen

_MARK = ANCHOR.encode()
WORDS = ("application/json", "application/problem+json", "application/ld+json", "text/")
NEVER_WHOLE = "text/event-stream"


def _units(database: Database) -> KitchenUnits:
    with database.reading() as session:
        return get_kitchen(session).reads


class AsRead:
    """ASGI middleware: each marked figure in the words of an answer in the kitchen's unit.

    An answer without such a figure, or that is no text, is sent just as it is.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Let a request through and read its answer."""
        if scope["type"] != "http" or not scope["path"].startswith("/api"):
            await self.app(scope, receive, send)
            return
        start: Message | None = None
        parts: list[bytes] = []

        async def reading(message: Message) -> None:
            nonlocal start
            if message["type"] == "http.response.start":
                kind = MutableHeaders(scope=message).get("content-type", "")
                if kind.startswith(WORDS) and not kind.startswith(NEVER_WHOLE):
                    start = message
                    return
            if start is None:
                await send(message)
                return
            parts.append(message.get("body", b""))
            if message.get("more_body"):
                return
            body = b"".join(parts)
            if _MARK in body:
                units = await asyncio.to_thread(_units, scope["app"].state.database)
                body = read_in(body.decode(), units).encode()
                MutableHeaders(scope=start)["content-length"] = str(len(body))
            await send(start)
            await send({"type": "http.response.body", "body": body})

        await self.app(scope, receive, reading)
