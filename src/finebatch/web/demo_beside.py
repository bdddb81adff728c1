"""The demo beside a kitchen of one's own: a process of its own, on data that are thrown away."""

import os
import secrets
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import urllib.error
import urllib.request
from pathlib import Path

ANSWERS_S = 0.5
STOPS_S = 5.0


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port: int = probe.getsockname()[1]
    return port


def _answers(address: str) -> bool:
    try:
        with urllib.request.urlopen(f"{address}/api/about", timeout=ANSWERS_S) as answer:
            return bool(answer.status == 200)
    except (OSError, urllib.error.URLError):
        return False


class DemoBeside:
    """Starts the demo when it is first asked for, and ends it with this process."""

    def __init__(self) -> None:
        self._folder: tempfile.TemporaryDirectory[str] | None = None
        self._process: subprocess.Popen[bytes] | None = None
        self._address = ""
        self._lock = threading.Lock()

    def look(self, back_to: str) -> tuple[str, bool]:
        """Where the demo is, and whether it answers yet; begun where it does not run. `back_to` is
        where one came from."""
        with self._lock:
            if self._process is None or self._process.poll() is not None:
                self._start(back_to)
            return self._address, _answers(self._address)

    def _start(self, back_to: str) -> None:
        self._clear()
        self._folder = tempfile.TemporaryDirectory(prefix=f"finebatch-demo-{secrets.token_hex(4)}")
        port = _free_port()
        self._address = f"http://127.0.0.1:{port}"
        # It ends when the pipe to it does: however this process ends.
        self._process = subprocess.Popen(
            [sys.executable, "-m", "finebatch.cli", "demo"],
            env={
                **os.environ,
                "FINEBATCH_DATA_FILE": str(Path(self._folder.name) / "demo.sqlite3"),
                "FINEBATCH_PORT": str(port),
                "FINEBATCH_BACK_TO": back_to,
            },
            stdin=subprocess.PIPE,
            stdout=subprocess.DEVNULL,
        )

    def close(self) -> None:
        """End the demo, if it runs."""
        with self._lock:
            self._clear()

    def _clear(self) -> None:
        if self._process is not None:
            self._process.terminate()
            try:
                self._process.wait(STOPS_S)
            except subprocess.TimeoutExpired:
                self._process.kill()
                self._process.wait()
            if self._process.stdin is not None:
                self._process.stdin.close()
            self._process = None
        if self._folder is not None:
            self._folder.cleanup()
            self._folder = None


def end_with_parent() -> None:
    """Stop this process once whoever started it is gone: its end of the pipe is closed then."""

    def wait() -> None:
        sys.stdin.buffer.read()
        os.kill(os.getpid(), signal.SIGTERM)

    threading.Thread(target=wait, daemon=True).start()
