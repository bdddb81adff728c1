"""What is looked for: one dough, what is wanted of it, and what may be moved; and how an answer is
judged."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from finebatch.core.aim.items import Item, LineItem, items_of
from finebatch.core.aim.trial import Changed, Dough, Outcome
from finebatch.core.aim.wish import Figure, beyond, near
from finebatch.core.values import Range

SLACK_PCT = 0.05
"""So far out of balance is rounding."""


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


class Problem:
    """One dough, what is wanted of it, and which items may be moved."""

    def __init__(
        self, dough: Dough, wanted: Wanted, allowed: Callable[[str], bool] = lambda _: True
    ) -> None:
        self.dough, self.wanted = dough, wanted
        self.items = tuple(item for item in items_of(dough) if allowed(item.key))
        self.by_key = {item.key: item for item in self.items}
        start = dough.outcome(dough.as_it_is())
        self.outer = dough.outer(start) if start else {}

    def range_of(self, item: Item) -> Range:
        """Between what an item may be set: no more than is in the house, where that counts."""
        low, high = item.range
        if isinstance(item, LineItem):
            line = self.dough.weighed.lines[item.place]
            there = self.wanted.most_g.get(line.ingredient or "")
            if there is not None and line.grams:
                most = item.was * there / line.grams
                return min(low, most), min(high, most)
        return low, high

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

    def _short(self, changed: Changed) -> bool:
        """Whether more is needed of something than there is in the house."""
        grams = self.dough.formula_g(changed)
        most = self.wanted.most_g
        return any(grams[key] > most[key] * (1 + 1e-9) for key in grams.keys() & most.keys())

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
        ) and not self._short(changed)
        return Answer(self.dough, changed, moved, outcome, self.missed(outcome), balanced)

    def start(self) -> Answer | None:
        """Nothing changed."""
        return self.judge({})
