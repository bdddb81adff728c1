"""Take the pictures of the main views for the README, from the demo data.

python scripts/shots.py [view ...]
"""

import os
import re
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from playwright.sync_api import FilePayload, Page, expect, sync_playwright

sys.path.insert(0, str(Path(__file__).parent.parent))

from finebatch.demo.alive import bring_to_life
from finebatch.demo.load import load
from finebatch.settings import Settings
from finebatch.store.places import photos_of, token_of
from finebatch.web.app import create_app
from finebatch.web.guard import TOKEN
from finebatch.web.server import server_of
from tests.drawn_trays import DrawnPiece, DrawnTray, draw, run_together

PICTURES = Path(__file__).parent.parent / "docs" / "screenshots"
PORT = 8799
# A Saturday at half past ten, by the clock of the kitchen that the pictures show.
MORNING = 1_791_621_000_000


# Ready for the harvest supper at three in the afternoon.
READY_BY = MORNING + 390 * 60_000


class HandClock:
    def __init__(self) -> None:
        self.at = MORNING

    def __call__(self) -> int:
        return self.at


def today(page: Page, _clock: HandClock) -> None:
    """Then the supper is planned no more: other pictures have plans of their own."""
    page.goto(f"http://127.0.0.1:{PORT}/")
    expect(page.get_by_text("First, ")).to_be_visible()
    expect(page.get_by_text("to one scale")).to_be_visible()
    page.screenshot(path=PICTURES / "today.png")
    page.request.delete(f"http://127.0.0.1:{PORT}/api/plan")


def dough(page: Page, _clock: HandClock) -> None:
    page.goto(f"http://127.0.0.1:{PORT}/dough/1")
    expect(page.get_by_text("bakes to")).to_be_visible()


DAY_MS = 86_400_000
IN_THE_HOUSE = (
    ("flour_ap", 1500, 1000, 1.1),
    ("flour_rye", 700, 1000, 2.2),
    ("butter_unsalted", 500, 250, 2.9),
    ("egg_whole", 300, 300, 2.4),
    ("sugar_white", 900, 1000, 1.4),
    ("sugar_brown_light", 400, 500, 1.8),
)
"""Ingredients, what there is of them and in a pack (g), and what a pack costs."""


def stock(page: Page) -> None:
    """Some of what the kitchen needs, some to be used within the week."""
    for n, (key, grams, pack_g, price) in enumerate(IN_THE_HOUSE):
        use_by = round(time.time() * 1000) + 5 * DAY_MS if n in (1, 2, 3) else None
        pack = {
            "ingredient": key,
            "grams": grams,
            "pack_g": pack_g,
            "price": price,
            "use_by": use_by,
        }
        assert page.request.post(f"http://127.0.0.1:{PORT}/api/stock", data=pack).ok


def larder(page: Page, _clock: HandClock) -> None:
    stock(page)
    page.goto(f"http://127.0.0.1:{PORT}/larder")
    page.get_by_role("button", name="Rye flour").click()
    expect(page.get_by_text("Used in")).to_be_visible()


def tray(page: Page, _clock: HandClock) -> None:
    page.goto(f"http://127.0.0.1:{PORT}/tray/1")
    expect(page.get_by_text("What moves it")).to_be_visible()


def tab_of(page: Page, dough: int, tab: str) -> None:
    page.goto(f"http://127.0.0.1:{PORT}/tray/{dough}")
    page.get_by_role("tab", name=tab).click()
    expect(page.get_by_role("tabpanel", name=tab).get_by_role("img").first).to_be_visible()
    page.mouse.click(5, 400)


DROPS = (
    "Toast the walnuts for 6 minutes, let them cool.",
    "Cream butter and sugar for 3 minutes. Beat in the egg and the tahini.",
    "Stir in flour, soda and salt, then the dates.",
    "Wrap and chill 30-60 minutes.",
    "Roll 28 g balls, roll in sesame and press lightly.",
    "Bake for 11-13 minutes, centres still soft. Leave on the sheet 5 minutes.",
)


def method(page: Page, _clock: HandClock) -> None:
    """The method of a card that somebody wrote, as a line of time; the dough is put back after."""
    address = f"http://127.0.0.1:{PORT}/api/doughs/1"

    def put(steps: list[dict[str, str]]) -> None:
        kept = page.request.get(address).json()
        card = {**kept["card"], "steps": steps, "revision": kept["revision"]}
        assert page.request.put(address, data=card).ok

    before = page.request.get(address).json()["card"]["steps"]
    put([{"text": text} for text in DROPS])
    page.goto(f"http://127.0.0.1:{PORT}/dough/1")
    page.get_by_role("tab", name="Method").click()
    expect(page.get_by_role("region", name="Make the pieces")).to_be_visible()
    page.mouse.click(5, 400)
    page.wait_for_timeout(300)
    steps = page.get_by_role("region", name="Steps").get_by_role("listitem")
    steps.nth(1).get_by_role("button").first.click()
    page.screenshot(path=PICTURES / "method.png")
    put(before)


TAKEN_INSIDE = ("method", "today", "oven")
"""Views that take their picture themselves, before they put things back."""


def slab(page: Page, _clock: HandClock) -> None:
    tab_of(page, 2, "Slab")


def aim(page: Page, _clock: HandClock) -> None:
    tab_of(page, 1, "Aim")
    panel = page.get_by_role("region", name="Aim")
    panel.get_by_label("Wide", exact=True).fill("7.4")
    panel.get_by_label("without eggs").check()
    panel.get_by_role("article").nth(1).wait_for()
    page.wait_for_timeout(600)
    panel.get_by_role("heading", name="What shall come out?").scroll_into_view_if_needed()
    page.evaluate("window.scrollTo(0, 190)")


def supper(page: Page) -> Any:
    """All four doughs of the harvest supper in one session, planned to the end."""
    base = f"http://127.0.0.1:{PORT}/api"
    items = [{"dough_id": dough} for dough in (1, 2, 3, 4)]
    wish = {"items": items, "sheets": 3, "shelves": 2, "ready_by": READY_BY}
    found = page.request.put(f"{base}/plan", data=wish).json()
    while found["searching"]:
        page.wait_for_timeout(300)
        found = page.request.get(f"{base}/plan").json()
    return found


def plan(page: Page, _clock: HandClock) -> None:
    supper(page)
    page.goto(f"http://127.0.0.1:{PORT}/plan")
    expect(page.get_by_text("What holds it up")).to_be_visible()
    page.get_by_role("button", name="Plan it again each way").click()
    expect(page.get_by_text("planning…")).to_have_count(0, timeout=180_000)
    page.evaluate("window.scrollTo(0, 0)")


def occasion(page: Page, _clock: HandClock) -> None:
    """A hundred pieces in four kinds, on the table on Sunday at three."""
    stock(page)
    supper(page)
    page.goto(f"http://127.0.0.1:{PORT}/plan")
    page.get_by_text("For an occasion").click()
    page.get_by_label("On the table").fill("Sun 15:00")
    page.get_by_label("How many pieces", exact=True).fill("100")
    page.get_by_label("Called", exact=True).fill("Harvest tea")
    page.get_by_role("button", name="Make the doughs and the plan").click()
    expect(page.get_by_role("columnheader", name="keeps")).to_be_visible()
    expect(page.get_by_text("Looking for a better plan")).to_have_count(0, timeout=180_000)


def on_to(page: Page, clock: HandClock, session: Any, there: Callable[[Any], bool]) -> Any:
    """Every job done when it is due, up to the one that is looked for, or to the end."""
    base = f"http://127.0.0.1:{PORT}/api"
    while session["state"] == "running":
        jobs = [a for a in session["activities"] if a["hands"] and a["done_at"] is None]
        job = min(jobs, key=lambda a: (a["due_at"], a["start_at"]))
        if there(job):
            clock.at = max(clock.at, job["due_at"])
            break
        clock.at = max(clock.at, job["end_at"])
        event = {"kind": "done", "activity": job["key"]}
        path = f"{base}/sessions/{session['id']}/events"
        session = page.request.post(path, data=event).json()
    return session


def bake(page: Page, clock: HandClock) -> None:
    """Drops are portioned while another tray is in the oven."""
    made = supper(page)
    path = f"http://127.0.0.1:{PORT}/api/sessions/{made['id']}"
    session = page.request.post(f"{path}/start").json()
    session = on_to(page, clock, session, lambda job: job["kind"] == "turn")
    on_to(page, clock, session, lambda job: job["kind"] == "portion" and job["dough"] == "A")
    page.clock.set_fixed_time(clock.at)
    page.goto(f"http://127.0.0.1:{PORT}/bake")
    expect(page.get_by_role("region", name="This job, drawn")).to_be_visible()


def oven(page: Page, clock: HandClock) -> None:
    """The same on a tablet that is let in, upright beside the oven. Wants an address of a home."""
    if page.request.get(f"http://127.0.0.1:{PORT}/api/sessions/current").json() is None:
        bake(page, clock)
    page.goto(f"http://127.0.0.1:{PORT}/network")
    page.get_by_role("button", name="Let a tablet in").click()
    code = page.get_by_text(re.compile(r"^\d{3} \d{3}$")).inner_text().replace(" ", "")
    link = page.get_by_text(re.compile(r"^https://.*/let-in$")).inner_text()
    browser = page.context.browser
    assert browser
    tablet = browser.new_page(
        viewport={"width": 820, "height": 1100},
        is_mobile=True,
        has_touch=True,
        ignore_https_errors=True,
        timezone_id="UTC",
        locale="en-GB",
    )
    tablet.goto(f"{link}#{code}")
    tablet.get_by_label("Name of this device").fill("Tablet by the oven")
    tablet.get_by_role("button", name="Let it in").click()
    tablet.get_by_role("link", name="Bake", exact=True).click()
    expect(tablet.get_by_role("region", name="This job, drawn")).to_be_visible()
    tablet.wait_for_timeout(400)
    tablet.screenshot(path=PICTURES / "oven.png")
    tablet.close()
    page.request.put(f"http://127.0.0.1:{PORT}/api/network", data={"open": False})


def closing(page: Page, clock: HandClock) -> None:
    """After the last tray: what is left of the session that is being baked."""
    session = page.request.get(f"http://127.0.0.1:{PORT}/api/sessions/current").json()
    if session is None:
        bake(page, clock)
        session = page.request.get(f"http://127.0.0.1:{PORT}/api/sessions/current").json()
    on_to(page, clock, session, lambda _job: False)
    page.goto(f"http://127.0.0.1:{PORT}/bake")
    expect(page.get_by_role("heading", name="All out.")).to_be_visible()


def kitchen(page: Page, _clock: HandClock) -> None:
    """The kitchen of the harvest supper: two shelves, three sheets, an oven that runs hot."""
    address = f"http://127.0.0.1:{PORT}/api/kitchen"
    usual = page.request.get(address).json()
    nature = {"offset_c": 7, "swing_c": 24, "hot_side": "back"}
    planning = {**usual["planning"], "oven": nature}
    sheet = {"name": "dark sheet", "width_mm": 330, "depth_mm": 230, "kind": "dark"}
    tin = {"name": "square tin", "shape": "square", "across_mm": 200, "down_mm": 200, "number": 2}
    changed = {"sheets": 3, "shelves": 2, "other_sheets": [sheet], "pans": [tin]}
    page.request.put(address, data={**usual, **changed, "planning": planning})
    page.goto(f"http://127.0.0.1:{PORT}/kitchen")
    expect(page.get_by_role("heading", name="Sheets and pans")).to_be_visible()
    page.wait_for_timeout(300)
    page.request.put(address, data=usual)


def weigh(page: Page, clock: HandClock) -> None:
    """Portions of the tray at hand, weighed one by one."""
    base = f"http://127.0.0.1:{PORT}/api"
    session = page.request.get(f"{base}/sessions/current").json()
    if session is None:
        bake(page, clock)
        session = page.request.get(f"{base}/sessions/current").json()
    # What is cut from a slab is not weighed piece by piece.
    weighed = {d["letter"] for d in session["doughs"] if d["kind"] not in ("rolled", "pan")}
    while True:
        jobs = [a for a in session["activities"] if a["hands"] and a["done_at"] is None]
        job = min(jobs, key=lambda a: a["due_at"])
        if job["kind"] == "portion" and job["dough"] in weighed:
            break
        clock.at = max(clock.at, job["due_at"])
        body = {"kind": "done", "activity": job["key"]}
        session = page.request.post(f"{base}/sessions/{session['id']}/events", data=body).json()
    clock.at = max(clock.at, job["due_at"])
    page.request.put(f"{base}/devices", data={"on": True, "oven": {"dial_c": 180}})
    for grams in (28, 29, 27.5, 31.5, 28):
        body = {"kind": "weighed", "activity": job["key"], "grams": grams}
        page.request.post(f"{base}/sessions/{session['id']}/events", data=body)
    scale = {"on": True, "oven": {"dial_c": 180}, "scale": {"load_g": 19.5}}
    page.request.put(f"{base}/devices", data=scale)
    page.goto(f"http://127.0.0.1:{PORT}/bake")
    page.get_by_role("button", name="Weigh along").click()
    clock.at += 3000
    expect(page.get_by_text("to go")).to_be_visible()
    page.evaluate("window.scrollTo(0, 0)")
    page.wait_for_timeout(2500)


def devices(page: Page, clock: HandClock) -> None:
    """An oven that is seven degrees cooler than its dial, watched for three quarters of an hour."""
    base = f"http://127.0.0.1:{PORT}/api"
    oven = {"dial_c": 180, "offset_c": -7, "swing_c": 20}
    page.request.put(f"{base}/devices", data={"on": True, "scale": {"load_g": 28}, "oven": oven})
    page.request.post(f"{base}/oven/watch", data={"dial_c": 180})
    for n in range(270):
        if n in (180, 182):
            knobs = {**oven, "door_open": n == 180}
            scale = {"load_g": 28}
            page.request.put(f"{base}/devices", data={"on": True, "scale": scale, "oven": knobs})
        clock.at += 10_000
        page.wait_for_timeout(230)
    page.goto(f"http://127.0.0.1:{PORT}/devices")
    expect(page.get_by_text("Set the dial to")).to_be_visible()
    page.request.delete(f"{base}/oven/watch")
    page.wait_for_timeout(200)


def book(page: Page, _clock: HandClock) -> None:
    page.goto(f"http://127.0.0.1:{PORT}/book/1")
    expect(page.get_by_text("Measured beside foreseen")).to_be_visible()
    page.evaluate("window.scrollTo(0, 0)")


def measured_tray() -> bytes:
    """A photo of twenty drops, drawn: two ran together, the right side is darker."""
    rng = np.random.default_rng(21)
    pieces = [
        DrawnPiece(
            45 + 79 * x + rng.normal(0, 1.5),
            38 + 76 * y + rng.normal(0, 1.5),
            33 * float(np.exp(rng.normal(0, 0.03))),
            14,
            3.8 + 0.25 * x + rng.normal(0, 0.2),
        )
        for y in range(4)
        for x in range(5)
    ]
    run_together(pieces[6], pieces[7], by=2)
    return draw(DrawnTray(pieces=pieces, tilt=14, camera_mm=560, bend=-0.04), rng, (1600, 1200))


def by_photo(page: Page, clock: HandClock) -> None:
    book(page, clock)
    photo = FilePayload(name="tray.jpg", mimeType="image/jpeg", buffer=measured_tray())
    page.get_by_label("Choose a photo").first.set_input_files(photo)
    expect(page.get_by_role("button", name="Take these 20")).to_be_visible(timeout=30_000)
    page.get_by_role("button", name="B4", exact=True).click()
    page.evaluate("window.scrollTo(0, 0)")


def trouble(page: Page, clock: HandClock) -> None:
    book(page, clock)
    page.get_by_role("button", name="ran into each other: why?").click()
    expect(page.get_by_text("Try").first).to_be_visible()


def cold(page: Page, _clock: HandClock) -> None:
    page.goto(f"http://127.0.0.1:{PORT}/cold")
    page.get_by_role("button", name="Black-sesame shortbread").click()
    expect(page.get_by_role("button", name="Bake them")).to_be_visible()


CARD = """Rye, date and tahini drops (about 24)
1 1/4 cups rye flour
1 stick butter or margarine, soft
half a cup of brown sugar
1 egg
3 tbsp tahini
1/2 tsp each baking soda and salt
a cup of chopped dates
sesame seeds to roll them in

Cream butter and sugar. Beat in egg and tahini. Stir in the dry ingredients, then the dates.
Chill for at least 30 minutes. Roll 28 g balls, roll in sesame, press lightly.
Bake at 350 for 11 to 13 minutes, centres still soft. Leave on the tray for 5 minutes."""


def card(page: Page, _clock: HandClock) -> None:
    page.goto(f"http://127.0.0.1:{PORT}/dough")
    page.get_by_role("button", name="Start one").click()
    page.get_by_role("button", name="Paste a card").click()
    page.get_by_role("textbox", name="Paste a card: its title").fill(CARD)
    page.get_by_text("From the card").wait_for()
    page.get_by_text("From the card").scroll_into_view_if_needed()
    page.mouse.wheel(0, 420)


VIEWS: dict[str, Callable[[Page, HandClock], None]] = {
    "today": today,
    "dough": dough,
    "method": method,
    "larder": larder,
    "tray": tray,
    "slab": slab,
    "aim": aim,
    "kitchen": kitchen,
    "plan": plan,
    "occasion": occasion,
    "book": by_photo,
    "trouble": trouble,
    "cold": cold,
    "devices": devices,
    "bake": bake,
    "oven": oven,
    "weigh": weigh,
    "closing": closing,
    # It adds a dough: the last one.
    "card": card,
}


def main(wanted: list[str]) -> None:
    PICTURES.mkdir(parents=True, exist_ok=True)
    clock = HandClock()
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as play:
        settings = Settings(data_file=Path(folder) / "shots.sqlite3", network_port=PORT + 1)
        app = create_app(settings, clock)
        load(app.state.database, clock(), photos_of(app.state.database.file))
        if not wanted or "today" in wanted:
            bring_to_life(app.state.database, clock())
        server = server_of(app, PORT)
        thread = threading.Thread(target=server.run, daemon=True)
        thread.start()
        browser = play.chromium.launch(
            executable_path=os.environ.get("CHROMIUM", "/usr/bin/chromium"),
            args=["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
        )
        for name, show in VIEWS.items():
            if wanted and name not in wanted:
                continue
            page = browser.new_page(
                viewport={"width": 1280, "height": 800},
                timezone_id="UTC",
                locale="en-GB",
                extra_http_headers={TOKEN: token_of(settings.data_file)},
            )
            show(page, clock)
            page.wait_for_timeout(400)
            if name not in TAKEN_INSIDE:
                page.screenshot(path=PICTURES / f"{name}.png")
            page.close()
        browser.close()
        server.should_exit = True
        thread.join(10)


if __name__ == "__main__":
    main(sys.argv[1:])
