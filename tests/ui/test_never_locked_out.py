"""Never locked out: by a screen that fails, a dough that is gone, or a stopped server."""

import re
from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, Route, expect

from finebatch.web.guard import TOKEN
from tests.ui.conftest import TOKEN as SENT
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
    page.get_by_role("navigation", name="Stages").get_by_role("link", name="Tray").click()
    expect(page.get_by_role("heading", name="Doughs")).to_be_visible()


def type_a_name(page: Page) -> None:
    page.get_by_label("Name of the dough").fill("Typed while it was stopped")


def set_the_tray(page: Page) -> None:
    page.get_by_label("Portions").select_option("weighed")


def plan_fewer(page: Page) -> None:
    field = page.get_by_label(re.compile("^How many pieces of")).first
    field.fill("14")
    field.blur()


def press_done(page: Page) -> None:
    page.get_by_role("button", name=re.compile("^Done")).click()


def record(page: Page) -> None:
    page.get_by_label("piece 1").fill("61")
    page.get_by_label("Note").fill("thin at the rim")
    page.get_by_role("button", name="Write it down").click()


def put_away(page: Page) -> None:
    form = page.get_by_role("form", name="Put away")
    form.get_by_label("Dough").select_option(index=2)
    form.get_by_label("It gives").fill("7")
    form.get_by_role("button", name="Put it away").click()


def set_the_fridge(page: Page) -> None:
    page.get_by_label("Fridge", exact=True).fill("6")
    page.get_by_label("Fridge", exact=True).blur()


def weigh_a_cup(page: Page) -> None:
    page.get_by_label("Spooned").fill("131")
    page.get_by_role("button", name="Keep these figures").click()


SCREENS: dict[str, tuple[str, Callable[[Page], None]]] = {
    "dough/1": ("input", type_a_name),
    "tray/1": ("text=What moves it", set_the_tray),
    "plan/1": ("text=What holds it up", plan_fewer),
    "bake": ("text=Give this session up", press_done),
    "book/3": ("text=Write it down", record),
    "cold": ("text=Put it away", put_away),
    "kitchen": ("text=Bowls, rack and cold", set_the_fridge),
    "larder": ("text=Choose an ingredient", weigh_a_cup),
}
"""What is seen on each screen before its server is stopped, and what is typed or pressed then."""


def test_what_is_typed_and_pressed_while_the_server_is_stopped_is_kept_by_itself(
    browser: Browser, own_server: OwnServer
) -> None:
    """Every screen says that nobody answers; once somebody does, all is kept, and nobody has
    pressed anything again."""
    # A browser opens six connections to a server, one of which each screen keeps.
    sent = {TOKEN: SENT}
    contexts = [browser.new_context(locale="en-GB", extra_http_headers=sent) for _ in "ab"]
    api, at = contexts[0].request, own_server.address
    plan = {"items": [{"dough_id": 2}], "sheets": 2, "shelves": 1}
    session = api.put(f"{at}/api/plan", data=plan).json()["id"]
    api.post(f"{at}/api/sessions/{session}/start", data={})
    pages = {path: contexts[n % 2].new_page() for n, path in enumerate(SCREENS)}
    for path, page in pages.items():
        page.goto(f"{at}/{path}")
        expect(page.locator(SCREENS[path][0]).first).to_be_visible()
    pages["larder"].get_by_role("button", name=re.compile("^All-purpose")).first.click()

    own_server.kill()
    for page in pages.values():
        expect(page.get_by_text("Fine Batch does not answer.").first).to_be_visible()
    for path, page in pages.items():
        SCREENS[path][1](page)
    own_server.start()
    for page in pages.values():
        expect(page.get_by_text("Fine Batch does not answer")).to_have_count(0, timeout=30_000)
    expect(pages["book/3"].get_by_label("piece 1")).to_have_value("")
    expect(pages["cold"].get_by_text("Put away.")).to_be_visible()
    expect(pages["larder"].get_by_text("(changed)").first).to_be_visible()

    def kept(path: str) -> Any:
        return api.get(f"{at}/api/{path}").json()

    expect(pages["dough/1"].get_by_text("Kept.", exact=True)).to_be_visible()
    assert kept("doughs/1")["card"]["name"] == "Typed while it was stopped"
    assert kept("doughs/1")["tray"]["evenness"] == "weighed"
    (bake,) = kept("bakes?dough_id=3")
    assert (bake["widths_mm"], bake["note"]) == ([61], "thin at the rim")
    assert [item["pieces"] for item in kept("cold")["kept"]].count(7) == 1
    assert kept("kitchen")["fridge_c"] == 6
    flour = next(one for one in kept("larder") if one["key"] == "flour_ap")
    assert flour["facts"]["g_per_cup"] == 131
    assert kept("plan")["wish"]["items"][0]["pieces"] == 14
    assert any(job["done_at"] for job in kept("sessions/current")["activities"])
    for context in contexts:
        context.close()


def test_what_is_typed_outlives_a_reload_and_leaving(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/book/3")
    page.get_by_label("piece 1").fill("61")
    page.goto(f"{served.address}/dough/1")
    page.get_by_role("button", name="Paste a card").click()
    card = page.get_by_role("textbox", name=re.compile("^Paste a card"))
    card.fill("Oat drops\n100 g oats")
    page.goto(f"{served.address}/dough")
    page.get_by_label("Find by name or ingredient").fill("rye")
    page.get_by_role("link", name=re.compile("^Rye")).first.click()
    expect(card).to_have_value("Oat drops\n100 g oats")
    page.reload()
    expect(card).to_have_value("Oat drops\n100 g oats")
    page.get_by_role("link", name="All doughs").click()
    expect(page.get_by_label("Find by name or ingredient")).to_have_value("rye")
    page.goto(f"{served.address}/book/3")
    expect(page.get_by_label("piece 1")).to_have_value("61")
    page.get_by_label("piece 1").fill("")
    page.reload()
    expect(page.get_by_label("piece 1")).to_have_value("")


def test_a_field_that_is_kept_when_it_is_left_is_kept_with_its_page(
    page: Page, served: Served
) -> None:
    page.goto(f"{served.address}/kitchen")
    fridge = page.get_by_label("Fridge", exact=True)
    fridge.fill("7")
    page.reload()
    expect(fridge).to_have_value("7")
    page.goto(f"{served.address}/plan/1")
    name = page.get_by_label("Name of the session")
    name.fill("For the harvest")
    page.go_back()
    expect(fridge).to_have_value("7")
    page.go_forward()
    expect(name).to_have_value("For the harvest")
    # What is remembered is shown at once; the heading says what is planned.
    expect(page.locator("h1")).to_have_text("The session: For the harvest")
    page.goto(f"{served.address}/kitchen")
    for _ in range(200):
        if page.request.get(f"{served.address}/api/kitchen").json()["fridge_c"] == 7:
            break
        page.wait_for_timeout(50)
    assert page.request.get(f"{served.address}/api/kitchen").json()["fridge_c"] == 7
    assert page.request.get(f"{served.address}/api/plan").json()["name"] == "For the harvest"


def wait_for_stream(page: Page, served: Served) -> None:
    for _ in range(1000):
        if served.wire.screens:
            return
        page.wait_for_timeout(20)
    raise TimeoutError("the page has no stream")


def test_a_clock_that_was_set_is_told(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough")
    wait_for_stream(page, served)
    served.wire.tell("clock", {"by_ms": -61 * 60_000})
    expect(page.get_by_text("went 61 min back at once")).to_be_visible()
    page.get_by_role("button", name="Say no more of the clock").click()
    expect(page.get_by_text("The clock was set")).to_have_count(0)


def test_a_page_of_an_earlier_interface_is_loaded_anew(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough")
    page.get_by_label("Find by name or ingredient").fill("rye")
    wait_for_stream(page, served)
    with page.expect_event("load", timeout=30_000):
        served.wire.tell("hello", {"shell": "another"})
    expect(page.get_by_label("Find by name or ingredient")).to_have_value("rye")


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
