"""The home network: opened and shut, and the tablets and phones that are let in."""

import io
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Annotated

from fastapi import Request
from pydantic import Field

from finebatch.web import routing
from finebatch.web.deps import Home, Screens
from finebatch.web.guard import DEVICE
from finebatch.web.network.codes import Code
from finebatch.web.network.opening import CHANGED, CannotOpen, HomeNetwork
from finebatch.web.network.paired import PairedDevice, Role
from finebatch.web.types import Body, Out, Text
from finebatch.workflow.errors import Conflict, Missing

router = routing.begin("network", "/api/network")

DeviceName = Annotated[Text, Field(min_length=1, max_length=40)]


class OpenBody(Body):
    """Whether the home network may ask."""

    open: bool


class CodeBody(Body):
    """For whom a code is: `all` may do what this machine's screens may, `kitchen` what is done at
    the oven (Today, Bake, Book, Cold store)."""

    role: Role = Role.ALL


class DeviceBody(Body):
    """What a device is called, and what it may do."""

    name: DeviceName
    role: Role


class DeviceOut(Out):
    """A device that is let in; moments in UTC ms."""

    id: str
    name: str
    role: Role
    paired_at: int
    seen_at: int


class CodeOut(Out):
    """A code that is good for so long yet (ms): for the address `link`, which `qr` draws (the d of
    an SVG path, in squares of one by one, and how many there are to a side)."""

    digits: str
    left_ms: int
    role: Role
    link: str
    qr: str
    qr_side: int


class NetworkOut(Out):
    """Whether the home network may ask, and where; the certificate's SHA-256; the devices.

    `guessed_at` says that the last code was tried wrongly too often and is void.
    """

    open: bool
    addresses: list[str]
    fingerprint: str
    own_certificate: bool
    code: CodeOut | None
    guessed_at: bool
    devices: list[DeviceOut]


class MeOut(Out):
    """Who asks: a device that was let in, or (null) this machine itself."""

    device: DeviceOut | None


def path_of(modules: list[bytearray]) -> str:
    """The d of an SVG path: each run of dark squares in a row as one rectangle, in squares."""
    found = io.StringIO()
    for y, row in enumerate(modules):
        x = 0
        while x < len(row):
            run = 0
            while x + run < len(row) and row[x + run]:
                run += 1
            if run:
                found.write(f"M{x} {y}h{run}v1h-{run}z")
            x += run + 1
    return found.getvalue()


def _code_out(home: HomeNetwork, code: Code | None) -> CodeOut | None:
    if code is None or not home.is_open:
        return None
    import segno

    link = home.link(code)
    modules = [bytearray(row) for row in segno.make(link, error="m", micro=False).matrix]
    return CodeOut(
        digits=code.digits,
        left_ms=home.codes.left_ms(code),
        role=code.role,
        link=link,
        qr=path_of(modules),
        qr_side=len(modules),
    )


def _shown(home: HomeNetwork) -> NetworkOut:
    return NetworkOut(
        open=home.is_open,
        addresses=home.addresses,
        fingerprint=home.fingerprint,
        own_certificate=home.own_certificate,
        code=_code_out(home, home.codes.good),
        guessed_at=home.codes.locked,
        devices=[DeviceOut.model_validate(one) for one in home.paired.all()],
    )


@router.get("")
def get_network(home: Home) -> NetworkOut:
    """Whether the home network may ask, the code that is good, and who is let in."""
    return _shown(home)


@router.put("")
async def open_network(body: OpenBody, home: Home, screens: Screens) -> NetworkOut:
    """Open the home network, or shut it: all that comes from it is cut off then."""
    try:
        await (home.open() if body.open else home.shut())
    except CannotOpen as error:
        raise Conflict(str(error)) from error
    screens.tell(CHANGED, {})
    return _shown(home)


@router.post("/code")
def make_code(body: CodeBody, home: Home, screens: Screens) -> NetworkOut:
    """A code by which one device is let in, good for two minutes and five tries."""
    try:
        home.let_in(body.role)
    except CannotOpen as error:
        raise Conflict(str(error)) from error
    screens.tell(CHANGED, {})
    return _shown(home)


@router.delete("/code")
def drop_code(home: Home, screens: Screens) -> NetworkOut:
    """Let nobody in by the code that is shown."""
    home.codes.drop()
    screens.tell(CHANGED, {})
    return _shown(home)


GONE = "This device is let in no more."


@contextmanager
def _kept(what: str) -> Iterator[None]:
    try:
        yield
    except OSError as error:
        raise Conflict(
            f"{what} until the next start only: it cannot be written down ({error.strerror}). "
            "Make room, and do it again."
        ) from error


@router.put("/devices/{device_id}")
def change_device(device_id: str, body: DeviceBody, home: Home, screens: Screens) -> NetworkOut:
    """Call a device otherwise, or let it do more or less."""
    with _kept("That holds"):
        if not home.paired.change(device_id, body.name, body.role):
            raise Missing(GONE)
    screens.tell(CHANGED, {})
    return _shown(home)


@router.delete("/devices/{device_id}")
def let_device_go(device_id: str, home: Home, screens: Screens) -> NetworkOut:
    """Let a device in no more; what it has open is ended at once."""
    with _kept("It is out"):
        if not home.paired.let_go(device_id):
            raise Missing(GONE)
    screens.tell(CHANGED, {})
    return _shown(home)


@router.get("/me")
def who_am_i(request: Request) -> MeOut:
    """Which device asks."""
    device: PairedDevice | None = request.scope.get(DEVICE)
    return MeOut(device=DeviceOut.model_validate(device) if device else None)
