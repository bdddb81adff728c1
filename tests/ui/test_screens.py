"""Each screen: no accessibility violation, nothing lost, and it says what is wrong."""

import re
from datetime import datetime, timedelta

from axe_playwright_python.base import AxeResults
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, Route, expect

from tests.plans import at_hand_in
from tests.ui.conftest import OwnServer, Served


def start_baking(page: Page, served: Served) -> None:
    at_hand_in(page.request, served.address, 1)
    page.goto(f"{served.address}/plan/1")
    page.get_by_role("button", name="Start baking now").click()
    expect(page.get_by_role("heading", name="Mix the dough")).to_be_visible()


ALL_RULES = {
    "runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"],
    # What passes is not told: telling where it stands takes longer than looking at it.
    "resultTypes": ["violations"],
}


def check_axe(
    page: Page, options: dict[str, object] | None = None, within: str | None = None
) -> None:
    """Nothing is found on the page, or `within` what that selector names of it."""
    axe = Axe()
    if page.evaluate("window.axe === undefined"):
        page.evaluate(axe.axe_script)
    asked = [within or "document", options or ALL_RULES]
    found = page.evaluate("([at, how]) => axe.run(at === 'document' ? document : at, how)", asked)
    results = AxeResults(found)
    assert results.violations_count == 0, results.generate_report()


def test_axe_finds_nothing_while_baking(page: Page, served: Served) -> None:
    start_baking(page, served)
    for _ in range(3):
        page.get_by_role("button", name=re.compile("^Done")).click()
        page.wait_for_timeout(50)
    check_axe(page)


def test_a_bad_amount_is_named_at_its_line_and_stays_as_typed(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough/1")
    amount = page.get_by_label("Amount, line 2")
    for text in ("-3", "1000000000000", "🍪", "two"):
        amount.fill(text)
        expect(page.get_by_text(re.compile("not an amount|Check the amount")).first).to_be_visible()
        expect(amount).to_have_attribute("aria-invalid", "true")
    expect(page.get_by_text("Kept.", exact=True)).to_be_visible()
    page.reload()
    expect(page.get_by_label("Amount, line 2")).to_have_value("two")
    page.get_by_label("Amount, line 2").fill("120")
    expect(page.get_by_text("not an amount")).to_have_count(0)


def test_a_name_that_the_larder_lacks_stays_as_typed(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough/1")
    expect(page.locator("[data-figure=grams]").first).to_be_visible()
    page.get_by_role("button", name="Add a line").press("Enter")
    field = page.get_by_label("Ingredient, line 12", exact=True)
    field.fill("stardust")
    expect(page.get_by_text("Nothing in the larder has that name.")).to_be_visible()
    page.get_by_label("Amount, line 12").fill("-2")
    expect(field).to_have_value("stardust")
    expect(page.get_by_text("Choose an ingredient from the larder.").first).to_be_visible()
    expect(page.get_by_text("“-2” is not an amount").first).to_be_visible()


PASTED = """2 1/4 cups all-purpose flour
1 cup (2 sticks) unsalted butter, softened
1 cup (160 g) caster sugar
stardust, to taste"""


def test_a_pasted_card_shows_what_it_understood_before_it_is_kept(
    page: Page, served: Served
) -> None:
    page.goto(f"{served.address}/dough")
    page.get_by_role("button", name="Start one").click()
    page.get_by_role("button", name="Paste a card").click()
    page.get_by_role("textbox", name="Paste a card: its title").fill(PASTED)
    understood = page.get_by_role("list", name="As understood").get_by_role("listitem")
    expect(understood).to_have_count(4)
    expect(understood.nth(0)).to_contain_text("281 g All-purpose")
    expect(understood.nth(2)).to_contain_text("contradict each other")
    expect(understood.nth(3)).to_contain_text("Which ingredient is this?")
    check_axe(page)
    expect(page.get_by_label("Amount, line 1")).to_have_count(0)
    page.get_by_role("button", name="Add these 4 lines").click()
    expect(page.get_by_label("Amount, line 1")).to_have_value("2 1/4")
    expect(page.get_by_label("Unit, line 1")).to_have_value("cup")
    expect(page.get_by_label("Amount, line 3")).to_have_value("160")
    page.get_by_role("button", name="Take back").click()
    expect(page.get_by_label("Amount, line 1")).to_have_count(0)


def test_an_empty_name_is_said_and_nothing_is_lost(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough/1")
    page.get_by_label("Name of the dough").fill("")
    expect(page.get_by_text("Give the dough a name")).to_be_visible()
    page.get_by_role("button", name="Take back").click()
    expect(page.get_by_label("Name of the dough")).to_have_value("Rye, date & tahini drops")


def test_lines_are_moved_taken_out_and_taken_back(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough/1")
    first = page.get_by_label("Ingredient, line 1", exact=True)
    expect(first).to_have_value("Unsalted butter")
    page.get_by_role("button", name="Move line 1 down").click()
    expect(first).to_have_value(re.compile("^Light brown"))
    page.get_by_role("button", name="Take line 1 out").click()
    expect(first).to_have_value("Unsalted butter")
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    expect(first).to_have_value("Unsalted butter")
    page.get_by_role("button", name="Again").click()
    expect(first).to_have_value(re.compile("^Light brown"))
    expect(page.get_by_text("Kept.", exact=True)).to_be_visible()
    page.reload()
    expect(first).to_have_value(re.compile("^Light brown"))


def test_a_dough_without_flour_says_what_to_add(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough")
    page.get_by_role("button", name="Start one").click()
    page.get_by_role("button", name="Add a line").press("Enter")
    page.get_by_label("Ingredient, line 1", exact=True).fill("granulated")
    page.keyboard.press("Enter")
    page.get_by_label("Amount, line 1").fill("200")
    expect(page.get_by_text("No flour yet.")).to_be_visible()
    expect(page.get_by_text("Add flour, oats, starch or ground nuts.").first).to_be_visible()


BAD_FIGURES = (
    ("A piece weighs", "-4", "above 0"),
    ("A piece weighs", "0", "above 0"),
    ("A piece weighs", "1000000000000", "at most"),
    ("A piece weighs", "heavy", "Give a number."),
    ("Oven at", "70", "never be done"),
    ("Gap", "-1", "at least 0"),
    ("A piece weighs", "390", "larger sheet"),
)


def test_a_bad_figure_on_the_tray_is_named_at_its_field(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/tray/1")
    for label, text, words in BAD_FIGURES:
        if "larger" in words:
            page.get_by_label("Sheet across").fill("150")
            page.get_by_label("and down").fill("150")
        field = page.get_by_label(label, exact=True)
        good = field.input_value()
        field.fill(text)
        said = page.get_by_text(re.compile(words))
        expect(said.first).to_be_visible()
        expect(field).to_have_attribute("aria-invalid", "true")
        expect(field).to_have_value(text)
        field.fill(good)
        expect(said).to_have_count(0)
        expect(field).not_to_have_attribute("aria-invalid", "true")


def test_what_is_typed_before_the_tray_is_drawn_stays(page: Page, served: Served) -> None:
    held: list[Route] = []
    page.route("**/foresee", lambda route: held.append(route))  # noqa: PLW0108  it is inspected
    page.goto(f"{served.address}/tray/1")
    gap = page.get_by_label("Gap", exact=True)
    gap.fill("wide")
    assert held
    for route in held:
        route.continue_()
    expect(page.get_by_role("img", name=re.compile("^Sheet 40.5"))).to_be_visible()
    expect(gap).to_have_value("wide")
    expect(gap).to_be_focused()


def test_the_mass_is_set_by_keys_on_the_ruler(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/tray/1")
    pieces = page.locator("[data-figure=pieces]")
    before = int(pieces.inner_text())
    page.get_by_role("slider", name="Mass of a piece").focus()
    for _ in range(6):
        page.keyboard.press("ArrowRight")
    expect(page.get_by_label("A piece weighs")).to_have_value("34")
    expect(pieces).not_to_have_text(str(before))
    assert int(pieces.inner_text()) < before


def test_the_mass_is_set_by_dragging_and_kept(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/tray/1")
    thumb = page.get_by_role("slider", name="Mass of a piece")
    box = thumb.bounding_box()
    assert box
    page.mouse.move(box["x"] + 10, box["y"] + 10)
    page.mouse.down()
    page.mouse.move(box["x"] + 70, box["y"] + 10, steps=8)
    page.mouse.up()
    typed = page.get_by_label("A piece weighs")
    expect(typed).to_have_value(re.compile(r"^(4[1-9]|5\d)$"))
    grams = int(typed.input_value())
    page.get_by_role("link", name="Book").click()
    page.get_by_role("link", name="Tray", exact=True).click()
    expect(typed).to_have_value(str(grams))


def test_ready_by_is_kept_or_said_to_be_too_soon(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/plan/1")
    page.get_by_role("radio", name="ready by").click()
    field = page.get_by_label("Cold and ready by")
    field.fill("2020-01-01T10:00")
    expect(page.get_by_text("That time has passed").first).to_be_visible()
    year = int(field.input_value()[:4])
    assert year == 2020
    # Nothing is locked: the next change is planned, and one press takes a time that can be kept.
    page.get_by_role("button", name="More: Sheets").click()
    expect(page.get_by_role("button", name="Start baking now")).to_be_enabled()
    expect(page.get_by_role("alert")).to_have_count(0)
    page.get_by_role("button", name=re.compile("^Ready by .* instead")).click()
    expect(page.get_by_text("That time has passed")).to_have_count(0)
    expect(page.get_by_text("Too late")).to_have_count(0)


def test_ready_by_opens_at_a_time_that_can_be_kept(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/plan/1")
    expect(page.locator('[data-figure="finish"]')).to_be_visible()
    page.get_by_role("radio", name="ready by").click()
    expect(page.get_by_label("Cold and ready by")).to_be_visible()
    expect(page.get_by_role("button", name="Start baking now")).to_be_enabled()
    expect(page.get_by_text("Too late")).to_have_count(0)


def test_start_after_typing_a_number_starts(page: Page, served: Served) -> None:
    """The press plans what was typed and starts that: it is not swallowed."""
    page.goto(f"{served.address}/plan/1")
    expect(page.get_by_role("button", name="Start baking now")).to_be_visible()
    page.get_by_label(re.compile("^How many pieces of")).fill("5")
    page.get_by_role("button", name="Start baking now").click()
    expect(page.get_by_role("button", name=re.compile("^Done"))).to_be_visible()
    session = page.request.get(f"{served.address}/api/sessions/current").json()
    assert sum(tray["pieces"] for tray in session["trays"]) == 5
    # And it can be given up, and gone on with.
    page.get_by_role("button", name="Give this session up").click()
    expect(page.get_by_role("heading", name="Given up.")).to_be_visible()
    page.get_by_role("button", name="Go on with it after all").click()
    expect(page.get_by_role("button", name=re.compile("^Done"))).to_be_visible()


def test_a_planned_start_is_offered_beside_now(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/plan/1")
    page.get_by_role("radio", name="start at").click()
    field = page.get_by_label("Start at")
    stood = datetime.strptime(f"2028 {field.input_value()}", "%Y %a %d %b, %H:%M")
    field.fill(f"{stood + timedelta(hours=2):%d %b, %H:%M}")
    page.get_by_role("button", name=re.compile("^Start at .*, as planned")).click()
    # By the server's clock, which other tests may have moved on.
    expect(page.get_by_text(re.compile(r"^in \d h \d\d$")).first).to_be_visible()
    session = page.request.get(f"{served.address}/api/sessions/current").json()
    left = (session["start_at"] - session["now"]) / 60_000
    # Two hours from the start that stood in the field, which is now or a little later.
    assert 110 < left < 240


def test_another_shelf_is_planned_at_once(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/plan/1")
    page.get_by_role("button", name="More: Oven shelves").click()
    expect(page.get_by_role("img", name=re.compile("2 oven shelves"))).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("The day"))).to_contain_text("Oven, lower")


CURRENT = "async () => (await fetch('/api/sessions/current')).json()"
"""Asked by the page: what a test keeps open beside it is cut when the server is killed."""


def test_countdowns_survive_a_reload_and_a_killed_server(page: Page, own_server: OwnServer) -> None:
    at_hand_in(page.request, own_server.address, 1)
    page.goto(f"{own_server.address}/plan/1")
    page.get_by_role("button", name="Start baking now").click()
    done = page.get_by_role("button", name=re.compile("^Done"))
    jobs = (
        "Mix the dough",
        "Wrap it airtight",
        "Turn the oven on",
        "Take the dough out",
        "Portion tray A1",
        "Tray A1 into the oven",
    )
    for words in jobs:
        expect(page.get_by_role("heading", name=words)).to_be_visible()
        done.click()
    timer = page.get_by_role("timer")
    expect(timer).to_have_text(re.compile(r"^\d+:\d\d$"))
    before = page.evaluate(CURRENT)
    page.reload()
    expect(timer).to_be_visible()
    own_server.kill()
    expect(page.get_by_text("Fine Batch does not answer").first).to_be_visible()
    expect(timer).to_be_visible()
    own_server.start()
    expect(page.get_by_text("Fine Batch does not answer")).to_have_count(0)
    after = page.evaluate(CURRENT)
    # What has happened is the truth; the rest may have been planned again meanwhile.
    done_at = [{a["key"]: a["done_at"] for a in s["activities"]} for s in (before, after)]
    assert done_at[0] == done_at[1]
    assert after["happened"] == len(jobs)
    out = next(a for a in after["activities"] if a["key"] == "A1.out")
    earlier = page.evaluate(CURRENT)["now"]
    minutes, seconds = map(int, timer.inner_text().split(":"))
    later = page.evaluate(CURRENT)["now"]
    least, most = ((out["due_at"] - now) / 1000 for now in (later, earlier))
    assert least - 3 < 60 * minutes + seconds < most + 3


def test_three_more_minutes_and_taking_back(page: Page, served: Served) -> None:
    start_baking(page, served)
    done = page.get_by_role("button", name=re.compile("^Done"))
    for words, minutes in (
        ("Mix the dough", 15),
        ("Wrap it airtight", 1),
        ("Turn the oven on", 30),
        ("Take the dough out", 12),
        ("Portion tray A1", 10),
        ("Tray A1 into the oven", 1),
    ):
        expect(page.get_by_role("heading", name=words)).to_be_visible()
        served.clock.pass_minutes(minutes)
        done.click()
    timer = page.get_by_role("timer")
    before = int(timer.inner_text().split(":")[0])
    page.get_by_role("button", name="3 more minutes").click()
    expect(page.get_by_text(re.compile("Moved:.*later"))).to_be_visible()
    expect(timer).to_have_text(re.compile(rf"^({before + 2}|{before + 3}):"))
    page.get_by_role("button", name="Take back").click()
    expect(timer).to_have_text(re.compile(rf"^({before - 1}|{before}):"))


def test_a_bake_is_refused_at_its_field_and_stays_as_typed(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/book/3")
    page.get_by_label("piece 1").fill("3000")
    page.get_by_label("piece 2").fill("54")
    page.get_by_role("button", name="Write it down").click()
    expect(page.get_by_text("not the width of a piece").first).to_be_visible()
    expect(page.get_by_label("piece 1")).to_have_attribute("aria-invalid", "true")
    expect(page.get_by_label("piece 2")).to_have_value("54")


def test_a_dough_is_thrown_away_only_after_asking(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough/3")
    page.get_by_role("button", name="Throw this dough away").click()
    check_axe(page)
    page.get_by_role("button", name="Keep it").click()
    page.get_by_role("button", name="Throw this dough away").click()
    page.get_by_role("button", name="Throw it away").click()
    expect(page.get_by_role("heading", name="Doughs", exact=True)).to_be_visible()
    drawer = page.get_by_role("main")
    expect(drawer.get_by_role("link", name=re.compile("Black-sesame"))).to_have_count(0)


def test_keys_are_on_a_sheet_and_terms_are_told_where_they_stand(
    page: Page, served: Served
) -> None:
    page.goto(f"{served.address}/tray/1")
    expect(page.get_by_role("button", name="W/T")).to_be_visible()
    page.keyboard.press("?")
    sheet = page.get_by_role("dialog", name="Keys")
    expect(sheet.get_by_role("region", name="Bake")).to_contain_text("take the last one back")
    check_axe(page)
    page.keyboard.press("Escape")
    expect(sheet).to_be_hidden()
    page.get_by_role("button", name="W/T").click()
    told = page.get_by_role("dialog", name="W/T")
    expect(told).to_contain_text("Baked width divided by baked thickness")
    check_axe(page)
    page.keyboard.press("Escape")
    expect(told).to_have_count(0)
    expect(page.get_by_role("button", name="W/T")).to_be_focused()
    # In a field it is only a letter.
    page.get_by_role("button", name=re.compile("^Find")).click()
    page.keyboard.type("?")
    expect(sheet).to_be_hidden()
