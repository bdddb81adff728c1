"""Every kind of portioning through the API: kept, foreseen, planned, baked and measured."""

from dataclasses import asdict
from io import BytesIO
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from pypdf import PdfReader

from finebatch.core.piece.kinds.portioning import Portioning
from tests.chance import so_many
from tests.pieces import portionings
from tests.plans import at_hand, plan

PIECES: dict[str, dict[str, Any]] = {
    "drop": {"kind": "drop", "grams": 30, "shape": "dented", "filling_g": 4},
    "scoop": {"kind": "drop", "grams": 30, "scoop_ml": 32, "heaped": True},
    "rolled": {
        "kind": "rolled",
        "thickness_mm": 5,
        "cutter": {"shape": "hexagon", "across_mm": 60, "down_mm": 60},
    },
    "sliced": {"kind": "sliced", "log_diameter_mm": 50, "thickness_mm": 7},
    "slab": {"kind": "slab", "across_mm": 190, "down_mm": 260, "thickness_mm": 8},
    "pan": {
        "kind": "pan",
        "shape": "round",
        "across_mm": 200,
        "down_mm": 200,
        "wall_mm": 40,
        "thickness_mm": 14,
    },
    "filled_pan": {
        "kind": "filled_pan",
        "shape": "rectangle",
        "across_mm": 230,
        "down_mm": 330,
        "wall_mm": 40,
        "share_pct": 75,
        "pans": 1,
    },
    "rope": {"kind": "rope", "grams": 25, "length_mm": 150, "form": "ring"},
    "twice_baked": {
        "kind": "twice_baked",
        "grams": 350,
        "length_mm": 300,
        "width_mm": 55,
        "slice_mm": 15,
        "lean_deg": 30,
    },
    "wafer": {"kind": "wafer", "grams": 8, "spread_mm": 80},
}


def keep(demo: TestClient, piece: dict[str, Any]) -> dict[str, Any]:
    tray = demo.get("/api/doughs/1").json()["tray"]
    answer = demo.put("/api/doughs/1/tray", json={**tray, "piece": piece})
    assert answer.status_code == 200, answer.text
    kept: dict[str, Any] = answer.json()["tray"]
    return kept


@pytest.mark.parametrize("name", PIECES)
def test_a_setting_is_kept_as_it_was_given(demo: TestClient, name: str) -> None:
    kept = keep(demo, PIECES[name])["piece"]
    cutter = kept.pop("cutter", None)
    given_cutter = PIECES[name].get("cutter")
    assert {**kept, **PIECES[name]} == {**kept, **({"cutter": given_cutter} if cutter else {})}
    if cutter:
        assert {**cutter, **given_cutter} == cutter
    assert demo.get("/api/doughs/1").json()["tray"]["piece"]["kind"] == PIECES[name]["kind"]


@pytest.mark.parametrize("name", PIECES)
def test_every_kind_is_planned_and_started(demo: TestClient, name: str) -> None:
    tray = keep(demo, PIECES[name])
    found = demo.post("/api/doughs/1/foresee", json=tray).json()
    made = plan(demo, 1, sheets=3).json()
    (dough,) = made["doughs"]
    assert [t["pieces"] for t in made["trays"]] == found["yields"]["trays"]
    assert dough["kind"] == PIECES[name]["kind"]
    assert dough["grams"] == pytest.approx(found["piece_g"])
    bakes = {len(t["bakes"]) for t in made["trays"]}
    assert bakes == ({2} if name == "twice_baked" else {1})
    if name == "twice_baked":
        assert dough["slice_mm"] == 15
        assert made["trays"][0]["bakes"][1] == found["second"]["whole_minutes"]
    started = demo.post(f"/api/sessions/{made['id']}/start").json()
    assert started["state"] == "running"


@pytest.mark.parametrize("name", ["drop", "rolled", "sliced", "rope", "wafer"])
def test_measuring_teaches_every_kind(demo: TestClient, name: str) -> None:
    tray = keep(demo, PIECES[name])
    before = demo.post("/api/doughs/1/foresee", json=tray).json()["width"]
    wider = before["middle_mm"] * 1.03
    record = {"dough_id": 1, "widths_mm": [wider] * 3, "minutes": 11}
    assert demo.post("/api/bakes", json=record).status_code == 201
    after = demo.post("/api/doughs/1/foresee", json=tray).json()["width"]
    assert before["middle_mm"] < after["middle_mm"] <= wider + 0.5
    assert after["bakes"] == before["bakes"] + 1


@pytest.mark.parametrize("name", PIECES)
def test_every_kind_is_studied_beside_its_card(demo: TestClient, name: str) -> None:
    tray = keep(demo, PIECES[name])
    card = demo.get("/api/doughs/1").json()["card"]
    study = demo.post("/api/study", json={"card": card, "tray": tray, "dough_id": 1}).json()
    assert study["piece_fault"] == ""
    assert study["piece"]["raw"]["grams"] > 0


@pytest.mark.parametrize("name", [n for n in PIECES if "pan" not in n])
@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_every_kind_but_a_pan_has_a_template(demo: TestClient, name: str, paper: str) -> None:
    body = {**keep(demo, PIECES[name]), "paper": paper}
    answer = demo.post("/api/doughs/1/template", json=body)
    assert answer.headers["content-type"] == "application/pdf"
    assert len(PdfReader(BytesIO(answer.content)).pages) == 6
    drawn = demo.post("/api/doughs/1/template", json={**body, "form": "svg"})
    assert drawn.headers["content-type"].startswith("image/svg+xml")


def test_a_pan_and_a_drop_say_why_they_have_no_template(demo: TestClient) -> None:
    pan = demo.post("/api/doughs/1/template", json=keep(demo, PIECES["pan"]))
    assert (pan.status_code, pan.json()["errors"][0]["field"]) == (422, "what")
    drop = {**keep(demo, PIECES["drop"]), "what": "slab"}
    assert demo.post("/api/doughs/1/template", json=drop).status_code == 422


@settings(max_examples=so_many(60), suppress_health_check=list(HealthCheck), deadline=None)
@given(piece=portionings)
def test_any_portioning_is_answered_or_refused_with_a_reason(
    demo: TestClient, piece: Portioning
) -> None:
    tray = demo.get("/api/doughs/1").json()["tray"]
    answer = demo.post("/api/doughs/1/foresee", json={**tray, "piece": asdict(piece)})
    assert answer.status_code in (200, 422), answer.text
    if answer.status_code == 422:
        assert all(len(fault["message"]) > 15 for fault in answer.json()["errors"])
        return
    found = answer.json()
    assert sum(found["yields"]["trays"]) == found["yields"]["pieces"]
    for layout in found["layouts"]:
        check = {
            "footprint": found["footprint"],
            "turned": layout["turned"],
            "centres": layout["centres"],
        }
        placed = demo.post("/api/sheet-check", json=check).json()
        assert placed == {"meetings": [], "off_sheet": []}


def test_pieces_moved_too_near_are_named_with_how_much(demo: TestClient) -> None:
    foot = {"across_mm": 60, "down_mm": 60, "is_round": True}
    centres = [{"x": 100, "y": 100}, {"x": 150, "y": 100}, {"x": 300, "y": 200}, {"x": 10, "y": 10}]
    found = demo.post("/api/sheet-check", json={"footprint": foot, "centres": centres}).json()
    assert found["meetings"] == [{"one": 0, "other": 1, "over_mm": pytest.approx(10)}]
    assert found["off_sheet"] == [3]


def test_boxes_meet_by_their_sides(demo: TestClient) -> None:
    foot = {"across_mm": 80, "down_mm": 40, "is_round": False}
    centres = [{"x": 100, "y": 100}, {"x": 100, "y": 145}, {"x": 200, "y": 100}]
    body = {"footprint": foot, "centres": centres}
    assert demo.post("/api/sheet-check", json=body).json()["meetings"] == []
    turned = demo.post("/api/sheet-check", json={**body, "turned": True}).json()["meetings"]
    assert [(met["one"], met["other"]) for met in turned] == [(0, 1)]
    assert turned[0]["over_mm"] == pytest.approx(35)


def test_hot_corners_and_tools_are_kept_with_the_kitchen(demo: TestClient) -> None:
    kitchen = demo.get("/api/kitchen").json()
    assert (kitchen["hot_corners"], kitchen["fridge_c"], kitchen["freezer_c"]) == (False, 4, -18)
    changed = {**kitchen, "hot_corners": True, "fridge_c": 6, "scoops": kitchen["scoops"][:2]}
    assert demo.put("/api/kitchen", json=changed).json() == changed
    assert demo.get("/api/kitchen").json() == changed
    twice = {**changed, "scoops": [kitchen["scoops"][0]] * 2}
    answer = demo.put("/api/kitchen", json=twice)
    assert (answer.status_code, answer.json()["errors"][0]["field"]) == (422, "scoops")
    assert demo.get("/api/kitchen").json() == changed


def test_only_as_many_wafers_lie_on_a_tray_as_can_be_shaped(demo: TestClient) -> None:
    """Also where a number of pieces is asked for: soft for 60 s, shaped in 20 s each."""
    keep(demo, {**PIECES["wafer"], "soft_s": 60, "shape_s": 20})
    for pieces in (None, 20):
        items = [{"dough_id": 1, "pieces": pieces}]
        made = demo.put("/api/plan", json={"items": items, "sheets": 3, "shelves": 1}).json()
        assert max(t["pieces"] for t in made["trays"]) == 3
        assert pieces is None or sum(t["pieces"] for t in made["trays"]) == pieces


def test_the_rest_of_a_dough_is_wrapped_as_one_and_not_piece_by_piece(demo: TestClient) -> None:
    minutes = {}
    for name in ("drop", "rolled", "sliced"):
        keep(demo, PIECES[name])
        items = [{"dough_id": 1, "pieces": 3}]
        made = demo.put("/api/plan", json={"items": items, "sheets": 3, "shelves": 1}).json()
        wrap = next(a for a in made["activities"] if a["kind"] == "freeze")
        minutes[name] = (wrap["end_at"] - wrap["start_at"]) / 60_000
    assert 2 <= minutes["rolled"] <= 4
    assert 2 <= minutes["sliced"] <= 4
    assert minutes["drop"] > 4


def test_leaves_are_not_weighed_one_by_one(demo: TestClient) -> None:
    keep(demo, PIECES["rolled"])
    at_hand(demo)
    made = plan(demo, 1).json()
    demo.post(f"/api/sessions/{made['id']}/start")
    path = f"/api/sessions/{made['id']}/weighing"
    assert demo.get(f"{path}/A.mix").status_code == 200
    assert demo.get(f"{path}/A1.portion").status_code == 409
