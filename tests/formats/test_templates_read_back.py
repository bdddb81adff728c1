"""Templates of every kind at all sizes, read back by libraries that did not write them: nothing
lies over anything else or leaves the sheet, and names of any script are printed."""

import math
import random
import warnings
from collections.abc import Iterator, Sequence
from dataclasses import replace
from io import BytesIO
from itertools import combinations
from typing import Any

import pypdfium2
import pytest
from pypdf import PdfReader
from shapely import Polygon
from svgelements import SVG, Ellipse, Path, Shape

from finebatch.core.piece.cutter import OUTLINES, Cutter
from finebatch.core.piece.kinds.every import KINDS
from finebatch.core.piece.kinds.portioning import Portioning, moved
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.kinds.rope import Roped
from finebatch.core.piece.paper import Template
from finebatch.core.piece.rope_line import RopeForm
from finebatch.core.piece.rows import Sheet
from finebatch.core.piece.template import sheet_template
from finebatch.core.piece.tray import foresee_tray
from finebatch.core.refusal import Refusal
from finebatch.formats.template_pdf import FOOT_MM, MARGIN_MM, PAPERS_MM, write_pdf
from finebatch.formats.template_svg import EDGE_MM, write_svg
from tests.chance import so_many
from tests.pieces import basis_of

POINT_MM = 25.4 / 72
SHEET = Sheet(405, 360)
FORMS: Sequence[RopeForm] = ("straight", "ring", "twist", "spiral", "bow", "s", "crossed")
SHAPES = ("round", "square", "rectangle", "hexagon", "leaf", "star", "heart", "own")
SIZES = (0.4, 0.6, 0.8, 1.25, 1.6, 2.5)
HAIR_MM2 = 0.5


def templates_of(piece: Portioning, sheet: Sheet = SHEET) -> Iterator[Template]:
    """Those that there are of a piece."""
    try:
        found = foresee_tray(basis_of(sheet=sheet), piece)
        yield sheet_template("Oat rounds", found, piece, (sheet.width_mm, sheet.depth_mm), 0)
        if piece.SAYS.slab:
            yield piece.slab("Oat rounds", found.making)
    except Refusal:
        return


def outline(shape: Shape) -> Polygon:
    """What a shape of an SVG lies on, without its holes."""
    if isinstance(shape, Ellipse):
        turns = [2 * math.pi * k / 64 for k in range(64)]
        x, y = float(shape.cx), float(shape.cy)
        rx, ry = float(shape.rx), float(shape.ry)
        return Polygon([(x + rx * math.cos(t), y + ry * math.sin(t)) for t in turns])
    corners = [part.end for part in next(Path(shape).as_subpaths())]
    return Polygon([(float(at.x), float(at.y)) for at in corners]).buffer(0)


def read_svg(template: Template) -> dict[str, list[Polygon]]:
    """The outlines of an SVG by what they stand for, in mm."""
    read = SVG.parse(BytesIO(write_svg(template)), ppi=25.4)
    found: dict[str, list[Polygon]] = {}
    for shape in read.elements(lambda one: isinstance(one, Shape)):
        role = shape.values.get("class")
        if role in ("raw", "baked", "cut"):
            found.setdefault(role, []).append(outline(shape))
    return found


def faults_of(template: Template) -> list[str]:
    """What lies over something else, or off the sheet."""
    found = []
    least, most = EDGE_MM - 0.01, EDGE_MM + 0.01
    for role, outlines in read_svg(template).items():
        for place in outlines:
            left, top, right, bottom = place.bounds
            if (
                min(left, top) < least
                or right > template.across_mm + most
                or bottom > template.down_mm + most
            ):
                found.append(f"{role} leaves the sheet")
        for one, other in combinations(outlines, 2):
            if one.intersects(other) and one.intersection(other).area > HAIR_MM2:
                found.append(f"{role} lies over another")
    return found


def every_size(kind: str) -> Iterator[Portioning]:
    usual = KINDS[kind]()
    yield usual
    for handle in usual.HANDLES:
        for by in SIZES:
            try:
                yield moved(usual, handle, by)
            except (Refusal, ValueError):
                continue


@pytest.mark.parametrize("kind", [kind for kind in KINDS if "pan" not in kind])
def test_nothing_lies_over_anything_at_any_size(kind: str) -> None:
    drawn = [each for piece in every_size(kind) for each in templates_of(piece)]
    assert len(drawn) >= len(SIZES) / 2
    assert [fault for each in drawn for fault in faults_of(each)] == []


@pytest.mark.parametrize("form", FORMS)
def test_a_rope_is_drawn_in_its_form(form: RopeForm) -> None:
    chance = random.Random(form)
    drawn = 0
    for _ in range(so_many(4)):
        piece = Roped(chance.uniform(10, 50), chance.uniform(80, 300), form=form)
        for template in templates_of(piece):
            assert faults_of(template) == []
            drawn += 1
            raw = next(mark for mark in template.marks if mark.role == "raw")
            assert raw.lines
            body = Polygon(raw.placed[0], raw.placed[1:])
            box = math.prod(raw.box_mm)
            # No rectangle, and a ring has its hole.
            assert body.area < (0.995 if form == "straight" else 0.93) * box
            assert len(body.interiors) >= (form == "ring")
    assert drawn >= 2


def test_a_check_that_finds_nothing_finds_what_is_wrong() -> None:
    template = next(templates_of(Roped()))
    wider = [replace(mark, x_mm=mark.x_mm * 0.4) for mark in template.marks]
    assert "baked lies over another" in faults_of(replace(template, marks=tuple(wider)))
    off = [replace(mark, y_mm=mark.y_mm - 40) for mark in template.marks]
    assert "baked leaves the sheet" in faults_of(replace(template, marks=tuple(off)))


@pytest.mark.parametrize("shape", SHAPES)
@pytest.mark.parametrize("box", [(30.0, 80.0), (90.0, 40.0), (60.0, 60.0)])
def test_a_cutter_is_drawn_in_its_own_proportions(shape: Any, box: tuple[float, float]) -> None:
    area = box[0] * box[1] / 160 if shape == "own" else None
    cutter = Cutter(shape, *box, area)
    sheet, slab = templates_of(Rolled(4, cutter))
    assert faults_of(sheet) == faults_of(slab) == []
    for template, role in ((sheet, "raw"), (slab, "cut")):
        mark = next(mark for mark in template.marks if mark.role == role)
        left, top, right, bottom = read_svg(template)[role][0].bounds
        wide, tall = mark.box_mm
        assert (right - left, bottom - top) == pytest.approx((wide, tall), abs=0.2)
        assert sorted((wide, tall)) == pytest.approx(sorted(cutter.box_mm))
        if shape in OUTLINES:
            assert len(mark.lines[0]) == len(OUTLINES[shape])


@pytest.mark.parametrize("piece", [Roped(form="ring"), Rolled(4, Cutter("leaf", 48, 82))])
def test_the_pdf_shows_each_outline_whole_or_on_both_sides_of_a_seam(piece: Portioning) -> None:
    template = next(templates_of(piece))
    paper = PAPERS_MM["A4"]
    pages = pypdfium2.PdfDocument(write_pdf(template, "A4"))
    wide, tall = paper[0] - 2 * MARGIN_MM, paper[1] - MARGIN_MM - FOOT_MM
    there = []
    for page in pages:
        where = page.get_textpage().get_text_bounded()
        row, column = (int(where.split(word)[1].split()[0]) for word in ("Row ", "column "))
        left, top = (column - 1) * (wide - 10) - MARGIN_MM, (row - 1) * (tall - 10)
        for drawn in page.get_objects(filter=[pypdfium2.raw.FPDF_PAGEOBJ_PATH]):
            x1, y1, x2, y2 = (at * POINT_MM for at in drawn.get_bounds())
            up = FOOT_MM + tall + top
            there.append((left + x1, up - y2, left + x2, up - y1))
    for mark in template.marks:
        across, down = (side / 2 for side in mark.box_mm)
        wanted = (mark.x_mm - across, mark.y_mm - down, mark.x_mm + across, mark.y_mm + down)
        near = min(max(abs(a - b) for a, b in zip(box, wanted, strict=True)) for box in there)
        assert near < 1.0, mark.role


NAMES = [
    "Crème brûlée № 5",
    "クッキー",
    "香草饼干",
    "쿠키",
    "Пряник",
    "Κουλούρια",
    "بسكويت بالتمر 12",
    "עוגיות שומשום",
    "मेवा बिस्कुट",
    "ขนมปัง",
    "ქართული",
    "🍪 cookies",
    "a\u0301 e\u0308",
    "𒀀 nobody reads",
    "Very long and then some, " * 12,
    "長い名前の" * 40,
]


@pytest.mark.parametrize("name", NAMES, ids=range(len(NAMES)))
def test_a_name_is_printed_in_its_script_and_cut_before_its_place(name: str) -> None:
    template = replace(next(templates_of(KINDS["drop"]())), title=name)
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        contents = write_pdf(template, "A4")
        read = PdfReader(BytesIO(contents), strict=True)
    assert read.metadata is not None
    assert read.metadata.title == name
    words = [word for word in name.split() if max(word) < "\U00010000"]
    wide = PAPERS_MM["A4"][0]
    for number, page in enumerate(pypdfium2.PdfDocument(contents)):
        text = page.get_textpage().get_text_bounded()
        assert f"Row {number // 3 + 1} of 2, column {number % 3 + 1} of 3." in text
        # Marks that are one letter with what they stand on come out as that.
        if len(name) < 30 and name.isprintable() and "\u0301" not in name:
            assert words == [] or words[0][:4] in text or words[-1][:4] in text
        for drawn in page.get_objects():
            left, bottom, right, top = (at * POINT_MM for at in drawn.get_bounds())
            if top < FOOT_MM - 1:
                assert MARGIN_MM - 1 <= left <= right <= wide - MARGIN_MM + 1
                assert bottom > 3


@pytest.mark.parametrize("name", NAMES[:-2], ids=range(len(NAMES) - 2))
def test_a_name_is_drawn_with_letters_of_its_script(name: str) -> None:
    """No box stands for a letter that a font which ships has."""
    template = replace(next(templates_of(KINDS["drop"]())), title=name)
    read = SVG.parse(BytesIO(write_svg(template)), ppi=25.4)
    wanted = {name, template.said}
    named = [one for one in read.elements() if one.values.get("aria-label") in wanted]
    assert named
    for one in read.elements(lambda e: isinstance(e, Path) and "transform" in e.values):
        left, _, right, bottom = one.bbox()
        assert left >= EDGE_MM - 0.5
        assert right <= template.across_mm + EDGE_MM + 0.5
        assert bottom > template.down_mm
