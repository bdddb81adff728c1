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


def plan_in(page_request: APIRequestContext, address: str, *doughs: int, **more: Any) -> Any:
    """The same through a browser's own requests; the plan that was found."""
    found = page_request.put(f"{address}/api/plan", data=wish_of(*(doughs or (1,)), **more)).json()
    while found["searching"]:
        threading.Event().wait(0.05)
        found = page_request.get(f"{address}/api/plan").json()
    return found
