"""Every operation that there is, by what a device may ask for."""

import json
from pathlib import Path

from finebatch.web.guard import SAFE_METHODS
from finebatch.web.network.allowed import may
from finebatch.web.network.paired import Role

OPERATIONS = [
    (method.upper(), path.replace("{key}", "butter").replace("{form}", "json"))
    for path, methods in json.loads(
        (Path(__file__).parents[2] / "docs" / "openapi.json").read_text("utf-8")
    )["paths"].items()
    for method in methods
]
AT_THE_OVEN = (
    *("sessions", "ringing", "bakes", "lessons", "cold", "oven/", "demo/", "devices/"),
    "bin/1/put-back",
)
ASKED = {
    *("study", "read", "readings", "compare", "swaps", "scale", "sheet-check", "same-depth"),
    *("effects", "foresee", "ladder", "chill", "turned", "shared-out", "template", "aim"),
    "photo",
}


def numbered(path: str) -> str:
    """The path with a number in each of its places."""
    return "/".join("1" if part.startswith("{") else part for part in path.split("/"))


def test_who_is_let_in_is_decided_at_this_machine_alone() -> None:
    for method, path in OPERATIONS:
        if path.startswith("/api/network") and path != "/api/network/me":
            assert not may(Role.ALL, method, numbered(path)), path
            assert not may(Role.KITCHEN, method, numbered(path)), path


def test_at_the_oven_nothing_else_is_changed() -> None:
    for method, path in OPERATIONS:
        at = numbered(path)
        if method in SAFE_METHODS or not may(Role.KITCHEN, method, at):
            continue
        asks = at.rsplit("/", 1)[-1] in ASKED or at.startswith("/api/plan/ideas/")
        assert asks or at.removeprefix("/api/").startswith(AT_THE_OVEN), (method, path)
        assert may(Role.ALL, method, at), (method, path)


def test_at_the_oven_all_is_looked_at_but_copies_and_bin() -> None:
    kept = {
        path
        for method, path in OPERATIONS
        if method == "GET" and not may(Role.KITCHEN, method, numbered(path))
    }
    assert {path.split("/")[2] for path in kept} == {"copies", "everything", "bin", "network"}


def test_the_oven_s_own_presses_are_all_there() -> None:
    for method, path in (
        *(("POST", f"sessions/7/{press}") for press in ("start", "events", "undo", "give-up")),
        *(("POST", "sessions"), ("POST", "bin/3/put-back")),
        *(("POST", "bakes"), ("PUT", "bakes/3/photo"), ("PUT", "bakes/3/counts")),
        *(("POST", "cold"), ("POST", "cold/4/take"), ("PUT", "cold/4"), ("PUT", "lessons")),
        *(("POST", "ringing/here"), ("PUT", "ringing"), ("POST", "devices/scale/tare")),
    ):
        assert may(Role.KITCHEN, method, f"/api/{path}"), path
    for path in ("doughs/1", "kitchen", "plan", "larder/butter", "bin/3", "copies/x", "devices"):
        assert not may(Role.KITCHEN, "PUT", f"/api/{path}"), path
