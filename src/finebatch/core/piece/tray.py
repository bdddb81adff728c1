"""The tray screen's question: this dough, portioned so, on these sheets."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from finebatch.core.formula.composition import Composition
from finebatch.core.formula.dough import Colour, Doneness, Family
from finebatch.core.heat.oven import conventional_c
from finebatch.core.measures.figures import grams
from finebatch.core.piece.effects import BakeConditions
from finebatch.core.piece.evidence import SILENT, MinutesKnown, OnCard, weigh_minutes
from finebatch.core.piece.foresee import Foreseen, Learnt, Models, foresee
from finebatch.core.piece.kinds.portioning import Made, Making, Portioning, SecondBake
from finebatch.core.piece.layout import Layout
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.rows import Footprint, Sheet
from finebatch.core.refusal import refuse

Evenness = Literal["weighed", "scooped", "spooned"]

PORTION_CV: Mapping[Evenness, float] = {"weighed": 0.03, "scooped": 0.06, "spooned": 0.12}
"""Standard deviation of hand portions over their mean mass (kitchen trials)."""

MOST_PIECES = 2000


@dataclass(frozen=True, slots=True)
class Yield:
    """Pieces, what is left over in grams (after what stays in the bowl), and pieces a tray. `made`
    are the pieces, logs, slabs or pans that are made of the dough."""

    pieces: int
    leftover_g: float
    bowl_loss_g: float
    most_on_sheet: int
    trays: tuple[int, ...]
    made: int


@dataclass(frozen=True, slots=True)
class TrayAnswer:
    """One piece foreseen (`each_g` is the raw dough of one as a baker counts it), the yield, and
    the layout of each tray (equal trays share one).

    A pan has no layout: it is its own tray. `making` is what the kind asks of the baker.
    """

    foreseen: Foreseen
    each_g: float
    yields: Yield
    footprint: Footprint
    layouts: tuple[Layout, ...]
    making: Making | None
    second: SecondBake | None

    @property
    def pieces(self) -> int:
        """Finished pieces: of logs, their slices."""
        return self.second.pieces if self.second else self.yields.pieces


@dataclass(frozen=True, slots=True)
class TrayBasis:
    """Dough, kitchen and habits that a tray rests on, whatever the piece.

    `batches` is how many times the dough is made; `card` what its card says of the first bake,
    `said_second` the shift in ln of the minutes that it says of the second; `colour` is wanted.
    """

    models: Models
    dough: Composition
    family: Family
    how: BakeConditions
    sheet: Sheet
    evenness: Evenness
    shelves: int = 1
    doneness: Doneness | None = None
    learnt: Learnt | None = None
    batches: float = 1.0
    card: OnCard = SILENT
    said_second: float | None = None
    colour: Colour | None = None

    @property
    def lot(self) -> Lot:
        """All the dough that there is: so many batches of it."""
        return Lot(self.dough.total_g * self.batches, self.dough.density_g_cm3)

    def of(self, batches: float) -> "TrayBasis":
        """The same with the dough made so many times."""
        return replace(self, batches=batches)

    def foresee(self, piece: Portioning, *, explained: bool = True) -> Foreseen:
        """One piece foreseen, with what moves its width where it is `explained`."""
        return foresee(
            self.models,
            self.dough,
            self.family,
            piece.portion(self.lot),
            self.how,
            doneness=self.doneness,
            portion_cv=PORTION_CV[self.evenness]
            if self.learnt is None
            else self.learnt.portion_cv(PORTION_CV[self.evenness]),
            shelves=self.shelves,
            learnt=self.learnt,
            card=self.card,
            colour=self.colour,
            explained=explained,
        )


def _check_count(pieces: int, piece_g: float, total_g: float) -> None:
    if pieces < 1:
        raise refuse(
            "grams",
            f"The dough is {grams(total_g, 0)}; that does not make one piece of "
            f"{grams(piece_g, 0)}.",
        )
    if pieces > MOST_PIECES:
        raise refuse(
            "grams",
            f"That makes {pieces:,} pieces; at most {MOST_PIECES:,} are laid out. Make the "
            "piece larger or the dough smaller.",
        )


def count(basis: TrayBasis, piece: Portioning, found: Foreseen) -> Made:
    """Pieces (logs, for twice-baked; pans, for a pan), grams left over, and how they are made."""
    made = piece.make(basis.lot, found)
    _check_count(made.pieces, found.raw.grams, basis.lot.total_g)
    return made


def foresee_tray(basis: TrayBasis, piece: Portioning) -> TrayAnswer:
    """Foresee the piece, count the yield and lay out every tray.

    Raises `Refusal` where there is nothing to foresee: no dough, no piece, no room on the sheet.
    """
    found = basis.foresee(piece)
    made = count(basis, piece, found)
    laid = piece.lay(basis.sheet, found, made)
    still_c = conventional_c(basis.how.oven_c, basis.how.oven_mode)
    second = piece.second(found, made.pieces, basis.sheet, still_c)
    if second is not None:
        by = basis.card.minutes_by
        weighed = weigh_minutes(second.minutes, MinutesKnown(), basis.said_second, by)
        second = replace(second, minutes=weighed.used)
    bowl = basis.lot.total_g - basis.lot.usable_g
    yields = Yield(sum(laid.trays), made.left_g, bowl, laid.most_on_sheet, laid.trays, made.pieces)
    each_g = piece.each_g(found)
    return TrayAnswer(found, each_g, yields, laid.room, laid.layouts, made.making, second)
