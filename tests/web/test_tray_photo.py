"""A tray measured by a photograph, over HTTP."""

from io import BytesIO
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from tests.drawn_trays import DrawnPiece, DrawnTray, draw

PX = (1000, 750)


def tray_of(client: TestClient, dough: int, wide: float = 1.0) -> DrawnTray:
    """Twelve pieces as wide as was foreseen, or so many times."""
    dough_out = client.get(f"/api/doughs/{dough}").json()
    found = client.post(f"/api/doughs/{dough}/foresee", json=dough_out["tray"]).json()
    half = found["width"]["middle_mm"] * wide / 2
    kitchen = client.get("/api/kitchen").json()
    size = (kitchen["sheet_width_mm"], kitchen["sheet_depth_mm"])
    at = [
        (x, y) for y in np.linspace(60, size[1] - 60, 3) for x in np.linspace(60, size[0] - 60, 4)
    ]
    high = found["thickness"]["height_mm"]
    pieces = [DrawnPiece(float(x), float(y), half, high, 4.0) for x, y in at]
    return DrawnTray(size=size, pieces=pieces, tilt=8, camera_mm=600, bend=-0.02)


def measured(client: TestClient, dough: int, photo: bytes, **wanted: Any) -> Any:
    return client.post(f"/api/doughs/{dough}/photo", content=photo, params=wanted)


def at_corners(tray: DrawnTray) -> list[float]:
    return [float(v) for v in (tray.corners / np.array(PX)).ravel()]


def drop_dough(client: TestClient) -> int:
    doughs = client.get("/api/doughs").json()["doughs"]
    return next(
        int(one["id"])
        for one in doughs
        if client.get(f"/api/doughs/{one['id']}").json()["tray"]["piece"]["kind"] == "drop"
    )


def test_a_photograph_measures_a_tray_and_its_record_is_learnt_from(demo: TestClient) -> None:
    dough = drop_dough(demo)
    tray = tray_of(demo, dough, wide=1.1)
    photo = draw(tray, np.random.default_rng(5), PX)
    by_itself = measured(demo, dough, photo).json()
    assert by_itself["found"] == "sure"
    found = measured(demo, dough, photo, corner=at_corners(tray)).json()
    names = [one["piece"]["name"] for one in found["pieces"]]
    assert names == [f"{row}{place}" for row in "ABC" for place in range(1, 5)]
    half = tray.pieces[0].half
    widths = [one["piece"]["width_mm"] for one in found["pieces"]]
    assert np.median(widths) == pytest.approx(2 * half, rel=0.02)
    alone = [one["piece"]["width_mm"] for one in by_itself["pieces"]]
    assert alone == pytest.approx(widths, rel=0.03)
    for one in found["pieces"]:
        assert one["touches"] == []
        assert one["piece"]["step"] == pytest.approx(4, abs=1)
        assert all(-0.1 < value < 1.1 for point in one["outline"] for value in point.values())
    pictured = {
        "wide_mm": found["wide_mm"],
        "deep_mm": found["deep_mm"],
        "pieces": [one["piece"] for one in found["pieces"]],
    }
    record = {"dough_id": dough, "widths_mm": widths, "seen": {"pictured": pictured}}
    kept = demo.post("/api/bakes", json=record)
    assert kept.status_code == 201, kept.text
    assert kept.json()["seen"]["pictured"]["pieces"] == pictured["pieces"]
    # The bake was a tenth wider: so is what is foreseen next, by part of that.
    again = tray_of(demo, dough).pieces[0].half
    assert half / 1.1 < again < half


def test_pieces_on_a_rack_are_measured_beside_a_sheet_of_paper(demo: TestClient) -> None:
    dough = drop_dough(demo)
    half = tray_of(demo, dough).pieces[0].half
    at = [(x, y) for x in (-65, 40, 130, 220) for y in (-60, 205)]
    pieces = [DrawnPiece(float(x), float(y), half, 13.0, 4.0) for x, y in at]
    rack = DrawnTray((210.0, 148.0), "paper", pieces, rim_mm=0, around_mm=200, frame_mm=95)
    photo = draw(rack, np.random.default_rng(6), PX)
    found = measured(demo, dough, photo, beside_mm=[210, 148]).json()
    assert len(found["pieces"]) == 8
    widths = [one["piece"]["width_mm"] for one in found["pieces"]]
    assert np.median(widths) == pytest.approx(2 * half, rel=0.03)
    assert found["tilt"] is None
    # However far from the paper they lay, they can be written down.
    pictured = {key: found[key] for key in ("wide_mm", "deep_mm")} | {
        "pieces": [one["piece"] for one in found["pieces"]]
    }
    assert min(piece["x_mm"] for piece in pictured["pieces"]) == 0
    record = {"dough_id": dough, "widths_mm": widths, "seen": {"pictured": pictured}}
    assert demo.post("/api/bakes", json=record).status_code == 201
    assert measured(demo, dough, photo, beside_mm=[210]).status_code == 422
    assert measured(demo, dough, photo, beside_mm=[3, 4]).status_code == 422


def test_what_is_no_photograph_of_a_tray_is_told(demo: TestClient) -> None:
    dough = drop_dough(demo)
    for sent in (b"", b"no picture", b"\xff\xd8\xff\xe0" + b"\0" * 400):
        answer = measured(demo, dough, sent)
        assert answer.status_code == 422, answer.text
        assert "JPEG or PNG" in answer.text
    plain = BytesIO()
    Image.new("RGB", (640, 480), (120, 110, 100)).save(plain, "JPEG")
    nothing = measured(demo, dough, plain.getvalue()).json()
    assert (nothing["found"], nothing["pieces"]) == ("none", [])
    assert len(nothing["corners"]) == 4
    for strange in ([0.1] * 7, [9.0] * 8, ["nan"] * 8):
        assert measured(demo, dough, plain.getvalue(), corner=strange).status_code == 422
    # Four corners in one place, or crossed, are no sheet.
    for crossed in ([0.5] * 8, [0.1, 0.1, 0.9, 0.9, 0.9, 0.1, 0.1, 0.9]):
        answer = measured(demo, dough, plain.getvalue(), corner=crossed)
        assert answer.status_code == 422
        assert "corners" in answer.text
    assert measured(demo, 999_999, plain.getvalue()).status_code == 404


def test_an_oven_that_browns_at_one_side_is_turned_and_placed_by(demo: TestClient) -> None:
    dough = drop_dough(demo)
    assert demo.get("/api/oven-maps").json() == []
    assert demo.post("/api/oven-maps/1/take").status_code == 404
    pieces = [
        {"name": f"{'ABC'[y]}{x + 1}", "x_mm": 60 + 90 * x, "y_mm": 60 + 90 * y, "width_mm": 66}
        | {"length_mm": 66, "step": 4 + 0.4 * x + 0.02 * y}
        for y in range(3)
        for x in range(4)
    ]
    pictured = {"wide_mm": 405, "deep_mm": 305, "pieces": pieces}
    record = {"dough_id": dough, "widths_mm": [66] * 12, "seen": {"pictured": pictured}}
    assert demo.post("/api/bakes", json=record).status_code == 201
    (found,) = demo.get("/api/oven-maps").json()
    assert (found["hot_side"], found["trays"]) == ("right", 1)
    assert demo.post("/api/oven-maps/1/take").json()["hot_side"] == "right"
    assert demo.get("/api/kitchen").json()["planning"]["oven"]["hot_side"] == "right"
