"""The tray screen's question: this dough, portioned so, on these sheets."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Literal

from finebatch.core.formula.composition import Composition
from finebatch.core.formula.dough import Family
from finebatch.core.heat.minutes import Doneness, second_bake_minutes
from finebatch.core.heat.oven import conventional_c
from finebatch.core.piece.effects import BakeConditions
from finebatch.core.piece.foresee import Foreseen, Learnt, Models, foresee
from finebatch.core.piece.kinds import (
    Drop,
    Pan,
    Portioning,
    Rolled,
    Roped,
    Sliced,
    TwiceBaked,
    Wafer,
    portion,
)
from finebatch.core.piece.layout import Layout, Shared, share_out
from finebatch.core.piece.making import (
    LogsCut,
    PanScored,
    RopeBaked,
    SlicesDried,
    WaferLimit,
    close_rope,
    cut_logs,
    dry_slices,
    score_pan,
    shape_in_time,
)
from finebatch.core.piece.rows import Footprint, Sheet
from finebatch.core.piece.slab import RolledOut, roll_out
from finebatch.core.refusal import refuse
from finebatch.core.values import OneOfKinds

Evenness = Literal["weighed", "scooped", "spooned"]

PORTION_CV: Mapping[Evenness, float] = {"weighed": 0.03, "scooped": 0.06, "spooned": 0.12}
"""Standard deviation of hand portions over their mean mass (kitchen trials)."""

BOWL_LOSS = 0.02
"""Share of the dough that stays on bowl and spoon (usual 1 to 3 %)."""

MOST_PIECES = 2000
SLICE_GAP_MM = 6.0
"""Slices hardly grow in the second bake; air has to pass between them."""

Making = Annotated[
    RolledOut | LogsCut | SlicesDried | PanScored | RopeBaked | WaferLimit, OneOfKinds()
]


@dataclass(frozen=True, slots=True)
class Yield:
    """Pieces, what is left over in grams (after what stays in the bowl), and pieces a tray."""

    pieces: int
    leftover_g: float
    bowl_loss_g: float
    most_on_sheet: int
    trays: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class Extra:
    """What goes on or into each piece beside the dough: grams each, and of all pieces."""

    what: Literal["filling", "coat", "topping"]
    each_g: float
    total_g: float


def extras(piece: Portioning, pieces: int) -> tuple[Extra, ...]:
    """Filling, coat and topping of so many pieces, those that there are."""
    if not isinstance(piece, Drop):
        return ()
    filling = piece.filling_g if piece.shape == "dented" else 0.0
    each: tuple[tuple[Literal["filling", "coat", "topping"], float], ...] = (
        ("filling", filling),
        ("coat", piece.coat_g),
        ("topping", piece.topping_g),
    )
    return tuple(Extra(what, grams, grams * pieces) for what, grams in each if grams > 0)


@dataclass(frozen=True, slots=True)
class SecondBake:
    """Slices laid out to dry: how many in all, on which sheets, for how long, sides together."""

    pieces: int
    minutes: float
    footprint: Footprint
    trays: tuple[int, ...]
    layouts: tuple[Layout, ...]


@dataclass(frozen=True, slots=True)
class TrayAnswer:
    """One piece foreseen, the yield, and the layout of each tray (equal trays share one).

    A pan has no layout: it is its own tray. `making` is what the kind asks of the baker.
    """

    foreseen: Foreseen
    yields: Yield
    footprint: Footprint
    layouts: tuple[Layout, ...]
    making: Making | None
    second: SecondBake | None


@dataclass(frozen=True, slots=True)
class TrayBasis:
    """Dough, kitchen and habits that a tray rests on, whatever the piece.

    `batches` is how many times the dough is made.
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

    @property
    def total_g(self) -> float:
        """All dough in grams: so many batches of it."""
        return self.dough.total_g * self.batches

    @property
    def usable_g(self) -> float:
        """Dough in grams once the bowl has kept its share."""
        return self.total_g * (1 - BOWL_LOSS)

    def foresee(self, piece: Portioning) -> Foreseen:
        """One piece foreseen."""
        return foresee(
            self.models,
            self.dough,
            self.family,
            portion(piece, self.dough.density_g_cm3),
            self.how,
            doneness=self.doneness,
            portion_cv=PORTION_CV[self.evenness],
            shelves=self.shelves,
            learnt=self.learnt,
        )


def footprint(found: Foreseen, piece: Portioning) -> Footprint:
    """Room for one piece up to the upper edge of its band; a log grows at both ends as well."""
    raw, wide = found.raw, found.width.high_mm
    if isinstance(piece, Roped):
        baked = close_rope(piece, raw, wide)
        return Footprint(baked.across_mm, baked.down_mm, is_round=piece.form == "ring")
    if raw.length_mm is not None:
        grows = wide - raw.width_mm
        return Footprint(raw.length_mm + 0.5 * grows, wide, is_round=False)
    if isinstance(piece, Rolled) and piece.cutter.shape not in ("round", "hexagon"):
        return Footprint(wide, wide - raw.beyond_mm + raw.beyond_down_mm, is_round=False)
    across = max(wide, wide - raw.beyond_mm + raw.beyond_down_mm)
    return Footprint(across, across, is_round=True)


def count_pieces(total_g: float, piece_g: float) -> tuple[int, float]:
    """Whole pieces of that mass and the grams left over, once the bowl has kept its share."""
    usable = total_g * (1 - BOWL_LOSS)
    pieces = int(usable / piece_g + 1e-9)
    return pieces, max(usable - pieces * piece_g, 0.0)


def _check_count(pieces: int, piece_g: float, total_g: float) -> None:
    if pieces < 1:
        raise refuse(
            "grams",
            f"The dough is {total_g:.0f} g; that does not make one piece of {piece_g:.0f} g.",
        )
    if pieces > MOST_PIECES:
        raise refuse(
            "grams",
            f"That makes {pieces:,} pieces; at most {MOST_PIECES:,} are laid out. Make the "
            "piece larger or the dough smaller.",
        )


def count(basis: TrayBasis, piece: Portioning, found: Foreseen) -> tuple[int, float, Making | None]:
    """Pieces (logs, for twice-baked; pans, for a pan), grams left over, and how they are made."""
    usable, density = basis.usable_g, basis.dough.density_g_cm3
    pieces, left = count_pieces(basis.total_g, found.raw.grams)
    making: Making | None = None
    match piece:
        case Rolled():
            making = roll_out(piece, usable, density)
            pieces, left = making.pieces, making.rest_g
        case Sliced():
            making = cut_logs(piece, usable, density)
            pieces, left = making.pieces, making.rest_g + making.ends_g
        case Pan():
            making = score_pan(piece, found.raw.grams, pieces)
        case Roped():
            making = close_rope(piece, found.raw, found.width.middle_mm)
        case Wafer():
            making = shape_in_time(piece)
        case TwiceBaked():
            baked = found.thickness
            making = dry_slices(
                piece, found.raw, found.width.middle_mm, baked.height_mm, baked.baked_g
            )
        case Drop():
            pass
    _check_count(pieces, found.raw.grams, basis.total_g)
    return pieces, left, making


def _second_bake(basis: TrayBasis, piece: TwiceBaked, slices: SlicesDried, logs: int) -> SecondBake:
    sheet = basis.sheet
    foot = Footprint(slices.face_mm, slices.high_mm, is_round=False)
    close = Sheet(sheet.width_mm, sheet.depth_mm, sheet.margin_mm, SLICE_GAP_MM)
    pieces = logs * slices.per_log
    shared = share_out(close, foot, pieces)
    still_c = conventional_c(basis.how.oven_c, basis.how.oven_mode)
    minutes = second_bake_minutes(piece.slice_mm, still_c)
    return SecondBake(pieces, minutes, foot, shared.trays, shared.layouts)


def _on_trays(sheet: Sheet, foot: Footprint, pieces: int, making: Making | None) -> Shared:
    """Pieces on trays; of what is shaped while it is hot only so many at once as can be."""
    by_hand = making.by_hand if isinstance(making, WaferLimit) else None
    return share_out(sheet, foot, pieces, by_hand)


def share_some(answer: TrayAnswer, sheet: Sheet, pieces: int) -> Shared:
    """The trays of only so many of the pieces that were foreseen."""
    return _on_trays(sheet, answer.footprint, pieces, answer.making)


def foresee_tray(basis: TrayBasis, piece: Portioning) -> TrayAnswer:
    """Foresee the piece, count the yield and lay out every tray.

    Raises `Refusal` where there is nothing to foresee: no dough, no piece, no room on the sheet.
    """
    found = basis.foresee(piece)
    pieces, leftover, making = count(basis, piece, found)
    bowl = basis.total_g * BOWL_LOSS
    if isinstance(making, PanScored):
        across, down = piece.box_mm if isinstance(piece, Pan) else (0.0, 0.0)
        foot = Footprint(across, down, is_round=False)
        each = making.pieces
        yields = Yield(pieces * each, leftover, bowl, each, (each,) * pieces)
        return TrayAnswer(found, yields, foot, (), making, None)
    foot = footprint(found, piece)
    shared = _on_trays(basis.sheet, foot, pieces, making)
    second = None
    if isinstance(making, SlicesDried) and isinstance(piece, TwiceBaked):
        second = _second_bake(basis, piece, making, pieces)
    yields = Yield(pieces, leftover, bowl, shared.most_on_sheet, shared.trays)
    return TrayAnswer(found, yields, foot, shared.layouts, making, second)
