"""What a card says of its pieces, as a portioning.

The usual portioning holds wherever the card is silent, or says what no hand would make.
"""

import math
from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any

from finebatch.core.formula.card_says import CardSays
from finebatch.core.formula.card_sizes import CutterOutline
from finebatch.core.piece.cutter import Cutter, CutterShape
from finebatch.core.piece.kinds.drop import HEAPED, Drop
from finebatch.core.piece.kinds.filled_pan import FilledPan
from finebatch.core.piece.kinds.on_paper import SlabOnPaper
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.kinds.sliced import Sliced
from finebatch.core.piece.kinds.twice_baked import TwiceBaked
from finebatch.core.piece.kinds.wafer import Wafer
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.pans import PanShape
from finebatch.core.refusal import Refusal
from finebatch.core.values import within

SMALLEST_PIECE_G, LARGEST_PIECE_G = 2.0, 400.0
"""No dropped piece is smaller or larger: a yield that says so is of something else."""

_OUTLINED: Mapping[CutterOutline, Cutter] = {
    "hexagon": Cutter("hexagon", 60, 69),
    "star": Cutter("star", 70, 67),
    "heart": Cutter("heart", 60, 57),
    "leaf": Cutter("leaf", 40, 80),
}
"""Usual cutters of the outlines that a card may name (as kitchens have them)."""

SPOON_SD, YIELD_SD, SAME_PIECE = 0.25, 0.10, 2.0
"""How far, in ln of mass, a spoonful is from a level one and a card's count from what its dough
gives (household practice); farther apart than this many times they are not of the same piece."""

TRIMMED_MM = 5.0
"""What is cut off at each side of a slab that the card has trimmed (household practice)."""
SAID_MM = 1.0
"""A thickness within this is the one that the card says."""


def piece_of(says: CardSays, usual: Portioning, lot: Lot | None) -> tuple[Portioning, list[str]]:
    """The portioning as the card says it, and which of its fields the card has said; `lot` is the
    dough, None while that is not known."""
    make = _WAYS.get(usual.kind, _as_usual)
    if says.pan_mm is not None:
        make = _in_pan
    elif says.slab_mm is not None:
        make = _on_paper
    elif says.shaped_hot and usual.kind == Drop().kind:
        make = _wafer
    piece, said = make(says, usual, lot)
    if lot is not None and said:
        try:
            piece.portion(lot)
        except Refusal:
            return usual, []
    return piece, said


_Way = Callable[[CardSays, Portioning, Lot | None], tuple[Portioning, list[str]]]


def _as_usual(_says: CardSays, usual: Portioning, _lot: Lot | None) -> tuple[Portioning, list[str]]:
    return usual, []


def _over(usual: Any, fields: dict[str, Any]) -> tuple[Any, list[str]]:
    known = within(type(usual), fields)
    return replace(usual, **known), list(known)


def _in_pan(says: CardSays, usual: Portioning, lot: Lot | None) -> tuple[Portioning, list[str]]:
    """Pressed in the card's pan, scored in as many as it is said to make."""
    across, down = says.pan_mm, says.pan_down_mm
    shape: PanShape = (
        "round" if says.pan_round else "rectangle" if down not in (None, across) else "square"
    )
    scored: dict[str, Any] = {}
    if says.pieces is not None and says.pan_round:
        scored["wedges"] = says.pieces
    elif says.pieces is not None:
        scored = _grid(says.pieces)
    sizes = {"across_mm": across, "down_mm": down or across}
    if len(within(FilledPan, sizes)) < len(sizes):
        return _as_usual(says, usual, lot)
    return _over(replace(FilledPan(), shape=shape), {**sizes, **scored})


def _grid(pieces: int) -> dict[str, int]:
    """So many pieces in a grid as square as it can be, fewer across than down."""
    rows = max(n for n in range(1, math.isqrt(pieces) + 1) if pieces % n == 0)
    return {"scored_across": rows, "scored_down": pieces // rows}


def _on_paper(says: CardSays, usual: Portioning, lot: Lot | None) -> tuple[Portioning, list[str]]:
    """Rolled to the card's rectangle; how thick it comes out is what the dough gives."""
    across, down = says.slab_mm, says.slab_down_mm
    found: dict[str, Any] = {
        "across_mm": across,
        "down_mm": down,
        "thickness_mm": says.thickness_mm,
    }
    if says.pieces is not None:
        found |= _grid(says.pieces)
    piece, said = _over(SlabOnPaper(trim_mm=TRIMMED_MM if says.trimmed else 0.0), found)
    if not {"across_mm", "down_mm"} <= {*said}:
        return _as_usual(says, usual, lot)
    if lot is not None:
        shared = piece.sharing(lot)
        if abs(shared.thickness_mm - piece.thickness_mm) > SAID_MM and "thickness_mm" in said:
            said.remove("thickness_mm")
        piece = shared
    return piece, said


def _dropped(says: CardSays, usual: Portioning, lot: Lot | None) -> tuple[Portioning, list[str]]:
    """By the mass, spoon or ball that the card says, else (``yield``) by how many it makes; what
    comes off a spoon is put together with the yield."""
    found: dict[str, Any] = {}
    by_yield = False
    spooned_g = _spooned_g(says, lot)
    if says.piece_g is not None:
        found["grams"] = says.piece_g
    elif spooned_g is not None:
        found["grams"], by_yield = spooned_g, True
    elif says.spoon_ml is not None:
        found["scoop_ml"], found["heaped"] = says.spoon_ml, says.heaped
        if lot is not None:
            found["grams"] = round(says.spoon_ml * lot.density_g_cm3, 1)
    elif says.ball_mm is not None and lot is not None and not (says.ball_about and says.pieces):
        found["ball_mm"] = says.ball_mm
    elif says.pieces is not None and lot is not None:
        found["grams"] = lot.shared_g(says.pieces)
        by_yield = True
    if not SMALLEST_PIECE_G <= found.get("grams", SMALLEST_PIECE_G) <= LARGEST_PIECE_G:
        found.clear()
    if says.shape is not None:
        found["shape"] = says.shape
    if says.thickness_mm is not None and says.shape in (None, "pressed"):
        found["shape"], found["press_mm"] = "pressed", says.thickness_mm
    piece, said = _over(usual, found)
    return piece, ["yield" if by_yield and name == "grams" else name for name in said]


def _spooned_g(says: CardSays, lot: Lot | None) -> float | None:
    """The mass (g) of a piece that comes off a spoon, by spoon and yield, each as sure as it is;
    None where the card does not say both, or they are not of the same piece."""
    if not says.by_spoon or says.spoon_ml is None or says.pieces is None or lot is None:
        return None
    spoon_g = says.spoon_ml * lot.density_g_cm3 * (HEAPED if says.heaped else 1.0)
    shared_g = lot.shared_g(says.pieces)
    if not spoon_g / SAME_PIECE <= shared_g <= spoon_g * SAME_PIECE or shared_g <= 0:
        return None
    apart = math.log(shared_g / spoon_g)
    share = SPOON_SD**2 / (SPOON_SD**2 + YIELD_SD**2)
    return round(spoon_g * math.exp(share * apart), 1)


def _wafer(says: CardSays, _usual: Portioning, lot: Lot | None) -> tuple[Portioning, list[str]]:
    """Spread flat and shaped while it is hot."""
    found: dict[str, Any] = {"grams": says.spread_g or says.piece_g, "spread_mm": says.spread_mm}
    by_yield = False
    if found["grams"] is None and lot is not None:
        spoon_ml = says.spread_ml or says.spoon_ml
        if spoon_ml is not None:
            found["grams"] = round(spoon_ml * lot.density_g_cm3, 1)
        elif says.pieces is not None:
            found["grams"], by_yield = lot.shared_g(says.pieces), True
    piece, said = _over(Wafer(), found)
    return piece, ["yield" if by_yield and name == "grams" else name for name in said]


def _rolled(says: CardSays, usual: Portioning, lot: Lot | None) -> tuple[Portioning, list[str]]:
    found: dict[str, Any] = {
        "thickness_mm": says.thickness_mm or says.slice_mm,
        "slab_across_mm": says.rolled_mm,
        "slab_down_mm": says.rolled_down_mm,
    }
    piece, said = _over(usual if isinstance(usual, Rolled) else Rolled(), found)
    asked = piece.asked_mm if isinstance(piece, Rolled) else None
    if asked is not None and found["thickness_mm"] is None and lot is not None:
        # All of the dough goes into the rectangle, and so it is so thick.
        thick = lot.usable_mm3 / (asked[0] * asked[1])
        piece = replace(piece, **within(Rolled, {"thickness_mm": math.floor(10 * thick) / 10}))
    down = says.cutter_down_mm or says.cutter_mm
    if says.cutter_outline is not None:
        usual_cutter = _OUTLINED[says.cutter_outline]
        times = 1.0 if says.cutter_mm is None else says.cutter_mm / usual_cutter.across_mm
        down = says.cutter_down_mm or times * usual_cutter.down_mm
        across = says.cutter_mm or usual_cutter.across_mm
        sizes = within(Cutter, {"across_mm": across, "down_mm": down})
        if len(sizes) == 2:
            return replace(piece, cutter=Cutter(usual_cutter.shape, **sizes)), [*said, "cutter"]
    sizes = within(Cutter, {"across_mm": says.cutter_mm, "down_mm": down})
    if len(sizes) == 2:
        shape: CutterShape = "square" if says.square_cutter else "round"
        if says.cutter_down_mm is not None:
            shape = "rectangle"
        piece, said = replace(piece, cutter=Cutter(shape, **sizes)), [*said, "cutter"]
    return piece, said


def _sliced(says: CardSays, usual: Portioning, lot: Lot | None) -> tuple[Portioning, list[str]]:
    if says.cutter_mm is not None and says.log_mm is None and says.slice_mm is None:
        return _rolled(says, Rolled(), lot)
    return _over(
        usual, {"log_diameter_mm": says.log_mm, "thickness_mm": says.slice_mm or says.thickness_mm}
    )


def _twice_baked(
    says: CardSays, usual: Portioning, lot: Lot | None
) -> tuple[Portioning, list[str]]:
    found: dict[str, Any] = {
        "length_mm": says.log_length_mm,
        "width_mm": says.log_mm,
        "slice_mm": says.slice_mm or says.thickness_mm,
    }
    if says.logs and lot is not None:
        found["grams"] = lot.shared_g(says.logs)
    return _over(usual, found)


_WAYS: dict[str, _Way] = {
    Drop().kind: _dropped,
    Rolled().kind: _rolled,
    Sliced().kind: _sliced,
    TwiceBaked().kind: _twice_baked,
}
