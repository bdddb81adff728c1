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


CARD = "Oat rounds\n250 g plain flour\n100 g butter\n2 kg moon dust\n"


def test_a_dough_is_imported_looked_at_and_exported(tmp_path: Path) -> None:
    data = {"FINEBATCH_DATA_FILE": str(tmp_path / "cli.sqlite3")}
    card, recipe = tmp_path / "rounds.txt", tmp_path / "rounds.jsonld"
    card.write_text(CARD, encoding="utf-8")
    looked = finebatch("import", str(card), "--look", **data)
    assert "Oat rounds: 3 lines, 350 g" in looked.stdout
    assert "“2 kg moon dust”: which ingredient is this?" in looked.stdout
    assert "no dough" in finebatch("export", "1", **data).stderr
    assert "Kept as number 1." in finebatch("import", str(card), **data).stdout
    out = finebatch("export", "Oat rounds", "--out", str(recipe), **data)
    assert (out.returncode, out.stdout) == (0, "")
    assert "Kept as number 2." in finebatch("import", str(recipe), **data).stdout
    texts = [finebatch("export", str(n), "--format", "txt", **data).stdout for n in (1, 2)]
    assert texts[0] == texts[1]
    assert "250 g all-purpose flour" in texts[0]


@pytest.mark.parametrize(
    ("name", "text", "words"),
    [("a.json", "{", "not JSON"), ("a.csv", "a,b\n", "first row"), ("a.txt", "", "No ingredient")],
)
def test_a_file_that_cannot_be_imported_says_why(
    tmp_path: Path, name: str, text: str, words: str
) -> None:
    file = tmp_path / name
    file.write_text(text, encoding="utf-8")
    ran = finebatch("import", str(file), FINEBATCH_DATA_FILE=str(tmp_path / "cli.sqlite3"))
    assert ran.returncode == 2
    assert words in ran.stderr
    assert "Traceback" not in ran.stderr


def test_an_export_that_cannot_be_names_what_can(tmp_path: Path) -> None:
    data = {"FINEBATCH_DATA_FILE": str(tmp_path / "cli.sqlite3")}
    assert "jsonld, csv, txt, md" in finebatch("export", "1", "--format", "doc", **data).stderr
    (tmp_path / "a.txt").write_text(CARD, encoding="utf-8")
    finebatch("import", str(tmp_path / "a.txt"), **data)
    nowhere = finebatch("export", "1", "--out", str(tmp_path / "no" / "file"), **data)
    assert nowhere.returncode == 1
    assert "cannot be written" in nowhere.stderr
