"""What is given out, read by libraries that did not write it, with every warning an error."""

import csv
import io
import json
import random
import warnings
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import jsonschema_rs
import pytest
from fastapi.testclient import TestClient
from markdown_it import MarkdownIt
from rdflib import RDF, Graph, Namespace

from finebatch.formats.session_writing import write_session
from tests.formats.test_round_trips import a_file
from tests.plans import plan

ROOT = Path(__file__).parents[2]
SCHEMA = Namespace("https://schema.org/")


@pytest.fixture(autouse=True)
def strict() -> Iterator[None]:
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        # Of the library's own code.
        warnings.filterwarnings("ignore", message="ConjunctiveGraph is deprecated")
        yield


def given_out(client: TestClient, path: str) -> str:
    answer = client.get(path)
    assert answer.status_code == 200
    return answer.text


def doughs(client: TestClient) -> list[Any]:
    found: list[Any] = client.get("/api/doughs").json()["doughs"]
    return found


def test_a_recipe_is_a_graph_of_schema_org(
    demo: TestClient, caplog: pytest.LogCaptureFixture
) -> None:
    for dough in doughs(demo):
        node = json.loads(given_out(demo, f"/api/doughs/{dough['id']}/card.jsonld"))
        # What is only named is not fetched: its terms are schema.org's.
        node["@context"] = {"@vocab": str(SCHEMA)}
        graph = Graph().parse(data=json.dumps(node), format="json-ld")
        recipes = list(graph.subjects(RDF.type, SCHEMA.Recipe))
        named = [r for r in recipes if str(graph.value(r, SCHEMA.name)) == dough["name"]]
        assert len(named) == 1
        card = demo.get(f"/api/doughs/{dough['id']}").json()["card"]
        told = list(graph.objects(named[0], SCHEMA.recipeIngredient))
        assert len(told) == len(card["lines"])
        steps = list(graph.objects(None, SCHEMA.recipeInstructions))
        assert len(steps) >= len(card["steps"])
    assert [record for record in caplog.records if record.name.startswith("rdflib")] == []


def tables_of(text: str) -> list[list[int]]:
    """The cells in each row of each table of a Markdown text."""
    found: list[list[int]] = []
    for token in MarkdownIt("commonmark").enable("table").parse(text):
        match token.type:
            case "table_open":
                found.append([])
            case "tr_open":
                found[-1].append(0)
            case "th_open" | "td_open":
                found[-1][-1] += 1
    return found


def test_markdown_has_whole_tables(demo: TestClient) -> None:
    session = plan(demo, 1, 3).json()["id"]
    texts = [given_out(demo, f"/api/sessions/{session}/file?form=md")]
    texts += [given_out(demo, f"/api/doughs/{dough['id']}/card.md") for dough in doughs(demo)]
    for text in texts:
        tables = tables_of(text)
        assert tables
        assert all(len(set(rows)) == 1 and len(rows) > 1 for rows in tables)


def test_tables_have_as_many_cells_as_columns(demo: TestClient) -> None:
    session = plan(demo, 1, 3).json()["id"]
    paths = ["/api/book/file", f"/api/sessions/{session}/file?form=csv"]
    paths += [f"/api/doughs/{dough['id']}/card.csv" for dough in doughs(demo)]
    for path in paths:
        text = given_out(demo, path)
        rows = list(csv.reader(io.StringIO(text), strict=True))
        assert len(rows) > 1
        assert {len(row) for row in rows} == {len(rows[0])}
        assert csv.Sniffer().has_header(text)


def test_a_session_keeps_its_schema(demo: TestClient) -> None:
    kept = json.loads((ROOT / "docs" / "session.schema.json").read_text(encoding="utf-8"))
    check = jsonschema_rs.validator_for(kept)
    session = plan(demo, 1, 3).json()["id"]
    files = [given_out(demo, f"/api/sessions/{session}/file")]
    files += [write_session(a_file(random.Random(seed))) for seed in range(10)]
    for text in files:
        check.validate(json.loads(text))
    assert not check.is_valid({**json.loads(files[0]), "kitchen": None})
