"""How long the door waits for somebody who says nothing."""

import asyncio
from typing import Any

from uvicorn.protocols.http.h11_impl import H11Protocol

REQUEST_WITHIN_S = 10.0
"""A connection that has not sent the head of a request by then is closed."""


class Patience(H11Protocol):
    """HTTP as uvicorn speaks it, for whom it does not know: a head that is not sent to its end
    does not hold a connection."""

    _timer: asyncio.TimerHandle | None = None

    def connection_made(self, transport: Any) -> None:
        """Wait for the first request, for a while."""
        super().connection_made(transport)
        self._wait()

    def data_received(self, data: bytes) -> None:
        """Wait for the rest of a head no longer than for a whole one."""
        super().data_received(data)
        self._wait()

    def connection_lost(self, exc: Exception | None) -> None:
        """Wait no more."""
        self._stop_waiting()
        super().connection_lost(exc)

    def on_response_complete(self) -> None:
        """The next request has its own time."""
        super().on_response_complete()
        self._wait()

    def _is_answering(self) -> bool:
        return self.cycle is not None and not self.cycle.response_complete

    def _wait(self) -> None:
        if self._is_answering():
            self._stop_waiting()
        elif self._timer is None:
            self._timer = self.loop.call_later(REQUEST_WITHIN_S, self._give_up)

    def _stop_waiting(self) -> None:
        if self._timer is not None:
            self._timer.cancel()
            self._timer = None

    def _give_up(self) -> None:
        self._timer = None
        if not self._is_answering() and not self.transport.is_closing():
            self.transport.close()
