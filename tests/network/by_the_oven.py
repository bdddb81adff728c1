"""A phone that trusts the kitchen's certificate: what that allows, and a network that drops."""

import os
import re
import subprocess
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from playwright.sync_api import Browser, Page, expect, sync_playwright

from tests.browser import BARE
from tests.drawn_trays import DrawnTray, draw, three_rows
from tests.network.home import (
    CHROMIUM,
    DOOR,
    Kitchen,
    looked_at,
)
from tests.plans import wish_of

pytest_plugins = ["tests.network.home"]

WATCHED = """
window.spoken = [];
speechSynthesis.speak = (said) => window.spoken.push(said.text);
window.awake = 0;
const ask = navigator.wakeLock.request.bind(navigator.wakeLock);
navigator.wakeLock.request = async (kind) => {
  const held = await ask(kind);
  window.awake += 1;
  return held;
};
"""
HIDDEN = """() => {
  Object.defineProperty(document, "visibilityState", { configurable: true, get: () => "hidden" });
}"""
AT_HAND, WAITS = "finebatch.at-hand", "finebatch.waits"
A_MINUTE_AGO = f"""() => {{
  const waits = JSON.parse(localStorage.getItem("{WAITS}"));
  for (const one of waits) one.at -= 60_000;
  localStorage.setItem("{WAITS}", JSON.stringify(waits));
}}"""


@pytest.fixture(scope="module")
def trusting(tmp_path_factory: pytest.TempPathFactory, authority: Path) -> Iterator[Browser]:
    """A browser in which the kitchen's certificate is installed."""
    home = tmp_path_factory.mktemp("phone")
    trusted = home / ".pki/nssdb"
    trusted.mkdir(parents=True)
    store = ["certutil", "-d", f"sql:{trusted}"]
    subprocess.run([*store, "-N", "--empty-password"], check=True)
    kept = authority / "authority.crt"
    subprocess.run([*store, "-A", "-t", "C,,", "-n", "kitchen", "-i", kept], check=True)
    with sync_playwright() as playing:
        browser = playing.chromium.launch(
            executable_path=CHROMIUM, args=BARE, env={**os.environ, "HOME": f"{home}"}
        )
        yield browser
        browser.close()


@pytest.fixture
def phone(kitchen: Kitchen, trusting: Browser) -> Iterator[Page]:
    """A phone that was let in for what is done at the oven, and trusts the kitchen."""
    context = trusting.new_context(
        viewport={"width": 390, "height": 844},
        is_mobile=True,
        has_touch=True,
        permissions=["notifications", "screen-wake-lock"],
    )
    context.add_init_script(WATCHED)
    page = context.new_page()
    page.goto(f"{DOOR}/let-in#{kitchen.code('kitchen')}")
    page.get_by_label("Name of this device").fill("Phone by the oven")
    page.get_by_role("button", name="Let it in").click()
    expect(page.get_by_role("heading", level=1)).to_be_attached()
    yield page
    context.close()


def start(kitchen: Kitchen) -> dict[str, Any]:
    planned = kitchen.here.put("/api/plan", json=wish_of(1)).json()
    started: dict[str, Any] = kitchen.here.post(
        f"/api/sessions/{planned['id']}/start", json={}
    ).json()
    return started


def current(kitchen: Kitchen) -> dict[str, Any]:
    found: dict[str, Any] = kitchen.here.get("/api/sessions/current").json()
    return found


def until(page: Page, holds: str) -> None:
    for _ in range(200):
        if page.evaluate(holds):
            return
        page.wait_for_timeout(100)
    raise AssertionError(holds)


def at_hand(page: Page) -> None:
    """Until the screens and what they show are there without a network."""
    until(page, "navigator.serviceWorker.getRegistration().then((found) => Boolean(found?.active))")
    until(page, f"Boolean(localStorage.getItem('{AT_HAND}')?.includes('activities'))")


def pressed(page: Page) -> str:
    """Done with the job at hand: the next one's words."""
    title = page.get_by_role("heading", level=1)
    before = title.inner_text()
    page.get_by_role("button", name=re.compile("^Done")).click()
    expect(title).not_to_have_text(before)
    return title.inner_text()


def test_a_minute_without_a_network_in_mid_bake(kitchen: Kitchen, phone: Page) -> None:
    session = start(kitchen)
    phone.goto(f"{DOOR}/bake")
    expect(phone.get_by_role("button", name=re.compile("^Done"))).to_be_visible()
    at_hand(phone)
    phone.context.set_offline(True)
    pressed(phone)
    third = pressed(phone)
    expect(phone.get_by_text("Waits to be sent")).to_be_visible()
    # The page itself is opened anew, with no server to ask for it.
    phone.evaluate(A_MINUTE_AGO)
    phone.reload()
    expect(phone.get_by_role("heading", level=1)).to_have_text(third)
    expect(phone.get_by_text("No network.")).to_be_visible()
    looked_at(phone)
    phone.set_viewport_size({"width": 390, "height": 844})
    pressed(phone)
    phone.get_by_role("button", name="Take back").click()
    expect(phone.get_by_role("heading", level=1)).to_have_text(third)
    phone.get_by_role("link", name="The day by the clock").click()
    expect(phone.get_by_role("heading", level=1).first).to_have_text(session["name"])
    phone.goto(f"{DOOR}/")
    expect(phone.get_by_role("link", name="On with the bake")).to_be_visible()
    assert current(kitchen)["happened"] == 0
    kitchen.clock.pass_minutes(5)
    phone.context.set_offline(False)
    expect(phone.get_by_text("Waits to be sent")).to_have_count(0)
    after = current(kitchen)
    assert (after["happened"], after["said_by"]) == (2, "Phone by the oven")
    first, second = sorted(a["done_at"] for a in after["activities"] if a["done_at"] is not None)
    assert session["start_at"] < first < second < kitchen.clock() - 60_000
    phone.goto(f"{DOOR}/bake")
    expect(phone.get_by_role("heading", level=1)).to_have_text(third)
    expect(phone.get_by_text("No network.")).to_have_count(0)


def test_what_came_too_late_is_shown(kitchen: Kitchen, phone: Page) -> None:
    session = start(kitchen)
    phone.goto(f"{DOOR}/bake")
    at_hand(phone)
    phone.context.set_offline(True)
    pressed(phone)
    kitchen.here.post(f"/api/sessions/{session['id']}/give-up")
    phone.context.set_offline(False)
    late = phone.get_by_text(re.compile(r"^done: .* is not being baked"))
    expect(late).to_be_visible()
    looked_at(phone)
    phone.get_by_role("button", name="Say no more of what came too late").click()
    expect(late).to_have_count(0)
    assert current(kitchen)["happened"] == 0


def test_what_a_trusted_certificate_allows(kitchen: Kitchen, phone: Page) -> None:
    start(kitchen)
    phone.goto(f"{DOOR}/network")
    expect(phone.get_by_text("Today, Bake and the day by the clock open")).to_be_visible()
    expect(phone.get_by_text("stays awake while something is baked")).to_be_visible()
    shown = kitchen.here.get("/api/network").json()["fingerprint"]
    expect(phone.get_by_text(shown)).to_be_visible()
    phone.get_by_role("button", name="It does not speak").click()
    phone.get_by_role("button", name="Notices are off").click()
    expect(phone.get_by_role("button", name="Notices are on")).to_be_visible()
    looked_at(phone)
    phone.set_viewport_size({"width": 390, "height": 844})
    phone.get_by_role("link", name="Bake", exact=True).click()
    job = phone.get_by_role("heading", level=1).inner_text()
    until(phone, "window.awake > 0")
    kitchen.clock.pass_minutes(1)
    phone.evaluate(HIDDEN)
    pressed(phone)
    kitchen.clock.pass_minutes(240)
    html = phone.locator("html")
    expect(html).to_have_attribute("data-heard", re.compile("."))
    expect(html).to_have_attribute("data-noticed", re.compile("."))
    noticed = (
        "navigator.serviceWorker.ready.then((r) => r.getNotifications()).then((n) => n.length)"
    )
    assert phone.evaluate(noticed) == 1
    assert phone.evaluate("window.spoken").count("I speak.") == 1
    assert job not in phone.title()
    # A screen says each five seconds that it is there.
    for _ in range(100):
        here = {"screen": "x" * 20, "name": "Desk"}
        rings = kitchen.here.post("/api/ringing/here", json=here).json()
        names = [screen["name"] for screen in rings["screens"]]
        if "Phone by the oven" in names:
            break
        phone.wait_for_timeout(100)
    assert "Phone by the oven" in names


def test_it_can_be_put_on_the_home_screen(kitchen: Kitchen, phone: Page) -> None:
    asking = phone.context.new_cdp_session(phone)
    manifest = asking.send("Page.getAppManifest")
    assert manifest["errors"] == []
    assert '"short_name": "Fine Batch"' in manifest["data"]
    until(phone, "navigator.serviceWorker.ready.then((found) => Boolean(found.active))")
    wrong = asking.send("Page.getInstallabilityErrors")["installabilityErrors"]
    # Contexts of tests are private windows, from which browsers install nothing.
    assert {error["errorId"] for error in wrong} <= {"in-incognito"}


def test_a_phone_that_is_let_go_has_nothing_at_hand(kitchen: Kitchen, phone: Page) -> None:
    start(kitchen)
    phone.goto(f"{DOOR}/bake")
    at_hand(phone)
    (device,) = kitchen.here.get("/api/network").json()["devices"]
    kitchen.here.delete(f"/api/network/devices/{device['id']}")
    expect(phone).to_have_url(f"{DOOR}/let-in")
    assert phone.evaluate(f"localStorage.getItem('{AT_HAND}')") is None
    phone.goto(f"{DOOR}/bake")
    expect(phone.get_by_role("heading", level=1)).to_have_text("A code, please")
    until(phone, "caches.has('shell').then((has) => !has)")
    phone.context.set_offline(True)
    with pytest.raises(Exception, match="ERR_"):
        phone.goto(f"{DOOR}/bake")


def test_a_tray_is_measured_by_the_phones_camera(
    kitchen: Kitchen, phone: Page, tmp_path: Path
) -> None:
    pieces = three_rows(33.0, 12.0, 3.6, browner=0.4)
    taken = tmp_path / "taken.jpg"
    taken.write_bytes(draw(DrawnTray(pieces=pieces, tilt=9), np.random.default_rng(8), (1000, 750)))
    phone.goto(f"{DOOR}/book/1")
    camera = phone.get_by_label("Take a photo").first
    expect(camera).to_have_attribute("capture", "environment")
    camera.set_input_files(taken)
    take = phone.get_by_role("button", name="Take these 12 into the record")
    expect(take).to_be_enabled(timeout=20_000)
    looked_at(phone)
    phone.set_viewport_size({"width": 390, "height": 844})
    take.click()
    phone.get_by_role("button", name="Write it down").click()
    expect(phone.get_by_text("Written down.")).to_be_visible()
    (bake, *_) = kitchen.here.get("/api/bakes", params={"dough_id": 1}).json()
    assert len(bake["seen"]["pictured"]["pieces"]) == 12
    assert kitchen.here.get(f"/api/bakes/{bake['id']}/photo").status_code == 200
    # What the oven is like is said at the machine, not by a device that is at it.
    phone.get_by_role("tab", name="What was learnt").click()
    oven = phone.get_by_role("region", name="The oven's map")
    expect(oven).to_contain_text("It browns first at the right")
    expect(oven.get_by_role("button")).to_have_count(0)
