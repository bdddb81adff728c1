"""Aim on its two screens: a wish typed or dragged, the ways there, and one made a version."""

import re

from playwright.sync_api import Page, expect

from tests.ui.conftest import Served
from tests.ui.test_screens import check_axe
from tests.ui.test_tray import open_tray


def test_a_wish_on_the_tray_becomes_a_version(page: Page, served: Served) -> None:
    open_tray(page, served)
    page.get_by_role("tab", name="Aim").click()
    panel = page.get_by_role("region", name="Aim")
    expect(panel).to_contain_text("Drag the piece as wide")
    panel.get_by_label("Wide", exact=True).fill("7.4")
    least = panel.get_by_role("article", name="Least change")
    expect(least).to_contain_text(re.compile(r"A piece weighs: 28 g → \d\d g"))
    expect(least.get_by_role("row", name=re.compile("Wide"))).to_contain_text("7.")
    check_axe(page)
    # Wishes outlive a reload; dragged, they follow the hand.
    page.reload()
    page.get_by_role("tab", name="Aim").click()
    expect(panel.get_by_label("Wide", exact=True)).to_have_value("7.4")
    handle = panel.get_by_role("slider", name="Wished width, in the drawing")
    handle.focus()
    page.keyboard.press("ArrowRight")
    expect(panel.get_by_label("Wide", exact=True)).to_have_value("7.5")
    panel.get_by_label("without eggs").check()
    expect(panel.get_by_role("article").first).to_contain_text("Whole egg (no shell) taken out")
    panel.get_by_role("button", name=re.compile("^Make it a version")).first.click()
    expect(page.locator("[data-figure=width]").first).to_have_text(re.compile(r"7\.[3-6] cm"))
    expect(panel).to_contain_text("Drag the piece as wide")
    page.get_by_role("link", name="Dough", exact=True).click()
    page.get_by_role("tab", name="Versions").click()
    expect(page.get_by_label("Why version 3")).to_have_value(
        "Aimed at: about 75 mm wide, without eggs"
    )


def test_on_the_dough_screen_what_cannot_be_had_is_said(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough/1")
    page.get_by_role("tab", name="Aim").click()
    panel = page.get_by_role("region", name="Aim")
    panel.get_by_label("Keeps at least").fill("90")
    expect(panel).to_contain_text("freeze it to keep it longer")
    panel.get_by_label("Keeps at least").fill("")
    panel.get_by_label("Sugar at most").fill("36")
    way = panel.get_by_role("article", name="Least change")
    expect(way).to_contain_text("sugar")
    check_axe(page)
    way.get_by_role("button", name=re.compile("^Make it a version")).click()
    expect(page.get_by_role("tab", name="Ingredients")).to_have_attribute("aria-selected", "true")
    expect(page.get_by_role("status").filter(has_text="Kept.")).to_be_visible()
    page.get_by_role("tab", name="Versions").click()
    expect(page.get_by_label("Why version 3")).to_have_value("Aimed at: at most 36 % sugar")
