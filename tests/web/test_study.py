"""The workbench through the API: study, scale, swap, compare, versions, larder, files."""

import json
from typing import Any

import pytest
from fastapi.testclient import TestClient

from finebatch.core.formula.composition import compose
from finebatch.facts import tables
from tests.conftest import HandClock
from tests.plans import plan

MINUTE = 60_000


def dough(client: TestClient, number: int = 1) -> dict[str, Any]:
    found: dict[str, Any] = client.get(f"/api/doughs/{number}").json()
    return found


def study(client: TestClient, number: int = 1, **change: Any) -> dict[str, Any]:
    one = dough(client, number)
    body = {"card": {**one["card"], **change}, "tray": one["tray"], "dough_id": number}
    answer = client.post("/api/study", json=body)
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = answer.json()
    return found


def change_line(card: dict[str, Any], n: int, **part: Any) -> dict[str, Any]:
    lines = [{**line, **part} if i == n else line for i, line in enumerate(card["lines"])]
    return {**card, "lines": lines}


def keep(client: TestClient, card: dict[str, Any], number: int = 1, reason: str = "") -> Any:
    revision = dough(client, number)["revision"]
    body = {**card, "revision": revision, "reason": reason}
    answer = client.put(f"/api/doughs/{number}", json=body)
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_the_study_agrees_with_the_tray_screen(demo: TestClient) -> None:
    for number in (1, 2, 3, 4):
        tray = demo.post(f"/api/doughs/{number}/foresee", json=dough(demo, number)["tray"]).json()
        piece = study(demo, number)["piece"]
        assert piece["width"]["middle_mm"] == pytest.approx(tray["width"]["middle_mm"])
        assert piece["minutes"] == tray["whole_minutes"]
        assert piece["pieces"] == tray["yields"]["pieces"]


def test_a_dough_is_set_beside_the_others_of_its_family(demo: TestClient) -> None:
    alone = study(demo, 1)["piece"]
    assert (alone["wider_pct"], alone["others"]) == (None, 0)
    sweet = dough(demo, 1)["card"]
    sweet = change_line(sweet, 2, amount="300")
    demo.post("/api/doughs", json={**sweet, "name": "Sweeter"})
    beside = study(demo, 1)["piece"]
    assert beside["others"] == 1
    assert beside["wider_pct"] < -2
    assert study(demo, 5)["piece"]["wider_pct"] > 2


def test_own_units_and_habits_are_those_of_kitchen_dough_and_line(demo: TestClient) -> None:
    kitchen = demo.get("/api/kitchen").json()
    demo.put("/api/kitchen", json={**kitchen, "units": {"volume": "cups"}, "egg": "EU/UK large"})
    found = study(demo, 1)
    assert found["own"][0]["text"] == "1 1/2 stick"
    assert found["weighed"]["lines"][4]["grams"] == 120
    assert study(demo, 1, egg="US medium")["weighed"]["lines"][4]["grams"] == 88
    refused = demo.put("/api/kitchen", json={**kitchen, "egg": "goose"})
    assert refused.status_code == 422


def test_a_faulty_line_is_studied_as_far_as_it_goes(demo: TestClient) -> None:
    card = change_line(dough(demo, 1)["card"], 0, amount="lots")
    found = study(demo, 1, lines=card["lines"])
    assert found["piece"] is None
    assert found["balance"]["sugar_g"] > 0
    assert [f["field"] for f in found["weighed"]["faults"]] == ["lines.0.amount"]


def test_the_cards_oven_is_set_against_the_trays(demo: TestClient) -> None:
    assert study(demo, 3, stated_oven="200 °C")["checks"] == []  # it will follow what is typed
    by_hand = {**dough(demo, 3)["tray"], "oven_c": 170}
    assert demo.put("/api/doughs/3/tray", json=by_hand).status_code == 200
    (check,) = study(demo, 3, stated_oven="200 °C")["checks"]
    assert check["mend"]["oven_c"] == 200
    assert study(demo, 3, stated_oven="200 °C", settled=[check["key"]])["checks"] == []


def test_the_plan_counts_the_doughs_own_steps(demo: TestClient) -> None:
    card = dough(demo, 1)["card"]
    steps = [{"text": "Stir.", "hands_min": 7, "wait_min": 20}]
    keep(demo, {**card, "steps": steps})
    made = plan(demo, 1).json()
    mix, wait = (
        next(a for a in made["activities"] if a["key"] == key) for key in ("A.mix", "A.wait")
    )
    assert mix["end_at"] - mix["start_at"] == 7 * MINUTE
    assert wait["end_at"] - wait["start_at"] == 20 * MINUTE
    assert mix["label"] == "Stir"


@pytest.mark.parametrize(
    ("wish", "factor"),
    [
        ({"factor": "1 1/2"}, 1.5),
        ({"total_g": 2000}, 2000 / 1024.036),
        ({"pieces": 70, "piece_g": 28}, 70 * 28 / 0.98 / 1024.036),
        ({"have": [{"amount": "90", "unit": "g", "ingredient": "flour_ap"}]}, 0.5),
    ],
)
def test_scaling_by_each_wish(demo: TestClient, wish: dict[str, Any], factor: float) -> None:
    found = demo.post("/api/scale", json={"card": dough(demo)["card"], **wish}).json()
    assert found["factor"] == pytest.approx(factor, rel=1e-3)
    assert found["total_g"] == pytest.approx(1024.036 * factor, rel=1e-3)
    assert study(demo, 1, lines=found["card"]["lines"])["weighed"]["total_g"] == pytest.approx(
        found["total_g"]
    )


@pytest.mark.parametrize(
    ("wish", "field"),
    [
        ({}, "factor"),
        ({"factor": "0"}, "factor"),
        ({"factor": "1000"}, "factor"),
        ({"total_g": 0.5}, "total_g"),
        ({"pieces": 0, "piece_g": 10}, "pieces"),
        ({"have": [{"amount": "1", "unit": "g", "ingredient": "honey"}]}, "have.0.ingredient"),
        ({"have": [{"amount": "x", "unit": "g", "ingredient": "flour_ap"}]}, "lines.0.amount"),
    ],
)
def test_a_wish_that_makes_no_sense_is_refused(
    demo: TestClient, wish: dict[str, Any], field: str
) -> None:
    answer = demo.post("/api/scale", json={"card": dough(demo)["card"], **wish})
    assert answer.status_code == 422
    assert field in [e["field"] for e in answer.json()["errors"]]


def test_swaps_are_shown_before_and_after_and_change_nothing(demo: TestClient) -> None:
    one = dough(demo, 2)
    found = demo.post("/api/swaps", json={"card": one["card"], "tray": one["tray"]}).json()
    oil = next(s for s in found if s["key"] == "fat_oil")
    difference = oil["difference"]
    assert difference["allergens_gone"] == ["milk"]
    assert difference["after"]["fat_pct"] == pytest.approx(difference["before"]["fat_pct"], abs=0.5)
    width = study(demo, 2, lines=oil["card"]["lines"])["piece"]["width"]["middle_mm"]
    assert difference["after"]["width_mm"] == pytest.approx(width, rel=0.04)
    assert dough(demo, 2) == one
    water = next(s for s in found if s["key"] == "less_fat")
    words = {q["quality"]: q["words"] for q in water["difference"]["qualities"]}
    assert words["tender"].endswith("firmer")
    assert "less long" in words["keeping"]


def test_versions_keep_each_change_and_going_back_loses_none(
    demo: TestClient, clock: HandClock
) -> None:
    first = dough(demo, 2)["card"]
    clock.pass_minutes(60)
    keep(demo, change_line(first, 0, amount="320"), 2)
    clock.pass_minutes(2)
    keep(demo, change_line(first, 0, amount="330"), 2)
    clock.pass_minutes(2)
    keep(demo, {**change_line(first, 0, amount="330"), "name": "Leaves"}, 2)
    versions = demo.get("/api/doughs/2/versions").json()
    assert [(v["number"], v["said"]) for v in versions] == [
        (2, "All-purpose (plain) flour 300 → 330 g"),
        (1, ""),
    ]
    keep(demo, change_line(first, 0, amount="340"), 2, reason="Too soft")
    clock.pass_minutes(1)
    keep(demo, first, 2, reason="Back to version 1")
    versions = demo.get("/api/doughs/2/versions").json()
    assert [v["reason"] for v in versions] == ["Back to version 1", "Too soft", "", ""]
    third = demo.get("/api/doughs/2/versions/3").json()
    assert third["card"]["lines"][0]["amount"] == "340"
    named = demo.put("/api/doughs/2/versions/2", json={"reason": " For  the fair "}).json()
    assert named["reason"] == "For the fair"
    assert demo.get("/api/doughs/2/versions/9").status_code == 404
    assert demo.put("/api/doughs/99/versions/1", json={"reason": ""}).status_code == 404


def test_a_change_after_a_bake_is_a_version_of_its_own(demo: TestClient, clock: HandClock) -> None:
    card = dough(demo, 2)["card"]
    clock.pass_minutes(60)
    keep(demo, change_line(card, 0, amount="320"), 2)
    clock.pass_minutes(1)
    demo.post("/api/bakes", json={"dough_id": 2, "widths_mm": [66], "minutes": 9})
    clock.pass_minutes(1)
    keep(demo, change_line(card, 0, amount="310"), 2)
    said = [v["said"] for v in demo.get("/api/doughs/2/versions").json()]
    assert said[:2] == [
        "All-purpose (plain) flour 320 → 310 g",
        "All-purpose (plain) flour 300 → 320 g",
    ]


def test_two_versions_side_by_side(demo: TestClient) -> None:
    one = dough(demo, 1)
    after = change_line(one["card"], 2, amount="200")
    body = {"before": one["card"], "after": after, "tray": one["tray"], "dough_id": 1}
    found = demo.post("/api/compare", json=body).json()
    assert found["said"] == ["Granulated (white) sugar 110 → 200 g"]
    assert found["after"]["width_mm"] > found["before"]["width_mm"]
    changed = [line["ingredient"] for line in found["lines"] if line["changed"]]
    assert changed == ["sugar_white"]


def facts(client: TestClient, key: str) -> dict[str, Any]:
    shelf = next(s for s in client.get("/api/larder").json() if s["key"] == key)
    found: dict[str, Any] = shelf["facts"]
    return found


def test_a_changed_ingredient_changes_its_doughs_until_it_is_reset(demo: TestClient) -> None:
    flour = facts(demo, "flour_rye")
    stiff = {**flour, "g_per_cup": 110, "water_binding": 1.5}
    (effect,) = demo.post("/api/larder/flour_rye/effects", json=stiff).json()
    assert effect["name"] == "Rye, date & tahini drops"
    assert effect["after_mm"] != effect["before_mm"]
    assert study(demo, 1)["piece"]["width"]["middle_mm"] == pytest.approx(effect["before_mm"])
    kept = demo.put("/api/larder/flour_rye", json=stiff).json()
    assert (kept["own"], kept["added"], kept["doughs"]) == (True, False, 1)
    assert study(demo, 1)["piece"]["width"]["middle_mm"] == pytest.approx(effect["after_mm"])
    assert demo.delete("/api/larder/flour_rye").json()["shelf"]["facts"] == flour
    assert study(demo, 1)["piece"]["width"]["middle_mm"] == pytest.approx(effect["before_mm"])
    assert demo.delete("/api/larder/flour_rye").status_code == 404


def test_an_ingredient_of_ones_own_is_read_used_and_kept_while_used(demo: TestClient) -> None:
    own = {**facts(demo, "sugar_white"), "name": "Stardust", "source": ""}
    made = demo.post("/api/larder", json=own)
    assert made.status_code == 201
    key = made.json()["key"]
    assert made.json()["facts"]["source"] == "the baker's own figures"
    assert demo.post("/api/larder", json=own).status_code == 422
    (line,) = demo.post("/api/read", json={"text": "1 cup stardust"}).json()["lines"]
    assert (line["line"]["ingredient"], line["grams"]) == (key, 200)
    card = dough(demo, 2)["card"]
    keep(demo, {**card, "lines": [*card["lines"], line["line"]]}, 2)
    refused = demo.delete(f"/api/larder/{key}")
    assert refused.status_code == 409
    assert "Cardamom-orange leaves" in refused.json()["detail"]
    keep(demo, card, 2)
    assert demo.delete(f"/api/larder/{key}").json()["shelf"] is None
    assert demo.post("/api/read", json={"text": "1 cup stardust"}).json()["lines"][0]["asks"]


def test_an_ingredient_that_cannot_be_is_refused_and_nothing_is_kept(demo: TestClient) -> None:
    wrong = {**facts(demo, "honey"), "water_pct": 60}
    for answer in (
        demo.put("/api/larder/honey", json=wrong),
        demo.post("/api/larder/honey/effects", json=wrong),
        demo.post("/api/larder", json={**wrong, "name": "Thin honey"}),
    ):
        assert answer.status_code == 422
        assert "add up to" in answer.json()["detail"]
    assert demo.put("/api/larder/moonshine", json=facts(demo, "honey")).status_code == 404
    assert facts(demo, "honey")["water_pct"] == 17


def test_a_name_that_was_taught_is_known_on_the_next_card(client: TestClient) -> None:
    before = client.post("/api/read", json={"text": "250 g type 550"}).json()["lines"][0]
    assert before["line"]["ingredient"] is None
    teach = {"name": before["name"] or "type 550", "ingredient": "flour_ap"}
    assert client.post("/api/names", json={"name": "muscat dust", "ingredient": "flour_ap"})
    assert client.post("/api/names", json={**teach, "ingredient": "moon"}).status_code == 422
    (line,) = client.post("/api/read", json={"text": "100 g fine muscat dust"}).json()["lines"]
    assert (line["line"]["ingredient"], line["asks"]) == ("flour_ap", [])
    assert client.post("/api/names", json={"name": "!!", "ingredient": "flour_ap"}).json()["errors"]


@pytest.mark.parametrize("form", ["jsonld", "csv", "txt"])
def test_a_dough_given_out_comes_back_in(demo: TestClient, form: str) -> None:
    one = dough(demo, 2)
    parts = [
        {
            "kind": "icing",
            "name": "icing",
            "per_piece_g": 2.5,
            "lines": [{"amount": "100", "unit": "g", "ingredient": "sugar_icing"}],
        }
    ]
    one = keep(demo, {**one["card"], "parts": parts, "stated_oven": "175 °C"}, 2)
    answer = demo.get(f"/api/doughs/2/card.{form}")
    assert f'filename="cardamom-orange-leaves.{form}"' in answer.headers["content-disposition"]
    body = {"name": f"leaves.{form}", "text": answer.text}
    (looked,) = demo.post("/api/bring-in/look", json=body).json()["doughs"]
    assert (looked["lines"], looked["parts"], looked["asks"]) == (8, 1, [])
    assert demo.get("/api/doughs").json()["total"] == 4
    (back,) = demo.post("/api/bring-in", json=body).json()
    assert back["weighed"]["total_g"] == pytest.approx(one["weighed"]["total_g"], rel=0.01)
    if form == "jsonld":
        assert back["card"] == one["card"]
    assert demo.get("/api/doughs/99/card.csv").status_code == 404
    assert demo.get("/api/doughs/2/card.exe").status_code == 422


def test_a_file_is_kept_whole_or_not_at_all(client: TestClient) -> None:
    good = {"@type": "Recipe", "name": "Good", "recipeIngredient": ["100 g flour"]}
    long = {"@type": "Recipe", "name": "Long", "recipeIngredient": ["1 g salt"] * 201}
    body = {"name": "two.json", "text": json.dumps([good, long])}
    refused = client.post("/api/bring-in", json=body)
    assert refused.status_code == 422
    assert client.get("/api/doughs").json()["total"] == 0
    kept = client.post("/api/bring-in", json={**body, "text": json.dumps([good, good])})
    assert [d["card"]["name"] for d in kept.json()] == ["Good", "Good"]
    for text in ("", "{", "\u0001", "x" * 900_000):
        assert client.post("/api/bring-in", json={**body, "text": text}).status_code == 422


def test_the_drawer_finds_doughs_by_name_and_ingredient(demo: TestClient) -> None:
    def found(search: str, most: int = 60) -> list[str]:
        listed = demo.get("/api/doughs", params={"search": search, "most": most}).json()
        return [d["name"].split()[0] for d in listed["doughs"]]

    assert found("SESAME") == ["Black-sesame"]
    assert found("hazelnut") == ["Fennel"]
    assert found("tahini") == ["Rye,"]
    assert found("100%_") == []
    assert len(found("", most=2)) == 2
    assert demo.get("/api/doughs", params={"most": 2}).json()["total"] == 4


def test_mixtures_count_as_what_they_are_made_of(client: TestClient) -> None:
    made = compose({"flour_self_raising": 100.0}, tables.larder())
    assert made.leavener_g["powder"] == pytest.approx(4)


def test_all_that_a_written_line_can_mean(client: TestClient) -> None:
    texts = ["11/4 cups flour", "100 g butter or margarine", "100 g sugar", "what is this"]
    number, kind, plain, none = client.post("/api/readings", json={"texts": texts}).json()
    assert [(one["line"]["amount"], round(one["grams"])) for one in number] == [
        ("1 1/4", 156),
        ("2 3/4", 344),
    ]
    assert [one["line"]["ingredient"] for one in kind] == ["butter_unsalted", "margarine"]
    assert (plain, none) == ([], [])


def test_the_card_of_a_dropped_file_is_text(client: TestClient) -> None:
    page = (
        '<html><script type="application/ld+json">{"@type": "Recipe", "name": "Rounds",'
        ' "recipeYield": "24", "recipeIngredient": ["200 g flour"],'
        ' "recipeInstructions": "Bake."}</script></html>'
    )
    found = client.post("/api/card-text", json={"name": "page.html", "text": page}).json()
    assert found["text"] == "Rounds\nMakes 24\n\nIngredients\n200 g flour\n\nMethod\nBake."
    plain = client.post("/api/card-text", json={"name": "a.txt", "text": "200 g flour"}).json()
    assert plain["text"] == "200 g flour"
    no = client.post("/api/card-text", json={"name": "page.html", "text": "<p>Hello</p>"})
    assert (no.status_code, "Paste it" in no.text) == (422, True)


SENSE = {
    "plain_to_cake": (2.5, 6.0),
    "whole_half": (-6.0, -0.5),
    "rye_third": (-4.0, -0.3),
    "fat_shortening": (-4.0, -0.5),
    "fat_oil": (0.5, 5.0),
    "fat_margarine": (-1.0, 1.0),
    "salted": (-0.5, 0.5),
    "brown": (-3.5, -0.3),
    "sugar_alcohol": (-20.0, -4.0),
    "loosen_water": (-2.0, 2.0),
}
"""What a swap does to the width of a dropped piece, in percent, by the trials that the effects'
starting values come from (`spread_effects.csv`)."""


def test_a_swap_does_what_bakers_know_of_it(demo: TestClient) -> None:
    dough = demo.get("/api/doughs/1").json()
    asked = {"card": dough["card"], "tray": dough["tray"], "dough_id": 1}
    found = {}
    for swap in demo.post("/api/swaps", json=asked).json():
        before, after = swap["difference"]["before"], swap["difference"]["after"]
        found[swap["key"]] = 100 * (after["width_mm"] / before["width_mm"] - 1)
    seen = {key: found[key] for key in SENSE if key in found}
    assert len(seen) >= 8
    for key, percent in seen.items():
        low, high = SENSE[key]
        assert low <= percent <= high, (key, percent)
