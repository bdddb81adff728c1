"""The question turned around, and the ladder, for every kind of portioning."""

from dataclasses import replace

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from finebatch.core.piece.cutter import Cutter
from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.kinds.pan import Pan
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.kinds.rope import Roped
from finebatch.core.piece.kinds.sliced import Sliced
from finebatch.core.piece.kinds.twice_baked import TwiceBaked
from finebatch.core.piece.kinds.wafer import Wafer
from finebatch.core.piece.pans import depth_in
from finebatch.core.piece.tools import Tools
from finebatch.core.piece.tray import count, foresee_tray
from finebatch.core.piece.turned import factor_for, ladder, piece_of_width, without_leftover
from finebatch.core.refusal import Refusal
from finebatch.core.tray.turned_around import answers
from finebatch.facts import tables
from tests.chance import so_many
from tests.pieces import basis_of

BASIS = basis_of()
ROUND = [Drop(), Drop(scoop_ml=24), Rolled(), Sliced(), Wafer()]
ALL: list[Portioning] = [*ROUND, Roped(), TwiceBaked(), Pan()]


@pytest.mark.parametrize("piece", ROUND, ids=lambda p: p.kind)
@settings(max_examples=so_many(25))
@given(wide=st.floats(45, 95))
def test_the_piece_that_bakes_so_wide(piece: Portioning, wide: float) -> None:
    try:
        sized = piece_of_width(BASIS, piece, wide)
    except Refusal:
        assume(False)
        raise
    assert BASIS.foresee(sized).width.middle_mm == pytest.approx(wide, abs=0.05)
    assert sized.kind == piece.kind


def test_a_scooped_piece_stays_scooped() -> None:
    sized = piece_of_width(BASIS, Drop(scoop_ml=24), 75)
    assert isinstance(sized, Drop)
    assert sized.scoop_ml is not None
    assert sized.scoop_ml > 24


def test_a_cutter_keeps_its_outline_when_it_grows() -> None:
    leaf = Rolled(cutter=Cutter("own", 48, 82, 26))
    sized = piece_of_width(BASIS, leaf, 60)
    assert isinstance(sized, Rolled)
    now = sized.cutter
    assert now.down_mm / now.across_mm == pytest.approx(82 / 48)
    assert now.area_cm2 == pytest.approx(26 * (now.across_mm / 48) ** 2)


def test_a_pans_pieces_are_as_wide_as_they_are_scored() -> None:
    with pytest.raises(Refusal, match="as wide as they are scored"):
        piece_of_width(BASIS, Pan(), 60)


@pytest.mark.parametrize("piece", ALL, ids=lambda p: p.kind)
@settings(max_examples=so_many(15))
@given(wanted=st.integers(5, 400))
def test_so_many_need_just_so_much(piece: Portioning, wanted: int) -> None:
    factor = factor_for(BASIS, piece, wanted)

    def gives(by: float) -> int:
        try:
            found = foresee_tray(replace(BASIS, batches=by), piece)
        except Refusal:
            return 0
        return found.second.pieces if found.second else found.yields.pieces

    assert gives(factor) >= wanted
    assert gives(factor * 0.99 - 0.002) < wanted or piece.kind == "rolled"


@pytest.mark.parametrize("piece", [p for p in ALL if p.kind != "rolled"], ids=lambda p: p.kind)
def test_nothing_is_left_but_what_is_trimmed(piece: Portioning) -> None:
    sizes = without_leftover(BASIS, piece)
    assert len(sizes) == 2
    counts = []
    for sized in sizes:
        try:
            made = count(BASIS, sized, BASIS.foresee(sized))
        except Refusal as refusal:
            assert piece.kind == "pan", refusal  # filled over its wall
            continue
        counts.append(made.pieces)
        assert made.left_g - getattr(made.making, "ends_g", 0.0) == pytest.approx(0, abs=1e-6)
    assert counts == sorted(counts)


def test_rolled_dough_is_rolled_as_thin_as_one_more_needs() -> None:
    piece = Rolled(5, Cutter("round", 60))
    before = foresee_tray(BASIS, piece).yields.pieces
    thinner = without_leftover(BASIS, piece)[0]
    assert isinstance(thinner, Rolled)
    assert thinner.thickness_mm < 5
    assert foresee_tray(BASIS, thinner).yields.pieces > before


@pytest.mark.parametrize("piece", ALL, ids=lambda p: p.kind)
def test_the_ladder_has_a_rung_for_each_size(piece: Portioning) -> None:
    rungs = ladder(BASIS, piece, Tools(tables.scoops(), tables.cutters(), tables.pans()))
    assert len(rungs) >= 5
    assert len({rung.name for rung in rungs}) == len(rungs)
    for rung in rungs:
        assert (rung.answer is None) == bool(rung.fault)
        assert rung.piece.kind == piece.kind


def test_a_rung_that_cannot_be_says_why() -> None:
    small = replace(BASIS, batches=0.025)
    rungs = ladder(small, Drop(), Tools(tables.scoops()))
    assert any("does not make one piece" in rung.fault for rung in rungs)


def test_a_wish_for_nothing_says_what_to_say() -> None:
    with pytest.raises(Refusal, match="Say how wide"):
        answers(BASIS, Drop(), None, None, no_leftover=False)


@given(st.floats(100, 300), st.floats(100, 300))
def test_the_same_depth_there_and_back(one: float, other: float) -> None:
    a, b = Pan("square", one), Pan("round", other)
    assert depth_in(a, b) * depth_in(b, a) == pytest.approx(1)
    assert depth_in(a, a) == pytest.approx(1)
