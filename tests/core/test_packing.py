"""Rows, closer packings and free corners, against the best known packings in a square."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from finebatch.core.piece.layout import (
    HOT_CORNER_MM,
    capacity,
    lay_out,
    pack_closely,
    share_out,
)
from finebatch.core.piece.rows import Footprint, Sheet
from finebatch.core.refusal import Refusal
from tests.chance import so_many

BEST_RADIUS = {
    2: 0.292893,
    3: 0.254333,
    4: 0.25,
    5: 0.207107,
    6: 0.187681,
    7: 0.174458,
    8: 0.170541,
    9: 0.166667,
    10: 0.148204,
    11: 0.142399,
    12: 0.139959,
    13: 0.133994,
    14: 0.129332,
    15: 0.127167,
    16: 0.125,
    17: 0.117197,
    18: 0.115521,
    19: 0.112265,
    20: 0.111382,
    21: 0.106860,
    22: 0.105665,
    23: 0.102803,
    24: 0.101382,
    25: 0.1,
    26: 0.096362,
    27: 0.095420,
    28: 0.093673,
    29: 0.092463,
    30: 0.091671,
}
"""Radius of the largest n equal circles known to fit a square of side 1 (published tables)."""


@pytest.mark.parametrize("best", BEST_RADIUS)
def test_never_more_than_one_short_of_the_best_known(best: int) -> None:
    across = 2000 * BEST_RADIUS[best] * (1 - 1e-5)
    sheet, foot = Sheet(1000, 1000, 0, 0), Footprint(across, across, is_round=True)
    most = capacity(sheet, foot)
    while most < best and pack_closely(sheet, foot, most + 1):
        most += 1
    assert most >= best - 1


def apart(centres: tuple[tuple[float, float], ...]) -> float:
    return min(math.dist(a, b) for n, a in enumerate(centres) for b in centres[:n])


sheets = st.builds(
    Sheet,
    st.floats(250, 500),
    st.floats(250, 500),
    st.floats(0, 20),
    st.floats(0, 20),
    st.booleans(),
)
rounds = st.floats(40, 110).map(lambda d: Footprint(d, d, is_round=True))
boxes = st.tuples(st.floats(30, 120), st.floats(30, 120)).map(
    lambda b: Footprint(*b, is_round=False)
)


@settings(max_examples=so_many(60))
@given(sheets, st.one_of(rounds, boxes), st.integers(1, 90))
def test_every_tray_keeps_its_distances(sheet: Sheet, foot: Footprint, pieces: int) -> None:
    try:
        shared = share_out(sheet, foot, pieces)
    except Refusal:  # corners left free may leave no room at all
        assert sheet.hot_corners
        assert foot.across_mm + foot.down_mm > 150
        return
    assert sum(shared.trays) == pieces
    assert max(shared.trays) - min(shared.trays) <= 1
    for layout in set(shared.layouts):
        across, down = foot.across_mm / 2, foot.down_mm / 2
        if layout.turned and not foot.is_round:
            across, down = down, across
        for x, y in layout.centres:
            assert sheet.margin_mm - 1e-3 <= x - across
            assert x + across <= sheet.width_mm - sheet.margin_mm + 1e-3
            assert sheet.margin_mm - 1e-3 <= y - down
            assert y + down <= sheet.depth_mm - sheet.margin_mm + 1e-3
        for n, one in enumerate(layout.centres):
            for other in layout.centres[:n]:
                if foot.is_round:
                    assert math.dist(one, other) >= foot.across_mm + sheet.gap_mm - 1e-3
                else:
                    clear_x = abs(one[0] - other[0]) - 2 * across
                    clear_y = abs(one[1] - other[1]) - 2 * down
                    assert max(clear_x, clear_y) >= sheet.gap_mm - 1e-3


def test_hot_corners_stay_free() -> None:
    foot = Footprint(60, 60, is_round=True)
    sheet = Sheet(405, 305, hot_corners=True)
    layout = lay_out(sheet, foot, capacity(sheet, foot))
    corners = [(0.0, 0.0), (405.0, 0.0), (0.0, 305.0), (405.0, 305.0)]
    for x, y in layout.centres:
        for cx, cy in corners:
            near = abs(x - cx) - 30 < HOT_CORNER_MM and abs(y - cy) - 30 < HOT_CORNER_MM
            inner = math.dist((abs(x - cx), abs(y - cy)), (HOT_CORNER_MM, HOT_CORNER_MM)) >= 30
            assert not near or inner
    assert capacity(sheet, foot) < capacity(Sheet(405, 305), foot)


def test_a_closer_packing_is_taken_where_it_saves_a_tray() -> None:
    across = 2000 * BEST_RADIUS[15] * (1 - 1e-5)
    sheet, foot = Sheet(1000, 1000, 0, 0), Footprint(across, across, is_round=True)
    assert capacity(sheet, foot) == 13
    saved = share_out(sheet, foot, 14)
    assert saved.trays == (14,)
    assert saved.layouts[0].pattern == "close"
    assert apart(saved.layouts[0].centres) >= across
    # Where no tray is saved, rows are easier to lay out.
    assert share_out(sheet, foot, 30).trays == (10, 10, 10)


def test_logs_lie_the_way_that_holds_more() -> None:
    log = Footprint(300, 90, is_round=False)
    assert capacity(Sheet(320, 800, 5, 10), log) == 8
    turned = lay_out(Sheet(800, 320, 5, 10), log, 8)
    assert turned.turned
