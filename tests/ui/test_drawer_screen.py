"""The drawer of doughs: favourites, labels, order, copies, and more doughs than a list shows."""

import re

from playwright.sync_api import Page, expect

from tests.ui.conftest import Served
from tests.ui.test_screens import check_axe


def test_a_dough_is_marked_labelled_and_copied(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough/3")
    marks = page.get_by_role("region", name="Marks")
    marks.get_by_role("button", name="Make it a favourite").click()
    expect(marks.get_by_role("button", name="A favourite")).to_be_visible()
    marks.get_by_label(re.compile("^Labels")).fill("for the fair, autumn")
    marks.get_by_role("button", name="Put it on").click()
    expect(marks.get_by_role("listitem")).to_have_count(2)
    marks.get_by_role("button", name="Take the label autumn off").click()
    expect(marks.get_by_role("listitem")).to_have_count(1)
    check_axe(page)
    # What is typed into the card meanwhile is kept as well.
    page.get_by_label("Amount, line 5").fill("50")
    expect(page.get_by_text("Kept.", exact=True)).to_be_visible()
    marks.get_by_role("button", name="Begin a copy of it").click()
    expect(page.get_by_label("Name of the dough")).to_have_value("Black-sesame shortbread, copy")
    expect(page.get_by_label("Amount, line 5")).to_have_value("50")

    page.goto(f"{served.address}/dough")
    rows = page.get_by_role("list", name="Doughs").get_by_role("listitem")
    expect(rows).to_have_count(5)
    expect(rows.first).to_contain_text("for the fair")
    page.get_by_role("radio", name="by name").click()
    expect(rows.nth(1)).to_contain_text("Black-sesame shortbread, copy")
    page.get_by_label("With the label").select_option("for the fair")
    expect(rows).to_have_count(2)
    rows.first.get_by_role("button", name=re.compile("is a favourite$")).click()
    expect(rows.first.get_by_role("button")).to_have_attribute("aria-pressed", "false")


def test_more_doughs_than_a_list_shows_are_found_in_every_list(page: Page, served: Served) -> None:
    for number in range(70):
        card = {"name": f"Trial {number}", "family": "drop", "lines": []}
        page.request.post(f"{served.address}/api/doughs", data=card)
    page.goto(f"{served.address}/dough")
    rows = page.get_by_role("list", name="Doughs").get_by_role("listitem")
    expect(rows).to_have_count(60)
    page.get_by_role("button", name="Show more").click()
    expect(rows).to_have_count(74)
    expect(page.get_by_text("74 in all.")).to_be_visible()
    page.goto(f"{served.address}/cold")
    page.get_by_label("Dough: find by name").fill("sesame")
    choice = page.get_by_label("Dough", exact=True)
    expect(choice.get_by_role("option")).to_have_count(2)
    choice.select_option(label="Black-sesame shortbread")
    expect(choice).to_have_value("3")
