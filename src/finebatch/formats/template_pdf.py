"""A paper template as PDF at 1 : 1, tiled over A4 or Letter sheets to be stuck together.

Neighbouring tiles share a strip of `OVERLAP_MM`, its edge dashed on both; each has a control line
(100 mm, or 4 in) which shows at once when a printer has scaled the page.
"""

from collections.abc import Sequence
from io import BytesIO
from typing import Literal

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from finebatch.core.piece.paper import METRIC_LINE, ControlLine, Mark, Template
from finebatch.core.values import Point
from finebatch.formats.template_svg import hexagon, tiles

Paper = Literal["A4", "Letter"]
PAPERS_MM: dict[Paper, tuple[float, float]] = {"A4": (210.0, 297.0), "Letter": (215.9, 279.4)}
MARGIN_MM, FOOT_MM, OVERLAP_MM = 10.0, 22.0, 10.0
INK, CRUST, CAUTION = (0.08, 0.14, 0.31), (0.69, 0.45, 0.18), (0.66, 0.13, 0.10)


class _Tile:
    """One page: which part of the template it shows, and where on the paper."""

    def __init__(self, canvas: Canvas, paper: tuple[float, float], column: int, row: int) -> None:
        self.canvas = canvas
        self.wide = paper[0] - 2 * MARGIN_MM
        self.tall = paper[1] - MARGIN_MM - FOOT_MM
        self.left = column * (self.wide - OVERLAP_MM)
        self.top = row * (self.tall - OVERLAP_MM)

    def at(self, x_mm: float, y_mm: float) -> tuple[float, float]:
        """A place of the template in points on this page; PDF counts upwards."""
        up = FOOT_MM + self.tall - (y_mm - self.top)
        return (MARGIN_MM + x_mm - self.left) * mm, up * mm

    def box(self, x_mm: float, y_mm: float, wide_mm: float, tall_mm: float) -> None:
        """A rectangle by its upper left corner."""
        x, y = self.at(x_mm, y_mm + tall_mm)
        self.canvas.rect(x, y, wide_mm * mm, tall_mm * mm)

    def mark(self, mark: Mark) -> None:
        """One outline."""
        canvas = self.canvas
        canvas.setStrokeColorRGB(*(CRUST if mark.role == "baked" else INK))
        canvas.setLineWidth(0.25 * mm if mark.role == "baked" else 0.5 * mm)
        canvas.setDash(*((2 * mm, 1.5 * mm) if mark.role == "baked" else (1, 0)))
        across, down = mark.box_mm
        left, top = mark.x_mm - across / 2, mark.y_mm - down / 2
        if mark.points:
            self.polygon(mark.corners)
        elif mark.outline == "box":
            self.box(left, top, across, down)
        elif mark.outline == "round":
            x1, y1 = self.at(left, top)
            x2, y2 = self.at(left + across, top + down)
            canvas.ellipse(x1, y2, x2, y1)
        else:
            self.polygon(hexagon(mark))

    def polygon(self, corners: Sequence[Point]) -> None:
        """An outline of straight sides."""
        path = self.canvas.beginPath()
        first, *others = (self.at(x, y) for x, y in corners)
        path.moveTo(*first)
        for corner in others:
            path.lineTo(*corner)
        path.close()
        self.canvas.drawPath(path)

    def seams(self, columns: int, rows: int, column: int, row: int) -> None:
        """Dashed lines where the next tiles are laid over this one."""
        canvas = self.canvas
        canvas.setStrokeColorRGB(*CAUTION)
        canvas.setLineWidth(0.2 * mm)
        canvas.setDash(1 * mm, 1 * mm)
        right, bottom = self.left + self.wide - OVERLAP_MM, self.top + self.tall - OVERLAP_MM
        if column < columns - 1:
            canvas.line(*self.at(right, self.top), *self.at(right, self.top + self.tall))
        if row < rows - 1:
            canvas.line(*self.at(self.left, bottom), *self.at(self.left + self.wide, bottom))
        if column:
            edge = self.left + OVERLAP_MM
            canvas.line(*self.at(edge, self.top), *self.at(edge, self.top + self.tall))
        if row:
            edge = self.top + OVERLAP_MM
            canvas.line(*self.at(self.left, edge), *self.at(self.left + self.wide, edge))

    def foot(self, template: Template, where: str, control: ControlLine) -> None:
        """The control line and what the page is."""
        canvas = self.canvas
        canvas.setDash(1, 0)
        canvas.setStrokeColorRGB(*CAUTION)
        canvas.setFillColorRGB(*INK)
        canvas.setLineWidth(0.4 * mm)
        y = (FOOT_MM - 5) * mm
        canvas.line(MARGIN_MM * mm, y, (MARGIN_MM + control.mm) * mm, y)
        for end in (MARGIN_MM, MARGIN_MM + control.mm):
            canvas.line(end * mm, y - 1.5 * mm, end * mm, y + 1.5 * mm)
        canvas.setFont("Helvetica", 8)
        text = (
            f"{control.words}: measure it. If it is not, print again at 100 %, without fitting "
            "to the page."
        )
        canvas.drawString(MARGIN_MM * mm, y - 4.5 * mm, text)
        canvas.drawString(
            MARGIN_MM * mm, y - 8.5 * mm, f"{template.title}. {template.said} {where}"
        )


def write_pdf(template: Template, paper: Paper, control: ControlLine = METRIC_LINE) -> bytes:
    """The template on as many sheets of paper as it takes, row by row."""
    size = PAPERS_MM[paper]
    out = BytesIO()
    canvas = Canvas(out, pagesize=(size[0] * mm, size[1] * mm), invariant=True)
    canvas.setTitle(template.title)
    columns = tiles(template.across_mm, size[0] - 2 * MARGIN_MM, OVERLAP_MM)
    rows = tiles(template.down_mm, size[1] - MARGIN_MM - FOOT_MM, OVERLAP_MM)
    for row in range(rows):
        for column in range(columns):
            tile = _Tile(canvas, size, column, row)
            canvas.saveState()
            window = canvas.beginPath()
            window.rect(MARGIN_MM * mm, FOOT_MM * mm, tile.wide * mm, tile.tall * mm)
            canvas.clipPath(window, stroke=0)
            canvas.setStrokeColorRGB(*INK)
            canvas.setLineWidth(0.8 * mm)
            tile.box(0, 0, template.across_mm, template.down_mm)
            for mark in template.marks:
                tile.mark(mark)
            tile.seams(columns, rows, column, row)
            canvas.restoreState()
            tile.foot(
                template, f"Row {row + 1} of {rows}, column {column + 1} of {columns}.", control
            )
            canvas.showPage()
    canvas.save()
    return out.getvalue()
