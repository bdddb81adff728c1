"""Several sizes of piece from one dough: small with small, large with large, on their own trays."""

from collections.abc import Sequence
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
MOST_SIZES = 6


@dataclass(frozen=True, slots=True)
class AlsoPieces(FromOutside):
    """So many pieces of the same dough, so many times as heavy as the others, or bent to another
    form."""

    pieces: Annotated[int, Interval(ge=1, le=1000)]
    times: Annotated[float, Interval(ge=LEAST_TIMES, le=MOST_TIMES)]
    form: RopeForm | None = None


@dataclass(frozen=True, slots=True)
class Sized:
    """Pieces of a dough that differ from its others, foreseen on trays of their own, and what they
    are called."""

    answer: TrayAnswer
    piece: Portioning
    word: str


@dataclass(frozen=True, slots=True)
class Sizes:
    """The pieces of the usual size, and those that differ, in order."""

    usual: TrayAnswer
    others: tuple[Sized, ...] = ()


def foresee_sizes(basis: TrayBasis, piece: Portioning, also: Sequence[AlsoPieces]) -> Sizes:
    """Foresee a dough in its usual pieces and in some of other sizes or forms.

    Raises `Refusal` where the dough is not enough, or its pieces have but one size.
    """
    shares, others, words = 0.0, [], _words(also)
    for one, word in zip(also, words, strict=True):
        other = resized(piece if one.form is None else piece.bent(one.form), one.times, basis)
        share = _share(basis, other, one.pieces)
        shares += share
        if shares >= 1:
            raise refuse(
                "also",
                f"The dough does not give {one.pieces} pieces of those that are {word} beside all "
                "the others. Ask for fewer, or scale the dough.",
            )
        others.append(Sized(foresee_tray(basis.of(basis.batches * share), other), other, word))
    return Sizes(foresee_tray(basis.of(basis.batches * (1 - shares)), piece), tuple(others))


def _words(also: Sequence[AlsoPieces]) -> list[str]:
    """What each is called: by its form, else by its size; numbered where two are the same."""
    found: list[str] = []
    for one in also:
        plain = "large" if one.times > 1 else "small"
        if one.form is not None:
            plain = one.form if len(one.form) > 1 else one.form.upper()
        again = sum(word.split(" ")[0] == plain for word in found)
        found.append(f"{plain} {again + 1}" if again else plain)
    return found


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
