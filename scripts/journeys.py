"""Five journeys through the house: how many modules each calls into, and how many statements.

.venv/bin/python scripts/journeys.py
"""

import sys
import tempfile
import threading
import warnings
from collections.abc import Callable
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient
from sqlalchemy import event

from finebatch.demo.load import load
from finebatch.settings import Settings
from finebatch.web.app import create_app

NOW = 1_800_000_000_000


class Walk:
    """Counts the modules that are called into, in any thread, and the statements."""

    def __init__(self) -> None:
        self.modules: set[str] = set()
        self.statements = 0

    def called(self, frame: Any, what: str, _arg: object) -> None:
        if what == "call":
            name = frame.f_globals.get("__name__", "")
            if name.startswith("finebatch."):
                self.modules.add(name)

    def executed(self, *_args: object) -> None:
        self.statements += 1


def walk(engine: Any, journey: Callable[[], Any]) -> Walk:
    """One journey, walked once before so that nothing is read for the first time."""
    journey()
    found = Walk()
    event.listen(engine, "before_cursor_execute", found.executed)
    threading.setprofile(found.called)
    sys.setprofile(found.called)
    try:
        answer = journey()
    finally:
        sys.setprofile(None)
        threading.setprofile(None)
        event.remove(engine, "before_cursor_execute", found.executed)
    assert answer.status_code < 300, answer.text
    return found


AT = "http://127.0.0.1:8765"


def main() -> None:
    warnings.simplefilter("ignore")
    now = [NOW]
    file = Path(tempfile.mkdtemp()) / "journeys.sqlite3"
    app = create_app(Settings(data_file=file, plan_seconds=0.3), lambda: now[0])
    load(app.state.database, NOW)
    client = TestClient(app, base_url=AT, headers={"origin": AT})
    dough = client.get("/api/doughs/1").json()
    study = {"card": dough["card"], "tray": dough["tray"], "dough_id": 1}
    wish = {"items": [{"dough_id": n} for n in (1, 2, 3)], "sheets": 3, "shelves": 2}

    def plan() -> Any:
        answer = client.put("/api/plan", json=wish)
        client.post("/api/plan/stop")
        return answer

    def done() -> Any:
        session = client.get("/api/sessions/current").json()
        jobs = [a for a in session["activities"] if a["hands"] and not a["done_at"]]
        job = min(jobs, key=lambda a: a["due_at"])
        now[0] = max(now[0], job["end_at"])
        said = {"kind": "done", "activity": job["key"]}
        return client.post(f"/api/sessions/{session['id']}/events", json=said)

    engine = app.state.database.engine
    walks = {
        "a card studied": walk(engine, lambda: client.post("/api/study", json=study)),
        "a tray foreseen": walk(
            engine,
            lambda: client.post("/api/doughs/1/foresee", json={**dough["tray"], "tried": []}),
        ),
        "three doughs planned": walk(engine, plan),
    }
    planned = client.get("/api/plan").json()
    client.post(f"/api/sessions/{planned['id']}/start")
    walks["a job done"] = walk(engine, done)
    walks["what was learnt"] = walk(engine, lambda: client.get("/api/lessons"))
    for name, found in walks.items():
        print(f"{name:22} {len(found.modules):3} modules {found.statements:3} statements")
    app.state.searches.close()
    app.state.database.close()


if __name__ == "__main__":
    main()
