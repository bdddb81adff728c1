"""The Plan screen with several doughs, and the Kitchen screen, by hand and by keyboard."""

import json
import re
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.plans import plan_in
from tests.ui.conftest import Served


def test_doughs_join_a_session_and_leave_it(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/tray/1")
    page.get_by_role("link", name=re.compile("^Plan these")).click()
    expect(page.get_by_role("img", name=re.compile("trays of one dough"))).to_be_visible()
    add = page.get_by_label("Add a dough to the session")
    add.select_option(label="Black-sesame shortbread")
    expect(page.get_by_role("img", name=re.compile("trays of 2 doughs"))).to_be_visible()
    expect(page.get_by_role("row", name=re.compile("Mix dough B")).first).to_be_visible()
    page.get_by_label("Black-sesame shortbread comes").select_option("fridge")
    expect(page.get_by_role("row", name=re.compile("Mix dough B"))).to_have_count(0)
    page.get_by_role("button", name="Take Rye, date & tahini drops out").click()
    expect(page.get_by_role("img", name=re.compile("trays of one dough"))).to_be_visible()
    page.reload()
    expect(page.get_by_label("Black-sesame shortbread comes")).to_have_value("fridge")


def test_eight_now_and_the_rest_kept(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/plan/1")
    field = page.get_by_label("How many pieces of Rye, date & tahini drops; empty for all")
    field.fill("8")
    field.press("Enter")
    expect(page.get_by_text("pieces, the rest kept cold")).to_be_visible()
    expect(page.get_by_role("row", name=re.compile("Wrap the rest"))).to_contain_text("27 pieces")


def test_a_job_is_pinned_from_the_run_sheet_and_unpinned(page: Page, served: Served) -> None:
    found = plan_in(page.request, served.address, 1)
    later = (
        next(a["start_at"] for a in found["activities"] if a["key"] == "A1.portion") + 30 * 60_000
    )
    page.goto(f"{served.address}/plan")
    time = page.evaluate("ms => new Date(ms).toTimeString().slice(0, 5)", later)
    begin = page.get_by_label("Begin at: Portion tray A1")
    begin.fill(time)
    begin.press("Enter")
    pin = page.get_by_role("button", name=re.compile("^Unpin: portion tray A1"))
    expect(pin).to_be_visible()
    expect(begin).to_have_value(time)
    pin.click()
    expect(pin).to_have_count(0)


def test_a_job_is_dragged_to_another_time(page: Page, served: Served) -> None:
    plan_in(page.request, served.address, 1, 3)
    page.goto(f"{served.address}/plan")
    job = page.locator("g[data-drag='A1.portion'] rect").first
    box = job.bounding_box()
    assert box
    page.mouse.move(box["x"] + 2, box["y"] + 5)
    page.mouse.down()
    page.mouse.move(box["x"] + 62, box["y"] + 5, steps=4)
    page.mouse.up()
    expect(page.get_by_role("button", name=re.compile("^Unpin: portion tray A1"))).to_be_visible()


def test_what_would_help_is_taken_with_one_press(page: Page, served: Served) -> None:
    plan_in(page.request, served.address, 1, 3, sheets=1)
    page.goto(f"{served.address}/plan")
    page.get_by_role("button", name="Plan it again each way").click()
    help_row = page.get_by_role("listitem").filter(has_text="one more sheet")
    help_row.get_by_role("button", name=re.compile("Take it")).click(timeout=60_000)
    expect(page.locator("output").first).to_have_text("2")
    expect(page.get_by_text("Bench, sheet 2")).to_be_visible()


def test_files_go_out_and_come_in(page: Page, served: Served, tmp_path: Path) -> None:
    found = plan_in(page.request, served.address, 1, 2)
    text = page.request.get(f"{served.address}/api/sessions/{found['id']}/file").text()
    assert json.loads(text)["name"] == found["name"]
    kept = tmp_path / "session.json"
    kept.write_text(text, encoding="utf-8")
    page.request.delete(f"{served.address}/api/plan")
    page.goto(f"{served.address}/plan")
    expect(page.get_by_text("Nothing is planned.")).to_be_visible()
    page.get_by_text("Files", exact=True).click()
    page.get_by_label("Bring in a session file").set_input_files(kept)
    expect(page.get_by_role("img", name=re.compile("trays of 2 doughs"))).to_be_visible()
    wrong = tmp_path / "wrong.ics"
    wrong.write_text("hello", encoding="utf-8")
    page.get_by_label("Busy times from a calendar").set_input_files(wrong)
    expect(page.get_by_text("That is no calendar").first).to_be_visible()


def test_the_weighing_list_of_the_session(page: Page, served: Served) -> None:
    plan_in(page.request, served.address, 1, 3)
    page.goto(f"{served.address}/plan")
    page.get_by_text("To weigh, and out of the cold").click()
    flour = page.get_by_role("listitem").filter(has_text="All-purpose (plain) flour")
    expect(flour.last).to_contain_text("A, B")
    expect(page.get_by_text("to soften").first).to_be_visible()


def test_the_kitchen_is_changed_and_kept(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/kitchen")
    page.get_by_role("button", name="More: Oven shelves").click()
    expect(page.get_by_role("img", name=re.compile("2 shelves"))).to_be_visible()
    fridge = page.get_by_role("textbox", name="Fridge", exact=True)
    fridge.fill("40")
    fridge.press("Enter")
    expect(page.get_by_text(re.compile("at most 12")).first).to_be_visible()
    fridge.fill("3.5")
    fridge.press("Enter")
    page.get_by_label("A helper’s name").fill("Kim")
    page.keyboard.press("Enter")
    page.get_by_label("a child").click()
    expect(page.get_by_text("nothing hot or sharp")).to_be_visible()
    page.reload()
    expect(page.get_by_text("nothing hot or sharp")).to_be_visible()
    expect(fridge).to_have_value("3.5")
