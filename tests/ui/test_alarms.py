"""An alarm is heard wherever one is: on another screen, from a hidden window, on the chosen one."""

import re

from playwright.sync_api import Browser, Page, expect

from tests.ui.conftest import TOKEN, Served
from tests.ui.test_companion import put_into_oven, start
from tests.ui.test_screens import check_axe

HEARD = re.compile("hot|over")

HIDE = """() => {
  Object.defineProperty(document, "visibilityState", { configurable: true, get: () => "hidden" });
  document.dispatchEvent(new Event("visibilitychange"));
}"""
SPOKEN = """
window.spoken = [];
speechSynthesis.speak = (said) => window.spoken.push(said.text);
"""


def call_now(page: Page, served: Served) -> None:
    """Let the tray in the oven be due, wherever the page is."""
    page.evaluate("delete document.documentElement.dataset.heard")
    served.clock.pass_minutes(4)


def test_it_is_heard_and_seen_on_another_screen(page: Page, served: Served) -> None:
    put_into_oven(page, served, start(page, served.address, 1))
    page.get_by_role("link", name="Larder").click()
    expect(page.get_by_role("heading", level=1, name="Larder")).to_be_visible()
    call_now(page, served)
    expect(page.locator("html")).to_have_attribute("data-heard", HEARD)
    expect(page).to_have_title("Now: Take tray A1 out – Larder – Fine Batch")
    expect(page.locator("[data-calls]")).to_contain_text("Take tray A1 out")
    check_axe(page)
    page.get_by_role("button", name="Day or evening colours").click()
    check_axe(page)
    page.get_by_role("link", name="To Bake").click()
    page.get_by_role("button", name=re.compile("^Done")).click()
    expect(page).not_to_have_title(re.compile("Take tray A1 out"))


def test_it_is_heard_from_a_hidden_window(browser: Browser, served: Served) -> None:
    mine = browser.new_context(extra_http_headers={"x-fine-batch-token": TOKEN})
    mine.grant_permissions(["notifications"], origin=served.address)
    mine.add_init_script(SPOKEN)
    page = mine.new_page()
    put_into_oven(page, served, start(page, served.address, 1))
    page.get_by_role("button", name="It does not speak").click()
    page.get_by_role("button", name="Notices are off").click()
    expect(page.get_by_role("button", name="Notices are on")).to_be_visible()
    page.evaluate(HIDE)
    call_now(page, served)
    html = page.locator("html")
    expect(html).to_have_attribute("data-heard", HEARD)
    expect(html).to_have_attribute("data-noticed", "Take tray A1 out")
    expect(page).to_have_title(re.compile("^Now: Take tray A1 out"))
    assert page.evaluate("window.spoken").count("Take tray A1 out") >= 1
    # A second window of the same browser does not ring as well.
    second = mine.new_page()
    second.goto(f"{served.address}/larder")
    second.get_by_role("heading", level=1).click()
    expect(second).to_have_title(re.compile("^Now: Take tray A1 out"))
    served.clock.pass_minutes(2)
    page.evaluate("delete document.documentElement.dataset.heard")
    expect(html).to_have_attribute("data-heard", "over")
    assert second.locator("html").get_attribute("data-heard") is None
    mine.close()


def test_the_chosen_screen_alone_rings(browser: Browser, page: Page, served: Served) -> None:
    put_into_oven(page, served, start(page, served.address, 1))
    page.get_by_role("heading", level=1).click()
    phone = browser.new_page(
        viewport={"width": 390, "height": 844}, screen={"width": 390, "height": 844}, has_touch=True
    )
    phone.goto(f"{served.address}/bake")
    phone.get_by_role("heading", level=1).click()
    rings = page.get_by_label("Which screen rings")
    expect(rings).to_contain_text("Only Phone")
    rings.select_option("Only Phone")
    expect(phone.get_by_label("Which screen rings")).to_have_value(re.compile(".{8}"))
    phone.wait_for_timeout(100)
    for screen in (page, phone):
        screen.evaluate("delete document.documentElement.dataset.heard")
    served.clock.pass_minutes(4)
    expect(phone.locator("html")).to_have_attribute("data-heard", HEARD)
    expect(page).to_have_title(re.compile("^Now: "))
    assert page.locator("html").get_attribute("data-heard") is None
