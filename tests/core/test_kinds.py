"""Each kind of portioning: the raw piece, what is to be made, and what is refused."""

import math
from dataclasses import replace
from itertools import pairwise

import numpy as np
import numpy.typing as npt
import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.measures.figures import read_in
from finebatch.core.piece.cutter import Cutter
from finebatch.core.piece.kinds.drop import HEAPED, Drop
from finebatch.core.piece.kinds.filled_pan import FilledPan
from finebatch.core.piece.kinds.on_paper import SlabOnPaper
from finebatch.core.piece.kinds.pan import Pan
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.kinds.rolled import (
    FLOUR_PICKED_UP,
    LONGEST,
    WIDEST_MM,
    Rolled,
    Slab,
    roll_out,
    slab_for,
    thickness_for,
)
from finebatch.core.piece.kinds.rope import Roped
from finebatch.core.piece.kinds.sliced import Sliced
from finebatch.core.piece.kinds.twice_baked import DRIED_LOSS, TwiceBaked
from finebatch.core.piece.kinds.wafer import Wafer
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.nesting import FINE_MM, nests
from finebatch.core.piece.pans import depth_in
from finebatch.core.piece.portion import RawPiece
from finebatch.core.refusal import Refusal

DENSITY = 1.25
LOT = Lot(1000, DENSITY)
LEAF = Cutter("own", 48, 82, 26)
ALL: list[Portioning] = [
    Drop(),
    Drop(shape="dented"),
    Rolled(),
    Rolled(cutter=LEAF),
    Sliced(),
    SlabOnPaper(),
    Pan(),
    FilledPan(share_pct=50),
    Roped(),
    TwiceBaked(),
    Wafer(),
]


def raw_of(piece: Portioning) -> RawPiece:
    return piece.raw(LOT)


@pytest.mark.parametrize("piece", ALL, ids=lambda p: p.kind)
@given(by=st.floats(0.6, 1.8))
def test_a_piece_of_another_mass_has_that_mass(piece: Portioning, by: float) -> None:
    grams = piece.raw(LOT).grams * by
    assert piece.weighing(grams, LOT).raw(LOT).grams == pytest.approx(grams)


def test_a_scoop_gives_its_volume_of_this_dough_and_a_heaped_one_more() -> None:
    level = Drop(scoop_ml=24)
    assert level.raw(LOT).grams == pytest.approx(24 * DENSITY)
    heaped = replace(level, heaped=True)
    assert heaped.raw(LOT).grams == pytest.approx(HEAPED * 24 * DENSITY)


def test_a_ball_is_as_wide_as_it_is_said_and_its_mass_follows_from_the_dough() -> None:
    inch = Drop(ball_mm=25.4)
    assert inch.raw(LOT).width_mm == pytest.approx(25.4)
    assert inch.raw(LOT).grams == pytest.approx(math.pi / 6 * 2.54**3 * DENSITY)
    assert inch.wider(8).raw(LOT).grams == pytest.approx(8 * inch.raw(LOT).grams)
    assert (inch.weighing(30, LOT).ball_mm, inch.weighing(30, LOT).raw(LOT).grams) == (None, 30)
    assert read_in(inch.worked()) == "balls 2.5 cm across"


def test_tapped_dented_and_pressed_pieces_start_wider_and_lower_than_a_ball() -> None:
    ball = raw_of(Drop(30))
    shapes = [raw_of(Drop(30, shape=shape)) for shape in ("tapped", "dented")]
    shapes.append(raw_of(Drop(30, shape="pressed", press_mm=10)))
    for raw in shapes:
        assert raw.grams == ball.grams
        assert raw.width_mm > ball.width_mm
        assert raw.height_mm < ball.height_mm
    assert shapes[-1].height_mm == pytest.approx(10)


def test_a_ball_is_not_pressed_higher_than_it_is() -> None:
    with pytest.raises(Refusal, match="press it to less"):
        Drop(10, shape="pressed", press_mm=40).portion(LOT)


@pytest.mark.parametrize(
    ("cutter", "area"),
    [
        (Cutter("round", 60, 0), math.pi * 900),
        (Cutter("square", 50, 0), 2500),
        (Cutter("rectangle", 30, 70), 2100),
        (Cutter("hexagon", 60, 0), 3117.7),
        (LEAF, 2600),
    ],
)
def test_cutters_by_their_box_and_area(cutter: Cutter, area: float) -> None:
    assert cutter.area_mm2 == pytest.approx(area, rel=1e-4)
    raw = raw_of(Rolled(cutter=cutter))
    assert raw.volume_cm3 == pytest.approx(area * 5 / 1000, rel=1e-4)
    assert raw.across_mm == pytest.approx(cutter.box_mm[0])


@pytest.mark.parametrize("area", [None, 0.0, 40.0])
def test_an_outline_of_its_own_wants_an_area_within_its_box(area: float | None) -> None:
    with pytest.raises(Refusal) as said:
        _ = replace(LEAF, area_cm2=area).area_mm2
    assert "Its box is 39.4 cm²" in read_in(said.value.faults[0].message)


def test_a_slab_thicker_than_its_cutter_is_refused() -> None:
    with pytest.raises(Refusal, match="roll it thinner"):
        raw_of(Rolled(thickness_mm=30, cutter=Cutter("square", 20)))


thicknesses = st.floats(3, 9)
cutters = st.one_of(
    st.floats(30, 90).map(lambda w: Cutter("round", w)),
    st.tuples(st.floats(30, 80), st.floats(30, 90)).map(lambda b: Cutter("rectangle", *b)),
    st.floats(30, 80).map(lambda w: Cutter("hexagon", w)),
    st.builds(
        Cutter,
        st.sampled_from(["leaf", "star", "heart"]),
        st.sampled_from([34.0, 57.0]),
        st.sampled_from([40.0, 72.0]),
    ),
)
rolled_doughs = st.builds(
    Rolled, thicknesses, cutters, st.floats(0, 6), st.integers(1, 4), st.booleans(), st.booleans()
)


@given(rolled_doughs, st.floats(400, 3000))
def test_rolling_loses_no_dough_and_no_cut_touches_another(piece: Rolled, usable: float) -> None:
    try:
        out = roll_out(piece, usable, DENSITY)
    except Refusal:
        return
    each = piece.raw(LOT).grams
    assert out.pieces * each + out.rest_g == pytest.approx(usable + out.flour_g)
    assert out.pieces == sum(p.pieces for p in out.passes)
    for done in out.passes:
        assert done.slabs * len(done.slab.cuts) == done.pieces
        wide, tall = piece.cutter.box_mm
        for x, y in done.slab.cuts:
            assert wide / 2 - 1e-6 <= x <= done.slab.across_mm - wide / 2 + 1e-6
            assert tall / 2 - 1e-6 <= y <= done.slab.down_mm - tall / 2 + 1e-6
    assert apart_mm(piece.cutter, out.passes[0].slab) >= piece.web_mm - FINE_MM
    if piece.papers:
        assert out.flour_g == 0


@given(rolled_doughs, st.floats(400, 3000))
def test_scraps_are_rolled_until_under_two_pieces_are_left(piece: Rolled, usable: float) -> None:
    try:
        out = roll_out(piece, usable, DENSITY)
    except Refusal:
        return
    one = piece.raw(LOT).grams
    if out.rest_g >= 2 * one:
        picked_up = 0.0 if piece.papers else FLOUR_PICKED_UP
        area = 1000 * out.rest_g * (1 + picked_up) / DENSITY / piece.thickness_mm
        stopped = out.limited and len(out.passes) == piece.rerolls + 1
        assert slab_for(piece, area) is None or stopped


def test_the_rectangle_covers_what_the_part_weighs() -> None:
    piece = Rolled(4, Cutter("round", 60), papers=True)
    first = roll_out(piece, 800, DENSITY).passes[0]
    volume = first.slab.across_mm * first.slab.down_mm * 4 / 1000
    assert first.slabs * volume * DENSITY == pytest.approx(800)


def test_thickness_from_the_pieces_wanted() -> None:
    piece = Rolled()
    thick = thickness_for(piece, 48, 800, DENSITY)
    assert roll_out(replace(piece, thickness_mm=thick), 800, DENSITY).pieces >= 48
    thicker = replace(piece, thickness_mm=thick + 0.1)
    assert roll_out(thicker, 800, DENSITY).pieces < 48
    with pytest.raises(Refusal) as said:
        thickness_for(piece, 1000, 800, DENSITY)
    assert "Rolled to 2 mm this dough gives" in read_in(said.value.faults[0].message)


def test_logs_are_no_longer_than_the_shelf_and_lose_nothing() -> None:
    sliced = Sliced(50, 7, ends_mm=4, longest_mm=250)
    logs = sliced.cut(1500, DENSITY)
    assert len(logs.lengths_mm) == 3
    assert max(logs.lengths_mm) <= 250
    one = sliced.raw(LOT).grams
    assert logs.pieces * one + logs.ends_g + logs.rest_g == pytest.approx(1500)
    with pytest.raises(Refusal, match="nothing is left between its ends"):
        replace(sliced, ends_mm=50).cut(100, DENSITY)


BAKED_LOG = RawPiece(375, 300, 55, 20, False, 300, "log")


def test_a_diagonal_cut_gives_longer_and_fewer_slices() -> None:
    straight = TwiceBaked().dry(BAKED_LOG, 85, 24, 320)
    slant = TwiceBaked(lean_deg=45).dry(BAKED_LOG, 85, 24, 320)
    assert straight.face_mm == pytest.approx(85)
    assert slant.face_mm == pytest.approx(85 * math.sqrt(2))
    assert slant.per_log < straight.per_log
    for cut in (straight, slant):
        assert cut.per_log * cut.slice_g + cut.lost_g == pytest.approx(320)
        assert cut.dried_g == pytest.approx(cut.slice_g * (1 - DRIED_LOSS))


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"lean_deg": 90}, "the knife runs along the log"),
        ({"lean_deg": 60, "slice_mm": 60}, "gives no whole slice"),
    ],
)
def test_cuts_that_give_no_slice_are_refused(change: dict[str, float], words: str) -> None:
    short = replace(BAKED_LOG, length_mm=120.0)
    with pytest.raises(Refusal, match=words):
        replace(TwiceBaked(), **change).dry(short, 85, 24, 320)


def test_a_pan_is_scored_in_a_grid_or_wedges() -> None:
    grid = Pan("square", 200, 200, scored_across=4, scored_down=5).score(600, 12, 1)
    assert (grid.pieces, grid.across_mm, grid.down_mm, grid.piece_g) == (20, 50, 40, 30)
    wedges = Pan("round", 200, wedges=8).score(600, 12, 1)
    assert wedges.pieces == 8
    assert wedges.across_mm == pytest.approx(math.pi * 25)
    with pytest.raises(Refusal, match="Score fewer"):
        Pan("square", 100, scored_across=30).score(200, 12, 1)


def test_the_same_depth_in_another_pan_goes_by_area() -> None:
    square, round_pan = Pan("square", 200), Pan("round", 200)
    assert depth_in(square, round_pan) == pytest.approx(math.pi / 4)
    assert depth_in(square, round_pan) * depth_in(round_pan, square) == pytest.approx(1)


def test_a_pan_is_not_filled_over_its_wall() -> None:
    with pytest.raises(Refusal) as said:
        Pan(wall_mm=10, thickness_mm=12).portion(LOT)
    assert "10 mm deep" in read_in(said.value.faults[0].message)


def test_ropes_straight_twisted_and_closed() -> None:
    rope = Roped(25, 140)
    raw = raw_of(rope)
    assert math.pi / 4 * raw.width_mm**2 * 140 / 1000 * DENSITY == pytest.approx(25)
    straight = rope.close(raw, 21)
    twist = replace(rope, form="twist").close(raw, 21)
    ring = replace(rope, form="ring").close(raw, 21)
    assert straight.across_mm > twist.across_mm
    assert twist.down_mm > straight.down_mm
    assert ring.hole_mm == pytest.approx(140 / math.pi - 21)
    with pytest.raises(Refusal, match="bake shut"):
        Roped(25, 80, "ring").close(raw, 30)
    with pytest.raises(Refusal, match="would be a lump"):
        raw_of(Roped(60, 40))


def test_only_as_many_wafers_as_can_be_shaped_in_time() -> None:
    assert Wafer(soft_s=75, shape_s=12).in_time().by_hand == 6
    with pytest.raises(Refusal, match="one at a time"):
        Wafer(soft_s=10, shape_s=12).in_time()


def test_more_dough_than_the_bench_takes_is_rolled_in_more_parts() -> None:
    out = roll_out(Rolled(parts=1), 12_000, DENSITY)
    assert out.passes[0].slabs > 1
    for done in out.passes:
        assert max(done.slab.across_mm, done.slab.down_mm) < 1000
    assert out.pieces > 500


SQUARES = Rolled(5, Cutter("square", 50), web_mm=5, papers=True)
ROUNDS = Rolled(5, Cutter("round", 60), web_mm=4, papers=True)


def test_a_slab_just_large_enough_is_cut_by_its_grid() -> None:
    # Two by three cuts of 50 mm, 5 mm between them and at the edge: 115 × 170 mm.
    slab = slab_for(SQUARES, 170 * 115 + 0.1)
    assert slab is not None
    assert slab.rows == (2, 2, 2)
    assert (slab.across_mm, slab.down_mm) == pytest.approx((115, 170), abs=1e-3)
    assert sorted({round(x, 2) for x, _ in slab.cuts}) == [30, 85]
    assert sorted({round(y, 2) for _, y in slab.cuts}) == [30, 85, 140]
    smaller = slab_for(SQUARES, 170 * 115 - 0.1)
    assert smaller is not None
    assert len(smaller.cuts) < 6


def test_spare_room_of_a_slab_is_shared_by_both_sides() -> None:
    slab = slab_for(SQUARES, 170 * 115 * 1.02)
    assert slab is not None
    assert slab.across_mm * slab.down_mm == pytest.approx(170 * 115 * 1.02)
    assert slab.down_mm / slab.across_mm == pytest.approx(170 / 115)
    xs, ys = zip(*slab.cuts, strict=True)
    assert min(xs) + max(xs) == pytest.approx(slab.across_mm)
    assert min(ys) + max(ys) == pytest.approx(slab.down_mm)


def test_round_cuts_lie_staggered_and_save_dough_over_straight_rows() -> None:
    straight = replace(ROUNDS, staggered=False)

    def cuts(piece: Rolled) -> int:
        slabs = (slab_for(piece, 1000.0 * k) for k in range(50, 180, 5))
        return sum(len(slab.cuts) for slab in slabs if slab)

    assert cuts(ROUNDS) > cuts(straight)
    area = 110_000.0
    staggered = slab_for(ROUNDS, area)
    assert staggered is not None
    nearest = min(math.dist(a, b) for n, a in enumerate(staggered.cuts) for b in staggered.cuts[:n])
    assert nearest == pytest.approx(64)
    ys = sorted({round(y, 3) for _, y in staggered.cuts})
    assert ys[1] - ys[0] == pytest.approx(64 * math.sqrt(3) / 2, abs=1e-3)
    # Boxes do not nest: their rows are straight whatever is asked.
    assert slab_for(SQUARES, area) == slab_for(replace(SQUARES, staggered=False), area)


@pytest.mark.parametrize("area", [40_000.0, 90_000.0, 200_000.0, 250_000.0])
def test_a_slab_is_one_that_a_bench_and_a_pin_take(area: float) -> None:
    for piece in (SQUARES, ROUNDS):
        slab = slab_for(piece, area)
        assert slab is not None
        assert slab.across_mm <= WIDEST_MM
        assert slab.across_mm * slab.down_mm == pytest.approx(area)
        longer = max(slab.across_mm, slab.down_mm) / min(slab.across_mm, slab.down_mm)
        assert longer <= LONGEST
        assert sum(slab.rows) == len(slab.cuts)
        # No more could be cut by area alone, and not much less is.
        own = piece.cutter.area_mm2
        assert 0.5 * area < len(slab.cuts) * own < area


def test_there_is_no_slab_for_less_than_one_cut() -> None:
    assert slab_for(SQUARES, 60 * 60 - 1) is None
    one = slab_for(SQUARES, 60 * 60 + 0.1)
    assert one is not None
    assert one.cuts == ((pytest.approx(30, abs=0.01), pytest.approx(30, abs=0.01)),)


def test_flour_is_picked_up_with_each_rolling_and_none_between_papers() -> None:
    bench = replace(ROUNDS, papers=False)
    out = roll_out(bench, 700, DENSITY)
    one = bench.raw(LOT).grams
    dough, flour = 700.0, 0.0
    for done in out.passes:
        picked = FLOUR_PICKED_UP * dough
        flour += picked
        dough += picked - done.pieces * one
        assert done.rest_g == pytest.approx(dough)
        area = done.slabs * done.slab.across_mm * done.slab.down_mm
        before = dough + done.pieces * one
        assert area * 5 / 1000 * DENSITY == pytest.approx(before)
    assert (out.flour_g, out.rest_g) == (pytest.approx(flour), pytest.approx(dough))
    assert roll_out(ROUNDS, 700, DENSITY).flour_g == 0


def test_scraps_are_gathered_into_one_slab() -> None:
    out = roll_out(replace(ROUNDS, parts=4), 1200, DENSITY)
    assert [done.slabs for done in out.passes] == [4, 1, 1]
    assert out.first_pieces == out.passes[0].pieces


@pytest.mark.parametrize("rerolls", [0, 1, 2, 6])
def test_scraps_are_rolled_no_oftener_than_is_allowed(rerolls: int) -> None:
    out = roll_out(replace(ROUNDS, rerolls=rerolls), 1500, DENSITY)
    assert len(out.passes) <= rerolls + 1
    assert out.limited == (len(out.passes) == rerolls + 1 and rerolls < 3)
    most = roll_out(replace(ROUNDS, rerolls=11), 1500, DENSITY)
    assert out.pieces <= most.pieces
    assert not most.limited


@pytest.mark.parametrize(
    ("cutter", "closer"),
    [(Cutter("leaf", 40, 80), 0.8), (Cutter("star", 70, 67), 0.8), (Cutter("heart", 60, 57), 0.85)],
)
def test_outlines_reach_into_each_other(cutter: Cutter, closer: float) -> None:
    box = (cutter.across_mm + 3) * (cutter.down_mm + 3)
    best, *_, plain = nests(cutter, 3)
    assert plain.area_mm2 == pytest.approx(box)
    assert best.area_mm2 < closer * box
    rows, boxes = (
        roll_out(Rolled(4, cutter, 3, staggered=nested, rerolls=0), 900, DENSITY).pieces
        for nested in (True, False)
    )
    assert rows > 1.1 * boxes


@pytest.mark.parametrize("sides", [(280.0, 110.0), (110.0, 280.0)])
def test_a_rectangle_that_is_asked_for_is_rolled_and_cut_both_ways(
    sides: tuple[float, float],
) -> None:
    fingers = Rolled(6, Cutter("rectangle", 30, 85), 2, papers=True)
    asked = replace(fingers, slab_across_mm=sides[0], slab_down_mm=sides[1])
    first = roll_out(asked, 900, DENSITY).passes[0]
    assert (first.slab.across_mm, first.slab.down_mm) == sides
    assert first.slabs == int(900 / (280 * 110 * 6 / 1000 * DENSITY))
    # Eight fingers side by side, but nine laid the other way, however the rectangle is written.
    assert len(first.slab.cuts) == 9
    for (x, y), turn in zip(first.slab.cuts, first.slab.turns or (0,) * 9, strict=True):
        wide, tall = (85, 30) if turn % 180 else (30, 85)
        assert wide / 2 <= x <= sides[0] - wide / 2
        assert tall / 2 <= y <= sides[1] - tall / 2


def test_a_rectangle_of_more_dough_than_there_is_says_so() -> None:
    asked = replace(ROUNDS, slab_across_mm=400, slab_down_mm=600)
    with pytest.raises(Refusal, match="there are") as said:
        roll_out(asked, 500, DENSITY)
    assert said.value.faults[0].field == "slab_across_mm"


MOST_DRAWN = 40


def apart_mm(cutter: Cutter, slab: Slab) -> float:
    """The least distance between two cuts of a slab: of outlines that are known, by their rims."""
    turns = slab.turns or (0,) * len(slab.cuts)
    if not cutter.outline:
        return math.inf
    corners = np.array([*cutter.outline_mm, cutter.outline_mm[0]])
    rim = np.vstack([a + (b - a) * np.linspace(0, 1, 6)[:, None] for a, b in pairwise(corners)])
    least, reach = math.inf, max(cutter.box_mm) * 1.5
    placed = list(zip(slab.cuts, turns, strict=True))[:MOST_DRAWN]
    for n, (one, turn) in enumerate(placed):
        for other, beside in placed[n + 1 :]:
            if math.dist(one, other) <= reach:
                gap = turned(rim, one, turn)[:, None, :] - turned(rim, other, beside)[None, :, :]
                least = min(least, float(np.hypot(gap[..., 0], gap[..., 1]).min()))
    return least


def turned(
    rim: npt.NDArray[np.float64], at: tuple[float, float], turn: int
) -> npt.NDArray[np.float64]:
    by = math.radians(turn)
    cos, sin = math.cos(by), math.sin(by)
    found: npt.NDArray[np.float64] = rim @ np.array([[cos, sin], [-sin, cos]]) + at
    return found
