"""The tray's question turned around, and the ladder of sizes, with what each would give."""

from dataclasses import dataclass, replace

from finebatch.core.measures.rounding import whole_minutes
from finebatch.core.piece.kinds import AnyKind, Pan, Portioning, Rolled
from finebatch.core.piece.making import PanScored, depth_in
from finebatch.core.piece.slab import thickness_for
from finebatch.core.piece.tools import NamedPan
from finebatch.core.piece.tray import TrayAnswer, TrayBasis, foresee_tray
from finebatch.core.piece.turned import factor_for, ladder, piece_of_width, without_leftover
from finebatch.core.refusal import Refusal, refuse
from finebatch.core.tray.question import TrayQuestion


@dataclass(frozen=True, slots=True)
class Turned:
    """A portioning that answers, the dough that it needs as a factor, and what comes of it."""

    piece: AnyKind
    factor: float
    grams: float
    pieces: int
    trays: int
    leftover_g: float
    width_mm: float
    whole_minutes: int


def _pieces(found: TrayAnswer) -> int:
    return found.second.pieces if found.second else found.yields.pieces


def _grams(found: TrayAnswer) -> float:
    """Raw dough in one piece as a baker counts it: of a pan one of the scored."""
    if isinstance(found.making, PanScored):
        return found.making.piece_g
    return found.foreseen.raw.grams


def _turned(basis: TrayBasis, piece: Portioning, factor: float = 1.0) -> Turned:
    found = foresee_tray(replace(basis, batches=factor), piece)
    return Turned(
        piece,
        factor,
        _grams(found),
        _pieces(found),
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
    if width_mm is None and pieces is not None and isinstance(piece, Rolled):
        found += _rolled_to(basis, piece, pieces)
    return found


def _rolled_to(basis: TrayBasis, piece: Rolled, pieces: int) -> list[Turned]:
    """This dough rolled as thick as so many pieces allow, where it can be."""
    try:
        thick = thickness_for(piece, pieces, basis.usable_g, basis.dough.density_g_cm3)
    except Refusal:
        return []
    return [_turned(basis, replace(piece, thickness_mm=thick))]


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
    found = ladder(basis, asked.setting.piece, kitchen.scoops, kitchen.cutters, pans)
    return [
        RungFigures(
            rung.name,
            rung.piece,
            "",
            _grams(rung.answer),
            _pieces(rung.answer),
            len(rung.answer.yields.trays),
            rung.answer.foreseen.width.middle_mm,
            rung.answer.foreseen.thickness.height_mm,
            whole_minutes(rung.answer.foreseen.minutes),
        )
        if rung.answer
        else RungFigures(rung.name, rung.piece, rung.fault)
        for rung in found
    ]


def same_depth(pan: Pan, other: Pan) -> float:
    """How much of a dough made for `pan` fills `other` to the same depth."""
    return depth_in(pan, other)
