import itertools
import math
from dataclasses import replace
from itertools import combinations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Polygon

from finebatch.core.measures.figures import read_in
from finebatch.core.piece.cutter import Cutter, CutterShape
from finebatch.core.piece.layout import (
    capacity,
    lay_out,
    meetings,
    off_sheet,
    share_out,
    spread_evenly,
)
from finebatch.core.piece.rows import Footprint, Sheet
from finebatch.core.refusal import Refusal
from tests.chance import TIMES

sheets = st.builds(
    Sheet, st.floats(200, 500), st.floats(200, 500), st.floats(0, 20), st.floats(0, 25)
)
discs = st.floats(25, 120).map(lambda d: Footprint(d, d, is_round=True))


@given(sheets, discs, st.floats(0, 1))
def test_pieces_stay_apart_and_on_the_sheet(sheet: Sheet, disc: Footprint, share: float) -> None:
    most = capacity(sheet, disc)
    pieces = max(1, round(share * most))
    laid = lay_out(sheet, disc, pieces)
    assert len(laid.centres) == pieces == sum(laid.rows)
    least = disc.across_mm + sheet.gap_mm
    for n, a in enumerate(laid.centres):
        for b in laid.centres[n + 1 :]:
            assert math.dist(a, b) >= least - 1e-6
    edge = sheet.margin_mm + disc.across_mm / 2 - 1e-6
    assert all(edge <= x <= sheet.width_mm - edge for x, _ in laid.centres)
    assert all(edge <= y <= sheet.depth_mm - edge for _, y in laid.centres)


@given(sheets, discs)
def test_no_layout_holds_more_than_the_capacity(sheet: Sheet, disc: Footprint) -> None:
    with pytest.raises(Refusal):
        lay_out(sheet, disc, capacity(sheet, disc) + 1)


@given(sheets, discs)
def test_plain_rows_are_never_better_than_what_is_offered(sheet: Sheet, disc: Footprint) -> None:
    pitch = disc.across_mm + sheet.gap_mm
    room = 2 * sheet.margin_mm - sheet.gap_mm
    rows = math.floor((sheet.width_mm - room) / pitch) * math.floor((sheet.depth_mm - room) / pitch)
    assert capacity(sheet, disc) >= rows


def test_staggering_is_used_where_it_holds_more() -> None:
    sheet = Sheet(405, 305, 10, 12)
    disc = Footprint(72, 72, is_round=True)
    assert capacity(sheet, disc) > 4 * 3
    assert lay_out(sheet, disc, capacity(sheet, disc)).pattern.startswith("staggered")


def test_logs_lie_side_by_side() -> None:
    laid = lay_out(Sheet(405, 305), Footprint(310, 84, is_round=False), 3)
    xs, ys = zip(*laid.centres, strict=True)
    assert len(set(xs)) == 1
    assert sorted(b - a for a, b in itertools.pairwise(ys))[0] >= 84 + 12


@given(st.integers(1, 500), st.integers(1, 60))
def test_trays_are_even(pieces: int, most: int) -> None:
    trays = spread_evenly(pieces, most)
    assert sum(trays) == pieces
    assert max(trays) <= most
    assert max(trays) - min(trays) <= 1
    assert len(trays) == math.ceil(pieces / most)


def test_a_piece_larger_than_the_sheet_names_both_sizes() -> None:
    with pytest.raises(Refusal) as said:
        capacity(Sheet(405, 305), Footprint(400, 400, is_round=True))
    words = read_in(said.value.faults[0].message)
    assert "40 × 40 cm" in words
    assert "38.5 × 28.5 cm" in words


@given(
    st.sampled_from(["leaf", "star", "heart"]),
    st.floats(25, 90),
    st.floats(0.8, 1.8),
    st.floats(2, 20),
    st.integers(10, 90),
)
@settings(max_examples=30 * TIMES)
def test_outlines_that_nest_keep_their_gap_and_save_a_tray(
    shape: CutterShape, across: float, longer: float, gap: float, pieces: int
) -> None:
    sheet = Sheet(405, 305, gap_mm=gap)
    outline = Cutter(shape, across, across * longer).outline
    foot = Footprint(across, across * longer, is_round=False, outline=outline)
    boxes = share_out(sheet, replace(foot, outline=()), pieces)
    shared = share_out(sheet, foot, pieces)
    assert sum(shared.trays) == pieces
    assert len(shared.trays) in (len(boxes.trays), len(boxes.trays) - 1)
    for layout in shared.layouts:
        if layout.pattern == "nested":
            assert len(shared.trays) < len(boxes.trays)
        drawn = [
            Polygon(
                [
                    (x + (-v if layout.turned else u), y + (u if layout.turned else v))
                    for u, v in foot.outline_mm
                ]
            )
            for x, y in layout.centres
        ]
        near = min((a.distance(b) for a, b in combinations(drawn, 2)), default=gap)
        assert near > gap - 1
        assert not meetings(foot, layout.centres, turned=layout.turned)
        assert not off_sheet(sheet, foot, layout.centres, turned=layout.turned)


def test_stars_reach_into_each_other_where_that_saves_a_tray() -> None:
    sheet, star = Sheet(405, 305), Cutter("star", 70, 70)
    foot = Footprint(72, 72, is_round=False, outline=star.outline)
    assert share_out(sheet, replace(foot, outline=()), 16).trays == (8, 8)
    (only,) = share_out(sheet, foot, 16).layouts
    assert (only.pattern, len(only.centres)) == ("nested", 16)
    # Two that are pushed into each other are said.
    pushed = [only.centres[0], (only.centres[0][0] + 30, only.centres[0][1])]
    assert [(m.one, m.other) for m in meetings(foot, pushed, turned=only.turned)] == [(0, 1)]
