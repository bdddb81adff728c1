"""A paper template as SVG, in millimetres."""

import math
from xml.etree import ElementTree

from finebatch.core.piece.paper import METRIC_LINE, ControlLine, Mark, Template
from finebatch.formats.lettering import cut, set_line
from finebatch.formats.printable import printable

EDGE_MM, FOOT_MM, CONTROL_BESIDE_MM = 1.0, 18.0, 30.0
"""Around the drawing, below it, and beside its control line."""
LETTERS_MM = 3.5
SVG = "http://www.w3.org/2000/svg"
STROKES = {"raw": "#15234f", "baked": "#b0742e", "cut": "#15234f", "line": "#15234f"}
WIDTHS = {"raw": 0.5, "baked": 0.25, "cut": 0.5, "line": 0.2}
"""In mm."""


def _mark(parent: ElementTree.Element, mark: Mark) -> None:
    look = {
        "fill": "none",
        "stroke": STROKES[mark.role],
        "stroke-width": f"{WIDTHS[mark.role]:g}",
        "class": mark.role,
    }
    if mark.role == "baked":
        look["stroke-dasharray"] = "2 1.5"
    x, y, (w, h) = mark.x_mm, mark.y_mm, mark.box_mm
    if not mark.lines:
        place = {"cx": f"{x:.3f}", "cy": f"{y:.3f}", "rx": f"{w / 2:.3f}", "ry": f"{h / 2:.3f}"}
        ElementTree.SubElement(parent, "ellipse", place | look)
        return
    end = "" if mark.role == "line" else " Z"
    drawn = ["M " + " L ".join(f"{a:.3f} {b:.3f}" for a, b in line) + end for line in mark.placed]
    ElementTree.SubElement(parent, "path", {"d": " ".join(drawn)} | look)


def write_svg(template: Template, control: ControlLine = METRIC_LINE) -> bytes:
    """The template as an SVG document whose user unit is a millimetre; below the drawing a line to
    lay a ruler on, and what it is."""
    wide, tall = template.across_mm, template.down_mm
    page = max(wide, control.mm + CONTROL_BESIDE_MM)
    box = (-EDGE_MM, -EDGE_MM, page + 2 * EDGE_MM, tall + FOOT_MM + 2 * EDGE_MM)
    root = ElementTree.Element(
        "svg",
        {
            "xmlns": SVG,
            "width": f"{box[2]:.3f}mm",
            "height": f"{box[3]:.3f}mm",
            "viewBox": " ".join(f"{side:.3f}" for side in box),
        },
    )
    ElementTree.SubElement(root, "title").text = template.title
    ElementTree.SubElement(root, "desc").text = template.said
    frame = {
        "width": f"{wide:.3f}",
        "height": f"{tall:.3f}",
        "fill": "none",
        "stroke": "#15234f",
        "stroke-width": "0.8",
        "class": "frame",
    }
    ElementTree.SubElement(root, "rect", frame)
    for mark in template.marks:
        _mark(root, mark)
    y = tall + 5
    line = {"x1": "0", "x2": f"{control.mm:g}", "y1": f"{y:.3f}", "y2": f"{y:.3f}"}
    ElementTree.SubElement(root, "line", line | {"stroke": "#a8201a", "stroke-width": "0.4"})
    _letters(root, control.words, control.mm + 2, y + 1, page)
    _letters(root, template.title, 0, y + 5.5, page)
    _letters(root, template.said, 0, y + 10, page)
    text = printable(ElementTree.tostring(root, encoding="unicode"))
    return f'<?xml version="1.0" encoding="utf-8"?>\n{text}\n'.encode()


def _letters(
    parent: ElementTree.Element, text: str, x_mm: float, y_mm: float, most_mm: float
) -> None:
    """A line of text, as outlines, cut where it would end beyond `most_mm`."""
    from fontTools.pens.svgPathPen import SVGPathPen  # takes time to load

    line = set_line(cut(text, (most_mm - x_mm) / LETTERS_MM))
    group = {"class": "letters", "role": "img", "aria-label": text, "fill": "#15234f"}
    drawn = ElementTree.SubElement(parent, "g", group)
    for run in line.runs:
        pen, by = SVGPathPen(None), LETTERS_MM / run.em
        run.draw(pen)
        place = f"translate({x_mm:.3f} {y_mm:.3f}) scale({by:.6f} {-by:.6f})"
        if pen.getCommands():
            ElementTree.SubElement(drawn, "path", {"d": pen.getCommands(), "transform": place})
        x_mm += run.advance * LETTERS_MM


def tiles(length_mm: float, area_mm: float, overlap_mm: float) -> int:
    """How many tiles with that overlap cover a length."""
    return max(1, math.ceil((length_mm - overlap_mm) / (area_mm - overlap_mm) - 1e-9))
