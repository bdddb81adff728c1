"""What is pressed in a pan with walls and scored: a grid (across by down), or a round one in
wedges."""

import math
from abc import abstractmethod
from dataclasses import dataclass
from typing import Annotated, ClassVar

from annotated_types import Interval

from finebatch.core.heat.chilling import Purpose, Shape, slab_shape
from finebatch.core.measures.figures import millimetres
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.kinds.portioning import HotWork, Laid, Made, Making, Portioning
from finebatch.core.piece.kinds.says import Advice, Ask, Says, Way, When
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.lying import Lies
from finebatch.core.piece.pans import PanBox
from finebatch.core.piece.portion import PanFill, RawPiece
from finebatch.core.piece.rows import Footprint, Sheet
from finebatch.core.refusal import refuse

NARROWEST_MM = 10.0
"""No knife cuts a narrower piece out of a pan."""
RECUT = HotWork(each_s=4.0, within_min=1)
"""What is scored is cut again while it is hot (household practice)."""
CUT_SIDE = "How long is the side of a cut piece"
GRID = ("square", "rectangle")
PAN_ASKS = (
    Ask(
        "shape",
        "Pan",
        "pan",
        step=5,
        ways=(Way("square", "square"), Way("rectangle", "oblong"), Way("round", "round")),
    ),
    Ask("wedges", "Wedges", "count", "", when=When("shape", ("round",))),
    Ask("scored_across", "Scored across", "count", "", when=When("shape", GRID)),
    Ask("scored_down", "and down", "count", "", when=When("shape", GRID)),
)


def check_scored(wide_mm: float, long_mm: float, field: str) -> None:
    """`Refusal` at that field for scored pieces that no knife would cut."""
    narrow = min(wide_mm, long_mm)
    if narrow < NARROWEST_MM:
        raise refuse(field, f"Pieces would be {millimetres(narrow)} wide. Score fewer.")


def pan_says(label: str, *advice: str) -> Says:
    """What kinds that are baked in a pan say."""
    return Says(
        label,
        tab="Pan",
        holder="pan",
        across="",
        after="Re-cut along the scores within two minutes; later it shatters.",
        hot="Re-cut",
        work="Fill",
        portioned="{grams} in the pan, scored in {pieces}",
        unweighed="A pan is filled in one; nothing is portioned here.",
        measured=CUT_SIDE,
        by_photo=False,
        notes=(
            Advice(
                "Dock it, score it before it bakes, press the rim level, and re-cut along the "
                "scores within two minutes of taking it out; later it shatters."
            ),
            *(Advice(text) for text in advice),
        ),
    )


@dataclass(frozen=True, slots=True)
class PanScored(Making):
    """Pans to fill and score. `across_mm` and `down_mm` are one piece of a grid; a wedge is as
    long as the pan's radius and `across_mm` wide at its rim. `full_g` is what one pan takes,
    pressed `deep_mm` deep."""

    pans: int
    full_g: float
    pieces: int
    across_mm: float
    down_mm: float
    piece_g: float
    deep_mm: float

    @property
    def each_gives(self) -> int:
        return self.pieces


@dataclass(frozen=True, slots=True)
class InPan(PanBox, Portioning):
    """A pan, how it is scored, and how deep it is filled: what the kinds that use one share."""

    ONE_SIZE = True
    AS_MIXED = True
    MAKING: ClassVar[type[PanScored]] = PanScored

    scored_across: Annotated[int, Interval(ge=1, le=30)] = 4
    scored_down: Annotated[int, Interval(ge=1, le=30)] = 5
    wedges: Annotated[int, Interval(ge=2, le=32)] = 8

    @abstractmethod
    def deep_mm(self, lot: Lot) -> float:
        """How deep one pan is filled; `Refusal` where it cannot be."""

    @property
    def pieces(self) -> int:
        """Pieces scored in one pan."""
        return self.wedges if self.shape == "round" else self.scored_across * self.scored_down

    @property
    def pan(self) -> PanBox:
        return PanBox(self.shape, self.across_mm, self.down_mm, self.wall_mm)

    def portion(self, lot: Lot) -> PanFill:
        return PanFill(*self.box_mm, self.area_mm2, self.deep_mm(lot))

    def wider(self, by: float) -> "InPan":
        raise refuse("width_mm", "A pan's pieces are as wide as they are scored. Score others.")

    def score(self, full_g: float, deep_mm: float, pans: int) -> PanScored:
        """How large the scored pieces are; `Refusal` for pieces that no knife would cut."""
        across, down = self.box_mm
        if self.shape == "round":
            wide, long, where = math.pi * across / self.wedges, across / 2, "wedges"
        else:
            wide, long = across / self.scored_across, down / self.scored_down
            where = "scored_across"
        check_scored(wide, long, where)
        return self.MAKING(pans, full_g, self.pieces, wide, long, full_g / self.pieces, deep_mm)

    def each_g(self, found: Foreseen) -> float:
        return found.raw.grams / self.pieces

    def cut_mm(self, found: Foreseen) -> float:
        across, _ = self.box_mm
        return across / (2 if self.shape == "round" else self.scored_across)

    def lies(self, raw: RawPiece, width_mm: float) -> Lies:
        return Lies("round" if self.shape == "round" else "box", self.box_mm, self.box_mm)

    def lay(self, sheet: Sheet, found: Foreseen, made: Made) -> Laid:
        # A pan has no layout: it is its own tray.
        room = Footprint(*self.box_mm, is_round=False)
        return Laid(room, self.pieces, (self.pieces,) * made.pieces)

    def chilled(self, lot: Lot) -> tuple[Shape, Purpose]:
        return slab_shape(self.deep_mm(lot)), "slice"

    @property
    def hot_work(self) -> HotWork:
        return RECUT
