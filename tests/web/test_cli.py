import socket
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest


def finebatch(*args: str, **environment: str) -> subprocess.CompletedProcess[str]:
    import os

    return subprocess.run(
        [sys.executable, "-m", "finebatch.cli", *args],
        env={**os.environ, **environment},
        check=False,
        capture_output=True,
        text=True,
        timeout=60,
    )


def test_a_busy_port_says_what_to_do() -> None:
    with socket.socket() as busy:
        busy.bind(("127.0.0.1", 0))
        busy.listen()
        port = busy.getsockname()[1]
        ran = finebatch("demo", FINEBATCH_PORT=str(port))
    assert ran.returncode == 1
    assert f"Port {port} is in use" in ran.stderr
    assert f"FINEBATCH_PORT={min(port + 1, 65535)} make demo" in ran.stderr


@pytest.mark.parametrize("port", ["abc", "0", "70000"])
def test_a_port_that_is_none_is_named(port: str) -> None:
    ran = finebatch("serve", FINEBATCH_PORT=port)
    assert ran.returncode == 1
    assert f"FINEBATCH_PORT={port} does not fit" in ran.stderr
    assert "Traceback" not in ran.stderr


def test_a_folder_that_cannot_be_used_is_named(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("in the way")
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = str(probe.getsockname()[1])
    file = str(tmp_path / "file" / "x.sqlite3")
    ran = finebatch("serve", FINEBATCH_DATA_FILE=file, FINEBATCH_PORT=port)
    assert ran.returncode == 1
    assert "FINEBATCH_DATA_FILE" in ran.stderr


def test_a_broken_data_file_is_left_as_it_is(tmp_path: Path) -> None:
    file = tmp_path / "x.sqlite3"
    with sqlite3.connect(file) as raw:
        raw.execute("CREATE TABLE dough (id INTEGER)")
    before = file.read_bytes()
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = str(probe.getsockname()[1])
    ran = finebatch("serve", FINEBATCH_DATA_FILE=str(file), FINEBATCH_PORT=port)
    assert ran.returncode == 1
    assert "cannot be used as a data file" in ran.stderr
    with sqlite3.connect(file) as raw:
        tables = raw.execute("SELECT name FROM sqlite_master").fetchall()
    assert tables == [("dough",)]
    assert len(before) > 0
