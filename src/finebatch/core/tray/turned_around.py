"""The tray's question turned around, and the ladder of sizes, with what each would give."""

from dataclasses import dataclass

from finebatch.core.measures.rounding import whole_minutes
from finebatch.core.piece.kinds.every import AnyKind
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.pans import PanBox, depth_in
from finebatch.core.piece.tools import NamedPan, Tools
from finebatch.core.piece.tray import TrayBasis, foresee_tray
from finebatch.core.piece.turned import factor_for, ladder, piece_of_width, without_leftover
from finebatch.core.refusal import refuse
from finebatch.core.tray.question import TrayQuestion


@dataclass(frozen=True, slots=True)
class Turned:
    """A portioning that answers and what it is told by beside its mass, the dough that it needs as
    a factor, and what comes of it."""

    piece: AnyKind
    said: str
    factor: float
    grams: float
    pieces: int
    trays: int
    leftover_g: float
    width_mm: float
    whole_minutes: int


def _turned(basis: TrayBasis, piece: Portioning, factor: float = 1.0) -> Turned:
    more = basis.of(factor)
    found = foresee_tray(more, piece)
    return Turned(
        piece,
        piece.told(more.lot),
        factor,
        found.each_g,
        found.pieces,
        len(found.yields.trays),
        found.yields.leftover_g,
        found.foreseen.width.middle_mm,
        whole_minutes(found.foreseen.minutes),
    )


def answers(
    basis: TrayBasis,
    piece: Portioning,
    width_mm: float | None,
    pieces: int | None,
    *,
    no_leftover: bool,
) -> list[Turned]:
    """Every answer, the nearest first. `Refusal` says what can be had instead."""
    if no_leftover:
        return [_turned(basis, sized) for sized in without_leftover(basis, piece)]
    if width_mm is None and pieces is None:
        raise refuse("width_mm", "Say how wide, how many, or that nothing shall be left over.")
    sized = piece if width_mm is None else piece_of_width(basis, piece, width_mm)
    factor = 1.0 if pieces is None else factor_for(basis, sized, pieces)
    found = [_turned(basis, sized, factor)]
    another = piece.giving(pieces, basis.lot) if width_mm is None and pieces is not None else None
    return [*found, _turned(basis, another)] if another else found


@dataclass(frozen=True, slots=True)
class RungFigures:
    """One size of the ladder; figures are None, with a reason, where it cannot be."""

    name: str
    piece: AnyKind
    fault: str
    grams: float | None = None
    pieces: int | None = None
    trays: int | None = None
    width_mm: float | None = None
    height_mm: float | None = None
    whole_minutes: int | None = None


def rungs(basis: TrayBasis, asked: TrayQuestion, pans: tuple[NamedPan, ...]) -> list[RungFigures]:
    """Each size that the kitchen has, and of `pans` those that bakers have, foreseen."""
    kitchen = asked.kitchen
    tools = Tools(kitchen.scoops, kitchen.cutters, pans)
    found = ladder(basis, asked.setting.piece, tools)
    return [
        RungFigures(
            rung.name,
            rung.piece,
            "",
            rung.answer.each_g,
            rung.answer.pieces,
            len(rung.answer.yields.trays),
            rung.answer.foreseen.width.middle_mm,
            rung.answer.foreseen.thickness.height_mm,
            whole_minutes(rung.answer.foreseen.minutes),
        )
        if rung.answer
        else RungFigures(rung.name, rung.piece, rung.fault)
        for rung in found
    ]


def same_depth(one: PanBox | Portioning, other: PanBox | Portioning) -> float:
    """How much of a dough made for one pan fills another to the same depth; `Refusal` for what is
    not baked in a pan."""
    return depth_in(_box(one), _box(other))


def _box(of: PanBox | Portioning) -> PanBox:
    box = of.pan if isinstance(of, Portioning) else of
    if box is None:
        raise refuse("pan", "This is not baked in a pan. Give the size of one.")
    return box


def shared_out(piece: Portioning, lot: Lot, pieces: int) -> Portioning:
    """The same portioning with all of the dough in so many pieces, to a tenth of a gram below."""
    return piece.taking(lot.shared_g(pieces), lot)
