import os
import socket
import sqlite3
import subprocess
import sys
import zipfile
from pathlib import Path

import pytest
from click.testing import Result
from typer.testing import CliRunner

from finebatch.cli import app
from finebatch.store.places import Served
from tests.pictures import put_photo

ROOT = Path(__file__).parent.parent.parent


def finebatch(*args: str, **environment: str) -> Result:
    """The command in this process, which is much quicker than one of its own."""
    return CliRunner().invoke(app, args, env=environment)


def serving(*args: str, **environment: str) -> subprocess.CompletedProcess[str]:
    """The command as it is started: what refuses to serve must also end."""
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
    assert ran.exit_code == 1
    assert f"Port {port} is in use" in ran.stderr
    assert f"FINEBATCH_PORT={min(port + 1, 65535)} make demo" in ran.stderr


def test_a_second_server_is_told_of_the_first(tmp_path: Path) -> None:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = str(probe.getsockname()[1])
    file = tmp_path / "x.sqlite3"
    first = Served(file, "http://127.0.0.1:8765")
    ran = finebatch("serve", FINEBATCH_DATA_FILE=str(file), FINEBATCH_PORT=port)
    first.give_up()
    assert ran.exit_code == 1
    assert "already: http://127.0.0.1:8765" in ran.stderr


@pytest.mark.parametrize("port", ["abc", "0", "70000"])
def test_a_port_that_is_none_is_named(port: str) -> None:
    ran = finebatch("serve", FINEBATCH_PORT=port)
    assert ran.exit_code == 1
    assert f"FINEBATCH_PORT={port} does not fit" in ran.stderr
    assert ran.exception is None or isinstance(ran.exception, SystemExit)


def test_a_folder_that_cannot_be_used_is_named(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("in the way")
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = str(probe.getsockname()[1])
    file = str(tmp_path / "file" / "x.sqlite3")
    ran = finebatch("serve", FINEBATCH_DATA_FILE=file, FINEBATCH_PORT=port)
    assert ran.exit_code == 1
    assert "FINEBATCH_DATA_FILE" in ran.stderr


def test_a_broken_data_file_is_left_as_it_is(tmp_path: Path) -> None:
    file = tmp_path / "x.sqlite3"
    with sqlite3.connect(file) as raw:
        raw.execute("CREATE TABLE dough (id INTEGER)")
    before = file.read_bytes()
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = str(probe.getsockname()[1])
    ran = serving("serve", FINEBATCH_DATA_FILE=str(file), FINEBATCH_PORT=port)
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
    assert (out.exit_code, out.stdout) == (0, "")
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
    assert ran.exit_code == 2
    assert words in ran.stderr
    assert "Traceback" not in ran.stderr


def test_an_export_that_cannot_be_names_what_can(tmp_path: Path) -> None:
    data = {"FINEBATCH_DATA_FILE": str(tmp_path / "cli.sqlite3")}
    assert "jsonld, csv, txt, md" in finebatch("export", "1", "--format", "doc", **data).stderr
    (tmp_path / "a.txt").write_text(CARD, encoding="utf-8")
    finebatch("import", str(tmp_path / "a.txt"), **data)
    nowhere = finebatch("export", "1", "--out", str(tmp_path / "no" / "file"), **data)
    assert nowhere.exit_code == 1
    assert "cannot be written" in nowhere.stderr


def test_a_backup_is_taken_beside_a_writer_and_brings_all_back(tmp_path: Path) -> None:
    data = {"FINEBATCH_DATA_FILE": str(tmp_path / "cli.sqlite3")}
    card, packed = tmp_path / "a.txt", tmp_path / "kept.zip"
    card.write_text(CARD, encoding="utf-8")
    assert "no data file yet" in finebatch("backup", str(packed), **data).stderr
    finebatch("import", str(card), **data)
    put_photo(tmp_path / "cli.sqlite3", "1.jpg")
    (tmp_path / "cli.sqlite3.photos" / "2.jpg").write_bytes(b"of a bake that was not kept")
    with sqlite3.connect(tmp_path / "cli.sqlite3") as writer:
        writer.execute("UPDATE dough SET name = 'Not yet'")
        assert "and 1 photos" in finebatch("backup", str(packed), **data).stdout
        writer.rollback()
    back = tmp_path / "back"
    with zipfile.ZipFile(packed) as unpacked:
        unpacked.extractall(back)
    again = {"FINEBATCH_DATA_FILE": str(back / "cli.sqlite3")}
    assert "Oat rounds" in finebatch("export", "1", "--format", "txt", **again).stdout
    assert (back / "cli.sqlite3.photos" / "1.jpg").read_bytes() == b"a picture"


def test_a_backup_never_takes_the_place_of_a_file(tmp_path: Path) -> None:
    data = {"FINEBATCH_DATA_FILE": str(tmp_path / "cli.sqlite3")}
    (tmp_path / "a.txt").write_text(CARD, encoding="utf-8")
    finebatch("import", str(tmp_path / "a.txt"), **data)
    there = tmp_path / "there.zip"
    there.write_text("older")
    for to in (there, tmp_path / "none" / "x.zip"):
        ran = finebatch("backup", str(to), **data)
        assert ran.exit_code == 1
        assert "was not copied" in ran.stderr
    assert there.read_text() == "older"
    assert sorted(file.name for file in tmp_path.glob("*.zip")) == ["there.zip"]


def test_the_version_is_the_one_of_the_package() -> None:
    said = finebatch("--version").output.strip()
    assert f'version = "{said}"' in (ROOT / "pyproject.toml").read_text(encoding="utf-8")
