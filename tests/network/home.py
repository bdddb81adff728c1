"""A kitchen with an address of a home, in a network namespace of its own."""

import contextlib
import fcntl
import os
import shutil
import socket
import ssl
import struct
import threading
import time
from collections.abc import Iterator
from dataclasses import dataclass
from ipaddress import ip_address
from pathlib import Path

import httpx
import pytest
from fastapi import FastAPI
from playwright.sync_api import Page

from finebatch.settings import Settings
from finebatch.store.places import network_of
from finebatch.web.app import create_app
from finebatch.web.network.authority import certify
from finebatch.web.network.opening import HomeNetwork
from finebatch.web.server import server_of
from tests.conftest import DataFiles, HandClock
from tests.ui.test_screens import check_axe

HOME = "192.168.77.2"
HERE_PORT, HOME_PORT = 8765, 8766
DOOR = f"https://{HOME}:{HOME_PORT}"
CHROMIUM = os.environ.get("CHROMIUM", "/usr/bin/chromium")
SET_ADDRESS, SET_FLAGS = 0x8916, 0x8914


@pytest.fixture(scope="module", autouse=True)
def a_network_of_its_own() -> None:
    """The loopback of the namespace, which has no other link, is up and is given that address."""
    assert [name for _, name in socket.if_nameindex()] == ["lo"], "run it by test_in_a_namespace"
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as link:
        fcntl.ioctl(link, SET_FLAGS, struct.pack("16sH14x", b"lo", 0x1 | 0x40))
        address = socket.inet_aton(HOME)
        named = struct.pack("16sHH4s8x", b"lo:1", socket.AF_INET, 0, address)
        fcntl.ioctl(link, SET_ADDRESS, named)


@dataclass
class Kitchen:
    """A server of this namespace, and how its own screens and devices ask it."""

    app: FastAPI
    clock: HandClock
    here: httpx.Client
    trusting: ssl.SSLContext

    @property
    def home(self) -> HomeNetwork:
        found: HomeNetwork = self.app.state.home
        return found

    def stranger(self) -> httpx.Client:
        """Somebody of the network."""
        return httpx.Client(base_url=DOOR, verify=self.trusting, headers={"origin": DOOR})

    def code(self, role: str = "all") -> str:
        answer = self.here.post("/api/network/code", json={"role": role}).json()
        digits: str = answer["code"]["digits"]
        return digits

    def device(self, role: str = "all", name: str = "Tablet") -> httpx.Client:
        """One that was let in."""
        found = self.stranger()
        with self.stranger() as asking:
            answer = asking.post("/let-in", json={"code": self.code(role), "name": name})
            assert answer.status_code == 204, answer.text
            found.cookies = asking.cookies
        return found


@contextlib.contextmanager
def serving(file: Path, at: int, *, reopens: bool) -> Iterator[Kitchen]:
    clock = HandClock(at)
    settings = Settings(data_file=file, plan_seconds=0.5, port=HERE_PORT, network_port=HOME_PORT)
    app = create_app(settings, clock)
    app.state.reopens = reopens
    server = server_of(app, HERE_PORT)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    at_here = f"http://127.0.0.1:{HERE_PORT}"
    trusting = ssl.create_default_context()
    with httpx.Client(base_url=at_here, headers={"origin": at_here}, timeout=30) as here:
        for _ in range(200):
            with contextlib.suppress(httpx.HTTPError):
                here.get("/api/about")
                break
            time.sleep(0.05)
        yield Kitchen(app, clock, here, trusting)
    server.should_exit = True
    thread.join(10)
    assert not thread.is_alive()


@pytest.fixture(scope="session")
def authority(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """That of all kitchens, so that one browser trusts them all: made as theirs is."""
    folder = tmp_path_factory.mktemp("authority")
    certify(folder, (ip_address(HOME),), round(time.time() * 1000))
    return folder


@pytest.fixture
def kitchen(tmp_path: Path, data_files: DataFiles, authority: Path) -> Iterator[Kitchen]:
    file = tmp_path / "test.sqlite3"
    shutil.copy(data_files.demo, file)
    network_of(file).mkdir(mode=0o700)
    for name in ("authority.key", "authority.crt"):
        shutil.copy(authority / name, network_of(file))
    with serving(file, data_files.at, reopens=False) as found:
        opened = found.here.put("/api/network", json={"open": True})
        assert opened.json()["addresses"] == [DOOR], opened.text
        found.trusting.load_verify_locations(network_of(file) / "authority.crt")
        yield found


def looked_at(page: Page) -> None:
    """It fits as a phone, an upright tablet and a desk; axe finds nothing on the first two."""
    for width, theme in ((390, "evening"), (820, "light"), (1280, None)):
        page.set_viewport_size({"width": width, "height": 900})
        assert page.evaluate("document.documentElement.scrollWidth") <= width
        if theme:
            page.evaluate(f"document.documentElement.dataset.theme = '{theme}'")
            check_axe(page)
