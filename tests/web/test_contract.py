"""The API's document says what the API does, for every operation."""

import json
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

ROOT = Path(__file__).parents[2]


@pytest.fixture
def document(client: TestClient) -> dict[str, Any]:
    found: dict[str, Any] = client.get("/api/openapi.json").json()
    return found


def operations(document: dict[str, Any]) -> list[tuple[str, str, dict[str, Any]]]:
    return [
        (method, path, operation)
        for path, methods in document["paths"].items()
        for method, operation in methods.items()
    ]


def test_the_kept_document_is_the_application_s_own(document: dict[str, Any]) -> None:
    kept = json.loads((ROOT / "docs" / "openapi.json").read_text(encoding="utf-8"))
    assert kept == document


def test_every_operation_is_described_and_names_its_problems(document: dict[str, Any]) -> None:
    found = operations(document)
    assert len(found) >= 20
    for method, path, operation in found:
        assert operation.get("description"), (method, path)
        for status in ("404", "409", "422", "503"):
            problem = operation["responses"][status]["content"]
            assert "application/problem+json" in problem, (method, path, status)


def test_operation_names_are_unique(document: dict[str, Any]) -> None:
    names = [operation["operationId"] for _, _, operation in operations(document)]
    assert len(names) == len(set(names))


def test_bodies_take_nothing_that_is_not_named(document: dict[str, Any]) -> None:
    for name, schema in document["components"]["schemas"].items():
        if name.endswith(("Body", "Change", "Text")):
            assert schema.get("additionalProperties") is False, name


def test_the_page_loads_nothing_from_elsewhere(client: TestClient) -> None:
    page = client.get("/").text
    assert "http://" not in page
    assert "https://" not in page
    assert "<script>" not in page
    assert "<style" not in page


def test_screens_are_the_page_and_hashed_files_are_kept(client: TestClient) -> None:
    page = client.get("/tray/1")
    assert page.headers["content-type"].startswith("text/html")
    assert page.headers["cache-control"] == "no-cache"
    script = page.text.split('src="')[1].split('"')[0]
    assert "immutable" in client.get(script).headers["cache-control"]
    assert client.get("/assets/none.js").headers["content-type"].startswith("text/html")


def test_answers_are_packed_when_they_are_large(demo: TestClient) -> None:
    words = demo.get("/api/words", headers={"accept-encoding": "gzip"})
    assert words.headers["content-encoding"] == "gzip"
