"""Several doughs in one session: asked for, planned, given out, brought in, helped and baked."""

import json
import threading
from typing import Any

import pytest
from fastapi.testclient import TestClient

from finebatch.core.plan.checker import find_faults
from finebatch.workflow import plans
from tests.conftest import HandClock
from tests.plans import plan, wish_of

MINUTE = 60_000
HOUR = 60 * MINUTE


def work_and_plan(client: TestClient) -> Any:
    with client.app.state.database.reading() as session:  # type: ignore[attr-defined]
        row = plans.planned_row(session)
        assert row is not None
        return plans.work_of(row), plans.plan_of(row)


def test_four_doughs_are_planned_in_one_session(demo: TestClient) -> None:
    made = plan(demo, 1, 2, 3, 4, sheets=3, shelves=2).json()
    assert [d["letter"] for d in made["doughs"]] == ["A", "B", "C", "D"]
    assert made["name"] == "Rye, date & tahini drops and 3 more"
    work, found = work_and_plan(demo)
    assert find_faults(found, work) == []
    scraps = [t["name"] for t in made["trays"] if t["scraps"]]
    assert scraps == ["B3"]
    twice = [t for t in made["trays"] if len(t["bakes"]) == 2]
    assert {t["dough"] for t in twice} == {"D"}
    glaze = next(a for a in made["activities"] if a["kind"] == "part")
    first = min(a["start_at"] for a in made["activities"] if a["kind"] == "finish")
    assert glaze["end_at"] <= first


def test_some_pieces_now_and_the_rest_for_another_day(demo: TestClient) -> None:
    wish = wish_of(1)
    wish["items"][0]["pieces"] = 8
    demo.put("/api/plan", json=wish)
    made = demo.post("/api/plan/stop").json()
    assert sum(t["pieces"] for t in made["trays"]) == 8
    assert made["doughs"][0]["kept"] == 27
    assert any(a["kind"] == "freeze" for a in made["activities"])


def test_a_dough_from_the_cold_joins_without_mixing(demo: TestClient) -> None:
    wish = wish_of(1, 3)
    wish["items"][1]["joins"] = "fridge"
    demo.put("/api/plan", json=wish)
    made = demo.post("/api/plan/stop").json()
    assert [a["dough"] for a in made["activities"] if a["kind"] == "mix"] == ["A"]


def test_nobody_is_asked_for_while_away(demo: TestClient, clock: HandClock) -> None:
    away = [{"from_at": clock() + HOUR, "to_at": clock() + 5 * HOUR}]
    made = plan(demo, 1, away=away, ready_by=clock() + 9 * HOUR).json()
    for a in made["activities"]:
        if a["hands"]:
            assert a["end_at"] <= away[0]["from_at"] or a["start_at"] >= away[0]["to_at"]
    assert made["finish_at"] == clock() + 9 * HOUR
    assert made["start_at"] >= away[0]["to_at"]


def test_a_pinned_job_is_kept_and_the_wish_comes_back(demo: TestClient, clock: HandClock) -> None:
    at = clock() + 3 * HOUR
    pins = [{"job": "A1.portion", "start_at": at}]
    made = plan(demo, 1, shelves=2, pins=pins, shelf_pins=[{"tray": "A2", "shelf": 2}]).json()
    assert next(a["start_at"] for a in made["activities"] if a["key"] == "A1.portion") == at
    assert next(a["shelf"] for a in made["activities"] if a["key"] == "A2.bake") == 2
    assert made["wish"]["pins"] == pins


def test_pins_that_clash_are_said_and_the_plan_stands(demo: TestClient, clock: HandClock) -> None:
    jobs = ("A1.portion", "A1.load")
    pins = [{"job": j, "start_at": clock() + h * HOUR} for j, h in zip(jobs, (3, 2), strict=True)]
    made = plan(demo, 1, pins=pins).json()
    assert "pinned" in made["said"]
    assert plan(demo, 1).json()["said"] is None


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"items": []}, "nothing to bake"),
        ({"items": [{"dough_id": 1}, {"dough_id": 1}]}, "once"),
        ({"items": [{"dough_id": 1, "pieces": 999}]}, "gives 35"),
        ({"away": [{"from_at": 10**12, "to_at": 10**12 - 1}]}, "ends after it begins"),
        ({"sheets": 0}, "at least 1"),
    ],
)
def test_a_wish_that_cannot_be_says_why_and_keeps_the_plan(
    demo: TestClient, change: dict[str, Any], words: str
) -> None:
    before = plan(demo, 1).json()
    answer = demo.put("/api/plan", json={**wish_of(1), **change})
    assert answer.status_code == 422
    assert words in json.dumps(answer.json())
    assert demo.get("/api/plan").json()["finish_at"] == before["finish_at"]


def test_a_search_is_stopped_and_its_best_plan_stands(demo: TestClient) -> None:
    demo.put("/api/plan", json=wish_of(1, 2, 3, 4, sheets=3, shelves=2))
    stopped = demo.post("/api/plan/stop").json()
    assert stopped["searching"] is False
    work, found = work_and_plan(demo)
    assert find_faults(found, work) == []


def test_what_would_help_is_planned_again(demo: TestClient) -> None:
    plan(demo, 1, 3, sheets=1)
    ideas = demo.get("/api/plan/ideas").json()
    assert {"sheet", "shelf", "helper", "evening"} <= {i["what"] for i in ideas}
    sheet = next(i["number"] for i in ideas if i["what"] == "sheet")
    before = demo.get("/api/plan").json()
    saves = demo.post(f"/api/plan/ideas/{sheet}").json()["saves_min"]
    assert saves > 0
    assert demo.get("/api/plan").json()["finish_at"] == before["finish_at"]
    taken = plan(demo, 1, 3, sheets=2).json()
    length = taken["finish_at"] - taken["start_at"]
    assert before["finish_at"] - before["start_at"] - length >= saves * MINUTE - 2 * MINUTE
    assert demo.post("/api/plan/ideas/20").status_code == 404


@pytest.mark.parametrize(
    ("form", "kind", "words"),
    [
        ("json", "application/json", '"finebatch": "session"'),
        ("ics", "text/calendar", "BEGIN:VALARM"),
        ("csv", "text/csv", "from,to,who,job,dough,place"),
        ("md", "text/markdown", "| from | to |"),
    ],
)
def test_a_session_is_given_out(demo: TestClient, form: str, kind: str, words: str) -> None:
    made = plan(demo, 1, 3).json()
    answer = demo.get(f"/api/sessions/{made['id']}/file", params={"form": form})
    assert answer.headers["content-type"].startswith(kind)
    assert words in answer.text


def test_a_session_file_is_brought_in_by_the_doughs_names(demo: TestClient) -> None:
    made = plan(demo, 1, 3).json()
    text = demo.get(f"/api/sessions/{made['id']}/file").text
    demo.delete("/api/plan")
    assert demo.get("/api/plan").json() is None
    back = demo.post("/api/plan/bring-in", json={"text": text}).json()
    assert [d["dough_id"] for d in back["doughs"]] == [1, 3]
    assert [t["pieces"] for t in back["trays"]] == [t["pieces"] for t in made["trays"]]
    other = text.replace("Black-sesame shortbread", "Nobody's rounds")
    refused = demo.post("/api/plan/bring-in", json={"text": other})
    assert refused.status_code == 422
    assert "Nobody's rounds" in refused.json()["detail"]


def test_a_calendar_is_read_as_busy_times(demo: TestClient, clock: HandClock) -> None:
    made = plan(demo, 1, start_at=clock() + HOUR).json()
    text = demo.get(f"/api/sessions/{made['id']}/file", params={"form": "ics"}).text
    found = demo.post("/api/plan/calendar", json={"text": text}).json()
    hands = [a for a in made["activities"] if a["hands"]]
    assert len(found["times"]) == len(hands)
    assert found["times"][0]["from_at"] == min(a["start_at"] for a in hands)
    assert demo.post("/api/plan/calendar", json={"text": "hello"}).status_code == 422
    assert demo.post("/api/plan/calendar", json={"text": "x" * 10_000_000}).status_code == 413


def test_the_weighing_list_sums_doughs_and_parts(demo: TestClient) -> None:
    made = plan(demo, 1, 2).json()
    shelf = demo.get(f"/api/sessions/{made['id']}/shelf").json()
    mass = {n["key"]: n["grams"] for n in shelf["needed"]}
    flour = []
    for n in (1, 2):
        dough = demo.get(f"/api/doughs/{n}").json()
        lines = zip(dough["card"]["lines"], dough["weighed"]["lines"], strict=True)
        flour += [w["grams"] for line, w in lines if line["ingredient"] == "flour_ap"]
    assert mass["flour_ap"] == pytest.approx(sum(flour))
    assert mass["sugar_icing"] > 0
    assert all(t["at"] < made["finish_at"] for t in shelf["take_out"])
    assert len(shelf["take_out"]) == 2


def test_the_server_answers_while_a_plan_is_looked_for(demo: TestClient) -> None:
    found = demo.put("/api/plan", json=wish_of(1, 2, 3, 4, sheets=3, shelves=2)).json()
    answered = 0
    while found["searching"]:
        answered += demo.get("/api/kitchen").status_code == 200
        threading.Event().wait(0.02)
        found = demo.get("/api/plan").json()
    assert answered > 0


def test_the_kitchens_hands_and_habits_are_kept_and_planned_with(demo: TestClient) -> None:
    kitchen = demo.get("/api/kitchen").json()
    alone = plan(demo, 1, 3).json()
    helpers = [{"name": "Kim", "child": True}]
    kitchen["planning"] |= {"helpers": helpers, "pace": 2.0, "slides": True}
    assert demo.put("/api/kitchen", json=kitchen).json()["planning"]["helpers"] == helpers
    assert demo.get("/api/plan").json()["stale"] is True
    made = plan(demo, 1, 3).json()
    assert made["workers"] == ["you", "Kim"]

    def portion(session: Any) -> int:
        job = next(a for a in session["activities"] if a["key"] == "A1.portion")
        return (job["end_at"] - job["start_at"]) // MINUTE

    assert portion(made) > portion(alone)
    hot = [a["who"] for a in made["activities"] if a["kind"] in ("load", "turn", "out")]
    assert set(hot) == {0}
    kitchen["planning"]["pace"] = 99
    assert demo.put("/api/kitchen", json=kitchen).status_code == 422
