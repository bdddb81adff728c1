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
    """ASGI middleware: each marked figure in the words of an answer in the kitchen's unit; of a
    stream in each event by itself, as it is sent.

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
        streamed = False

        async def read(body: bytes) -> bytes:
            if _MARK not in body:
                return body
            units = await asyncio.to_thread(_units, scope["app"].state.database)
            return read_in(body.decode(), units).encode()

        async def reading(message: Message) -> None:
            nonlocal start, streamed
            if message["type"] == "http.response.start":
                kind = MutableHeaders(scope=message).get("content-type", "")
                streamed = kind.startswith(NEVER_WHOLE)
                if kind.startswith(WORDS) and not streamed:
                    start = message
                    return
            elif streamed and message.get("body"):
                message = {**message, "body": await read(message["body"])}
            if start is None:
                await send(message)
                return
            parts.append(message.get("body", b""))
            if message.get("more_body"):
                return
            whole = b"".join(parts)
            body = await read(whole)
            if body is not whole:
                MutableHeaders(scope=start)["content-length"] = str(len(body))
            await send(start)
            await send({"type": "http.response.body", "body": body})

        await self.app(scope, receive, reading)
