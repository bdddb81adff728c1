"""The Tray screen's other questions: turned around, the ladder, tries, chilling, bad input."""

from typing import Any

import pytest
from fastapi.testclient import TestClient


def ask(demo: TestClient, dough: int, what: str, **body: Any) -> Any:
    tray = demo.get(f"/api/doughs/{dough}").json()["tray"]
    return demo.post(f"/api/doughs/{dough}/{what}", json={**tray, **body})


@pytest.mark.parametrize("dough", [1, 2, 3, 4])
def test_the_piece_of_a_width_bakes_to_that_width(demo: TestClient, dough: int) -> None:
    found = ask(demo, dough, "turned", width_mm=72).json()[0]
    assert found["width_mm"] == pytest.approx(72, abs=0.1)
    again = ask(demo, dough, "foresee", piece=found["piece"]).json()
    assert again["width"]["middle_mm"] == pytest.approx(72, abs=0.1)


@pytest.mark.parametrize("dough", [1, 2, 3])
def test_so_many_of_a_width_give_the_dough_to_make(demo: TestClient, dough: int) -> None:
    found = ask(demo, dough, "turned", width_mm=60, pieces=48).json()[0]
    assert found["pieces"] == 48
    assert found["factor"] > 0.5


def test_nothing_left_over(demo: TestClient) -> None:
    for found in ask(demo, 1, "turned", no_leftover=True).json():
        assert found["leftover_g"] == pytest.approx(0, abs=1e-6)
    sizes = [found["pieces"] for found in ask(demo, 1, "turned", no_leftover=True).json()]
    assert sizes == [35, 36]


@pytest.mark.parametrize(
    ("body", "field", "words"),
    [
        ({"width_mm": 900}, "width_mm", "Choose within that"),
        ({"width_mm": 4}, "width_mm", "Choose within that"),
        ({}, "width_mm", "Say how wide"),
        ({"pieces": 1999}, "pieces", "over 50 times"),
        ({"width_mm": 60, "tried": ["magic"]}, "tried", "no change called"),
    ],
)
def test_wishes_that_cannot_be_say_what_can(
    demo: TestClient, body: dict[str, Any], field: str, words: str
) -> None:
    answer = ask(demo, 1, "turned", **body)
    assert answer.status_code == 422
    faults = {e["field"]: e["message"] for e in answer.json()["errors"]}
    assert words in faults[field]


@pytest.mark.parametrize("dough", [1, 2, 3, 4])
def test_the_ladder_is_what_each_size_gives(demo: TestClient, dough: int) -> None:
    rungs = ask(demo, dough, "ladder").json()
    assert len(rungs) >= 5
    for rung in rungs[::3]:
        if rung["fault"]:
            continue
        found = ask(demo, dough, "foresee", piece=rung["piece"]).json()
        assert found["width"]["middle_mm"] == pytest.approx(rung["width_mm"])
        assert found["whole_minutes"] == rung["whole_minutes"]


def test_a_kitchens_own_scoop_is_a_rung(demo: TestClient) -> None:
    kitchen = demo.get("/api/kitchen").json()
    scoops = [*kitchen["scoops"], {"name": "coffee measure", "ml": 28}]
    assert demo.put("/api/kitchen", json={**kitchen, "scoops": scoops}).status_code == 200
    names = [rung["name"] for rung in ask(demo, 1, "ladder").json()]
    assert "coffee measure, 28 ml" in names


def test_a_cutter_without_its_area_is_refused_at_its_place(demo: TestClient) -> None:
    kitchen = demo.get("/api/kitchen").json()
    heart = {"name": "heart", "cutter": {"shape": "own", "across_mm": 60, "down_mm": 60}}
    answer = demo.put("/api/kitchen", json={**kitchen, "cutters": [heart]})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == "cutters.0.area_cm2"


def test_trying_shows_and_keeps_nothing_until_it_is_kept(demo: TestClient) -> None:
    before = demo.get("/api/doughs/1").json()
    plain = ask(demo, 1, "foresee").json()
    offers = {offer["key"]: offer for offer in ask(demo, 1, "tries/sugar").json()}
    assert offers["less_sugar"]["width_mm"] < plain["width"]["middle_mm"]
    assert offers["more_sugar"]["width_mm"] > plain["width"]["middle_mm"]
    tried = ask(demo, 1, "foresee", tried=["less_sugar"]).json()
    assert tried["width"]["middle_mm"] == pytest.approx(offers["less_sugar"]["width_mm"])
    assert demo.get("/api/doughs/1").json() == before

    kept = ask(demo, 1, "keep-tried", tried=["less_sugar", "cooler"]).json()
    assert kept["tray"]["oven_c"] == before["tray"]["oven_c"] - 10
    assert kept["weighed"]["total_g"] < before["weighed"]["total_g"]
    versions = demo.get("/api/doughs/1/versions").json()
    assert versions[0]["reason"] == "Tried: 10 % less sugar, oven 10 °C cooler"


def test_an_effect_that_nothing_here_moves_offers_nothing(demo: TestClient) -> None:
    assert ask(demo, 1, "tries/sugar_alcohol").json() == []
    assert ask(demo, 1, "tries/no_such_effect").json() == []


@pytest.mark.parametrize(
    ("dough", "job", "shape"),
    [(1, "scoop", "balls"), (2, "roll", "a disc"), (3, "slice", "a log"), (4, "scoop", "a log")],
)
def test_each_dough_is_chilled_in_its_shape(
    demo: TestClient, dough: int, job: str, shape: str
) -> None:
    found = ask(demo, dough, "chill").json()
    assert found["job"] == job
    assert found["shape"].startswith(shape)
    assert found["cooling"]["temps_c"][0] == 23
    colder = ask(demo, dough, "chill", place="freezer").json()
    assert colder["ready_min"] < found["ready_min"]


PIECES = [
    (
        {
            "kind": "rolled",
            "thickness_mm": 50,
            "cutter": {"shape": "square", "across_mm": 20, "down_mm": 20},
        },
        "thickness_mm",
        "roll it thinner",
    ),
    (
        {"kind": "twice_baked", "grams": 300, "length_mm": 300, "width_mm": 55, "lean_deg": 90},
        "lean_deg",
        "60° at most",
    ),
    (
        {
            "kind": "pan",
            "shape": "round",
            "across_mm": 200,
            "down_mm": 200,
            "wall_mm": 10,
            "thickness_mm": 14,
        },
        "thickness_mm",
        "10 mm deep",
    ),
    ({"kind": "rope", "grams": 30, "length_mm": 60, "form": "ring"}, "length_mm", "bake shut"),
    (
        {"kind": "wafer", "grams": 7, "spread_mm": 80, "soft_s": 10, "shape_s": 60},
        "shape_s",
        "one at a time",
    ),
    ({"kind": "drop", "grams": 390, "shape": "pressed", "press_mm": 4}, "piece", "larger sheet"),
]


@pytest.mark.parametrize(("piece", "field", "words"), PIECES)
def test_pieces_that_cannot_be_name_the_nearest_that_can(
    demo: TestClient, piece: dict[str, Any], field: str, words: str
) -> None:
    answer = ask(demo, 1, "foresee", piece=piece)
    assert answer.status_code == 422
    faults = {e["field"]: e["message"] for e in answer.json()["errors"]}
    assert words in faults[field]


def test_the_oven_is_said_in_every_way(demo: TestClient) -> None:
    still = ask(demo, 1, "foresee", oven_c=180).json()["oven"]
    assert still == {"still_c": 180, "fan_c": 160, "still_f": 356, "fan_f": 320, "gas": "4"}


def test_drier_takes_longer(demo: TestClient) -> None:
    minutes = [
        ask(demo, 1, "foresee", doneness=wanted).json()["minutes"]
        for wanted in ("soft_centre", "chewy", "set", "crisp", "dry")
    ]
    assert minutes == sorted(minutes)


def test_the_same_depth_in_another_pan(demo: TestClient) -> None:
    pans = {pan["name"]: pan["pan"] for pan in demo.get("/api/pans").json()}
    body = {"pan": pans["square 20 cm"], "other": pans["round 20 cm"]}
    factor = demo.post("/api/same-depth", json=body).json()["factor"]
    assert factor == pytest.approx(0.785, abs=0.001)


def test_so_many_of_a_cutter_by_more_dough_or_a_thinner_slab(demo: TestClient) -> None:
    more, thinner = ask(demo, 2, "turned", pieces=60).json()
    assert (more["pieces"], thinner["pieces"]) == (60, pytest.approx(60, abs=2))
    assert more["factor"] > 1
    assert more["piece"]["thickness_mm"] == 4.5
    assert thinner["factor"] == 1
    assert thinner["piece"]["thickness_mm"] < 4.5
    # Where no slab is thin enough, only more dough helps.
    assert len(ask(demo, 2, "turned", pieces=400).json()) == 1


def test_a_dropped_dough_may_be_chilled_in_other_shapes(demo: TestClient) -> None:
    tray = demo.get("/api/doughs/1").json()["tray"]

    def chill(**change: Any) -> Any:
        return demo.post("/api/doughs/1/chill", json={**tray, **change}).json()

    usual = chill()
    best = {way["form"]: way["best_min"] for way in usual["ways"]}
    assert list(best) == ["portions", "disc", "log", "dough"]
    # The thinner it lies, the sooner it is cold.
    assert best["portions"] < best["disc"] < best["dough"]
    assert best["portions"] < best["log"] < 2 * best["dough"]
    assert usual["best_min"] == best["portions"]
    as_log = chill(chilled_as="log")
    assert as_log["best_min"] == best["log"]
    assert "log" in as_log["shape"]
    # Of what has but one way to lie in the cold there is nothing to choose.
    assert (
        demo.post("/api/doughs/3/chill", json=demo.get("/api/doughs/3").json()["tray"]).json()[
            "ways"
        ]
        == []
    )


def test_the_method_forms_what_the_dough_is_chilled_as(demo: TestClient) -> None:
    dough = demo.get("/api/doughs/1").json()

    def kinds(**change: Any) -> list[str]:
        asked = {"card": dough["card"], "tray": {**dough["tray"], "chill_min": 60, **change}}
        found = demo.post("/api/study", json=asked).json()["told"]
        return [step["kind"] for step in found]

    assert "log" not in kinds()
    assert "log" in kinds(chilled_as="log")
    assert "disc" in kinds(chilled_as="disc")
