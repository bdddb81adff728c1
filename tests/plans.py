"""Ask for a plan and wait until nothing better is being looked for."""

import threading
from typing import Any

from fastapi.testclient import TestClient
from playwright.sync_api import APIRequestContext


def wish_of(*doughs: int, **more: Any) -> dict[str, Any]:
    items = [{"dough_id": dough} for dough in doughs]
    return {"items": items, "sheets": 2, "shelves": 1, **more}


def plan(client: TestClient, *doughs: int, **more: Any) -> Any:
    """The answer to the wish, of the last look when it was granted."""
    answer = client.put("/api/plan", json=wish_of(*(doughs or (1,)), **more))
    while answer.status_code == 200 and answer.json()["searching"]:
        threading.Event().wait(0.02)
        answer = client.get("/api/plan")
    return answer


def at_hand(client: TestClient, *doughs: int) -> None:
    """Nothing is got ready for those doughs: all is weighed, and the butter is soft."""
    for dough in doughs or (1,):
        kept = client.get(f"/api/doughs/{dough}").json()
        card = {**kept["card"], "without": ["weigh", "soften"], "revision": kept["revision"]}
        answer = client.put(f"/api/doughs/{dough}", json=card)
        assert answer.status_code == 200, answer.text


def happen(client: TestClient, session: Any, body: dict[str, Any]) -> Any:
    """The answer to an event; a dough that is portioned was shaped, chilled and fetched before."""
    path, job = f"/api/sessions/{session['id']}", str(body.get("activity") or "")
    if body.get("kind", "done") == "done" and job.endswith(".portion"):
        for a in client.get(path).json().get("activities", ()):
            between = a["kind"] in ("form", "fetch") and a["dough"] == job[0]
            if between and a["done_at"] is None:
                client.post(f"{path}/events", json={"kind": "done", "activity": a["key"]})
    return client.post(f"{path}/events", json=body)


def plan_in(page_request: APIRequestContext, address: str, *doughs: int, **more: Any) -> Any:
    """The same through a browser's own requests; the plan that was found."""
    found = page_request.put(f"{address}/api/plan", data=wish_of(*(doughs or (1,)), **more)).json()
    while found["searching"]:
        threading.Event().wait(0.05)
        found = page_request.get(f"{address}/api/plan").json()
    return found


def at_hand_in(page_request: APIRequestContext, address: str, *doughs: int) -> None:
    """Nothing is got ready for those doughs: all is weighed, and the butter is soft."""
    for dough in doughs or (1,):
        path = f"{address}/api/doughs/{dough}"
        kept = page_request.get(path).json()
        card = {**kept["card"], "without": ["weigh", "soften"], "revision": kept["revision"]}
        assert page_request.put(path, data=card).ok
