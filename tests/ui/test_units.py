"""A kitchen reads its own units on every screen and page, from a pasted card to the record, as its
browser's region has them at the first start."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from io import BytesIO

import pytest
from playwright.sync_api import Browser, Page, expect
from pypdf import PdfReader

from finebatch.web import guard
from tests.chance import TIMES
from tests.ui.conftest import TOKEN, Served
from tests.ui.test_screens import check_axe


@dataclass(frozen=True)
class Kitchen:
    """A region with a card of its own style, and what its baker reads, types and never sees."""

    locale: str
    card: str
    oven: str
    sheet: str
    typed: tuple[str, str]
    widths_mm: list[float]
    clock: re.Pattern[str]
    strange: re.Pattern[str]


US = Kitchen(
    "en-US",
    """Lemon poppy drops
Makes 24
1 1/4 cups all-purpose flour
1/2 cup (1 stick) butter, softened
1/2 cup sugar
1 egg
1/4 tsp salt
Cream the butter and sugar. Beat in the egg, then the flour.
Roll into 1 inch balls.
Bake at 350 °F for 10 to 12 minutes, until golden.""",
    "350",
    "16",
    ("2 1/2", '2⅜"'),
    [63.5, 60.325],
    re.compile(r"\d:\d\d [ap]m"),
    re.compile(r"°C\b|\d ?(?:cm²?|mm|kg|ml)\b|\d g\b|in mm|millimet|centimet"),
)
METRIC = Kitchen(
    "de-DE",
    """Lemon poppy drops
Makes 24
160 g plain flour
115 g butter, softened
100 g sugar
1 egg
2 g salt
Cream the butter and sugar. Beat in the egg, then the flour.
Roll into 2.5 cm balls.
Bake at 180 °C for 10 to 12 minutes, until golden.""",
    "180",
    "405",
    ("64", "2 3/8 in"),
    [64.0, 60.325],
    re.compile(r"\b\d\d:\d\d\b"),
    re.compile(r"°F|\d (?:oz|lb)\b|\d/\d+ in\b|\d [ap]m\b|\d (?:cup|tbsp)|\binch"),
)

ALL_TEXT = """() => {
  const seen = [];
  const walk = (node) => {
    if (node.nodeType === Node.TEXT_NODE) seen.push(node.textContent);
    if (node.nodeType !== Node.ELEMENT_NODE || node.matches("script, style, textarea")) return;
    // The units that a line may be written in, and how systems are called, are no figures.
    if (node.matches("option, [aria-label=Units]")) return;
    for (const name of ["aria-label", "aria-valuetext", "title", "placeholder"])
      if (node.hasAttribute(name)) seen.push("\\n" + node.getAttribute(name) + "\\n");
    if (node.matches("input")) seen.push(node.value);
    const inline = ["inline", "contents"].includes(getComputedStyle(node).display);
    if (!inline) seen.push("\\n");
    node.childNodes.forEach(walk);
    if (!inline) seen.push("\\n");
  };
  walk(document.body);
  return seen.join("");
}"""


def looks_right(page: Page, kitchen: Kitchen) -> str:
    """All text of the screen, with no figure in a unit that this kitchen does not read."""
    text: str = page.evaluate(ALL_TEXT)
    wrong = [line for line in text.splitlines() if kitchen.strange.search(line)]
    assert wrong == [], (page.url, wrong)
    return text


@pytest.fixture(params=[US, METRIC][:TIMES], ids=["us", "metric"][:TIMES])
def kitchen(request: pytest.FixtureRequest) -> Kitchen:
    found: Kitchen = request.param
    return found


@pytest.fixture
def there(browser: Browser, kitchen: Kitchen) -> Iterator[Page]:
    """A browser of that region."""
    context = browser.new_context(
        viewport={"width": 1280, "height": 800},
        timezone_id="Europe/Berlin",
        locale=kitchen.locale,
        extra_http_headers={guard.TOKEN: TOKEN},
    )
    yield context.new_page()
    context.close()


def test_from_a_pasted_card_to_the_record(there: Page, empty: Served, kitchen: Kitchen) -> None:
    page, address = there, empty.address
    page.goto(f"{address}/dough")
    expect(page.get_by_role("heading", name="Your kitchen, in five answers")).to_be_visible()
    units = page.request.get(f"{address}/api/kitchen").json()["units"]
    assert units["temperature"] == ("F" if kitchen is US else "C")
    looks_right(page, kitchen)

    page.get_by_role("button", name="Start one").click()
    page.get_by_role("button", name="Paste a card").click()
    page.get_by_role("textbox", name="Paste a card: its title").fill(kitchen.card)
    expect(page.get_by_role("region", name="From the card")).to_be_visible()
    looks_right(page, kitchen)
    page.get_by_role("button", name=re.compile("^Add these")).click()
    expect(page.get_by_text("One piece of it")).to_be_visible()
    for tab in ("Method", "Scale", "Swap", "Give out", "Ingredients"):
        page.get_by_role("tab", name=tab).click()
        looks_right(page, kitchen)
    check_axe(page)

    page.get_by_role("link", name="Portion it").click()
    expect(page.get_by_label("Oven at")).to_have_value(kitchen.oven)
    expect(page.get_by_label("Sheet across")).to_have_value(kitchen.sheet)
    # What is typed in another unit is taken, and read in the kitchen's own.
    page.get_by_label("Oven at").fill("gas 4")
    page.get_by_label("Oven at").blur()
    expect(page.get_by_label("Oven at")).to_have_value("350" if kitchen is US else "175")
    page.get_by_label("Gap", exact=True).fill("1/2 in")
    page.get_by_label("Gap", exact=True).blur()
    expect(page.get_by_label("Gap", exact=True)).to_have_value("1/2" if kitchen is US else "12.7")
    for tab in ("Sizes", "Chill", "Print", "Sheet"):
        page.get_by_role("tab", name=tab).click()
        page.wait_for_load_state("networkidle")
        looks_right(page, kitchen)
    check_axe(page)

    page.get_by_role("link", name=re.compile("^Plan th")).click()
    expect(page.get_by_text("What holds it up")).to_be_visible()
    page.get_by_role("radio", name="ready by").click()
    page.get_by_label("Cold and ready by").fill("tomorrow 2 pm")
    page.get_by_label("Cold and ready by").blur()
    expect(page.get_by_label("Cold and ready by")).to_have_value(
        re.compile("2:00 pm$" if kitchen is US else "14:00$")
    )
    page.get_by_role("radio", name="start now").click()
    expect(page.get_by_role("img", name=re.compile("The day"))).to_be_visible()
    assert kitchen.clock.search(looks_right(page, kitchen))

    page.get_by_role("button", name="Start baking now").click()
    expect(page.get_by_role("button", name=re.compile("^Done"))).to_be_visible()
    bake_to_the_end(page, address, kitchen)
    record(page, address, kitchen)
    for path in ("book", "kitchen", "larder", "cold", "devices", "print/1", "print/tray/1"):
        page.goto(f"{address}/{path}")
        page.wait_for_load_state("networkidle")
        if path == "larder":
            page.get_by_role("button", name="Rye flour").click()
        looks_right(page, kitchen)
    on_paper_and_in_files(page, address, kitchen)


def bake_to_the_end(page: Page, address: str, kitchen: Kitchen) -> None:
    """Every job done in turn, each told in the kitchen's units."""
    session = page.request.get(f"{address}/api/sessions/current").json()
    shown = set()
    while session["state"] == "running":
        jobs = [a for a in session["activities"] if a["hands"] and a["done_at"] is None]
        job = min(jobs, key=lambda a: (a["due_at"], a["start_at"]))
        if job["kind"] not in shown:
            shown.add(job["kind"])
            page.reload()
            expect(page.get_by_role("button", name=re.compile("^Done"))).to_be_visible()
            looks_right(page, kitchen)
        told = " ".join(filter(None, job["words"].values())) if "words" in job else str(job)
        assert not kitchen.strange.search(told), told
        event = {"kind": "done", "activity": job["key"]}
        events = f"{address}/api/sessions/{session['id']}/events"
        session = page.request.post(events, data=event).json()


def record(page: Page, address: str, kitchen: Kitchen) -> None:
    page.goto(f"{address}/book/1")
    for n, text in enumerate(kitchen.typed, start=1):
        page.get_by_label(f"piece {n}", exact=True).fill(text)
    page.get_by_label("by a thermometer").fill("340 F" if kitchen is US else "171 C")
    page.get_by_role("button", name="Write it down").click()
    expect(page.get_by_text("Written down.")).to_be_visible()
    (bake,) = page.request.get(f"{address}/api/bakes?dough_id=1").json()
    assert bake["widths_mm"] == pytest.approx(kitchen.widths_mm)
    expect(page.get_by_text("Measured beside foreseen")).to_be_visible()
    looks_right(page, kitchen)
    check_axe(page)


def on_paper_and_in_files(page: Page, address: str, kitchen: Kitchen) -> None:
    dough = page.request.get(f"{address}/api/doughs/1").json()
    asked = {**dough["tray"], "what": "sheet"}
    paper = page.request.post(f"{address}/api/doughs/1/template", data=asked).body()
    words = PdfReader(BytesIO(paper)).pages[0].extract_text()
    assert ("4 in:" in words) is (kitchen is US)
    for form in ("txt", "md"):
        text = page.request.get(f"{address}/api/doughs/1/card.{form}").text()
        assert not kitchen.strange.search(text), text
    # Machine formats are metric everywhere.
    recipe = page.request.get(f"{address}/api/doughs/1/card.jsonld").text()
    assert "°F" not in recipe.replace("350 °F", "")
