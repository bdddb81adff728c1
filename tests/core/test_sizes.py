"""One dough in several sizes of piece."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from finebatch.core.formula.composition import compose
from finebatch.core.larder.ingredient import Larder
from finebatch.core.piece.cutter import Cutter
from finebatch.core.piece.effects import BakeConditions
from finebatch.core.piece.foresee import Models
from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.kinds.pan import Pan
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.kinds.rope import Roped
from finebatch.core.piece.kinds.sliced import Sliced
from finebatch.core.piece.rows import Sheet
from finebatch.core.piece.sizes import AlsoPieces, foresee_sizes
from finebatch.core.piece.tray import TrayBasis
from finebatch.core.refusal import Refusal
from tests.chance import so_many

FORMULA = {"flour_ap": 300.0, "butter_unsalted": 180.0, "sugar_white": 150.0, "egg_whole": 50.0}

KINDS: list[Portioning] = [
    Drop(grams=25),
    Roped(grams=25, length_mm=120),
    Rolled(thickness_mm=5, cutter=Cutter("round", 55)),
    Sliced(log_diameter_mm=50, thickness_mm=7),
]


@pytest.fixture(scope="module")
def basis(larder: Larder, models: Models) -> TrayBasis:
    known = {key: grams for key, grams in FORMULA.items() if key in larder}
    assert len(known) == len(FORMULA)
    how = BakeConditions(dough_temp_c=18, oven_c=175, oven_mode="conventional", surface="parchment")
    return TrayBasis(models, compose(known, larder), "drop", how, Sheet(405, 305), "weighed")


@pytest.mark.parametrize("piece", KINDS, ids=lambda piece: piece.kind)
@pytest.mark.parametrize("times", [0.5, 2.0])
def test_both_sizes_come_from_the_one_dough(
    basis: TrayBasis, piece: Portioning, times: float
) -> None:
    alone = foresee_sizes(basis, piece, ())
    both = foresee_sizes(basis, piece, [AlsoPieces(6, times)])
    assert alone.others == ()
    [sized] = both.others
    assert sized.answer.yields.pieces >= 6
    usual, other = both.usual.foreseen.raw.grams, sized.answer.foreseen.raw.grams
    assert other == pytest.approx(times * usual, rel=0.02)
    used = usual * both.usual.yields.pieces + other * sized.answer.yields.pieces
    assert used <= basis.lot.total_g
    assert both.usual.yields.pieces < alone.usual.yields.pieces
    heavier = sized.answer.foreseen.minutes > both.usual.foreseen.minutes
    assert heavier == (times > 1) or piece.kind in ("rolled", "rope")


@settings(max_examples=so_many(25))
@given(pieces=st.integers(1, 15), times=st.floats(0.4, 2.0))
def test_just_so_many_drops_of_the_other_size(basis: TrayBasis, pieces: int, times: float) -> None:
    both = foresee_sizes(basis, Drop(grams=15), [AlsoPieces(pieces, times)])
    [sized] = both.others
    assert sized.answer.yields.pieces == pieces
    assert sum(sized.answer.yields.trays) == pieces


@pytest.mark.parametrize(
    ("piece", "also", "words"),
    [
        (Drop(grams=25), AlsoPieces(60, 2.0), "does not give 60 pieces"),
        (Pan(), AlsoPieces(4, 2.0), "one size"),
    ],
)
def test_what_cannot_be_says_what_to_do(
    basis: TrayBasis, piece: Portioning, also: AlsoPieces, words: str
) -> None:
    with pytest.raises(Refusal, match=words) as refused:
        foresee_sizes(basis, piece, [also])
    assert refused.value.faults[0].field == "also"


def test_two_batches_give_twice_the_usual_pieces_and_as_many_of_the_other(
    basis: TrayBasis,
) -> None:
    one = foresee_sizes(basis, Drop(grams=25), [AlsoPieces(6, 1.5)])
    two = foresee_sizes(replace(basis, batches=2.0), Drop(grams=25), [AlsoPieces(6, 1.5)])
    assert [sized.answer.yields.pieces for sized in (*one.others, *two.others)] == [6, 6]
    assert two.usual.yields.pieces > 2 * one.usual.yields.pieces


def test_several_forms_of_a_rope_each_have_their_own_piece_minutes_and_trays(
    basis: TrayBasis,
) -> None:
    also = [AlsoPieces(4, 1, "ring"), AlsoPieces(3, 1, "twist"), AlsoPieces(2, 1, "twist")]
    found = foresee_sizes(replace(basis, batches=2.0), Roped(25, 160, "s"), also)
    assert [sized.word for sized in found.others] == ["ring", "twist", "twist 2"]
    assert [sized.answer.yields.pieces for sized in found.others] == [4, 3, 2]
    ring, twist, _ = (sized.answer for sized in found.others)
    assert twist.foreseen.thickness.height_mm > ring.foreseen.thickness.height_mm
    assert twist.foreseen.minutes > ring.foreseen.minutes
    used = sum(
        answer.foreseen.raw.grams * answer.yields.pieces
        for answer in (found.usual, *(sized.answer for sized in found.others))
    )
    assert used <= basis.lot.total_g * 2
    with pytest.raises(Refusal, match="beside all the others"):
        foresee_sizes(basis, Roped(25, 160), [AlsoPieces(14, 1, "s"), AlsoPieces(14, 1, "bow")])
