"""Fit the models to measured cases, starting from what was known before (maximum posterior).

Each unknown has a prior mean and standard deviation; each case adds one residual. The solution
is the least-squares optimum, the covariance the inverse of the curvature there.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt
from scipy.optimize import least_squares

Tails = Literal["linear", "soft_l1"]
Vector = npt.NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Posterior:
    """Mean (n,) and covariance (n, n) of what was fitted."""

    mean: Vector
    covariance: Vector


def fit_posterior(
    residuals: Callable[[Vector], Sequence[float]],
    prior_mean: Sequence[float],
    prior_sd: Sequence[float],
    noise_sd: float,
    *,
    tails: Tails = "linear",
) -> Posterior:
    """Fit unknowns whose `residuals` (observed minus predicted, same unit as `noise_sd`) vanish.

    Heavy `tails` keep one case unlike all others from bending the fit. Deterministic: the same
    cases and priors give the same figures.
    """
    mean, sd = np.array(prior_mean), np.array(prior_sd)

    def stacked(unknowns: Vector) -> Vector:
        return np.concatenate([np.array(residuals(unknowns)) / noise_sd, (unknowns - mean) / sd])

    found = least_squares(stacked, mean, xtol=1e-14, ftol=1e-14, gtol=1e-14, loss=tails)
    slope = np.asarray(found.jac, dtype=np.float64)
    covariance: Vector = np.linalg.inv(slope.T @ slope).astype(np.float64)
    return Posterior(found.x, covariance)
