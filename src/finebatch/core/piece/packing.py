"""Closer packings of round pieces than rows give.

Start from rows that are a little too tight, shaken so that no symmetry holds them, and let the
pieces push each other apart until none are too near. Lengths in mm.
"""

import math
from collections.abc import Iterator

import numpy as np
import numpy.typing as npt

Points = npt.NDArray[np.float64]

MOST_PACKED = 30
"""More pieces than this are not laid out by template; rows lose less then, too."""
TRIES = 5
"""Starts that are tried; a few more for few pieces, where each is soon done."""
STEPS = 100
HOPELESS = 0.865
"""Of the most pieces that the box could hold by area and rim (Oler's bound), the best packings
known of up to 30 hold less than this share unless they are rows."""
SHAKE = 0.12
"""How far a start is shaken, as a share of the wanted distance."""
SPARE = 1.0005
"""Pieces are pushed a hair further than needed, so that none is left too near."""


def _row_counts(pieces: int, rows: int) -> list[int]:
    """Pieces in each of so many rows, the fuller ones first and every second one where it can."""
    each, over = divmod(pieces, rows)
    order = [*range(0, rows, 2), *range(1, rows, 2)]
    fuller = set(order[:over])
    return [each + (k in fuller) for k in range(rows)]


def _starts(pieces: int, along: float, over: float) -> Iterator[Points]:
    """Rows of so many pieces that fill the box, nearest to equal distances first, shaken."""
    usual = math.sqrt(pieces * (over + 1) / (along + 1) / 0.87)
    counts = sorted(range(1, pieces + 1), key=lambda rows: abs(rows - usual))[:3]
    tries = TRIES + 40 // pieces
    shake = np.random.default_rng(pieces)
    apart = math.sqrt(max(along, 1) * max(over, 1) / pieces)
    for rows in (counts * tries)[:tries]:
        points = [
            ((k + 0.5) / count * along, (r / (rows - 1) if rows > 1 else 0.5) * over)
            for r, count in enumerate(_row_counts(pieces, rows))
            for k in range(count)
        ]
        yield np.array(points) + shake.normal(0, SHAKE * apart, (pieces, 2))


def pack(pieces: int, apart: float, along: float, over: float) -> Points | None:
    """Middles (pieces, 2) in a box of `along` by `over`, each at least `apart` from the others;
    None when none was found. The same figures give the same answer."""
    bound = 2 / math.sqrt(3) * along * over / apart**2 + (along + over) / apart + 1
    if pieces > HOPELESS * bound:
        return None
    wanted = apart * SPARE
    scale = 1e6 / apart**2
    itself = np.diag_indices(pieces)

    def overlap(flat: Points) -> tuple[float, Points]:
        x, y = flat[::2], flat[1::2]
        dx, dy = np.subtract.outer(x, x), np.subtract.outer(y, y)
        distance = np.sqrt(dx * dx + dy * dy)
        distance[itself] = wanted
        short = np.maximum(wanted - distance, 0.0)
        push = scale * short / np.maximum(distance, 1e-9)
        slope = np.empty_like(flat)
        slope[::2], slope[1::2] = -2 * (push * dx).sum(axis=1), -2 * (push * dy).sum(axis=1)
        return scale * float((short * short).sum()) / 2, slope

    from scipy.optimize import minimize  # they take time to load
    from scipy.spatial.distance import pdist

    bounds = [(0.0, along), (0.0, over)] * pieces
    # Where pieces cannot part, the overlap soon stops shrinking and the search with it.
    for start in _starts(pieces, along, over):
        found = minimize(
            overlap,
            np.clip(start, 0, (along, over)).ravel(),
            jac=True,
            method="L-BFGS-B",
            bounds=bounds,
            options={"maxiter": STEPS, "maxcor": 8, "ftol": 2e-3, "gtol": 1e-6},
        )
        points: Points = found.x.reshape(pieces, 2)
        if pdist(points).min() >= apart:
            return points
    return None
