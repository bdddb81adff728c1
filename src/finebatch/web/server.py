"""The server process: on this machine only, and gone at once when it is stopped."""

import os
import socket
import threading
from types import FrameType

import uvicorn
from fastapi import FastAPI

from finebatch.web.wire import Wire

LONGEST_STOP_S = 2.5
"""What is then still being worked out is let go of: what was kept is kept, whatever happens."""


class OwnServer(uvicorn.Server):
    """Screens hold their stream open for as long as they are: it is ended before waiting."""

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        """Stop as usual, and in any case soon: a thread that works something out ends with it."""
        at_last = threading.Timer(LONGEST_STOP_S, os._exit, [128 + sig])
        at_last.daemon = True
        at_last.start()
        super().handle_exit(sig, frame)

    async def shutdown(self, sockets: list[socket.socket] | None = None) -> None:
        """End the streams, then all else as usual."""
        wire: Wire = self.config.app.state.wire  # type: ignore[union-attr]
        wire.close()
        await super().shutdown(sockets)


def server_of(app: FastAPI, port: int) -> OwnServer:
    """The server of an application on 127.0.0.1."""
    return OwnServer(
        uvicorn.Config(
            app, host="127.0.0.1", port=port, log_level="warning", timeout_graceful_shutdown=2
        )
    )
