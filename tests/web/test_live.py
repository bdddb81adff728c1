"""What happens is kept and told at once; the rest is planned without holding anybody up."""

import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient

from finebatch.core.plan.replan import replan
from finebatch.core.refusal import refuse
from finebatch.web.app import create_app
from finebatch.workflow.session import baking, live, session_rows
from tests.conftest import HandClock, own_page
from tests.plans import at_hand, happen, plan

Step = Callable[[], None]


@pytest.fixture
def running(demo: TestClient) -> Any:
    at_hand(demo)
    made = plan(demo, 1).json()
    return demo.post(f"/api/sessions/{made['id']}/start").json()


def replanning(monkeypatch: pytest.MonkeyPatch, *steps: Step) -> list[int]:
    """Let something happen in the middle of each planning, the last step from then on; how often
    the rest was planned."""
    planned: list[int] = []

    def slow(*args: Any, **more: Any) -> Any:
        planned.append(1)
        steps[min(len(planned), len(steps)) - 1]()
        return replan(*args, **more)

    monkeypatch.setattr(live, "replan", slow)
    return planned


def say(demo: TestClient, running: Any, activity: str, kind: str = "done", **more: Any) -> Any:
    body = {"kind": kind, "activity": activity, **more}
    return happen(demo, running, body)


def kept(app: FastAPI, running: Any) -> list[str]:
    with app.state.database.reading() as session:
        row = session_rows.find_session(session, running["id"])
        return [event.activity for event in row.events]


def test_it_is_kept_and_told_before_the_rest_is_planned(
    app: FastAPI, demo: TestClient, running: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    told: list[Any] = []
    app.state.wire.tell = lambda event, data: told.append((event, data))
    meanwhile: list[Any] = []

    def look() -> None:
        meanwhile.append((list(told), kept(app, running)))

    replanning(monkeypatch, look)
    say(demo, running, "A.mix")
    [(told_before, events)] = meanwhile
    assert events == ["A.mix"]
    [(event, data)] = told_before
    assert event == "session"
    assert next(a["done_at"] for a in data["activities"] if a["key"] == "A.mix") is not None
    assert len(told) == 2


def test_others_write_while_the_rest_is_planned(
    app: FastAPI, demo: TestClient, running: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    def write() -> None:
        weighed = baking.BakeEvent("weighed", "A1.portion", grams=28)
        live.say(app.state.database, running["id"], weighed, running["now"], lambda: None)

    planned = replanning(monkeypatch, write)
    answer = say(demo, running, "A.mix").json()
    assert answer["happened"] == 2
    assert len(planned) == 1


def test_what_is_said_meanwhile_is_in_the_plan(
    app: FastAPI, demo: TestClient, running: Any, clock: HandClock, monkeypatch: pytest.MonkeyPatch
) -> None:
    clock.pass_minutes(15)

    def more() -> None:
        with app.state.database.writing() as session:
            row = session_rows.find_session(session, running["id"])
            baking.note(row, baking.BakeEvent("away", minutes=90), clock())

    planned = replanning(monkeypatch, more, lambda: None)
    answer = say(demo, running, "A.mix").json()
    assert len(planned) == 2
    back = clock() + 90 * 60_000
    ahead = [a for a in answer["activities"] if a["hands"] and a["done_at"] is None]
    assert all(a["start_at"] >= back for a in ahead)


def test_what_cannot_be_planned_is_taken_back(
    app: FastAPI, demo: TestClient, running: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    def fail() -> None:
        raise refuse("activity", "The rest could not be planned anew.")

    replanning(monkeypatch, fail)
    answer = say(demo, running, "A.mix")
    assert answer.status_code == 422
    assert kept(app, running) == []
    after = demo.get("/api/sessions/current").json()
    assert [a["start_at"] for a in after["activities"]] == [
        a["start_at"] for a in running["activities"]
    ]


def test_two_presses_of_one_job_at_once_do_it_once(
    app: FastAPI, demo: TestClient, running: Any
) -> None:
    begin = threading.Barrier(2)
    answers: list[int] = []

    def press() -> None:
        begin.wait()
        answers.append(say(demo, running, "A.mix").status_code)

    pressing = [threading.Thread(target=press) for _ in range(2)]
    for thread in pressing:
        thread.start()
    for thread in pressing:
        thread.join()
    assert answers == [200, 200]
    assert kept(app, running) == ["A.mix"]


def test_a_server_that_is_started_again_plans_after_what_it_had_kept(
    app: FastAPI, demo: TestClient, running: Any, clock: HandClock
) -> None:
    database = app.state.database
    with database.writing() as session:
        row = session_rows.find_session(session, running["id"])
        baking.note(row, baking.BakeEvent("away", minutes=90), clock())
    back = clock() + 90 * 60_000
    with own_page(create_app(app.state.settings, clock)) as again:
        for _ in range(600):
            now = again.get("/api/sessions/current").json()
            if all(a["start_at"] >= back for a in now["activities"] if a["hands"]):
                break
            threading.Event().wait(0.05)
        else:
            raise AssertionError("the rest was not planned again")
    told: list[int] = []
    live.catch_up(database, clock(), lambda: told.append(1))
    assert told == []


def test_a_session_planned_before_that_was_kept_stays_as_it_is(
    app: FastAPI, running: Any, clock: HandClock
) -> None:
    with app.state.database.writing() as session:
        row = session_rows.find_session(session, running["id"])
        baking.note(row, baking.BakeEvent("away", minutes=90), clock())
        row.planned_after = None
    told: list[int] = []
    live.catch_up(app.state.database, clock(), lambda: told.append(1))
    assert told == []


def test_each_change_is_newer_than_the_one_before_whatever_the_clock_does(
    demo: TestClient, running: Any, clock: HandClock
) -> None:
    seen = [running["changed_at"]]
    seen.append(say(demo, running, "A.mix").json()["changed_at"])
    seen.append(say(demo, running, "oven.heat").json()["changed_at"])
    clock.pass_minutes(-90)
    seen.append(say(demo, running, "A1.portion").json()["changed_at"])
    seen.append(demo.post(f"/api/sessions/{running['id']}/undo").json()["changed_at"])
    assert seen == sorted(set(seen))


STUCK = """
import sys, time
from pathlib import Path
from finebatch.settings import Settings
from finebatch.web.app import create_app
from finebatch.web.server import server_of
app = create_app(Settings(data_file=Path(sys.argv[1])))
app.state.searches._worker.submit(time.sleep, 600)
server = server_of(app, int(sys.argv[2]))
print("up", flush=True)
server.run()
"""


def test_a_server_that_works_something_out_stops_all_the_same(tmp_path: Path) -> None:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = [sys.executable, "-c", STUCK, str(tmp_path / "x.sqlite3"), str(port)]
    with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as server:
        assert server.stdout is not None
        assert server.stdout.readline() == "up\n"
        deadline = time.monotonic() + 60
        while time.monotonic() < deadline:
            with socket.socket() as there:
                if there.connect_ex(("127.0.0.1", port)) == 0:
                    break
            time.sleep(0.05)
        server.send_signal(signal.SIGTERM)
        # Far below the ten minutes that its thread goes on for, far above what it needs.
        assert server.wait(timeout=60) != 0
