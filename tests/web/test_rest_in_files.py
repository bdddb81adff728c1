"""A session under way goes out with its plan and what happened, and its rest is planned from it."""

import json
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from typer.testing import CliRunner

from finebatch.cli import app as cli
from tests.conftest import NOON, HandClock
from tests.plans import at_hand, happen, plan

LATER = datetime.fromtimestamp(NOON / 1000 + 5 * 3600, UTC).isoformat()
OUT = {"activity": "A1.out"}
WEIGHED = {"kind": "weighed", "activity": "A2.portion", "grams": 29}


@pytest.fixture
def under_way(demo: TestClient, clock: HandClock) -> Any:
    """A session in which the first tray is in the oven, late and with more to come."""
    at_hand(demo)
    made = plan(demo, 1).json()
    demo.post(f"/api/sessions/{made['id']}/start")
    clock.pass_minutes(22)
    for key, minutes in (("A.mix", 60), ("A1.portion", 9), ("A1.load", 4)):
        happen(demo, made, {"kind": "done", "activity": key})
        clock.pass_minutes(minutes)
    happen(demo, made, {"kind": "away", "minutes": 6})
    return made


def file_of(demo: TestClient, session: Any) -> Any:
    return demo.get(f"/api/sessions/{session['id']}/file", params={"form": "json"}).json()


def planned(folder: Path, file: Any, status: int = 0) -> Any:
    path = folder / "session.json"
    path.write_text(json.dumps(file))
    done = CliRunner().invoke(cli, ["plan", str(path), "--json"])
    assert done.exit_code == status, done.output
    return json.loads(done.stdout) if not status else done.output


def starts(activities: Any) -> dict[str, str]:
    return {a["id"]: a["start"] for a in activities}


def test_the_rest_of_a_file_is_planned_as_the_screen_has_it(
    demo: TestClient, under_way: Any, tmp_path: Path
) -> None:
    file = file_of(demo, under_way)
    assert [e["kind"] for e in file["events"]][-1] == "away"
    assert {e["activity"] for e in file["events"]} >= {"A.mix", "A1.portion", "A1.load"}
    again = planned(tmp_path, file)
    assert starts(again["activities"]) == starts(file["plan"]["activities"])
    assert again["finish"] == file["plan"]["finish"]


def test_what_happens_after_the_plan_moves_the_rest(
    demo: TestClient, under_way: Any, tmp_path: Path, clock: HandClock
) -> None:
    """The same told in the file and on the screen gives the same rest."""
    file = file_of(demo, under_way)
    clock.pass_minutes(3)
    happen(demo, under_way, {"kind": "more", "activity": "A1.bake", "minutes": 5})
    shown = file_of(demo, under_way)
    file["events"].append(shown["events"][-1])
    assert starts(planned(tmp_path, file)["activities"]) == starts(shown["plan"]["activities"])


def test_a_dropped_tray_is_left_out(demo: TestClient, under_way: Any, tmp_path: Path) -> None:
    happen(demo, under_way, {"kind": "dropped", "activity": "A1"})
    file = file_of(demo, under_way)
    again = planned(tmp_path, file)
    assert all(a["tray"] != "A1" for a in again["activities"])
    assert starts(again["activities"]) == starts(file["plan"]["activities"])


def test_what_cannot_have_happened_is_refused_with_its_place(
    demo: TestClient, under_way: Any, tmp_path: Path
) -> None:
    file = file_of(demo, under_way)
    for event, said in (
        ({"kind": "done", "activity": "A9.load"}, "There is no such job in this plan."),
        ({"kind": "done", "activity": "A2.out"}, "First:"),
        ({"kind": "dropped", "activity": "Z1"}, "There is no such tray"),
        ({"kind": "more", "activity": "A2.bake", "minutes": 3}, "in the oven now"),
        ({"kind": "skip", "activity": "A1.out"}, "cannot be left out"),
        ({"kind": "danced"}, "events"),
    ):
        last = {"at": file["events"][-1]["at"], **event}
        wrong = {**file, "events": [*file["events"], last]}
        assert said in " ".join(planned(tmp_path, wrong, status=2).split())


def test_events_without_their_plan_are_refused(
    demo: TestClient, under_way: Any, tmp_path: Path
) -> None:
    file = file_of(demo, under_way)
    lost = {**file, "plan": None}
    assert "give that too" in " ".join(planned(tmp_path, lost, status=2).split())
    file["plan"]["activities"] = [a for a in file["plan"]["activities"] if a["id"] != "A2.load"]
    assert "The plan has no A2.load" in " ".join(planned(tmp_path, file, status=2).split())


def test_a_session_under_way_is_baked_on_elsewhere(
    demo: TestClient, under_way: Any, clock: HandClock
) -> None:
    """Given up here and brought in again it stands where it was, with all that was said."""
    demo.post(f"/api/sessions/{under_way['id']}/events", json=WEIGHED)
    file, before = file_of(demo, under_way), demo.get("/api/sessions/current").json()
    busy = demo.post("/api/plan/bring-in", json={"text": json.dumps(file)})
    assert busy.status_code == 409
    demo.post(f"/api/sessions/{under_way['id']}/give-up")
    answer = demo.post("/api/plan/bring-in", json={"text": json.dumps(file)})
    assert answer.status_code == 200, answer.text
    again = demo.get("/api/sessions/current").json()
    assert again["id"] != before["id"]
    assert again["happened"] == before["happened"]
    was = {a["key"]: (a["start_at"], a["done_at"]) for a in before["activities"]}
    assert {a["key"]: (a["start_at"], a["done_at"]) for a in again["activities"]} == was
    assert file_of(demo, again)["events"] == file["events"]
    done = demo.post(f"/api/sessions/{again['id']}/events", json={"kind": "done", **OUT})
    assert done.status_code == 200, done.text


def test_what_cannot_have_happened_leaves_nothing_behind(demo: TestClient, under_way: Any) -> None:
    file = file_of(demo, under_way)
    demo.post(f"/api/sessions/{under_way['id']}/give-up")
    for event, said in (
        ({"kind": "felt", "activity": "A2.portion", "what": "green"}, "soft, right or hard"),
        ({"kind": "done", "activity": "A2.out"}, "First:"),
        ({"kind": "ticked", "activity": "A2.portion", "what": "x"}, "by its place"),
        ({"kind": "weighed", "activity": "A2.portion"}, ""),
        ({"kind": "away", "minutes": 5, "at": LATER}, "still to come"),
    ):
        last = {"at": file["events"][-1]["at"], **event}
        wrong = {**file, "events": [*file["events"], last]}
        answer = demo.post("/api/plan/bring-in", json={"text": json.dumps(wrong)})
        assert answer.status_code == 422, answer.text
        assert said in answer.text
        current = demo.get("/api/sessions/current").json()
        assert current["id"] == under_way["id"]


WISHES: list[dict[str, Any]] = [
    {},
    {"name": "Advent, “the long one”"},
    {"calm": True},
    {"first_c": 180},
    {"sheets": 3, "shelves": 2},
    {"items": [{"dough_id": 1, "pieces": 12, "keep_as": "log", "keep_in": "fridge"}]},
    {"items": [{"dough_id": 1, "times": 2.0}, {"dough_id": 3, "each_g": 30.0}]},
    {"items": [{"dough_id": 1, "bake_from": NOON + 7_200_000}, {"dough_id": 2}]},
    {"items": [{"dough_id": 1}, {"dough_id": 1, "wide_mm": 60.0}]},
    {"items": [{"dough_id": 3, "share_into": 40}]},
    {"away": [{"from_at": NOON + 3_600_000, "to_at": NOON + 7_200_000}]},
    {"start_at": NOON + 3_600_000},
    {"ready_by": NOON + 36_000_000},
    {
        "ready_by": NOON + 90_000_000,
        "items": [{"dough_id": 1, "bake_from": NOON + 72_000_000}, {"dough_id": 2}],
    },
]


@pytest.mark.parametrize("more", WISHES, ids=range(len(WISHES)))
def test_what_was_asked_for_comes_back_from_a_file(
    demo: TestClient, clock: HandClock, more: dict[str, Any]
) -> None:
    """Identical but for what a plan makes of it: when it begins."""
    items = [{"dough_id": 1}]
    made = demo.put("/api/plan", json={"items": items, "sheets": 2, "shelves": 1, **more}).json()
    file = file_of(demo, made)
    demo.delete("/api/plan")
    back = demo.post("/api/plan/bring-in", json={"text": json.dumps(file)})
    assert back.status_code == 200, back.text
    before, after = made["wish"], back.json()["wish"]
    if not before["ready_by"]:
        before["start_at"] = after["start_at"]
    assert after == before
    again = file_of(demo, back.json())
    assert again["doughs"] == file["doughs"]
    assert again["kitchen"] == file["kitchen"]
