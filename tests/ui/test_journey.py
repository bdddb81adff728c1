"""One dough from a written card to its record, as a baker would, checked against the core."""

import re
from contextlib import suppress

import pytest
from playwright.sync_api import Locator, Page, expect
from playwright.sync_api import TimeoutError as PressedTooLate

from finebatch.core.formula.composition import compose
from finebatch.core.formula.dough import Card, Line, WeighedDough
from finebatch.core.formula.weigh import weigh
from finebatch.core.method.of_card import programme_of_card
from finebatch.core.piece.effects import BakeConditions
from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.rows import Sheet
from finebatch.core.piece.tray import TrayAnswer, TrayBasis, foresee_tray
from finebatch.core.plan.habits import Planning
from finebatch.core.plan.prepare import Portioned, bake_of, prepare
from finebatch.core.plan.solver import best_plan
from finebatch.facts import formula, tables
from finebatch.workflow.kitchen.lessons import lessons
from tests.ui.conftest import Served

CARD = [
    ("2 1/4", "cup", "all-purpose", "flour_ap"),
    ("1", "stick", "unsalted b", "butter_unsalted"),
    ("3 1/2", "oz", "caster", "sugar_caster"),
    ("½", "cup", "light brown", "sugar_brown_light"),
    ("1", "egg", "whole egg", "egg_whole"),
    ("2", "tbsp", "golden", "golden_syrup"),
    ("1", "tsp", "vanilla", "vanilla_extract"),
    ("3/4", "tsp", "baking soda", "baking_soda"),
    ("0,5", "tsp", "fine salt", "salt_fine"),
    ("120", "g", "pecans", "pecans"),
]
PIECE_G = 32


def core_lines() -> tuple[Line, ...]:
    return tuple(Line(amount, unit, key) for amount, unit, _, key in CARD)  # type: ignore[arg-type]


def core_dough() -> WeighedDough:
    return weigh(core_lines(), tables.larder())


def core_tray(served: Served) -> TrayAnswer:
    """What the core gives for this card in this kitchen, where other doughs were baked before."""
    with served.database.reading() as session:
        learnt = lessons(session).of_dough("a dough never baked")
    basis = TrayBasis(
        tables.models(),
        compose(core_dough().formula_g(), tables.larder()),
        "drop",
        BakeConditions(21, 190, "conventional", "parchment"),
        Sheet(405, 305),
        "weighed",
        learnt=learnt,
    )
    return foresee_tray(basis, Drop(PIECE_G))


def figure(page: Page, name: str) -> Locator:
    return page.locator(f"[data-figure={name}]").first


def number(text: str) -> float:
    found = re.search(r"-?\d+(?:\.\d+)?", text)
    assert found, text
    return float(found[0])


def write_card(page: Page) -> None:
    page.get_by_role("button", name="Start one").click()
    name = page.get_by_label("Name of the dough")
    expect(name).to_have_value("New dough")
    name.fill("Pecan rounds")
    for n, (amount, unit, typed, _) in enumerate(CARD, start=1):
        # By its key: under the pointer it moves while the line before is still being weighed.
        page.get_by_role("button", name="Add a line").press("Enter")
        page.get_by_label(f"Ingredient, line {n}", exact=True).fill(typed)
        page.keyboard.press("Enter")
        page.get_by_label(f"Unit, line {n}").select_option(unit)
        page.get_by_label(f"Amount, line {n}").fill(amount)


def check_dough(page: Page) -> None:
    core = core_dough()
    rows = page.get_by_role("listitem").filter(has=page.get_by_label(re.compile("^Amount, line")))
    expect(rows).to_have_count(len(CARD))
    expect(figure(page, "total")).to_have_text(f"{core.total_g:.0f} g")
    for n, line in enumerate(core.lines):
        shown = rows.nth(n).locator("[data-figure=grams]")
        assert number(shown.inner_text()) == pytest.approx(line.grams, abs=0.5)
        percent = rows.nth(n).locator("[data-figure=percent]")
        assert number(percent.inner_text()) == pytest.approx(line.percent, abs=0.5)
    expect(page.get_by_text("Kept.", exact=True)).to_be_visible()


def check_tray(page: Page, tray: TrayAnswer) -> None:
    width = tray.foreseen.width
    expect(figure(page, "pieces")).to_have_text(str(tray.yields.pieces))
    assert number(figure(page, "leftover").inner_text()) == pytest.approx(
        tray.yields.leftover_g, abs=0.5
    )
    drawn = page.get_by_role("img", name=re.compile("^Sheet 40.5 × 30.5 cm"))
    expect(drawn.locator("circle[stroke-dasharray]")).to_have_count(max(tray.yields.trays) + 1)
    expect(figure(page, "width")).to_have_text(f"{width.middle_mm / 10:.1f} cm")
    expect(figure(page, "band")).to_have_text(
        f"{width.low_mm / 10:.1f} to {width.high_mm / 10:.1f} cm"
    )
    expect(figure(page, "thickness")).to_have_text(f"{tray.foreseen.thickness.height_mm:.1f} mm")
    bake = bake_of(tray.foreseen.minutes)
    expect(figure(page, "minutes")).to_have_text(f"{bake.minutes} min, turn at {bake.turn_after}")
    movers = page.locator("[data-mover]")
    wanted = [m for m in tray.foreseen.width.movers if abs(m.mm) >= 0.05][:11]
    expect(movers).to_have_count(len(wanted))
    for n, mover in enumerate(wanted):
        expect(movers.nth(n)).to_contain_text(mover.label)
        shown = number(movers.nth(n).locator("strong").inner_text().replace("−", "-"))
        assert shown == pytest.approx(mover.mm, abs=0.051)


def test_a_card_of_ten_lines_from_dough_to_book(page: Page, served: Served) -> None:
    page.goto(f"{served.address}/dough")
    write_card(page)
    check_dough(page)

    page.get_by_role("link", name="Portion it").click()
    page.get_by_label("A piece weighs").fill(str(PIECE_G))
    page.get_by_label("Oven at").fill("190")
    tray = core_tray(served)
    check_tray(page, tray)

    page.get_by_role("link", name=re.compile("^Plan ")).click()
    page.get_by_role("button", name="More: Sheets").click()
    finish = figure(page, "finish")
    expect(page.get_by_text("proven")).to_be_visible()
    expect(page.locator("output").first).to_have_text("3")
    check_plan(page, tray)

    first_finish = finish.inner_text()
    page.get_by_role("button", name="Start baking now").click()
    bake_all(page, served, first_finish)

    page.get_by_role("link", name="Write down what came out").last.click()
    record(page, tray.foreseen.width.middle_mm)


def check_plan(page: Page, tray: TrayAnswer) -> None:
    """The plan on the screen takes as long as the core's own plan of the same work."""
    method = programme_of_card(
        Card("A", "drop", "creamed", core_lines()),
        formula.usual_method(),
        tables.larder(),
        kg=core_dough().total_g / 1000,
        chill_min=0,
        kept_as="lump",
    )
    dough = Portioned(
        "A",
        tray,
        tables.families()["drop"].piece,
        tables.families()["drop"],
        method,
        "creamed",
        (),
        190,
    )
    work = prepare(
        [dough],
        Planning().kitchen((3,), 1, "conventional", ()),
        tables.part_habits(),
        formula.step_habits(),
    )
    shown = page.get_by_text(re.compile("cold and ready; begin")).inner_text()
    hours = re.search(r"(?:(\d+) h ?)?(\d+)?(?: min)? in all", shown)
    assert hours, shown
    assert 60 * int(hours[1] or 0) + int(hours[2] or 0) == best_plan(work).finish


def bake_all(page: Page, served: Served, finish: str) -> None:
    expect(
        page.get_by_role(
            "heading", name=re.compile("out of the fridge|Weigh|Mix the dough|oven on")
        )
    ).to_be_visible()
    assert finish
    done = page.get_by_role("button", name=re.compile("^Done"))
    all_out = page.get_by_role("heading", name="All out.")
    for _ in range(60):
        session = page.request.get(f"{served.address}/api/sessions/current").json()
        left = [a for a in session["activities"] if a["done_at"] is None]
        jobs = [a for a in left if a["hands"] or a["kind"] == "heat"]
        if not jobs:
            break
        job = min(jobs, key=lambda a: (a["due_at"], a["kind"] != "heat", a["start_at"]))
        served.clock.at = max(served.clock.at, job["due_at"]) + 30_000
        # The last press may still be on its way to the server when it was asked: then all is out
        # in a moment.
        ready = page.locator("button:enabled").filter(has_text=re.compile("^Done"))
        expect(ready.or_(all_out)).to_be_visible()
        if all_out.is_visible():
            break
        # Where the last press was told just now there is nothing left to press; that it was done
        # is asked below.
        with suppress(PressedTooLate):
            if job["kind"] == "load" and job["tray"] == "A2":
                done.press("Space", timeout=5000)
            else:
                done.click(timeout=5000)
        expect(page.locator("main")).not_to_have_text("", use_inner_text=True)
        page.wait_for_function(
            """async ([id, key]) => {
              const answer = await (await fetch(`/api/sessions/${id}`)).json();
              const own = answer.activities.find((a) => a.key === key);
              return !own || own.done_at !== null;
            }""",
            arg=[session["id"], job["key"]],
        )
    expect(all_out).to_be_visible()


def record(page: Page, foreseen: float) -> None:
    before = number(figure(page, "next").inner_text())
    assert 10 * before == pytest.approx(foreseen, abs=0.6)
    minutes = page.get_by_label("In the oven")
    assert number(minutes.input_value()) > 5
    for n, mm in enumerate((0.95, 0.96, 0.94), start=1):
        page.get_by_label(f"piece {n}").fill(f"{foreseen * mm:.1f}")
    page.get_by_role("radio", name="gold").click()
    page.get_by_label("Note").fill("Chewy, a little small.")
    page.get_by_role("button", name="Write it down").click()
    expect(page.get_by_text("Written down.")).to_be_visible()
    row = page.get_by_role("region", name="Bakes").get_by_role("listitem")
    expect(row).to_have_count(1)
    expect(row).to_contain_text("Chewy, a little small.")
    expect(row).to_contain_text("gold")
    shifted = figure(page, "next")
    expect(shifted).to_contain_text("from 1 of your bakes")
    assert number(shifted.inner_text()) < before
