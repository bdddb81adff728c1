"""A tray measured by its photo: outlines seen, one corrected, the record kept, the map drawn."""

import re
from base64 import b64encode
from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from tests.drawn_trays import DrawnTray, draw, run_together, three_rows
from tests.ui.conftest import Served
from tests.ui.test_companion import start
from tests.ui.test_screens import check_axe


@pytest.fixture
def photo(tmp_path: Path) -> Path:
    """Twelve pieces, the right ones darker; two ran together."""
    pieces = three_rows(35.0, 13.0, 3.6, browner=0.4)
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
    drop(page, photo)
    panel = page.get_by_role("region", name="The tray by its photo")
    expect(panel.get_by_role("status")).to_contain_text("12 pieces.", timeout=20_000)
    expect(panel).to_contain_text(re.compile(r"Wide\s*(69|70|71)\.\d mm in the mean"))
    expect(panel).to_contain_text("B2 and B3 touch.")
    expect(panel).to_contain_text("The right side is")
    check_axe(page)
    # On a rack pieces lie beside something white, of a size that the baker may give.
    panel.get_by_label("The four marks are on").select_option("other")
    panel.get_by_label("wide, in mm").fill("3")
    expect(panel).to_contain_text("Give 4.0 to 100.0 cm.")
    panel.get_by_label("wide, in mm").fill("297")
    panel.get_by_label("deep, in mm").fill("210")
    expect(panel.get_by_role("status")).to_contain_text("the corners of what is white")
    panel.get_by_label("The four marks are on").select_option("sheet")
    expect(panel.get_by_role("status")).to_contain_text("12 pieces.")
    # A size is not taken that is no longer seen.
    panel.get_by_label("The four marks are on").select_option("other")
    expect(panel.get_by_label("deep, in mm")).to_have_value("")
    expect(panel.get_by_role("status")).to_be_empty()
    panel.get_by_label("The four marks are on").select_option("sheet")
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


def drop(page: Page, photo: Path) -> None:
    """Drag a file over the window and let it go there."""
    expect(page.get_by_role("button", name="Write it down")).to_be_visible()
    held = page.evaluate_handle(
        """([name, bytes]) => {
            const held = new DataTransfer();
            const sent = Uint8Array.from(atob(bytes), (sign) => sign.charCodeAt(0));
            held.items.add(new File([sent], name, { type: "image/jpeg" }));
            return held;
        }""",
        [photo.name, b64encode(photo.read_bytes()).decode()],
    )
    page.dispatch_event("h1", "dragover", {"dataTransfer": held})
    expect(page.get_by_text("Drop the photo: it measures the tray")).to_be_visible()
    page.dispatch_event("h1", "drop", {"dataTransfer": held})
    expect(page.get_by_text("Drop the photo: it measures the tray")).to_be_hidden()


def test_a_loaded_tray_is_looked_at_before_it_goes_in(
    page: Page, served: Served, tmp_path: Path
) -> None:
    session = start(page, served.address, 1)
    events = f"{served.address}/api/sessions/{session['id']}/events"
    for key, minutes in (("A.mix", 15), ("A.form", 1), ("A.fetch", 60)):
        served.clock.pass_minutes(minutes)
        page.request.post(events, data={"kind": "done", "activity": key})
    page.reload()
    page.get_by_role("button", name=re.compile("Do this first: portion tray A1", re.I)).click()
    tray = page.request.get(f"{served.address}/api/sessions/{session['id']}/doughs/A/tray").json()
    half = tray["tray"]["lies"]["raw_mm"]["across"] / 2
    pieces = three_rows(half, 18.0, 1.3)
    pieces[5].half *= 1.12
    pieces[2].x -= 48
    drawn = DrawnTray(
        pieces=pieces, tilt=5, camera_mm=600, bend=-0.03, chips=False, surface="silicone"
    )
    photo = tmp_path / "loaded.jpg"
    photo.write_bytes(draw(drawn, np.random.default_rng(9), (1000, 750)))
    looked = page.get_by_role("region", name="The loaded tray by a photo")
    looked.get_by_label("Choose a photo").set_input_files(photo)
    expect(looked).to_contain_text("12 of 12 portions", timeout=20_000)
    expect(looked).to_contain_text(re.compile(r"B2 is \d\d % heavier than the others\."))
    expect(looked).to_contain_text("A2 and A3 will touch: move them apart.")
    # The space bar is of the piece that has the focus, not of the job.
    title = page.get_by_role("heading", level=1).inner_text()
    looked.get_by_role("button", name="B2", exact=True).focus()
    page.keyboard.press(" ")
    expect(looked).to_contain_text(re.compile(r"B2: \d\d mm wide, \d+ mm to the next"))
    expect(page.get_by_role("heading", level=1)).to_have_text(title)
