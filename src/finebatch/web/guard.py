"""Only this machine's own pages and the devices that it let in: Host and Origin are checked, bodies
bounded, headers strict."""

from contextlib import suppress
from hmac import compare_digest
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from finebatch.web.problems import problem

OWN_HOSTS = frozenset({"127.0.0.1", "localhost"})
MOST_BODY = 1_000_000
MOST_PHOTO = 15_000_000
MOST_COPY = 2_000_000_000
TOKEN = "x-fine-batch-token"
DEVICE = "device"
"""In a request's scope: the tablet or phone that it is from (`network.paired.PairedDevice`)."""
SAFE_METHODS = frozenset({"GET", "HEAD", "OPTIONS"})

POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self'; "
    "font-src 'self'; connect-src 'self'; manifest-src 'self'; worker-src 'self'; base-uri 'none'; "
    "form-action 'none'; frame-ancestors 'none'"
)

SECURITY_HEADERS = {
    "content-security-policy": POLICY,
    "x-content-type-options": "nosniff",
    "referrer-policy": "no-referrer",
    "cross-origin-opener-policy": "same-origin",
    "cross-origin-resource-policy": "same-origin",
}


def _host_of(netloc: str) -> str | None:
    try:
        return urlsplit(f"//{netloc}").hostname
    except ValueError:
        return None


def _most(method: str, path: str) -> tuple[int, str]:
    """How many bytes may be sent, and what is said of more."""
    if method in ("PUT", "POST") and path.endswith("/photo"):
        return MOST_PHOTO, PHOTO_TOO_LARGE
    if method == "POST" and path == "/api/copies/brought":
        return MOST_COPY, COPY_TOO_LARGE
    return MOST_BODY, TOO_LARGE


def is_own_page(headers: Headers) -> bool:
    """Whether a request says that it is from a page of the address that it asks."""
    try:
        return urlsplit(headers.get("origin", "")).netloc == headers["host"]
    except (KeyError, ValueError):
        return False


class _TooLarge(Exception):
    """The body is longer than it said."""


class Guard:
    """ASGI middleware that lets in requests to and from this machine only, and those that its door
    to the home network vouches for (`scope["device"]`): it has looked at their host."""

    def __init__(self, app: ASGIApp, token: str) -> None:
        self.app, self._token = app, token.encode()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Let a request through, or answer it with what is wrong."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        most, too_large = _most(scope["method"], scope["path"])
        refusal = self._refusal(scope, headers, most, too_large)
        if refusal is not None:
            await problem(*refusal)(scope, receive, send)
            return
        taken = 0

        async def bounded() -> Message:
            nonlocal taken
            message = await receive()
            taken += len(message.get("body", b""))
            if taken > most:
                raise _TooLarge
            return message

        async def guarded(message: Message) -> None:
            # What the application makes of half a body is of no interest.
            if taken > most:
                return
            if message["type"] == "http.response.start":
                answered = MutableHeaders(scope=message)
                answered.update(SECURITY_HEADERS)
                if scope["path"].startswith("/api/"):
                    # What a baker has is kept in no cache but where the answer says otherwise.
                    answered.setdefault("cache-control", "no-store")
            await send(message)

        with suppress(_TooLarge):
            await self.app(scope, bounded, guarded)
        if taken > most:
            await problem(413, too_large)(scope, receive, send)

    def _refusal(
        self, scope: Scope, headers: Headers, most: int, too_large: str
    ) -> tuple[int, str] | None:
        from_device = scope.get(DEVICE) is not None
        if not from_device and _host_of(headers.get("host", "")) not in OWN_HOSTS:
            return 403, "Fine Batch answers only on this machine: open http://127.0.0.1."
        if scope["method"] not in SAFE_METHODS:
            forbidden = self._forbidden(headers, by_token=not from_device)
            if forbidden is not None:
                return 403, forbidden
        length = headers.get("content-length", "0")
        if length.isdigit() and len(length) < 20 and int(length) > most:
            return 413, too_large
        return None

    def _forbidden(self, headers: Headers, *, by_token: bool) -> str | None:
        """Why a request may change nothing: a page says where it is from, a program of this machine
        has a token."""
        if "origin" in headers:
            return None if is_own_page(headers) else FROM_ELSEWHERE
        sent = headers.get(TOKEN, "").encode("latin-1", "replace")
        return None if by_token and compare_digest(sent, self._token) else WITHOUT_TOKEN


FROM_ELSEWHERE = "This request comes from another site and is not answered."
WITHOUT_TOKEN = (
    "Only the pages of Fine Batch change something, and programs that send its token in the "
    f"header {TOKEN}: finebatch token says it."
)
TOO_LARGE = "That is too much at once: at most 1 MB can be sent."
COPY_TOO_LARGE = "This file is too large: a copy of at most 2 GB can be brought in."
PHOTO_TOO_LARGE = "This photo is too large. Choose a JPEG or PNG of at most 15 MB."
