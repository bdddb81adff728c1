"""What was thrown away is taken back where it was pressed, and from the Kitchen screen; everything
goes out and comes in."""

import re

from playwright.sync_api import Page, expect

from tests.ui.conftest import Served
from tests.ui.test_screens import check_axe


def test_a_dough_is_thrown_away_and_taken_back_twice(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough/3")
    name = page.get_by_label("Name of the dough").input_value()
    for place in ("here", "kitchen"):
        page.goto(f"{served.address}/dough/3")
        page.get_by_role("button", name="Throw this dough away").click()
        page.get_by_role("button", name="Throw it away").click()
        expect(page.get_by_text(f"{name} lies in the bin")).to_be_visible()
        if place == "here":
            check_axe(page, within="[aria-live]:has(button)")
            page.get_by_role("button", name="Take it back").click()
        else:
            page.goto(f"{served.address}/kitchen")
            thrown = page.get_by_role("region", name="Bin")
            expect(thrown.get_by_role("listitem")).to_have_count(1)
            check_axe(page, within="[aria-label='Bin']")
            thrown.get_by_role("button", name=f"Put {name} back").click()
            expect(thrown.get_by_text("Nothing in the last 30 days")).to_be_visible()
        page.goto(f"{served.address}/dough")
        expect(
            page.get_by_role("link", name=re.compile(re.escape(name) + ".*Short"))
        ).to_be_visible()


def test_everything_goes_out_and_comes_in_again(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/kitchen")
    copies = page.get_by_role("region", name="Copies")
    with page.expect_download() as saved:
        copies.get_by_role("link", name="Save everything as open files").click()
    page.request.delete(f"{served.address}/api/doughs/1")
    copies.get_by_label("Bring in one from another disk").set_input_files(saved.value.path())
    expect(copies.get_by_text("from another disk,")).to_be_visible()
    check_axe(page, within="[aria-label='Copies']")
    served.clock.pass_minutes(1)
    copies.get_by_role("button", name="Put it back").click()
    page.get_by_role("dialog").get_by_role("button", name="Put it back").click()
    expect(copies.get_by_text("It is back")).to_be_visible()
    page.goto(f"{served.address}/dough")
    expect(page.get_by_text("4 in all")).to_be_visible()
    page.goto(f"{served.address}/kitchen")
    copies.get_by_role("button", name=re.compile("^Throw the copy")).first.click()
    page.get_by_role("dialog").get_by_role("button", name="Throw it away").click()
    expect(copies.get_by_role("listitem")).to_have_count(1)
