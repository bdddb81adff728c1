"""A press that is sent again is answered as it was, and changes nothing twice."""

import asyncio
import re
from dataclasses import dataclass, field

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from finebatch.store.presses import pressed
from finebatch.web.guard import SAFE_METHODS
from finebatch.web.problems import problem

PRESS = "x-fine-batch-press"
MOST_REMEMBERED = 4_000_000
_KEY = re.compile(r"[0-9A-Za-z-]{8,64}")


@dataclass
class _Answer:
    """What a press was answered with, or is being."""

    over: asyncio.Event = field(default_factory=asyncio.Event)
    messages: list[Message] = field(default_factory=list)

    @property
    def bytes(self) -> int:
        return sum(len(message.get("body", b"")) for message in self.messages)


class OnceOnly:
    """ASGI middleware: a request that changes something may name its press (a key of its own in the
    header `x-fine-batch-press`), and sent again is not done again.

    Answers are remembered while there is room; one that is known to be kept, but was answered
    before a start of the server, is told as such (409).
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app
        self._answers: dict[str, _Answer] = {}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Let a request through, or answer it as it was answered before."""
        named = scope["type"] == "http" and scope["method"] not in SAFE_METHODS
        key = Headers(scope=scope).get(PRESS) if named else None
        if key is None:
            await self.app(scope, receive, send)
            return
        if _KEY.fullmatch(key) is None:
            await problem(400, BAD_KEY)(scope, receive, send)
            return
        while (before := self._answers.get(key)) is not None:
            await before.over.wait()
            if before.messages:
                for message in before.messages:
                    await send(message)
                return
        await self._answer(key, scope, receive, send)

    async def _answer(self, key: str, scope: Scope, receive: Receive, send: Send) -> None:
        answer = self._answers[key] = _Answer()
        told: list[Message] = []

        async def hearing(message: Message) -> None:
            told.append(message)
            await send(message)

        try:
            with pressed(key, scope["app"].state.clock()) as press:
                await self.app(scope, receive, hearing)
            if press.is_kept and told and told[0]["status"] < 500:
                answer.messages = told
        finally:
            if not answer.messages:
                del self._answers[key]
            answer.over.set()
            self._let_go()

    def _let_go(self) -> None:
        held = sum(answer.bytes for answer in self._answers.values())
        for key, answer in list(self._answers.items()):
            if held <= MOST_REMEMBERED:
                return
            if answer.over.is_set():
                held -= answer.bytes
                del self._answers[key]


BAD_KEY = f"The header {PRESS} has to be 8 to 64 letters, digits or hyphens."
