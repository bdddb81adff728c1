"""Templates at 1 : 1: every outline where it lies, on as much paper as it takes."""

import re
from dataclasses import replace
from io import BytesIO
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pypdf import PdfReader

from finebatch.core.measures.figures import read_in
from finebatch.core.piece.cutter import Cutter
from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.kinds.pan import Pan
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.kinds.twice_baked import TwiceBaked
from finebatch.core.piece.paper import Template
from finebatch.core.piece.template import sheet_template
from finebatch.core.piece.tray import TrayAnswer, foresee_tray
from finebatch.core.refusal import Refusal
from finebatch.formats.template_pdf import OVERLAP_MM, PAPERS_MM, write_pdf
from finebatch.formats.template_svg import SVG, tiles, write_svg
from tests.pieces import basis_of

BASIS = basis_of()
SHEET = (405.0, 360.0)
LEAF = Rolled(4.5, Cutter("own", 48, 82, 26))


def tray(piece: Portioning) -> TrayAnswer:
    return foresee_tray(BASIS, piece)


def sheet_of(piece: Portioning) -> Template:
    return sheet_template("Oat rounds", tray(piece), piece, SHEET, 0)


@pytest.mark.parametrize("piece", [Drop(30), LEAF, TwiceBaked(), Rolled(cutter=Cutter("hexagon"))])
def test_every_piece_is_on_the_template_raw_and_baked(piece: Portioning) -> None:
    found, drawn = tray(piece), sheet_of(piece)
    centres = found.layouts[0].centres
    for role in ("raw", "baked"):
        marks = [m for m in drawn.marks if m.role == role]
        assert [(m.x_mm, m.y_mm) for m in marks] == list(centres)
    raw = next(m for m in drawn.marks if m.role == "raw")
    baked = next(m for m in drawn.marks if m.role == "baked")
    assert baked.across_mm >= raw.across_mm
    assert (drawn.across_mm, drawn.down_mm) == SHEET


def test_a_slab_is_drawn_with_its_cuts() -> None:
    drawn = LEAF.slab("Leaves", tray(LEAF).making)
    assert {(m.across_mm, m.down_mm, m.role) for m in drawn.marks} == {(48, 82, "cut")}
    assert "4.5 mm thick" in read_in(drawn.said)


def test_what_has_no_template_says_so() -> None:
    pan = Pan(wall_mm=60)
    with pytest.raises(Refusal, match="score it along a ruler"):
        sheet_template("Pan", tray(pan), pan, SHEET, 0)
    with pytest.raises(Refusal, match="Only rolled dough"):
        Drop().slab("Drops", tray(Drop()).making)
    with pytest.raises(Refusal, match="choose one of them"):
        sheet_template("Drops", tray(Drop()), Drop(), SHEET, 9)


def test_the_svg_is_in_millimetres_with_a_control_line() -> None:
    drawn = sheet_of(Drop(30))
    root = ElementTree.fromstring(write_svg(drawn))
    left, top, across, down = map(float, root.attrib["viewBox"].split())
    assert root.attrib["width"] == f"{across:.3f}mm"
    assert left < 0 and top < 0 and left + across > SHEET[0] and top + down > SHEET[1]
    ellipses = root.findall(f"{{{SVG}}}ellipse")
    assert len(ellipses) == len(drawn.marks)
    mark = drawn.marks[0]
    assert float(ellipses[0].attrib["rx"]) == pytest.approx(mark.across_mm / 2, abs=0.001)
    line = root.find(f"{{{SVG}}}line")
    assert line is not None
    assert float(line.attrib["x2"]) - float(line.attrib["x1"]) == 100
    assert float(line.attrib["y1"]) > SHEET[1]


def test_a_name_with_markup_stays_text() -> None:
    name = 'Oats <script>"&'
    drawn = replace(sheet_of(Drop(30)), title=name)
    root = ElementTree.fromstring(write_svg(drawn))
    title = root.find(f"{{{SVG}}}title")
    assert title is not None
    assert title.text == name
    assert "script" in PdfReader(BytesIO(write_pdf(drawn, "A4"))).pages[0].extract_text()


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_the_pdf_has_a_page_for_each_tile(paper: str) -> None:
    pages = PdfReader(BytesIO(write_pdf(sheet_of(Drop(30)), paper))).pages  # type: ignore[arg-type]
    wide, tall = PAPERS_MM[paper]  # type: ignore[index]
    assert float(pages[0].mediabox.width) == pytest.approx(wide / 25.4 * 72, abs=0.01)
    assert float(pages[0].mediabox.height) == pytest.approx(tall / 25.4 * 72, abs=0.01)
    said = [re.search(r"Row (\d) of (\d), column (\d) of (\d)", p.extract_text()) for p in pages]
    assert all(said)
    rows, columns = int(said[0][2]), int(said[0][4])  # type: ignore[index]
    assert len(pages) == rows * columns


def test_the_same_template_is_the_same_file() -> None:
    drawn = sheet_of(Drop(30))
    assert write_pdf(drawn, "A4") == write_pdf(drawn, "A4")


@given(st.floats(10, 2000), st.floats(50, 300))
def test_tiles_cover_a_length_and_no_tile_is_spare(length: float, area: float) -> None:
    count = tiles(length, area, OVERLAP_MM)
    reach = OVERLAP_MM + count * (area - OVERLAP_MM)
    assert reach >= length - 1e-6
    if count > 1:
        assert reach - (area - OVERLAP_MM) < length
