"""Take the pictures of the main views for the README, from the demo data.

python scripts/shots.py [view ...]
"""

import os
import sys
import tempfile
import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any

import uvicorn
from playwright.sync_api import Page, expect, sync_playwright

from finebatch.demo.load import load
from finebatch.settings import Settings
from finebatch.web.app import create_app

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


def dough(page: Page, _clock: HandClock) -> None:
    page.goto(f"http://127.0.0.1:{PORT}/dough/1")
    expect(page.get_by_text("bakes to")).to_be_visible()


def swap(page: Page, _clock: HandClock) -> None:
    page.goto(f"http://127.0.0.1:{PORT}/dough/2")
    page.get_by_role("tab", name="Swap").click()
    expect(page.get_by_text("Neutral oil")).to_be_visible()


def versions(page: Page, _clock: HandClock) -> None:
    page.goto(f"http://127.0.0.1:{PORT}/dough/1")
    page.get_by_role("tab", name="Versions").click()
    expect(page.get_by_role("cell", name="Tahini")).to_be_visible()


def larder(page: Page, _clock: HandClock) -> None:
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


def slab(page: Page, _clock: HandClock) -> None:
    tab_of(page, 2, "Slab")


def slices(page: Page, _clock: HandClock) -> None:
    tab_of(page, 4, "Slices")


def sizes(page: Page, _clock: HandClock) -> None:
    page.goto(f"http://127.0.0.1:{PORT}/tray/1")
    page.get_by_role("tab", name="Sizes").click()
    page.get_by_role("button", name="Just 48 of them").click()
    expect(page.get_by_text("48 pieces of")).to_be_visible()
    expect(page.get_by_role("button", name="Take teaspoon")).to_be_visible()


def chill(page: Page, _clock: HandClock) -> None:
    tab_of(page, 3, "Chill")


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
    expect(page.get_by_text("planning…")).to_have_count(0, timeout=60_000)
    page.evaluate("window.scrollTo(0, 0)")


def bake(page: Page, clock: HandClock) -> None:
    base = f"http://127.0.0.1:{PORT}/api"
    made = supper(page)
    session = page.request.post(f"{base}/sessions/{made['id']}/start").json()
    while not any(a["kind"] == "turn" and a["done_at"] for a in session["activities"]):
        jobs = [a for a in session["activities"] if a["hands"] and a["done_at"] is None]
        job = min(jobs, key=lambda a: (a["due_at"], a["start_at"]))
        clock.at = max(clock.at, job["end_at"])
        event = {"kind": "done", "activity": job["key"]}
        session = page.request.post(f"{base}/sessions/{made['id']}/events", data=event).json()
    page.clock.set_fixed_time(clock.at)
    page.goto(f"http://127.0.0.1:{PORT}/bake")
    expect(page.get_by_role("timer").first).to_be_visible()


def kitchen(page: Page, _clock: HandClock) -> None:
    page.goto(f"http://127.0.0.1:{PORT}/kitchen")
    expect(page.get_by_text("Minutes a job takes")).to_be_visible()


def book(page: Page, _clock: HandClock) -> None:
    page.goto(f"http://127.0.0.1:{PORT}/book/1")
    expect(page.get_by_text("Measured beside foreseen")).to_be_visible()


VIEWS: dict[str, Callable[[Page, HandClock], None]] = {
    "dough": dough, "swap": swap, "versions": versions, "larder": larder, "tray": tray,
    "slab": slab, "slices": slices, "sizes": sizes, "chill": chill,
    "kitchen": kitchen, "plan": plan, "book": book, "bake": bake,
}  # fmt: skip


def main(wanted: list[str]) -> None:
    PICTURES.mkdir(parents=True, exist_ok=True)
    clock = HandClock()
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as play:
        app = create_app(Settings(data_file=Path(folder) / "shots.sqlite3"), clock)
        load(app.state.database, clock())
        server = uvicorn.Server(uvicorn.Config(app, port=PORT, log_level="warning"))
        thread = threading.Thread(target=server.run, daemon=True)
        thread.start()
        browser = play.chromium.launch(
            executable_path=os.environ.get("CHROMIUM", "/usr/bin/chromium"),
            args=["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
        )
        for name, show in VIEWS.items():
            if wanted and name not in wanted:
                continue
            page = browser.new_page(viewport={"width": 1280, "height": 800}, timezone_id="UTC")
            show(page, clock)
            page.wait_for_timeout(400)
            page.screenshot(path=PICTURES / f"{name}.png")
            page.close()
        browser.close()
        server.should_exit = True
        thread.join(10)


if __name__ == "__main__":
    main(sys.argv[1:])
