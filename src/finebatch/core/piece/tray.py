"""The tray screen's question: this dough in pieces of that mass, on these sheets."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from finebatch.core.formula.composition import Composition
from finebatch.core.formula.dough import Family
from finebatch.core.heat.minutes import Doneness
from finebatch.core.piece.effects import BakeConditions
from finebatch.core.piece.foresee import Foreseen, Learnt, Models, foresee
from finebatch.core.piece.layout import Footprint, Layout, Sheet, capacity, lay_out, spread_evenly
from finebatch.core.piece.portion import (
    CutDisc,
    Log,
    LogSlice,
    MassPortion,
    Portion,
    disc_diameter_mm,
    disc_thickness_mm,
)
from finebatch.core.refusal import refuse

Evenness = Literal["weighed", "scooped", "spooned"]

PORTION_CV: Mapping[Evenness, float] = {"weighed": 0.03, "scooped": 0.06, "spooned": 0.12}
"""Standard deviation of hand portions over their mean mass (kitchen trials)."""

BOWL_LOSS = 0.02
"""Share of the dough that stays on bowl and spoon (usual 1 to 3 %)."""

MOST_PIECES = 2000


@dataclass(frozen=True, slots=True)
class PieceSetting:
    """How a family's piece follows from its mass: one fixed measure beside it, in mm.

    For rolled dough the thickness of the slab, for shortbread the diameter of the log, for a
    twice-baked log its length and raw width.
    """

    grams: float
    thickness_mm: float = 6.0
    log_diameter_mm: float = 50.0
    log_length_mm: float = 300.0
    log_width_mm: float = 55.0

    def portion(self, family: Family, density_g_cm3: float) -> Portion:
        """The portion that this mass makes in that family."""
        volume = max(self.grams, 0.001) / density_g_cm3
        match family:
            case "drop":
                return MassPortion(self.grams)
            case "rolled":
                return CutDisc(disc_diameter_mm(volume, self.thickness_mm), self.thickness_mm)
            case "shortbread":
                thickness = disc_thickness_mm(volume, self.log_diameter_mm)
                return LogSlice(self.log_diameter_mm, thickness)
            case "twice_baked":
                return Log(self.log_length_mm, self.log_width_mm, self.grams)


@dataclass(frozen=True, slots=True)
class Yield:
    """Pieces, what is left over in grams (after what stays in the bowl), and pieces a tray."""

    pieces: int
    leftover_g: float
    bowl_loss_g: float
    most_on_sheet: int
    trays: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class TrayAnswer:
    """One piece foreseen, the yield, and the layout of each tray (equal trays share one)."""

    foreseen: Foreseen
    yields: Yield
    footprint: Footprint
    layouts: tuple[Layout, ...]


def footprint(found: Foreseen) -> Footprint:
    """Room for one piece up to the upper edge of its band; a log grows at both ends as well."""
    wide = found.width.high_mm
    if found.raw.length_mm is None:
        return Footprint(wide, wide, is_round=True)
    grows = wide - found.raw.width_mm
    return Footprint(found.raw.length_mm + 0.5 * grows, wide, is_round=False)


def count_pieces(total_g: float, piece_g: float) -> tuple[int, float]:
    """Whole pieces of that mass and the grams left over, once the bowl has kept its share."""
    usable = total_g * (1 - BOWL_LOSS)
    pieces = int(usable / piece_g + 1e-9)
    return pieces, max(usable - pieces * piece_g, 0.0)


def foresee_tray(
    models: Models,
    dough: Composition,
    family: Family,
    piece: PieceSetting,
    how: BakeConditions,
    sheet: Sheet,
    *,
    evenness: Evenness,
    shelves: int = 1,
    doneness: Doneness | None = None,
    learnt: Learnt | None = None,
) -> TrayAnswer:
    """Foresee the piece, count the yield and lay out every tray.

    Raises `Refusal` where there is nothing to foresee: no dough, no piece, no room on the sheet.
    """
    found = foresee(
        models, dough, family, piece.portion(family, dough.density_g_cm3), how,
        doneness=doneness, portion_cv=PORTION_CV[evenness], shelves=shelves, learnt=learnt,
    )  # fmt: skip
    pieces, leftover = count_pieces(dough.total_g, piece.grams)
    if pieces < 1:
        raise refuse(
            "grams",
            f"The dough is {dough.total_g:.0f} g; that does not make one piece of "
            f"{piece.grams:.0f} g.",
        )
    if pieces > MOST_PIECES:
        raise refuse(
            "grams",
            f"That makes {pieces:,} pieces; at most {MOST_PIECES:,} are laid out. Make the "
            "piece larger or the dough smaller.",
        )
    foot = footprint(found)
    most = capacity(sheet, foot)
    trays = spread_evenly(pieces, most)
    by_count = {n: lay_out(sheet, foot, n) for n in set(trays)}
    return TrayAnswer(
        foreseen=found,
        yields=Yield(pieces, leftover, dough.total_g * BOWL_LOSS, most, trays),
        footprint=foot,
        layouts=tuple(by_count[n] for n in trays),
    )
