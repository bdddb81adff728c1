"""The Plan screen with several doughs, and the Kitchen screen, by hand and by keyboard."""

import json
import re
import zipfile
from datetime import UTC, datetime, timedelta
from pathlib import Path

from icalendar import Calendar, Event
from playwright.sync_api import Page, Response, expect

from finebatch.store.restore import check
from tests.plans import at_hand_in, plan_in
from tests.ui.conftest import Served, every_job
from tests.ui.test_screens import check_axe

BAKED = [("A.mix", 15), ("A.form", 1), ("A.fetch", 60), ("A1.portion", 9), ("A1.load", 1)]
"""The jobs until the first tray is in the oven, and the minutes that each takes."""


def test_doughs_join_a_session_and_leave_it(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/tray/1")
    page.get_by_role("link", name=re.compile("^Plan these")).click()
    expect(page.get_by_role("img", name=re.compile("trays of one dough"))).to_be_visible()
    add = page.get_by_label("Add a dough to the session")
    add.select_option(label="Black-sesame shortbread")
    expect(page.get_by_role("img", name=re.compile("trays of 2 doughs"))).to_be_visible()
    every_job(page)
    expect(page.get_by_role("row", name=re.compile("Mix dough B")).first).to_be_visible()
    expect(page.locator("[data-figure=by-hand]")).to_contain_text("By hand")
    page.get_by_label("Black-sesame shortbread comes").select_option("fridge")
    expect(page.get_by_role("row", name=re.compile("Mix dough B"))).to_have_count(0)
    page.get_by_role("button", name="Take Rye, date & tahini drops out").click()
    expect(page.get_by_role("img", name=re.compile("trays of one dough"))).to_be_visible()
    expect(page.get_by_text("Rye, date & tahini drops is out of the session.")).to_be_visible()
    page.get_by_role("button", name="Take that back").click()
    expect(page.get_by_role("img", name=re.compile("trays of 2 doughs"))).to_be_visible()
    expect(page.get_by_role("button", name="Take that back")).to_have_count(0)
    page.get_by_role("button", name="Take Rye, date & tahini drops out").click()
    expect(page.get_by_role("img", name=re.compile("trays of one dough"))).to_be_visible()
    page.reload()
    expect(page.get_by_label("Black-sesame shortbread comes")).to_have_value("fridge")


def test_eight_now_and_the_rest_kept(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/plan/1")
    field = page.get_by_label("How many pieces of Rye, date & tahini drops; empty for all")
    field.fill("8")
    field.press("Enter")
    expect(page.get_by_text("pieces, the rest is kept")).to_be_visible()
    every_job(page)
    expect(page.get_by_role("row", name=re.compile("Portion the rest"))).to_contain_text(
        "27 pieces"
    )


def test_a_job_is_pinned_from_the_run_sheet_and_unpinned(page: Page, served: Served) -> None:
    found = plan_in(page.request, served.address, 1)
    later = (
        next(a["start_at"] for a in found["activities"] if a["key"] == "A1.portion") + 30 * 60_000
    )
    page.goto(f"{served.address}/plan")
    time = page.evaluate("ms => new Date(ms).toTimeString().slice(0, 5)", later)
    stretches = page.get_by_role("list", name="Stretches of work")
    stretches.get_by_role("button", name=re.compile("portion")).first.click()
    begin = page.get_by_label("Begin at: Portion tray A1")
    begin.fill(time)
    begin.press("Enter")
    pin = page.get_by_role("button", name=re.compile("^Unpin: portion tray A1"))
    expect(pin).to_be_visible()
    expect(begin).to_have_value(time)
    pin.click()
    expect(pin).to_have_count(0)
    back = page.get_by_role("button", name="Take back")
    back.click()
    expect(pin).to_be_visible()
    back.click()
    expect(pin).to_have_count(0)
    expect(back).to_be_disabled()
    sheets = page.get_by_role("group", name="Sheets").locator("output")
    there = int(sheets.inner_text())
    page.get_by_role("button", name="More: Sheets").click()
    expect(sheets).to_have_text(str(there + 1))
    back.click()
    expect(sheets).to_have_text(str(there))


def test_a_job_is_dragged_to_another_time(page: Page, served: Served) -> None:
    plan_in(page.request, served.address, 1, 3)
    page.goto(f"{served.address}/plan")
    job = page.locator("g[data-drag='A1.portion'] rect").first
    job.hover(position={"x": 2, "y": 5})  # once the drawing has settled
    box = job.bounding_box()
    assert box
    page.mouse.down()
    page.mouse.move(box["x"] + 62, box["y"] + 5, steps=4)
    page.mouse.up()
    expect(page.get_by_role("button", name=re.compile("^Unpin: portion tray A1"))).to_be_visible()


def test_what_would_help_is_taken_with_one_press(page: Page, served: Served) -> None:
    plan_in(page.request, served.address, 1, 3, sheets=1)
    page.goto(f"{served.address}/plan")
    page.get_by_role("button", name="Plan it again each way").click()
    help_row = page.get_by_role("listitem").filter(has_text="one more sheet")
    help_row.get_by_role("button", name=re.compile("Take it")).click(timeout=60_000)
    expect(page.locator("output").first).to_have_text("2")
    expect(page.get_by_role("img", name=re.compile("The day"))).to_contain_text("Bench, sheet 2")


def test_the_calmer_plan_is_drawn_below_the_soonest_and_taken(page: Page, served: Served) -> None:
    # Whether there is a calmer one hangs on the hour too, for meals stay free.
    for doughs in ((2, 3), (1, 3), (2, 4), (1, 2, 3), (1, 2, 3, 4)):
        at_hand_in(page.request, served.address, *doughs)
        plan_in(page.request, served.address, *doughs)
        if page.request.get(f"{served.address}/api/plan/other").json() is not None:
            break
    page.goto(f"{served.address}/plan")
    page.get_by_role("button", name="Beside it a calmer plan").click()
    beside = page.get_by_role("region", name="Beside it")
    expect(beside.get_by_role("img", name=re.compile("The day"))).to_be_visible(timeout=60_000)
    expect(page.get_by_role("img", name=re.compile("The day"))).to_have_count(2)
    expect(beside.get_by_role("row").filter(has_text="calmer, below")).to_contain_text("time")
    check_axe(page)
    beside.get_by_role("button", name="Take the calmer one").click()
    expect(beside.get_by_role("button", name="Take the soonest")).to_be_visible(timeout=60_000)
    beside.get_by_role("button", name="One plan alone").click()
    expect(page.get_by_role("img", name=re.compile("The day"))).to_have_count(1)


def test_a_session_under_way_comes_in_on_bake(page: Page, served: Served, tmp_path: Path) -> None:
    found = plan_in(page.request, served.address, 1)
    path = f"{served.address}/api/sessions/{found['id']}"
    page.request.post(f"{path}/start", data={})
    first = next(a["key"] for a in found["activities"] if a["hands"])
    page.request.post(f"{path}/events", data={"kind": "done", "activity": first})
    kept = tmp_path / "session.json"
    kept.write_text(page.request.get(f"{path}/file").text(), encoding="utf-8")
    page.request.post(f"{path}/give-up")
    page.goto(f"{served.address}/plan")
    page.get_by_text("Files", exact=True).click()
    page.get_by_label("Bring in a session file").set_input_files(kept)
    page.wait_for_url("**/bake")
    now = page.request.get(f"{served.address}/api/sessions/current").json()
    assert now["id"] != found["id"]
    assert now["happened"] == 1
    page.request.post(f"{served.address}/api/sessions/{now['id']}/give-up")


def test_files_go_out_and_come_in(page: Page, served: Served, tmp_path: Path) -> None:
    found = plan_in(page.request, served.address, 1, 2)
    text = page.request.get(f"{served.address}/api/sessions/{found['id']}/file").text()
    assert json.loads(text)["name"] == found["name"]
    kept = tmp_path / "session.json"
    kept.write_text(text, encoding="utf-8")
    page.request.delete(f"{served.address}/api/plan")
    page.goto(f"{served.address}/plan")
    expect(page.get_by_text("Nothing is planned yet")).to_be_visible()
    page.get_by_text("Files", exact=True).click()
    page.get_by_label("Bring in a session file").set_input_files(kept)
    expect(page.get_by_role("img", name=re.compile("trays of 2 doughs"))).to_be_visible()
    wrong = tmp_path / "wrong.ics"
    wrong.write_text("hello", encoding="utf-8")
    page.get_by_label("Busy times from a calendar").set_input_files(wrong)
    expect(page.get_by_text("That is no calendar").first).to_be_visible()


def test_what_is_asked_for_before_the_first_dough_waits_for_it(
    page: Page, served: Served, tmp_path: Path
) -> None:
    tomorrow = datetime.fromtimestamp(served.clock() / 1000, UTC) + timedelta(days=1)
    busy = Event.new(summary="Choir", start=tomorrow, end=tomorrow + timedelta(hours=2))
    fair = Event.new(summary="Fair", start=tomorrow.date(), end=tomorrow.date() + timedelta(days=2))
    calendar = tmp_path / "mine.ics"
    calendar.write_bytes(Calendar.new(subcomponents=[busy, fair]).to_ical())
    page.goto(f"{served.address}/plan")
    page.get_by_text("Files", exact=True).click()
    page.get_by_label("Busy times from a calendar").set_input_files(calendar)
    expect(page.get_by_text("1 busy time in the next fortnight")).to_contain_text(
        "1 of whole days (Fair)"
    )
    page.get_by_role("radio", name="ready by").click()
    page.get_by_label("Add a dough").select_option(index=1)
    expect(page.get_by_role("img", name=re.compile("The day"))).to_be_visible()
    expect(page.get_by_role("radio", name="ready by")).to_be_checked()
    wish = page.request.get(f"{served.address}/api/plan").json()["wish"]
    assert len(wish["away"]) == 1
    assert wish["ready_by"]


def test_the_weighing_list_of_the_session(page: Page, served: Served) -> None:
    plan_in(page.request, served.address, 1, 3)
    page.goto(f"{served.address}/plan")
    page.get_by_text("To buy, to weigh, and out of the cold").click()
    flour = page.get_by_role("listitem").filter(has_text="All-purpose (plain) flour")
    expect(flour).to_contain_text("430 g")
    row = page.get_by_label("To weigh").get_by_role("row", name=re.compile("All-purpose"))
    expect(row).to_contain_text(re.compile(r"A.*180 g.*B.*250 g.*430 g in all"))
    expect(page.get_by_text("to soften").first).to_be_visible()
    page.context.grant_permissions(["clipboard-read", "clipboard-write"])
    page.get_by_role("button", name="Share the shopping list").click()
    expect(page.get_by_text("Copied")).to_be_visible()
    shared = page.evaluate("navigator.clipboard.readText()")
    assert shared.startswith("To buy for ")
    assert "All-purpose (plain) flour: 430 g" in shared.splitlines()


def json_of(answer: Response) -> list[str]:
    """What the helpers do, as it was kept; no list, and no helper yet, is every job."""
    helpers: list[dict[str, list[str]]] = answer.json()["planning"]["helpers"]
    return [task for helper in helpers for task in helper["tasks"]] or ["mix"]


def test_the_kitchen_is_changed_and_kept(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/kitchen")
    page.get_by_role("group", name="The oven").get_by_role("button", name="More: Shelves").click()
    expect(page.get_by_role("img", name=re.compile("2 shelves"))).to_be_visible()
    fridge = page.get_by_role("textbox", name="Fridge", exact=True)
    fridge.fill("40")
    fridge.press("Enter")
    expect(page.get_by_text(re.compile("at most 12")).first).to_be_visible()
    fridge.fill("3.5")
    fridge.press("Enter")
    page.get_by_label("A helper’s name").fill("Kim")
    page.keyboard.press("Enter")
    page.get_by_label("a child").click()
    expect(page.get_by_label("oven and hot work")).to_be_disabled()
    with page.expect_response(lambda r: r.request.method == "PUT" and "mix" not in json_of(r)):
        page.get_by_label("mix", exact=True).uncheck()
    page.reload()
    expect(page.get_by_label("a child")).to_be_checked()
    expect(page.get_by_label("mix", exact=True)).not_to_be_checked()
    expect(page.get_by_label("portion", exact=True)).to_be_checked()
    expect(fridge).to_have_value("3.5")
    page.get_by_role("button", name="Kim does not help").click()
    expect(page.get_by_label("a child")).to_have_count(0)
    page.get_by_role("button", name="Take back", exact=True).click()
    expect(page.get_by_label("a child")).to_be_checked()


def test_a_copy_is_made_and_taken_elsewhere(page: Page, served: Served, tmp_path: Path) -> None:
    page.goto(f"{served.address}/kitchen")
    copies = page.get_by_role("region", name="Copies")
    expect(copies.get_by_text("There is none yet")).to_be_visible()
    copies.get_by_role("button", name="Make a copy now").click()
    row = copies.get_by_role("listitem").filter(has_text="asked for")
    expect(row).to_contain_text("4 doughs")
    with page.expect_download() as waiting:
        row.get_by_role("link", name=re.compile("Save the copy of")).click()
    taken = tmp_path / "taken.zip"
    waiting.value.save_as(taken)
    check(unpacked_from(taken, tmp_path))
    page.request.delete(f"{served.address}/api/doughs/1")
    served.clock.pass_minutes(1)
    row.get_by_role("button", name="Put it back").click()
    asked = page.get_by_role("dialog")
    expect(asked).to_contain_text("What is there now is copied before")
    check_axe(page)
    asked.get_by_role("button", name="Put it back").click()
    expect(copies.get_by_text("It is back")).to_contain_text("What was there before lies in")
    expect(copies.get_by_role("listitem").first).to_contain_text("from before a change")
    assert page.request.get(f"{served.address}/api/doughs/1").status == 200
    page.get_by_role("link", name="Dough", exact=True).click()
    expect(page.get_by_text("Rye, date & tahini drops").first).to_be_visible()


def unpacked_from(copy: Path, folder: Path) -> Path:
    """The data file in a copy."""
    with zipfile.ZipFile(copy) as packed:
        name = next(each for each in packed.namelist() if each.endswith(".sqlite3"))
        return Path(packed.extract(name, folder / "unpacked"))


def kept(page: Page) -> None:
    expect(page.get_by_role("status").filter(has_text="Kept.")).to_be_visible()


def test_ovens_sheets_pans_and_tools_are_listed_and_drawn(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/kitchen")
    page.get_by_role("button", name="A second oven").click()
    second = page.get_by_role("group", name="Second oven")
    second.get_by_role("radio", name="left").click()
    second.get_by_label("Hotter than its dial").fill("-6")
    page.keyboard.press("Enter")
    expect(second.get_by_text("Its dial is set")).to_contain_text("6 °C higher than what is wanted")
    page.get_by_role("button", name="Another kind of sheet").click()
    page.get_by_label("Called").fill("tiny sheet")
    page.keyboard.press("Tab")
    expect(page.get_by_role("img", name=re.compile("1 × tiny sheet, 33 × 23 cm"))).to_be_visible()
    page.get_by_role("button", name="A pan").click()
    expect(page.get_by_role("img", name=re.compile("square pan, 20 × 20 cm"))).to_be_visible()
    page.get_by_label("A scoop that holds").fill("42")
    page.get_by_role("button", name="Add the scoop").click()
    expect(page.get_by_role("button", name="Take scoop 42 ml away")).to_be_visible()
    page.get_by_label("A cutter, its outline").select_option("hexagon")
    page.get_by_label("Across", exact=True).last.fill("64")
    page.get_by_role("button", name="Add the cutter").click()
    expect(page.get_by_role("button", name="Take hexagon 6.4 cm away")).to_be_visible()
    page.get_by_role("button", name="Take square pan away").click()
    expect(page.get_by_role("button", name="Take square pan away")).to_have_count(0)
    kept(page)
    page.reload()
    expect(page.get_by_label("Called")).to_have_value("tiny sheet")
    expect(page.get_by_role("button", name="Take scoop 42 ml away")).to_be_visible()


def test_a_dough_on_another_sheet_and_in_two_sizes(page: Page, served: Served) -> None:
    kitchen = page.request.get(f"{served.address}/api/kitchen").json()
    small = {"name": "small sheet", "width_mm": 300, "depth_mm": 200}
    page.request.put(f"{served.address}/api/kitchen", data={**kitchen, "other_sheets": [small]})
    page.goto(f"{served.address}/tray/1")
    trays = page.locator("[data-figure=trays]")
    expect(trays).to_contain_text("3, ")
    page.get_by_label("Baked on").select_option("small sheet")
    expect(trays).not_to_contain_text("3, ")
    page.get_by_label("Some in another size").check()
    expect(page.locator("[data-figure=also]")).to_contain_text("6 of 42 g")
    page.get_by_label("How many", exact=True).fill("4")
    expect(page.locator("[data-figure=also]")).to_contain_text("4 of 42 g")
    page.get_by_label("How many", exact=True).fill("400")
    expect(page.get_by_text(re.compile("does not give 400 pieces")).first).to_be_visible()
    page.get_by_label("How many", exact=True).fill("4")
    expect(page.locator("[data-figure=also]")).to_contain_text("4 of 42 g")
    page.get_by_role("button", name="And others").click()
    page.get_by_label("Each 2").fill("0.5")
    expect(page.locator("[data-figure=also]")).to_have_text(
        [re.compile("^4 of 42"), re.compile("^6 of 14")]
    )
    page.get_by_role("button", name="Take these away 2").click()
    expect(page.locator("[data-figure=also]")).to_have_count(1)
    page.get_by_role("link", name=re.compile("Plan these")).click()
    every_job(page)
    detail = page.get_by_role("cell", name=re.compile("4 pieces, the large ones on small sheet"))
    expect(detail).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("The day from"))).to_contain_text("small sheet")


def test_trays_that_go_in_together_are_swapped(page: Page, served: Served) -> None:
    kitchen = page.request.get(f"{served.address}/api/kitchen").json()
    kitchen["planning"] |= {"turning": "swap", "slides": True, "pace": 0.3}
    page.request.put(f"{served.address}/api/kitchen", data=kitchen)
    made = plan_in(page.request, served.address, 3, sheets=4, shelves=2)
    swapped = [a for a in made["activities"] if a["to_shelf"]]
    assert swapped
    page.goto(f"{served.address}/plan")
    first = swapped[0]
    title = f"Swap tray {first['tray']} with {first['label']}"
    every_job(page)
    expect(page.get_by_role("cell", name=title)).to_be_visible()


def test_a_first_start_asks_for_oven_shelves_and_sheets(page: Page, empty: Served) -> None:
    page.goto(empty.address)
    asks = page.get_by_role("region", name="Your kitchen")
    asks.get_by_role("radio", name="fan").click()
    asks.get_by_role("button", name="More: Shelves that you bake on").click()
    asks.get_by_role("button", name="More: Sheets").click()
    asks.get_by_role("button", name="That is my kitchen").click()
    expect(asks).to_have_count(0)
    found = page.request.get(f"{empty.address}/api/kitchen").json()
    assert (found["oven_mode"], found["shelves"], found["sheets"]) == ("fan", 2, 3)
    page.reload()
    expect(page.get_by_role("heading", name="Begin with one of these")).to_be_visible()
    expect(asks).to_have_count(0)


def test_an_activity_and_a_place_are_pressed_to_see_them(page: Page, served: Served) -> None:
    plan_in(page.request, served.address, 1, 3, shelves=2)
    page.goto(f"{served.address}/plan")
    said = page.get_by_role("status").filter(has_text=re.compile("portion tray A2|Oven, upper:"))
    page.locator("g[data-key='A2.portion']").last.click()
    expect(said).to_contain_text("portion tray A2")
    expect(said).to_contain_text(re.compile("could begin|cannot begin"))
    expect(page.get_by_role("button", name="A2", exact=True)).to_have_attribute(
        "aria-pressed", "true"
    )
    page.locator("[data-row=oven1shelf1]").click()
    expect(said).to_contain_text("Oven, upper:")
    expect(said).to_contain_text(re.compile("A1 bakes [0-9]+ min"))
    expect(page.get_by_label("Show a place")).to_have_value("oven1shelf1")
    page.get_by_label("Show a place").select_option("all places")
    expect(said).to_have_count(0)


def test_hot_work_that_is_due_goes_before_all_else(page: Page, served: Served) -> None:
    """Tray A2 is being portioned, and takes its time, when A1 has to come out."""
    at_hand_in(page.request, served.address, 1)
    made = plan_in(page.request, served.address, 1)
    address = f"{served.address}/api/sessions/{made['id']}"
    page.request.post(f"{address}/start")

    def done(key: str, minutes: float) -> None:
        served.clock.pass_minutes(minutes)
        answer = page.request.post(f"{address}/events", data={"kind": "done", "activity": key})
        assert answer.ok, answer.text()

    def due(key: str) -> int:
        now = page.request.get(address).json()
        found: int = next(a["due_at"] for a in now["activities"] if a["key"] == key)
        return found

    for key, minutes in BAKED:
        done(key, minutes)
    assert due("A2.portion") < due("A1.out")
    if due("A1.turn") <= due("A2.portion"):
        done("A1.turn", 6)
    served.clock.at = max(served.clock.at, due("A2.portion") + 1000)
    page.goto(f"{served.address}/bake")
    expect(page.get_by_role("heading", name="Portion tray A2")).to_be_visible()
    served.clock.at = due("A1.out")
    expect(page.get_by_role("heading", name=re.compile("(Turn|Take) tray A1"))).to_be_visible()
    expect(page.get_by_role("region", name="Next")).to_contain_text("portion tray A2")
    page.keyboard.press("Space")
    expect(page.get_by_role("heading", name="Turn tray A1")).to_have_count(0)


def test_what_comes_up_while_baking_is_one_press(page: Page, served: Served) -> None:
    at_hand_in(page.request, served.address, 1)
    made = plan_in(page.request, served.address, 1)
    address = f"{served.address}/api/sessions/{made['id']}"
    page.request.post(f"{address}/start")
    for key, minutes in BAKED:
        served.clock.pass_minutes(minutes)
        page.request.post(f"{address}/events", data={"kind": "done", "activity": key})
    page.goto(f"{served.address}/bake")
    page.get_by_role("button", name="Oven slow: 5 min more").click()
    page.get_by_role("button", name="Take back").click()
    served.clock.pass_minutes(4)
    page.get_by_role("button", name="A1 is out early").click()
    expect(page.get_by_role("timer")).to_have_count(0)
    page.get_by_label("A tray was dropped").select_option("A2")
    expect(page.get_by_label("A tray was dropped").locator("option")).to_have_count(3)
    expect(page.get_by_role("img", name=re.compile("2 trays of one dough"))).to_be_visible()
    page.get_by_role("button", name="Take back").click()
    expect(page.get_by_role("img", name=re.compile("3 trays of one dough"))).to_be_visible()
    page.get_by_role("button", name="I am away").click()
    expect(page.get_by_role("region", name="Now")).to_contain_text(re.compile(r"in 1[0-9]:\d\d"))
