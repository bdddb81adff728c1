"""Each kind of portioning: the raw piece, what is to be made, and what is refused."""

import math
from dataclasses import replace
from itertools import pairwise

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
    roll_out,
    slab_for,
    thickness_for,
)
from finebatch.core.piece.kinds.rope import Roped
from finebatch.core.piece.kinds.sliced import Sliced
from finebatch.core.piece.kinds.twice_baked import DRIED_LOSS, TwiceBaked
from finebatch.core.piece.kinds.wafer import Wafer
from finebatch.core.piece.lot import Lot
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
        assert slab_for(piece, area) is None or len(out.passes) == 12


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


def test_scraps_are_rolled_in_as_few_parts_as_they_need() -> None:
    out = roll_out(replace(ROUNDS, parts=4), 1200, DENSITY)
    assert out.passes[0].slabs == 4
    # A part is 300 g: what is left is rolled in as many as it fills.
    for before, done in pairwise(out.passes):
        assert done.slabs == math.ceil(before.rest_g / 300)
    assert out.first_pieces == out.passes[0].pieces


def test_dough_for_less_than_one_piece_is_refused_with_what_to_do() -> None:
    with pytest.raises(Refusal) as said:
        roll_out(ROUNDS, 10, DENSITY)
    (fault,) = said.value.faults
    assert fault.field == "cutter.across_mm"
    assert "cutter of 60 mm" in read_in(fault.message)


def test_so_thick_at_most_that_the_pieces_come_out() -> None:
    for pieces in (10, 24, 40):
        thick = thickness_for(ROUNDS, pieces, 800, DENSITY)
        assert thick == round(thick, 1)
        assert roll_out(replace(ROUNDS, thickness_mm=thick), 800, DENSITY).pieces >= pieces
    most = roll_out(replace(ROUNDS, thickness_mm=2), 800, DENSITY).pieces
    assert thickness_for(ROUNDS, most, 800, DENSITY) >= 2
    with pytest.raises(Refusal) as said:
        thickness_for(ROUNDS, most + 1, 800, DENSITY)
    assert said.value.faults[0].field == "pieces"
    assert f"this dough gives {most}." in said.value.faults[0].message
    assert ROUNDS.giving(most + 1, Lot(800, DENSITY)) is None


def test_a_cutter_of_another_size_gives_another_mass() -> None:
    heavier = ROUNDS.weighing(2 * ROUNDS.raw(LOT).grams, LOT)
    assert heavier.raw(LOT).grams == pytest.approx(2 * ROUNDS.raw(LOT).grams, rel=0.02)
    assert heavier.thickness_mm == ROUNDS.thickness_mm
    leaf = Rolled(cutter=LEAF).wider(1.1)
    assert leaf.cutter.down_mm / leaf.cutter.across_mm == pytest.approx(82 / 48, rel=0.02)


def test_wedges_of_a_round_pan_are_as_long_as_its_radius() -> None:
    pan = Pan("round", 240, wedges=12)
    scored = pan.score(600, 12, 2)
    assert (scored.pans, scored.full_g, scored.deep_mm) == (2, 600, 12)
    assert (scored.down_mm, scored.piece_g, scored.each_gives) == (120, 50, 12)
    assert pan.lies(pan.raw(LOT), 0).outline == "round"
    assert Pan("square", 200).lies(Pan("square", 200).raw(LOT), 0).outline == "box"


@pytest.mark.parametrize(
    ("pan", "field"),
    [
        (Pan("square", 100, scored_across=10, scored_down=2), None),
        (Pan("square", 99, scored_across=10, scored_down=2), "scored_across"),
        (Pan("rectangle", 200, 99, scored_across=2, scored_down=10), "scored_across"),
        (Pan("round", 101, wedges=31), None),
        (Pan("round", 101, wedges=32), "wedges"),
    ],
)
def test_no_knife_cuts_under_a_centimetre(pan: Pan, field: str | None) -> None:
    if field is None:
        assert pan.score(300, 10, 1).pieces == pan.pieces
        return
    with pytest.raises(Refusal) as said:
        pan.score(300, 10, 1)
    assert said.value.faults[0].field == field
    assert "10 mm wide" in read_in(said.value.faults[0].message)


def test_a_pan_is_its_own_tray_and_no_wider_than_it_is() -> None:
    pan = Pan("square", 200, thickness_mm=10)
    with pytest.raises(Refusal) as said:
        pan.wider(1.1)
    assert said.value.faults[0].field == "width_mm"
    shape, purpose = pan.chilled(LOT)
    assert (shape.sides, purpose) == ((("slab", 5.0),), "slice")
    assert (pan.hot_work.each_s, pan.hot_work.within_min) == (4, 1)


def test_scraps_too_small_for_two_slabs_are_rolled_in_one() -> None:
    hexagon = Cutter("hexagon", 75, 60)
    piece = Rolled(5.5, hexagon, 3, parts=4, staggered=False, papers=True)
    one = piece.raw(LOT).grams
    for usable in range(315, 1500, 3):
        out = roll_out(piece, usable, DENSITY)
        area = 1000 * out.rest_g / DENSITY / piece.thickness_mm
        assert out.rest_g < 2 * one or slab_for(piece, area) is None
