"""Copies over the wire: made, listed, taken, and what cannot be is told."""

import io
import zipfile
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from finebatch.store import backup
from tests.conftest import HandClock


def test_a_copy_is_made_listed_and_taken(demo: TestClient, clock: HandClock) -> None:
    assert demo.get("/api/copies").json() == []
    made = demo.post("/api/copies")
    assert made.status_code == 201
    (listed,) = demo.get("/api/copies").json()
    assert listed == made.json()
    assert listed["holds"]["doughs"] == 4
    assert abs(listed["at"] - clock()) < 1000
    taken = demo.get(f"/api/copies/{listed['name']}")
    assert taken.headers["content-type"] == "application/zip"
    assert len(taken.content) == listed["size"]
    with zipfile.ZipFile(io.BytesIO(taken.content)) as packed:
        assert packed.testzip() is None
    assert demo.post("/api/copies").status_code == 409
    clock.pass_minutes(1)
    assert demo.post("/api/copies").status_code == 201


@pytest.mark.parametrize("name", ["x.zip", "20261129-090000-asked.zip"])
def test_what_is_no_copy_is_not_there(demo: TestClient, name: str) -> None:
    assert demo.get(f"/api/copies/{name}").status_code == 404


def test_a_full_disk_is_told_and_leaves_nothing(
    demo: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    def full(_self: zipfile.ZipFile, _name: Path, _as: str) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(backup.zipfile.ZipFile, "write", full)
    answer = demo.post("/api/copies")
    assert answer.status_code == 409
    assert "disk has room" in answer.json()["detail"]
    assert demo.get("/api/copies").json() == []
