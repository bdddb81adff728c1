"""Copies over the wire: made, listed, taken, and what cannot be is told."""

import io
import threading
import zipfile
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from finebatch.store import backup
from finebatch.store.places import copies_of
from tests.conftest import HandClock
from tests.plans import plan


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


def names(client: TestClient) -> list[str]:
    return sorted(dough["name"] for dough in client.get("/api/doughs").json()["doughs"])


def test_a_copy_is_put_in_the_place_of_all_that_there_is(
    demo: TestClient, clock: HandClock
) -> None:
    before = names(demo)
    copy = demo.post("/api/copies").json()["name"]
    for dough in demo.get("/api/doughs").json()["doughs"][:2]:
        assert demo.delete(f"/api/doughs/{dough['id']}").status_code == 200
    plan(demo, 3)
    clock.pass_minutes(1)
    assert names(demo) != before
    restored = demo.post(f"/api/copies/{copy}/restore")
    assert restored.status_code == 200
    assert names(demo) == before
    assert demo.get("/api/plan").json() is None
    assert Path(restored.json()["aside"]).is_dir()
    # What was there can be had back as well.
    clock.pass_minutes(1)
    (undo,) = [one["name"] for one in demo.get("/api/copies").json() if one["why"] == "before"]
    assert demo.post(f"/api/copies/{undo}/restore").status_code == 200
    assert len(names(demo)) == len(before) - 2
    assert demo.get("/api/plan").json() is not None


def test_a_copy_that_is_damaged_changes_nothing(demo: TestClient, clock: HandClock) -> None:
    copy = demo.post("/api/copies").json()["name"]
    data_file: Path = demo.app.state.settings.data_file  # type: ignore[attr-defined]
    file = copies_of(data_file) / copy
    file.write_bytes(file.read_bytes()[:2000])
    before = names(demo)
    clock.pass_minutes(1)
    answer = demo.post(f"/api/copies/{copy}/restore")
    assert answer.status_code == 409
    assert "Nothing was changed" in answer.json()["detail"]
    assert names(demo) == before
    assert demo.post("/api/copies/x.zip/restore").status_code == 404


def test_whoever_asks_meanwhile_waits_and_is_answered(demo: TestClient, clock: HandClock) -> None:
    copy = demo.post("/api/copies").json()["name"]
    clock.pass_minutes(1)
    stop, found = threading.Event(), list[int]()

    def ask() -> None:
        while not stop.is_set():
            found.append(demo.get("/api/doughs").status_code)

    asking = [threading.Thread(target=ask) for _ in range(3)]
    for each in asking:
        each.start()
    try:
        for _ in range(3):
            clock.pass_minutes(1)
            assert demo.post(f"/api/copies/{copy}/restore").status_code == 200
    finally:
        stop.set()
        for each in asking:
            each.join()
    assert set(found) == {200}
