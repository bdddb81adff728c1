"""The Book and the Cold store as bakers use them."""

import io
import re
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from tests.ui.conftest import Served, every_job
from tests.ui.test_screens import check_axe


@pytest.fixture
def photo(tmp_path: Path) -> Path:
    out = io.BytesIO()
    Image.new("RGB", (800, 600), (190, 140, 80)).save(out, "JPEG")
    file = tmp_path / "bake.jpg"
    file.write_bytes(out.getvalue())
    return file


def test_a_bake_that_went_wrong_is_written_down_and_explained(
    page: Page, served: Served, photo: Path
) -> None:
    page.goto(f"{served.address}/book/1")
    for n, mm in enumerate((71, 72), start=1):
        page.get_by_label(f"piece {n}").fill(str(mm))
    page.get_by_label("In the oven").fill("14")
    trouble = page.get_by_role("button", name="hard or dry")
    trouble.click()
    expect(trouble).to_have_attribute("aria-pressed", "true")
    page.get_by_text("Touch and taste").click()
    page.get_by_role("button", name="crisp", exact=True).click()
    own = page.get_by_label("A word of your own for the taste")
    own.fill("smoky")
    own.press("Enter")
    page.get_by_label("Choose a photo").first.set_input_files(photo)
    page.get_by_role("button", name="Write it down").click()
    finder = page.get_by_role("region", name="Trouble finder")
    expect(finder.get_by_text("It was in the oven for too long")).to_be_visible()
    expect(finder.get_by_text("It was in for 14.0 min").first).to_be_visible()
    check_axe(page)
    minutes = page.request.get(f"{served.address}/api/doughs/1/troubles/hard_dry").json()["minutes"]
    finder.get_by_role("button", name=re.compile("Make it so: baked less")).click()
    expect(finder.get_by_role("status")).to_contain_text("Made.")
    after = page.request.get(f"{served.address}/api/doughs/1/troubles/hard_dry").json()["minutes"]
    assert after < minutes
    page.get_by_role("tab", name="Bakes").click()
    first = page.get_by_role("region", name="Bakes").get_by_role("listitem").first
    expect(first).to_contain_text("crisp, smoky")
    expect(first.get_by_role("img")).to_be_visible()
    check_axe(page)


def test_what_parts_them_is_ranked_by_what_it_does_and_made(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/book/1")
    page.get_by_role("tab", name="Trouble finder").click()
    finder = page.get_by_role("region", name="Trouble finder")
    finder.get_by_label("What went wrong").select_option("ran_together")
    helps = finder.get_by_role("region", name="What would help")
    expect(helps).to_contain_text("To come apart they need about")
    expect(helps.get_by_role("listitem").first).to_contain_text("all that is needed")
    check_axe(page)
    before = page.request.get(f"{served.address}/api/kitchen").json()["gap_mm"]
    helps.get_by_role("button", name=re.compile("more room")).click()
    expect(finder.get_by_role("status")).to_contain_text("Made.")
    assert page.request.get(f"{served.address}/api/kitchen").json()["gap_mm"] == before + 20


def test_a_pan_is_written_down_by_its_height_and_a_cut_piece(page: Page, served: Served) -> None:
    tray = page.request.get(f"{served.address}/api/doughs/3").json()["tray"]
    pan = {"kind": "pan", "shape": "square", "across_mm": 200, "down_mm": 200, "wall_mm": 40}
    piece = {**pan, "thickness_mm": 12, "scored_across": 5, "scored_down": 5}
    page.request.put(f"{served.address}/api/doughs/3/tray", data={**tray, "piece": piece})
    page.goto(f"{served.address}/book/3")
    expect(page.get_by_text("How long is the side of a cut piece")).to_be_visible()
    page.get_by_label("high, in").fill("14")
    page.get_by_label("piece 1").fill("40")
    page.get_by_role("button", name="Write it down").click()
    bakes = page.get_by_role("region", name="Bakes")
    expect(bakes).to_contain_text("the side of a cut piece")
    expect(bakes).to_contain_text(re.compile(r"14 mm high, \d+ mm foreseen"))


def test_a_photo_that_is_none_keeps_the_bake_and_says_so(
    page: Page, served: Served, tmp_path: Path
) -> None:
    fake = tmp_path / "drawing.jpg"
    fake.write_text("<svg xmlns='http://www.w3.org/2000/svg'/>")
    page.goto(f"{served.address}/book/3")
    page.get_by_label("piece 1").fill("55")
    page.get_by_label("Choose a photo").first.set_input_files(fake)
    page.get_by_role("button", name="Write it down").click()
    expect(page.get_by_role("alert")).to_contain_text("This is no JPEG and no PNG")
    expect(page.get_by_text("5.5 cm").first).to_be_visible()


def test_two_bakes_side_by_side_and_one_left_out(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/book/1")
    expect(page.get_by_role("checkbox")).to_have_count(2)
    for tick in page.get_by_role("checkbox").all():
        tick.check()
    beside = page.get_by_role("region", name="Side by side")
    expect(beside.get_by_role("row", name=re.compile("measured"))).to_contain_text("6.6 cm")
    expect(beside.get_by_role("row", name=re.compile("went wrong"))).to_contain_text("ran into")
    following = page.locator("[data-figure=next]")
    expect(following).to_contain_text("from 2 of your bakes")
    page.get_by_role("button", name="Do not count it").first.click()
    expect(following).to_contain_text("from 1 of your bakes")
    expect(beside.get_by_text("Does not count, as you said.")).to_be_visible()
    page.get_by_role("button", name="Let Fine Batch weigh it").first.click()
    expect(following).to_contain_text("from 2 of your bakes")
    page.get_by_role("tab", name="What was learnt").click()
    page.get_by_role("button", name="Learning is on: switch it off").click()
    expect(following).to_contain_text("Nothing measured of this dough yet")
    check_axe(page)


def test_the_whole_book_is_searched_given_out_and_brought_in(
    page: Page, served: Served, tmp_path: Path
) -> None:
    page.goto(f"{served.address}/book")
    said = page.get_by_role("status").first
    expect(said).to_have_text("4 of 4 bakes")
    check_axe(page)
    page.get_by_label("Search").fill("caramel")
    expect(said).to_have_text("1 of 4 bakes")
    page.get_by_label("Search").fill("")
    page.get_by_label("What went wrong").select_option("pale")
    expect(page.get_by_role("listitem").filter(has_text="Pale below")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("link", name="Give it out as CSV").click()
    file = tmp_path / "book.csv"
    download.value.save_as(file)
    chooser = page.get_by_label("Bring a CSV in")
    chooser.set_input_files(file)
    expect(page.get_by_text("0 bakes added, 4 were there already")).to_be_visible()
    broken = tmp_path / "broken.csv"
    broken.write_text("day,dough\nsome day,Nothing\n")
    chooser.set_input_files(broken)
    expect(page.get_by_text("Line 2: “some day” is no day.")).to_be_visible()


def test_dough_is_put_away_and_taken_out_for_a_session(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough")
    page.get_by_role("link", name=re.compile("use it today")).click()
    check_axe(page)
    form = page.get_by_role("form", name="Put away")
    form.get_by_label("Dough").select_option(label="Rye, date & tahini drops")
    form.get_by_label("It gives").fill("12")
    form.get_by_role("radio", name="freezer").click()
    form.get_by_role("button", name="Put it away").click()
    freezer = page.get_by_role("region", name="Freezer")
    kept = freezer.get_by_role("listitem").filter(has_text="Rye")
    kept.get_by_role("button").first.click()
    kept.get_by_label("pieces").fill("8")
    kept.get_by_role("button", name="Bake them").click()
    expect(page.get_by_label("Rye, date & tahini drops comes")).to_have_value("freezer")
    every_job(page)
    expect(page.get_by_role("row", name=re.compile("Lay out tray A1"))).to_contain_text("8 pieces")
    page.goto(f"{served.address}/cold")
    kept = page.get_by_role("region", name="Freezer").get_by_role("listitem").filter(has_text="Rye")
    expect(kept).to_contain_text("4 pieces as portions")
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
