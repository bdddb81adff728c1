"""Draw the mark of Fine Batch at the sizes that home screens ask for, from ui/public/mark.svg."""

import os
from pathlib import Path

from playwright.sync_api import sync_playwright

PUBLIC = Path(__file__).parents[1] / "ui/public"
SHEET = "#f4f7f8"
SIZES = {"mark-180": (180, 1.0), "mark-192": (192, 1.0), "mark-512": (512, 1.0)}
WHOLE = {"mark-whole-512": (512, 0.7)}
"""Of one that is cut to any shape, the mark stays within four fifths."""


def main() -> None:
    """Write one PNG for each size."""
    mark = (PUBLIC / "mark.svg").read_text()
    chromium = os.environ.get("CHROMIUM", "/usr/bin/chromium")
    with sync_playwright() as playing:
        browser = playing.chromium.launch(
            executable_path=chromium,
            args=["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
        )
        for name, (side, share) in (SIZES | WHOLE).items():
            page = browser.new_page(viewport={"width": side, "height": side})
            page.set_content(
                f"<body style='margin:0;height:100vh;display:grid;place-items:center;"
                f"background:{SHEET}'><div style='width:{share:.0%}'>{mark}</div>"
            )
            page.screenshot(path=PUBLIC / f"{name}.png")
        browser.close()


if __name__ == "__main__":
    main()
