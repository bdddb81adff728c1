"""The Tray screen: each kind's handles and drawing, tries, sizes, chilling, moved pieces, files."""

import re
from io import BytesIO
from xml.etree import ElementTree

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.ui.conftest import Served
from tests.ui.test_screens import check_axe

KINDS = ["drop", "rolled", "sliced", "slab", "pan", "filled_pan", "rope", "twice_baked", "wafer"]
DRAWN_ANEW = ("rolled", "slab", "rope", "twice_baked")
"""Their drawings hold all that the others are drawn of."""
TABS = {
    "rolled": "Slab",
    "sliced": "Logs",
    "slab": "Slab",
    "pan": "Pan",
    "filled_pan": "Pan",
    "rope": "Rope",
    "twice_baked": "Slices",
    "wafer": "Shaping",
}


def figure(page: Page, name: str) -> str:
    return page.locator(f"[data-figure={name}]").first.inner_text()


def open_tray(page: Page, served: Served, dough: int = 1) -> None:
    page.goto(f"{served.address}/tray/{dough}")
    expect(page.locator("[data-figure=pieces]")).to_be_visible()


def test_each_kind_has_its_handles_and_its_drawing(page: Page, served: Served) -> None:
    for kind in KINDS:
        open_tray(page, served)
        page.get_by_label("The dough is").select_option(kind)
        if kind in TABS:
            page.get_by_role("tab", name=TABS[kind]).click()
            panel = page.get_by_role("tabpanel", name=TABS[kind])
            if kind != "wafer":
                said = panel.get_by_role("img").first.get_attribute("aria-label") or ""
                assert re.search(r"\d+(\.\d)? cm", said), said
            expect(panel).to_contain_text(re.compile("pieces|slices|rope|on a tray"))
        handle = page.get_by_role("slider").first
        expect(page.get_by_role("link", name=re.compile("^Plan th"))).to_be_visible()
        before = figure(page, "piece-mass")
        handle.focus()
        for _ in range(4):
            # All of the dough is in that pan already.
            page.keyboard.press("ArrowLeft" if kind == "filled_pan" else "ArrowRight")
        expect(page.locator("[data-figure=piece-mass]").first).not_to_have_text(before)
        if kind in DRAWN_ANEW:
            check_axe(page)


def test_a_kind_that_was_chosen_is_still_there_after_a_reload(page: Page, served: Served) -> None:
    open_tray(page, served)
    page.get_by_label("The dough is").select_option("rope")
    page.get_by_label("Baked", exact=True).select_option("ring")
    expect(page.locator("[data-figure=piece]")).to_contain_text("hole")
    with page.expect_response(lambda r: "160" in (r.request.post_data or "") and "/tray" in r.url):
        page.get_by_label("Length of the rope").first.fill("160")
    page.reload()
    expect(page.get_by_label("Baked", exact=True)).to_have_value("ring")
    expect(page.get_by_label("Length of the rope").first).to_have_value("160")


def test_a_scoop_sets_the_mass_by_this_doughs_density(page: Page, served: Served) -> None:
    open_tray(page, served)
    page.get_by_label("By", exact=True).select_option(label="no. 40, 24 ml")
    expect(page.get_by_label("Portions")).to_have_value("scooped")
    expect(page.locator("[data-figure=piece-mass]")).to_have_text("28.2 g")
    page.get_by_label("Filled").select_option("heaped")
    expect(page.locator("[data-figure=piece-mass]")).to_have_text("33.8 g")
    # So does a ball's width, beginning with the ball that it is.
    page.get_by_label("By", exact=True).select_option("ball")
    expect(page.get_by_label("Ball across")).to_have_value("38")
    page.get_by_label("Ball across").fill("1 in")
    page.get_by_label("Ball across").blur()
    expect(page.locator("[data-figure=piece-mass]")).to_have_text("10.1 g")


def test_an_effect_is_tried_and_then_left_or_kept(page: Page, served: Served) -> None:
    open_tray(page, served)
    before = figure(page, "width")
    movers = page.get_by_role("region", name="What moves it")
    movers.get_by_role("button", name=re.compile("sugar for flour")).click()
    movers.get_by_role("button", name=re.compile("Try 10 % less sugar")).click()
    banner = page.get_by_role("region", name="Being tried")
    expect(banner).to_contain_text("10 % less sugar")
    expect(page.locator("[data-figure=width]").first).not_to_have_text(before)
    banner.get_by_role("button", name="Leave it").click()
    expect(page.locator("[data-figure=width]").first).to_have_text(before)

    movers.get_by_role("button", name=re.compile("sugar for flour")).click()
    movers.get_by_role("button", name=re.compile("Try 10 % less sugar")).click()
    page.get_by_role("button", name="Keep as a new version").click()
    expect(banner).to_have_count(0)
    page.get_by_role("link", name="Dough", exact=True).click()
    page.get_by_role("tab", name="Versions").click()
    expect(page.get_by_label("Why version 3")).to_have_value("Tried: 10 % less sugar")


def test_the_question_turned_around_scales_the_dough(page: Page, served: Served) -> None:
    open_tray(page, served)
    page.get_by_role("tab", name="Sizes").click()
    page.get_by_label("Pieces", exact=True).fill("60")
    page.get_by_label("Baked across").fill("6")
    page.get_by_role("button", name="Just 60 of them").click()
    answers = page.get_by_role("list", name="Answers")
    expect(answers).to_contain_text("60 pieces of")
    answers.get_by_role("button", name="and scale the dough").click()
    expect(page.locator("[data-figure=pieces]")).to_have_text("60")
    expect(page.locator("[data-figure=width]").first).to_have_text("6.0 cm")
    page.get_by_label("Baked across").fill("90")
    page.get_by_role("button", name="As many as it gives").click()
    expect(page.get_by_role("alert").first).to_contain_text("Choose within that")


def test_a_size_of_the_ladder_is_taken(page: Page, served: Served) -> None:
    open_tray(page, served, 2)
    page.get_by_role("tab", name="Sizes").click()
    page.get_by_role("button", name="Take round 6 cm").click()
    expect(page.get_by_label("Cutter", exact=True)).to_have_value("round 6 cm")
    expect(page.locator("[data-figure=width]").first).to_have_text(re.compile(r"6\.\d cm"))


def test_the_chill_is_drawn_and_planned(page: Page, served: Served) -> None:
    open_tray(page, served, 3)
    page.get_by_role("tab", name="Chill").click()
    panel = page.get_by_role("region", name="Chill for this shape")
    expect(panel).to_contain_text("a log")
    expect(panel.get_by_role("img")).to_have_attribute("aria-label", re.compile("workable from"))
    page.get_by_role("radio", name="freezer").click()
    button = panel.get_by_role("button", name=re.compile("Plan .* min of chilling"))
    minutes = re.search(r"\d+", button.inner_text())
    assert minutes
    button.click()
    expect(panel).to_contain_text("min are planned now")
    check_axe(page)
    page.get_by_label("Dough from the bowl").fill("23")


def test_pieces_are_moved_by_keys_and_the_drawing_warns(page: Page, served: Served) -> None:
    open_tray(page, served)
    page.get_by_role("button", name="Move pieces").click()
    sheet = page.get_by_role("group", name=re.compile("Pieces on the sheet"))
    pieces = sheet.get_by_role("button")
    count = pieces.count()
    pieces.first.focus()
    for _ in range(4):
        page.keyboard.press("Shift+ArrowRight")
    expect(page.get_by_text(re.compile("would meet, by up to"))).to_be_visible()
    expect(pieces.first).to_have_accessible_name(re.compile("its rim would meet another"))
    page.keyboard.press("Delete")
    expect(pieces).to_have_count(count - 1)
    expect(page.get_by_text(re.compile("would meet, by up to"))).to_have_count(0)
    check_axe(page)
    page.get_by_role("button", name="Put them back").click()
    expect(pieces).to_have_count(count)


def test_a_piece_is_dragged_with_the_pointer(page: Page, served: Served) -> None:
    open_tray(page, served)
    page.get_by_role("button", name="Move pieces").click()
    piece = page.get_by_role("button", name=re.compile("^Piece 1,"))
    box = piece.bounding_box()
    assert box
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2 + 60, box["y"] + box["height"] / 2, steps=5)
    page.mouse.up()
    expect(page.get_by_text(re.compile("would meet, by up to"))).to_be_visible()


def test_the_gap_is_dragged_and_corners_left_free(page: Page, served: Served) -> None:
    open_tray(page, served)
    gap = page.get_by_role("slider", name="Gap between baked pieces")
    gap.focus()
    page.keyboard.press("End")
    expect(page.get_by_label("Gap", exact=True)).to_have_value("40")
    expect(page.locator("[data-figure=trays]")).to_contain_text(re.compile("^[4-9]"))
    page.get_by_role("button", name="Take back").click()
    expect(page.get_by_label("Gap", exact=True)).to_have_value("12")
    expect(page.get_by_role("button", name="Take back")).to_be_disabled()
    # Between the rims of the first two pieces it is dragged as far as the hand goes.
    box = gap.bounding_box()
    assert box
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.move(*middle)
    page.mouse.down()
    page.mouse.move(middle[0] + 12, middle[1], steps=4)
    page.mouse.up()
    expect(page.get_by_label("Gap", exact=True)).to_have_value(re.compile("^2[5-9]"))
    gap.press("Home")
    page.get_by_label("hot corners free").check()
    page.get_by_role("button", name="Move pieces").click()
    first = page.get_by_role("button", name=re.compile("^Piece 1,"))
    expect(first).to_have_accessible_name(re.compile(r"(\d\d|[7-9])\.\d cm from the (left|top)"))


def test_cutter_and_thickness_are_dragged_where_they_are_drawn(page: Page, served: Served) -> None:
    open_tray(page, served, 2)
    page.get_by_role("tab", name="Slab").click()
    cutter = page.get_by_role("slider", name="Size of the cutter, in the drawing")
    cutter.press("ArrowRight")
    expect(page.get_by_label("Cutter across", exact=True)).to_have_value("49")
    thick = page.get_by_role("slider", name="Thickness on the ruler, in the drawing")
    before = figure(page, "piece-mass")
    thick.press("Shift+ArrowUp")
    expect(page.get_by_label("Thickness", exact=True)).to_have_value("5")
    expect(page.locator("[data-figure=piece-mass]").first).not_to_have_text(before)
    expect(thick).to_have_attribute("aria-valuetext", "5 mm")
    check_axe(page)


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_the_template_is_tiled_at_its_own_size(page: Page, served: Served, paper: str) -> None:
    open_tray(page, served, 2)
    page.get_by_role("tab", name="Print").click()
    page.get_by_role("radio", name=paper).click()
    with page.expect_download() as waiting:
        page.get_by_role("button", name="The sheet with its pieces as PDF").click()
    assert waiting.value.suggested_filename == "cardamom-orange-leaves-sheet.pdf"
    pages = PdfReader(BytesIO(waiting.value.path().read_bytes())).pages
    wide = {"A4": 210, "Letter": 215.9}[paper]
    assert float(pages[0].mediabox.width) == pytest.approx(wide / 25.4 * 72, abs=0.1)
    # 405 × 305 mm takes three columns and two rows of either paper.
    assert len(pages) == 6
    text = pages[0].extract_text()
    assert "100 mm" in text
    assert "Row 1 of 2, column 1 of 3" in text


def test_the_slab_is_drawn_in_millimetres(page: Page, served: Served) -> None:
    open_tray(page, served, 2)
    page.get_by_role("tab", name="Print").click()
    with page.expect_download() as waiting:
        page.get_by_role("button", name="The slab with its cuts as SVG").click()
    root = ElementTree.fromstring(waiting.value.path().read_text())
    whole = float(root.attrib["width"].removesuffix("mm"))
    assert root.attrib["viewBox"].split()[2] == f"{whole:.3f}"
    width = next(float(each.attrib["width"]) for each in root if each.get("class") == "frame")
    page.get_by_role("tab", name="Slab").click()
    said = page.get_by_role("tabpanel", name="Slab").get_by_role("img").get_attribute("aria-label")
    assert said
    assert f"to {width / 10:.1f} ×" in said


def test_the_tray_card_is_one_page(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/print/tray/1")
    expect(page.get_by_role("heading", name=re.compile("the tray"))).to_be_visible()
    check_axe(page)
    assert len(PdfReader(BytesIO(page.pdf(format="A4"))).pages) == 1


def test_what_cannot_be_says_so_at_its_field(page: Page, served: Served) -> None:
    open_tray(page, served, 4)
    page.get_by_label("Cut leans").fill("90")
    expect(page.get_by_text("the knife runs along the log").first).to_be_visible()
    expect(page.get_by_label("Cut leans")).to_have_attribute("aria-invalid", "true")
    page.get_by_label("Cut leans").fill("30")
    expect(page.get_by_text("the knife runs along the log")).to_have_count(0)


def test_a_cutter_of_ones_own_is_kept_in_the_kitchen_and_taken_out(
    page: Page, served: Served
) -> None:
    open_tray(page, served, 2)
    page.get_by_label("Cutter across").first.fill("52")
    page.get_by_label("Name of this cutter").fill("Bay leaf")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_label("Cutter", exact=True)).to_have_value("Bay leaf")
    page.get_by_role("tab", name="Sizes").click()
    expect(page.get_by_role("button", name="Take Bay leaf")).to_be_visible()
    page.reload()
    expect(page.get_by_label("Cutter", exact=True)).to_have_value("Bay leaf")
    page.get_by_role("button", name="Take this cutter out of the kitchen").click()
    expect(page.get_by_label("Cutter", exact=True)).to_have_value("")


def test_another_sheet_is_chosen_by_its_name(page: Page, served: Served) -> None:
    open_tray(page, served)
    before = page.locator("[data-figure=trays]").inner_text()
    page.get_by_role("combobox", name="Sheet", exact=True).select_option("table-top oven")
    expect(page.get_by_label("Sheet across")).to_have_value("280")
    expect(page.locator("[data-figure=trays]")).not_to_have_text(before)
    page.get_by_label("Sheet across").fill("285")
    expect(page.get_by_role("combobox", name="Sheet", exact=True)).to_have_value("")


def test_a_filling_is_counted_for_all_pieces(page: Page, served: Served) -> None:
    open_tray(page, served)
    page.get_by_label("Then").select_option("dented")
    page.get_by_label("Filling each").fill("4")
    expect(page.locator("[data-figure=extra]")).to_have_text("4 g each, 140 g in all")
    page.get_by_text("Dipped or topped").click()
    page.get_by_label("Coat each").fill("1.5")
    expect(page.locator("[data-figure=extra]")).to_have_count(2)


def test_a_wanted_doneness_and_another_oven_change_the_minutes(page: Page, served: Served) -> None:
    open_tray(page, served)
    minutes = page.locator("[data-figure=minutes]")
    before = minutes.inner_text()
    page.get_by_label("Bake it").select_option("dry")
    expect(minutes).not_to_have_text(before)
    page.get_by_label("Oven", exact=True).select_option("fan")
    expect(page.locator("[data-figure=oven]")).to_contain_text("Still 200 °C")
    page.get_by_label("rested overnight").check()
    expect(page.get_by_role("button", name=re.compile("overnight rest"))).to_be_visible()


def test_so_many_leaves_from_this_dough_are_rolled_thinner(page: Page, served: Served) -> None:
    open_tray(page, served, 2)
    page.get_by_role("tab", name="Sizes").click()
    page.get_by_label("Pieces", exact=True).fill("60")
    page.get_by_role("button", name="60 of this size").click()
    answers = page.get_by_role("list", name="Answers").get_by_role("listitem")
    expect(answers).to_have_count(2)
    answers.nth(1).get_by_role("button", name="Take this size").click()
    expect(page.locator("[data-figure=pieces]")).to_have_text(re.compile("^6[0-2]$"))


def test_the_dough_is_shared_out_over_so_many_logs(page: Page, served: Served) -> None:
    open_tray(page, served, 4)
    page.get_by_role("button", name="More: Logs, all of it").click()
    expect(page.locator("[data-figure=pieces]")).to_have_text("3")
    expect(page.locator("[data-figure=leftover]")).to_have_text(re.compile(r"^0(\.\d)? g$"))


def test_the_width_goes_by_card_or_law_as_is_chosen(page: Page, served: Served) -> None:
    dough = page.request.get(f"{served.address}/api/doughs/1").json()
    card = {**dough["card"], "stated_width_mm": 84}
    page.request.put(f"{served.address}/api/doughs/1", data={"revision": dough["revision"], **card})
    page.goto(f"{served.address}/tray/1")
    said = page.locator("[data-figure=card-width]")
    expect(said).to_contain_text("The card says 8.4 cm across")
    width = page.locator("[data-figure=width]")
    joined = width.inner_text()
    said.get_by_role("radio", name="card").click()
    expect(width).not_to_have_text(joined)
    said.get_by_role("radio", name="reckoned").click()
    expect(said.get_by_role("radio", name="reckoned")).to_be_checked()
    check_axe(page)


def test_a_colour_that_is_wanted_takes_its_minutes(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/tray/1")
    minutes = page.locator("[data-figure=minutes]")
    usual = minutes.inner_text()
    expect(page.locator("[data-figure=inside]")).to_contain_text("Out at about 81 °C inside")
    page.get_by_label("Colour", exact=True).select_option("brown")
    expect(minutes).not_to_have_text(usual)


def test_a_dropped_dough_is_chilled_as_is_chosen(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/tray/1")
    page.get_by_role("tab", name="Chill").click()
    page.get_by_role("radio", name=re.compile("a lump")).click()
    expect(page.get_by_text("40 mm thick")).to_be_visible()


def test_stars_nest_on_the_slab(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/tray/2")
    page.get_by_label("Outline").select_option("star")
    page.get_by_role("tab", name="Slab").click()
    drawing = page.get_by_role("img", name=re.compile("Roll each of"))
    expect(drawing.locator("polygon").first).to_be_visible()
    check_axe(page)
