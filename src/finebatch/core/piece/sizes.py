"""Two sizes of piece from one dough: small with small, large with large, on their own trays."""

from dataclasses import dataclass
from typing import Annotated

from annotated_types import Interval

from finebatch.core.measures.figures import grams
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.rope_line import RopeForm
from finebatch.core.piece.tray import TrayAnswer, TrayBasis, count, foresee_tray
from finebatch.core.refusal import refuse
from finebatch.core.values import FromOutside

LEAST_TIMES, MOST_TIMES = 0.3, 3.0


@dataclass(frozen=True, slots=True)
class AlsoPieces(FromOutside):
    """So many pieces of the same dough, so many times as heavy as the others, or bent to another
    form."""

    pieces: Annotated[int, Interval(ge=1, le=1000)]
    times: Annotated[float, Interval(ge=LEAST_TIMES, le=MOST_TIMES)]
    form: RopeForm | None = None


@dataclass(frozen=True, slots=True)
class TwoSizes:
    """The pieces of the usual size, and those of the other, if there are any."""

    usual: TrayAnswer
    other: TrayAnswer | None = None
    piece: Portioning | None = None


def foresee_sizes(basis: TrayBasis, piece: Portioning, also: AlsoPieces | None) -> TwoSizes:
    """Foresee a dough in its usual pieces and in some of another size.

    Raises `Refusal` where the dough is not enough, or its pieces have but one size.
    """
    if also is None:
        return TwoSizes(foresee_tray(basis, piece))
    other = resized(piece if also.form is None else piece.bent(also.form), also.times, basis)
    share = _share(basis, other, also.pieces)
    usual = foresee_tray(basis.of(basis.batches * (1 - share)), piece)
    found = foresee_tray(basis.of(basis.batches * share), other)
    return TwoSizes(usual, found, other)


def resized(piece: Portioning, times: float, basis: TrayBasis) -> Portioning:
    """The same portioning with pieces so many times as heavy."""
    if piece.ONE_SIZE:
        raise refuse("also", "Pans, logs and wafers have one size. Take the other size away.")
    grams = basis.foresee(piece).raw.grams * times
    return piece.weighing(grams, basis.lot)


def _share(basis: TrayBasis, piece: Portioning, pieces: int) -> float:
    """The share of the dough that gives so many pieces, scraps and ends included."""
    found = basis.foresee(piece)
    share = pieces * found.raw.grams * 1.000001 / max(basis.lot.usable_g, 1e-9)
    for _ in range(MOST_STEPS):
        if share >= 1:
            break
        some = basis.of(basis.batches * share)
        if _counted(some, piece) >= pieces:
            return share
        share *= STEP
    raise refuse(
        "also",
        f"The dough does not give {pieces} pieces of {grams(found.raw.grams, 0)} and others "
        "beside. "
        "Ask for fewer, or scale the dough.",
    )


MOST_STEPS, STEP = 80, 1.01


def _counted(basis: TrayBasis, piece: Portioning) -> int:
    try:
        return count(basis, piece, basis.foresee(piece)).pieces
    except ValueError:
        return 0
