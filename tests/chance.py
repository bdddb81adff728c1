"""How much is left to chance: a seeded sample in every run, far more in `make torture`."""

import os

TIMES = int(os.environ.get("TORTURE", "1"))


def so_many(examples: int) -> int:
    """Examples of one test, or seeds, in this run."""
    return examples * TIMES
