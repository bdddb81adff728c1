"""The API's document says what the API does, for every operation."""

import json
import shutil
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from finebatch.settings import Settings
from finebatch.web.app import create_app
from tests.conftest import DataFiles, HandClock, own_page
from tests.plans import plan

ROOT = Path(__file__).parents[2]


@pytest.fixture(scope="module")
def document(
    tmp_path_factory: pytest.TempPathFactory, data_files: DataFiles
) -> Iterator[dict[str, Any]]:
    file = tmp_path_factory.mktemp("described") / "test.sqlite3"
    shutil.copy(data_files.empty, file)
    app = create_app(Settings(data_file=file), HandClock())
    found: dict[str, Any] = own_page(app).get("/api/openapi.json").json()
    yield found
    app.state.searches.close()
    app.state.database.close()


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
            assert list(problem) == ["application/problem+json"], (method, path, status)
            schema = problem["application/problem+json"]["schema"]
            assert schema == {"$ref": "#/components/schemas/Problem"}


def test_operation_names_are_unique(document: dict[str, Any]) -> None:
    names = [operation["operationId"] for _, _, operation in operations(document)]
    assert len(names) == len(set(names))


def titles_in(part: Any) -> Iterator[str]:
    if isinstance(part, dict):
        if isinstance(part.get("title"), str):
            yield part["title"]
        part = list(part.values())
    if isinstance(part, list):
        for inner in part:
            yield from titles_in(inner)


def test_titles_are_unique_and_are_the_names_of_schemas(document: dict[str, Any]) -> None:
    found = list(titles_in(document["components"]))
    assert sorted(found) == sorted(document["components"]["schemas"])
    assert list(titles_in(document["paths"])) == []


FILES = {
    ("get", "/api/doughs/{dough_id}/card.{form}"),
    ("post", "/api/doughs/{dough_id}/template"),
    ("get", "/api/sessions/{session_id}/file"),
    ("get", "/api/bakes/{bake_id}/photo"),
    ("get", "/api/book/file"),
    ("get", "/api/copies/{name}"),
    ("get", "/api/everything"),
    ("get", "/api/stream"),
}


def test_every_answer_that_is_no_json_has_its_media_types(document: dict[str, Any]) -> None:
    for method, path, operation in operations(document):
        answers = operation["responses"]
        content = (answers.get("200") or answers.get("201") or {}).get("content", {})
        assert content or "204" in answers, (method, path)
        assert ((method, path) in FILES) == (list(content) not in ([], ["application/json"]))


def test_the_files_given_out_are_of_the_types_that_are_described(
    demo: TestClient, document: dict[str, Any]
) -> None:
    plan(demo, 1)
    session = demo.get("/api/plan").json()["id"]
    asked = [("get", "/api/book/file", "/api/book/file", None)]
    for form in ("jsonld", "csv", "txt", "md"):
        asked.append(
            ("get", "/api/doughs/{dough_id}/card.{form}", f"/api/doughs/1/card.{form}", None)
        )
    for form in ("json", "ics", "csv", "md"):
        path = "/api/sessions/{session_id}/file"
        asked.append(("get", path, f"/api/sessions/{session}/file?form={form}", None))
    setting = demo.get("/api/doughs/1").json()["tray"]
    for form in ("pdf", "svg"):
        path = "/api/doughs/{dough_id}/template"
        asked.append(("post", path, "/api/doughs/1/template", {**setting, "form": form}))
    for method, path, address, body in asked:
        answer = demo.request(method, address, json=body)
        assert answer.status_code == 200, (address, answer.text[:300])
        kind = answer.headers["content-type"].split(";")[0]
        assert kind in document["paths"][path][method]["responses"]["200"]["content"], address


def test_the_description_says_who_is_answered(document: dict[str, Any]) -> None:
    assert "`Origin`" in document["info"]["description"]
    assert "`Host`" in document["info"]["description"]


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
