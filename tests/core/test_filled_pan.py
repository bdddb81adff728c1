"""Fill this pan: how deep the dough lies follows from how much of it there is."""

import re
from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from finebatch.core.measures.figures import read_in
from finebatch.core.piece.kinds.filled_pan import LEAST_MM, DoughShared, FilledPan
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.tools import Tools
from finebatch.core.piece.tray import TrayAnswer, foresee_tray
from finebatch.core.piece.turned import factor_for, ladder, without_leftover
from finebatch.core.refusal import Refusal
from finebatch.core.tray.turned_around import answers
from finebatch.facts import tables
from tests.pieces import basis_of, filled

BASIS = basis_of()


def foreseen(piece: FilledPan) -> TrayAnswer:
    try:
        return foresee_tray(BASIS, piece)
    except Refusal:
        assume(False)
        raise


@given(filled)
def test_what_is_in_the_pans_and_what_stays_is_all_of_the_dough(piece: FilledPan) -> None:
    found = foreseen(piece)
    making = found.making
    assert isinstance(making, DoughShared)
    in_pans = making.pans * making.deep_mm * piece.area_mm2 / 1000 * BASIS.dough.density_g_cm3
    assert in_pans + found.yields.leftover_g == pytest.approx(BASIS.lot.usable_g)
    assert making.pans * making.full_g == pytest.approx(in_pans)
    assert found.yields.trays == (piece.pieces,) * piece.pans
    assert found.each_g * piece.pieces == pytest.approx(making.full_g)


def test_more_dough_lies_deeper_and_bakes_longer() -> None:
    pan = FilledPan("rectangle", 230, 330, 60)
    once, twice = foresee_tray(BASIS, pan), foresee_tray(BASIS.of(2), pan)
    assert twice.foreseen.raw.height_mm == pytest.approx(2 * once.foreseen.raw.height_mm)
    assert twice.foreseen.minutes > once.foreseen.minutes
    assert twice.yields.pieces == once.yields.pieces


@given(st.floats(200, 6000), st.floats(10, 60))
def test_a_pan_too_full_says_how_much_of_the_dough_it_takes(total_g: float, wall: float) -> None:
    piece, lot = FilledPan(wall_mm=wall), Lot(total_g, 1.25)
    try:
        deep = piece.deep_mm(lot)
    except Refusal as refusal:
        most = re.search(r"Take (\d+) % of it at most", refusal.faults[0].message)
        if most is None:
            assert "Take more of it" in refusal.faults[0].message
            return
        less = replace(piece, share_pct=max(int(most.group(1)) - 0.5, 1))
        assert LEAST_MM < less.deep_mm(lot) <= wall
    else:
        assert LEAST_MM <= deep <= wall


def test_no_more_of_the_dough_than_there_is() -> None:
    half, lot = FilledPan(share_pct=50), Lot(1000, 1.25)
    assert half.weighing(10 * lot.usable_g, lot).share_pct == 100
    assert half.weighing(0.3 * lot.usable_g, lot).share_pct == pytest.approx(30)


def test_turned_around_it_takes_all_of_the_dough_and_says_that_scores_make_the_pieces() -> None:
    half = FilledPan(wall_mm=60, share_pct=50)
    (whole,) = without_leftover(BASIS, half)
    assert foresee_tray(BASIS, whole).yields.leftover_g == pytest.approx(0, abs=1e-6)
    (full, *_) = answers(BASIS, half, None, None, no_leftover=True)
    assert read_in(full.said) == "25 mm deep"
    with pytest.raises(Refusal, match="Score more"):
        factor_for(BASIS, half, 40)


def test_the_ladder_tells_how_deep_it_lies_in_each_pan() -> None:
    rungs = ladder(BASIS, FilledPan(), Tools(pans=tables.pans()))
    told = {read_in(rung.name): rung for rung in rungs}
    assert len(told) == len(tables.pans())
    for name, rung in told.items():
        deep = int(re.search(r", (\d+) mm deep$", name).group(1))  # type: ignore[union-attr]
        if rung.answer is None:
            assert "lies" in rung.fault
        else:
            assert rung.answer.foreseen.raw.height_mm == pytest.approx(deep, abs=0.51)
