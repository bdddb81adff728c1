"""Several doughs in one session: asked for, planned, given out, brought in, helped and baked."""

import json
import re
import threading
from typing import Any

import pytest
from fastapi.testclient import TestClient

from finebatch.core.plan.checker import find_faults
from finebatch.workflow.session import session_rows
from tests.conftest import HandClock
from tests.plans import plan, wish_of

MINUTE = 60_000
HOUR = 60 * MINUTE


def work_and_plan(client: TestClient) -> Any:
    with client.app.state.database.reading() as session:  # type: ignore[attr-defined]
        row = session_rows.planned_row(session)
        assert row is not None
        return row.work, row.plan


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


def from_cold(client: TestClient, dough: int, joins: str, form: str | None = None) -> Any:
    wish = wish_of(dough)
    wish["items"][0] |= {"joins": joins, "form": form}
    client.put("/api/plan", json=wish)
    made = client.post("/api/plan/stop").json()
    assert find_faults(*reversed(work_and_plan(client))) == []
    return made


def minutes_of(made: Any, kind: str) -> list[tuple[str, float]]:
    return [
        (a["label"], (a["end_at"] - a["start_at"]) / MINUTE)
        for a in made["activities"]
        if a["kind"] == kind
    ]


def test_a_frozen_disc_thaws_in_the_fridge_and_is_tempered(demo: TestClient) -> None:
    made = from_cold(demo, 2, "freezer")
    assert [label for label, _ in minutes_of(made, "take")] == [
        "Move it from the freezer to the fridge",
        "Take it out of the fridge",
    ]
    [(_, thaws)] = minutes_of(made, "chill")
    [(_, tempers)] = minutes_of(made, "temper")
    assert thaws > 3 * 60
    assert 20 < tempers < 60
    taken = next(a for a in made["activities"] if a["key"] == "A.take2")
    portion = next(a for a in made["activities"] if a["key"] == "A1.portion")
    assert tempers <= (portion["start_at"] - taken["end_at"]) / MINUTE <= tempers + 30
    shelf = demo.get(f"/api/sessions/{made['id']}/shelf").json()["take_out"]
    assert [t["at"] for t in shelf] == [
        next(a["start_at"] for a in made["activities"] if a["key"] == "A.take")
    ]


def test_frozen_portions_are_baked_as_they_are_and_longer(demo: TestClient) -> None:
    warm = plan(demo, 1).json()
    cold = from_cold(demo, 1, "freezer", "portions")
    assert not minutes_of(cold, "temper")
    assert cold["trays"][0]["bakes"][0] > warm["trays"][0]["bakes"][0]
    lay, portion = minutes_of(cold, "portion")[0][1], minutes_of(warm, "portion")[0][1]
    assert lay < portion / 2


def test_what_is_not_taken_out_of_the_cold_is_not_wrapped_again(demo: TestClient) -> None:
    wish = wish_of(1)
    wish["items"][0] |= {"joins": "freezer", "pieces": 8}
    made = demo.put("/api/plan", json=wish).json()
    assert made["doughs"][0]["kept"] == 0
    assert not minutes_of(made, "freeze")


def test_a_session_from_the_cold_is_read_back_as_it_was(demo: TestClient) -> None:
    made = from_cold(demo, 2, "freezer", "log")
    work, _ = work_and_plan(demo)
    text = demo.get(f"/api/sessions/{made['id']}/file?form=json").text
    assert demo.post("/api/plan/bring-in", json={"text": text}).status_code == 200
    assert demo.post("/api/plan/stop").json()["wish"]["items"][0]["form"] == "log"
    assert work_and_plan(demo)[0].doughs == work.doughs


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


def test_the_plan_is_set_beside_a_clever_baker_by_hand(demo: TestClient) -> None:
    assert demo.get("/api/plan/by-hand").json() == {"finish_at": None}
    made = plan(demo, 1, 2, 3, shelves=2).json()
    by_hand = demo.get("/api/plan/by-hand").json()["finish_at"]
    assert by_hand >= made["finish_at"]
    assert by_hand - made["start_at"] < 2 * (made["finish_at"] - made["start_at"])


def test_a_pin_of_what_is_there_no_more_falls_away_and_is_said(
    demo: TestClient, clock: HandClock
) -> None:
    pins = [{"job": "A3.load", "start_at": clock() + 3 * HOUR}]
    shelves = [{"tray": "A3", "shelf": 1}]
    whole = plan(demo, 1, shelves=2, pins=pins, shelf_pins=shelves).json()
    assert whole["wish"]["pins"] == pins
    assert not whole["said"]
    items = [{"dough_id": 1, "joins": "fresh", "pieces": 12}]
    few = plan(demo, items=items, shelves=2, pins=pins, shelf_pins=shelves).json()
    assert (few["wish"]["pins"], few["wish"]["shelf_pins"]) == ([], [])
    assert few["said"].startswith("A3, load; tray A3 on its shelf are not in this session any more")


def test_pins_that_clash_are_said_and_the_plan_stands(demo: TestClient, clock: HandClock) -> None:
    jobs = ("A1.portion", "A1.load")
    pins = [{"job": j, "start_at": clock() + h * HOUR} for j, h in zip(jobs, (3, 2), strict=True)]
    made = plan(demo, 1, pins=pins).json()
    # Both are named with where they can be, and the plan shown is that one.
    assert "A1" in made["said"]
    assert "cannot begin at" in made["said"]
    assert "is the nearest" in made["said"]
    starts = {a["key"]: a["start_at"] for a in made["activities"]}
    off = [abs(starts[p["job"]] - p["start_at"]) // MINUTE for p in pins]
    # One hour and the portioning lie between the two; nobody can come nearer in all.
    assert sum(off) <= 60 + 30
    assert plan(demo, 1).json()["said"] is None


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"items": []}, "nothing to bake"),
        ({"items": [{"dough_id": 1, "each_g": 20, "wide_mm": 60}]}, "not both"),
        ({"items": [{"dough_id": 1, "wide_mm": 500}]}, "bakes to"),
        ({"items": [{"dough_id": 1, "times": 0}]}, "at least 0.1"),
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
    assert "Turn the oven to 180 °C on its dial" in text
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
    helpers = [{"name": "Kim", "child": True, "tasks": ["mix", "portion"]}]
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


def test_a_plan_is_stale_when_what_it_rests_on_gives_other_work(demo: TestClient) -> None:
    assert plan(demo, 1).json()["stale"] is False
    kitchen = demo.get("/api/kitchen").json()
    demo.put("/api/kitchen", json={**kitchen, "units": {"volume": "cups"}})
    assert demo.get("/api/plan").json()["stale"] is False
    kitchen["planning"]["raw_wait_min"] = 30
    demo.put("/api/kitchen", json=kitchen)
    assert demo.get("/api/plan").json()["stale"] is True
    assert plan(demo, 1).json()["stale"] is False
    tray = demo.get("/api/doughs/1").json()["tray"]
    demo.put("/api/doughs/1/tray", json={**tray, "oven_c": tray["oven_c"] - 10})
    assert demo.get("/api/plan").json()["stale"] is True


def bake_slowly(
    client: TestClient, clock: HandClock, times: float, slow_step: str | None = None
) -> None:
    """Bake the plan to its end, the work on the dough taking so many times what was planned. With a
    slow kind of step each step of mixing is ticked, that one taking twice as long as it should."""
    session = client.get("/api/plan").json()
    address = f"/api/sessions/{session['id']}"
    client.post(f"{address}/start")
    for _ in range(200):
        now = client.get(address).json()
        if now["state"] == "finished":
            return
        ahead = [a for a in now["activities"] if a["hands"] and a["done_at"] is None]
        job = min(ahead, key=lambda a: (a["due_at"], a["start_at"]))
        minutes = (job["end_at"] - job["start_at"]) / MINUTE
        long = job["kind"] in ("ready", "mix", "form", "portion")
        clock.at = max(clock.at, job["start_at"])
        steps = job["said"]["steps"] if slow_step and job["kind"] == "mix" else []
        for n, step in enumerate(steps):
            clock.pass_minutes(step["hands_min"] * (2 if step["kind"] == slow_step else 1))
            tick = {"kind": "ticked", "activity": job["key"], "what": str(n)}
            assert client.post(f"{address}/events", json=tick).status_code == 200
        if not steps:
            clock.pass_minutes(minutes * (times if long else 1))
        done = {"kind": "done", "activity": job["key"]}
        assert client.post(f"{address}/events", json=done).status_code == 200
    raise AssertionError("the session never ends")


def test_a_kind_of_step_is_learnt_from_when_it_was_ticked(
    demo: TestClient, clock: HandClock
) -> None:
    card = demo.get("/api/doughs/1").json()
    steps = [
        {"text": "Cream the butter and sugar.", "kind": "cream", "hands_min": 4},
        {"text": "Beat in the egg.", "kind": "beat_in", "hands_min": 3},
        {"text": "Fold in the flour.", "kind": "fold_in", "hands_min": 3},
    ]
    # Nothing softens first: mixing follows right on weighing out.
    body = {**card["card"], "steps": steps, "without": ["soften"], "revision": card["revision"]}
    assert demo.put("/api/doughs/1", json=body).status_code == 200

    def mixing() -> float:
        jobs = plan(demo, 1, sheets=3).json()["activities"]
        return sum(a["end_at"] - a["start_at"] for a in jobs if a["kind"] == "mix") / MINUTE

    before = mixing()
    for _ in range(3):
        bake_slowly(demo, clock, 1.0, "fold_in")
        plan(demo, 1, sheets=3)
    others = {one["label"]: one for one in demo.get("/api/kitchen/known").json()["others"]}
    fold = others["Fold in, within its job"]
    assert fold["jobs"] == 3
    assert 1.15 < fold["times"] < 1.6
    assert others["Mix in, within its job"]["times"] < 1
    assert mixing() > before


def test_ticks_are_seen_on_every_screen_and_taken_off(demo: TestClient) -> None:
    made = plan(demo, 1).json()
    address = f"/api/sessions/{made['id']}"
    demo.post(f"{address}/start")
    mix = next(a for a in made["activities"] if a["kind"] == "mix")["key"]

    def tick(what: str, job: str = mix) -> int:
        body = {"kind": "ticked", "activity": job, "what": what}
        return demo.post(f"{address}/events", json=body).status_code

    def ticked() -> list[int]:
        jobs = demo.get(address).json()["activities"]
        return next(a["ticked"] for a in jobs if a["key"] == mix)

    assert (tick("2"), tick("0"), ticked()) == (200, 200, [0, 2])
    assert (tick("2"), ticked()) == (200, [0])
    assert (tick("first"), tick("-1"), tick("0", "Z9.mix")) == (422, 422, 404)
    demo.post(f"{address}/undo")
    assert ticked() == [0, 2]


def test_hands_are_learnt_from_a_session_that_was_baked(demo: TestClient, clock: HandClock) -> None:
    before = plan(demo, 1, sheets=3).json()
    bake_slowly(demo, clock, 1.5)
    known = demo.get("/api/kitchen/known").json()
    assert known["portion"]["jobs"] >= 2
    assert 1.05 < known["portion"]["times"] < 1.5
    others = {one["label"]: one for one in known["others"]}
    assert {"Getting ready", "Shaping and wrapping", "Portion"} <= set(others)
    assert all(1.01 < one["times"] < 1.5 for one in others.values()), others
    told = demo.get("/api/lessons").json()["hands"]
    assert told == known["others"]
    after = plan(demo, 1, sheets=3).json()

    def portioning(made: dict[str, Any]) -> float:
        jobs = [a for a in made["activities"] if a["kind"] == "portion"]
        return sum(a["end_at"] - a["start_at"] for a in jobs) / MINUTE

    assert portioning(after) > portioning(before)
    kitchen = demo.get("/api/kitchen").json()
    kitchen["planning"]["learns_hands"] = False
    demo.put("/api/kitchen", json=kitchen)
    assert demo.get("/api/kitchen/known").json()["portion"] == {"times": 1.0, "jobs": 0}
    assert portioning(plan(demo, 1, sheets=3).json()) == portioning(before)


def test_a_wish_with_a_break_is_planned_within_it_from_the_same_start(
    demo: TestClient, clock: HandClock
) -> None:
    """The search for a later start begins where the quick plan did, and keeps the times away."""
    away = [{"from_at": clock() + 2 * HOUR, "to_at": clock() + 20 * HOUR}]
    made = plan(demo, 1, 3, away=away, ready_by=clock() + 25 * HOUR).json()
    assert made["finish_at"] <= clock() + 25 * HOUR
    assert made["start_at"] >= clock()
    hands = [(a["start_at"], a["end_at"]) for a in made["activities"] if a["hands"]]
    assert all(end <= away[0]["from_at"] or start >= away[0]["to_at"] for start, end in hands)


def test_each_job_says_when_else_it_could_begin(demo: TestClient) -> None:
    made = plan(demo, 1, 3, shelves=2).json()
    for a in made["activities"]:
        if not a["hands"]:
            assert (a["earliest_at"], a["latest_at"]) == (None, None)
            continue
        assert a["earliest_at"] <= a["start_at"]
        assert a["latest_at"] is None or a["start_at"] <= a["latest_at"]
    out = next(a for a in made["activities"] if a["key"] == "A1.out")
    assert out["earliest_at"] == out["latest_at"] == out["start_at"]  # to the minute
    running = demo.post(f"/api/sessions/{made['id']}/start").json()
    assert {a["earliest_at"] for a in running["activities"]} == {None}


def test_minutes_that_a_step_says_of_a_tray_are_in_the_plan(demo: TestClient) -> None:
    dough = demo.get("/api/doughs/1").json()
    told = [
        {"text": "Cream, then stir the rest in.", "kind": "cream", "hands_min": 8},
        {"text": "Scoop.", "kind": "scoop"},
    ]

    def portioning(**said: Any) -> list[float]:
        now = demo.get("/api/doughs/1").json()
        steps = [told[0], {**told[1], **said}]
        body = {**dough["card"], "steps": steps, "revision": now["revision"]}
        assert demo.put("/api/doughs/1", json=body).status_code == 200
        jobs = plan(demo, 1).json()["activities"]
        found = [a["end_at"] - a["start_at"] for a in jobs if a["kind"] == "portion"]
        return [length / MINUTE for length in found]

    usual, of_tray = portioning(), portioning(hands_min=20, per="tray")
    assert len(usual) == 3
    # A minute more, to lay the sheet out.
    assert of_tray == [21, 21, 21]
    assert sum(portioning(hands_min=30, per="dough")) == pytest.approx(33, abs=3)
    assert portioning(each_s=0.5, per="piece") < usual


def test_slices_are_asked_for_as_they_are_eaten(demo: TestClient) -> None:
    """Of what is cut once it is baked, 25 means slices; no more than there are logs means logs."""
    whole = demo.put("/api/plan", json=wish_of(4)).json()
    [dough] = whole["doughs"]
    each, logs = dough["each_gives"], sum(t["pieces"] for t in whole["trays"])
    assert (each > 5, logs) == (True, 2)
    for wanted, baked in ((1, 1), (5, 1), (each, 1), (each + 1, 2), (2 * each, 2)):
        wish = {**wish_of(4), "items": [{"dough_id": 4, "pieces": wanted}]}
        session = demo.put("/api/plan", json=wish).json()
        assert sum(t["pieces"] for t in session["trays"]) == baked, wanted
        assert session["doughs"][0]["kept"] == logs - baked
    wish = {**wish_of(4), "items": [{"dough_id": 4, "pieces": 2 * each + 1}]}
    refused = demo.put("/api/plan", json=wish)
    assert refused.status_code == 422
    assert f"gives {2 * each}, not {2 * each + 1}" in refused.text


def test_a_session_is_called_as_the_baker_likes(demo: TestClient) -> None:
    usual = demo.put("/api/plan", json=wish_of(1, 2)).json()["name"]
    named = demo.put("/api/plan", json={**wish_of(1, 2), "name": " Choir supper "}).json()
    assert named["name"] == "Choir supper"
    file = demo.get(f"/api/sessions/{named['id']}/file").json()
    again = demo.post("/api/plan/bring-in", json={"text": json.dumps(file)}).json()
    assert again["name"] == "Choir supper"
    assert demo.put("/api/plan", json={**wish_of(1, 2), "name": "  "}).json()["name"] == usual
    assert demo.put("/api/plan", json={**wish_of(1), "name": ""}).status_code == 422


def test_every_file_says_the_dial_for_each_load(demo: TestClient) -> None:
    session = plan(demo, 1, 3).json()
    dials = [a["dial_c"] for a in session["activities"] if a["kind"] == "load"]
    assert None not in dials
    assert len(set(dials)) > 1
    path = f"/api/sessions/{session['id']}/file"
    for form in ("csv", "md", "ics"):
        text = demo.get(path, params={"form": form}).text.replace("\r\n ", "")
        told = re.findall(
            r"(?:SUMMARY:|\| |,\"?)Tray \w+ into the oven\\?, dial at \d+ °[CF]", text
        )
        assert len(told) == len(dials)
