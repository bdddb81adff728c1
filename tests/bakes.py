"""Bakes written down over HTTP, and what is foreseen after them."""

from typing import Any

from fastapi.testclient import TestClient


def width(client: TestClient, dough: int = 3) -> dict[str, Any]:
    setting = client.get(f"/api/doughs/{dough}").json()["tray"]
    found: dict[str, Any] = client.post(f"/api/doughs/{dough}/foresee", json=setting).json()
    return found["width"] | {"minutes": found["minutes"]}


def record(client: TestClient, **fields: Any) -> Any:
    return client.post("/api/bakes", json={"dough_id": 3, "widths_mm": [], **fields})
