"""Whatever may befall a server and its data file, for as long as there is time: each scene says
what it has seen, and the first thing that does not hold ends it.

    python scripts/torture.py [--minutes 15] [SCENE …]

Without scenes all are played, each for its share of the time. `--seed` plays one again.
"""

import argparse
import random
import sys
import tempfile
import time
import warnings
from collections.abc import Callable, Iterator
from pathlib import Path

warnings.simplefilter("ignore")

import torture_crowd as crowd  # noqa: E402
import torture_files as files  # noqa: E402
import torture_kills as kills  # noqa: E402
import torture_requests as requests  # noqa: E402
from torture_servers import Broken  # noqa: E402

Scene = Callable[[Path, random.Random, float], Iterator[str]]
SCENES: dict[str, tuple[Scene, float]] = {
    "killed while it writes": (kills.writes, 2),
    "killed while a photo comes in": (kills.photos, 2),
    "killed while a copy is put back": (kills.restores, 1),
    "killed while it is brought up": (kills.migrations, 1),
    "full disk": (files.full_disk, 1),
    "file taken away or replaced": (files.away, 0.5),
    "file cut short or bits flipped": (files.spoilt, 1.5),
    "file cut short under a server": (files.under_way, 0.5),
    "older and newer files": (files.older_and_newer, 0.5),
    "two servers": (files.two_servers, 0.1),
    "requests at random": (requests.requests, 6),
    "hostile files": (requests.hostile_files, 4),
    "twenty at once": (crowd.crowd, 2),
    "streams": (crowd.streams, 1),
    "a day of baking": (crowd.day, 3),
}
"""Each with its share of the time."""


def main() -> int:
    """Play the scenes; 1 when something did not hold."""
    asked = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    asked.add_argument("--minutes", type=float, default=15)
    asked.add_argument("--seed", type=int, default=random.randrange(10**6))
    asked.add_argument("scenes", nargs="*", metavar="SCENE")
    told = asked.parse_args()
    wanted = {
        n: s for n, s in SCENES.items() if not told.scenes or any(w in n for w in told.scenes)
    }
    if not wanted:
        asked.error(f"no such scene; there are: {'; '.join(SCENES)}")
    shares = sum(share for _, share in wanted.values())
    print(f"seed {told.seed}")
    broken = 0
    with tempfile.TemporaryDirectory() as folder:
        for name, (scene, share) in wanted.items():
            began = time.monotonic()
            until = began + 60 * told.minutes * share / shares
            seen = ["nothing"]
            try:
                for one in scene(Path(folder), random.Random(told.seed), until):
                    seen.append(one)
            except Broken as error:
                seen.append(f"BROKEN: {error}")
                broken += 1
            took = time.monotonic() - began
            print(f"{name}: {len(seen) - 1} times in {took:.0f} s: {seen[-1]}", flush=True)
    return int(broken > 0)


if __name__ == "__main__":
    sys.exit(main())
