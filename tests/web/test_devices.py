"""The devices over HTTP: played by hand, an oven watched and its record kept, masses that count."""

from pathlib import Path
from typing import Any

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient

from finebatch.devices import chosen
from finebatch.devices.chosen import Clock
from finebatch.devices.readings import Weight
from finebatch.settings import Settings
from finebatch.web.app import create_app
from tests.conftest import HandClock
from tests.plans import at_hand, happen, plan

OVEN = {"dial_c": 180, "offset_c": -9, "swing_c": 16}


def play(client: TestClient, *, on: bool = True, **parts: Any) -> Any:
    answer = client.put("/api/devices", json={"on": on, **parts})
    assert answer.status_code == 200, answer.text
    return answer.json()


def watch_for(app: FastAPI, clock: HandClock, minutes: float) -> None:
    """The devices read on for so long."""
    for _ in range(round(minutes * 6)):
        clock.pass_minutes(1 / 6)
        app.state.devices.tick()


def test_switched_off_they_show_nothing(client: TestClient) -> None:
    found = client.get("/api/devices").json()
    assert found["scale"] is None
    assert found["oven"] is None
    assert client.post("/api/devices/scale/tare").status_code == 409
    assert client.post("/api/oven/watch", json={"dial_c": 180}).status_code == 422


def test_what_lies_on_the_scale_is_shown_and_tared(client: TestClient, clock: HandClock) -> None:
    play(client, scale={"load_g": 250})
    clock.at += 5000
    assert client.get("/api/devices").json()["scale"]["grams"] == 250
    assert client.post("/api/devices/scale/tare").json()["scale"]["grams"] == 0


def test_trouble_is_said_and_goes_by(client: TestClient) -> None:
    found = play(client, scale={"trouble": "unplugged"}, oven={"trouble": "rubbish"})
    assert "does not answer" in found["scale"]["fault"]
    assert "no temperature" in found["oven"]["fault"]
    assert client.post("/api/devices/scale/tare").status_code == 409
    assert play(client, scale={})["scale"]["fault"] is None


def test_a_watched_oven_tells_its_offset_and_leaves_a_record(
    app: FastAPI, demo: TestClient, clock: HandClock
) -> None:
    play(demo, oven=OVEN)
    demo.post("/api/oven/watch", json={"dial_c": 180})
    watch_for(app, clock, 5)
    assert demo.get("/api/oven/watch").json()["reading"] is None
    early = demo.post("/api/oven/watch/keep")
    assert early.status_code == 409
    assert "too early" in early.json()["detail"]
    watch_for(app, clock, 50)
    found = demo.get("/api/oven/watch", params={"wanted_c": 175}).json()
    assert found["reading"]["offset_c"] == pytest.approx(-9, abs=2)
    assert found["set_to_c"] == pytest.approx(184, abs=2)
    before = demo.get("/api/kitchen").json()["planning"]["oven"]["offset_c"]
    assert before == 0
    assert demo.post("/api/oven/watch/keep").status_code == 200
    oven = demo.get("/api/kitchen").json()["planning"]["oven"]
    assert oven["offset_c"] == pytest.approx(found["reading"]["offset_c"], abs=0.1)
    [record] = demo.get("/api/oven/records").json()
    assert record["mean_c"] == pytest.approx(171, abs=2)
    assert demo.get("/api/oven/watch").json() is None
    loads = [a for a in plan(demo, 1).json()["activities"] if a["kind"] == "load"]
    assert int(loads[0]["label"]) == pytest.approx(189, abs=2)


def test_a_watch_that_is_not_kept_leaves_nothing(
    app: FastAPI, client: TestClient, clock: HandClock
) -> None:
    play(client, oven=OVEN)
    client.post("/api/oven/watch", json={"dial_c": 180})
    watch_for(app, clock, 40)
    assert client.delete("/api/oven/watch").status_code == 204
    assert client.get("/api/oven/records").json() == []
    assert client.post("/api/oven/watch/keep").status_code == 409


def test_a_thermometer_in_the_wrong_place_is_not_believed(
    app: FastAPI, client: TestClient, clock: HandClock
) -> None:
    play(client, oven=OVEN)
    client.post("/api/oven/watch", json={"dial_c": 280})
    watch_for(app, clock, 50)
    refused = client.post("/api/oven/watch/keep")
    assert refused.status_code == 409
    assert "where the thermometer stands" in refused.json()["detail"]


def test_the_second_oven_has_a_record_of_its_own(
    app: FastAPI, client: TestClient, clock: HandClock
) -> None:
    play(client, oven=OVEN)
    none = client.post("/api/oven/watch", json={"oven": 2, "dial_c": 180})
    assert none.status_code == 422
    kitchen = client.get("/api/kitchen").json()
    kitchen["planning"]["second"] = {"shelves": 1}
    client.put("/api/kitchen", json=kitchen)
    client.post("/api/oven/watch", json={"oven": 2, "dial_c": 180})
    watch_for(app, clock, 50)
    client.post("/api/oven/watch/keep")
    planning = client.get("/api/kitchen").json()["planning"]
    assert planning["oven"]["offset_c"] == 0
    assert planning["second"]["nature"]["offset_c"] < -6


@pytest.fixture
def running(demo: TestClient) -> Any:
    """A session of the drops that has just been started."""
    at_hand(demo)
    made = plan(demo, 1).json()
    return demo.post(f"/api/sessions/{made['id']}/start").json()


def weigh(client: TestClient, session: Any, key: str, grams: float, what: str | None = None) -> Any:
    body = {"kind": "weighed", "activity": key, "grams": grams, "what": what}
    return happen(client, session, body)


def along(client: TestClient, session: Any, key: str) -> Any:
    return client.get(f"/api/sessions/{session['id']}/weighing/{key}").json()


def test_ingredients_are_weighed_one_after_the_other(demo: TestClient, running: Any) -> None:
    listed = along(demo, running, "A.mix")["ingredients"]
    assert len(listed) >= 6
    first = listed[0]
    assert weigh(demo, running, "A.mix", 101.5, first["key"]).status_code == 200
    after = along(demo, running, "A.mix")["ingredients"]
    assert after[0]["weighed_g"] == 101.5
    assert after[1]["weighed_g"] is None
    demo.post(f"/api/sessions/{running['id']}/undo")
    assert along(demo, running, "A.mix")["ingredients"][0]["weighed_g"] is None


def test_too_much_of_something_scales_the_rest_of_the_dough(demo: TestClient, running: Any) -> None:
    """130 g for 100: all else is made to go with it, what is short is asked for again."""
    first, second, third, *_ = along(demo, running, "A.mix")["ingredients"]
    weigh(demo, running, "A.mix", first["target_g"], first["key"])
    weigh(demo, running, "A.mix", 1.3 * second["target_g"], second["key"])
    poured = along(demo, running, "A.mix")["poured"]
    assert (poured["key"], poured["times"]) == (second["key"], pytest.approx(1.3))
    assert poured["pieces"] == pytest.approx(
        0.3 * sum(t["pieces"] for t in running["trays"]), abs=1
    )

    def scaled(what: str) -> Any:
        return happen(demo, running, {"kind": "scaled", "activity": "A.mix", "what": what})

    assert scaled("moon_dust").status_code == 422
    assert scaled(third["key"]).status_code == 409
    assert scaled(second["key"]).status_code == 200
    found = along(demo, running, "A.mix")
    assert (found["times"], found["poured"]) == (pytest.approx(1.3), None)
    one, two, three, *_ = found["ingredients"]
    assert one["more_g"] == pytest.approx(0.3 * first["target_g"])
    assert two["more_g"] == 0
    assert three["more_g"] == pytest.approx(1.3 * third["target_g"])
    # A slip on that again goes by what is wanted now; and it can be taken back.
    demo.post(f"/api/sessions/{running['id']}/undo")
    assert along(demo, running, "A.mix")["times"] == 1


def test_what_nobody_would_bake_is_not_offered(demo: TestClient, running: Any) -> None:
    first = along(demo, running, "A.mix")["ingredients"][0]
    for times, offered in ((1.04, False), (1.5, True), (4, False)):
        weigh(demo, running, "A.mix", times * first["target_g"], first["key"])
        assert (along(demo, running, "A.mix")["poured"] is not None) is offered


def test_all_is_weighed_out_before_it_is_mixed(demo: TestClient) -> None:
    session = plan(demo, 1).json()
    session = demo.post(f"/api/sessions/{session['id']}/start").json()
    weighed = {a["key"] for a in session["activities"] if a["may_be_weighed"]}
    ready = [a for a in session["activities"] if a["kind"] == "ready"]
    out = next(a["key"] for a in ready if "Weigh" in a["said"]["title"])
    butter = next(a["key"] for a in ready if a["key"] != out)
    assert {out, "A.mix", "A1.portion"} <= weighed
    assert butter not in weighed
    first = along(demo, session, out)["ingredients"][0]
    weigh(demo, session, out, first["target_g"], first["key"])
    # What is in the bowl need not be weighed again when it is mixed.
    assert along(demo, session, "A.mix")["ingredients"][0]["more_g"] == 0
    assert demo.get(f"/api/sessions/{session['id']}/weighing/{butter}").status_code == 409


def test_weighing_moves_nothing_in_the_plan(demo: TestClient, running: Any) -> None:
    key = along(demo, running, "A.mix")["ingredients"][0]["key"]
    after = weigh(demo, running, "A.mix", 100, key).json()
    times = [(a["key"], a["start_at"]) for a in after["activities"]]
    assert times == [(a["key"], a["start_at"]) for a in running["activities"]]


@pytest.mark.parametrize(
    ("key", "grams", "what", "status"),
    [
        ("A.mix", 50, "moon_dust", 422),
        ("A.mix", -3, "butter_unsalted", 422),
        ("A.mix", 900_000, "butter_unsalted", 422),
        ("A1.portion", 28, "butter_unsalted", 422),
        ("A1.load", 28, None, 409),
        ("Z9.portion", 28, None, 404),
    ],
)
def test_what_cannot_have_been_weighed_is_refused(
    demo: TestClient, running: Any, key: str, grams: float, what: str | None, status: int
) -> None:
    assert weigh(demo, running, key, grams, what).status_code == status
    assert demo.get("/api/sessions/current").json()["can_undo"] is False


def test_portions_tell_their_mean_and_what_it_does(demo: TestClient, running: Any) -> None:
    for grams in (30, 31, 32, 31):
        weigh(demo, running, "A1.portion", grams)
    found = along(demo, running, "A1.portion")
    assert found["wanted"] >= 6
    assert found["portions"]["mean_g"] == 31
    assert found["portions"]["cv"] == pytest.approx(0.0263, abs=1e-3)
    assert {off["how"] for off in found["portions"]["off"]} == {"heavy"}
    assert found["width_mm"] > found["planned_mm"] + 1


def test_real_masses_go_into_the_book(demo: TestClient, running: Any, clock: HandClock) -> None:
    plain = {"dough_id": 1, "session_id": running["id"], "tray": "A1", "widths_mm": [80]}
    as_planned = demo.post("/api/bakes", json=plain).json()
    for grams in (31, 32, 33, 32):
        weigh(demo, running, "A1.portion", grams)
    weighed = demo.post("/api/bakes", json=plain).json()
    assert as_planned["grams"] == 28
    assert weighed["grams"] == 32
    assert weighed["foreseen_mm"] > as_planned["foreseen_mm"] + 1


def test_a_sheet_is_where_its_tray_is(demo: TestClient, running: Any, clock: HandClock) -> None:
    def sheet() -> Any:
        now = demo.get("/api/sessions/current").json()["sheets_now"]
        return next((s for s in now if s["tray"] == "A1"), None)

    assert sheet() is None
    states = []
    # Portioned and loaded in the same moment: the order in which it was said counts.
    for key, minutes in (("A.mix", 15), ("A1.portion", 60), ("A1.load", 0), ("A1.out", 12)):
        clock.pass_minutes(minutes)
        body = {"kind": "done", "activity": key}
        happen(demo, running, body)
        if key == "A1.load":
            body = {"kind": "skip", "activity": "A1.turn"}
            happen(demo, running, body)
        found = sheet()
        states.append(found and found["state"])
    assert states == [None, "filled", "oven", "cooling"]


def test_the_oven_s_reading_is_filled_in_from_the_bake(
    app: FastAPI, demo: TestClient, running: Any, clock: HandClock
) -> None:
    play(demo, oven=OVEN)
    demo.post("/api/oven/watch", json={"dial_c": 180})
    events = f"/api/sessions/{running['id']}/events"
    watch_for(app, clock, 40)
    for key in ("A.mix", "A1.portion", "A1.load", "A1.turn"):
        happen(demo, running, {"kind": "done", "activity": key})
    watch_for(app, clock, 12)
    after = demo.post(events, json={"kind": "done", "activity": "A1.out"}).json()
    tray = next(t for t in after["trays"] if t["name"] == "A1")
    assert tray["took_min"] == 12
    assert tray["oven_c"] == pytest.approx(171, abs=4)
    other = next(t for t in after["trays"] if t["name"] == "A2")
    assert (other["took_min"], other["oven_c"]) == (None, None)


class Steady:
    """A scale of another make, which always shows a pound."""

    def __init__(self, clock: Clock) -> None:
        self.tared = 0

    def read(self) -> Weight:
        return Weight(453.6 - self.tared, steady=True)

    def tare(self) -> None:
        self.tared = 100


def test_the_scale_that_the_settings_name_is_read(
    tmp_path: Path, clock: HandClock, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(chosen, "SCALES", {**chosen.SCALES, "steady": Steady})
    settings = Settings(data_file=tmp_path / "steady.sqlite3", scale="steady")
    with TestClient(
        create_app(settings, clock),
        base_url="http://127.0.0.1",
        headers={"origin": "http://127.0.0.1"},
    ) as client:
        shown = play(client, scale={"load_g": 20})
        assert shown["scale"]["grams"] == 453.6
        # It cannot be played by hand; the thermometer, still a stand-in, can.
        assert shown["stand_ins"]["scale"] is None
        assert shown["stand_ins"]["oven"]["dial_c"] == 0
        assert client.post("/api/devices/scale/tare").json()["scale"]["grams"] == 353.6


def test_a_device_that_there_is_not_is_named_with_those_that_there_are(tmp_path: Path) -> None:
    settings = Settings(data_file=tmp_path / "none.sqlite3", thermometer="probe")
    with pytest.raises(chosen.UnknownDevice, match="no oven thermometer called “probe”"):
        create_app(settings)
