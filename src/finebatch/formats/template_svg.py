"""A paper template as SVG, in millimetres."""

import math
from xml.etree import ElementTree

from finebatch.core.piece.paper import METRIC_LINE, ControlLine, Mark, Template

SVG = "http://www.w3.org/2000/svg"
STROKES = {"raw": "#15234f", "baked": "#b0742e", "cut": "#15234f"}


def hexagon(mark: Mark) -> list[tuple[float, float]]:
    """The corners of a hexagon in mm, standing on a corner."""
    w, h = mark.across_mm / 2, mark.down_mm / 2
    turns = [(0.0, -h), (w, -h / 2), (w, h / 2), (0.0, h), (-w, h / 2), (-w, -h / 2)]
    return [(mark.x_mm + x, mark.y_mm + y) for x, y in turns]


def _mark(parent: ElementTree.Element, mark: Mark) -> None:
    look = {
        "fill": "none",
        "stroke": STROKES[mark.role],
        "stroke-width": "0.5" if mark.role != "baked" else "0.25",
    }
    if mark.role == "baked":
        look["stroke-dasharray"] = "2 1.5"
    x, y, (w, h) = mark.x_mm, mark.y_mm, mark.box_mm
    if mark.points:
        corners = " ".join(f"{a:.3f},{b:.3f}" for a, b in mark.corners)
        ElementTree.SubElement(parent, "polygon", {"points": corners} | look)
    elif mark.outline == "round":
        place = {"cx": f"{x:.3f}", "cy": f"{y:.3f}", "rx": f"{w / 2:.3f}", "ry": f"{h / 2:.3f}"}
        ElementTree.SubElement(parent, "ellipse", place | look)
    elif mark.outline == "hexagon":
        corners = " ".join(f"{a:.3f},{b:.3f}" for a, b in hexagon(mark))
        ElementTree.SubElement(parent, "polygon", {"points": corners} | look)
    else:
        place = {
            "x": f"{x - w / 2:.3f}",
            "y": f"{y - h / 2:.3f}",
            "width": f"{w:.3f}",
            "height": f"{h:.3f}",
        }
        ElementTree.SubElement(parent, "rect", place | look)


def write_svg(template: Template, control: ControlLine = METRIC_LINE) -> bytes:
    """The template as an SVG document whose user unit is a millimetre."""
    wide, tall = template.across_mm, template.down_mm
    root = ElementTree.Element(
        "svg",
        {
            "xmlns": SVG,
            "width": f"{wide:.3f}mm",
            "height": f"{tall:.3f}mm",
            "viewBox": f"0 0 {wide:.3f} {tall:.3f}",
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
    }
    ElementTree.SubElement(root, "rect", frame)
    for mark in template.marks:
        _mark(root, mark)
    _control_line(root, wide, tall, control)
    text = ElementTree.tostring(root, encoding="unicode")
    return f'<?xml version="1.0" encoding="utf-8"?>\n{text}\n'.encode()


def _control_line(
    root: ElementTree.Element, wide: float, tall: float, control: ControlLine
) -> None:
    """A line to lay a ruler on, along the lower edge."""
    if wide < control.mm + 4:
        return
    y = f"{tall - 3:.3f}"
    line = {
        "x1": "2",
        "x2": f"{2 + control.mm:g}",
        "y1": y,
        "y2": y,
        "stroke": "#a8201a",
        "stroke-width": "0.4",
    }
    ElementTree.SubElement(root, "line", line)
    text = {"x": "2", "y": f"{tall - 4:.3f}", "font-size": "3", "fill": "#a8201a"}
    ElementTree.SubElement(root, "text", text).text = control.words


def tiles(length_mm: float, area_mm: float, overlap_mm: float) -> int:
    """How many tiles with that overlap cover a length."""
    return max(1, math.ceil((length_mm - overlap_mm) / (area_mm - overlap_mm) - 1e-9))
