"""The door from the home network: who has no token learns nothing, who has one is let through.

Everything from the network comes by here first. It answers the page that asks for a code itself;
a device that is known is handed on to the application, with limits of its own, and cut off at once
when it is let go. What it asked for while it might is still answered when it may do less from now
on; only its streams end, and are opened again by the page.
"""

import asyncio
from collections.abc import Callable
from http.cookies import CookieError, SimpleCookie
from pathlib import Path

from pydantic import BaseModel, ConfigDict, Field, ValidationError
from starlette.datastructures import Headers
from starlette.responses import JSONResponse, Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from finebatch.web.guard import DEVICE, SECURITY_HEADERS, is_own_page
from finebatch.web.network.allowed import may
from finebatch.web.network.codes import Codes
from finebatch.web.network.paired import Paired, PairedDevice, TooManyDevices

COOKIE = "__Host-kitchen"
COOKIE_S = 400 * 86_400
"""As long as browsers keep one."""
STREAM = "/api/stream"
MOST_STREAMS, MOST_AT_ONCE = 4, 12
MOST_ASKED = 1_000
SILENCE_S = 20.0
"""A body of which nothing comes for so long is given up."""
ASK = "/let-in"
_PAGES = Path(__file__).parent / "pages"
_FILES = {
    ASK: ("let-in.html", "text/html; charset=utf-8"),
    f"{ASK}/page.css": ("page.css", "text/css; charset=utf-8"),
    f"{ASK}/page.js": ("page.js", "text/javascript; charset=utf-8"),
}
_STRICT = {**SECURITY_HEADERS, "cache-control": "no-store"}

WRONG = "That is not the code. See the other screen: it may have run out."
FULL = "No more devices can be let in. Let one go on the other screen first."
NOT_KEPT = "It cannot be written down that this device was let in. Make room on the other machine."
NOT_FOR_IT = "This device was not let in for that. Do it on the screen that let it in."
TOO_MUCH = "This device asks for too much at once. Close some of its windows."


class _Asking(BaseModel):
    model_config = ConfigDict(extra="forbid")

    code: str = Field(pattern=r"^\d{1,12}$")
    name: str = Field(max_length=40, pattern=r"^[^\x00-\x1f\x7f]*\S[^\x00-\x1f\x7f]*$")


def _said(status: int, detail: str) -> Response:
    return JSONResponse({"status": status, "detail": detail}, status, headers=_STRICT)


def _token_in(headers: Headers) -> str | None:
    try:
        morsel = SimpleCookie(headers.get("cookie", "")).get(COOKIE)
    except CookieError:
        return None
    return morsel.value if morsel is not None else None


class _Silent(Exception):
    """Nothing more came."""


async def _body(receive: Receive) -> bytes:
    found = bytearray()
    while True:
        message = await asyncio.wait_for(receive(), SILENCE_S)
        found += message.get("body", b"")
        if message["type"] != "http.request" or len(found) > MOST_ASKED:
            raise _Silent
        if not message.get("more_body"):
            return bytes(found)


def _impatient(receive: Receive) -> Receive:
    """The body as it comes, given up once it does not."""
    whole = False

    async def hearing() -> Message:
        nonlocal whole
        if whole:
            return await receive()
        try:
            message = await asyncio.wait_for(receive(), SILENCE_S)
        except TimeoutError:
            message = {"type": "http.disconnect"}
        whole = not message.get("more_body", False)
        return message

    return hearing


class Door:
    """The ASGI application that the home network sees.

    `names` are the hosts by which it may be called (with the port), `tell` is called when a
    device was let in, and when a wrong code was given.
    """

    def __init__(
        self,
        app: ASGIApp,
        paired: Paired,
        codes: Codes,
        clock: Callable[[], int],
        tell: Callable[[], None],
    ) -> None:
        self.app, self.paired, self.codes = app, paired, codes
        self.names: frozenset[str] = frozenset()
        self.authority: bytes | None = None
        self.fingerprint = ""
        self._clock, self._tell = clock, tell
        # What each device has under way, and whether that is a stream.
        self._here: dict[str, dict[asyncio.Task[None], bool]] = {}
        self._loop: asyncio.AbstractEventLoop | None = None
        paired.on_change(self._cut_off_soon)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request of the network, or let it through."""
        if scope["type"] != "http":
            return
        self._loop = asyncio.get_running_loop()
        headers = Headers(scope=scope)
        if headers.get("host") not in self.names:
            await Response(status_code=403, headers=_STRICT)(scope, receive, send)
            return
        if scope["path"] == ASK or scope["path"].startswith(f"{ASK}/"):
            answer = await self._asked(scope, headers, receive)
            await answer(scope, receive, send)
            return
        token = _token_in(headers)
        device = self.paired.known(token, self._clock()) if token else None
        if device is None:
            await self._unknown(scope, headers)(scope, receive, send)
            return
        refusal = self._refusal(device, scope)
        if refusal is not None:
            await refusal(scope, receive, send)
            return
        await self._let_through(device, scope, receive, send)

    def _unknown(self, scope: Scope, headers: Headers) -> Response:
        """Nothing; a person who opened a page may give a code."""
        navigates = scope["method"] == "GET" and "text/html" in headers.get("accept", "")
        if navigates and not scope["path"].startswith("/api/"):
            return self._page(ASK, 401)
        return Response(status_code=401, headers=_STRICT)

    def _page(self, path: str, status: int = 200) -> Response:
        name, kind = _FILES[path]
        content = (_PAGES / name).read_bytes()
        return Response(content, status, headers=_STRICT, media_type=kind)

    async def _asked(self, scope: Scope, headers: Headers, receive: Receive) -> Response:
        path, method = scope["path"], scope["method"]
        if method in ("GET", "HEAD"):
            if path in _FILES:
                return self._page(path)
            if path == f"{ASK}/fingerprint":
                return Response(self.fingerprint, headers=_STRICT, media_type="text/plain")
            if path == f"{ASK}/authority.crt" and self.authority is not None:
                kind = "application/x-x509-ca-cert"
                return Response(self.authority, headers=_STRICT, media_type=kind)
            return Response(status_code=401, headers=_STRICT)
        if method != "POST" or path != ASK or not is_own_page(headers):
            return Response(status_code=403, headers=_STRICT)
        try:
            asking = _Asking.model_validate_json(await _body(receive))
        except (ValidationError, TimeoutError, _Silent):
            return _said(422, "Give the code, and a name of at most 40 letters.")
        return self._let_in(asking)

    def _let_in(self, asking: _Asking) -> Response:
        role = self.codes.redeem(asking.code)
        if role is None:
            self._tell()
            return _said(401, WRONG)
        try:
            _, token = self.paired.let_in(asking.name.strip(), role, self._clock())
        except TooManyDevices:
            return _said(409, FULL)
        except OSError:
            return _said(503, NOT_KEPT)
        self._tell()
        answer = Response(status_code=204, headers=_STRICT)
        answer.set_cookie(
            COOKIE, token, COOKIE_S, path="/", secure=True, httponly=True, samesite="strict"
        )
        return answer

    def _refusal(self, device: PairedDevice, scope: Scope) -> Response | None:
        if not may(device.role, scope["method"], scope["path"]):
            return _said(403, NOT_FOR_IT)
        under_way = self._here.get(device.id, {})
        streams = sum(under_way.values())
        at_once = len(under_way) - streams
        full = streams >= MOST_STREAMS if scope["path"] == STREAM else at_once >= MOST_AT_ONCE
        return _said(429, TOO_MUCH) if full else None

    async def _let_through(
        self, device: PairedDevice, scope: Scope, receive: Receive, send: Send
    ) -> None:
        begun = ended = False

        async def sending(message: Message) -> None:
            nonlocal begun, ended
            begun = True
            ended = message["type"] == "http.response.body" and not message.get("more_body", False)
            await send(message)

        async def answered() -> None:
            await self.app({**scope, DEVICE: device}, _impatient(receive), sending)

        task = asyncio.ensure_future(answered())
        here = self._here.setdefault(device.id, {})
        here[task] = scope["path"] == STREAM
        try:
            await asyncio.wait({task})
        finally:
            del here[task]
            if not here:
                del self._here[device.id]
            task.cancel()
        if not task.cancelled():
            task.result()
        elif begun and not ended:
            await send({"type": "http.response.body", "body": b""})
        elif not begun:
            await Response(status_code=401, headers=_STRICT)(scope, receive, send)

    def _cut_off_soon(self, id: str) -> None:
        loop = self._loop
        if loop is not None and not loop.is_closed():
            loop.call_soon_threadsafe(self._changed, id)

    def _changed(self, id: str) -> None:
        """A device that was let go is out; one that may do more or less than before hears so."""
        known = any(device.id == id for device in self.paired.all())
        self._end(self._here.get(id, {}), streams_only=known)

    def cut_off(self) -> None:
        """End all that any device has under way; its streams too."""
        for under_way in list(self._here.values()):
            self._end(under_way)

    def _end(self, under_way: dict[asyncio.Task[None], bool], streams_only: bool = False) -> None:
        for task, is_stream in list(under_way.items()):
            if is_stream or not streams_only:
                task.cancel()
