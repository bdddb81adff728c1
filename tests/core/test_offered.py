"""The kinds as they are offered: what is told of each can be set, and nothing is left untold."""

from dataclasses import fields

import pytest

from finebatch.core.piece.cutter import Cutter
from finebatch.core.piece.kinds.every import KindShown, offered, over_usual
from finebatch.core.piece.kinds.portioning import at, moved
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.lot import Lot

SAID_BY_A_TOOL = {
    "scoop": {"scoop_ml", "heaped"},
    "cutter": {"cutter"},
    "pan": {"shape", "across_mm", "down_mm", "wall_mm"},
}


@pytest.mark.parametrize("kind", offered(), ids=lambda k: k.kind)
def test_every_field_of_a_kind_has_a_handle_or_is_asked_for(kind: KindShown) -> None:
    reached = {handle.field.split(".")[0] for handle in kind.handles}
    for asked in kind.asks:
        reached |= SAID_BY_A_TOOL.get(asked.ask.shown_as, {asked.ask.field})
    assert reached - {"evenness"} == {f.name for f in fields(kind.usual)} - {"kind"}  # type: ignore[arg-type]


@pytest.mark.parametrize("kind", offered(), ids=lambda k: k.kind)
def test_what_a_kind_starts_with_can_be_made_and_stands_on_its_rulers(kind: KindShown) -> None:
    assert kind.usual.raw(Lot(1000, 1.25)).grams > 0
    for handle in kind.handles:
        low, high = handle.range
        figure = at(kind.usual, handle.field)
        assert low <= figure <= high
        assert at(moved(kind.usual, handle, low / figure), handle.field) == pytest.approx(low)
    for asked in kind.asks:
        if asked.ask.shown_as == "count":
            assert asked.least is not None and asked.most is not None
            assert asked.least <= at(kind.usual, asked.ask.field) <= asked.most
        if asked.ask.shown_as == "choice":
            values = [way.value for way in asked.ask.ways]
            assert at(kind.usual, asked.ask.field) in values


def test_a_cutter_keeps_its_outline_when_its_handle_is_moved() -> None:
    piece = Rolled(cutter=Cutter("own", 48.0, 82.0, 26.0))
    twice = at(moved(piece, Rolled.HANDLES[0], 2), "cutter")
    assert (twice.across_mm, twice.down_mm, twice.area_cm2) == (96, 164, 104)


def test_what_is_told_stands_in_place_of_what_is_usual() -> None:
    told = over_usual({"kind": "rope", "grams": 31.0})
    assert (told["grams"], told["length_mm"]) == (31.0, 140.0)
