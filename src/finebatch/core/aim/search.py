"""The least change of a dough and its tray that comes to what is wished.

Near any dough the logarithms of width, height and minutes are straight in those of its amounts, so
the least change is a linear programme (`core/aim/programme`). What it says is put here to what a
kitchen measures, and no step is kept that is not needed. Nothing is left to chance or to the clock:
the same wish has the same answer.
"""

import itertools
import math
from collections.abc import Callable, Mapping
from typing import Literal

import numpy as np

from finebatch.core.aim.distance import STEP_C
from finebatch.core.aim.items import Item
from finebatch.core.aim.problem import Answer, Problem, Wanted
from finebatch.core.aim.programme import NUDGE, NUDGE_C, Programme
from finebatch.core.aim.trial import Dough
from finebatch.core.aim.wish import beyond
from finebatch.core.values import Range

Effort = Literal["coarse", "quick", "thorough"]
ROUNDS, COARSE_ROUNDS, INNER_ROUNDS = 6, 3, 2
"""How often the programme is solved anew."""
TRIMMED, DIVED = 40, 4
"""How many steps are taken back at most from what meets a wish; how many items are put to kitchen
amounts one by one where together they miss it."""
STRIDES = 12
"""In how many strides one item is taken to its end, in search of a change of it alone."""
INSETS = (0.0, 0.6)
"""How far inside of what is near enough the programme aims, in shares of it: at its edge first, as
that is nearest; farther in where no kitchen amounts about the edge meet it."""
BENDS = 0.4
"""An item whose slope brings it to less than this of what is missed is not followed: no figure
bends so far."""
TRIED, TRIED_COARSE = 16, 6
"""How many of all kitchen amounts about an answer are foreseen: those that promise most."""
LOOKED_AT = (3, 3, 3, 2, 2, 1)
"""How many kitchen amounts of each item are looked at together, of what is changed most first."""
BAKING = ("handle:", "oven", "dough_temp")


class Search:
    """The search for the least change of one dough, by what may be moved of it."""

    def __init__(
        self, dough: Dough, wanted: Wanted, allowed: Callable[[str], bool] = lambda _: True
    ) -> None:
        self.problem = Problem(dough, wanted, allowed)
        self.programme = Programme(self.problem)
        self.items, self.by_key = self.problem.items, self.problem.by_key

    def _near(self, item: Item, value: float) -> list[float]:
        low, high = self.problem.range_of(item)
        found = {item.was} if low <= item.was <= high else set()
        found |= {v for v in item.nearest(value) if low - 1e-9 <= v <= high + 1e-9}
        return sorted(found or {low}, key=lambda v: (abs(v - value), v))

    def settle(self, values: Mapping[str, float], *, coarse: bool = False) -> Answer | None:
        """The best of the kitchen amounts about that answer, and no step of it too many."""
        moved = sorted(values, key=lambda key: -abs(self.by_key[key].unit(values[key])))
        choices = [
            self._near(self.by_key[key], values[key])[: LOOKED_AT[min(n, len(LOOKED_AT) - 1)]]
            for n, key in enumerate(moved)
        ]
        together = [dict(zip(moved, chosen, strict=True)) for chosen in itertools.product(*choices)]
        best: Answer | None = None
        for tried in self.programme.promising(together)[: TRIED_COARSE if coarse else TRIED]:
            best = _better(best, self.problem.judge(tried))
        return self._trimmed(best) if best and best.meets else best

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
            values = {**self.programme.run(INNER_ROUNDS, values, fixed), **fixed}
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
            judged = [a for a in (self.problem.judge(values) for values in self._back(best)) if a]
            nearer = min(judged, key=lambda a: a.rank, default=best)
            if nearer.rank >= best.rank:
                break
            best = nearer
        return best

    def single(self, item: Item, within: float) -> Answer | None:
        """The least change of one item alone that meets all of it, nearer than `within`."""
        low, high = self.problem.range_of(item)
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
        strides = np.linspace(item.unit(item.was), item.unit(end), STRIDES + 1)[1:]
        missing = item.was
        for stride in strides:
            value = self._on_grid(item, item.value(float(stride)), end)
            if value == missing:
                continue
            answer = self.problem.judge({item.key: value})
            if answer is None or answer.outcome.distance >= within:
                return None
            if answer.meets:
                return self._first(item, missing, answer)
            missing = value
        return None

    def _may_reach(self, item: Item, end: float) -> bool:
        """Whether that item could come near to what is missed, going straight to its end."""
        start = self.problem.start()
        if start is None:
            return True
        outcome = start.outcome
        by = NUDGE if item.ratio else NUDGE_C / STEP_C
        by = math.copysign(by, item.unit(end))
        nudged = self.problem.dough.outcome(self.problem.changed({item.key: item.value(by)}))
        if nudged is None:
            return True
        strides = item.unit(end) / by
        for figure in start.missed:
            value = outcome.figure(figure)
            needed = -beyond(value, self.problem.wanted.ranges[figure])
            if (nudged.figure(figure) - value) * strides / needed < BENDS:
                return False
        return True

    def _on_grid(self, item: Item, value: float, end: float) -> float:
        """The step nearest to a value, on this side of the end."""
        low, high = self.problem.range_of(item)
        near_by = [v for v in item.nearest(value) if low - 1e-9 <= v <= high + 1e-9]
        return min(near_by, key=lambda v: abs(v - value), default=item.was)

    def _first(self, item: Item, missing: float, meeting: Answer) -> Answer:
        """The first step from one that misses to one that meets."""
        while True:
            at = meeting.values[item.key]
            value = self._on_grid(item, (missing + at) / 2, at)
            if value in (missing, at) or not min(missing, at) < value < max(missing, at):
                return meeting
            answer = self.problem.judge({item.key: value})
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
        start = self.problem.start()
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
        for self.programme.inset in INSETS[:1] if coarse else INSETS:
            values = self.programme.run(rounds, values, {})
            found = _better(found, self.settle(values, coarse=coarse))
            if found and found.meets:
                break
            rounds = INNER_ROUNDS
        return found, values


def _better(one: Answer | None, other: Answer | None) -> Answer | None:
    if one is None or other is None:
        return one or other
    return min(one, other, key=lambda answer: answer.rank)
