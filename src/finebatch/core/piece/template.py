"""A paper template at 1 : 1: the sheet with its pieces, or the slab with its cuts; in mm."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from finebatch.core.piece.kinds import Cutter, Portioning, Rolled, Roped
from finebatch.core.piece.portion import RawPiece
from finebatch.core.piece.slab import RolledOut
from finebatch.core.piece.tray import TrayAnswer
from finebatch.core.refusal import refuse

Outline = Literal["round", "box", "hexagon"]
What = Literal["sheet", "slab"]


@dataclass(frozen=True, slots=True)
class Mark:
    """One outline about its middle; `role` is what it stands for."""

    x_mm: float
    y_mm: float
    across_mm: float
    down_mm: float
    outline: Outline
    role: Literal["raw", "baked", "cut"]


@dataclass(frozen=True, slots=True)
class Template:
    """A drawing to print at its own size: its frame, its marks, and what it says."""

    title: str
    said: str
    across_mm: float
    down_mm: float
    marks: tuple[Mark, ...]


def _outline(piece: Portioning) -> Outline:
    if isinstance(piece, Rolled):
        if piece.cutter.shape == "hexagon":
            return "hexagon"
        return "round" if piece.cutter.shape == "round" else "box"
    return "box" if isinstance(piece, Roped) and piece.form != "ring" else "round"


def _sizes(raw: RawPiece, found: TrayAnswer) -> tuple[tuple[float, float], tuple[float, float]]:
    """Raw and baked, each across and down."""
    baked = found.foreseen.width.middle_mm
    if raw.length_mm is not None:
        grown = raw.length_mm + 0.5 * (baked - raw.width_mm)
        return (raw.length_mm, raw.width_mm), (grown, baked)
    down = raw.down_mm or raw.across_mm
    return (raw.across_mm, down), (baked, baked - raw.across_mm + down)


def sheet_template(
    title: str, found: TrayAnswer, piece: Portioning, sheet_mm: tuple[float, float], tray: int
) -> Template:
    """Where each piece lies on the tray of that place, raw and baked, to slide under the paper.

    Raises `Refusal` for a pan, which needs none, and a tray that there is not.
    """
    sizes = dict.fromkeys(len(layout.centres) for layout in found.layouts)
    layouts = [next(x for x in found.layouts if len(x.centres) == n) for n in sizes]
    if not layouts:
        raise refuse("what", "A pan needs no template: score it along a ruler.")
    if tray >= len(layouts):
        raise refuse("tray", f"There are {len(layouts)} different trays; choose one of them.")
    layout, raw = layouts[tray], found.foreseen.raw
    outline = "box" if raw.length_mm is not None else _outline(piece)
    marks = []
    for x, y in layout.centres:
        for role, (across, down) in zip(("raw", "baked"), _sizes(raw, found), strict=True):
            wide, tall = (down, across) if layout.turned and outline == "box" else (across, down)
            marks.append(Mark(x, y, wide, tall, outline, role))  # type: ignore[arg-type]
    count = len(layout.centres)
    said = f"{count} pieces, {layout.pattern}. Put each on its inner outline."
    return Template(title, said, *sheet_mm, tuple(marks))


def _cut_mark(cutter: Cutter, x: float, y: float) -> Mark:
    outline: Outline = "box"
    if cutter.shape in ("round", "hexagon"):
        outline = "round" if cutter.shape == "round" else "hexagon"
    return Mark(x, y, *cutter.box_mm, outline, "cut")


def slab_template(title: str, found: TrayAnswer, piece: Portioning) -> Template:
    """The rectangle to roll one part to, with its cuts; `Refusal` for what is not rolled."""
    if not isinstance(piece, Rolled) or not isinstance(found.making, RolledOut):
        raise refuse("what", "Only rolled dough has a slab. Choose the sheet.")
    slab = found.making.passes[0].slab
    marks: Sequence[Mark] = [_cut_mark(piece.cutter, x, y) for x, y in slab.cuts]
    said = f"Roll to this edge, {piece.thickness_mm:g} mm thick: {len(slab.cuts)} pieces."
    return Template(title, said, slab.across_mm, slab.down_mm, tuple(marks))
