"""Layouts whose figures are worked out by hand: where the pieces lie, and who touches whom."""

import math

import pytest

from finebatch.core.measures.figures import read_in
from finebatch.core.piece.layout import (
    capacity,
    lay_out,
    meetings,
    off_sheet,
    share_out,
    spread_evenly,
)
from finebatch.core.piece.rows import Footprint, Sheet, grids, room
from finebatch.core.refusal import Refusal

SHEET = Sheet(400, 300, margin_mm=10, gap_mm=10)
DISC = Footprint(50, 50, is_round=True)
BOX = Footprint(80, 40, is_round=False)


def test_the_room_for_middles_is_the_sheet_less_its_margins_and_a_piece() -> None:
    assert room(SHEET, BOX, turned=False) == (300, 240)
    assert room(SHEET, BOX, turned=True) == (200, 340)


def test_boxes_lie_in_rows_with_half_the_room_at_the_ends() -> None:
    # 380 × 280 mm hold four boxes of 80 + 10 mm across and five of 40 + 10 down.
    laid = lay_out(SHEET, BOX, 20)
    assert (laid.pattern, laid.rows, laid.turned) == ("rows", (4,) * 5, False)
    xs = sorted({round(x, 6) for x, _ in laid.centres})
    ys = sorted({round(y, 6) for _, y in laid.centres})
    assert xs == pytest.approx([57.5, 152.5, 247.5, 342.5])
    assert xs[0] + xs[-1] == pytest.approx(400)
    assert ys[0] + ys[-1] == pytest.approx(300)
    between = xs[1] - xs[0] - 80
    assert xs[0] - 40 - 10 == pytest.approx(between / 2)
    assert laid.nearest_mm == pytest.approx(ys[1] - ys[0])


def test_one_piece_lies_in_the_middle() -> None:
    for foot in (DISC, BOX):
        laid = lay_out(SHEET, foot, 1)
        assert laid.centres == ((200, 150),)
        assert laid.nearest_mm is None


def test_fewer_pieces_than_a_grid_holds_are_taken_off_its_last_row_and_centred_again() -> None:
    laid = lay_out(SHEET, BOX, 7)
    assert sum(laid.rows) == 7
    xs, ys = zip(*laid.centres, strict=True)
    assert min(xs) + max(xs) == pytest.approx(400)
    assert min(ys) + max(ys) == pytest.approx(300)


@pytest.mark.parametrize("pieces", range(1, 30))
def test_a_grid_is_no_larger_than_its_pieces_need(pieces: int) -> None:
    most = capacity(SHEET, DISC)
    if pieces > most:
        with pytest.raises(Refusal) as said:
            lay_out(SHEET, DISC, pieces)
        assert said.value.faults[0].field == "pieces"
        return
    laid = lay_out(SHEET, DISC, pieces)
    least = min(grid.size for grid, _ in grids(SHEET, DISC, pieces) if grid.size >= pieces)
    assert len(laid.centres) == pieces
    assert max(laid.rows) - min(laid.rows[:-1] or laid.rows) <= 1
    assert least - pieces < max(laid.rows)


def test_staggered_rows_that_touch_lie_along_the_slant() -> None:
    # Two rows of two and one in a box just wide enough: 60 mm apart, 52 mm down.
    tight = Sheet(130, 122, margin_mm=10, gap_mm=10)
    assert capacity(tight, DISC) == 3
    laid = lay_out(tight, DISC, 3)
    assert laid.rows == (2, 1)
    assert laid.nearest_mm == pytest.approx(60, abs=0.1)
    flat = Sheet(130, 121, margin_mm=10, gap_mm=10)
    assert capacity(flat, DISC) == 2


def test_a_sheet_just_large_enough_takes_the_piece_and_a_hair_less_does_not() -> None:
    assert capacity(Sheet(70, 70, margin_mm=10), DISC) == 1
    with pytest.raises(Refusal) as said:
        capacity(Sheet(69.9, 70, margin_mm=10), DISC)
    (fault,) = said.value.faults
    assert fault.field == "piece"
    assert "at most 5 cm across" in read_in(fault.message)
    # A log that fits only along the sheet is turned.
    assert lay_out(Sheet(110, 60, 10), Footprint(40, 90, is_round=False), 1).turned


@pytest.mark.parametrize(
    ("one", "other", "over"),
    [
        ((100, 100), (150, 100), None),
        ((100, 100), (149, 100), 1),
        ((100, 100), (130, 140), None),
        ((100, 100), (130, 139), 50 - math.dist((0, 0), (30, 39))),
    ],
)
def test_round_pieces_meet_by_their_rims(
    one: tuple[float, float], other: tuple[float, float], over: float | None
) -> None:
    found = meetings(DISC, [one, other], turned=False)
    assert [(m.one, m.other, m.over_mm) for m in found] == (
        [] if over is None else [(0, 1, pytest.approx(over))]
    )


@pytest.mark.parametrize(
    ("other", "turned", "over"),
    [
        ((180, 100), False, None),
        ((179, 100), False, 1),
        ((179, 140), False, None),
        ((179, 138), False, 1),
        ((160, 139), False, 1),
        ((140, 100), True, None),
        ((139, 100), True, 1),
        ((139, 180), True, None),
    ],
)
def test_boxes_meet_by_the_side_that_is_nearer(
    other: tuple[float, float], turned: bool, over: float | None
) -> None:
    found = meetings(BOX, [(100, 100), other], turned=turned)
    assert [m.over_mm for m in found] == ([] if over is None else [pytest.approx(over)])


def test_the_worst_meeting_is_told_first() -> None:
    found = meetings(DISC, [(100, 100), (145, 100), (185, 100)], turned=False)
    assert [(m.one, m.other) for m in found] == [(1, 2), (0, 1)]


@pytest.mark.parametrize(
    ("foot", "turned", "centre", "off"),
    [
        (DISC, False, (25, 25), False),
        (DISC, False, (24.9, 25), True),
        (DISC, False, (25, 24.9), True),
        (DISC, False, (375, 275), False),
        (DISC, False, (375.1, 275), True),
        (DISC, False, (375, 275.1), True),
        (BOX, False, (40, 20), False),
        (BOX, False, (39, 20), True),
        (BOX, False, (40, 19), True),
        (BOX, True, (20, 40), False),
        (BOX, True, (19, 40), True),
        (BOX, True, (20, 39), True),
    ],
)
def test_a_rim_over_the_edge_is_off_the_sheet(
    foot: Footprint, turned: bool, centre: tuple[float, float], off: bool
) -> None:
    assert off_sheet(SHEET, foot, [(200, 150), centre], turned=turned) == ([1] if off else [])


HOT = Sheet(400, 300, margin_mm=10, gap_mm=10, hot_corners=True)


@pytest.mark.parametrize("foot", [DISC, BOX, Footprint(40, 80, is_round=False)])
def test_corners_that_are_hot_stay_free_and_no_more_than_that(foot: Footprint) -> None:
    most = capacity(HOT, foot)
    laid = lay_out(HOT, foot, most)
    across, down = foot.across_mm / 2, foot.down_mm / 2
    if laid.turned:
        across, down = down, across
    for x, y in laid.centres:
        left, top = min(x, 400 - x), min(y, 300 - y)
        if foot.is_round:
            beyond = (max(left - 70, 0), max(top - 70, 0))
            assert math.hypot(*beyond) >= 25 - 1e-6
        else:
            assert max(left - across, top - down) >= 70 - 1e-6
    assert capacity(SHEET, foot) - 8 <= most < capacity(SHEET, foot)


def test_a_sheet_all_of_corners_has_no_room() -> None:
    with pytest.raises(Refusal) as said:
        capacity(Sheet(150, 150, hot_corners=True), Footprint(90, 90, is_round=False))
    assert said.value.faults[0].field == "piece"


@pytest.mark.parametrize(
    ("pieces", "most", "trays"),
    [(26, 20, (13, 13)), (41, 20, (14, 14, 13)), (20, 20, (20,)), (0, 20, ()), (1, 20, (1,))],
)
def test_pieces_are_shared_evenly(pieces: int, most: int, trays: tuple[int, ...]) -> None:
    assert spread_evenly(pieces, most) == trays


def test_so_many_on_a_sheet_are_not_passed_though_more_would_fit() -> None:
    most = capacity(SHEET, DISC)
    shared = share_out(SHEET, DISC, most + 1)
    assert shared.trays == spread_evenly(most + 1, shared.most_on_sheet)
    few = share_out(SHEET, DISC, most, 6)
    assert few.most_on_sheet == 6
    assert max(few.trays) <= 6
    assert len(few.trays) == math.ceil(most / 6)
    assert share_out(SHEET, DISC, most, 500).most_on_sheet == most
    for count, layout in zip(few.trays, few.layouts, strict=True):
        assert layout == lay_out(SHEET, DISC, count)
