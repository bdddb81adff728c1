"""A real server in its own process or thread, and Debian's Chromium to drive it."""

import os
import shutil
import socket
import subprocess
import sys
import threading
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from http.server import BaseHTTPRequestHandler, HTTPServer
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Page, expect

from finebatch.core.measures.figures import ANCHOR
from finebatch.settings import Settings
from finebatch.store.database import Database
from finebatch.web import guard
from finebatch.web.app import create_app
from finebatch.web.server import server_of
from finebatch.web.wire import Wire
from tests.browser import BARE
from tests.conftest import DataFiles, HandClock, make_data_files

expect.set_options(timeout=20_000)


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, object]:
    return {
        "executable_path": os.environ.get("CHROMIUM", "/usr/bin/chromium"),
        "args": BARE,
    }


@pytest.fixture(scope="session")
def browser_context_args() -> dict[str, object]:
    return {
        "viewport": {"width": 1280, "height": 800},
        "timezone_id": "Europe/Berlin",
        "locale": "en-GB",
        "extra_http_headers": {guard.TOKEN: TOKEN},
    }


class _Blank(BaseHTTPRequestHandler):
    """A page with nothing on it."""

    def do_GET(self) -> None:
        self.send_response(200)
        self.end_headers()

    def log_message(self, *_: object) -> None:
        """Say nothing."""


@pytest.fixture(scope="session")
def warm(browser: Browser, browser_context_args: dict[str, Any]) -> Iterator[Page]:
    """A window that stays, and keeps the interface's code in mind: one that knows none of it takes
    a second of a processor more."""
    with HTTPServer(("127.0.0.1", 0), _Blank) as blank:
        threading.Thread(target=blank.serve_forever, daemon=True).start()
        page = browser.new_context(**browser_context_args).new_page()
        page.goto(f"http://127.0.0.1:{blank.server_port}")
        yield page
        blank.shutdown()


@pytest.fixture
def context(warm: Page, port: int) -> Iterator[BrowserContext]:
    """The same one for all tests, without what a screen has kept for itself."""
    yield warm.context
    for page in warm.context.pages:
        if page is not warm:
            page.close()
    warm.context.clear_cookies()
    warm.context.clear_permissions()
    kept = {"origin": f"http://127.0.0.1:{port}", "storageTypes": "local_storage,cache_storage"}
    asking = warm.context.new_cdp_session(warm)
    asking.send("Storage.clearDataForOrigin", kept)
    asking.detach()


TOKEN = "the-token-of-these-tests"
"""What a test sends that asks the server beside the pages that it looks at."""


def put_token(data_file: Path) -> None:
    """Make it that of the server that is started on that file."""
    data_file.with_name(data_file.name + ".token").write_text(TOKEN)


_given: set[int] = set()


def free_port() -> int:
    """One that was given to no test before: browsers keep things by address."""
    while True:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            port: int = probe.getsockname()[1]
        if port not in _given:
            _given.add(port)
            return port


def wait_for(address: str) -> None:
    """Return once something answers at the address; fail after a minute, as machines stall."""
    until = time.monotonic() + 60
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
    wire: Wire


@pytest.fixture(scope="session")
def files_of_now(tmp_path_factory: pytest.TempPathFactory) -> DataFiles:
    return make_data_files(tmp_path_factory.mktemp("now"), round(time.time() * 1000))


@pytest.fixture(scope="session")
def port() -> int:
    """Where one server after the other answers, so that the browser knows its files."""
    return free_port()


@contextmanager
def serving(folder: Path, kept: Path, at: int, port: int) -> Iterator[Served]:
    clock = HandClock(at)
    file = folder / "ui.sqlite3"
    shutil.copy(kept, file)
    put_token(file)
    app = create_app(Settings(data_file=file, plan_seconds=0.5), clock)
    server = server_of(app, port)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    address = f"http://127.0.0.1:{port}"
    wait_for(address)
    yield Served(address, clock, app.state.database, app.state.wire)
    server.should_exit = True
    thread.join(10)


@pytest.fixture
def served(tmp_path: Path, files_of_now: DataFiles, port: int) -> Iterator[Served]:
    with serving(tmp_path, files_of_now.demo, files_of_now.at, port) as found:
        yield found


@pytest.fixture
def empty(tmp_path: Path, files_of_now: DataFiles, port: int) -> Iterator[Served]:
    """The same on an empty data file, as it is at a first start."""
    with serving(tmp_path, files_of_now.empty, files_of_now.at, port) as found:
        yield found


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
        put_token(self.data_file)
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


@dataclass
class ClockedServer(OwnServer):
    """The same by a clock that the test moves, and that goes on where it was after a kill."""

    at: int = field(default_factory=lambda: round(time.time()) * 1000)

    def start(self, command: str = "demo") -> None:
        self.set_clock(self.at)
        script = Path(__file__).parent / "clocked_server.py"
        put_token(self.data_file)
        arguments = [str(self.data_file), str(self._clock_file), str(self.port)]
        self.process = subprocess.Popen([sys.executable, str(script), *arguments])
        wait_for(self.address)

    @property
    def _clock_file(self) -> Path:
        return self.data_file.with_suffix(".clock")

    def set_clock(self, at: int) -> None:
        """Move the clock; the server never sees half a number."""
        self.at = at
        fresh = self._clock_file.with_suffix(".new")
        fresh.write_text(str(at))
        fresh.replace(self._clock_file)


@pytest.fixture
def clocked_server(tmp_path: Path) -> Iterator[ClockedServer]:
    server = ClockedServer(tmp_path / "clocked.sqlite3")
    server.start()
    yield server
    server.kill()


@pytest.fixture
def own_server(tmp_path: Path, files_of_now: DataFiles) -> Iterator[OwnServer]:
    """On the demo's doughs, with nothing planned yet."""
    server = OwnServer(tmp_path / "own.sqlite3")
    shutil.copy(files_of_now.demo, server.data_file)
    server.start()
    yield server
    server.kill()


@pytest.fixture
def demo_server(tmp_path: Path) -> Iterator[OwnServer]:
    """As `make demo` starts it for the first time."""
    server = OwnServer(tmp_path / "demo.sqlite3")
    server.start()
    yield server
    server.kill()


@pytest.fixture(autouse=True)
def quiet_console(page: Page, request: pytest.FixtureRequest) -> Iterator[None]:
    """No screen may throw, or break its own content security policy; but for a test that makes one
    throw (`loud`)."""
    said: list[str] = []

    def hear(message: ConsoleMessage) -> None:
        if message.type == "error" and "Failed to load resource" not in message.text:
            said.append(message.text)

    page.on("console", hear)
    page.on("pageerror", lambda error: said.append(str(error)))
    yield
    assert said == [] or request.node.get_closest_marker("loud")
    # Figures in words reach nobody unread.
    assert page.is_closed() or ANCHOR not in page.evaluate("document.body.innerText")


@pytest.fixture(autouse=True)
def no_page_left(browser: Browser, page: Page) -> Iterator[None]:
    """Close the windows that a test has opened: one that is left looks for its server for good."""
    yield
    for context in browser.contexts:
        if context is not page.context:
            context.close()


def every_job(page: Page) -> None:
    """Show the day job by job, where it is shown in stretches of work.

    By key: while a plan comes in the screen grows, and a mouse that was aimed before misses.
    """
    way = page.get_by_role("radio", name="every job")
    way.press("Space")
    expect(way).to_be_checked()
