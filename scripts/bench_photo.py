"""How well photographs measure trays, on trays that are drawn with sizes that are known.

    python scripts/bench_photo.py [TRAYS]

The trays are those of the tests (`tests/drawn_trays.py`): domed pieces in true perspective, with
rim, lens, shadows, chips, crumbs, hands, noise. Corners are as a hand puts them, some px off; width
and height that were foreseen are a tenth off. Time and memory are those of the process that
measures a photograph of 12 megapixels, its sheet found by itself.
"""

import io
import resource
import statistics
import sys
import time
from base64 import b64encode
from pathlib import Path

import numpy as np
from bench_rows import row
from PIL import Image

sys.path.insert(0, str(Path(__file__).parent.parent))

from finebatch.core.photo.corners import find_corners
from finebatch.core.photo.pieces import pieces_seen
from finebatch.facts import tables
from finebatch.formats.apart import ask_apart
from tests.drawn_trays import LAID_ON, DrawnPiece, DrawnTray, draw, some_tray
from tests.measured_trays import Compared, image_of, seen_in

TRAYS = 60
PX = (1280, 960)
BESIDE, PAPERS = 40, ((210.0, 148.0), (148.0, 105.0))
LINED = ("parchment", "silicone")


def measure_drawn(trays: int = TRAYS) -> None:
    """Print how far widths and colours are off, what was missed or made up, and what was told of
    pieces that ran together; how often a sheet is found by itself."""
    found = Compared()
    lined: list[bool] = []
    metal: list[bool] = []
    for seed in range(10_000, 10_000 + trays):
        rng = np.random.default_rng(seed)
        tray = some_tray(rng)
        image = image_of(tray, rng, PX)
        found.count(tray, seen_in(image, tray, rng, 1.5))
        is_lined = tray.surface in LINED
        corners = find_corners(image, tray.size, is_lined)
        near = corners is not None and bool(np.hypot(*(corners.at - tray.corners).T).max() < 15)
        (lined if is_lined else metal).append(near)
    median, nine = np.quantile(found.widths, (0.5, 0.9))
    row(f"width, {trays} drawn trays, median", f"{median:.2%}", "<= 1.5 %", median <= 0.015)
    row("  nine in ten", f"{nine:.2%}", "<= 4 %", nine <= 0.04)
    colours = float(np.mean(np.array(found.colours) <= 1))
    row("  colour within a step", f"{colours:.1%}", ">= 90 %", colours >= 0.9)
    touching = statistics.fmean(found.touching or [True])
    told = f"{touching:.0%} of {len(found.touching)}, {found.falsely} falsely"
    row("  pieces that touch, told", told, ">= 90 %", touching >= 0.9)
    told = f"{found.missed} missed, {found.invented} made up"
    row(f"  of {found.pieces} pieces", told, "", True)
    shares = [statistics.fmean(each or [True]) for each in (lined, metal)]
    told = f"{shares[0]:.0%} lined, {shares[1]:.0%} bare"
    row("  sheet found by itself", told, "", True)


def measure_empty() -> None:
    """Print what is made up on empty sheets."""
    made_up = 0
    for seed in range(20_000, 20_012):
        rng = np.random.default_rng(seed)
        tray = some_tray(rng)
        tray.pieces, tray.surface = [], LAID_ON[seed % 4]
        made_up += len(seen_in(image_of(tray, rng, PX), tray, rng, 0.0))
    row("pieces on 12 empty sheets", str(made_up), "none", made_up == 0)


def measure_beside() -> None:
    """Print the same of pieces beside a small sheet of paper, on a table or a rack, whose corners
    are found by themselves."""
    found, lost = Compared(), 0
    for seed in range(30_000, 30_000 + BESIDE):
        rng = np.random.default_rng(seed)
        wide, deep = PAPERS[seed % 2]
        half, high = float(rng.uniform(25, 34)), float(rng.uniform(8, 22))
        room = half + 12
        pieces = [
            DrawnPiece(
                float(x + rng.normal(0, 2)),
                float(y + rng.normal(0, 2)),
                half * float(np.exp(rng.normal(0, 0.03))),
                high,
                float(4 + rng.normal(0, 0.4)),
            )
            for x in np.arange(-50, wide + 51, 75)
            for y in np.arange(-50, deep + 51, 75)
            if not (-room < x < wide + room and -room < y < deep + room)
        ]
        tray = DrawnTray((wide, deep), "paper", pieces, rim_mm=0, rack=seed % 4 > 1, crumbs=8)
        tray.around_mm, tray.frame_mm, tray.bend = 220.0, 90.0, -0.03
        tray.tilt, tray.camera_mm = float(rng.uniform(0, 25)), float(rng.uniform(450, 750))
        image = image_of(tray, rng, PX)
        corners = find_corners(image, tray.size, beside=True)
        if corners is None or np.hypot(*(corners.at - tray.corners).T).max() > 15:
            lost += 1
            continue
        rgb = tables.sheet_colours()["paper"]
        seen = pieces_seen(image, corners.at, tray.size, rgb, high, 2 * half, beside=True)[1]
        found.count(tray, seen)
    median, nine = np.quantile(found.widths, (0.5, 0.9))
    told = f"{median:.2%}, nine in ten {nine:.2%}"
    row(f"beside paper, {BESIDE} photos, median", told, "<= 1.5 %", median <= 0.015)
    told = f"{found.missed} of {found.pieces} missed, {found.invented} made up"
    row("  pieces", told, "", True)
    row("  paper not found", str(lost), "none", lost == 0)


def measure_process() -> None:
    """Print what one photograph of 12 megapixels takes, in its process."""
    rng = np.random.default_rng(5)
    tray = some_tray(rng)
    large = Image.open(io.BytesIO(draw(tray, rng, PX))).resize((4032, 3024))
    written = io.BytesIO()
    large.save(written, "JPEG", quality=92)
    times = []
    for _ in range(5):
        began = time.perf_counter()
        ask_apart(
            "finebatch.workflow.book.tray_apart",
            {
                "photo": b64encode(written.getvalue()).decode(),
                "corners": None,
                "sheet_mm": tray.size,
                "sheet_rgb": tables.sheet_colours()[tray.surface],
                "lined": tray.surface in LINED,
                "beside": False,
                "height_mm": tray.pieces[0].high,
                "about_mm": float(tray.pieces[0].widths.mean()),
                "places_mm": [],
            },
        )
        times.append(time.perf_counter() - began)
    took = statistics.median(times)
    row("12 megapixels, in all", f"{took:.1f} s", "<= 3 s", took <= 3)
    used = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024
    row("  memory", f"{used:.0f} MB", "<= 400 MB", used <= 400)


if __name__ == "__main__":
    measure_process()
    measure_drawn(int(sys.argv[1]) if len(sys.argv) > 1 else TRAYS)
    measure_empty()
    measure_beside()
