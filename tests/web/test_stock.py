"""What is in the house: bought in packs, taken off when it is baked, counted on the lists."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import HandClock
from tests.plans import at_hand, plan

DAY = 86_400_000


def add(client: TestClient, **pack: Any) -> Any:
    answer = client.post("/api/stock", json=pack)
    assert answer.status_code == 201, answer.text
    return answer.json()


def change(client: TestClient, pack: Any, **part: Any) -> Any:
    body = {key: value for key, value in pack.items() if key != "id"}
    answer = client.put(f"/api/stock/{pack['id']}", json={**body, **part})
    assert answer.status_code == 200, answer.text
    return answer.json()


def there(client: TestClient) -> dict[int, float]:
    return {pack["id"]: pack["grams"] for pack in client.get("/api/stock").json()}


def needed(client: TestClient, session: Any) -> dict[str, Any]:
    shelf = client.get(f"/api/sessions/{session['id']}/shelf").json()
    return {one["key"]: one for one in shelf["needed"]}


def test_a_pack_is_kept_changed_and_taken_out(client: TestClient) -> None:
    pack = add(client, ingredient="flour_ap", grams=1500, pack_g=1000, price=1.2)
    path = f"/api/stock/{pack['id']}"
    assert change(client, pack, grams=900)["grams"] == 900
    assert client.delete(path).status_code == 200
    assert client.get("/api/stock").json() == []
    assert client.delete(path).status_code == 404


@pytest.mark.parametrize(
    ("pack", "words"),
    [
        ({"ingredient": "stardust", "grams": 10}, "from the larder"),
        ({"ingredient": "flour_ap", "grams": -1}, "at least 0"),
        ({"ingredient": "flour_ap", "grams": 10, "pack_g": 0}, "pack_g"),
    ],
)
def test_what_cannot_be_there_says_why(
    client: TestClient, pack: dict[str, Any], words: str
) -> None:
    answer = client.post("/api/stock", json=pack)
    assert answer.status_code == 422
    assert words in answer.text


def test_the_list_says_what_is_there_and_how_many_packs_to_buy(
    demo: TestClient, clock: HandClock
) -> None:
    session = plan(demo, 1).json()
    before = needed(demo, session)
    key, first = next(iter(before.items()))
    assert (first["there_g"], first["packs"]) == (0, None)
    assert first["buy_g"] == first["grams"]
    add(demo, ingredient=key, grams=40, pack_g=100, price=3)
    add(demo, ingredient=key, grams=900, pack_g=100, price=3, use_by=clock() - DAY)
    one = needed(demo, session)[key]
    # What is past its day does not count.
    assert one["there_g"] == 40
    assert one["buy_g"] == pytest.approx(one["grams"] - 40)
    assert one["packs"] == -(-one["buy_g"] // 100)
    assert one["price"] == 3 * one["packs"]
    assert one["cost"] == pytest.approx(one["grams"] * 0.03)


def test_what_a_bowl_takes_is_taken_off_and_put_back(demo: TestClient, clock: HandClock) -> None:
    at_hand(demo, 1)
    session = plan(demo, 1).json()
    key, one = next(iter(needed(demo, session).items()))
    later = add(demo, ingredient=key, grams=5000, use_by=clock() + 30 * DAY)
    sooner = add(demo, ingredient=key, grams=20, use_by=clock() + DAY)
    demo.post(f"/api/sessions/{session['id']}/start", json={"as_planned": False})
    path = f"/api/sessions/{session['id']}"
    mixes = [a["key"] for a in session["activities"] if a["kind"] == "mix"]
    for mix in mixes:
        answer = demo.post(f"{path}/events", json={"kind": "done", "activity": mix})
        assert answer.status_code == 200, answer.text
    # What has to be used first is used up first.
    assert there(demo)[sooner["id"]] == 0
    assert there(demo)[later["id"]] == pytest.approx(5000 - (one["grams"] - 20), abs=0.01)
    demo.post(f"{path}/undo")
    assert there(demo) == {later["id"]: pytest.approx(5000), sooner["id"]: pytest.approx(20)}


def test_a_dough_and_a_piece_have_a_cost(demo: TestClient) -> None:
    session = plan(demo, 1).json()
    for key in needed(demo, session):
        add(demo, ingredient=key, grams=0, pack_g=1000, price=2)
    shelf = demo.get(f"/api/sessions/{session['id']}/shelf").json()
    (cost,) = shelf["costs"]
    total = sum(one["grams"] for one in shelf["needed"])
    assert cost["cost"] == pytest.approx(total * 0.002)
    assert cost["unpriced"] == []
    pieces = sum(tray["pieces"] for tray in session["trays"])
    assert cost["each"] == pytest.approx(cost["cost"] / pieces)


def test_what_can_be_made_of_it_is_told_and_what_is_short(
    demo: TestClient, clock: HandClock
) -> None:
    assert demo.get("/api/stock/makes").json() == []
    half = plan(demo, items=[{"dough_id": 1, "times": 0.5}]).json()
    for key, one in needed(demo, half).items():
        add(demo, ingredient=key, grams=one["grams"] * 2.001, use_by=clock() + 3 * DAY)
    first = demo.get("/api/stock/makes").json()[0]
    assert first["dough_id"] == 1
    assert first["times"] == pytest.approx(1.0, abs=0.01)
    assert first["short"] == []
    assert first["pieces"] > 10
    assert first["uses_up"]
    (pack, *_) = demo.get("/api/stock").json()
    change(demo, pack, grams=pack["grams"] / 2)
    again = next(m for m in demo.get("/api/stock/makes").json() if m["dough_id"] == 1)
    assert again["times"] == pytest.approx(0.5, abs=0.01)
    assert [short["grams"] for short in again["short"]] == [
        pytest.approx(pack["grams"] / 2, rel=0.01)
    ]
