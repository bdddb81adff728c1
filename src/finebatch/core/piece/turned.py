"""The question turned around: what piece bakes so wide, how much dough gives so many of it, and
what size leaves nothing over. And the ladder: what each size that a kitchen has would give.
"""

from dataclasses import dataclass

from finebatch.core.measures.figures import length_between
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.tools import Tools
from finebatch.core.piece.tray import TrayAnswer, TrayBasis, count, foresee_tray
from finebatch.core.refusal import Refusal, refuse

SMALLEST, LARGEST = 0.15, 6.0
"""How far a handle is moved to meet a wanted width, as a factor."""
MOST_FACTOR = 50.0


def piece_of_width(basis: TrayBasis, piece: Portioning, width_mm: float) -> Portioning:
    """The same portioning with the size that bakes to `width_mm`.

    Raises `Refusal`, naming the widths that can be had, when no such piece can be made.
    """
    piece.wider(1.0)  # refused where nothing makes it wider

    def width(by: float) -> float | None:
        try:
            return basis.foresee(piece.wider(by)).width.middle_mm
        except Refusal:
            return None

    low, high = SMALLEST, LARGEST
    while low < high and width(low) is None:
        low *= 1.2
    while high > low and width(high) is None:
        high /= 1.2
    least, most = width(low), width(high)
    if least is None or most is None or not least <= width_mm <= most:
        reach = length_between(least, most) if least and most else "no width"
        raise refuse("width_mm", f"This dough, portioned so, bakes to {reach}. Choose within that.")
    from scipy.optimize import brentq  # it takes time to load

    by = brentq(lambda b: (width(b) or 0.0) - width_mm, low, high, xtol=1e-4)
    return piece.wider(float(by))


def factor_for(basis: TrayBasis, piece: Portioning, pieces: int) -> float:
    """How much more dough than there is gives just so many pieces (to a thousandth, upwards)."""
    piece.more_gives_more()
    found = basis.foresee(piece)

    def gives(factor: float) -> int:
        try:
            made = count(basis.of(factor), piece, found)
        except Refusal:
            return 0
        return made.pieces * (made.making.each_gives if made.making else 1)

    high = 1.0
    while gives(high) < pieces:
        high *= 2
        if high > MOST_FACTOR:
            raise refuse("pieces", f"That is over {MOST_FACTOR:.0f} times this dough.")
    low = 0.0
    while high - low > 0.0005:
        middle = (low + high) / 2
        low, high = (low, middle) if gives(middle) >= pieces else (middle, high)
    return high


def without_leftover(basis: TrayBasis, piece: Portioning) -> list[Portioning]:
    """The nearest sizes, larger and smaller, that use the dough up."""
    pieces = count(basis, piece, basis.foresee(piece)).pieces
    return [*piece.without_leftover(basis.lot, pieces)]


@dataclass(frozen=True, slots=True)
class Rung:
    """One size of the ladder: its tray foreseen, or why it cannot be."""

    name: str
    piece: Portioning
    answer: TrayAnswer | None
    fault: str


def ladder(basis: TrayBasis, piece: Portioning, tools: Tools) -> list[Rung]:
    """What each scoop, cutter, thickness or pan of the kitchen would give, side by side."""
    rungs = []
    for name, sized in piece.sizes(tools, basis.lot):
        try:
            rungs.append(Rung(name, sized, foresee_tray(basis, sized), ""))
        except Refusal as refusal:
            rungs.append(Rung(name, sized, None, refusal.faults[0].message))
    return rungs
