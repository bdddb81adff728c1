"""The least change of a dough and its tray that comes to what is wished.

Near any dough the logarithms of width, height and minutes are straight in those of its amounts, so
the least change is a linear programme, solved again where its answer lies until it stands still
(sequential linear programming). What it says is then put to what a kitchen measures, and no step
is kept that is not needed. Nothing is left to chance or to the clock: the same wish has the same
answer.
"""

import itertools
import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Literal

import numpy as np
import numpy.typing as npt

from finebatch.core.aim.distance import PIECE, STEP_C, TENTH
from finebatch.core.aim.items import HandleItem, Item, LineItem, items_of, jobs_of
from finebatch.core.aim.trial import Changed, Dough, Outcome, ln
from finebatch.core.aim.wish import Figure, beyond, near
from finebatch.core.values import Range

Effort = Literal["coarse", "quick", "thorough"]
Vector = npt.NDArray[np.float64]

ROUNDS, COARSE_ROUNDS, INNER_ROUNDS = 6, 3, 2
"""How often the programme is solved anew."""
TRIMMED, DIVED = 40, 4
"""How many steps are taken back at most from what meets a wish; how many items are put to kitchen
amounts one by one where together they miss it."""
INSETS = (0.0, 0.6)
"""How far inside of what is near enough the programme aims, in shares of it: at its edge first, as
that is nearest; farther in where no kitchen amounts about the edge meet it."""
BENDS = 0.4
"""An item whose slope brings it to less than this of what is missed is not followed: no figure
bends so far."""
STRIDES = 12
"""In how many strides one item is taken to its end, in search of a change of it alone."""
TRUST = 0.4
"""How far it is trusted at once: by half as much again in amounts, or 4 °C."""
TRUST_C = 15.0
NUDGE, NUDGE_C = 0.02, 2.0
"""How far an item is moved to see what it does."""
MISSED, UNBALANCED = 400.0, 1e5
"""What missing a wish by what is near enough counts, and a dough out of balance by a percent: more
than any change."""
TRIED, TRIED_COARSE = 16, 6
"""How many of all kitchen amounts about an answer are foreseen: those that promise most."""
LOOKED_AT = (3, 3, 3, 2, 2, 1)
"""How many kitchen amounts of each item are looked at together, of what is changed most first."""
SLACK_PCT = 0.05
BAKING = ("handle:", "oven", "dough_temp")


@dataclass(frozen=True, slots=True)
class Wanted:
    """From and to of each figure that is wished, and the most that there is of an ingredient, g."""

    ranges: Mapping[Figure, Range]
    most_g: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Answer:
    """A change of a dough, what it is of each item, and what comes of it; `missed` says by how many
    times of what is near enough each wish is missed."""

    dough: Dough
    changed: Changed
    values: Mapping[str, float]
    outcome: Outcome
    missed: Mapping[Figure, float]
    balanced: bool

    @property
    def meets(self) -> bool:
        """Whether every wish is met by a dough that can be."""
        return not self.missed and self.balanced

    @property
    def lack(self) -> float:
        """How far it is from meeting all of it."""
        return sum(self.missed.values()) + (0.0 if self.balanced else 1e3)

    @property
    def rank(self) -> tuple[float, float, int]:
        """Better answers first: what meets the wishes, then what changes least."""
        return (round(self.lack, 6), round(self.outcome.distance, 6), len(self.values))


@dataclass(frozen=True, slots=True)
class Straight:
    """How the rows (m,) run from where the items are, at (n,): by `slopes` (m, n)."""

    at: Vector
    here: Vector
    slopes: Vector


class Search:
    """One dough, what is wanted of it, and which items may be moved."""

    def __init__(
        self, dough: Dough, wanted: Wanted, allowed: Callable[[str], bool] = lambda _: True
    ) -> None:
        self.dough, self.wanted = dough, wanted
        self.items = tuple(item for item in items_of(dough) if allowed(item.key))
        self.by_key = {item.key: item for item in self.items}
        start = dough.outcome(dough.as_it_is())
        self.outer = dough.outer(start) if start else {}
        self._most = self._house()
        self._straight: Straight | None = None
        self._inset = 0.0
        self._jobs = [
            [self.items.index(item) for item in own] for _, own in jobs_of(dough, self.items)
        ]

    def _house(self) -> dict[str, float]:
        """The most of each line that there is in the house, in its unit."""
        found = {}
        for item in self.items:
            if isinstance(item, LineItem):
                key = self.dough.card.lines[item.place].ingredient or ""
                there = self.wanted.most_g.get(key)
                grams = self.dough.weighed.lines[item.place].grams
                if there is not None and grams:
                    found[item.key] = item.was * there / grams
        return found

    def range_of(self, item: Item) -> Range:
        """Between what an item may be set."""
        low, high = item.range
        most = self._most.get(item.key, math.inf)
        return min(low, most), min(high, most)

    def changed(self, values: Mapping[str, float]) -> Changed:
        """The dough with those items set."""
        found = self.dough.as_it_is()
        for item in self.items:
            value = values.get(item.key, item.was)
            if value != item.was:
                found = item.put(self.dough, found, value)
        return found

    def missed(self, outcome: Outcome) -> dict[Figure, float]:
        """By how many times of what is near enough each wish is missed."""
        found = {}
        for figure, wanted in self.wanted.ranges.items():
            value = outcome.figure(figure)
            by = abs(beyond(value, wanted))
            if by > 1e-9:
                found[figure] = by / near(figure, value)
        return found

    def short(self, values: Mapping[str, float]) -> bool:
        """Whether more is needed of something than there is in the house."""
        return any(
            values.get(key, self.by_key[key].was) > most * (1 + 1e-9)
            for key, most in self._most.items()
        )

    def judge(self, values: Mapping[str, float]) -> Answer | None:
        """What comes of items set so; None where nothing can be foreseen of it."""
        moved = {k: v for k, v in values.items() if v != self.by_key[k].was}
        changed = self.changed(moved)
        outcome = self.dough.outcome(changed)
        if outcome is None:
            return None
        balanced = all(
            low - SLACK_PCT <= outcome.percents.get(figure, low) <= high + SLACK_PCT
            for figure, (low, high) in self.outer.items()
        ) and not self.short(moved)
        return Answer(self.dough, changed, moved, outcome, self.missed(outcome), balanced)

    def start(self) -> Answer | None:
        """Nothing changed."""
        return self.judge({})

    # In the programme an item is the logarithm of its share of what it was, or °C over ten.

    def _unit(self, item: Item, value: float) -> float:
        return math.log(value / item.was) if item.ratio else (value - item.was) / STEP_C

    def _value(self, item: Item, unit: float) -> float:
        return item.was * math.exp(unit) if item.ratio else item.was + STEP_C * unit

    def _units(self, values: Mapping[str, float]) -> Vector:
        return np.array([self._unit(i, values.get(i.key, i.was)) for i in self.items])

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
        values = {item.key: self._value(item, float(u)) for item, u in pairs if abs(u) > 1e-9}
        return self.dough.outcome(self.changed(values))

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

    def programme(
        self, rounds: int, begin: Mapping[str, float], fixed: Mapping[str, float]
    ) -> dict[str, float]:
        """Where the programme's answer lies, not yet in kitchen amounts, looked for from where it
        may `begin`; what is `fixed` stays."""
        ranges = [
            (fixed[item.key], fixed[item.key]) if item.key in fixed else self.range_of(item)
            for item in self.items
        ]
        pairs = list(zip(self.items, ranges, strict=True))
        low = np.array([min(self._unit(i, r[0]), self._unit(i, r[1])) for i, r in pairs])
        high = np.array([self._unit(i, r[1]) for i, r in pairs])
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
                found[item.key] = self._value(item, float(unit))
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

    # To kitchen amounts.

    def _near(self, item: Item, value: float) -> list[float]:
        low, high = self.range_of(item)
        found = {item.was} if low <= item.was <= high else set()
        found |= {v for v in item.nearest(value) if low - 1e-9 <= v <= high + 1e-9}
        return sorted(found or {low}, key=lambda v: (abs(v - value), v))

    def settle(self, values: Mapping[str, float], *, coarse: bool = False) -> Answer | None:
        """The best of the kitchen amounts about that answer, and no step of it too many."""
        moved = sorted(values, key=lambda key: -abs(self._unit(self.by_key[key], values[key])))
        choices = [
            self._near(self.by_key[key], values[key])[: LOOKED_AT[min(n, len(LOOKED_AT) - 1)]]
            for n, key in enumerate(moved)
        ]
        together = [dict(zip(moved, chosen, strict=True)) for chosen in itertools.product(*choices)]
        best: Answer | None = None
        for tried in self._promising(together)[: TRIED_COARSE if coarse else TRIED]:
            best = _better(best, self.judge(tried))
        return self._trimmed(best) if best and best.meets else best

    def _promising(self, together: list[dict[str, float]]) -> list[dict[str, float]]:
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

    def _bounds(self) -> tuple[Vector, Vector]:
        """Between what each row has to be."""
        by = {f: self._inset * near(f, abs(low)) for f, (low, _) in self.wanted.ranges.items()}
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

    def _dive(self, values: Mapping[str, float]) -> Answer | None:
        """Kitchen amounts one after the other, the coarsest first: the rest makes up for it."""
        fixed: dict[str, float] = {}
        found: Answer | None = None
        for _ in range(DIVED):
            left = [key for key in values if key not in fixed]
            if not left:
                break
            key = max(left, key=lambda k: self._coarseness(self.by_key[k]))
            fixed[key] = self._near(self.by_key[key], values[key])[0]
            values = {**self.programme(INNER_ROUNDS, values, fixed), **fixed}
            answer = self.settle(values)
            if answer and (found is None or answer.rank < found.rank):
                found = answer
            if found and found.meets:
                break
        return found

    def _coarseness(self, item: Item) -> float:
        return item.step / item.was if item.ratio else item.step / STEP_C

    def _beside(self, item: Item, at: float) -> Range:
        """The step below and the one above."""
        hair = 1e-6 * max(abs(at), 1.0)
        return item.nearest(at - hair - 1e-9)[0], item.nearest(at + hair)[1]

    def _back(self, answer: Answer) -> list[dict[str, float]]:
        """Each changed item put back by a step, and altogether."""
        found = []
        for key, value in answer.values.items():
            item = self.by_key[key]
            behind, ahead = self._beside(item, value)
            found.append({k: v for k, v in answer.values.items() if k != key})
            nearer = ahead if value < item.was else behind
            if (nearer - item.was) * (value - item.was) > 0:
                found.append({**answer.values, key: nearer})
        return found

    def _trimmed(self, best: Answer) -> Answer:
        """Step by step back to what it was, while it still meets the wish."""
        for _ in range(TRIMMED):
            judged = [a for a in (self.judge(values) for values in self._back(best)) if a]
            nearer = min(judged, key=lambda a: a.rank, default=best)
            if nearer.rank >= best.rank:
                break
            best = nearer
        return best

    def single(self, item: Item, within: float) -> Answer | None:
        """The least change of one item alone that meets all of it, nearer than `within`."""
        low, high = self.range_of(item)
        nearest = None
        for end in (low, high):
            found = self._along(item, end, within)
            if found and (nearest is None or found.rank < nearest.rank):
                nearest = found
        return nearest

    def _along(self, item: Item, end: float, within: float) -> Answer | None:
        """Towards one end: looked for by strides, then back by halves to the first step."""
        if not self._may_reach(item, end):
            return None
        strides = np.linspace(self._unit(item, item.was), self._unit(item, end), STRIDES + 1)[1:]
        missing = item.was
        for stride in strides:
            value = self._on_grid(item, self._value(item, float(stride)), end)
            if value == missing:
                continue
            answer = self.judge({item.key: value})
            if answer is None or answer.outcome.distance >= within:
                return None
            if answer.meets:
                return self._first(item, missing, answer)
            missing = value
        return None

    def _may_reach(self, item: Item, end: float) -> bool:
        """Whether that item could come near to what is missed, going straight to its end."""
        start = self.start()
        if start is None:
            return True
        outcome = start.outcome
        by = NUDGE if item.ratio else NUDGE_C / STEP_C
        by = math.copysign(by, self._unit(item, end))
        nudged = self.dough.outcome(self.changed({item.key: self._value(item, by)}))
        if nudged is None:
            return True
        strides = self._unit(item, end) / by
        for figure in start.missed:
            value = outcome.figure(figure)
            needed = -beyond(value, self.wanted.ranges[figure])
            if (nudged.figure(figure) - value) * strides / needed < BENDS:
                return False
        return True

    def _on_grid(self, item: Item, value: float, end: float) -> float:
        """The step nearest to a value, on this side of the end."""
        low, high = self.range_of(item)
        near_by = [v for v in item.nearest(value) if low - 1e-9 <= v <= high + 1e-9]
        return min(near_by, key=lambda v: abs(v - value), default=item.was)

    def _first(self, item: Item, missing: float, meeting: Answer) -> Answer:
        """The first step from one that misses to one that meets."""
        while True:
            at = meeting.values[item.key]
            value = self._on_grid(item, (missing + at) / 2, at)
            if value in (missing, at) or not min(missing, at) < value < max(missing, at):
                return meeting
            answer = self.judge({item.key: value})
            if answer and answer.meets:
                meeting = answer
            else:
                missing = value

    def singles(self, within: float = math.inf) -> list[Answer]:
        """Of each item alone the least change that meets all of it, nearer than `within`."""
        found = (self.single(item, within) for item in self.items)
        return sorted((a for a in found if a), key=lambda a: a.rank)

    def least(self, effort: Effort = "thorough") -> Answer | None:
        """The least change that meets all of it, or what comes nearest.

        `coarse` is a first look; `thorough` looks at each item alone as well, and puts amounts to
        the kitchen's one by one where together they miss.
        """
        start = self.start()
        if start is not None and start.meets:
            return start
        found, values = self._programmed(effort)
        if effort == "thorough":
            if not (found and found.meets):
                found = _better(found, self._dive(values))
            within = found.outcome.distance if found and found.meets else math.inf
            for answer in self.singles(within):
                found = _better(found, answer)
        return _better(found, start)

    def _programmed(self, effort: Effort) -> tuple[Answer | None, dict[str, float]]:
        """The programme's answer in kitchen amounts, and as it lies between them."""
        coarse, found = effort == "coarse", None
        rounds = ROUNDS if effort == "thorough" else COARSE_ROUNDS
        values: dict[str, float] = {}
        for self._inset in INSETS[:1] if coarse else INSETS:
            values = self.programme(rounds, values, {})
            found = _better(found, self.settle(values, coarse=coarse))
            if found and found.meets:
                break
            rounds = INNER_ROUNDS
        return found, values


def _better(one: Answer | None, other: Answer | None) -> Answer | None:
    if one is None or other is None:
        return one or other
    return min(one, other, key=lambda answer: answer.rank)
