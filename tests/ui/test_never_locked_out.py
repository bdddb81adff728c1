"""Never locked out: by a screen that fails, a dough that is gone, or a stopped server."""

import re

import pytest
from playwright.sync_api import Page, Route, expect

from tests.ui.conftest import OwnServer, Served


@pytest.mark.loud
def test_a_screen_that_cannot_be_fetched_leaves_the_stages(page: Page, served: Served) -> None:
    page.route(re.compile(r"/assets/LarderView-"), lambda route: route.abort())
    page.goto(f"{served.address}/dough")
    page.get_by_role("link", name="Larder").click()
    expect(page.get_by_role("heading", name="This screen cannot be shown.")).to_be_visible()
    page.get_by_role("navigation", name="Stages").get_by_role("link", name="Dough").click()
    expect(page.get_by_role("heading", name="Doughs")).to_be_visible()
    page.get_by_role("link", name="Larder").click()
    page.unroute(re.compile(r"/assets/LarderView-"))
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("heading", name="Larder")).to_be_visible()


@pytest.mark.loud
def test_a_screen_that_throws_leaves_the_stages(page: Page, served: Served) -> None:
    def nonsense(route: Route) -> None:
        route.fulfill(json={"kept": [{"id": 1}], "now": "yesterday"})

    page.route("**/api/cold", nonsense)
    page.goto(f"{served.address}/cold")
    expect(page.get_by_role("button", name="Try again")).to_be_visible()
    expect(page.get_by_role("navigation", name="Stages")).to_be_visible()
    page.unroute("**/api/cold")
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("heading", name="Cold store").first).to_be_visible()


def test_a_dough_that_is_not_there_leads_to_the_list(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough/1")
    for address in ("tray/99999", "dough/99999", "book/99999", "tray/1x", "dough/0", "tray/1e99"):
        page.goto(f"{served.address}/{address}")
        expect(page.get_by_text("That dough is not there")).to_be_visible()
        expect(page).to_have_url(re.compile("/dough$"))
    # And it is not the one that the stages lead to.
    page.goto(served.address)
    expect(page.get_by_role("heading", name="Doughs")).to_be_visible()


def test_what_was_typed_while_the_server_was_stopped_is_kept_by_itself(
    page: Page, own_server: OwnServer
) -> None:
    page.goto(f"{own_server.address}/dough/1")
    name = page.get_by_label("Name of the dough")
    expect(name).to_be_visible()
    own_server.kill()
    name.fill("Typed while it was stopped")
    expect(page.get_by_text("Fine Batch does not answer").first).to_be_visible()
    expect(name).to_have_value("Typed while it was stopped")
    own_server.start()
    expect(page.get_by_text("Fine Batch does not answer")).to_have_count(0, timeout=20_000)
    page.reload()
    expect(page.get_by_label("Name of the dough")).to_have_value("Typed while it was stopped")


HIDE = """
Object.defineProperty(document, "visibilityState", {get: () => "hidden", configurable: true});
document.dispatchEvent(new Event("visibilitychange"));
"""
SHOW = HIDE.replace("hidden", "visible")


def test_eight_tabs_answer(page: Page, served: Served) -> None:
    """A browser opens six connections to a server: streams of tabs behind others take none."""
    tabs = [page, *(page.context.new_page() for _ in range(7))]
    for tab in tabs:
        tab.goto(f"{served.address}/dough")
        expect(tab.get_by_role("list", name="Doughs")).to_be_visible()
        if tab is not tabs[-1]:
            tab.evaluate(HIDE)
    first = tabs[0]
    first.evaluate(SHOW)
    first.get_by_role("link", name="Kitchen").click()
    expect(first.get_by_role("heading", name="Kitchen").first).to_be_visible()
    for tab in tabs[1:]:
        tab.close()
