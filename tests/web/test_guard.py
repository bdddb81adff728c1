from pathlib import Path

import pytest
import schemathesis
from fastapi import FastAPI
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from sqlalchemy.exc import OperationalError

from finebatch.store.places import token_of
from finebatch.web.guard import TOKEN
from tests.chance import TIMES, so_many
from tests.conftest import own_page


@pytest.mark.parametrize("host", ["evil.example", "evil.example:8765", "127.0.0.1.evil", "[", ""])
def test_only_this_machine_s_names_are_answered(client: TestClient, host: str) -> None:
    assert client.get("/api/doughs", headers={"host": host}).status_code == 403


@pytest.mark.parametrize(
    "origin", ["http://evil.example", "null", "http://127.0.0.1:9999", "http://["]
)
def test_other_sites_cannot_write(client: TestClient, origin: str) -> None:
    answer = client.post("/api/read", json={"text": ""}, headers={"origin": origin})
    assert answer.status_code == 403
    assert "another site" in answer.json()["detail"]


def test_a_program_writes_with_its_token(app: FastAPI, demo: TestClient) -> None:
    """What has no origin, as a page has one, changes nothing without it; it may look."""
    program = TestClient(app, base_url="http://127.0.0.1:8765")
    assert program.get("/api/doughs").status_code == 200
    token = token_of(app.state.settings.data_file)
    for sent in ({}, {TOKEN: ""}, {TOKEN: "é"}, {TOKEN: token[:-1]}):
        answer = program.delete("/api/doughs/1", headers={k: v.encode() for k, v in sent.items()})
        assert answer.status_code == 403
        assert "finebatch token" in answer.json()["detail"]
    assert demo.get("/api/doughs/1").status_code == 200
    assert program.delete("/api/doughs/1", headers={TOKEN: token}).status_code == 200


def test_an_interface_that_is_not_built_is_said(
    client: TestClient, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("finebatch.web.app.STATIC", tmp_path)
    answer = client.get("/no-such-screen")
    assert answer.status_code == 503
    assert "make setup" in answer.json()["detail"]


def test_its_own_pages_can_write(client: TestClient) -> None:
    own = {"origin": "http://127.0.0.1:8765"}
    assert client.post("/api/read", json={"text": ""}, headers=own).status_code == 200


def test_every_answer_carries_a_strict_policy(client: TestClient) -> None:
    for path in ("/api/doughs", "/api/none", "/"):
        policy = client.get(path).headers["content-security-policy"]
        assert "default-src 'none'" in policy
        assert "script-src 'self';" in policy
        assert "unsafe" not in policy


@pytest.mark.parametrize("declared", [True, False])
def test_more_than_a_megabyte_is_not_taken(client: TestClient, declared: bool) -> None:
    text = b'{"lines": "' + b"x" * 1_100_000 + b'"}'
    content = text if declared else iter([text[:600_000], text[600_000:]])
    answer = client.post("/api/read", content=content)
    assert answer.status_code == 413
    assert "1 MB" in answer.json()["detail"]


@pytest.mark.parametrize(
    ("method", "path", "status"),
    [
        ("GET", "/api/none", 404),
        ("GET", "/api/doughs/0", 422),
        ("GET", "/api/doughs/99999999999999999999999", 422),
        ("GET", "/api/doughs/x", 422),
        ("PATCH", "/api/doughs", 404),
        ("POST", "/api/read", 422),
    ],
)
def test_wrong_requests_are_problems_in_one_shape(
    client: TestClient, method: str, path: str, status: int
) -> None:
    answer = client.request(method, path, content=b"{")
    assert answer.status_code == status
    assert answer.headers["content-type"] == "application/problem+json"
    assert set(answer.json()) == {"type", "title", "status", "detail", "errors"}


def test_a_full_disk_is_a_clear_message(app: FastAPI, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(*_: object) -> None:
        raise OperationalError("INSERT", {}, Exception("database or disk is full"))

    monkeypatch.setattr("finebatch.workflow.dough.doughs.add_dough", full)
    with own_page(app, raises=False) as client:
        card = {"name": "A", "family": "drop", "lines": []}
        answer = client.post("/api/doughs", json=card)
        assert answer.status_code == 503
        assert "disk has room" in answer.json()["detail"]
        assert client.get("/api/doughs").json()["doughs"] == []


HOST = {"host": "127.0.0.1", "origin": "http://127.0.0.1"}


@pytest.mark.chance
def test_no_request_gets_a_500(demo: TestClient) -> None:
    schema = schemathesis.openapi.from_asgi("/api/openapi.json", demo.app, headers=HOST)
    bounded = settings(
        max_examples=so_many(4),
        deadline=None,
        derandomize=TIMES == 1,
        suppress_health_check=list(HealthCheck),
    )
    asked = 0

    def check(case: schemathesis.Case) -> None:
        nonlocal asked
        asked += 1
        answer = case.call(base_url="http://127.0.0.1", headers=HOST)
        assert answer.status_code < 500, (case.as_curl_command(), answer.text)
        if answer.status_code >= 400:
            assert answer.headers["content-type"] == ["application/problem+json"]

    # Events come without end; the demo beside is a process of its own.
    asked_for = schema.exclude(path="/api/stream").exclude(path="/api/demo/beside")
    for found in asked_for.get_all_operations():
        operation = found.ok()
        bounded(given(case=operation.as_strategy())(check))()
    assert asked > 100


def test_head_is_get_without_its_body(demo: TestClient) -> None:
    for path in ("/api/doughs", "/api/doughs/1", "/api/book/file", "/api/doughs/4711"):
        whole, head = demo.get(path), demo.head(path)
        assert (head.status_code, head.content) == (whole.status_code, b"")
        assert head.headers["content-type"] == whole.headers["content-type"]


def test_options_say_what_a_path_can_be_asked(demo: TestClient) -> None:
    answer = demo.options("/api/doughs/1")
    assert answer.status_code == 204
    assert answer.headers["allow"] == "DELETE, GET, HEAD, OPTIONS, PUT"
    assert demo.options("/api/copies/x.zip/restore").headers["allow"] == "OPTIONS, POST"
    assert demo.options("/api/nothing").status_code in (404, 405)


def test_what_a_baker_has_is_in_no_cache(demo: TestClient) -> None:
    for path in ("/api/doughs", "/api/book/file", "/api/doughs/1/card.md", "/api/doughs/4711"):
        assert demo.get(path).headers["cache-control"] == "no-store"
