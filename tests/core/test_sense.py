"""Physical sense: what must hold of every prediction, whatever the dough, piece and oven."""

import math
from dataclasses import replace

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.kinds.filled_pan import FilledPan
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.kinds.sliced import Sliced
from finebatch.core.piece.kinds.twice_baked import SlicesDried
from finebatch.core.piece.lot import BOWL_LOSS
from finebatch.core.piece.tray import TrayAnswer, foresee_tray
from finebatch.core.refusal import Refusal
from tests.chance import so_many
from tests.pieces import HOW, basis_of, cutters, dough_of, portionings

BASIS = basis_of()


def answer(piece: Portioning) -> TrayAnswer:
    """The tray; examples that no kitchen would make are passed over."""
    try:
        return foresee_tray(BASIS, piece)
    except Refusal:
        assume(False)
        raise


@given(portionings)
def test_the_yield_is_the_dough(piece: Portioning) -> None:
    found = answer(piece)
    whole, yields = BASIS.dough.total_g, found.yields
    assert yields.bowl_loss_g == pytest.approx(BOWL_LOSS * whole)
    assert yields.leftover_g >= -1e-6
    if isinstance(piece, Rolled):
        return  # bench flour comes to it; its own test weighs it
    raw = found.foreseen.raw.grams
    assert yields.made * raw + yields.leftover_g + yields.bowl_loss_g == pytest.approx(whole)


@given(portionings)
def test_every_piece_is_on_a_tray_and_every_tray_as_full_as_the_next(piece: Portioning) -> None:
    yields = answer(piece).yields
    assert sum(yields.trays) == yields.pieces
    assert max(yields.trays) <= yields.most_on_sheet
    assert max(yields.trays) - min(yields.trays) <= 1


@given(portionings)
def test_a_piece_never_bakes_smaller_than_it_was_and_loses_mass(piece: Portioning) -> None:
    found = answer(piece).foreseen
    assert found.width.middle_mm >= found.raw.across_mm - 1e-9
    assert found.width.low_mm <= found.width.middle_mm <= found.width.high_mm
    assert 0.8 * found.raw.grams < found.thickness.baked_g < found.raw.grams
    assert found.thickness.height_mm > 0
    assert found.minutes > 1


@given(st.floats(8, 120), st.floats(1, 2.5))
def test_more_dough_is_never_smaller(grams: float, more: float) -> None:
    small, large = (BASIS.foresee(Drop(g)) for g in (grams, grams * more))
    assert large.width.middle_mm >= small.width.middle_mm - 1e-9
    assert large.thickness.baked_g >= small.thickness.baked_g
    assert large.minutes >= small.minutes - 1e-9


@given(cutters, st.floats(3, 9), st.floats(1, 1.6))
def test_a_thicker_cut_is_never_narrower_nor_sooner_done(
    cutter: object, thick: float, more: float
) -> None:
    thin, fat = (
        BASIS.foresee(Rolled(t, cutter))
        for t in (thick, thick * more)  # type: ignore[arg-type]
    )
    assert fat.width.middle_mm >= thin.width.middle_mm - 1e-9
    assert fat.minutes >= thin.minutes - 1e-9


@given(st.floats(-18, 30), st.floats(-18, 30), st.floats(15, 80))
def test_colder_dough_is_never_wider_and_never_sooner_done(
    one: float, other: float, grams: float
) -> None:
    cold, warm = sorted((one, other))
    first, second = (
        basis_of(how=replace(HOW, dough_temp_c=c)).foresee(Drop(grams)) for c in (cold, warm)
    )
    assert first.width.middle_mm <= second.width.middle_mm + 1e-9
    assert first.minutes >= second.minutes - 1e-9


@given(st.floats(0, 250), st.floats(10, 150), st.floats(15, 80))
def test_a_more_floury_dough_is_never_wider(floury: float, more: float, grams: float) -> None:
    less, greater = (
        basis_of(dough_of({"flour_ap": 500 + add})).foresee(Drop(grams))
        for add in (floury, floury + more)
    )
    assert greater.width.middle_mm <= less.width.middle_mm + 1e-9


@given(st.floats(0, 150), st.floats(10, 100))
def test_more_sugar_is_never_narrower(sweet: float, more: float) -> None:
    less, greater = (
        basis_of(dough_of({"sugar_white": 200 + add})).foresee(Drop(30))
        for add in (sweet, sweet + more)
    )
    assert greater.width.middle_mm >= less.width.middle_mm - 1e-9


@given(st.floats(0, 300), st.floats(20, 300))
def test_pieces_hold_a_dough_back(chips: float, more: float) -> None:
    less, greater = (
        basis_of(dough_of({"chocolate_chips": add})).foresee(Drop(30)).width
        for add in (chips + 1, chips + more)
    )
    # A piece of the same mass with more chips in it holds less paste.
    assert greater.middle_mm <= less.middle_mm + 0.5


@given(st.floats(130, 230), st.floats(5, 40))
def test_a_hotter_oven_is_never_slower(oven: float, more: float) -> None:
    cool, hot = (
        basis_of(how=replace(HOW, oven_c=c)).foresee(Drop(30)).minutes for c in (oven, oven + more)
    )
    assert hot <= cool


@given(st.floats(35, 80), st.floats(3, 10))
def test_a_cold_shortbread_slice_stays_near_its_size(across: float, thick: float) -> None:
    dough = dough_of({"egg_whole": 0, "baking_soda": 0, "sugar_white": 160, "butter_unsalted": 320})
    basis = basis_of(dough, replace(HOW, dough_temp_c=5, oven_c=160), "shortbread")
    found = basis.foresee(Sliced(across, thick))
    assert across <= found.width.middle_mm <= 1.25 * across


@settings(max_examples=so_many(40))
@given(portionings, st.floats(0.7, 1.4))
def test_another_mass_keeps_the_rest_of_the_setting(piece: Portioning, by: float) -> None:
    grams = answer(piece).foreseen.raw.grams
    try:
        other = piece.weighing(grams * by, BASIS.lot)
        found = BASIS.foresee(other)
    except Refusal:
        return
    # A pan takes all of the dough at most.
    most = BASIS.lot.usable_g / other.pans if isinstance(other, FilledPan) else math.inf
    assert found.raw.grams == pytest.approx(min(grams * by, most))
    assert other.kind == piece.kind


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"flour_ap": 0.0, "egg_whole": 30.0}, "holds a piece together"),
        ({"water": 700.0}, "a batter"),
    ],
)
def test_what_cannot_be_foreseen_says_so(change: dict[str, float], words: str) -> None:
    with pytest.raises(Refusal, match=words):
        basis_of(dough_of(change)).foresee(Drop(30))


UNUSUAL = {
    "flourless": {"peanut_butter": 250.0, "sugar_white": 200.0, "egg_whole": 50.0},
    "cocoa and white": {"sugar_icing": 340.0, "cocoa": 70.0, "egg_white": 100.0, "walnuts": 200.0},
    "almond": {"flour_almond": 200.0, "sugar_white": 180.0, "egg_white": 70.0},
    "coconut": {"coconut_flaked": 200.0, "sugar_white": 130.0, "egg_white": 95.0},
    "sweetener": {"flour_ap": 280.0, "butter_unsalted": 227.0, "erythritol": 200.0},
    "candy": {
        "flour_ap": 280.0,
        "butter_unsalted": 227.0,
        "sugar_white": 300.0,
        "toffee_bits": 225.0,
    },
    "oil": {"flour_ap": 250.0, "oil_neutral": 165.0, "sugar_white": 250.0, "egg_whole": 50.0},
}


@pytest.mark.parametrize("name", UNUSUAL)
def test_unusual_doughs_are_foreseen_with_a_wider_band(name: str) -> None:
    from finebatch.core.formula.composition import compose
    from finebatch.facts import tables

    found = basis_of(compose(UNUSUAL[name], tables.larder())).foresee(Drop(25)).width
    plain = basis_of().foresee(Drop(25)).width
    assert 30 < found.middle_mm < 110
    assert found.high_mm / found.low_mm > plain.high_mm / plain.low_mm


@given(st.floats(0, 60), st.floats(8, 20))
def test_slices_of_a_log_lose_nothing(lean: float, slice_mm: float) -> None:
    from finebatch.core.piece.kinds.twice_baked import TwiceBaked

    piece = TwiceBaked(350, 300, 55, slice_mm, lean)
    found = answer(piece)
    assert isinstance(found.making, SlicesDried)
    assert found.second is not None
    cut = found.making
    baked = found.foreseen.thickness.baked_g
    assert cut.per_log * cut.slice_g + cut.lost_g == pytest.approx(baked)
    assert found.second.pieces == cut.per_log * found.yields.pieces
    assert sum(found.second.trays) == found.second.pieces
    # Both bakes together take the usual 18 to 25 % off, of a dough with little water nearly all.
    lost = 1 - cut.dried_g / cut.slice_g * baked / found.foreseen.raw.grams
    water = BASIS.dough.water_g / BASIS.dough.total_g
    assert min(0.18, 0.9 * water) <= lost <= min(0.25, water)
