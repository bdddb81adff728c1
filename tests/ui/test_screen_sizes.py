"""Every screen at every size: nothing is pushed sideways, is too small to press, or jumps."""

import re

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.chance import TIMES
from tests.ui.conftest import TOKEN, Served
from tests.ui.test_companion import start
from tests.ui.test_screens import check_axe

NAMES = (
    "Donaudampfschifffahrtselektrizitätenhauptbetriebswerkbauunterbeamtenkekse",
    "كعكالعيدبالتمروالسمنالبلديوالسمسمالمحمصعلىطريقةالجدةفيالقرية",
    "手作りの黒ごまときな粉とあんこの入った北海道バターたっぷりの厚焼きクッキー",
    "नानखटाईइलायचीपिस्ताकेसरघीबेसनसूजीवालीदादीमाँकीख़ासरेसिपी",
)
"""One word each, as long as a name may be, in four scripts."""

SCREENS = (
    *("/", "/dough", "/dough/1", "/dough/2", "/tray/1", "/tray/2", "/tray/3", "/tray/4", "/plan"),
    *(
        "/bake",
        "/book",
        "/book/1",
        "/book/3",
        "/cold",
        "/larder",
        "/kitchen",
        "/devices",
        "/network",
    ),
    *("/print/1", "/print/tray/2", "/print/session/1"),
)
ALIKE = ("/dough/1", "/tray/1", "/tray/3", "/tray/4", "/book/3")
"""Made of the same parts as others of them: axe looks at those where it looks further."""
PHONE, ZOOMED, TABLET, DESK = 390, 640, 820, 1280
MOST_SHIFT = 0.05
FINGERTIP, IN_BAKE = 24, 44

WATCH_SHIFTS = """
window.shifted = 0;
new PerformanceObserver((list) => {
  for (const entry of list.getEntries()) if (!entry.hadRecentInput) window.shifted += entry.value;
}).observe({ type: "layout-shift", buffered: true });
"""

SMALLER_THAN = """(least) =>
  [...document.querySelectorAll(
    "button, a[href], input, select, textarea, summary, [role=tab], [role=radio], [role=slider]"
  )]
    .filter((element) => {
      if (element.closest(".sr-only") || element.matches("[href='#main']")) return false;
      // A link within a sentence is as its text is.
      if (element.tagName === "A" && getComputedStyle(element).display === "inline") return false;
      const label = element.matches("[type=checkbox], [type=radio]") && element.closest("label");
      const box = (label || element).getBoundingClientRect();
      if (box.width < 2 || box.height < 2) return false;
      return box.width < least || box.height < least;
    })
    .map((element) => element.outerHTML.slice(0, 120))
"""


TOO_WIDE = """(width) =>
  [...document.querySelectorAll("main *")]
    .filter((element) => element.getBoundingClientRect().right > width + 1)
    .slice(0, 6)
    .map((element) => element.outerHTML.slice(0, 160))
"""


OPEN_ALL = """() => {
  const shut = [...document.querySelectorAll("details:not([open]) > summary")];
  for (const summary of shut) if (summary.checkVisibility()) summary.click();
}"""

EVERYWHERE = [(width, theme) for width in (PHONE, TABLET, DESK) for theme in ("light", "evening")]


def is_clean(page: Page, looks: list[tuple[int, str]]) -> None:
    """Axe finds nothing in these widths and themes; in all of them where it is looked further."""
    for width, theme in looks if TIMES == 1 else EVERYWHERE:
        page.set_viewport_size({"width": width, "height": 800})
        page.evaluate(f"document.documentElement.dataset.theme = '{theme}'")
        check_axe(page)


def named_long(page: Page, served: Served) -> None:
    for number, name in enumerate(NAMES, 1):
        at = f"{served.address}/api/doughs/{number}"
        dough = page.request.get(at).json()
        card = {**dough["card"], "name": name, "revision": dough["revision"]}
        assert page.request.put(at, data=card).ok


def fits(page: Page, width: int, where: str) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    wide, small = page.evaluate(
        f"""(least) =>
      [document.documentElement.scrollWidth, ({SMALLER_THAN})(least)]""",
        FINGERTIP,
    )
    assert wide <= width, (where, width, page.evaluate(TOO_WIDE, width))
    assert small == [], (where, width)


@pytest.fixture
def watched(browser: Browser, served: Served) -> Page:
    page = browser.new_page(
        viewport={"width": PHONE, "height": 800}, extra_http_headers={"x-fine-batch-token": TOKEN}
    )
    page.add_init_script(WATCH_SHIFTS)
    named_long(page, served)
    wish = {"items": [{"dough_id": 1}, {"dough_id": 2}], "sheets": 2, "shelves": 2}
    assert page.request.put(f"{served.address}/api/plan", data=wish).ok
    return page


def opened(page: Page, address: str) -> None:
    page.goto(address)
    expect(page.locator("h1").first).to_be_attached()
    expect(page.locator("#main[data-opening]")).to_have_count(0)
    page.wait_for_timeout(150)


def test_no_screen_is_wider_than_its_window_nor_jumps(watched: Page, served: Served) -> None:
    page = watched
    for path in SCREENS:
        page.set_viewport_size({"width": PHONE, "height": 800})
        # What a machine that stands still shows before it is whole is not the screen's.
        for _ in range(3):
            opened(page, served.address + path)
            shifted = page.evaluate("window.shifted")
            if shifted < MOST_SHIFT:
                break
        assert shifted < MOST_SHIFT, path
        for width in (PHONE, ZOOMED, TABLET, DESK):
            fits(page, width, path)
        is_clean(page, [] if path in ALIKE else [(DESK, "light")])
        for tab in page.get_by_role("tab").all():
            tab.click()
            page.wait_for_timeout(100)
            is_clean(page, [] if path in ALIKE else [(PHONE, "evening")])
            for width in (PHONE, DESK) if TIMES == 1 else (PHONE, TABLET, DESK):
                fits(page, width, f"{path} {tab.inner_text()}")
        # Opened from within: a pointer waits for a picture of the screen that stands still, and
        # a machine that is short of time does not draw one.
        page.evaluate(OPEN_ALL)
        fits(page, ZOOMED, f"{path}, all open")
        fits(page, PHONE, f"{path}, all open")
        is_clean(page, [])


@pytest.mark.parametrize("width", [PHONE, DESK])
def test_in_bake_all_is_large_and_done_stays_where_it_is(
    watched: Page, served: Served, width: int
) -> None:
    page = watched
    page.set_viewport_size({"width": width, "height": 844 if width == PHONE else 800})
    start(page, served.address, 1, 2)
    done = page.get_by_role("button", name=re.compile("^Done"))
    places = set()
    for _ in range(8):
        expect(done).to_be_enabled()
        places.add(tuple((done.bounding_box() or {}).values()))
        assert page.evaluate(SMALLER_THAN, IN_BAKE) == []
        assert page.evaluate("document.documentElement.scrollWidth") <= width
        title = page.get_by_role("heading", level=1).inner_text()
        page.keyboard.press(" ")
        expect(page.get_by_role("heading", level=1)).not_to_have_text(title)
    assert len(places) == 1
