"""Two or three ways from a dough to what is wished of it, or why there is none."""

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from finebatch.core.aim.items import card_of
from finebatch.core.aim.problem import Answer, Problem, Wanted
from finebatch.core.aim.search import BAKING, Search
from finebatch.core.aim.trial import Changed, Dough, Outcome
from finebatch.core.aim.variants import Begun, Facts, begin, keeps_days, others
from finebatch.core.aim.wish import Aim, Figure
from finebatch.core.aim.words import FAR, aim_words, changes_of, clash_words, costs_of
from finebatch.core.formula.dough import Card
from finebatch.core.piece.spread import EIGHT_IN_TEN
from finebatch.core.piece.tray import count
from finebatch.core.refusal import Refusal
from finebatch.core.tray.question import chill_for
from finebatch.core.tray.setting import TraySetting
from finebatch.core.values import Range

WayKey = Literal[
    "least",
    "house",
    "fewest",
    "another_swap",
    "dough_as_it_is",
    "piece_as_it_is",
    "tray_as_it_is",
    "something_else",
]
MOST_WAYS = 3
FARTHER, AND_BY = 1.5, 2.0
"""Other ways change at most so many times as much as the least, and so much more; where none does,
the nearest of the others is offered."""
MIXED_C = 23.0
"""How warm a dough comes from the bowl, where it goes into the fridge."""


@dataclass(frozen=True, slots=True)
class Comes:
    """What comes out: a piece's width with its band (mm), height (mm) and minutes, sugar in g in
    100 g baked, how long it keeps, how many pieces; and how likely its width is as wished.
    `flat` are pieces that are cut or sliced."""

    width_mm: float
    low_mm: float
    high_mm: float
    height_mm: float
    minutes: float
    sugar_pct: float
    keeps_days: float
    pieces: int
    likely: float | None
    flat: bool


@dataclass(frozen=True, slots=True)
class WayThere:
    """One way there: the card and the tray as they would be, what is changed, what comes of it and
    what that costs elsewhere; `distance` is how far it is from the dough, `met` says that all
    wishes are met."""

    key: WayKey
    card: Card
    setting: TraySetting
    changes: tuple[str, ...]
    costs: tuple[str, ...]
    distance: float
    comes: Comes
    met: bool


@dataclass(frozen=True, slots=True)
class Reached:
    """How a dough comes to what is wished: as it is now, the ways there, and what cannot be had and
    why. `said` is the wish in words. Without ways there is nothing to change."""

    now: Comes
    said: str
    ways: tuple[WayThere, ...]
    met: bool
    why: tuple[str, ...]
    clash: tuple[Figure, ...]


def _likely(outcome: Outcome, wanted: Range | None) -> float | None:
    """How likely a piece is as wide as wished, by its band."""
    if wanted is None:
        return None
    width = outcome.found.width
    sd = math.log(width.high_mm / width.low_mm) / 2 / EIGHT_IN_TEN

    def below(mm: float) -> float:
        ratio = math.log(max(mm, 1e-3) / width.middle_mm)
        return (1 + math.erf(ratio / sd / math.sqrt(2))) / 2

    return below(wanted[1]) - below(wanted[0])


def _pieces(dough: Dough, outcome: Outcome, changed: Changed) -> int:
    """How many there are as a baker counts them."""
    setting = changed.setting
    asked = replace(
        dough.asked,
        formula_g=dough.formula_g(changed),
        setting=setting,
        mixing=dough.card.mixing,
    )
    try:
        made = count(asked.basis(dough.ground), setting.piece, outcome.found)
    except Refusal:
        return 0
    return made.pieces * (made.making.each_gives if made.making else 1)


class Ways:
    """The search for all ways from one dough."""

    def __init__(self, dough: Dough, aim: Aim, facts: Facts) -> None:
        self.dough, self.aim, self.facts = dough, aim, facts
        there = facts.there_g if aim.from_house else None
        self.wanted = Wanted(
            aim.ranges, {k: grams for k, grams in (there or {}).items() if grams > 0}
        )
        self.begun: Begun = begin(dough, aim, facts)

    @property
    def said(self) -> str:
        """The wish in words."""
        return aim_words(self.aim)

    def comes(self, dough: Dough, outcome: Outcome, changed: Changed) -> Comes:
        """What comes of a change, as it is told."""
        found = outcome.found
        return Comes(
            width_mm=found.width.middle_mm,
            low_mm=found.width.low_mm,
            high_mm=found.width.high_mm,
            height_mm=found.thickness.height_mm,
            minutes=found.minutes,
            sugar_pct=outcome.sugar_pct,
            keeps_days=keeps_days(dough.baked(changed.setting), self.facts.keepings),
            pieces=_pieces(dough, outcome, changed),
            likely=_likely(outcome, self.wanted.ranges.get("width")),
            flat=found.raw.flat,
        )

    def way(self, key: WayKey, answer: Answer, now: Comes) -> WayThere:
        """An answer as it is told beside what is now, with the card and tray that it makes."""
        card, setting = card_of(answer.dough, answer.changed), answer.changed.setting
        chilled, changes = self._chilled(answer), changes_of(self.dough, answer)
        if chilled.chill_min != setting.chill_min:
            changes = (*changes, f"{chilled.chill_min} min in the fridge for that")
        comes = self.comes(answer.dough, answer.outcome, answer.changed)
        return WayThere(
            key=key,
            card=card,
            setting=chilled,
            changes=changes,
            costs=costs_of(self.dough, answer, (now.pieces, comes.pieces)),
            distance=answer.outcome.distance,
            comes=comes,
            met=answer.meets and not self.begun.lacks,
        )

    def _chilled(self, answer: Answer) -> TraySetting:
        """The setting with as long in the fridge as its dough takes to be so cold."""
        setting = answer.changed.setting
        if setting.dough_temp_c == self.dough.asked.setting.dough_temp_c:
            return setting
        asked = replace(
            answer.dough.asked,
            formula_g=answer.dough.formula_g(answer.changed),
            setting=setting,
        )
        try:
            cooling = chill_for(asked, self.dough.larder, "fridge", MIXED_C).cooling
        except Refusal:
            return setting
        minutes = cooling.reaches(max(setting.dough_temp_c, asked.kitchen.fridge_c + 1.0))
        return setting if minutes is None else replace(setting, chill_min=math.ceil(minutes))

    def best(self, *, coarse: bool) -> Answer | None:
        """The least change from any of the doughs that it may begin with: from the best of them by
        a first look."""
        looked = self._looked(self.begun.doughs[:1] if coarse else self.begun.doughs)
        best = min(looked, key=lambda a: a.rank, default=None)
        if best is None or coarse:
            return best
        found = Search(best.dough, self.wanted).least()
        return min((a for a in (best, found) if a), key=lambda a: a.rank)

    def _looked(self, doughs: Sequence[Dough]) -> list[Answer]:
        """A first look at each of those doughs."""
        found = (Search(dough, self.wanted).least("coarse") for dough in doughs)
        return [answer for answer in found if answer]

    def one_thing(self, dough: Dough) -> list[Answer]:
        """Answers that change one thing more of a dough which is not changed by steps."""
        found = (
            Problem(other, self.wanted, lambda _: False).start()
            for other in others(dough, self.aim, self.facts)
        )
        return sorted((a for a in found if a and a.meets), key=lambda a: a.rank)

    def fewest(self, least: Answer, one_thing: list[Answer]) -> Answer | None:
        """What changes fewest things; of those the least change."""
        most = len(changes_of(self.dough, least))
        if most <= 1:
            return None
        found = [*one_thing, *Search(least.dough, self.wanted).singles()]
        fewer = [(n, a) for a in found if (n := len(changes_of(self.dough, a))) < most]
        return min(fewer, key=lambda pair: (pair[0], pair[1].rank), default=(0, None))[1]

    def clash(self, nearest: Answer) -> tuple[Figure, ...]:
        """The fewest wishes that cannot be had together: without any of them the rest can."""
        kept = list(self.wanted.ranges)
        for figure in list(kept):
            fewer = {f: self.wanted.ranges[f] for f in kept if f != figure}
            found = Search(nearest.dough, replace(self.wanted, ranges=fewer)).least("quick")
            if fewer and not (found and found.meets):
                kept.remove(figure)
        return tuple(kept)

    def reached(self, *, coarse: bool = False) -> Reached:
        """All of it."""
        start = self.dough.outcome(self.dough.as_it_is())
        if start is None:  # the refusal says why
            self.dough.asked.foresee(self.dough.ground)
            raise AssertionError
        now = self.comes(self.dough, start, self.dough.as_it_is())
        least = self.best(coarse=coarse)
        one_thing = [] if least is None or coarse else self.one_thing(least.dough)
        if least is not None and one_thing:
            least = min(least, one_thing[0], key=lambda a: a.rank)
        if least is None:
            return Reached(now, self.said, (), False, self.begun.lacks, ())
        if not least.meets:
            return self._unreached(now, least, coarse=coarse)
        if coarse:
            ways: list[tuple[WayKey, Answer]] = [("least", least)]
        else:
            ways = self._all(least, one_thing)
        told = tuple(self.way(key, answer, now) for key, answer in ways)
        told = tuple(way for way in told if way.changes)
        return Reached(now, self.said, told, not self.begun.lacks, self.begun.lacks, ())

    def _unreached(self, now: Comes, nearest: Answer, *, coarse: bool) -> Reached:
        clash = () if coarse else self.clash(nearest)
        why = list(self.begun.lacks)
        wishes = [(figure, wish) for figure in clash if (wish := self.aim.of(figure))]
        if wishes:
            ranges = {figure: self.wanted.ranges[figure] for figure in clash}
            alone = Search(nearest.dough, replace(self.wanted, ranges=ranges)).least("quick")
            why.append(clash_words(wishes, alone or nearest))
        way = self.way("least", nearest, now)
        return Reached(now, self.said, (way,) if way.changes else (), False, tuple(why), clash)

    def _all(self, least: Answer, one_thing: list[Answer]) -> list[tuple[WayKey, Answer]]:
        """The ways that differ, at most three: those that are not much farther, but at least one
        other that is not yet another dough."""
        most = FARTHER * least.outcome.distance + AND_BY
        found: list[tuple[WayKey, Answer]] = [("least", least)]
        said = {changes_of(self.dough, least)}
        farther: list[tuple[WayKey, Answer]] = []
        for key, answer in self._others(least, one_thing):
            if answer is None or not answer.meets or changes_of(self.dough, answer) in said:
                continue
            said.add(changes_of(self.dough, answer))
            (found if answer.outcome.distance <= most else farther).append((key, answer))
            if len(found) == MOST_WAYS:
                return found
        if len(found) == 1:
            near = [way for way in farther if way[1].outcome.distance <= FAR]
            found += sorted(near, key=lambda way: way[1].rank)[:1]
        return found

    def _others(
        self, least: Answer, one_thing: list[Answer]
    ) -> Iterator[tuple[WayKey, Answer | None]]:
        """Other ways than the least change, one after the other, as they are looked for."""
        if self.facts.there_g is not None and not self.aim.from_house:
            own = Ways(self.dough, replace(self.aim, from_house=True), self.facts)
            yield "house", own.best(coarse=False) if not own.begun.lacks else None
        yield "fewest", self.fewest(least, one_thing)
        if len(self.begun.doughs) > 1:
            for answer in self._looked(self.begun.doughs):
                if answer.dough.card != least.dough.card:
                    yield "another_swap", answer
        ways: tuple[tuple[WayKey, Callable[[str], bool]], ...] = (
            ("dough_as_it_is", lambda key: key.startswith(BAKING)),
            ("piece_as_it_is", lambda key: not key.startswith("handle:")),
            ("tray_as_it_is", lambda key: key.startswith("line:")),
            ("something_else", lambda key: key not in least.values),
        )
        for key, allowed in ways:
            yield key, Search(least.dough, self.wanted, allowed).least("quick")


def ways(dough: Dough, aim: Aim, facts: Facts, *, coarse: bool = False) -> Reached:
    """From a dough to what is wished: two or three ways, or the nearest and what clashes.

    `coarse` only looks for the least change, and says no reasons. `Refusal` for a dough of which no
    piece can be foreseen.
    """
    return Ways(dough, aim, facts).reached(coarse=coarse)
