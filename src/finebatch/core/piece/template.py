"""A paper template of a tray at 1 : 1: where each piece lies, raw and baked; in mm."""

from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.paper import ON_PAPER, Mark, Template
from finebatch.core.piece.tray import TrayAnswer
from finebatch.core.refusal import refuse


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
    layout = layouts[tray]
    lies = piece.lies(found.foreseen.raw, found.foreseen.width.middle_mm)
    outline = ON_PAPER[lies.outline]

    def mark(x: float, y: float, size: tuple[float, float], role: str) -> Mark:
        if lies.points:
            turn = 90 if layout.turned else 0
            return Mark(x, y, *size, outline, role, lies.points, turn)  # type: ignore[arg-type]
        across, down = reversed(size) if layout.turned and outline == "box" else size
        return Mark(x, y, across, down, outline, role)  # type: ignore[arg-type]

    marks = [
        mark(x, y, size, role)
        for x, y in layout.centres
        for role, size in (("raw", lies.raw_mm), ("baked", lies.baked_mm))
    ]
    count = len(layout.centres)
    said = f"{count} pieces, {layout.pattern}. Put each on its inner outline."
    return Template(title, said, *sheet_mm, tuple(marks))
