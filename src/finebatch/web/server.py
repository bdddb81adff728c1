"""The server process: on this machine only, and gone at once when it is stopped."""

import socket

import uvicorn
from fastapi import FastAPI

from finebatch.web.wire import Wire


class OwnServer(uvicorn.Server):
    """Screens hold their stream open for as long as they are: it is ended before waiting."""

    async def shutdown(self, sockets: list[socket.socket] | None = None) -> None:
        """End the streams, then all else as usual."""
        wire: Wire = self.config.app.state.wire  # type: ignore[union-attr]
        wire.close()
        await super().shutdown(sockets)


def server_of(app: FastAPI, port: int) -> OwnServer:
    """The server of an application on 127.0.0.1."""
    return OwnServer(
        uvicorn.Config(app, host="127.0.0.1", port=port, log_level="warning",
                       timeout_graceful_shutdown=2)
    )  # fmt: skip
