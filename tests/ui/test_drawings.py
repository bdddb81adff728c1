"""The drawings are to scale: what is drawn is what the API gives, in millimetres and minutes."""

import re
from typing import Any

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.plans import plan_in
from tests.ui.conftest import Served, every_job

DOUGHS = {"drop": 1, "rolled": 2, "shortbread": 3, "twice_baked": 4}


def foreseen(page: Page, served: Served, dough: int) -> Any:
    kept = page.request.get(f"{served.address}/api/doughs/{dough}").json()
    answer = page.request.post(f"{served.address}/api/doughs/{dough}/foresee", data=kept["tray"])
    return answer.json()


def floats(locator: Locator, *names: str) -> list[float]:
    return [float(locator.get_attribute(name) or "nan") for name in names]


def middle_of(group: Locator) -> list[float]:
    """Where a drawn piece lies, by the shift of its group."""
    found = re.match(r"translate\(([\d.]+) ([\d.]+)\)", group.get_attribute("transform") or "")
    assert found
    return [float(found[1]), float(found[2])]


@pytest.mark.parametrize("family", ["drop", "shortbread"])
def test_round_pieces_are_drawn_in_millimetres(page: Page, served: Served, family: str) -> None:
    page.goto(f"{served.address}/tray/{DOUGHS[family]}")
    sheet = page.get_by_role("img", name=re.compile("^Sheet"))
    found = foreseen(page, served, DOUGHS[family])
    layout = found["layouts"][0]
    pieces = sheet.locator("g[transform]")
    expect(pieces).to_have_count(len(layout["centres"]))
    for n, centre in enumerate(layout["centres"]):
        assert middle_of(pieces.nth(n)) == pytest.approx([centre["x"], centre["y"]], abs=0.01)
        circles = [pieces.nth(n).locator("circle").nth(k) for k in range(3)]
        wide = [floats(c, "r")[0] * 2 for c in circles]
        assert wide == pytest.approx(
            [found["width"]["high_mm"], found["width"]["middle_mm"], found["raw"]["width_mm"]],
            abs=0.01,
        )


def test_cut_leaves_are_drawn_in_millimetres(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/tray/2")
    sheet = page.get_by_role("img", name=re.compile("^Sheet"))
    found = foreseen(page, served, 2)
    pieces = sheet.locator("g[transform^=translate]")
    expect(pieces).to_have_count(len(found["layouts"][0]["centres"]))
    rim, *inner = pieces.first.locator("polygon").all()
    # The outline of the baked piece, grown outward by the same on all sides.
    baked, room = found["lies"]["baked_mm"], found["footprint"]
    grown = [room["across_mm"] - baked["across"], room["down_mm"] - baked["down"]]
    assert floats(rim, "stroke-width") == pytest.approx([min(grown)], abs=0.01)
    for drawn, lies in zip((rim, *inner), ("baked_mm", "baked_mm", "raw_mm"), strict=True):
        size = drawn.evaluate("outline => [outline.getBBox().width, outline.getBBox().height]")
        assert size == pytest.approx(list(found["lies"][lies].values()), abs=0.1)


def test_logs_are_drawn_in_millimetres(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/tray/4")
    sheet = page.get_by_role("img", name=re.compile("^Sheet"))
    found = foreseen(page, served, 4)
    raw = sheet.locator("rect.stroke-dark")
    expect(raw).to_have_count(len(found["layouts"][0]["centres"]))
    assert floats(raw.first, "width", "height") == pytest.approx(
        [found["raw"]["length_mm"], found["raw"]["width_mm"]], abs=0.01
    )
    baked = sheet.locator("rect.stroke-amber").first
    assert floats(baked, "height") == pytest.approx([found["width"]["middle_mm"]], abs=0.01)


@pytest.mark.parametrize("family", DOUGHS)
def test_the_sheet_is_a_sentence_for_those_who_cannot_see_it(
    page: Page, served: Served, family: str
) -> None:
    page.goto(f"{served.address}/tray/{DOUGHS[family]}")
    found = foreseen(page, served, DOUGHS[family])
    first = found["layouts"][0]["centres"][0]
    told = page.get_by_role("img", name=re.compile("^Sheet")).get_attribute("aria-label") or ""
    assert f"{len(found['layouts'][0]['centres'])} pieces" in told
    assert f"baked {found['width']['middle_mm'] / 10:.1f} cm" in told
    middle = re.search(r"first middle ([\d.]+) cm from the left and ([\d.]+) cm from the top", told)
    assert middle
    assert [10 * float(part) for part in middle.groups()] == pytest.approx(
        [first["x"], first["y"]], abs=0.51
    )
    side = page.get_by_role("img", name=re.compile("^From the side")).get_attribute("aria-label")
    assert f"{found['thickness']['height_mm']:.1f} mm high" in (side or "")


def test_the_piece_from_the_side_stands_on_its_ruler(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/tray/1")
    found = foreseen(page, served, 1)
    side = page.get_by_role("img", name=re.compile("^From the side"))
    raw = side.locator("ellipse")
    assert floats(raw, "rx", "ry") == pytest.approx(
        [found["raw"]["width_mm"] / 2, found["raw"]["height_mm"] / 2], abs=0.01
    )
    outline = side.locator("path").first.get_attribute("d") or ""
    left = float(re.findall(r"M(-?[\d.]+)", outline)[0])
    assert left == pytest.approx(-found["width"]["middle_mm"] / 2, abs=0.01)


def test_each_size_of_tray_is_shown_when_asked(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/tray/1")
    found = foreseen(page, served, 1)
    sheet = page.get_by_role("img", name=re.compile("^Sheet"))
    assert len(found["layouts"]) == 2
    for layout in found["layouts"]:
        count = len(layout["centres"])
        page.get_by_role("button", name=f"{count} on a tray").click()
        expect(sheet.locator("circle.stroke-amber")).to_have_count(count)


def test_the_day_is_drawn_to_its_minutes(page: Page, served: Served) -> None:
    plan = plan_in(page.request, served.address, 1, sheets=3, shelves=2)
    page.goto(f"{served.address}/plan/1")
    day = page.get_by_role("img", name=re.compile("^The day from"))
    expect(day).to_be_visible()
    begin = min(a["start_at"] for a in plan["activities"])
    whole = plan["finish_at"] - begin
    scale = (900 - 116 - 14) / whole
    wanted = sorted(
        116 + (a["start_at"] - begin) * scale for a in plan["activities"] if a["kind"] == "bake"
    )
    drawn = day.locator("rect[height='40'][fill]")
    expect(drawn).to_have_count(len(wanted))
    lefts = sorted(floats(drawn.nth(n), "x")[0] for n in range(len(wanted)))
    assert lefts == pytest.approx(wanted, abs=0.1)


def test_one_tray_can_be_followed_alone(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/plan/1")
    page.get_by_role("button", name="A2", exact=True).click()
    expect(page.locator("svg g[opacity='0.12']")).to_have_count(2)
    page.get_by_role("button", name="all trays").click()
    expect(page.locator("svg g[opacity='0.12']")).to_have_count(0)


def test_the_run_sheet_says_what_the_drawing_shows(page: Page, served: Served) -> None:
    plan = plan_in(page.request, served.address, 1)
    page.goto(f"{served.address}/plan")
    every_job(page)
    rows = page.get_by_role("row")
    expect(rows.nth(1)).to_contain_text("out of the fridge")
    expect(rows.nth(2)).to_contain_text("Weigh everything out")
    told = [a for a in plan["activities"] if a["hands"] or a["kind"] == "heat"]
    assert rows.count() == 1 + len(told)
    expect(page.get_by_role("table")).to_contain_text("Turn the oven on")


def test_the_book_plots_each_measured_bake_with_its_band(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/book/1")
    plot = page.get_by_role("img", name=re.compile("bakes measured"))
    expect(plot.locator("rect")).to_have_count(2)
    bakes = page.request.get(f"{served.address}/api/bakes?dough_id=1").json()
    heights = [float(plot.locator("rect").nth(n).get_attribute("height") or 0) for n in (0, 1)]
    bands = [b["high_mm"] - b["low_mm"] for b in reversed(bakes)]
    assert heights[0] / heights[1] == pytest.approx(bands[0] / bands[1], rel=0.01)
    assert heights[1] < heights[0]
