"""A slab on paper: rolled to a rectangle on the paper that it bakes on, trimmed, scored in a grid,
pricked, baked whole, and cut again along the scores while it is hot."""

import math
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.heat.chilling import Purpose, Shape, disc_across_mm, disc_shape
from finebatch.core.measures.figures import by, grams, millimetres
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.kinds.in_pan import CUT_SIDE, RECUT, check_scored
from finebatch.core.piece.kinds.portioning import (
    HotWork,
    Laid,
    Made,
    Making,
    Portioning,
    ThicknessMm,
    moved,
)
from finebatch.core.piece.kinds.rolled import DISC_MM
from finebatch.core.piece.kinds.says import THICKNESS, Advice, Ask, Handle, InProportion, Says
from finebatch.core.piece.layout import Layout, Shared, share_out
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.lying import Lies, Size
from finebatch.core.piece.outlines import outline_lines
from finebatch.core.piece.paper import Mark, Template
from finebatch.core.piece.portion import RawPiece, SlabPortion
from finebatch.core.piece.rows import Footprint, Sheet
from finebatch.core.piece.tools import Tools
from finebatch.core.refusal import refuse
from finebatch.core.values import Point

THICK = replace(THICKNESS, range=(4, 20))
LARGE = Handle(
    "across_mm",
    "Size of the slab",
    "Slab across",
    "mm",
    (120, 380),
    5,
    along=(InProportion("down_mm", 1),),
)
NEAR = 0.25
"""A slab so much thicker than it was meant to be is still that slab."""
THICKNESSES_MM = (5.0, 6.0, 8.0, 10.0, 12.0, 15.0)


@dataclass(frozen=True, slots=True)
class SlabsScored(Making):
    """Slabs to roll, each to `rolled_mm` and trimmed to `slab_mm`, across and down; `rolled_g` is
    what one takes, `trimmed_g` is cut off it, and a scored piece is `across_mm` by `down_mm`."""

    slabs: int
    rolled_mm: Size
    slab_mm: Size
    rolled_g: float
    trimmed_g: float
    pieces: int
    across_mm: float
    down_mm: float
    piece_g: float
    kind: Literal["slab"] = "slab"

    @property
    def each_gives(self) -> int:
        return self.pieces


@dataclass(frozen=True, slots=True)
class SlabOnPaper(Portioning):
    """A rectangle of dough that bakes in one, on paper: its size once it is trimmed by `trim_mm` at
    each side, and in how many pieces it is scored."""

    NEEDED = ("kind", "across_mm", "down_mm", "thickness_mm")
    SAYS = Says(
        "a slab on paper, scored",
        tab="Slab",
        across="",
        slab=True,
        after="Cut again along the scores within two minutes; later it shatters.",
        hot="Re-cut",
        work="Roll and score",
        portioned="rolled on its paper, trimmed, scored in {pieces}",
        unweighed="A slab is baked in one; nothing is portioned here.",
        measured=CUT_SIDE,
        by_photo=False,
        notes=(
            Advice(
                "Roll it on the paper that it bakes on, trim the edges straight, score and prick "
                "it, and lift paper and all onto the sheet. Another slab needs another paper."
            ),
        ),
    )
    HANDLES = (THICK, LARGE)
    ASKS = (
        Ask("thickness_mm", "Slabs, all of it", "shared_out", ""),
        Ask("down_mm", "Slab down", step=5),
        Ask("trim_mm", "Trimmed at each side", step=1),
        Ask("scored_across", "Scored across", "count", ""),
        Ask("scored_down", "and down", "count", ""),
    )
    KEPT_AS = "disc"
    ONE_SIZE = True
    KNIFE = True
    AS_MIXED = True

    across_mm: Annotated[float, Interval(ge=60, le=420)] = 200.0
    down_mm: Annotated[float, Interval(ge=60, le=420)] = 280.0
    thickness_mm: ThicknessMm = 10.0
    trim_mm: Annotated[float, Interval(ge=0, le=30)] = 5.0
    scored_across: Annotated[int, Interval(ge=1, le=30)] = 4
    scored_down: Annotated[int, Interval(ge=1, le=30)] = 6
    kind: Literal["slab"] = "slab"

    @property
    def pieces(self) -> int:
        """Pieces scored in one slab."""
        return self.scored_across * self.scored_down

    @property
    def rolled_mm(self) -> tuple[float, float]:
        """How large it is rolled before it is trimmed, across and down."""
        return self.across_mm + 2 * self.trim_mm, self.down_mm + 2 * self.trim_mm

    def _rolled_g(self, lot: Lot) -> float:
        across, down = self.rolled_mm
        return across * down * self.thickness_mm / 1000 * lot.density_g_cm3

    def portion(self, lot: Lot) -> SlabPortion:
        return SlabPortion(self.across_mm, self.down_mm, self.thickness_mm)

    def weighing(self, grams: float, lot: Lot) -> "SlabOnPaper":
        return moved(self, THICK, grams / self.raw(lot).grams)

    def taking(self, grams: float, lot: Lot) -> "SlabOnPaper":
        return moved(self, THICK, grams / self._rolled_g(lot))

    def wider(self, by: float) -> "SlabOnPaper":
        raise refuse("width_mm", "A slab's pieces are as wide as they are scored. Score others.")

    def sizes(self, tools: Tools, lot: Lot) -> list[tuple[str, "SlabOnPaper"]]:
        return [
            (f"{millimetres(thick, 1)} thick", replace(self, thickness_mm=thick))
            for thick in THICKNESSES_MM
        ]

    def make(self, lot: Lot, found: Foreseen) -> Made:
        rolled = self._rolled_g(lot)
        slabs = int(lot.usable_g / rolled + 1e-9)
        if slabs < 1:
            raise refuse(
                "thickness_mm",
                f"A slab of {by(*self.rolled_mm)} takes {grams(rolled)}, and there are "
                f"{grams(lot.usable_g)} to roll. Roll it thinner or smaller, or scale the dough.",
            )
        wide, long = self.across_mm / self.scored_across, self.down_mm / self.scored_down
        check_scored(wide, long, "scored_across" if wide <= long else "scored_down")
        making = SlabsScored(
            slabs,
            self.rolled_mm,
            (self.across_mm, self.down_mm),
            rolled,
            rolled - found.raw.grams,
            self.pieces,
            wide,
            long,
            self.each_g(found),
        )
        return Made(slabs, lot.usable_g - slabs * found.raw.grams, making)

    def each_g(self, found: Foreseen) -> float:
        return found.raw.grams / self.pieces

    def cut_mm(self, found: Foreseen) -> float:
        return self.lies(found.raw, found.width.middle_mm).baked_mm[0]

    def lies(self, raw: RawPiece, width_mm: float) -> Lies:
        """One piece of the grid; together they are the slab."""
        across, down = self._baked_mm(raw, width_mm)
        scored = (self.scored_across, self.scored_down)
        before = (self.across_mm / scored[0], self.down_mm / scored[1])
        return Lies("box", before, (across / scored[0], down / scored[1]))

    def lay(self, sheet: Sheet, found: Foreseen, made: Made) -> Laid:
        shared = self.share(sheet, found, made.pieces * self.pieces)
        room = self.lies(found.raw, found.width.middle_mm).room
        return Laid(room, shared.most_on_sheet, shared.trays, shared.layouts)

    def sharing(self, lot: Lot) -> "SlabOnPaper":
        """The same with all of the dough in slabs of that size, where its thickness is near."""
        slabs = lot.usable_g / self._rolled_g(lot)
        whole = max(1, round(slabs))
        if slabs > whole * (1 + NEAR):
            return self
        # A hair less than what is there, so that the last one is not lost to rounding.
        return replace(self, thickness_mm=math.floor(10 * self.thickness_mm * slabs / whole) / 10)

    def share(
        self, sheet: Sheet, found: Foreseen, pieces: int, making: Making | None = None
    ) -> Shared:
        if pieces % self.pieces:
            raise refuse(
                "items",
                f"A slab is baked whole: take {self.pieces} pieces, or so many for each slab.",
            )
        across, down = self._baked_mm(found.raw, found.width.high_mm)
        lying = Footprint(across, down, is_round=False)
        shared = share_out(sheet, lying, pieces // self.pieces)
        layouts = tuple(self._scored(layout, across, down) for layout in shared.layouts)
        return Shared(shared.most_on_sheet * self.pieces, layouts)

    def _baked_mm(self, raw: RawPiece, width_mm: float) -> tuple[float, float]:
        return width_mm, width_mm - raw.beyond_mm + raw.beyond_down_mm

    def _scored(self, layout: Layout, across: float, down: float) -> Layout:
        """The slabs of a sheet as the pieces that are scored in them."""
        columns, rows = self.scored_across, self.scored_down
        if layout.turned:
            across, down, columns, rows = down, across, rows, columns
        wide, tall = across / columns, down / rows
        middles = [
            (x + (column - (columns - 1) / 2) * wide, y + (row - (rows - 1) / 2) * tall)
            for x, y in layout.centres
            for row in range(rows)
            for column in range(columns)
        ]
        in_rows = tuple(slabs * columns for slabs in layout.rows for _ in range(rows))
        return Layout("rows", tuple(middles), in_rows, min(wide, tall), layout.turned)

    def _grid(self, wide: float, tall: float) -> list[Point]:
        """The middles of pieces of that size, from the slab's upper left corner."""
        return [
            ((column + 0.5) * wide, (row + 0.5) * tall)
            for row in range(self.scored_down)
            for column in range(self.scored_across)
        ]

    def on_paper(self, raw: RawPiece, width_mm: float, layout: Layout) -> list[Mark]:
        """Each slab whole, as it is trimmed and baked, with its scores."""
        wide, tall = self.lies(raw, width_mm).raw_mm
        slab, baked = (self.across_mm, self.down_mm), self._baked_mm(raw, width_mm)
        found = []
        for first in range(0, len(layout.centres), self.pieces):
            own = layout.centres[first : first + self.pieces]
            x, y = (sum(along) / len(own) for along in zip(*own, strict=True))
            turn, piece = (90 if layout.turned else 0), outline_lines("box", (wide, tall))
            found += [
                Mark(x, y, *slab, "raw", outline_lines("box", slab), turn),
                Mark(x, y, *baked, "baked", outline_lines("box", baked), turn),
            ]
            for at_x, at_y in self._grid(wide, tall):
                dx, dy = at_x - slab[0] / 2, at_y - slab[1] / 2
                dx, dy = (-dy, dx) if turn else (dx, dy)
                found.append(Mark(x + dx, y + dy, wide, tall, "cut", piece, turn))
        return found

    def chilled(self, lot: Lot) -> tuple[Shape, Purpose]:
        slab_cm3 = self._rolled_g(lot) / lot.density_g_cm3
        return disc_shape(disc_across_mm(slab_cm3, DISC_MM), DISC_MM), "roll"

    def told(self, lot: Lot) -> str:
        return self.worked()

    def worked(self) -> str:
        return f"rolled to {by(*self.rolled_mm)}, {millimetres(self.thickness_mm, 1)} thick"

    def slab(self, title: str, making: Making | None) -> Template:
        if not isinstance(making, SlabsScored):
            raise TypeError("a slab on paper is scored")
        wide, tall = making.across_mm, making.down_mm
        lines = outline_lines("box", (wide, tall))
        marks = tuple(
            Mark(self.trim_mm + x, self.trim_mm + y, wide, tall, "cut", lines)
            for x, y in self._grid(wide, tall)
        )
        said = f"Roll to this edge, {millimetres(self.thickness_mm, 1)} thick; trim, then score: "
        return Template(title, f"{said}{self.pieces} pieces.", *self.rolled_mm, marks)

    @property
    def hot_work(self) -> HotWork:
        return RECUT
