"""What can be kept can be opened and given out; what cannot is refused with a reason."""

import json
import sqlite3
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient

from finebatch.core.formula.dough import Card, Line, Part
from finebatch.core.formula.limits import faults_of, within
from finebatch.workflow.dough.doughs import add_dough
from tests.conftest import CASES, own_page
from tests.web.test_cli import finebatch

HEAD = "dough,family,part,part_kind,per_piece_g,amount,unit,ingredient\n"
DOUGH = "Rounds,drop,,,,250,g,flour_ap\nRounds,drop,,,,100,g,butter_unsalted\n"


def part_row(per_piece_g: str, amount: str = "50", name: str = "Icing") -> str:
    return f"{HEAD}{DOUGH}Rounds,drop,{name},icing,{per_piece_g},{amount},g,sugar_icing\n"


def line(term: str, value: object, **more: object) -> dict[str, Any]:
    return {"@type": "PropertyValue", "propertyID": f"urn:finebatch:{term}", "value": value, **more}


def recipe(
    per_piece_g: object = 3.0, amount: str = "250", part: str = "Icing", name: str = "Rounds"
) -> str:
    flour = line("line", amount, unitText="g", name="flour_ap")
    return json.dumps(
        {
            "@context": "https://schema.org",
            "@type": "Recipe",
            "name": name,
            "additionalProperty": [line("family", "drop"), line("mixing", "creamed"), flour],
            "hasPart": [
                {
                    "@type": "Recipe",
                    "name": part,
                    "additionalProperty": [
                        line("kind", "icing"),
                        line("per_piece_g", per_piece_g),
                        flour,
                    ],
                }
            ],
        }
    )


HOSTILE = {
    "below nothing.csv": part_row("-1"),
    "no number.csv": part_row("nan"),
    "without end.csv": part_row("1e308"),
    "infinite.csv": part_row("inf"),
    "digits.csv": part_row("9" * 5000),
    "letters.csv": f"{HEAD}Rounds,drop,,,,{'five ' * 1000},g,flour_ap\n",
    "amount of digits.csv": f"{HEAD}Rounds,drop,,,,{'9' * 5000},g,flour_ap\n",
    "letters in a part.csv": part_row("3", amount="x" * 5000),
    "name of a part.csv": part_row("3", name="x" * 5000),
    "below nothing.json": recipe(-1),
    "without end.json": recipe(1e308),
    "no number.json": recipe("nan"),
    "letters.json": recipe(amount="x" * 5000),
    "part without a name.json": recipe(part=""),
    "half a letter.json": recipe(name="Rounds \ud800"),
    "digits.json": recipe(1).replace('"value": 1', f'"value": {"9" * 5000}'),
    "brackets.json": "[" * 200_000,
}


@pytest.mark.parametrize("name", HOSTILE)
def test_a_file_that_cannot_be_opened_is_not_kept(
    client: TestClient, tmp_path: Path, name: str
) -> None:
    body = {"name": name, "text": HOSTILE[name]}
    for path in ("/api/bring-in/look", "/api/bring-in"):
        if "\ud800" in name:
            continue
        answer = client.post(path, content=json.dumps(body))
        assert answer.status_code == 422, answer.text
        assert answer.headers["content-type"] == "application/problem+json"
        assert len(answer.json()["detail"]) < 400
    assert client.get("/api/doughs").json()["total"] == 0
    file = tmp_path / name
    file.write_text(HOSTILE[name], encoding="utf-8")
    ran = finebatch("import", str(file), FINEBATCH_DATA_FILE=str(tmp_path / "cli.sqlite3"))
    assert ran.exit_code == 2, ran.output
    assert "Nothing was kept" in ran.stderr
    assert "Traceback" not in ran.output


BOOK = "day,dough,widths_mm,minutes\n"


ROWS = (
    "0001-01-01,{n},70,11",
    "0001-01-01T00:00+14:00,{n},70,11",
    "9999-12-31T23:59-14:00,{n},70,11",
    "1970-01-01,{n},70,11",
    "2026-10-24,{n},nan,11",
    "2026-10-24,{n},70,1e308",
    "2026-10-24,{n},inf,11",
    f"2026-10-24,{{n}},{'9' * 5000},11",
    "2026-10-24,{n},-1,11",
    f"2026-10-24,{'x' * 5000},70,11",
    f"{'9' * 5000},{{n}},70,11",
    "2026-10-24,{n},70,11,x\0",
)


def test_a_book_that_cannot_be_opened_is_not_kept(demo: TestClient) -> None:
    name = demo.get("/api/doughs").json()["doughs"][0]["name"]
    before = demo.get("/api/book/file").text
    for row in ROWS:
        answer = demo.post("/api/book/bring-in", json={"text": BOOK + row.format(n=name)})
        assert answer.status_code == 422, (row[:60], answer.text)
        assert demo.get("/api/book/file").text == before


def test_what_an_earlier_version_kept_without_looking_opens(
    app: FastAPI, client: TestClient
) -> None:
    """A card that no way in lets through any more: it opens, goes out, can be thrown away."""
    flour = Line("250", "g", "flour_ap")
    with app.state.database.writing() as session:
        kept = add_dough(session, Card("Rounds", "drop", "creamed", (flour,)), 0).id
    odd = {
        "name": "Rounds",
        "family": "drop",
        "mixing": "creamed",
        "note": "as ever",
        "lines": [{"amount": "x" * 5000, "unit": "g", "ingredient": "flour_ap"}],
        "parts": [
            {
                "kind": "icing",
                "name": "",
                "per_piece_g": float("nan"),
                "lines": [{"amount": "50", "unit": "g", "ingredient": "sugar_icing"}],
            }
        ],
    }
    with closing(sqlite3.connect(app.state.settings.data_file)) as raw, raw:
        raw.execute("UPDATE dough SET card = ?", [json.dumps(odd)])
        raw.execute("UPDATE dough_version SET card = ?", [json.dumps(odd)])
    card = client.get(f"/api/doughs/{kept}").json()["card"]
    assert card["note"].startswith("Brought within what a card can hold: lines.0.amount, parts.0")
    assert card["note"].endswith("as ever")
    for form in ("jsonld", "csv", "txt", "md"):
        assert client.get(f"/api/doughs/{kept}/card.{form}").status_code == 200
    assert client.get("/api/doughs").status_code == 200
    assert client.delete(f"/api/doughs/{kept}").status_code == 200


def test_a_card_within_the_limits_is_not_touched() -> None:
    part = Part("icing", "Icing", (Line("50", "g", "sugar_icing"),), 500.0)
    card = Card("x" * 80, "drop", "creamed", (Line("x" * 40, "g", None),), parts=(part,))
    assert faults_of(card) == []
    assert within(card) is card


def test_what_is_wrong_in_the_app_itself_is_a_problem_too(app: FastAPI) -> None:
    @app.get("/api/broken")
    def broken() -> None:
        raise ZeroDivisionError

    app.router.routes.insert(0, app.router.routes.pop())
    client = own_page(app, raises=False)
    answer = client.get("/api/broken")
    assert answer.status_code == 500
    assert answer.headers["content-type"] == "application/problem+json"
    assert "Nothing was changed" in answer.json()["detail"]


def test_the_file_of_a_single_tray_is_given_out_and_read(demo: TestClient, tmp_path: Path) -> None:
    dough = demo.get("/api/doughs").json()["doughs"][0]["id"]
    tray = demo.post("/api/sessions", json={"dough_id": dough}).json()
    given = demo.get(f"/api/sessions/{tray['id']}/file")
    assert given.status_code == 200
    assert [d["ready"] for d in given.json()["doughs"]] == [True]
    file = tmp_path / "tray.json"
    file.write_text(json.dumps(given.json() | {"start": None}), encoding="utf-8")
    ran = finebatch("plan", str(file), "--seconds", "0.2")
    assert ran.exit_code == 0, ran.output
    assert "Ready" in ran.stdout
    assert "Turn the oven to 180 °C on its dial" in ran.stdout
    planned = json.loads(finebatch("plan", str(file), "--seconds", "0.2", "--json").stdout)
    heats = [a["dial_c"] for a in planned["activities"] if a["kind"] == "heat"]
    assert heats == [180]


def test_a_session_of_all_that_a_card_may_hold_has_a_file(client: TestClient) -> None:
    """Twelve parts, sixty steps that all wait, none of them with words, in several bowls."""
    flour = {"amount": "9", "unit": "kg", "ingredient": "flour_ap"}
    part = {"kind": "icing", "name": "Icing", "lines": [flour], "per_piece_g": 1}
    card = {
        "name": "x" * 80,
        "family": "drop",
        "parts": [part] * 12,
        "lines": [flour, {"amount": "6", "unit": "kg", "ingredient": "butter_unsalted"}],
        "steps": [{"text": "", "hands_min": 0, "wait_min": 1}] * 60,
    }
    dough = client.post("/api/doughs", json=card).json()["id"]
    items = [{"dough_id": dough, "pieces": 40}]
    planned = client.put("/api/plan", json={"items": items, "sheets": 2, "shelves": 1})
    assert planned.status_code == 200, planned.text
    given = client.get(f"/api/sessions/{planned.json()['id']}/file")
    assert given.status_code == 200
    assert {make["label"] for make in given.json()["doughs"][0]["makes"]} == {"Mix the dough"}


FAR = 7_000_000_000_000


@pytest.mark.parametrize(
    "wish",
    [
        {"away": [{"from_at": FAR - 60_000, "to_at": FAR}]},
        {"pins": [{"job": "A1.load", "start_at": FAR}]},
        {"start_at": FAR},
    ],
)
def test_a_time_that_no_calendar_has_is_refused(demo: TestClient, wish: dict[str, Any]) -> None:
    dough = demo.get("/api/doughs").json()["doughs"][0]["id"]
    asked = {"items": [{"dough_id": dough}], "sheets": 2, "shelves": 1, **wish}
    answer = demo.put("/api/plan", json=asked)
    assert answer.status_code == 422
    assert "year away" in answer.json()["detail"]


def test_a_session_file_of_no_time_is_refused(demo: TestClient, tmp_path: Path) -> None:
    tray = demo.post("/api/sessions", json={"dough_id": 1}).json()
    file = demo.get(f"/api/sessions/{tray['id']}/file").json() | {"start": None}
    hostile = [
        json.dumps(file | {"ready_by": "0001-01-01T00:00+14:00"}),
        json.dumps(file | {"start": "9999-12-31T23:59-14:00"}),
        json.dumps(file | {"name": 1}).replace('"name": 1', f'"name": {"9" * 5000}'),
        json.dumps(file).replace('"finebatch"', f'"x": {"[" * 100_000}, "finebatch"', 1),
    ]
    for text in hostile:
        assert demo.post("/api/plan/bring-in", json={"text": text}).status_code == 422
        written = tmp_path / "hostile.json"
        written.write_text(text, encoding="utf-8")
        for command in ("plan", "evaluate"):
            ran = finebatch(command, str(written))
            assert ran.exit_code == 2, ran.output
            assert "Traceback" not in ran.output


@pytest.mark.parametrize("field", [("dough_temp_c", 1e308), ("oven_c", -1e9), ("oven_c", 10**400)])
def test_a_case_that_no_kitchen_has_is_refused(tmp_path: Path, field: tuple[str, float]) -> None:
    case = json.loads(CASES.read_text(encoding="utf-8"))["cases"][0] | {field[0]: field[1]}
    file = tmp_path / "case.json"
    file.write_text(json.dumps({"cases": [case]}), encoding="utf-8")
    ran = finebatch("evaluate", str(file))
    assert ran.exit_code == 2, ran.output
    assert field[0] in ran.stderr
