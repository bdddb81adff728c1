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
from finebatch.facts import tables
from finebatch.formats.apart import ask_apart
from tests.drawn_trays import LAID_ON, draw, some_tray
from tests.measured_trays import Compared, image_of, seen_in

TRAYS = 60
PX = (1280, 960)
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
