"""A real server in its own process or thread, and Debian's Chromium to drive it."""

import os
import socket
import subprocess
import sys
import threading
import time
import urllib.request
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import pytest
import uvicorn
from playwright.sync_api import ConsoleMessage, Page, expect

from finebatch.demo.load import load
from finebatch.settings import Settings
from finebatch.store.database import Database
from finebatch.web.app import create_app
from tests.conftest import HandClock

expect.set_options(timeout=10_000)


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, object]:
    return {
        "executable_path": os.environ.get("CHROMIUM", "/usr/bin/chromium"),
        "args": ["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
    }


@pytest.fixture(scope="session")
def browser_context_args() -> dict[str, object]:
    return {"viewport": {"width": 1280, "height": 800}, "timezone_id": "Europe/Berlin"}


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port: int = probe.getsockname()[1]
    return port


def wait_for(address: str) -> None:
    """Return once something answers at the address; fail after twenty seconds."""
    until = time.monotonic() + 20
    while time.monotonic() < until:
        try:
            with urllib.request.urlopen(address + "/api/words", timeout=2):
                return
        except OSError:
            threading.Event().wait(0.05)
    raise TimeoutError(f"nothing answers at {address}")


@dataclass
class Served:
    """A server in this process, on the demo data, with a clock that the test moves."""

    address: str
    clock: HandClock
    database: Database


@pytest.fixture
def served(tmp_path: Path) -> Iterator[Served]:
    clock = HandClock(round(time.time() * 1000))
    app = create_app(Settings(data_file=tmp_path / "ui.sqlite3", plan_seconds=0.5), clock)
    load(app.state.database, clock())
    port = free_port()
    server = uvicorn.Server(uvicorn.Config(app, port=port, log_level="warning"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    address = f"http://127.0.0.1:{port}"
    wait_for(address)
    yield Served(address, clock, app.state.database)
    server.should_exit = True
    thread.join(10)


@dataclass
class OwnServer:
    """The installed command in a process of its own, to be killed and started again."""

    data_file: Path
    port: int = field(default_factory=free_port)
    process: subprocess.Popen[bytes] | None = None

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self, command: str = "demo") -> None:
        environment = {
            **os.environ,
            "FINEBATCH_DATA_FILE": str(self.data_file),
            "FINEBATCH_PORT": str(self.port),
            "FINEBATCH_PLAN_SECONDS": "0.5",
        }
        self.process = subprocess.Popen(
            [sys.executable, "-m", "finebatch.cli", command],
            env=environment,
            stdout=subprocess.DEVNULL,
        )
        wait_for(self.address)

    def kill(self) -> None:
        assert self.process is not None
        self.process.kill()
        self.process.wait()


@pytest.fixture
def own_server(tmp_path: Path) -> Iterator[OwnServer]:
    server = OwnServer(tmp_path / "own.sqlite3")
    server.start()
    yield server
    server.kill()


@pytest.fixture(autouse=True)
def quiet_console(page: Page) -> Iterator[None]:
    """No screen may throw, or break its own content security policy."""
    said: list[str] = []

    def hear(message: ConsoleMessage) -> None:
        if message.type == "error" and "Failed to load resource" not in message.text:
            said.append(message.text)

    page.on("console", hear)
    page.on("pageerror", lambda error: said.append(str(error)))
    yield
    assert said == []
