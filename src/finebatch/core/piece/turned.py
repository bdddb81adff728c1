"""The question turned around: what piece bakes so wide, how much dough gives so many of it, and
what size leaves nothing over. And the ladder: what each size that a kitchen has would give.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

from scipy.optimize import brentq

from finebatch.core.piece.kinds import (
    Drop,
    Pan,
    Portioning,
    Rolled,
    Sliced,
    Wafer,
    with_grams,
)
from finebatch.core.piece.slab import thickness_for
from finebatch.core.piece.tools import NamedCutter, NamedPan, Scoop
from finebatch.core.piece.tray import TrayAnswer, TrayBasis, count, foresee_tray
from finebatch.core.refusal import Refusal, refuse

SMALLEST, LARGEST = 0.15, 6.0
"""How far a handle is moved to meet a wanted width, as a factor."""
MOST_FACTOR = 50.0
SLICES_MM = (4.0, 5.0, 6.0, 7.0, 8.0, 10.0, 12.0)
SLICES_DRIED_MM = (9.0, 11.0, 13.0, 15.0, 18.0, 22.0)


def _handle(piece: Portioning) -> Callable[[float], Portioning]:
    """The piece with the handle that makes it wider moved by a factor."""
    match piece:
        case Pan():
            raise refuse("width_mm", "A pan's pieces are as wide as they are scored. Score others.")
        case Sliced():
            return lambda by: replace(piece, log_diameter_mm=piece.log_diameter_mm * by)
        case Rolled():
            cutter = piece.cutter

            def cut(by: float) -> Portioning:
                area = None if cutter.area_cm2 is None else cutter.area_cm2 * by**2
                wide, tall = cutter.across_mm * by, cutter.down_mm * by
                return replace(
                    piece, cutter=replace(cutter, across_mm=wide, down_mm=tall, area_cm2=area)
                )

            return cut
        case Wafer():
            return lambda by: replace(
                piece, spread_mm=piece.spread_mm * by, grams=piece.grams * by**2
            )
        case Drop(scoop_ml=ml) if ml is not None:
            return lambda by: replace(piece, scoop_ml=ml * by)
        case _:
            return lambda by: replace(piece, grams=piece.grams * by)


def piece_of_width(basis: TrayBasis, piece: Portioning, width_mm: float) -> Portioning:
    """The same portioning with the size that bakes to `width_mm`.

    Raises `Refusal`, naming the widths that can be had, when no such piece can be made.
    """
    handle = _handle(piece)

    def width(by: float) -> float | None:
        try:
            return basis.foresee(handle(by)).width.middle_mm
        except Refusal:
            return None

    low, high = SMALLEST, LARGEST
    while low < high and width(low) is None:
        low *= 1.2
    while high > low and width(high) is None:
        high /= 1.2
    least, most = width(low), width(high)
    if least is None or most is None or not least <= width_mm <= most:
        reach = f"{least / 10:.1f} to {most / 10:.1f} cm" if least and most else "no width"
        raise refuse("width_mm", f"This dough, portioned so, bakes to {reach}. Choose within that.")
    by = brentq(lambda b: (width(b) or 0.0) - width_mm, low, high, xtol=1e-4)
    return handle(float(by))


def factor_for(basis: TrayBasis, piece: Portioning, pieces: int) -> float:
    """How much more dough than there is gives just so many pieces (to a thousandth, upwards)."""
    found = basis.foresee(piece)

    def gives(factor: float) -> int:
        try:
            number, _, making = count(replace(basis, batches=factor), piece, found)
        except Refusal:
            return 0
        per_log = getattr(making, "per_log", 1)
        per_pan = making.pieces if isinstance(piece, Pan) and making else 1  # type: ignore[union-attr]
        return number * per_log * per_pan

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
    """The nearest sizes, larger and smaller, that use the dough up.

    Rolled dough always leaves scraps: there the slab is rolled as thin as one more piece needs.
    """
    found = basis.foresee(piece)
    number, _, _ = count(basis, piece, found)
    density = basis.dough.density_g_cm3
    if isinstance(piece, Rolled):
        thickness = thickness_for(piece, number + 1, basis.usable_g, density)
        return [replace(piece, thickness_mm=thickness)]
    if isinstance(piece, Sliced):
        return _even_slices(basis, piece, number)
    return [with_grams(piece, basis.usable_g / n, density) for n in (number, number + 1)]


def _even_slices(basis: TrayBasis, piece: Sliced, number: int) -> list[Portioning]:
    """The thicknesses at which the last slice of each log ends where the trim begins."""
    _, _, making = count(basis, piece, basis.foresee(piece))
    lengths = making.lengths_mm  # type: ignore[union-attr]
    usable = lengths[0] - 2 * piece.ends_mm
    each = number // len(lengths)
    return [replace(piece, thickness_mm=usable / n) for n in (each, each + 1)]


@dataclass(frozen=True, slots=True)
class Rung:
    """One size of the ladder: its tray foreseen, or why it cannot be."""

    name: str
    piece: Portioning
    answer: TrayAnswer | None
    fault: str


def _sizes(
    piece: Portioning,
    scoops: tuple[Scoop, ...],
    cutters: tuple[NamedCutter, ...],
    pans: tuple[NamedPan, ...],
) -> list[tuple[str, Portioning]]:
    match piece:
        case Drop():
            by_ml = sorted(scoops, key=lambda s: s.ml)
            return [(f"{s.name}, {s.ml:g} ml", replace(piece, scoop_ml=s.ml)) for s in by_ml]
        case Rolled():
            return [(c.name, replace(piece, cutter=c.cutter)) for c in cutters]
        case Sliced():
            return [(f"{t:g} mm thick", replace(piece, thickness_mm=t)) for t in SLICES_MM]
        case Pan():
            return [
                (
                    p.name,
                    replace(
                        piece,
                        shape=p.pan.shape,
                        across_mm=p.pan.across_mm,
                        down_mm=p.pan.down_mm,
                        wall_mm=p.pan.wall_mm,
                    ),
                )
                for p in pans
            ]
        case Wafer():
            wide = (50.0, 60.0, 70.0, 80.0, 90.0, 100.0)
            return [
                (
                    f"spread to {w / 10:g} cm",
                    replace(piece, spread_mm=w, grams=piece.grams * (w / piece.spread_mm) ** 2),
                )
                for w in wide
            ]
        case _ if piece.kind == "twice_baked":
            return [(f"{t:g} mm slices", replace(piece, slice_mm=t)) for t in SLICES_DRIED_MM]
        case _:
            return [(f"{g:g} g", replace(piece, grams=g)) for g in (10.0, 15.0, 20.0, 25.0, 30.0)]


def ladder(
    basis: TrayBasis,
    piece: Portioning,
    scoops: tuple[Scoop, ...],
    cutters: tuple[NamedCutter, ...],
    pans: tuple[NamedPan, ...],
) -> list[Rung]:
    """What each scoop, cutter, thickness or pan of the kitchen would give, side by side."""
    rungs = []
    for name, sized in _sizes(piece, scoops, cutters, pans):
        try:
            rungs.append(Rung(name, sized, foresee_tray(basis, sized), ""))
        except Refusal as refusal:
            rungs.append(Rung(name, sized, None, refusal.faults[0].message))
    return rungs
