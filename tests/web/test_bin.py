"""The bin: whatever is thrown away comes back as it was, for a month."""

import io
import sqlite3
from collections.abc import Callable, Mapping
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from PIL import Image

from finebatch.store.places import photos_of
from finebatch.workflow.book import photos
from finebatch.workflow.dough.doughs import put_unreadable_aside
from finebatch.workflow.kitchen.thrown import KEPT_MS
from tests.conftest import HandClock, own_page
from tests.plans import plan

DAY_MS = 86_400_000


def contents(app: FastAPI) -> Mapping[str, list[Any]]:
    """All rows of all tables but the bin's."""
    with closing(sqlite3.connect(app.state.settings.data_file)) as raw:
        tables = raw.execute(
            "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'"
        )
        return {
            name: sorted(map(repr, raw.execute(f'SELECT * FROM "{name}"')))
            for (name,) in tables.fetchall()
            if name != "bin"
        }


def a_dough(client: TestClient) -> str:
    plan(client, 1)
    client.post("/api/cold", json={"dough_id": 1, "form": "log", "pieces": 9, "place": "fridge"})
    return "/api/doughs/1"


def a_bake(client: TestClient) -> str:
    bake = client.get("/api/bakes").json()[0]
    return f"/api/bakes/{bake['id']}"


def an_own_ingredient(client: TestClient) -> str:
    facts = next(i for i in client.get("/api/larder").json() if i["key"] == "flour_rye")["facts"]
    kept = client.post("/api/larder", json={**facts, "name": "Stardust"}).json()
    named = {"name": "star dust", "ingredient": kept["key"]}
    assert client.post("/api/names", json=named).status_code < 300
    return f"/api/larder/{kept['key']}"


def a_changed_one(client: TestClient) -> str:
    facts = next(i for i in client.get("/api/larder").json() if i["key"] == "flour_rye")["facts"]
    client.put("/api/larder/flour_rye", json={**facts, "g_per_cup": 111})
    return "/api/larder/flour_rye"


def a_plan(client: TestClient) -> str:
    plan(client, 2)
    return "/api/plan"


def an_occasion(client: TestClient) -> str:
    made = plan(client, 2).json()
    body = {"session_id": made["id"], "name": "Advent"}
    return f"/api/occasions/{client.post('/api/occasions', json=body).json()['id']}"


def a_pack(client: TestClient) -> str:
    pack = {"ingredient": "flour_ap", "grams": 400, "pack_g": 1000, "use_by": None, "price": None}
    return f"/api/stock/{client.post('/api/stock', json=pack).json()['id']}"


@pytest.mark.parametrize(
    "of", [a_dough, a_bake, an_own_ingredient, a_changed_one, a_plan, an_occasion, a_pack]
)
def test_what_is_thrown_away_comes_back_as_it_was(
    demo: TestClient, app: FastAPI, of: Callable[[TestClient], str]
) -> None:
    path = of(demo)
    before = contents(app)
    thrown = demo.delete(path)
    assert thrown.status_code == 200, thrown.text
    assert contents(app) != before
    (listed,) = demo.get("/api/bin").json()
    assert listed in (thrown.json(), thrown.json().get("thrown"))
    assert listed["name"] and listed["until"] - listed["at"] == KEPT_MS
    # Its number goes to nobody else meanwhile.
    if of is a_dough:
        card = demo.get("/api/doughs/2").json()["card"]
        new = demo.post("/api/doughs", json=card).json()
        assert new["id"] > 4
        assert demo.delete(f"/api/doughs/{new['id']}").status_code == 200
    assert demo.post(f"/api/bin/{listed['id']}/put-back").json() == listed
    assert contents(app) == before
    assert demo.post(f"/api/bin/{listed['id']}/put-back").status_code == 404


def test_pieces_thrown_out_of_the_cold_store_are_there_again(demo: TestClient) -> None:
    item = demo.get("/api/cold").json()["kept"][0]
    demo.post(f"/api/cold/{item['id']}/throw-away")
    (thrown,) = demo.get("/api/bin").json()
    assert (thrown["kind"], thrown["name"]) == ("cold", item["name"])
    assert demo.post(f"/api/bin/{thrown['id']}/put-back").status_code == 200
    again = next(i for i in demo.get("/api/cold").json()["kept"] if i["id"] == item["id"])
    assert again["pieces"] == item["pieces"]


def test_what_has_no_place_any_more_says_so_and_stays(demo: TestClient) -> None:
    number = demo.get("/api/bakes").json()[0]["dough_id"]
    bake = demo.delete(a_bake(demo)).json()
    whole = demo.delete(f"/api/doughs/{number}").json()
    refused = demo.post(f"/api/bin/{bake['id']}/put-back")
    assert refused.status_code == 409
    assert "dough" in refused.json()["detail"]
    for thrown in (whole, bake):
        assert demo.post(f"/api/bin/{thrown['id']}/put-back").status_code == 200

    plan(demo, 1)
    first = demo.delete("/api/plan").json()
    plan(demo, 2)
    refused = demo.post(f"/api/bin/{first['id']}/put-back")
    assert refused.status_code == 409
    assert "Throw the plan" in refused.json()["detail"]
    assert demo.get("/api/bin").json() == [first]


def test_a_month_later_it_is_gone_with_its_photo(
    demo: TestClient, app: FastAPI, clock: HandClock, monkeypatch: pytest.MonkeyPatch
) -> None:
    picture = io.BytesIO()
    Image.new("RGB", (20, 10), "red").save(picture, "PNG")
    path = a_bake(demo)
    assert demo.put(f"{path}/photo", content=picture.getvalue()).status_code == 200
    folder = photos_of(app.state.settings.data_file)
    (folder / "9-broken.jpg.part").write_bytes(b"half")
    demo.delete(path)
    monkeypatch.setattr(photos, "JUST_S", -1)
    database = app.state.database
    photos.let_old_go(database, clock() + KEPT_MS - DAY_MS)
    assert [file.suffix for file in folder.iterdir()] == [".jpg"]
    assert len(demo.get("/api/bin").json()) == 1
    photos.let_old_go(database, clock() + KEPT_MS + DAY_MS)
    assert list(folder.iterdir()) == []
    assert demo.get("/api/bin").json() == []


def test_it_can_be_thrown_away_for_good(demo: TestClient) -> None:
    thrown = demo.delete("/api/doughs/1").json()
    assert demo.delete(f"/api/bin/{thrown['id']}").status_code == 204
    assert demo.get("/api/bin").json() == []
    assert demo.delete(f"/api/bin/{thrown['id']}").status_code == 404
    assert demo.get(f"/api/bin/{thrown['id']}/file").status_code == 404


HOSTILE: list[tuple[str, str, object]] = [
    ("dough", "card", "{}"),
    ("dough", "card", '{"document": 99}'),
    ("dough", "card", "not json"),
    ("dough", "card", b"\xff\xfe"),
    ("dough", "name", b"\xff\xff"),
    ("dough", "family", "cake"),
    ("dough", "changed_at", 2**62),
    ("dough_version", "card", "[]"),
    ("dough_version", "number", "many"),
    ("tray_setting", "setting", '{"document": 5, "per_piece_g": -1}'),
    ("kitchen", "setting", '{"document": 3, "sheets": 1e308}'),
    ("bake", "raw", '{"document": 2, "kind": "cloud"}'),
    ("bake", "widths_mm", "[1e999]"),
    ("bake", "effects", '"none"'),
    ("bake", "minutes", float("inf")),
    ("bake", "baked_at", -(2**60)),
    ("cold_item", "place", "moon"),
    ("cold_item", "keeping", "for ever"),
    ("cold_item", "use_by", 1e300),
    ("cold_event", "at", "yesterday"),
    ("session", "snapshot", "null"),
    ("session", "plan", '{"document": 2, "activities": 5}'),
    ("session", "start_at", 2**61),
    ("event", "activity", "A1.fly"),
    ("event", "kind", "dreamt"),
    ("own_name", "ingredient", b"\x80"),
]


@pytest.mark.parametrize(("table", "column", "value"), HOSTILE)
def test_what_cannot_be_read_takes_no_screen_down(
    demo: TestClient, app: FastAPI, table: str, column: str, value: object
) -> None:
    """It is put aside at the first request that comes upon it; the next one is answered."""
    if table in ("session", "event"):
        planned = plan(demo, 1).json()["id"]
        session = demo.post(f"/api/sessions/{planned}/start", json={}).json()
        done = {"kind": "done", "activity": session["activities"][0]["key"]}
        demo.post(f"/api/sessions/{session['id']}/events", json=done)
    assert demo.put("/api/kitchen", json=demo.get("/api/kitchen").json()).status_code == 200
    demo.post("/api/names", json={"name": "star dust", "ingredient": "flour_ap"})
    with closing(sqlite3.connect(app.state.settings.data_file)) as raw, raw:
        raw.execute("PRAGMA ignore_check_constraints=ON")
        typed = "CAST(? AS TEXT)" if isinstance(value, bytes) else "?"
        first = f'(SELECT min(rowid) FROM "{table}")'
        raw.execute(f'UPDATE "{table}" SET "{column}" = {typed} WHERE rowid = {first}', (value,))
        assert raw.total_changes == 1
    patient = own_page(app, raises=False)
    doughs = [f"/api/doughs/{number}" for number in range(1, 5)]
    for path in (
        *("/api/doughs", "/api/larder", "/api/kitchen", "/api/plan", "/api/sessions/current"),
        *("/api/bakes", "/api/lessons", "/api/cold", "/api/book/file", "/api/plan/ideas"),
        *(path + more for path in doughs for more in ("", "/study", "/versions")),
    ):
        found = patient.get(path)
        if found.status_code == 503:
            assert "bin" in found.json()["detail"]
            found = patient.get(path)
        assert found.status_code in (200, 404), (path, found.text[:300])
    put_unreadable_aside(app.state.database, 0)
    (aside,) = [one for one in patient.get("/api/bin").json() if one["fault"]]
    assert column in aside["fault"]
    given = patient.get(f"/api/bin/{aside['id']}/file")
    assert given.json()["rows"][0][0] == table or table in given.text


def test_nothing_is_put_aside_that_can_be_read(demo: TestClient, app: FastAPI) -> None:
    plan(demo, 3)
    assert put_unreadable_aside(app.state.database, 0) == []
    assert Path(app.state.settings.data_file).exists()
