"""Rolled dough: the rectangle to roll each part to, its cuts, and the scraps rolled again.

A grid of cuts with a web between them; the slab's area is what the part's dough covers at the
wanted thickness, so the rectangle follows from the dough and the grid from the rectangle.
"""

import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from itertools import product
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.heat.chilling import Purpose, Shape, disc_across_mm, disc_shape
from finebatch.core.measures.figures import by, grams, marked, millimetres
from finebatch.core.piece.cutter import OWN_SHARE, Cutter, CutterShape
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.kinds.portioning import Made, Making, Portioning, ThicknessMm, moved
from finebatch.core.piece.kinds.says import THICKNESS, Ask, Handle, InProportion, Says, Way
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.lying import Lies, Outline
from finebatch.core.piece.nesting import Nest, nests
from finebatch.core.piece.outlines import outline_lines
from finebatch.core.piece.paper import Mark, Template
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


OWN_SIDES = "To a rectangle of your own (0: as it comes)"
DISC_MM = 25.0
"""How thick a part of dough is pressed to chill before it is rolled (household practice)."""
OUTLINES: Mapping[CutterShape, Outline] = {
    "round": "round",
    "square": "box",
    "rectangle": "box",
    "hexagon": "hexagon",
    "leaf": "own",
    "star": "own",
    "heart": "own",
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
    """One rectangle of rolled dough, mm, with the middles of its cuts; `rows` counts each row,
    `turns` says in degrees how each cut is turned (nothing where none is)."""

    across_mm: float
    down_mm: float
    rows: tuple[int, ...]
    cuts: tuple[Point, ...]
    turns: tuple[int, ...] = ()

    def turned(self) -> "Slab":
        """The same slab turned by a quarter."""
        turns = self.turns or (0,) * len(self.cuts)
        return Slab(
            self.down_mm,
            self.across_mm,
            self.rows,
            tuple((self.down_mm - y, x) for x, y in self.cuts),
            tuple((turn + 90) % 360 for turn in turns),
        )


@dataclass(frozen=True, slots=True)
class Pass:
    """One rolling: how many slabs of `slab`, the pieces they give, and the scraps left (g)."""

    slabs: int
    slab: Slab
    pieces: int
    rest_g: float


@dataclass(frozen=True, slots=True)
class RolledOut(Making):
    """All passes, the pieces they give, bench flour taken up and dough left at the end (g).
    `limited` says that the scraps would give more, were they rolled once more than they may be."""

    passes: tuple[Pass, ...]
    pieces: int
    flour_g: float
    rest_g: float
    limited: bool = False
    kind: Literal["rolled"] = "rolled"

    @property
    def first_pieces(self) -> int:
        return self.passes[0].pieces


@dataclass(frozen=True, slots=True)
class _Grid:
    """So many pieces in each row of a nest, and the box about them all."""

    nest: Nest
    rows: tuple[int, ...]
    across_mm: float
    down_mm: float

    @property
    def pieces(self) -> int:
        """How many there are in all."""
        return sum(self.rows)


@dataclass(frozen=True, slots=True)
class Rolled(Portioning):
    """A slab, rolled in parts, or to a rectangle that is asked for, with a cutter and a web between
    cuts; scraps are gathered and rolled again, at most `rerolls` times."""

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
                Way("leaf", "leaf"),
                Way("star", "star"),
                Way("heart", "heart"),
                Way("own", "its own outline"),
            ),
            share=OWN_SHARE,
        ),
        Ask("parts", "Rolled in parts", "count", ""),
        Ask("rerolls", "Scraps rolled again, at most", "count", ""),
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
            ways=(Way(True, "rows that nest"), Way(False, "straight rows")),
        ),
        Ask("slab_across_mm", "Slab across", step=5, aside=OWN_SIDES),
        Ask("slab_down_mm", "Slab down", step=5, aside=OWN_SIDES),
    )
    KEPT_AS = "disc"

    thickness_mm: ThicknessMm = 5.0
    cutter: Cutter = field(default_factory=Cutter)
    web_mm: Annotated[float, Interval(ge=0, le=30)] = 3.0
    parts: Annotated[int, Interval(ge=1, le=8)] = 2
    staggered: bool = True
    papers: bool = False
    rerolls: Annotated[int, Interval(ge=0, le=MOST_PASSES - 1)] = 2
    slab_across_mm: Annotated[float, Interval(ge=0, le=WIDEST_MM)] = 0.0
    slab_down_mm: Annotated[float, Interval(ge=0, le=WIDEST_MM * LONGEST)] = 0.0
    kind: Literal["rolled"] = "rolled"

    @property
    def asked_mm(self) -> tuple[float, float] | None:
        """The rectangle that is asked for, where one is."""
        sides = self.slab_across_mm, self.slab_down_mm
        return sides if min(sides) > 0 else None

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
        outline = OUTLINES[self.cutter.shape]
        return replace(lies, outline=outline, fills=fills, points=self.cutter.outline)

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
        lines = outline_lines(OUTLINES[cutter.shape], cutter.box_mm, cutter.outline)
        turns = slab.turns or (0,) * len(slab.cuts)
        marks = tuple(
            Mark(x, y, *cutter.box_mm, "cut", lines, turn)
            for (x, y), turn in zip(slab.cuts, turns, strict=True)
        )
        said = (
            f"Roll to this edge, {millimetres(self.thickness_mm, 1)} thick: {len(slab.cuts)} "
            "pieces."
        )
        return Template(title, said, slab.across_mm, slab.down_mm, marks)


def _nests(rolled: Rolled) -> tuple[Nest, ...]:
    """The ways to lay the cuts in rows, the closest first."""
    cutter, web = rolled.cutter, rolled.web_mm
    across, down = cutter.box_mm
    pitch = across + web
    if not rolled.staggered:
        return (Nest((pitch,), (0,), down + web),)
    if cutter.shape in ("round", "hexagon"):
        return (Nest((pitch,), (0,), pitch * math.sqrt(3) / 2, pitch / 2),)
    return nests(cutter, web)


def _grid(rolled: Rolled, nest: Nest, columns: int, rows: int, *, equal: bool) -> _Grid | None:
    """So many columns and rows; shifted rows are `equal` (the slab is wider) or one shorter. None
    where a shorter row would stand out."""
    across, down = rolled.cutter.box_mm
    edge = 2 * rolled.web_mm
    along = nest.along(columns)
    wide = along[-1] + across + edge
    counts = [columns] * rows
    if nest.shift_mm and rows > 1 and equal:
        wide += nest.shift_mm
    elif nest.shift_mm:
        if columns > 1 and nest.shift_mm > along[-1] - along[-2]:
            return None
        counts = [columns if k % 2 == 0 else columns - 1 for k in range(rows)]
    tall = (rows - 1) * nest.row_mm + down + edge
    return _Grid(nest, tuple(counts), wide, tall)


def _grids(rolled: Rolled, most_down: Callable[[float], float]) -> Iterator[Iterator[_Grid]]:
    """For each number of columns of each nest the grids of it that fit, the fullest first; so far
    down at `most_down` as it is wide."""
    across, down = rolled.cutter.box_mm
    most_columns = 2 * max(1, math.ceil(WIDEST_MM / across))
    around = down + 2 * rolled.web_mm
    for nest in _nests(rolled):
        for columns, equal in product(range(1, most_columns + 1), (False, True)):
            if equal and not nest.shift_mm:
                continue
            two = _grid(rolled, nest, columns, 2, equal=equal)
            wide = two.across_mm if two else nest.along(columns)[-1] + across + 2 * rolled.web_mm
            rows = int((most_down(wide) - around) / nest.row_mm + 1 + 1e-9)
            if rows < 1:
                break
            # One row needs no room for the shift of a second one.
            counts = range(min(rows, MOST_ROWS), 0, -1)
            grids = (_grid(rolled, nest, columns, count, equal=equal) for count in counts)
            yield (grid for grid in grids if grid is not None and grid.pieces)


def slab_for(rolled: Rolled, area_mm2: float) -> Slab | None:
    """The rectangle of that area that gives the most pieces; None when it gives none.

    Among equals the squarest, rolled no wider than `WIDEST_MM`.
    """
    best: _Found | None = None
    for grids in _grids(rolled, lambda wide: area_mm2 / wide if wide <= WIDEST_MM else 0.0):
        for grid in grids:
            sides = _stretched(grid, area_mm2)
            if sides is not None:
                found = (grid.pieces, -abs(max(sides) / min(sides) - 1.4), grid, sides)
                best = found if best is None or found[:2] > best[:2] else best
                break
            if best is not None and grid.pieces < best[0]:
                break
    return _filled(rolled, best[2], *best[3]) if best else None


_Found = tuple[int, float, _Grid, tuple[float, float]]
"""Pieces, how near to the liked proportions, the grid and the sides of its rectangle."""


def _stretched(grid: _Grid, area_mm2: float) -> tuple[float, float] | None:
    """A rectangle of just that area about a grid, the spare room shared by both sides; None where
    it is too long."""
    times = math.sqrt(area_mm2 / (grid.across_mm * grid.down_mm))
    wide, tall = grid.across_mm * times, grid.down_mm * times
    if wide > WIDEST_MM:
        wide, tall = WIDEST_MM, area_mm2 / WIDEST_MM
    if not SQUAREST <= max(wide, tall) / min(wide, tall) <= LONGEST and grid.pieces > 2:
        return None
    return wide, tall


def _within(wide_mm: float, tall_mm: float) -> Callable[[float], float]:
    return lambda across_mm: tall_mm if across_mm <= wide_mm else 0.0


def asked_slab(rolled: Rolled, across_mm: float, down_mm: float) -> Slab | None:
    """The most cuts of the rectangle that is asked for, laid along it or across it; None where it
    has room for none."""
    found: list[Slab] = []
    for wide, tall in ((across_mm, down_mm), (down_mm, across_mm)):
        fullest = (next(grids, None) for grids in _grids(rolled, _within(wide, tall)))
        fits = [grid for grid in fullest if grid is not None]
        if fits:
            slab = _filled(rolled, max(fits, key=lambda grid: grid.pieces), wide, tall)
            found.append(slab if (wide, tall) == (across_mm, down_mm) else slab.turned())
    return max(found, key=lambda slab: len(slab.cuts)) if found else None


def _filled(rolled: Rolled, grid: _Grid, wide: float, tall: float) -> Slab:
    """The grid in the middle of that rectangle."""
    across, down = rolled.cutter.box_mm
    nest = grid.nest
    left = (wide - (grid.across_mm - 2 * rolled.web_mm)) / 2 + across / 2
    top = (tall - (grid.down_mm - 2 * rolled.web_mm)) / 2 + down / 2
    placed = [
        (left + (nest.shift_mm if r % 2 else 0.0) + x, top + r * nest.row_mm, nest.turn(r, c))
        for r, count in enumerate(grid.rows)
        for c, x in enumerate(nest.along(count) if count else [])
    ]
    turns = tuple(turn for _, _, turn in placed)
    return Slab(
        wide,
        tall,
        tuple(n for n in grid.rows if n),
        tuple((x, y) for x, y, _ in placed),
        turns if any(turns) else (),
    )


def _first_slabs(rolled: Rolled, whole_mm2: float, density_g_cm3: float) -> tuple[int, Slab | None]:
    """How many slabs the dough is rolled to first, and one of them."""
    asked = rolled.asked_mm
    if asked is None:
        slabs = max(rolled.parts, math.ceil(whole_mm2 / LARGEST_MM2))
        return slabs, slab_for(rolled, whole_mm2 / slabs)
    slabs = int(whole_mm2 / (asked[0] * asked[1]) + 1e-9)
    if slabs < 1:
        to_g = rolled.thickness_mm * density_g_cm3 / 1000
        raise refuse(
            "slab_across_mm",
            f"A slab of {by(*asked)} takes {grams(asked[0] * asked[1] * to_g)}, and there are "
            f"{grams(whole_mm2 * to_g)} to roll. Roll it thinner or smaller, or scale the dough.",
        )
    return slabs, asked_slab(rolled, *asked)


def roll_out(rolled: Rolled, usable_g: float, density_g_cm3: float) -> RolledOut:
    """Roll the dough part by part (in more where a part would be too large for the bench), then the
    gathered scraps in one slab, as often as is allowed, until they give under two pieces.

    Raises `Refusal` when the dough does not give one piece.
    """
    piece_g = rolled.cutter.area_mm2 * rolled.thickness_mm / 1000 * density_g_cm3
    passes: list[Pass] = []
    flour, rest, limited = 0.0, usable_g, False
    while True:
        picked = 0.0 if rolled.papers else FLOUR_PICKED_UP * rest
        if passes and rest < 2 * piece_g:
            break
        whole = 1000 * (rest + picked) / density_g_cm3 / rolled.thickness_mm
        if passes:
            slabs = max(1, math.ceil(whole / LARGEST_MM2))
            slab = slab_for(rolled, whole / slabs)
        else:
            slabs, slab = _first_slabs(rolled, whole, density_g_cm3)
        if slab is None:
            break
        if len(passes) > rolled.rerolls:
            limited = True
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
    return RolledOut(tuple(passes), sum(p.pieces for p in passes), flour, rest, limited)


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
