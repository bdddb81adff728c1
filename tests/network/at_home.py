"""What `test_in_a_namespace` runs there: this machine has an address of a home, and a guest too."""

import asyncio
import contextlib
import re
import shutil
import socket
import ssl
import threading
import time
from pathlib import Path

import httpx
import pytest
from playwright.sync_api import expect, sync_playwright

from finebatch.store.places import network_of
from finebatch.web.clock import steady_clock
from finebatch.web.network.codes import LASTS_MS
from finebatch.web.network.door import COOKIE, MOST_STREAMS
from finebatch.web.network.opening import CHANGED
from finebatch.web.network.paired import MOST_DEVICES
from tests.browser import BARE
from tests.conftest import DataFiles
from tests.network.home import (
    CHROMIUM,
    DOOR,
    HOME,
    HOME_PORT,
    Kitchen,
    looked_at,
    serving,
)
from tests.plans import wish_of
from tests.ui.test_screens import check_axe

pytest_plugins = ["tests.network.home"]


def test_who_has_no_token_learns_nothing(kitchen: Kitchen) -> None:
    operations = kitchen.here.get("/api/openapi.json").json()["paths"]
    forged = {"cookie": f"{COOKIE}={'x' * 43}", "accept": "text/html"}
    with kitchen.stranger() as stranger:
        for path, methods in operations.items():
            for method in methods:
                for headers in ({}, forged):
                    at = path.replace("{", "").replace("}", "")
                    found = stranger.request(method, at, headers=headers)
                    assert (found.status_code, found.content) == (401, b""), (method, path)
        for path in ("/assets/index.js", "/api/stream", "/let-in/../api/today", "/let-in/x"):
            assert stranger.get(path).status_code == 401
        page = stranger.get("/dough/1", headers={"accept": "text/html"})
        assert page.status_code == 401
        said = " ".join((page.text, *(f"{name}: {value}" for name, value in page.headers.items())))
        for word in ("batch", "cookie", "dough", "uvicorn", "bak"):
            assert word not in said.lower().replace("/let-in/page", "")
        assert page.headers["cache-control"] == "no-store"
        assert "default-src 'none'" in page.headers["content-security-policy"]


def test_foreign_names_and_foreign_pages_are_refused(kitchen: Kitchen) -> None:
    with kitchen.device() as device:
        assert device.get("/api/today").status_code == 200
        for host in ("example.org", "127.0.0.1:8766", HOME, f"{HOME}:8765", f"x@{HOME}:8766", ""):
            found = device.get("/api/today", headers={"host": host})
            assert found.status_code in (400, 403), host
            assert b"today" not in found.content.lower()
        for origin in ("https://example.org", "null", "http://127.0.0.1:8765", f"https://{HOME}"):
            found = device.post("/api/doughs", json={}, headers={"origin": origin})
            assert found.status_code == 403, origin
        del device.headers["origin"]
        token = {"x-fine-batch-token": network_token(kitchen)}
        assert device.post("/api/doughs", json={}, headers=token).status_code == 403


def network_token(kitchen: Kitchen) -> str:
    file: Path = kitchen.app.state.settings.data_file
    return file.with_name(file.name + ".token").read_text()


def test_a_code_is_good_once_for_two_minutes_and_five_tries(kitchen: Kitchen) -> None:
    with kitchen.stranger() as stranger:

        def tried(code: str) -> int:
            return stranger.post("/let-in", json={"code": code, "name": "Phone"}).status_code

        assert tried("123456") == 401, "there is none"
        good = kitchen.code()
        wrong = f"{(int(good) + 1) % 10**6:06d}"
        assert [tried(wrong) for _ in range(4)] == [401] * 4
        assert tried(good) == 204
        assert tried(good) == 401, "once"
        good = kitchen.code()
        assert [tried(f"{(int(good) + 1) % 10**6:06d}") for _ in range(5)] == [401] * 5
        assert tried(good) == 401, "guessed at"
        assert kitchen.here.get("/api/network").json()["guessed_at"] is True
        good = kitchen.code()
        assert kitchen.here.get("/api/network").json()["guessed_at"] is False
        kitchen.clock.pass_minutes(60)
        assert kitchen.home.codes.good, "it goes by no clock that can be set"
        kitchen.home.codes.clock = lambda: steady_clock() + LASTS_MS
        assert tried(good) == 401, "too late"
        for body in (b"", b"[]", b'{"code": 1}', b'{"code": "1", "name": " "}', b"x" * 5000):
            assert stranger.post("/let-in", content=body).status_code == 422
    assert [device["name"] for device in devices(kitchen)] == ["Phone"]


def devices(kitchen: Kitchen) -> list[dict[str, str]]:
    found: list[dict[str, str]] = kitchen.here.get("/api/network").json()["devices"]
    return found


def test_a_device_does_what_its_role_lets_it(kitchen: Kitchen) -> None:
    with kitchen.device("kitchen", "Tablet by the oven") as tablet, kitchen.device() as other:
        cookie = next(iter(tablet.cookies.jar))
        assert cookie.secure
        assert cookie.has_nonstandard_attr("HttpOnly")
        assert tablet.get("/api/network/me").json()["device"]["name"] == "Tablet by the oven"
        assert kitchen.here.get("/api/network/me").json() == {"device": None}
        assert tablet.get("/api/today").status_code == 200
        assert tablet.post("/api/doughs", json={}).status_code == 403
        dough = tablet.get("/api/doughs/1").json()
        asked = {"card": dough["card"], "tray": dough["tray"]}
        assert tablet.post("/api/study", json=asked).status_code == 200
        for what in ("foresee", "aim"):
            assert tablet.post(f"/api/doughs/1/{what}", json=dough["tray"]).status_code == 200
        for change in ("tray", "marks", "copy", "keep-tried", "keep-way"):
            assert tablet.put(f"/api/doughs/1/{change}", json={}).status_code == 403
        assert tablet.post("/api/oven-maps/1/take").status_code == 403
        assert tablet.get("/api/copies").status_code == 403
        assert other.get("/api/copies").status_code == 200
        for path in ("/api/network", "/api/network/code", "/api/demo/beside"):
            assert other.post(path, json={}).status_code == 403
        assert other.get("/api/network").status_code == 403
        id = other.get("/api/network/me").json()["device"]["id"]
        changed = {"name": "Phone", "role": "kitchen"}
        kitchen.here.put(f"/api/network/devices/{id}", json=changed)
        assert other.get("/api/copies").status_code == 403
        file = network_of(kitchen.app.state.settings.data_file) / "devices.json"
        assert tablet.cookies[COOKIE] not in file.read_text()
        assert file.stat().st_mode & 0o077 == 0


def test_what_happened_says_on_which_device_it_was_said(kitchen: Kitchen) -> None:
    planned = kitchen.here.put("/api/plan", json=wish_of(1)).json()
    session = kitchen.here.post(f"/api/sessions/{planned['id']}/start", json={}).json()
    assert session["said_by"] is None
    jobs = [job["key"] for job in session["activities"]]
    with kitchen.device("kitchen", "Tablet by the oven") as tablet:
        at = f"/api/sessions/{session['id']}"
        said = tablet.post(f"{at}/events", json={"kind": "done", "activity": jobs[0]}).json()
        assert said["said_by"] == "Tablet by the oven"
        heard = kitchen.here.get("/api/sessions/current").json()
        assert heard["said_by"] == "Tablet by the oven"
        kitchen.here.post(f"{at}/events", json={"kind": "done", "activity": jobs[1]})
        file = tablet.get(f"{at}/file", params={"form": "json"}).json()
    assert [event.get("by") for event in file["events"]] == ["Tablet by the oven", None]


def test_a_device_that_is_let_go_is_out_at_once(kitchen: Kitchen) -> None:
    with kitchen.device() as device, kitchen.device() as stays:
        heard = threading.Event()
        over: list[float] = []

        def listening() -> None:
            with device.stream("GET", "/api/stream") as stream:
                for _ in stream.iter_text():
                    heard.set()
            over.append(time.monotonic())

        thread = threading.Thread(target=listening)
        thread.start()
        assert heard.wait(5)
        id = device.get("/api/network/me").json()["device"]["id"]
        pressed = time.monotonic()
        assert kitchen.here.delete(f"/api/network/devices/{id}").status_code == 200
        thread.join(5)
        assert over, "the stream goes on"
        assert over[0] - pressed < 2
        assert device.get("/api/today").status_code == 401
        assert stays.get("/api/today").status_code == 200
        assert kitchen.here.delete(f"/api/network/devices/{id}").status_code == 404


def test_shut_it_answers_nobody_and_knows_its_devices_again(kitchen: Kitchen) -> None:
    with kitchen.device() as device:
        with pytest.raises(OSError, match="refused"):
            socket.create_connection(("127.0.0.1", HOME_PORT), 2)
        kitchen.here.put("/api/network", json={"open": False})
        with pytest.raises(httpx.ConnectError):
            device.get("/api/today")
        assert kitchen.here.post("/api/network/code", json={}).status_code == 409
        kitchen.here.put("/api/network", json={"open": True})
        assert device.get("/api/today").status_code == 200


def half_open(kitchen: Kitchen, cookie: str) -> ssl.SSLSocket:
    """A request that says how long it is, and of which nothing more comes."""
    plain = socket.create_connection((HOME, HOME_PORT), 10)
    found = kitchen.trusting.wrap_socket(plain, server_hostname=HOME)
    head = f"POST /api/doughs HTTP/1.1\r\nhost: {HOME}:{HOME_PORT}\r\norigin: {DOOR}\r\n"
    found.sendall(f"{head}{cookie}content-length: 900\r\n\r\n{{".encode())
    return found


def test_many_devices_and_half_a_request_do_no_harm(kitchen: Kitchen) -> None:
    with contextlib.ExitStack() as stack:
        all_of_them = [
            stack.enter_context(kitchen.device(name=f"Phone {n}")) for n in range(MOST_DEVICES)
        ]
        with kitchen.stranger() as one_more:
            asked = {"code": kitchen.code(), "name": "One more"}
            assert one_more.post("/let-in", json=asked).status_code == 409
        first, second = all_of_them[:2]
        known = f"cookie: {COOKIE}={first.cookies[COOKIE]}\r\n"
        for n in range(200):
            stack.push(half_open(kitchen, known if n % 2 else ""))
        began = time.monotonic()
        assert second.get("/api/today").status_code == 200
        assert kitchen.here.get("/api/today").status_code == 200
        assert time.monotonic() - began < 5
        assert first.get("/api/today").status_code == 429, "it has enough under way"
        for device in all_of_them[2:]:
            assert device.get("/api/today").status_code == 200


def test_a_device_has_so_many_streams_and_no_more(kitchen: Kitchen) -> None:
    async def asked() -> list[int]:
        with kitchen.device() as device:
            cookies = {COOKIE: device.cookies[COOKIE]}
            async with httpx.AsyncClient(
                base_url=DOOR, verify=kitchen.trusting, cookies=cookies
            ) as client:
                found = [
                    await client.send(client.build_request("GET", "/api/stream"), stream=True)
                    for _ in range(MOST_STREAMS + 1)
                ]
                for answer in found:
                    await answer.aclose()
                await asyncio.sleep(0.5)
                again = await client.send(client.build_request("GET", "/api/stream"), stream=True)
                await again.aclose()
                return [answer.status_code for answer in (*found, again)]

    assert asyncio.run(asked()) == [200] * MOST_STREAMS + [429, 200]


def test_a_tablet_is_let_in_by_the_code_it_sees_and_let_go_by_a_press(kitchen: Kitchen) -> None:
    with sync_playwright() as playing:
        browser = playing.chromium.launch(executable_path=CHROMIUM, args=BARE)
        here = browser.new_page(viewport={"width": 1280, "height": 800})
        here.goto(f"{kitchen.here.base_url}/kitchen")
        here.get_by_role("link", name="Let a tablet in").click()
        looked_at(here)
        here.get_by_role("button", name="Let a tablet in").click()
        expect(here.get_by_role("img", name="QR code")).to_be_visible()
        looked_at(here)
        code = here.get_by_text(re.compile(r"^\d{3} \d{3}$")).inner_text().replace(" ", "")
        # What no trusting device does: the certificate is not installed here.
        tablet = browser.new_page(viewport={"width": 820, "height": 1180}, ignore_https_errors=True)
        tablet.goto(f"{DOOR}/let-in#{code}")
        expect(tablet.get_by_label("Code")).to_have_value(code)
        check_axe(tablet)
        tablet.get_by_role("group").locator("summary").click()
        shown = here.get_by_role("region", name="The certificate of this kitchen")
        expect(shown).to_contain_text(tablet.locator("#fingerprint").inner_text())
        tablet.get_by_label("Name of this device").fill("Tablet by the oven")
        tablet.get_by_role("button", name="Let it in").click()
        expect(tablet.get_by_role("heading", level=1)).to_be_attached()
        expect(tablet).to_have_url(f"{DOOR}/")
        expect(here.get_by_label("Name of Tablet by the oven")).to_be_visible()
        looked_at(here)
        stages = tablet.get_by_role("navigation", name="Stages").get_by_role("link")
        expect(stages).to_have_text(["Today", "Bake", "Book"])
        expect(tablet.get_by_role("link", name="Kitchen", exact=True)).to_have_count(0)
        tablet.goto(f"{DOOR}/dough/1")
        expect(tablet.get_by_text("here it looks, and changes nothing")).to_be_visible()
        looked_at(tablet)
        here.get_by_label("Tablet by the oven may do").select_option("everything")
        expect(stages).to_have_text(["Today", "Dough", "Tray", "Plan", "Bake", "Book"])
        tablet.goto(f"{DOOR}/network")
        expect(tablet.get_by_text("and it was let in")).to_be_visible()
        tablet.goto(f"{DOOR}/cold")
        expect(tablet.get_by_role("heading", level=1)).to_be_visible()
        here.get_by_role("button", name="Let Tablet by the oven go").click()
        expect(tablet).to_have_url(f"{DOOR}/let-in", timeout=15_000)
        browser.close()


def test_screens_hear_that_a_device_was_let_in(kitchen: Kitchen) -> None:
    with kitchen.here.stream("GET", "/api/stream") as stream:
        lines = stream.iter_lines()
        next(lines)
        with kitchen.device():
            assert f"event: {CHANGED}" in lines


def test_a_start_opens_again_what_was_open_and_no_demo_does(
    tmp_path: Path, data_files: DataFiles
) -> None:
    file = tmp_path / "test.sqlite3"
    shutil.copy(data_files.empty, file)

    def is_open(*, reopens: bool, press: bool | None = None) -> bool:
        with serving(file, data_files.at, reopens=reopens) as found:
            if press is not None:
                found.here.put("/api/network", json={"open": press})
            for _ in range(20):
                if found.home.is_open:
                    return True
                time.sleep(0.05)
            return False

    assert not is_open(reopens=True)
    assert is_open(reopens=True, press=True)
    assert not is_open(reopens=False)
    assert is_open(reopens=True)
    assert not is_open(reopens=True, press=False)
    assert not is_open(reopens=True)
