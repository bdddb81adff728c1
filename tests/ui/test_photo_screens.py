"""A tray measured by its photo: outlines seen, one corrected, the record kept, the map drawn."""

import re
from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from tests.drawn_trays import DrawnPiece, DrawnTray, draw, run_together
from tests.ui.conftest import Served
from tests.ui.test_screens import check_axe


@pytest.fixture
def photo(tmp_path: Path) -> Path:
    """Twelve pieces, the right ones darker; two ran together."""
    pieces = [
        DrawnPiece(60.0 + 95 * x, 55.0 + 97 * y, 35.0, 13.0, 3.6 + 0.4 * x)
        for y in range(3)
        for x in range(4)
    ]
    run_together(pieces[5], pieces[6], by=3)
    drawn = DrawnTray(pieces=pieces, tilt=9, camera_mm=600, bend=-0.03)
    file = tmp_path / "tray.jpg"
    file.write_bytes(draw(drawn, np.random.default_rng(8), (1000, 750)))
    return file


def test_a_photo_is_measured_put_right_and_written_down(
    page: Page, served: Served, photo: Path
) -> None:
    page.goto(f"{served.address}/book/1")
    before = page.locator("[data-figure=next]").inner_text()
    page.get_by_label("Choose a photo").first.set_input_files(photo)
    panel = page.get_by_role("region", name="The tray by its photo")
    expect(panel.get_by_role("status")).to_contain_text("12 pieces.", timeout=20_000)
    expect(panel).to_contain_text(re.compile(r"Wide\s*(69|70|71)\.\d mm in the mean"))
    expect(panel).to_contain_text("B2 and B3 touch.")
    expect(panel).to_contain_text("The right side is")
    check_axe(page)
    # One outline is wrong, one is no piece.
    panel.get_by_role("button", name="A2", exact=True).click()
    panel.get_by_label("wide, in mm").fill("74")
    panel.get_by_role("button", name="C4", exact=True).focus()
    page.keyboard.press("Enter")
    panel.get_by_role("button", name="Strike C4 out").click()
    # A corner moved by the arrows measures all anew; what was put right was of the one before.
    corner = panel.get_by_role("button", name=re.compile("^The sheet's upper left corner"))
    at = corner.get_attribute("aria-label")
    corner.focus()
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("ArrowRight")
    expect(corner).to_have_attribute("aria-label", at or "")
    take = panel.get_by_role("button", name="Take these 12 into the record")
    expect(take).to_be_enabled(timeout=20_000)
    panel.get_by_role("button", name="C4", exact=True).click()
    panel.get_by_role("button", name="Strike C4 out").click()
    panel.get_by_role("button", name="Take these 11 into the record").click()
    form = page.get_by_role("form", name="Record a bake")
    expect(form).to_contain_text("11 pieces by the photo")
    expect(form.get_by_role("radio", name="gold")).to_have_attribute("aria-checked", "true")
    form.get_by_role("button", name="Write it down").click()
    # Pieces that touch are a trouble: what they come from is looked for at once.
    expect(page.get_by_role("combobox", name="What went wrong")).to_have_value("ran_together")
    expect(page.locator("[data-figure=next]")).not_to_have_text(before)
    page.get_by_role("tab", name="What was learnt").click()
    oven = page.get_by_role("region", name="The oven's map")
    expect(oven).to_contain_text("It browns first at the right")
    oven.get_by_role("button", name="Turn and place trays by this").click()
    expect(oven).to_contain_text("The kitchen knows")
    check_axe(page)
