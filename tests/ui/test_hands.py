"""Floury hands, two windows, a server that goes away: the screens as they are really used."""

import re

from playwright.sync_api import Browser, Page, expect

from tests.plans import at_hand_in
from tests.ui.conftest import Served


def test_a_card_is_written_by_keyboard_alone(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough")
    page.get_by_role("button", name="Start one").focus()
    page.keyboard.press("Enter")
    name = page.get_by_label("Name of the dough")
    expect(name).to_have_value("New dough")
    name.focus()
    page.keyboard.press("Control+a")
    page.keyboard.type("By keys")
    page.get_by_role("button", name="Add a line").focus()
    page.keyboard.press("Enter")
    page.get_by_label("Amount, line 1").focus()
    page.keyboard.type("1 1/2")
    page.keyboard.press("Tab")
    page.keyboard.type("c")
    page.keyboard.press("Tab")
    page.keyboard.type("flour")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowUp")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Unit, line 1", exact=True)).to_have_value("cup")
    ingredient = page.get_by_label("Ingredient, line 1", exact=True)
    expect(ingredient).to_have_value(re.compile("flour", re.IGNORECASE))
    expect(page.locator("[data-figure=total]")).not_to_have_text("0 g")
    page.get_by_label("Type the next line").focus()
    page.keyboard.type("2 large eggs")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Amount, line 2")).to_have_value("2")
    page.keyboard.type("¾ cup packed light brown sugar")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Unit, line 3")).to_have_value("cup")
    expect(page.get_by_text("Kept.", exact=True)).to_be_visible()
    page.get_by_role("link", name="All doughs").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("link", name=re.compile("By keys.*3 lines"))).to_be_visible()


def test_escape_leaves_the_ingredient_as_it_was(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough/1")
    field = page.get_by_label("Ingredient, line 1", exact=True)
    field.fill("sug")
    expect(page.get_by_role("listbox")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("listbox")).to_have_count(0)
    expect(field).to_have_value("Unsalted butter")


def test_another_ingredient_brings_a_unit_that_fits(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough/1")
    expect(page.get_by_label("Unit, line 1", exact=True)).to_have_value("stick")
    page.get_by_label("Ingredient, line 1", exact=True).fill("honey")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Unit, line 1", exact=True)).to_have_value("g")


def test_two_windows_on_one_dough_say_so(browser: Browser, page: Page, served: Served) -> None:
    other = browser.new_page()
    for each in (page, other):
        each.goto(f"{served.address}/dough/2")
        expect(each.get_by_label("Amount, line 1")).to_have_value("300")
    page.get_by_label("Amount, line 1").fill("310")
    expect(page.get_by_text("Kept.", exact=True)).to_be_visible()
    expect(page.get_by_text("310 g").first).to_be_visible()
    page.wait_for_timeout(500)
    other.get_by_label("Amount, line 1").fill("290")
    expect(other.get_by_text("changed in another window")).to_be_visible()
    expect(other.get_by_label("Amount, line 1")).to_have_value("290")
    kept = page.request.get(f"{served.address}/api/doughs/2").json()
    assert kept["card"]["lines"][0]["amount"] == "310"
    other.get_by_role("button", name="Keep this one as a new version").click()
    expect(other.get_by_text("Kept.", exact=True)).to_be_visible()
    other.get_by_role("tab", name="Versions").click()
    rows = other.get_by_role("list", name="Versions").get_by_role("listitem")
    expect(rows.first).to_contain_text("310 → 290 g")
    other.close()


def test_the_space_bar_is_the_large_button(page: Page, served: Served) -> None:
    at_hand_in(page.request, served.address, 1)
    page.goto(f"{served.address}/plan/1")
    page.get_by_role("button", name="Start baking now").click()
    expect(page.get_by_role("heading", name="Mix the dough")).to_be_visible()
    page.locator("h1").click()
    page.keyboard.press("Space")
    expect(page.get_by_role("heading", name="Wrap it airtight")).to_be_visible()
    page.get_by_role("button", name="Take back").click()
    expect(page.get_by_role("heading", name="Mix the dough")).to_be_visible()


def test_every_screen_says_what_comes_next_in_the_session(page: Page, served: Served) -> None:
    at_hand_in(page.request, served.address, 1)
    page.goto(f"{served.address}/dough/1")
    expect(page.get_by_role("banner")).to_contain_text("logs in the fridge: use it today")
    page.goto(f"{served.address}/plan/1")
    page.get_by_role("button", name="Start baking now").click()
    page.get_by_role("link", name="Dough", exact=True).click()
    line = page.get_by_role("link", name=re.compile("next: mix the dough"))
    expect(line).to_be_visible()
    line.click()
    expect(page.get_by_role("heading", name="Mix the dough")).to_be_visible()


def test_two_screens_on_one_session_agree(browser: Browser, page: Page, served: Served) -> None:
    at_hand_in(page.request, served.address, 1)
    page.goto(f"{served.address}/plan/1")
    page.get_by_role("button", name="Start baking now").click()
    other = browser.new_page()
    other.goto(f"{served.address}/bake")
    expect(other.get_by_role("heading", name="Mix the dough")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Done")).click()
    expect(other.get_by_role("heading", name="Wrap it airtight")).to_be_visible()
    other.close()


def test_a_second_session_waits_for_the_first(page: Page, served: Served) -> None:
    at_hand_in(page.request, served.address, 1)
    page.goto(f"{served.address}/plan/1")
    page.get_by_role("button", name="Start baking now").click()
    expect(page.get_by_role("heading", name="Mix the dough")).to_be_visible()
    page.goto(f"{served.address}/plan/2")
    page.get_by_role("button", name="Start baking now").click()
    expect(page.get_by_text("is being baked. Finish it first.")).to_be_visible()


def test_day_and_evening_colours(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough/1")
    before = page.evaluate("getComputedStyle(document.body).backgroundColor")
    page.get_by_role("button", name="Day or evening colours").click()
    after = page.evaluate("getComputedStyle(document.body).backgroundColor")
    assert before != after
    # They stay, until others are chosen on this device.
    page.reload()
    expect(page.get_by_role("button", name="Day or evening colours")).to_be_visible()
    assert page.evaluate("getComputedStyle(document.body).backgroundColor") == after


def test_a_bake_taken_out_of_the_book_changes_the_next_prediction(
    page: Page, served: Served
) -> None:
    page.goto(f"{served.address}/book/1")
    expect(page.locator("[data-figure=next]")).to_contain_text("from 2 of your bakes")
    page.get_by_role("button", name=re.compile("^Take the bake of")).first.click()
    expect(page.locator("[data-figure=next]")).to_contain_text("from 1 of your bakes")
    expect(page.get_by_text("Taken out of the book.")).to_be_visible()


def test_a_dough_that_is_gone_says_so(page: Page, served: Served) -> None:
    for screen in ("dough", "tray", "plan", "book"):
        page.goto(f"{served.address}/{screen}/99")
        expect(page.get_by_text("That dough is not there, or not any more.")).to_be_visible()


def test_an_address_that_is_none_leads_to_the_doughs(page: Page, served: Served) -> None:
    for path in ("/nowhere", "/tray/x", "/plan/-1"):
        page.goto(served.address + path)
        expect(page.get_by_role("heading", name="Doughs", exact=True)).to_be_visible()


def test_the_name_typed_is_on_every_screen_at_once(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough/3")
    page.get_by_label("Name of the dough").fill("Sesame rounds 🌾")
    page.get_by_role("link", name="Tray", exact=True).click()
    expect(page.get_by_role("heading", name="Sesame rounds 🌾")).to_be_visible()
    page.get_by_role("link", name="Book", exact=True).click()
    expect(page.get_by_role("heading", name="Sesame rounds 🌾")).to_be_visible()
