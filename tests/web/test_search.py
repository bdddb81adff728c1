"""The search beside the server: an old one never writes over what was asked for since."""

from concurrent.futures import Future

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from sqlalchemy.orm import Session

from finebatch.core.session.wish import Item, Wish
from finebatch.store.models import SessionRow
from finebatch.workflow.session import session_rows
from finebatch.workflow.session.plans import improve, plan_quick
from finebatch.workflow.session.search import Search, Searches
from finebatch.workflow.session.session_rows import find_session
from tests.conftest import HandClock


def wish(pieces: int | None) -> Wish:
    return Wish((Item(1, pieces),), 3, 2)


def test_an_old_search_keeps_nothing_once_something_else_is_asked(
    app: FastAPI, demo: TestClient, clock: HandClock
) -> None:
    database = app.state.database
    session_id = plan_quick(database, wish(None), clock())
    asked_again = []

    def go_on() -> bool:
        if not asked_again:
            asked_again.append(plan_quick(database, wish(8), clock()))
        return True

    improve(database, session_id, 0.5, go_on)
    assert asked_again == [session_id]
    with database.reading() as session:
        row = find_session(session, session_id)
        assert row.snapshot.items[0].kept == 27
        assert sum(tray.pieces for tray in row.work.trays) == 8
        assert any(a.kind == "freeze" for a in row.plan.activities)


def test_a_better_plan_is_kept(app: FastAPI, demo: TestClient, clock: HandClock) -> None:
    database = app.state.database
    session_id = plan_quick(database, wish(None), clock())
    with database.reading() as session:
        quick = max(a.end for a in find_session(session, session_id).plan.activities)
    improve(database, session_id, 0.5, lambda: True)
    with database.reading() as session:
        row = find_session(session, session_id)
        assert max(a.end for a in row.plan.activities) <= quick
        assert row.plan.bound <= quick


def test_a_plan_that_was_thrown_away_stays_away(
    app: FastAPI, demo: TestClient, clock: HandClock
) -> None:
    database = app.state.database
    session_id = plan_quick(database, wish(None), clock())

    def go_on() -> bool:
        demo.delete("/api/plan")
        return True

    improve(database, session_id, 0.5, go_on)
    assert demo.get("/api/plan").json() is None


def test_a_search_that_nobody_looks_at_ends(monkeypatch: pytest.MonkeyPatch) -> None:
    now = [100.0]
    monkeypatch.setattr("finebatch.workflow.session.search.time.monotonic", lambda: now[0])
    search = Search(1)
    assert search.go_on()
    now[0] += 29
    search.look()
    now[0] += 29
    assert search.go_on()
    now[0] += 2
    assert not search.go_on()


def test_a_new_search_stops_the_one_before_it(app: FastAPI) -> None:
    searches: Searches = app.state.searches
    first = Search(1)
    searches._latest = first
    searches.stop()
    assert not first.go_on()
    assert searches.searching() is None


def test_a_plan_that_is_read_while_its_search_ends_is_asked_for_again(
    app: FastAPI, demo: TestClient, clock: HandClock, monkeypatch: pytest.MonkeyPatch
) -> None:
    search = Search(plan_quick(app.state.database, wish(None), clock()))
    search.future = Future()
    app.state.searches._latest = search
    read = session_rows.planned_row

    def ends(session: Session) -> SessionRow | None:
        found = read(session)
        if search.future is not None and not search.future.done():
            search.future.set_result(None)
        return found

    monkeypatch.setattr(session_rows, "planned_row", ends)
    assert demo.get("/api/plan").json()["searching"]
    assert not demo.get("/api/plan").json()["searching"]
