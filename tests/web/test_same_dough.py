"""A dough made many times over, in other pieces, and more than once in a session."""

from typing import Any

from fastapi.testclient import TestClient

from tests.conftest import HandClock
from tests.plans import plan

HOUR = 3_600_000


def pieces_of(session: dict[str, Any], letter: str) -> int:
    return sum(tray["pieces"] for tray in session["trays"] if tray["dough"] == letter)


def needed(client: TestClient, session: dict[str, Any]) -> dict[str, float]:
    shelf = client.get(f"/api/sessions/{session['id']}/shelf").json()
    return {one["key"]: one["grams"] for one in shelf["needed"]}


def test_half_a_dough_gives_half_the_pieces_and_takes_half_of_all(demo: TestClient) -> None:
    whole = plan(demo, 1).json()
    all_g, there = needed(demo, whole), pieces_of(whole, "A")
    half = plan(demo, items=[{"dough_id": 1, "times": 0.5}]).json()
    assert abs(pieces_of(half, "A") - there / 2) <= 1
    assert half["doughs"][0]["times"] == 0.5
    for key, grams in needed(demo, half).items():
        assert abs(grams - all_g[key] / 2) < 0.01


def test_a_dough_made_five_times_over_is_mixed_in_several_bowls(demo: TestClient) -> None:
    times = plan(demo, items=[{"dough_id": 1, "times": 5}]).json()
    mixes = [job for job in times["activities"] if job["kind"] == "mix"]
    assert len(mixes) > len([j for j in plan(demo, 1).json()["activities"] if j["kind"] == "mix"])


def test_one_dough_in_two_sizes_is_two_doughs_of_the_session(demo: TestClient) -> None:
    items = [{"dough_id": 1, "times": 0.5}, {"dough_id": 1, "times": 0.5, "each_g": 14}]
    two = plan(demo, items=items).json()
    assert [d["letter"] for d in two["doughs"]] == ["A", "B"]
    assert two["doughs"][1]["name"] == f"{two['doughs'][0]['name']} (2)"
    assert two["doughs"][1]["grams"] == 14
    assert pieces_of(two, "B") > pieces_of(two, "A")


def test_pieces_as_wide_as_was_wished_are_foreseen_so(demo: TestClient) -> None:
    wide = plan(demo, items=[{"dough_id": 1, "wide_mm": 95}]).json()
    usual = plan(demo, 1).json()
    assert wide["doughs"][0]["grams"] > usual["doughs"][0]["grams"]
    assert pieces_of(wide, "A") < pieces_of(usual, "A")


def test_each_of_two_sizes_is_written_down_by_itself(demo: TestClient, clock: HandClock) -> None:
    items = [{"dough_id": 1, "times": 0.3}, {"dough_id": 1, "times": 0.3, "each_g": 14}]
    two = plan(demo, items=items).json()
    record = {"dough_id": 1, "session_id": two["id"], "widths_mm": [55, 56], "seen": {}}
    small = demo.post("/api/bakes", json={**record, "tray": "B1"}).json()
    large = demo.post("/api/bakes", json={**record, "tray": "A1"}).json()
    assert small["foreseen_mm"] < large["foreseen_mm"]


def test_a_dough_is_not_baked_before_the_day_that_was_wished(
    demo: TestClient, clock: HandClock
) -> None:
    later = clock() + 20 * HOUR
    items = [{"dough_id": 1}, {"dough_id": 4, "bake_from": later}]
    away = [{"from_at": clock() + 8 * HOUR, "to_at": later}]
    two = plan(demo, items=items, away=away).json()
    begins = {
        letter: min(j["start_at"] for j in two["activities"] if j["dough"] == letter)
        for letter in "AB"
    }
    assert begins["A"] < clock() + 2 * HOUR
    portions = [j for j in two["activities"] if j["dough"] == "B" and j["kind"] == "portion"]
    assert min(job["start_at"] for job in portions) >= later


def test_a_session_file_keeps_what_was_asked_of_each_dough(demo: TestClient) -> None:
    items = [{"dough_id": 1, "times": 0.5}, {"dough_id": 1, "times": 0.25, "each_g": 14}]
    made = plan(demo, items=items).json()
    file = demo.get(f"/api/sessions/{made['id']}/file?form=json").text
    again = demo.post("/api/plan/bring-in", json={"text": file}).json()
    asked = [
        {key: item[key] for key in ("dough_id", "times", "each_g")}
        for item in again["wish"]["items"]
    ]
    assert asked == [
        {"dough_id": 1, "times": 0.5, "each_g": None},
        {"dough_id": 1, "times": 0.25, "each_g": 14},
    ]
    assert [d["name"] for d in again["doughs"]] == [d["name"] for d in made["doughs"]]
