"""The home network opened and shut: where the door listens, and until when."""

import asyncio
import contextlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import uvicorn
from starlette.types import ASGIApp

from finebatch.settings import Settings
from finebatch.store.places import network_of, private
from finebatch.web.clock import system_clock
from finebatch.web.network.addresses import Address, home_addresses, listening, netloc
from finebatch.web.network.certified import Certified, UnusableCertificate
from finebatch.web.network.codes import Code, Codes
from finebatch.web.network.door import ASK, Door
from finebatch.web.network.paired import Paired, Role
from finebatch.web.network.patience import Patience

LOOK_S = 10.0
"""How often it is looked whether this machine has other addresses."""
BEGINS_S = 0.01
USUAL_PORT = 443
"""Browsers do not name it."""
MOST_CONNECTIONS = 250
CHANGED = "network"


class CannotOpen(Exception):
    """The network cannot be opened; the message says why, and what to do."""


@dataclass(frozen=True, slots=True)
class _Open:
    """What is listened on: the addresses, the server and its task."""

    addresses: tuple[Address, ...]
    certified: Certified
    server: uvicorn.Server
    task: asyncio.Task[None]


class _DoorServer(uvicorn.Server):
    """A second server of one process: signals are the first one's."""

    @contextlib.contextmanager
    def capture_signals(self) -> Iterator[None]:
        """None are."""
        yield


class HomeNetwork:
    """The door to the home network: shut until a baker opens it, and shut again by a press.

    `find` names this machine's addresses. Whether it was open is remembered beside the data file:
    `reopen` opens it again after a start.
    """

    def __init__(
        self,
        app: ASGIApp,
        settings: Settings,
        clock: Callable[[], int],
        tell: Callable[[], None],
        find: Callable[[], list[Address]] = home_addresses,
    ) -> None:
        folder = network_of(settings.data_file)
        self.codes = Codes()
        self.paired = Paired(folder / "devices.json")
        self._door = Door(app, self.paired, self.codes, clock, tell)
        self._folder, self._settings, self._find = folder, settings, find
        self._open: _Open | None = None
        self._one_at_a_time = asyncio.Lock()

    @property
    def is_open(self) -> bool:
        """Whether the network can ask anything."""
        return self._open is not None

    @property
    def addresses(self) -> list[str]:
        """Where it is listened, as browsers are told: the best one first."""
        found = self._open.addresses if self._open else ()
        return [f"https://{netloc(one, self._settings.network_port)}" for one in found]

    @property
    def fingerprint(self) -> str:
        """That of the certificate that a device is asked to trust; empty while it is shut."""
        return self._open.certified.fingerprint if self._open else ""

    @property
    def own_certificate(self) -> bool:
        """Whether the certificate is the kitchen's own, so that nothing has to be installed."""
        return self._open is not None and self._open.certified.authority is None

    def link(self, code: Code) -> str:
        """What the QR code says: the door, with the code where it is not sent."""
        return f"{self.addresses[0]}{ASK}#{code.digits}"

    def let_in(self, role: Role) -> Code:
        """A code for one more device. Raises `CannotOpen` while it is shut."""
        if not self.is_open:
            raise CannotOpen("The home network is shut. Open it first.")
        return self.codes.make(role)

    async def open(self) -> None:
        """Listen on this machine's addresses of the home network; again where it has others.

        Raises `CannotOpen`.
        """
        async with self._one_at_a_time:
            await self._open_on(tuple(await asyncio.to_thread(self._find)))
            # What cannot be remembered is open until the next start.
            with contextlib.suppress(OSError):
                private(self._was_open).close()

    async def shut(self) -> None:
        """Let the network ask no more. Who was let in is known when it is opened again."""
        async with self._one_at_a_time:
            self._was_open.unlink(missing_ok=True)
            await self._close()

    async def end(self) -> None:
        """Close for now, as the server ends."""
        async with self._one_at_a_time:
            await self._close()

    async def reopen(self) -> None:
        """Open again what was open before a start, and follow this machine's addresses."""
        while True:
            wanted = await asyncio.to_thread(self._was_open.exists)
            if wanted:
                async with self._one_at_a_time:
                    with contextlib.suppress(CannotOpen):
                        await self._open_on(tuple(await asyncio.to_thread(self._find)))
            await asyncio.sleep(LOOK_S)

    @property
    def _was_open(self) -> Path:
        return self._folder / "open"

    async def _open_on(self, addresses: tuple[Address, ...]) -> None:
        if self._open is not None and self._open.addresses == addresses:
            return
        if not addresses:
            await self._close()
            raise CannotOpen(
                "This machine is on no home network. Connect it to the one that the tablet or "
                "phone is on, and try again."
            )
        certified = await asyncio.to_thread(self._certified, addresses)
        await self._close()
        port = self._settings.network_port
        try:
            sockets = listening(addresses, port)
        except OSError as error:
            raise CannotOpen(
                f"Port {port} cannot be used ({error.strerror}). Stop what runs there, or choose "
                "another with FINEBATCH_NETWORK_PORT."
            ) from error
        self._door.names = frozenset(netloc(address, port) for address in addresses)
        if port == USUAL_PORT:
            self._door.names |= {netloc(address) for address in addresses}
        self._door.authority, self._door.fingerprint = certified.authority, certified.fingerprint
        server = _DoorServer(
            uvicorn.Config(
                self._door,
                http=Patience,
                lifespan="off",
                log_config=None,
                access_log=False,
                server_header=False,
                date_header=False,
                limit_concurrency=MOST_CONNECTIONS,
                timeout_keep_alive=5,
                timeout_graceful_shutdown=1,
                ssl_certfile=certified.chain,
                ssl_keyfile=certified.key,
            )
        )
        task = asyncio.create_task(server.serve(sockets))
        while not server.started and not task.done():
            await asyncio.sleep(BEGINS_S)
        if task.done() and (fault := task.exception()) is not None:
            raise CannotOpen(f"The certificate or its key cannot be used ({fault}).") from fault
        self._open = _Open(addresses, certified, server, task)

    def _certified(self, addresses: tuple[Address, ...]) -> Certified:
        # Who never opens the network need not wait for it at each start.
        from finebatch.web.network.authority import brought, certify

        chain, key = self._settings.network_certificate, self._settings.network_key
        try:
            if chain is not None and key is not None:
                return brought(chain, key)
            # Browsers judge it by the time of day, also where a demo's clock was put on.
            return certify(self._folder, addresses, system_clock())
        except UnusableCertificate as error:
            raise CannotOpen(str(error)) from error
        except OSError as error:
            raise CannotOpen(
                f"The folder {self._folder} cannot be written to ({error.strerror}). Its keys "
                "have to be kept there: make room, or make it yours."
            ) from error

    async def _close(self) -> None:
        found, self._open = self._open, None
        if found is None:
            return
        self.codes.drop()
        self._door.names = frozenset()
        self._door.cut_off()
        found.server.should_exit = True
        with contextlib.suppress(asyncio.CancelledError, OSError):
            await found.task
