"""Rolled dough: the rectangle to roll each part to, its cuts, and the scraps rolled again.

A grid of cuts with a web between them; the slab's area is what the part's dough covers at the
wanted thickness, so the rectangle follows from the dough and the grid from the rectangle.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from itertools import product
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.heat.chilling import Purpose, Shape, disc_across_mm, disc_shape
from finebatch.core.measures.figures import marked, millimetres
from finebatch.core.piece.cutter import OWN_SHARE, Cutter, CutterShape
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.kinds.portioning import Made, Making, Portioning, ThicknessMm, moved
from finebatch.core.piece.kinds.says import THICKNESS, Ask, Handle, InProportion, Says, Way
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.lying import Lies, Outline
from finebatch.core.piece.paper import ON_PAPER, Mark, Template
from finebatch.core.piece.portion import Cut, CutDisc, RawPiece
from finebatch.core.piece.tools import Tools
from finebatch.core.refusal import Refusal, refuse
from finebatch.core.values import Point

FLOUR_PICKED_UP = 0.03
"""Bench flour that each rolling takes up, as a share of the dough; none between papers (usual
guidance: 3 % a pass)."""
MOST_PASSES = 12
MOST_ROWS = 200
WIDEST_MM = 420.0
"""The widest slab that a home rolling pin and bench take well."""
SQUAREST, LONGEST = 1.0, 2.2
"""A slab is rolled between a square and a little over twice as long as wide."""
LARGEST_MM2 = 0.8 * WIDEST_MM**2 * LONGEST
"""More dough than covers this is rolled in more parts than were asked for."""


DISC_MM = 25.0
"""How thick a part of dough is pressed to chill before it is rolled (household practice)."""
OUTLINES: Mapping[CutterShape, Outline] = {
    "round": "round",
    "square": "box",
    "rectangle": "box",
    "hexagon": "hexagon",
    "own": "own",
}
CUTTER = Handle(
    "cutter.across_mm",
    "Size of the cutter",
    "Cutter across",
    "mm",
    (20, 120),
    1,
    along=(InProportion("cutter.down_mm", 1), InProportion("cutter.area_cm2", 2)),
)


@dataclass(frozen=True, slots=True)
class Slab:
    """One rectangle of rolled dough, mm, with the middles of its cuts; `rows` counts each row."""

    across_mm: float
    down_mm: float
    rows: tuple[int, ...]
    cuts: tuple[Point, ...]


@dataclass(frozen=True, slots=True)
class Pass:
    """One rolling: how many slabs of `slab`, the pieces they give, and the scraps left (g)."""

    slabs: int
    slab: Slab
    pieces: int
    rest_g: float


@dataclass(frozen=True, slots=True)
class RolledOut(Making):
    """All passes, the pieces they give, bench flour taken up and dough left at the end (g)."""

    passes: tuple[Pass, ...]
    pieces: int
    flour_g: float
    rest_g: float
    kind: Literal["rolled"] = "rolled"

    @property
    def first_pieces(self) -> int:
        return self.passes[0].pieces


@dataclass(frozen=True, slots=True)
class _Grid:
    rows: tuple[int, ...]
    across_mm: float
    down_mm: float
    pitch_mm: float
    row_pitch_mm: float
    shift_mm: float


@dataclass(frozen=True, slots=True)
class Rolled(Portioning):
    """A slab, rolled in parts, with a cutter and a web between cuts; scraps are rolled again."""

    NEEDED = ("kind", "thickness_mm", "cutter")
    SAYS = Says(
        "rolled and cut",
        tab="Slab",
        slab=True,
        work="Roll and cut",
        unweighed="Cut pieces are not weighed one by one: their mass follows the thickness.",
    )
    HANDLES = (CUTTER, THICKNESS)
    ASKS = (
        Ask(
            "cutter",
            "Cutter",
            "cutter",
            ways=(
                Way("round", "round"),
                Way("square", "square"),
                Way("rectangle", "rectangle"),
                Way("hexagon", "hexagon"),
                Way("own", "its own outline"),
            ),
            share=OWN_SHARE,
        ),
        Ask("parts", "Rolled in parts", "count", ""),
        Ask("web_mm", "Web", step=0.5),
        Ask(
            "papers",
            "Rolled",
            "choice",
            "",
            ways=(Way(False, "on a floured bench"), Way(True, "between two papers")),
        ),
        Ask(
            "staggered",
            "Cut in",
            "choice",
            "",
            ways=(Way(True, "staggered rows"), Way(False, "straight rows")),
        ),
    )
    KEPT_AS = "disc"

    thickness_mm: ThicknessMm = 5.0
    cutter: Cutter = field(default_factory=Cutter)
    web_mm: Annotated[float, Interval(ge=0, le=30)] = 3.0
    parts: Annotated[int, Interval(ge=1, le=8)] = 2
    staggered: bool = True
    papers: bool = False
    kind: Literal["rolled"] = "rolled"

    def portion(self, lot: Lot) -> CutDisc | Cut:
        cutter = self.cutter
        if cutter.shape == "round":
            return CutDisc(cutter.across_mm, self.thickness_mm)
        return Cut(*cutter.box_mm, cutter.area_mm2, self.thickness_mm)

    def weighing(self, grams: float, lot: Lot) -> "Rolled":
        now = self.cutter.area_mm2 * self.thickness_mm / 1000 * lot.density_g_cm3
        return self.wider(math.sqrt(grams / now))

    def wider(self, by: float) -> "Rolled":
        return moved(self, CUTTER, by)

    def sizes(self, tools: Tools, lot: Lot) -> list[tuple[str, "Rolled"]]:
        return [(marked(c.name), replace(self, cutter=c.cutter)) for c in tools.cutters]

    def make(self, lot: Lot, found: Foreseen) -> Made:
        out = roll_out(self, lot.usable_g, lot.density_g_cm3)
        return Made(out.pieces, out.rest_g, out)

    def lies(self, raw: RawPiece, width_mm: float) -> Lies:
        lies, (across, down) = Portioning.lies(self, raw, width_mm), self.cutter.box_mm
        fills = self.cutter.area_mm2 / (across * down)
        return replace(lies, outline=OUTLINES[self.cutter.shape], fills=fills)

    def chilled(self, lot: Lot) -> tuple[Shape, Purpose]:
        part = lot.total_g / lot.density_g_cm3 / self.parts
        return disc_shape(disc_across_mm(part, DISC_MM), DISC_MM), "roll"

    def without_leftover(self, lot: Lot, pieces: int) -> list["Rolled"]:
        # Rolled dough always leaves scraps: the slab is rolled as thin as one more piece needs.
        thickness = thickness_for(self, pieces + 1, lot.usable_g, lot.density_g_cm3)
        return [replace(self, thickness_mm=thickness)]

    def giving(self, pieces: int, lot: Lot) -> "Rolled | None":
        try:
            thick = thickness_for(self, pieces, lot.usable_g, lot.density_g_cm3)
        except Refusal:
            return None
        return replace(self, thickness_mm=thick)

    def told(self, lot: Lot) -> str:
        return self.worked()

    def worked(self) -> str:
        return f"rolled to {millimetres(self.thickness_mm, 1)}"

    def slab(self, title: str, making: Making | None) -> Template:
        if not isinstance(making, RolledOut):
            raise TypeError("rolled dough is rolled out")
        slab, cutter = making.passes[0].slab, self.cutter
        outline = ON_PAPER[OUTLINES[cutter.shape]]
        marks = tuple(Mark(x, y, *cutter.box_mm, outline, "cut") for x, y in slab.cuts)
        said = (
            f"Roll to this edge, {millimetres(self.thickness_mm, 1)} thick: {len(slab.cuts)} "
            "pieces."
        )
        return Template(title, said, slab.across_mm, slab.down_mm, marks)


def _row_pitch(rolled: Rolled) -> tuple[float, float]:
    """From row to row in mm, and how far every second row is shifted."""
    across, down = rolled.cutter.box_mm
    pitch = across + rolled.web_mm
    if not rolled.staggered or rolled.cutter.shape in ("square", "rectangle", "own"):
        return down + rolled.web_mm, 0.0
    return pitch * math.sqrt(3) / 2, pitch / 2


def _grid(rolled: Rolled, columns: int, rows: int, *, equal: bool) -> _Grid:
    """So many columns and rows; staggered rows are `equal` (half a pitch wider) or one shorter."""
    across, down = rolled.cutter.box_mm
    pitch = across + rolled.web_mm
    row_pitch, shift = _row_pitch(rolled)
    edge = 2 * rolled.web_mm
    wide = (columns - 1) * pitch + across + edge
    counts = [columns] * rows
    if shift and rows > 1 and equal:
        wide += shift
    elif shift:
        counts = [columns if k % 2 == 0 else columns - 1 for k in range(rows)]
    tall = (rows - 1) * row_pitch + down + edge
    return _Grid(tuple(counts), wide, tall, pitch, row_pitch, shift)


def slab_for(rolled: Rolled, area_mm2: float) -> Slab | None:
    """The rectangle of that area that gives the most pieces; None when it gives none.

    Among equals the squarest, rolled no wider than `WIDEST_MM`.
    """
    best: tuple[int, float, Slab] | None = None
    most_columns = max(1, math.ceil(WIDEST_MM / rolled.cutter.across_mm))
    for columns, equal in product(range(1, most_columns + 1), (False, True)):
        for rows in range(1, MOST_ROWS):
            grid = _grid(rolled, columns, rows, equal=equal)
            if grid.across_mm * grid.down_mm > area_mm2 or grid.across_mm > WIDEST_MM:
                break
            slab = _fill(rolled, grid, area_mm2)
            if slab is None:
                continue
            ratio = max(slab.across_mm, slab.down_mm) / min(slab.across_mm, slab.down_mm)
            score = (len(slab.cuts), -abs(ratio - 1.4))
            if best is None or score > best[:2]:
                best = (*score, slab)
    return best[2] if best else None


def _fill(rolled: Rolled, grid: _Grid, area_mm2: float) -> Slab | None:
    """The grid on a rectangle of just that area, the spare room shared by both sides."""
    if not sum(grid.rows):
        return None
    by = math.sqrt(area_mm2 / (grid.across_mm * grid.down_mm))
    wide, tall = grid.across_mm * by, grid.down_mm * by
    if wide > WIDEST_MM:
        wide, tall = WIDEST_MM, area_mm2 / WIDEST_MM
    if not SQUAREST <= max(wide, tall) / min(wide, tall) <= LONGEST and sum(grid.rows) > 2:
        return None
    across, down = rolled.cutter.box_mm
    left = (wide - (grid.across_mm - 2 * rolled.web_mm)) / 2 + across / 2
    top = (tall - (grid.down_mm - 2 * rolled.web_mm)) / 2 + down / 2
    cuts = tuple(
        (left + (grid.shift_mm if r % 2 else 0.0) + c * grid.pitch_mm, top + r * grid.row_pitch_mm)
        for r, count in enumerate(grid.rows)
        for c in range(count)
    )
    return Slab(wide, tall, tuple(n for n in grid.rows if n), cuts)


def roll_out(rolled: Rolled, usable_g: float, density_g_cm3: float) -> RolledOut:
    """Roll the dough part by part (in more where a part would be too large for the bench), then the
    gathered scraps until they give under two pieces, in fewer slabs where one has room for no cut.

    Raises `Refusal` when the dough does not give one piece.
    """
    piece_g = rolled.cutter.area_mm2 * rolled.thickness_mm / 1000 * density_g_cm3
    part_g = usable_g / rolled.parts
    passes: list[Pass] = []
    flour, rest, slabs = 0.0, usable_g, rolled.parts
    while len(passes) < MOST_PASSES:
        picked = 0.0 if rolled.papers else FLOUR_PICKED_UP * rest
        if passes:
            if rest < 2 * piece_g:
                break
            slabs = max(1, math.ceil((rest + picked) / part_g - 1e-9))
        whole = 1000 * (rest + picked) / density_g_cm3 / rolled.thickness_mm
        fewest = max(1, math.ceil(whole / LARGEST_MM2))
        slabs = max(slabs, fewest)
        slab = slab_for(rolled, whole / slabs)
        while slab is None and passes and slabs > fewest:
            slabs -= 1
            slab = slab_for(rolled, whole / slabs)
        if slab is None:
            break
        flour, rest = flour + picked, rest + picked
        pieces = slabs * len(slab.cuts)
        rest -= pieces * piece_g
        passes.append(Pass(slabs, slab, pieces, rest))
    if not passes:
        across = max(rolled.cutter.box_mm)
        raise refuse(
            "cutter.across_mm",
            f"A slab of this dough {millimetres(rolled.thickness_mm, 1)} thick has no room for a "
            f"cutter of {millimetres(across)}. Roll it thinner, in fewer parts, or take a smaller "
            "cutter.",
        )
    return RolledOut(tuple(passes), sum(p.pieces for p in passes), flour, rest)


def thickness_for(rolled: Rolled, pieces: int, usable_g: float, density_g_cm3: float) -> float:
    """The greatest thickness in mm (to a tenth) that gives at least so many pieces.

    Raises `Refusal` when even 2 mm does not, with the most that this dough gives.
    """

    def gives(tenths: int) -> int:
        thin = replace(rolled, thickness_mm=tenths / 10)
        try:
            return roll_out(thin, usable_g, density_g_cm3).pieces
        except ValueError:
            return 0

    low, high = 20, 250
    most = gives(low)
    if most < pieces:
        raise refuse(
            "pieces",
            f"Rolled to {millimetres(2)} this dough gives {most}. Make more dough, or take a "
            "smaller cutter.",
        )
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (middle, high) if gives(middle) >= pieces else (low, middle)
    return low / 10
