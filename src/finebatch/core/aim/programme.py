"""The linear programme behind Aim: the least change by how everything runs where it is now, solved
again where its answer lies until it stands still (sequential linear programming)."""

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from finebatch.core.aim.distance import PIECE, STEP_C, TENTH
from finebatch.core.aim.items import HandleItem, LineItem, jobs_of
from finebatch.core.aim.problem import Problem
from finebatch.core.aim.trial import Outcome, ln
from finebatch.core.aim.wish import near

Vector = npt.NDArray[np.float64]

TRUST = 0.4
"""How far it is trusted at once: by half as much again in amounts, or 15 °C."""
TRUST_C = 15.0
NUDGE, NUDGE_C = 0.02, 2.0
"""How far an item is moved to see what it does."""
MISSED, UNBALANCED = 400.0, 1e5
"""What missing a wish by what is near enough counts, and a dough out of balance by a percent: more
than any change."""


@dataclass(frozen=True, slots=True)
class Straight:
    """How the rows (m,) run from where the items are, at (n,): by `slopes` (m, n)."""

    at: Vector
    here: Vector
    slopes: Vector


class Programme:
    """The programme of one problem. `inset` is how far inside of what is near enough it aims, in
    shares of that."""

    def __init__(self, problem: Problem) -> None:
        self.problem, self.items, self.outer = problem, problem.items, problem.outer
        self.wanted, self.dough = problem.wanted, problem.dough
        self.inset = 0.0
        self._straight: Straight | None = None
        self._jobs = [
            [self.items.index(item) for item in own] for _, own in jobs_of(self.dough, self.items)
        ]

    def _units(self, values: Mapping[str, float]) -> Vector:
        return np.array([i.unit(values.get(i.key, i.was)) for i in self.items])

    def _costs(self) -> Vector:
        grams, share = self.dough.origin.formula_g, self.dough.share
        costs = []
        for item in self.items:
            if isinstance(item, LineItem):
                line = self.dough.weighed.lines[item.place]
                key = line.ingredient or ""
                costs.append(share[key] * (line.grams or 0.0) / grams[key] / TENTH)
            else:
                costs.append(PIECE / TENTH if isinstance(item, HandleItem) else 1.0)
        return np.array(costs)

    def _rows(self, outcome: Outcome) -> Vector:
        wished = [ln(outcome.figure(figure)) for figure in self.wanted.ranges]
        return np.array([*wished, *(outcome.percents.get(f, 0.0) for f in self.outer)])

    def _at(self, units: Vector) -> Outcome | None:
        pairs = zip(self.items, units, strict=True)
        values = {item.key: item.value(float(u)) for item, u in pairs if abs(u) > 1e-9}
        return self.dough.outcome(self.problem.changed(values))

    def _slopes(self, units: Vector, here: Vector, low: Vector, high: Vector) -> Vector:
        """What each item does to each row (rows, items), by nudging it."""
        columns = []
        for n, item in enumerate(self.items):
            if low[n] == high[n]:
                columns.append(np.zeros_like(here))
                continue
            by = NUDGE if item.ratio else NUDGE_C / STEP_C
            if units[n] + by > high[n]:
                by = -by
            nudged = units.copy()
            nudged[n] += by
            there = self._at(nudged)
            columns.append((self._rows(there) - here) / by if there else np.zeros_like(here))
        return np.array(columns).T

    def run(
        self, rounds: int, begin: Mapping[str, float], fixed: Mapping[str, float]
    ) -> dict[str, float]:
        """Where the programme's answer lies, not yet in kitchen amounts, looked for from where it
        may `begin`; what is `fixed` stays."""
        ranges = [
            (fixed[item.key], fixed[item.key]) if item.key in fixed else self.problem.range_of(item)
            for item in self.items
        ]
        pairs = list(zip(self.items, ranges, strict=True))
        low = np.array([min(i.unit(r[0]), i.unit(r[1])) for i, r in pairs])
        high = np.array([i.unit(r[1]) for i, r in pairs])
        units = self._units(begin)
        units = np.clip(units, low, high)
        trust = np.array([TRUST if item.ratio else TRUST_C / STEP_C for item in self.items])
        for _ in range(rounds):
            outcome = self._at(units)
            if outcome is None:
                units, trust = units / 2, trust / 2
                continue
            here = self._rows(outcome)
            slopes = self._slopes(units, here, low, high)
            self._straight = Straight(units, here, slopes)
            after = self._solve(units, here, slopes, (low, high), trust)
            if after is None:
                break
            while self._at(after) is None and np.abs(after - units).max() > 1e-4:
                after = (after + units) / 2
            still = np.abs(after - units).max() < 1e-3
            units, trust = after, trust * 0.8
            if still:
                break
        found = {}
        for item, unit in zip(self.items, units, strict=True):
            if abs(unit) > 1e-6:
                found[item.key] = item.value(float(unit))
        return found

    def _solve(
        self, at: Vector, here: Vector, slopes: Vector, ends: tuple[Vector, Vector], trust: Vector
    ) -> Vector | None:
        """The least change by the slopes where it is now, (n,)."""
        from scipy.optimize import linprog  # it takes time to load

        n = len(self.items)
        groups = np.zeros((n, len(self._jobs)))
        for column, own in enumerate(self._jobs):
            groups[own, column] = 1.0
        ways = np.hstack([np.eye(n), groups])
        costs = self._costs()
        # Together is as much as one by one; a baker would rather change all sugars alike.
        each = costs @ ways * np.concatenate([np.ones(n), np.full(len(self._jobs), 0.999)])
        lows, highs = self._bounds()
        both = np.hstack([ways, -ways])
        effect, rest = slopes @ both, here - slopes @ at
        slack = np.eye(len(here))
        loose = np.zeros((n, len(here)))
        low, high = np.maximum(ends[0], at - trust), np.minimum(ends[1], at + trust)
        solved = linprog(
            np.concatenate([each, each, self._penalties(here)]),
            A_ub=np.vstack(
                [
                    np.hstack([effect, -slack]),
                    np.hstack([-effect, -slack]),
                    np.hstack([both, loose]),
                    np.hstack([-both, loose]),
                ]
            ),
            b_ub=np.concatenate([highs - rest, rest - lows, high, -low]),
            bounds=(0, None),
            method="highs",
        )
        if not solved.success or solved.x is None:
            return None
        moves: Vector = np.asarray(solved.x)
        return both @ moves[: both.shape[1]]

    def _bounds(self) -> tuple[Vector, Vector]:
        """Between what each row has to be."""
        by = {f: self.inset * near(f, abs(low)) for f, (low, _) in self.wanted.ranges.items()}
        wished = [(low + by[f], high - by[f]) for f, (low, high) in self.wanted.ranges.items()]
        lows = [ln(low) for low, _ in wished] + [low for low, _ in self.outer.values()]
        highs = [ln(high) for _, high in wished] + [high for _, high in self.outer.values()]
        return np.array(lows), np.array(highs)

    def _penalties(self, here: Vector) -> Vector:
        """What it counts when a row is out of them by one."""
        figures = (math.exp(row) for row in here[: len(self.wanted.ranges)])
        wished = [
            MISSED / near(figure, value) * value
            for figure, value in zip(self.wanted.ranges, figures, strict=True)
        ]
        return np.array([*wished, *[UNBALANCED] * len(self.outer)])

    def promising(self, together: list[dict[str, float]]) -> list[dict[str, float]]:
        """Those that meet the wish by the slopes first, what changes least of them before."""
        straight = self._straight
        if straight is None:
            return together
        units = np.array([self._units(values) for values in together])
        rows = straight.here + (units - straight.at) @ straight.slopes.T
        lows, highs = self._bounds()
        beyond_by = np.maximum(lows - rows, 0.0) + np.maximum(rows - highs, 0.0)
        lack = np.round(beyond_by @ self._penalties(straight.here), 3)
        order = np.lexsort((np.abs(units) @ self._costs(), lack))
        return [together[n] for n in order]
