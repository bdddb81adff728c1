"""Out of the cold: from the store through the plan to the bake, thawed, tempered or laid out."""

import re

from playwright.sync_api import Page, Route, expect

from tests.ui.conftest import Served, every_job
from tests.ui.test_screens import check_axe


def run_sheet(page: Page) -> list[str]:
    every_job(page)
    cells = page.locator("details tbody tr td:nth-child(3)").all_inner_texts()
    # Below a job's title stand its steps.
    return [cell.splitlines()[0] for cell in cells]


def test_frozen_portions_go_from_the_store_into_the_oven(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/cold")
    page.get_by_role("button", name=re.compile("^Cardamom-orange leaves")).click()
    page.get_by_label("pieces", exact=True).fill("10")
    page.get_by_role("button", name="Bake them").click()
    expect(page.get_by_label("Cardamom-orange leaves comes")).to_have_value("freezer")
    expect(page.get_by_label("Cardamom-orange leaves was kept as")).to_have_value("portions")
    expect(page.get_by_text("the rest stays cold")).to_be_visible()
    jobs = run_sheet(page)
    assert "Take the dough out of the freezer" in jobs
    assert "Lay out tray A1" in jobs
    assert not [job for job in jobs if job.startswith(("Mix", "Portion"))]
    check_axe(page)
    store = page.request.get(f"{served.address}/api/cold").json()
    left = next(i for i in store["kept"] if i["name"] == "Cardamom-orange leaves")
    assert left["pieces"] == 14


def test_a_frozen_disc_is_thawed_in_the_fridge_first(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/plan/2")
    comes = page.get_by_label("Cardamom-orange leaves comes")
    comes.select_option("freezer")
    expect(page.get_by_label("Cardamom-orange leaves was kept as")).to_have_value("disc")
    page.get_by_text("Move the dough from the freezer to the fridge").first.wait_for()
    jobs = run_sheet(page)
    moved, taken, portioned = (
        jobs.index(job)
        for job in (
            "Move the dough from the freezer to the fridge",
            "Take the dough out of the fridge",
            "Roll and cut tray A1",
        )
    )
    assert moved < taken < portioned
    expect(page.locator("svg").get_by_text(re.compile("^A thaws")).first).to_be_visible()
    page.get_by_label("Cardamom-orange leaves was kept as").select_option("portions")
    expect(page.get_by_text("Lay out tray A1").first).to_be_visible()


def test_the_companion_says_which_dough_to_take_out(page: Page, served: Served) -> None:
    wish = {
        "items": [{"dough_id": 3, "joins": "fridge"}, {"dough_id": 1, "joins": "fridge"}],
        "sheets": 2,
        "shelves": 1,
    }
    made = page.request.put(f"{served.address}/api/plan", data=wish).json()
    page.request.post(f"{served.address}/api/plan/stop")
    page.request.post(f"{served.address}/api/sessions/{made['id']}/start")
    page.goto(f"{served.address}/bake")
    title = page.get_by_role("heading", level=1)
    expect(title).to_have_text("Turn the oven on")
    page.keyboard.press(" ")
    expect(title).to_have_text(re.compile("^Take dough [AB] out of the fridge$"))
    expect(page.get_by_text("not over two hours at room temperature")).to_be_visible()
    first = title.inner_text()
    expect(page.get_by_role("button", name=re.compile("^Done"))).to_be_enabled()
    page.keyboard.press(" ")
    expect(title).not_to_have_text(first)


def test_a_press_whose_answer_is_lost_is_kept_once(page: Page, served: Served) -> None:
    keys: list[str] = []

    def lose_the_answer(route: Route) -> None:
        if route.request.method == "POST":
            keys.append(route.request.headers["x-fine-batch-press"])
            if len(keys) == 1:
                route.fetch()
                route.abort()
                return
        route.fallback()

    page.route(f"{served.address}/api/cold", lose_the_answer)
    page.goto(f"{served.address}/cold")
    put_away = page.get_by_role("form", name="Put away")
    put_away.get_by_label("Dough").select_option("1")
    put_away.get_by_label("It gives").fill("77")
    put_away.get_by_role("button", name="Put it away").click()
    expect(put_away.get_by_text("Put away.")).to_be_visible()
    assert len(keys) == 2 and len(set(keys)) == 1
    kept = page.request.get(f"{served.address}/api/cold").json()["kept"]
    assert [item["pieces"] for item in kept].count(77) == 1


def test_labels_of_all_that_is_kept_are_printed_at_once(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/cold")
    page.get_by_role("link", name="Print the labels of all").click()
    labels = page.get_by_role("listitem")
    kept = page.request.get(f"{served.address}/api/cold").json()["kept"]
    expect(labels).to_have_count(len(kept))
    sesame = labels.filter(has_text="Black-sesame shortbread")
    expect(sesame).to_contain_text("use by")
    expect(sesame).to_contain_text("Contains wheat, milk, sesame")
    check_axe(page)
    page.goto(f"{served.address}/cold")
    page.get_by_role("button", name=re.compile("^Black-sesame")).click()
    page.get_by_role("link", name="Its label").click()
    expect(page.get_by_role("heading", name="Black-sesame shortbread: its label")).to_be_visible()
