"""A paper template as PDF at 1 : 1, tiled over A4 or Letter sheets to be stuck together.

Neighbouring tiles share a strip of `OVERLAP_MM`, its edge dashed on both; each has a control line
(100 mm, or 4 in) which shows at once when a printer has scaled the page.
"""

from io import BytesIO
from typing import Any

from fontTools.pens.basePen import BasePen
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from finebatch.core.piece.paper import METRIC_LINE, ControlLine, Mark, Paper, Template
from finebatch.core.values import Point
from finebatch.facts.typefaces import open_font
from finebatch.formats.lettering import Run, cut, set_line
from finebatch.formats.template_svg import EDGE_MM, WIDTHS, tiles

PAPERS_MM: dict[Paper, tuple[float, float]] = {"A4": (210.0, 297.0), "Letter": (215.9, 279.4)}
MARGIN_MM, FOOT_MM, OVERLAP_MM = 10.0, 24.0, 10.0
LETTERS_MM = 3.0
"""The size of letters."""
LAST_TOLD = "\uffff"
UNSEEN, FILL_NON_ZERO = 3, 1
"""Of text that is not drawn, and of outlines that lie over each other."""
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
        """One outline, where some of it is on this page."""
        across, down = mark.box_mm
        reach = (across + self.wide) / 2 + EDGE_MM, (down + self.tall) / 2 + EDGE_MM
        off = mark.x_mm - self.left - self.wide / 2, mark.y_mm - self.top - self.tall / 2
        if abs(off[0]) > reach[0] or abs(off[1]) > reach[1]:
            return
        canvas = self.canvas
        canvas.setStrokeColorRGB(*(CRUST if mark.role == "baked" else INK))
        canvas.setLineWidth(WIDTHS[mark.role] * mm)
        canvas.setDash(*((2 * mm, 1.5 * mm) if mark.role == "baked" else (1, 0)))
        if not mark.lines:
            x1, y1 = self.at(mark.x_mm - across / 2, mark.y_mm - down / 2)
            x2, y2 = self.at(mark.x_mm + across / 2, mark.y_mm + down / 2)
            canvas.ellipse(x1, y2, x2, y1)
            return
        path = canvas.beginPath()
        for line in mark.placed:
            first, *others = (self.at(x, y) for x, y in line)
            path.moveTo(*first)
            for corner in others:
                path.lineTo(*corner)
            if mark.role != "line":
                path.close()
        canvas.drawPath(path)

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
        """The control line and what the page is; what does not fit is cut, never where it lies."""
        canvas = self.canvas
        canvas.setDash(1, 0)
        canvas.setStrokeColorRGB(*CAUTION)
        canvas.setFillColorRGB(*INK)
        canvas.setLineWidth(0.4 * mm)
        y = FOOT_MM - 5
        canvas.line(MARGIN_MM * mm, y * mm, (MARGIN_MM + control.mm) * mm, y * mm)
        for end in (MARGIN_MM, MARGIN_MM + control.mm):
            canvas.line(end * mm, (y - 1.5) * mm, end * mm, (y + 1.5) * mm)
        text = (
            f"{control.words}: measure it. If it is not, print again at 100 %, without fitting "
            "to the page."
        )
        self.letters(text, MARGIN_MM, y - 4.5, self.wide)
        taken = self.letters(where, MARGIN_MM, y - 8.5, self.wide) + LETTERS_MM
        self.letters(template.title, MARGIN_MM + taken, y - 8.5, self.wide - taken)
        self.letters(template.said, MARGIN_MM, y - 12.5, self.wide)

    def letters(self, text: str, x_mm: float, y_mm: float, most_mm: float) -> float:
        """A line of text from that place of the page, cut where it is wider; how wide it is, in mm.
        What is shaped is drawn as outlines, and lies there as text, unseen, to be found and copied.
        """
        line = set_line(cut(text, most_mm / LETTERS_MM))
        canvas, size = self.canvas, LETTERS_MM * mm
        x = x_mm * mm
        for run in line.runs:
            letters = canvas.beginText(x, y_mm * mm)
            letters.setFont(_registered(run.font.file), size)
            if not run.is_plain:
                path = _Path(canvas, x, y_mm * mm, size / run.em)
                run.draw(path)
                canvas.drawPath(path.path, stroke=0, fill=1, fillMode=FILL_NON_ZERO)
                letters.setTextRenderMode(UNSEEN)
            letters.textOut(_as_found(run))
            canvas.drawText(letters)
            x += run.advance * size
        return float(x / mm - x_mm)


def _as_found(run: Run) -> str:
    """The letters of a run as readers of a page expect them: from left to right, and none that a
    page's table of letters cannot tell."""
    letters = run.text if run.direction == "ltr" else run.text[::-1]
    return "".join(letter for letter in letters if letter <= LAST_TOLD)


class _Path(BasePen):  # type: ignore[misc]
    """A pen that draws on a page, from a place, at a size."""

    def __init__(self, canvas: Any, x: float, y: float, by: float) -> None:
        super().__init__(None)
        self.path: Any = canvas.beginPath()
        self.place = x, y, by

    def at(self, point: Point) -> Point:
        """A place of the outline on the page."""
        x, y, by = self.place
        return x + by * point[0], y + by * point[1]

    def _moveTo(self, pt: Point) -> None:  # noqa: N802
        self.path.moveTo(*self.at(pt))

    def _lineTo(self, pt: Point) -> None:  # noqa: N802
        self.path.lineTo(*self.at(pt))

    def _curveToOne(self, pt1: Point, pt2: Point, pt3: Point) -> None:  # noqa: N802
        self.path.curveTo(*self.at(pt1), *self.at(pt2), *self.at(pt3))

    def _closePath(self) -> None:  # noqa: N802
        self.path.close()


def _registered(file: str) -> str:
    """A font by the name under which a page uses it; one file's letters are never another's."""
    name = file.removesuffix(".woff2")
    if name not in pdfmetrics.getRegisteredFontNames():
        font = TTFont(name, BytesIO(open_font(file)[0]))
        font.face.name = name.encode()
        pdfmetrics.registerFont(font)
    return name


def write_pdf(template: Template, paper: Paper, control: ControlLine = METRIC_LINE) -> bytes:
    """The template on as many sheets of paper as it takes, row by row."""
    size = PAPERS_MM[paper]
    out = BytesIO()
    canvas = Canvas(out, pagesize=(size[0] * mm, size[1] * mm), invariant=True, pageCompression=1)
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
