"""Servers that are begun quickly, and killed."""

import os
import resource
import signal
import socket
import sqlite3
import time
from collections.abc import Callable
from contextlib import closing, suppress
from dataclasses import dataclass, field
from pathlib import Path

import httpx

from finebatch.demo.load import load
from finebatch.settings import Settings
from finebatch.store.database import Database, UnusableFile
from finebatch.store.places import token_of
from finebatch.web.app import create_app
from finebatch.web.guard import TOKEN
from finebatch.web.server import server_of

LONGEST_S = 30.0


class Broken(AssertionError):
    """Something did not hold."""


def sure(holds: bool, what: str) -> None:
    """`Broken` unless it holds, whatever the interpreter was told of assertions."""
    if not holds:
        raise Broken(what)


def free_port() -> int:
    """A port that nobody has."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def in_a_child(work: Callable[[], object], says: str | Path = os.devnull) -> int:
    """Do something in a process of its own, which has all modules already; its number. `says` is
    the file for what it says of its faults."""
    child = os.fork()
    if child:
        return child
    os.dup2(os.open(says, os.O_WRONLY | os.O_CREAT | os.O_APPEND, 0o600), 2)
    try:
        work()
        os._exit(0)
    except BaseException:
        os._exit(1)


def ended(child: int) -> int:
    """Wait for a process; its exit status, negative for the signal that ended it."""
    _, status = os.waitpid(child, 0)
    return os.waitstatus_to_exitcode(status)


@dataclass
class Server:
    """A server on a data file, in a process that can be killed. `most_bytes` is how large any file
    may get that it writes, as on a disk that is full."""

    file: Path
    most_bytes: int | None = None
    port: int = field(default_factory=free_port)
    child: int = 0

    @property
    def address(self) -> str:
        """Where it answers."""
        return f"http://127.0.0.1:{self.port}"

    @property
    def _says(self) -> Path:
        return self.file.with_name(f"{self.file.name}.says")

    def last_words(self) -> str:
        """What it said last of its faults."""
        return "\n".join(self._says.read_text().splitlines()[-12:])

    def start(self) -> "Server":
        """Begin it, and wait until it answers."""
        self.child = in_a_child(self._run, self._says)
        until = time.monotonic() + LONGEST_S
        while time.monotonic() < until:
            with suppress(httpx.TransportError):
                httpx.get(f"{self.address}/api/stock", timeout=2)
                return self
            done, _ = os.waitpid(self.child, os.WNOHANG)
            if done:
                break
            time.sleep(0.01)
        raise Broken("no server answers")

    def _run(self) -> None:
        if self.most_bytes is not None:
            signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
            resource.setrlimit(resource.RLIMIT_FSIZE, (self.most_bytes, self.most_bytes))
        with suppress(UnusableFile):
            app = create_app(Settings(data_file=self.file, plan_seconds=0.2))
            server_of(app, self.port).run()

    def client(self) -> httpx.Client:
        """A program that asks it."""
        sent = {TOKEN: token_of(self.file)}
        return httpx.Client(base_url=f"{self.address}/api", headers=sent, timeout=LONGEST_S)

    def kill(self) -> None:
        """End it as a power cut does, as far as a process goes."""
        os.kill(self.child, signal.SIGKILL)
        ended(self.child)

    def stop(self) -> float:
        """Ask it to end; how many seconds that took."""
        began = time.monotonic()
        os.kill(self.child, signal.SIGTERM)
        ended(self.child)
        return time.monotonic() - began

    def memory_mb(self) -> float:
        """What it holds."""
        status = Path(f"/proc/{self.child}/status").read_text()
        return int(status.split("VmRSS:")[1].split()[0]) / 1024

    def cpu_s(self) -> float:
        """What it has taken of a processor, with what it waited for."""
        fields = Path(f"/proc/{self.child}/stat").read_text().rpartition(")")[2].split()
        return sum(map(int, fields[11:15])) / os.sysconf("SC_CLK_TCK")


def demo(file: Path) -> Path:
    """A data file with something in it."""
    database = Database(file)
    load(database, round(time.time() * 1000))
    database.close()
    return file


def whole(file: Path) -> None:
    """`Broken` unless a data file is whole."""
    with closing(sqlite3.connect(file)) as raw:
        found = raw.execute("PRAGMA integrity_check").fetchone()[0]
        sure(found == "ok", f"{file}: {found}")
        loose = raw.execute("PRAGMA foreign_key_check").fetchone()
        sure(loose is None, f"{file}: {loose} points at nothing")
