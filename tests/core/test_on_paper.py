"""A slab on paper: rolled, trimmed, scored, baked in one, cut again while it is hot."""

from dataclasses import replace

import pytest
from hypothesis import assume, given

from finebatch.core.piece.kinds.on_paper import SlabOnPaper, SlabsScored
from finebatch.core.piece.kinds.pan import Pan
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.tray import TrayAnswer, foresee_tray
from finebatch.core.piece.turned import without_leftover
from finebatch.core.refusal import Refusal
from finebatch.core.tray.from_card import Started
from finebatch.core.tray.turned_around import shared_out
from finebatch.facts import tables
from finebatch.workflow.dough.from_card import understand
from finebatch.workflow.kitchen.equipment import usual_kitchen
from tests.pieces import basis_of, on_paper

BASIS = basis_of()


def foreseen(piece: SlabOnPaper) -> TrayAnswer:
    try:
        return foresee_tray(BASIS, piece)
    except Refusal:
        assume(False)
        raise


@given(on_paper)
def test_no_dough_is_lost_and_pieces_lie_where_they_are_scored(piece: SlabOnPaper) -> None:
    found = foreseen(piece)
    making = found.making
    assert isinstance(making, SlabsScored)
    slabs = making.slabs
    wide, deep = BASIS.sheet.width_mm, BASIS.sheet.depth_mm
    assert slabs * found.foreseen.raw.grams + found.yields.leftover_g == pytest.approx(
        BASIS.lot.usable_g
    )
    assert slabs * making.rolled_g <= BASIS.lot.usable_g + 1e-6
    assert sum(found.yields.trays) == slabs * piece.pieces == found.yields.pieces
    for layout, pieces in zip(found.layouts, found.yields.trays, strict=True):
        assert len(layout.centres) == sum(layout.rows) == pieces
        # The slabs of a sheet keep out of its edge and of each other; pieces of one touch.
        across, down = found.footprint.across_mm, found.footprint.down_mm
        near = min(across, down)
        assert layout.nearest_mm == pytest.approx(near, rel=0.15)
        assert all(0 < x < wide and 0 < y < deep for x, y in layout.centres)


def test_its_edges_run_out_as_a_disc_as_thick_and_no_more_for_a_larger_slab() -> None:
    def grown(across: float, down: float) -> float:
        found = foresee_tray(BASIS.of(3), SlabOnPaper(across, down, 8)).foreseen
        return found.width.middle_mm - across

    assert 2 < grown(200, 200) < 20
    assert grown(260, 260) == pytest.approx(grown(200, 200), rel=0.02)
    thin = foresee_tray(BASIS.of(3), SlabOnPaper(200, 200, 4)).foreseen.width.middle_mm
    assert thin - 200 < grown(200, 200)


def test_it_bakes_longer_than_what_is_cut_and_less_than_what_a_pan_holds() -> None:
    slab = foresee_tray(BASIS.of(2), SlabOnPaper(200, 280, 10)).foreseen.minutes
    cut = foresee_tray(BASIS.of(2), Rolled(thickness_mm=10)).foreseen.minutes
    pan = foresee_tray(
        BASIS.of(2), Pan("rectangle", 200, 280, 40, thickness_mm=10)
    ).foreseen.minutes
    assert cut < slab < pan


def test_all_of_the_dough_goes_into_so_many_slabs_trimmings_and_all() -> None:
    for slabs in (1, 2):
        piece = shared_out(SlabOnPaper(160, 200), BASIS.lot, slabs)
        making = foresee_tray(BASIS, piece).making
        assert isinstance(making, SlabsScored)
        assert (making.slabs, round(slabs * making.rolled_g)) == (slabs, round(BASIS.lot.usable_g))
    for piece in without_leftover(BASIS, SlabOnPaper(160, 200, 8)):
        left = foresee_tray(BASIS, piece)
        assert left.yields.leftover_g == pytest.approx(left.yields.made * left.making.trimmed_g)  # type: ignore[union-attr]


def test_part_of_a_slab_is_not_baked() -> None:
    piece = SlabOnPaper(180, 240, 4)
    found = foresee_tray(BASIS, piece)
    shared = piece.share(BASIS.sheet, found.foreseen, piece.pieces)
    assert shared.trays == (24,)
    with pytest.raises(Refusal, match="baked whole: take 24 pieces"):
        piece.share(BASIS.sheet, found.foreseen, 10)


def test_too_little_dough_and_too_narrow_pieces_are_refused_with_what_to_do() -> None:
    with pytest.raises(Refusal, match="Roll it thinner or smaller"):
        foresee_tray(BASIS.of(0.3), SlabOnPaper(300, 300, 12))
    with pytest.raises(Refusal, match="Score fewer"):
        foresee_tray(BASIS, SlabOnPaper(160, 200, 8, scored_across=20))
    with pytest.raises(Refusal, match="Score others"):
        SlabOnPaper().wider(1.1)


CARD = """Oat and rye fingers
300 g plain flour
100 g caster sugar
200 g butter

Rub the butter in and bring it together.
Roll out on baking paper to a rectangle of 20 x 28 cm, {thick} thick{trim}.
Score into 24 fingers and prick each with a fork.
Bake at 160 C for 28 minutes, then cut along the marks while hot.
"""


def begun_of(text: str) -> Started:
    return understand(text, tables.reader(), usual_kitchen()).begun


@pytest.mark.parametrize(
    ("thick", "trim", "said"), [("8 mm", ", and trim the edges", True), ("2 cm", "", False)]
)
def test_a_card_that_scores_its_rectangle_is_a_slab(thick: str, trim: str, said: bool) -> None:
    begun = begun_of(CARD.format(thick=thick, trim=trim))
    piece = begun.setting.piece
    assert isinstance(piece, SlabOnPaper)
    assert (piece.across_mm, piece.down_mm, piece.pieces) == (200, 280, 24)
    assert piece.trim_mm == (5 if trim else 0)
    assert ("piece.thickness_mm" in begun.said) is said
    # All of the dough is in it, whatever its thickness comes to.
    assert 8 < piece.thickness_mm < 10
    assert begun.setting.chill_min == 0


@pytest.mark.parametrize(
    "change",
    [
        ("Score into 24 fingers and prick each with a fork.\n", "Cut out rounds of 5 cm.\n"),
        ("on baking paper to a rectangle of 20 x 28 cm, {thick} thick", "into a 20 x 28 cm tin"),
    ],
)
def test_what_is_cut_out_or_in_a_tin_is_none(change: tuple[str, str]) -> None:
    text = CARD.replace(*change).replace(", then cut along the marks while hot", "")
    begun = begun_of(text.format(thick="8 mm", trim=""))
    assert not isinstance(begun.setting.piece, SlabOnPaper)


def test_its_template_is_the_slab_to_roll_with_its_scores() -> None:
    piece = SlabOnPaper(200, 280, 6, trim_mm=10)
    drawn = piece.slab("Fingers", foresee_tray(BASIS, piece).making)
    assert (drawn.across_mm, drawn.down_mm, len(drawn.marks)) == (220, 300, 24)
    assert min(mark.x_mm - mark.across_mm / 2 for mark in drawn.marks) == pytest.approx(10)
    assert replace(piece, trim_mm=0).rolled_mm == (200, 280)
