from dataclasses import asdict
from typing import Any

import pytest
from fastapi.testclient import TestClient

from finebatch.core.formula.dough import Line
from finebatch.core.formula.weigh import weigh
from finebatch.facts import tables
from tests.conftest import HandClock

CARD: dict[str, Any] = {
    "name": "Plain rounds",
    "family": "drop",
    "mixing": "creamed",
    "lines": [
        {"amount": "2 1/4", "unit": "cup", "ingredient": "flour_ap"},
        {"amount": "1", "unit": "stick", "ingredient": "butter_unsalted"},
        {"amount": "150", "unit": "g", "ingredient": "sugar_white"},
        {"amount": "1", "unit": "egg", "ingredient": "egg_whole"},
    ],
}


def test_a_dough_is_kept_as_written_and_weighed(client: TestClient) -> None:
    made = client.post("/api/doughs", json=CARD).json()
    again = client.get(f"/api/doughs/{made['id']}").json()
    assert again == made
    kept = [
        {k: line[k] for k in ("amount", "unit", "ingredient")} for line in made["card"]["lines"]
    ]
    assert kept == CARD["lines"]
    core = weigh([Line(**line) for line in CARD["lines"]], tables.larder())
    assert made["weighed"]["total_g"] == pytest.approx(core.total_g)
    assert [line["percent"] for line in made["weighed"]["lines"]] == pytest.approx(
        [line.percent for line in core.lines]
    )


def test_a_half_written_line_is_kept_and_named(client: TestClient) -> None:
    lines = [*CARD["lines"], {"amount": "1 c", "unit": "cup", "ingredient": None}]
    made = client.post("/api/doughs", json={**CARD, "lines": lines}).json()
    assert made["card"]["lines"][-1]["amount"] == "1 c"
    faults = [f["field"] for f in made["weighed"]["faults"]]
    assert faults == ["lines.4.amount", "lines.4.ingredient"]


def test_two_windows_do_not_overwrite_each_other(client: TestClient) -> None:
    made = client.post("/api/doughs", json=CARD).json()
    path = f"/api/doughs/{made['id']}"
    first = client.put(path, json={**CARD, "name": "First", "revision": made["revision"]})
    second = client.put(path, json={**CARD, "name": "Second", "revision": made["revision"]})
    assert (first.status_code, second.status_code) == (200, 409)
    assert "another window" in second.json()["detail"]
    assert client.get(path).json()["card"]["name"] == "First"


def test_the_list_shows_the_dough_changed_last_first(client: TestClient, clock: HandClock) -> None:
    for name in ("A", "B", "C"):
        clock.pass_minutes(1)
        client.post("/api/doughs", json={**CARD, "name": name})
    listed = client.get("/api/doughs").json()["doughs"]
    assert [d["name"] for d in listed] == ["C", "B", "A"]
    clock.pass_minutes(1)
    client.put(f"/api/doughs/{listed[2]['id']}", json={**CARD, "name": "A2", "revision": 1})
    assert [d["name"] for d in client.get("/api/doughs").json()["doughs"]] == ["A2", "C", "B"]


def test_another_family_brings_its_usual_tray(client: TestClient) -> None:
    made = client.post("/api/doughs", json=CARD).json()
    changed = client.put(
        f"/api/doughs/{made['id']}", json={**CARD, "family": "twice_baked", "revision": 1}
    ).json()
    assert made["tray"]["piece"] == asdict(tables.families()["drop"].piece)
    assert changed["tray"]["piece"] == asdict(tables.families()["twice_baked"].piece)


def test_a_dough_thrown_away_is_gone_with_its_bakes(client: TestClient) -> None:
    made = client.post("/api/doughs", json=CARD).json()
    record = {"dough_id": made["id"], "widths_mm": [70], "minutes": 11}
    assert client.post("/api/bakes", json=record).status_code == 201
    assert client.delete(f"/api/doughs/{made['id']}").status_code == 200
    assert client.get(f"/api/doughs/{made['id']}").status_code == 404
    assert client.get("/api/bakes").json() == []


BAD_CARDS: list[tuple[dict[str, Any], str, str]] = [
    ({"name": "   "}, "name", "Give the dough a name."),
    ({"name": ""}, "name", "Give the dough a name."),
    ({"name": "x" * 200}, "name", "at most 80"),
    ({"family": "cake"}, "family", "Choose one of"),
    ({"lines": CARD["lines"][:1] * 10_000}, "lines", "10,000"),
    ({"lines": [{"amount": "1", "unit": "bucket", "ingredient": None}]}, "lines.0.unit", "Choose"),
    ({"lines": [{"amount": "1" * 50, "unit": "g", "ingredient": None}]}, "lines.0.amount", "40"),
    ({"lines": "flour"}, "lines", ""),
    ({"extra": 1}, "extra", "not known"),
]


@pytest.mark.parametrize(("change", "field", "words"), BAD_CARDS)
def test_a_bad_card_is_refused_at_its_field_and_nothing_is_kept(
    client: TestClient, change: dict[str, Any], field: str, words: str
) -> None:
    answer = client.post("/api/doughs", json={**CARD, **change})
    assert answer.status_code == 422
    assert answer.headers["content-type"] == "application/problem+json"
    faults = {e["field"]: e["message"] for e in answer.json()["errors"]}
    assert words in faults[field]
    assert client.get("/api/doughs").json() == {"doughs": [], "total": 0}


@pytest.mark.parametrize(
    ("line", "field"),
    [
        ({"amount": "-1", "unit": "g", "ingredient": "flour_ap"}, "lines.0.amount"),
        ({"amount": "1000000000000", "unit": "g", "ingredient": "flour_ap"}, "lines.0.amount"),
        ({"amount": "0", "unit": "g", "ingredient": "flour_ap"}, "lines.0.amount"),
        ({"amount": "🥚", "unit": "g", "ingredient": "flour_ap"}, "lines.0.amount"),
        ({"amount": "1", "unit": "g", "ingredient": "moon"}, "lines.0.ingredient"),
        ({"amount": "1", "unit": "stick", "ingredient": "flour_ap"}, "lines.0.unit"),
    ],
)
def test_a_study_names_the_field_of_a_bad_line(
    client: TestClient, line: dict[str, str], field: str
) -> None:
    tray = client.post("/api/doughs", json=CARD).json()["tray"]
    card = {**CARD, "lines": [line]}
    found = client.post("/api/study", json={"card": card, "tray": tray}).json()
    assert [f["field"] for f in found["weighed"]["faults"]] == [field]
    assert found["piece"] is None


def test_a_card_is_read_line_by_line(client: TestClient) -> None:
    text = "2 1/4 cups plain flour\n\n  1 cup (160 g) sugar\r\n3 bags moon dust"
    read = client.post("/api/read", json={"text": text}).json()["lines"]
    assert [r["line"]["ingredient"] for r in read] == ["flour_ap", "sugar_white", None]
    assert [r["conflict"] for r in read] == [False, True, False]
    assert read[0]["grams"] == pytest.approx(281.25)
    assert client.post("/api/read", json={"text": ""}).json()["lines"] == []


@pytest.mark.parametrize("text", ["1 g salt\n" * 501, "x" * 250_000])
def test_a_card_that_is_too_long_is_refused(client: TestClient, text: str) -> None:
    answer = client.post("/api/read", json={"text": text})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == "text"


def test_emoji_in_a_name_are_kept_and_a_broken_character_is_not(client: TestClient) -> None:
    kept = client.post("/api/doughs", json={**CARD, "name": "Harvest 🍪"})
    assert kept.json()["card"]["name"] == "Harvest 🍪"
    broken = client.post(
        "/api/doughs", content=b'{"name": "\\ud83c", "family": "drop", "lines": []}'
    )
    assert broken.status_code == 422


def test_an_ingredient_of_any_letters_is_counted_in_the_larder(client: TestClient) -> None:
    odd = {"amount": "5", "unit": "g", "ingredient": 'a"b\\c'}
    client.post("/api/doughs", json={**CARD, "lines": [*CARD["lines"], odd]})
    shelf = {one["key"]: one["doughs"] for one in client.get("/api/larder").json()}
    assert shelf["flour_ap"] == 1


CARD_STEPS = [
    {"text": "Cream the butter. Roll into balls of 25 g each."},
    {"text": "Bake at 350 °F for 12 to 14 minutes until crisp."},
]


def test_the_tray_begins_as_the_card_says(client: TestClient) -> None:
    made = client.post("/api/doughs", json={**CARD, "steps": CARD_STEPS}).json()
    tray = made["tray"]
    assert (tray["oven_c"], tray["doneness"], tray["piece"]["grams"]) == (176.67, "crisp", 25)
    found = client.post(f"/api/doughs/{made['id']}/foresee", json=tray).json()
    sources = found["sources"]
    assert 12 < sources["card"] < 14
    assert (
        min(sources["card"], sources["law"])
        <= found["minutes"]
        <= max(sources["card"], sources["law"])
    )
    ask = f"/api/doughs/{made['id']}/foresee"
    by_card = client.post(ask, json={**tray, "minutes_by": "card"}).json()
    assert (by_card["whole_minutes"], by_card["look_from"]) == (13, 12)
    assert "oven_c" in found["begun"]["said"]
    plain = client.post(ask, json={**tray, "minutes_by": "reckoned"}).json()
    assert plain["minutes"] == sources["law"]


def test_the_tray_follows_the_card_until_it_is_set_by_hand(client: TestClient) -> None:
    made = client.post("/api/doughs", json={**CARD, "steps": CARD_STEPS}).json()
    path = f"/api/doughs/{made['id']}"
    hotter = [CARD_STEPS[0], {"text": "Bake at 200 °C for 9 minutes."}]
    after = client.put(path, json={**CARD, "steps": hotter, "revision": made["revision"]}).json()
    assert (after["tray"]["oven_c"], after["tray"]["doneness"]) == (200, None)
    client.put(f"{path}/tray", json={**after["tray"], "oven_c": 190})
    cooler = [CARD_STEPS[0], {"text": "Bake at 150 °C for 20 minutes."}]
    kept = client.put(path, json={**CARD, "steps": cooler, "revision": after["revision"]}).json()
    assert kept["tray"]["oven_c"] == 190
    assert kept["tray"]["piece"]["grams"] == 25


def test_a_pasted_card_says_what_it_begins_and_what_was_guessed(client: TestClient) -> None:
    text = "Oat rounds\nMakes 20\n200 g flour\n100 g butter\nMethod\nBake at 350 for 10 min."
    read = client.post("/api/read", json={"text": text}).json()
    assert read["guessed"] == ["family", "mixing"]
    assert (read["begun"]["says"]["oven"], read["begun"]["says"]["oven_guessed"]) == ("350", True)
    assert read["begun"]["setting"]["oven_c"] == 176.67
    assert read["card"]["stated_pieces"] == 20
