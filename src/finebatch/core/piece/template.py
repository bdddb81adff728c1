"""A paper template of a tray at 1 : 1: where each piece lies, raw and baked; in mm."""

from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.paper import Template
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
    raw, width_mm = found.foreseen.raw, found.foreseen.width.middle_mm
    marks = piece.on_paper(raw, width_mm, layout)
    count = len(layout.centres)
    said = f"{count} pieces, {layout.pattern}. Put each on its inner outline."
    return Template(title, said, *sheet_mm, tuple(marks))
