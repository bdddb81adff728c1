"""What is given out is safe to open, whatever a baker has pasted into a name."""

import csv
import io
from xml.dom import minidom

import pytest
from fastapi.testclient import TestClient
from markdown_it import MarkdownIt

from tests.plans import plan

HOSTILE = "=1+1 <img src=x onerror=alert(1)> [a](javascript:alert(1)) \x01\x0b\x1b ]]> | c"


@pytest.fixture
def named(demo: TestClient) -> TestClient:
    kept = demo.get("/api/doughs/1").json()
    card = {**kept["card"], "name": HOSTILE, "note": HOSTILE, "revision": kept["revision"]}
    assert demo.put("/api/doughs/1", json=card).status_code == 200
    return demo


def test_markdown_holds_no_markup_of_a_name(named: TestClient) -> None:
    session = plan(named, 1).json()["id"]
    for path in ("/api/doughs/1/card.md", f"/api/sessions/{session}/file?form=md"):
        tokens = MarkdownIt("commonmark", {"html": True}).parse(named.get(path).text)
        every = [inner for token in tokens for inner in (token, *(token.children or ()))]
        kinds = {token.type for token in every}
        assert not kinds & {"html_block", "html_inline", "link_open", "image"}, path


def test_a_drawing_is_an_svg_without_control_characters(named: TestClient) -> None:
    tray = named.get("/api/doughs/1").json()["tray"]
    body = {**tray, "form": "svg"}
    given = named.post("/api/doughs/1/template", json=body)
    assert given.status_code == 200, given.text
    title = minidom.parseString(given.content).getElementsByTagName("title")[0]
    assert "onerror" in title.firstChild.data  # type: ignore[union-attr]


def test_a_calendar_has_no_control_characters(named: TestClient) -> None:
    session = plan(named, 1).json()["id"]
    given = named.get(f"/api/sessions/{session}/file?form=ics").text
    assert {letter for letter in given if ord(letter) < 32} == {"\r", "\n"}


@pytest.mark.parametrize("begin", ["=", "+", "-", "@", "\t", "\r", "\n", "＝", "＋", "－", "＠"])
def test_no_cell_begins_as_a_formula(demo: TestClient, begin: str) -> None:
    kept = demo.get("/api/doughs/1").json()
    card = {**kept["card"], "note": f"{begin}1+1", "revision": kept["revision"]}
    assert demo.put("/api/doughs/1", json=card).status_code == 200
    record = {"dough_id": 1, "widths_mm": [60], "note": f"{begin}HYPERLINK(1)"}
    assert demo.post("/api/bakes", json=record).status_code == 201
    for path in ("/api/doughs/1/card.csv", "/api/book/file"):
        for row in csv.reader(io.StringIO(demo.get(path).text, newline="")):
            assert not any(cell.startswith(begin) and len(cell) > 1 for cell in row), path
