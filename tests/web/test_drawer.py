"""The drawer: favourites, labels, order, pages and copies."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import HandClock

CARD = {"family": "drop", "lines": []}


def names(client: TestClient, **query: Any) -> list[str]:
    found = client.get("/api/doughs", params=query).json()
    return [dough["name"] for dough in found["doughs"]]


def start(client: TestClient, clock: HandClock, *called: str) -> dict[str, int]:
    ids = {}
    for name in called:
        clock.pass_minutes(1)
        ids[name] = client.post("/api/doughs", json={**CARD, "name": name}).json()["id"]
    return ids


def mark(client: TestClient, dough: int, *labels: str, favourite: bool = False) -> Any:
    body = {"favourite": favourite, "labels": list(labels)}
    return client.put(f"/api/doughs/{dough}/marks", json=body)


def test_favourites_come_first_in_every_order(client: TestClient, clock: HandClock) -> None:
    ids = start(client, clock, "Ärmel", "Zwieback", "Bow", "apple")
    assert names(client) == ["apple", "Bow", "Zwieback", "Ärmel"]
    assert names(client, order="name") == ["apple", "Ärmel", "Bow", "Zwieback"]
    before = client.get(f"/api/doughs/{ids['Zwieback']}").json()
    marked = mark(client, ids["Zwieback"], favourite=True).json()
    assert marked["revision"] == before["revision"]
    assert names(client, order="name") == ["Zwieback", "apple", "Ärmel", "Bow"]
    bake = {"dough_id": ids["Ärmel"], "widths_mm": [], "minutes": 12}
    assert client.post("/api/bakes", json=bake).status_code in (201, 422)
    assert names(client, most=2, skip=2) == ["Bow", "Ärmel"]
    assert client.get("/api/doughs", params={"skip": 9}).json()["total"] == 4


def test_the_one_baked_last_is_first(demo: TestClient) -> None:
    baked = {bake["dough_id"]: bake["baked_at"] for bake in reversed(demo.get("/api/bakes").json())}
    found = demo.get("/api/doughs", params={"order": "baked"}).json()["doughs"]
    order = [baked.get(dough["id"], 0) for dough in found]
    assert order == sorted(order, reverse=True)
    assert len(set(order)) > 2


def test_labels_are_known_and_looked_for(client: TestClient, clock: HandClock) -> None:
    ids = start(client, clock, "A", "B", "C")
    assert mark(client, ids["A"], " for  the fair ", "", "thin").json()["marks"]["labels"] == [
        "for the fair",
        "thin",
    ]
    mark(client, ids["B"], "Thin", "thin")
    known = client.get("/api/labels").json()
    assert sorted(known) == ["Thin", "for the fair", "thin"]
    assert known[0] == "for the fair"
    assert names(client, label="thin") == ["B", "A"]
    assert names(client, label="for") == []
    # They stay when the card is changed, and come back out of the bin.
    dough = client.get(f"/api/doughs/{ids['A']}").json()
    client.put(f"/api/doughs/{ids['A']}", json={**dough["card"], "revision": dough["revision"]})
    thrown = client.delete(f"/api/doughs/{ids['A']}").json()
    client.post(f"/api/bin/{thrown['id']}/put-back")
    assert names(client, label="for the fair") == ["A"]


@pytest.mark.parametrize("labels", [["x" * 31], [f"label {n}" for n in range(13)]])
def test_too_many_or_too_long_labels_are_refused(
    client: TestClient, clock: HandClock, labels: list[str]
) -> None:
    (dough,) = start(client, clock, "A").values()
    assert mark(client, dough, *labels).status_code == 422
    assert client.get(f"/api/doughs/{dough}").json()["marks"]["labels"] == []


def test_a_copy_has_card_tray_and_labels_and_no_bakes(demo: TestClient) -> None:
    mark(demo, 1, "autumn", favourite=True)
    first = demo.get("/api/doughs/1").json()
    copies = [demo.post(f"/api/doughs/{of}/copy").json() for of in (1, 1)]
    assert [copy["card"]["name"] for copy in copies] == [
        "Rye, date & tahini drops, copy",
        "Rye, date & tahini drops, copy 2",
    ]
    (copy, _) = copies
    assert {**copy["card"], "name": ""} == {**first["card"], "name": ""}
    assert copy["tray"] == first["tray"]
    assert copy["marks"] == {"favourite": False, "labels": ["autumn"]}
    assert demo.get("/api/bakes", params={"dough_id": copy["id"]}).json() == []
    of_copy = demo.post(f"/api/doughs/{copy['id']}/copy").json()
    assert of_copy["card"]["name"] == "Rye, date & tahini drops, copy 3"
    long = demo.post("/api/doughs", json={**CARD, "name": "x" * 80}).json()
    assert len(demo.post(f"/api/doughs/{long['id']}/copy").json()["card"]["name"]) == 80
