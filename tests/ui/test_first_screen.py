"""The first screen: what is planned, what is due, what waits, the doughs; and whatever is found."""

import re
from typing import Literal

from playwright.sync_api import Page, expect

from tests.ui.conftest import OwnServer, Served
from tests.ui.test_screens import check_axe


def test_what_is_planned_and_what_waits_are_the_first_things_seen(
    page: Page, served: Served
) -> None:
    page.goto(served.address)
    expect(page).to_have_title("Today – Fine Batch")
    expect(page.get_by_role("heading", name="Nothing is planned")).to_be_visible()
    cold = page.get_by_role("region", name="In the cold")
    expect(cold.get_by_text("18 pieces as logs")).to_be_visible()
    doughs = page.get_by_role("region", name="Doughs")
    expect(doughs.get_by_role("listitem")).to_have_count(4)
    drops = doughs.get_by_role("link", name=re.compile("Rye, date"))
    expect(drops.get_by_role("img", name="6.6 cm wide and 1.3 cm high")).to_be_visible()
    expect(drops).to_contain_text("bake it again")

    wish = {"items": [{"dough_id": 1}, {"dough_id": 2}], "sheets": 2, "shelves": 2}
    made = page.request.put(f"{served.address}/api/plan", data=wish).json()
    page.request.post(f"{served.address}/api/plan/stop")
    page.reload()
    planned = page.get_by_role("region", name="Planned")
    expect(planned.get_by_role("heading")).to_contain_text("2 kinds, ready")
    check_axe(page)
    page.request.post(f"{served.address}/api/sessions/{made['id']}/start")
    under_way = page.get_by_role("region", name="Under way")
    expect(under_way).to_be_visible()
    expect(under_way.get_by_text("Now:")).to_be_visible()
    under_way.get_by_role("link", name="On with the bake").click()
    title = page.get_by_role("heading", level=1)
    expect(title).to_be_focused()
    # What is due calls by the title as well: it is said once.
    expect(page).to_have_title(f"Now: {title.inner_text()} – Bake – Fine Batch")


def test_whatever_is_kept_is_found_from_any_screen(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/kitchen")
    page.get_by_role("heading", level=1, name="Kitchen").wait_for()
    page.keyboard.press("/")
    find = page.get_by_role("dialog", name="Find")
    field = find.get_by_role("searchbox")
    expect(field).to_be_focused()
    field.fill("sesame")
    expect(find.get_by_role("status")).to_have_text("3 found")
    check_axe(page, within="dialog[open]")
    for _ in range(3):
        page.keyboard.press("ArrowDown")
    expect(find.get_by_role("link", name=re.compile("Sesame seeds"))).to_be_focused()
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("/larder"))
    expect(page.get_by_label("Name", exact=True)).to_have_value("Sesame seeds")
    expect(find).to_be_hidden()
    # In a field a stroke is a letter.
    page.get_by_label("Find an ingredient").press("/")
    expect(find).to_be_hidden()
    page.get_by_role("button", name="Find", exact=True).click()
    field.fill("ran together")
    expect(find.get_by_role("status")).to_have_text("1 found")
    field.press("Enter")
    expect(page).to_have_url(re.compile("/book/1$"))


def test_the_demo_shows_a_bake_under_way_and_its_clock_goes_on(
    page: Page, demo_server: OwnServer
) -> None:
    page.goto(demo_server.address)
    expect(page.get_by_role("region", name="Planned")).to_contain_text("The harvest supper")
    page.get_by_role("button", name="See a bake under way").click()
    expect(page).to_have_url(re.compile("/bake$"))
    expect(page.get_by_text(re.compile("^out .*turn ")).first).to_be_visible()
    expect(page.get_by_role("button", name="See a bake under way")).to_have_count(0)
    page.get_by_role("button", name="15 min on").click()
    expect(page.get_by_text(re.compile(r"^\+1\d:\d\d late$")).first).to_be_visible()
    page.get_by_role("link", name="Today").click()
    expect(page.get_by_role("region", name="Under way")).to_contain_text("2 kinds")


def test_from_a_first_start_to_a_plan_of_ones_own_dough(page: Page, empty: Served) -> None:
    """In eight presses at the most."""
    presses = 0

    def press(role: Literal["button", "link"], name: str | re.Pattern[str]) -> None:
        nonlocal presses
        presses += 1
        page.get_by_role(role, name=name).first.click()

    page.goto(empty.address)
    bases = page.get_by_role("region", name="Base doughs")
    expect(bases.get_by_role("listitem")).to_have_count(12)
    check_axe(page)
    press("button", "That is my kitchen")
    expect(page.get_by_role("button", name="That is my kitchen")).to_have_count(0)
    press("button", "Begin with Oat and raisin drops")
    expect(page.get_by_label("Name of the dough")).to_have_value("Oat and raisin drops")
    press("link", "Portion it")
    press("link", re.compile("^Plan "))
    expect(page.get_by_label("The plan in figures")).to_contain_text("cold and ready")
    expect(page.get_by_role("button", name="Start baking now")).to_be_visible()
    assert presses <= 8
    page.goto(empty.address)
    press("button", "Paste a card")
    expect(page.get_by_role("textbox", name=re.compile("^Paste a card"))).to_be_visible()


def test_the_demo_is_looked_at_beside_one_s_own_kitchen(page: Page, empty: Served) -> None:
    page.goto(empty.address)
    page.get_by_role("button", name="Look around in the demo").click()
    bar = page.get_by_role("region", name="The demo")
    # A server of its own starts for it.
    expect(bar).to_be_visible(timeout=90_000)
    assert not page.url.startswith(empty.address)
    expect(page.get_by_role("region", name="Doughs").get_by_role("listitem")).to_have_count(4)
    demo = page.url
    bar.get_by_role("link", name="Back to my own kitchen").click()
    expect(page.get_by_role("heading", name="Nothing is planned")).to_be_visible()
    assert page.url.startswith(empty.address)
    assert page.request.get(f"{empty.address}/api/doughs").json()["total"] == 0
    # It is the same one that is opened again, and it does not outlive the kitchen.
    asked = page.request.post(f"{empty.address}/api/demo/beside").json()
    assert demo.startswith(asked["address"])


def test_what_is_usual_in_a_region_is_taken_over(page: Page, empty: Served) -> None:
    page.goto(empty.address)
    asks = page.get_by_role("region", name="Your kitchen")
    asks.get_by_label("You bake in").select_option("United States")
    expect(asks).to_contain_text("An egg is then US large")
    asks.get_by_role("button", name="That is my kitchen").click()
    expect(asks).to_have_count(0)
    kept = page.request.get(f"{empty.address}/api/kitchen").json()
    assert (kept["egg"], kept["sheet_width_mm"], kept["units"]["clock"]) == (
        "US large",
        450,
        "12 h",
    )
    expect(page.get_by_text("2 5/8 in").first).to_be_visible()
