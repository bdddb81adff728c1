"""From the occasion to the leftovers: on Plan and in the Larder, by hand."""

import re

from playwright.sync_api import Page, expect

from tests.plans import plan_in
from tests.ui.conftest import Served
from tests.ui.test_screens import check_axe

DROPS, SHORTBREAD = "Rye, date & tahini drops", "Black-sesame shortbread"


def test_an_occasion_is_planned_kept_and_planned_as_it_was_eaten(
    page: Page, served: Served
) -> None:
    page.goto(f"{served.address}/plan")
    page.get_by_text("For an occasion").click()
    page.get_by_label("How many pieces").fill("50")
    page.get_by_label("Called", exact=True).fill("Advent tea")
    add = page.get_by_label("Add a kind to the occasion")
    for name in (DROPS, SHORTBREAD):
        add.select_option(label=name)
    check_axe(page, within="[aria-label='The occasion']")
    page.get_by_role("button", name="Make the doughs and the plan").click()
    row = page.get_by_role("row", name=re.compile(DROPS)).first
    expect(row).to_contain_text(re.compile(r"for 25"))
    expect(row).to_contain_text(re.compile(r"\d eggs?"))
    expect(page.get_by_label("Name of the session")).to_have_value("Advent tea")
    ready = page.get_by_label("The plan in figures")
    expect(ready).to_contain_text("First:")
    page.get_by_text("For an occasion").click()
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Kept as Advent tea.")).to_be_visible()
    page.get_by_role("button", name="What was left?").click()
    page.get_by_label("left", exact=True).first.fill("9")
    page.get_by_role("button", name="Write it down").click()
    expect(page.get_by_text(re.compile("41 eaten, 9 left"))).to_be_visible()
    page.get_by_role("button", name="Plan it as it was eaten").click()
    expect(page.get_by_label("How many pieces", exact=True)).to_have_value("41")
    expect(page.get_by_label(re.compile("Pieces, or empty")).first).to_have_value("16")
    check_axe(page, within="[aria-label='The occasion']")


def test_half_a_dough_is_made_and_the_same_dough_once_more(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/plan/1")
    times = page.get_by_label(f"How many times its card {DROPS} is made")
    pieces = page.get_by_label(f"How many pieces of {DROPS}; empty for all")
    expect(pieces).to_have_attribute("placeholder", "35")
    times.fill("1/2")
    times.press("Enter")
    expect(pieces).to_have_attribute("placeholder", "17")
    expect(times).to_have_value("½")
    page.get_by_label("Add a dough to the session").select_option(label=f"{DROPS}, once more")
    expect(page.get_by_role("link", name=f"{DROPS} (2)")).to_be_visible()
    page.get_by_label(f"{DROPS} (2) comes").select_option(label="on a later day")
    expect(page.get_by_label("not portioned before")).to_have_value(re.compile("08:00"))
    expect(page.locator("[data-figure=finish]")).to_contain_text(re.compile("[A-Z][a-z]{2} "))


def test_what_is_in_the_house_is_on_the_lists(page: Page, served: Served) -> None:
    plan_in(page.request, served.address, 1)
    page.goto(f"{served.address}/larder")
    expect(page.get_by_label("What can be made")).to_contain_text("Nothing yet")
    page.get_by_role("button", name=re.compile("^Tahini")).click()
    page.get_by_label("Bought").fill("20 g")
    page.get_by_label("A pack holds").fill("300 g")
    page.get_by_label("and costs").fill("4.2")
    page.get_by_role("button", name="Put it in").click()
    expect(page.get_by_label("In the house: Tahini").get_by_text("packs of 300 g")).to_be_visible()
    check_axe(page, within="[aria-label^='In the house']")
    page.goto(f"{served.address}/plan")
    page.get_by_text("To buy, to weigh").click()
    line = page.get_by_label("To buy").get_by_role("listitem").filter(has_text="Tahini")
    expect(line).to_contain_text("20 g are there")
    expect(line).to_contain_text("1 pack of 300 g")
    expect(page.get_by_label("What it costs")).to_contain_text("a piece")
    check_axe(page, within="details:has([aria-label='To weigh'])")
    page.get_by_role("link", name="Print these lists").click()
    expect(page.get_by_role("row", name=re.compile("Tahini"))).to_contain_text("60 g")


def test_plan_on_a_phone_begins_with_the_finish_the_first_job_and_start(
    page: Page, served: Served
) -> None:
    plan_in(page.request, served.address, 1)
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{served.address}/plan")
    for shown in (page.locator("[data-figure=finish]"), page.get_by_text("First:")):
        expect(shown).to_be_in_viewport(ratio=1)
    expect(page.get_by_role("button", name="Start baking now")).to_be_in_viewport(ratio=1)
