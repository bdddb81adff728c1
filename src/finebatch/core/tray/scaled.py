"""A dough made so many times over, in pieces of another size than on its own tray."""

from dataclasses import replace

from finebatch.core.piece.sizes import Sizes
from finebatch.core.piece.tray import TrayAnswer
from finebatch.core.piece.turned import piece_of_width
from finebatch.core.refusal import refuse
from finebatch.core.tray.question import Ground, TrayQuestion
from finebatch.core.tray.turned_around import shared_out

LEAST_TIMES, MOST_TIMES = 0.1, 20.0


def times_over(asked: TrayQuestion, times: float) -> TrayQuestion:
    """The same with all of the dough so many times; pieces of other sizes and pans go with it. What
    its card says of minutes and width stays said of the dough as it was written."""
    setting = asked.setting
    also = tuple(
        replace(one, pieces=min(max(round(one.pieces * times), 1), 1000)) for one in setting.also
    )
    return replace(
        asked,
        formula_g={key: grams * times for key, grams in asked.formula_g.items()},
        setting=replace(setting, also=also, piece=setting.piece.times_over(times)),
    )


def in_pieces(
    asked: TrayQuestion,
    ground: Ground,
    each_g: float | None = None,
    wide_mm: float | None = None,
    share_into: int | None = None,
) -> TrayQuestion:
    """The same in pieces of so many grams each, or that bake so wide (mm), or in so many pieces.

    Raises `Refusal` for several at once, and where no such piece can be made.
    """
    given = [size for size in (each_g, wide_mm, share_into) if size is not None]
    if not given:
        return asked
    if len(given) > 1:
        raise refuse(
            "wide_mm", "Give what a piece weighs, how wide it bakes or how many it is, not both."
        )
    piece = asked.setting.piece
    if share_into is not None:
        sized = shared_out(piece, asked.lot(ground.larder), share_into)
    elif wide_mm is not None:
        sized = piece_of_width(asked.basis(ground), piece, wide_mm)
    elif each_g is not None and not piece.SAYS.unweighed:
        sized = piece.weighing(each_g, asked.lot(ground.larder))
    else:
        raise refuse("each_g", f"{piece.SAYS.unweighed} Set its size on the Tray screen.")
    return replace(asked, setting=replace(asked.setting, piece=sized))


def eaten(found: TrayAnswer) -> int:
    """How many pieces a tray's dough gives as they are eaten: slices of logs, squares of a pan."""
    each = found.making.each_gives if found.making else 1
    return found.yields.pieces * each


def eaten_of_all(found: Sizes) -> int:
    """The same of a dough in pieces of several sizes."""
    return eaten(found.usual) + sum(eaten(other.answer) for other in found.others)
