"""Photographs of trays, drawn with sizes that are known, measured."""

from dataclasses import replace

import numpy as np
import pytest

from finebatch.core.photo.corners import find_corners
from finebatch.core.photo.names import empty_places, place_names
from finebatch.core.photo.pieces import PieceSeen, pieces_seen
from finebatch.core.photo.view import Lens, corners_of, view_of
from finebatch.facts import tables
from tests.chance import TIMES
from tests.drawn_trays import DrawnPiece, DrawnTray, run_together, some_tray
from tests.measured_trays import Compared, image_of, seen_in

FEW = 3
SMALL = (1000, 750)


def seen_of(
    tray: DrawnTray, rng: np.random.Generator, px: tuple[int, int] = SMALL, off_px: float = 1.0
) -> list[PieceSeen]:
    return seen_in(image_of(tray, rng, px), tray, rng, off_px)


@pytest.mark.parametrize("seed", range(4000, 4000 + FEW * TIMES))
def test_a_drawn_tray_is_measured(seed: int) -> None:
    rng = np.random.default_rng(seed)
    tray = some_tray(rng)
    found = Compared().count(tray, seen_of(tray, rng))
    under_hand = 2 if tray.hand else 0
    assert found.missed <= under_hand
    assert found.invented == found.falsely == 0
    assert np.median(found.widths) < 0.02
    assert np.quantile(found.widths, 0.9) < 0.04
    assert np.quantile(found.colours, 0.9) <= 1
    assert all(found.touching)


@pytest.mark.parametrize("surface", ["parchment", "dark"])
def test_on_an_empty_sheet_there_is_nothing(surface: str) -> None:
    rng = np.random.default_rng(7)
    tray = replace(some_tray(rng), pieces=[], surface=surface, hand=surface == "dark")
    assert seen_of(tray, rng) == []


def test_two_that_ran_together_are_two_and_say_so() -> None:
    rng = np.random.default_rng(11)
    pieces = [DrawnPiece(80.0 + 80 * k, 150, 30, 12, 4.0) for k in range(4)]
    run_together(pieces[1], pieces[2], by=4)
    tray = DrawnTray(pieces=pieces, camera_mm=500, tilt=12)
    found = seen_of(tray, rng)
    assert [one.touches for one in found] == [(), (2,), (1,), ()]
    assert [round(one.mean_mm) for one in found] == pytest.approx([60] * 4, abs=2)


@pytest.mark.parametrize("surface", ["parchment", "silicone"])
def test_a_sheet_is_found_by_its_sides(surface: str) -> None:
    rng = np.random.default_rng(3)
    tray = replace(some_tray(rng), surface=surface, hand=False, tilt=12.0, bend=-0.05)
    image = image_of(tray, rng, SMALL)
    found = find_corners(image, tray.size)
    assert found is not None and found.sure
    assert np.hypot(*(found.at - tray.corners).T).max() < 0.012 * SMALL[0]


def test_where_there_is_no_sheet_none_is_found() -> None:
    noise = np.random.default_rng(1).integers(0, 255, (300, 400, 3)).astype(np.uint8)
    assert find_corners(noise, (405, 305)) is None
    assert find_corners(np.full((300, 400, 3), 90, np.uint8), (405, 305)) is None


def test_a_view_and_its_lens_go_both_ways() -> None:
    lens = Lens(-0.08, (1000, 750))
    corners = np.array([[90.0, 80], [910, 120], [880, 690], [130, 660]])
    view = view_of(lens.straight(corners), (405, 305), lens)
    assert view.seen(corners_of((405, 305))) == pytest.approx(corners, abs=0.1)
    assert view.lying(corners) == pytest.approx(corners_of((405, 305)), abs=0.1)


def test_pieces_are_called_by_row_and_place() -> None:
    middles = [(60.0, 62), (150, 55), (240, 60), (100, 140), (60, 230), (200, 139)]
    assert place_names(middles, 60) == ["A1", "A2", "A3", "B1", "C1", "B2"]


@pytest.mark.parametrize("rack", [False, True])
def test_pieces_beside_a_sheet_of_paper_are_measured_by_it(rack: bool) -> None:
    rng = np.random.default_rng(31)
    at = [(x, y) for x in (-50, 30, 110, 190, 260) for y in (-50, 200)]
    pieces = [DrawnPiece(float(x), float(y), 29.0, 14.0, 4.0) for x, y in at]
    tray = DrawnTray((210.0, 148.0), "paper", pieces, rim_mm=0, rack=rack)
    tray.around_mm, tray.frame_mm = 200.0, 90.0
    image = image_of(tray, rng, SMALL)
    corners = find_corners(image, tray.size, beside=True)
    assert corners is not None and corners.sure
    # Neither the wires of a rack nor the pieces are taken for its sides, nor is it turned.
    assert np.hypot(*(corners.at - tray.corners).T).max() < 3
    found = pieces_seen(
        image,
        corners.at,
        tray.size,
        tables.sheet_colours()["paper"],
        14.0,
        58.0,
        beside=True,
    )[1]
    assert len(found) == len(pieces)
    assert [one.mean_mm for one in found] == pytest.approx([58] * len(found), rel=0.04)
    assert [one.step for one in found] == pytest.approx([4] * len(found), abs=1)


def test_a_place_where_nothing_is_seen_is_known_from_either_end_of_the_sheet() -> None:
    sheet = (405.0, 305.0)
    places = [(60.0 + 95 * x, 55.0 + 90 * y) for y in range(3) for x in range(4)]
    seen = [place for k, place in enumerate(places) if k != 6]
    assert empty_places(places, seen, sheet, 60) == [places[6]]
    # Photographed from the other end, and the layout is not the same turned around.
    moved = [(x + 18, y) for x, y in places]
    turned = [(405 - x, 305 - y) for k, (x, y) in enumerate(moved) if k != 6]
    (empty,) = empty_places(moved, turned, sheet, 30)
    assert empty == pytest.approx((405 - moved[6][0], 305 - moved[6][1]))
    # What was laid out otherwise has no empty places.
    assert empty_places(places, [(10.0, 10.0)], sheet, 60) == []
    assert empty_places([], seen, sheet, 60) == []
