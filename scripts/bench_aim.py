"""How fast and how near Aim is: what was changed of the shipped doughs, and wishes at random.

    python scripts/bench_aim.py

One thing of a dough is changed (a line, the piece, oven or dough); asked for the piece as it was,
the answer should change no more than that. That is a property of the search, not a measurement:
both pieces are the model's. Times are of whole requests over HTTP, in this process.
"""

import random
import statistics
import tempfile
import time
import warnings
from pathlib import Path
from typing import Any

import httpx
from bench_rows import row

from finebatch.core.measures.amounts import parse_amount
from finebatch.settings import Settings

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    from fastapi.testclient import TestClient

    from finebatch.web.app import create_app

WISHES, SEED = 100, 5
MOST_S, MOST_COARSE_S = 1.0, 0.15
BY = (0.8, 0.9, 1.1, 1.25)


def _changed(dough: Any, rng: random.Random) -> tuple[Any, Any]:
    """The card and tray with one thing changed."""
    card, tray = dough["card"], dough["tray"]
    what = rng.choice(["line", "line", "piece", "oven"])
    if what == "oven":
        return card, {**tray, "oven_c": tray["oven_c"] + rng.choice([-10, 10])}
    if what == "piece" and tray["piece"].get("grams"):
        piece = {**tray["piece"], "grams": round(tray["piece"]["grams"] * rng.choice(BY))}
        return card, {**tray, "piece": piece}
    lines = [dict(line) for line in card["lines"]]
    heavy = [n for n, line in enumerate(lines) if line["unit"] == "g" and line["amount"]]
    if heavy:
        line = lines[rng.choice(heavy)]
        amount = float(parse_amount(line["amount"], unit="g").middle)
        line |= {"amount": f"{max(round(amount * rng.choice(BY)), 1)}", "text": ""}
    return {**card, "lines": lines}, tray


def _wish(now: Any, rng: random.Random) -> dict[str, Any]:
    """Something that a baker might want of it."""
    wish: dict[str, Any] = {"width_mm": {"figure": round(now["width_mm"] * rng.uniform(0.85, 1.2))}}
    if rng.random() < 0.4:
        wish["height_mm"] = {"figure": round(now["height_mm"] * rng.uniform(0.85, 1.15), 1)}
    if rng.random() < 0.3:
        most = round(now["minutes"] * rng.uniform(0.8, 1.1), 1)
        wish["minutes"] = {"figure": most, "sense": "at_most"}
    if rng.random() < 0.3:
        wish["without"] = [rng.choice(["egg", "milk", "gluten"])]
    if rng.random() < 0.2:
        wish["sugar_pct"] = round(0.9 * now["sugar_pct"])
    return wish


def _asked(
    client: httpx.Client, dough: Any, wish: Any, *, coarse: bool = False
) -> tuple[Any, float]:
    body = {**dough["tray"], "aim": wish, "coarse": coarse}
    begun = time.perf_counter()
    answer = client.post(f"/api/doughs/{dough['id']}/aim", json=body)
    took = time.perf_counter() - begun
    answer.raise_for_status()
    return answer.json(), took


def _as_it_is(now: Any) -> dict[str, Any]:
    names = ("width_mm", "height_mm", "minutes")
    return {name: {"figure": round(now[name], 2)} for name in names if now[name] > 0}


def _planted(client: httpx.Client, doughs: list[Any], rng: random.Random) -> tuple[int, int]:
    """How many of the changed doughs came back to the piece that they were, of how many."""
    back = tried = 0
    for _ in range(WISHES // 2):
        dough = rng.choice(doughs)
        now, _ = _asked(client, dough, {})
        card, tray = _changed(dough, rng)
        made = client.post("/api/doughs", json={**card, "name": "changed"})
        made.raise_for_status()
        other = made.json()
        client.put(f"/api/doughs/{other['id']}/tray", json=tray)
        found, _ = _asked(client, {**other, "tray": tray}, _as_it_is(now["now"]))
        tried += 1
        back += found["met"]
    return back, tried


def measure_aim(temporary: str) -> None:
    """Print all of it."""
    rng = random.Random(SEED)
    app = create_app(Settings(data_file=Path(temporary) / "aim.sqlite3"))
    with TestClient(app, base_url="http://127.0.0.1:8765") as client:
        client.headers["Origin"] = "http://127.0.0.1:8765"
        keys = [base["key"] for base in client.get("/api/base-doughs").json()]
        doughs = [client.post(f"/api/base-doughs/{key}").json() for key in keys]
        _asked(client, doughs[0], {"width_mm": {"figure": 70}})
        back, tried = _planted(client, doughs, rng)
        row(
            "aim: one thing changed, the piece as it was found again",
            f"{back} of {tried}",
            "all",
            back == tried,
        )
        whole, coarse, met, said = [], [], 0, 0
        for _ in range(WISHES):
            dough = rng.choice(doughs)
            now, _ = _asked(client, dough, {})
            wish = _wish(now["now"], rng)
            found, took = _asked(client, dough, wish)
            _, quick = _asked(client, dough, wish, coarse=True)
            whole.append(took)
            coarse.append(quick)
            met += found["met"]
            said += found["met"] or bool(found["why"])
        row(
            f"aim: {WISHES} wishes, met; met or said why not",
            f"{met}; {said}",
            "all said",
            said == WISHES,
        )
        for what, times, most in (
            ("all ways", whole, MOST_S),
            ("first look", coarse, MOST_COARSE_S),
        ):
            late = statistics.quantiles(times, n=20)[-1]
            figure = f"{1000 * statistics.median(times):.0f}, {1000 * late:.0f} ms"
            row(f"aim: {what}, median and 95th", figure, f"< {1000 * most:.0f} ms", late < most)


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as folder:
        measure_aim(folder)
