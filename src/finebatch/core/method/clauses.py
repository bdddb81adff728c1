"""The lines of a method, taken apart into what is done one after the other, each with its kind.

A clause is told by the word that it begins with, by what it names, and by where it stands: what is
cut before the bake is dough, what is cut after it a log or a pan.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache

from finebatch.core.formula.card_says import left_in_the_cold
from finebatch.core.formula.step import StepKind
from finebatch.core.formula.until_oven import only_says_how_long
from finebatch.core.measures.durations import find_durations
from finebatch.core.measures.spoken import plain_text
from finebatch.core.measures.temperatures import find_temperatures
from finebatch.core.method.steps import COLD, COOLED, GET_READY, MIXING, SHAPING
from finebatch.core.method.words import (
    AFTER,
    ANYWHERE,
    BAKED,
    BEFORE_BAKE,
    CLAUSE,
    FOR_A_PART,
    FREEZER,
    IN_THE_COLD,
    LEAD,
    MIXES,
    OUT_OF,
    SENTENCE,
    VERB,
    WAITS,
    Rule,
)

TOLD_BY = 200
"""Letters of a clause by which its kind is told; a longer one says no more of it."""


@dataclass(frozen=True, slots=True)
class Clause:
    """What is done at once: its words, its kind, and the times that it names, each in minutes,
    least and most. `line` is the line of the method, from 1."""

    line: int
    text: str
    kind: StepKind
    minutes: tuple[tuple[float, float], ...]


def _kind_by(rules: Sequence[Rule], text: str) -> StepKind | None:
    return next((kind for kind, pattern in rules if pattern.search(text)), None)


def _parts(line: str) -> Iterator[tuple[int, int]]:
    """From where to where in the line each sentence and each clause of it goes."""
    start = 0
    for end, begin in [*((m.start(), m.end()) for m in SENTENCE.finditer(line)), (len(line), 0)]:
        for cut in CLAUSE.finditer(line, start, end):
            yield start, cut.start()
            start = cut.end()
        yield start, end
        start = begin


@dataclass(slots=True)
class _Reading:
    """What has gone before, while the clauses of a method are read in order."""

    mixed: bool = False
    begun: bool = False
    cold: bool = False
    shaped: bool = False
    baked: bool = False

    def kind(self, text: str, *, at_temperature: bool) -> StepKind | None:
        """The kind of a clause; None where it is none of its own. It is told by its beginning."""
        text = text[:TOLD_BY]
        if self.baked and FOR_A_PART.search(text):
            return "make_part"
        plain = plain_text(LEAD.sub("", text))
        found = _kind_by(ANYWHERE, plain)
        if found:
            return found
        if self._bakes(plain, at_temperature):
            return "second_bake" if self.baked else "bake"
        if self.baked:
            return _kind_by(AFTER, plain)
        return self._before(plain)

    def _bakes(self, plain: str, at_temperature: bool) -> bool:
        timed = bool(find_durations(plain))
        if self.baked and _kind_by(AFTER, plain) not in (None, "second_bake", "cool", "turn"):
            return False
        if _kind_by(BEFORE_BAKE[4:5], plain):
            return False
        return bool(BAKED.search(plain)) or (at_temperature and timed)

    def _before(self, plain: str) -> StepKind | None:
        if self.begun and FREEZER.search(plain) and not OUT_OF.search(plain):
            return "freeze"
        if self.begun and IN_THE_COLD.search(plain) and not _kind_by(BEFORE_BAKE[:2], plain):
            return "chill"
        mixes = _kind_by(MIXES, plain)
        if not self.mixed or mixes in ("rub_in", "sift", "cream", "whisk", "fold_in"):
            early = _kind_by(BEFORE_BAKE[:8], plain)
            if early or mixes:
                return early or mixes
        found = _kind_by(BEFORE_BAKE, plain)
        if found in ("dent", "scoop", "coat", "top") and mixes and not self.shaped:
            # “Make a well in the flour”, “toss the nuts in”, “stir in the rest of the sugar”.
            return mixes
        if found is None and mixes is None and WAITS.search(plain):
            times = find_durations(plain)
            if times and left_in_the_cold(times[0].low, plain):
                return "chill"
            return "temper" if self.cold and not self.shaped else "rest_bench"
        return found or mixes

    def note(self, kind: StepKind) -> None:
        """What a clause of that kind changes."""
        self.mixed |= kind in MIXING
        self.begun |= kind not in GET_READY | {"heat_oven"}
        self.cold |= kind in COLD
        self.shaped |= kind in SHAPING
        self.baked |= kind == "bake"


def clauses_of(lines: Sequence[str]) -> Sequence[Clause]:
    """The clauses of a method, in order. Words that are no step of their own (“they should stay
    pale”) go with the one before; what waits for something to cool goes with what made it hot."""
    return _clauses(tuple(lines))


@lru_cache(maxsize=256)
def _clauses(lines: tuple[str, ...]) -> tuple[Clause, ...]:
    """The same, the latest kept: every screen asks it anew."""
    found: list[Clause] = []
    reading = _Reading()
    for number, line in enumerate(lines, start=1):
        own: list[tuple[int, int, StepKind]] = []
        ahead: int | None = None
        for begin, end in _parts(line):
            start = begin if ahead is None else ahead
            ahead = None
            text = line[start:end].strip(" \t,")
            if not text or only_says_how_long(text):
                continue
            kind = reading.kind(text, at_temperature=bool(find_temperatures(text)))
            if LEAD.fullmatch(text) and end < len(line):
                # “In a bowl, beat …”: it goes with what is done there.
                ahead = start
                continue
            goes_on = kind is None or (own and own[-1][2] == kind and not VERB.match(text))
            goes_on = goes_on or (
                kind == "rest_bench" and bool(own) and own[-1][2] in COOLED - {"soften"}
            )
            if own and goes_on:
                own[-1] = (own[-1][0], end, own[-1][2])
            else:
                own.append((start, end, kind or _unknown(reading)))
                reading.note(own[-1][2])
        for start, end, kind in own:
            text = line[start:end].strip(" \t,")
            found.append(Clause(number, text, kind, _minutes(text)))
    return tuple(found)


def _unknown(reading: _Reading) -> StepKind:
    if reading.baked:
        return "cool"
    return "scoop" if reading.shaped or reading.cold else "beat_in"


def _minutes(text: str) -> tuple[tuple[float, float], ...]:
    return tuple((time.low, time.high) for time in find_durations(text))
