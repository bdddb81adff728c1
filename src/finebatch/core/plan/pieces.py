"""Pieces of a plan that can be moved, and the rules of what each comes after.

Every rule says "not before that minute", or read the other way round, "not later than that".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.work import Span


@dataclass(slots=True, eq=False)
class Piece:
    """A stretch of work that nothing breaks off: a job, or one of the two halves of one."""

    job: JobKey
    start: int
    minutes: int
    who: int
    fixed: bool = False

    @property
    def end(self) -> int:
        """The minute at which it is done."""
        return self.start + self.minutes


@dataclass(frozen=True, slots=True)
class After:
    """A piece that starts no sooner than so many minutes after the end of all those; after minute
    0 where there are none."""

    piece: Piece
    add: int
    ends: Sequence[Piece] = ()

    def least(self) -> int:
        """The minute before which the piece may not start, as the others stand."""
        return max((one.end for one in self.ends), default=0) + self.add

    def latest(self) -> Iterator[tuple[Piece, int]]:
        """The same the other way round: which pieces may start no later than when."""
        for one in self.ends:
            yield one, self.piece.start - self.add - one.minutes


@dataclass(frozen=True, slots=True)
class InTurn:
    """A piece that comes after others only because it did so before: one that has slid behind a
    time away is not waited for by what still fits before that. Given `begun`, it is enough that
    they have begun; given `since`, they hold a place from that piece on, and it is that which has
    to have slid behind."""

    piece: Piece
    ends: Sequence[Piece]
    away: Sequence[int]
    add: int = 0
    begun: bool = False
    since: Piece | None = None

    def least(self) -> int:
        """The minute before which the piece may not start, as the others stand."""
        start = self.piece.start
        leave = next((minute for minute in self.away if minute > start), None)
        there = (one for one in self.ends if leave is None or (self.since or one).start < leave)
        here = (one.start if self.begun else one.end for one in there)
        return max(here, default=-self.add) + self.add

    def latest(self) -> Iterator[tuple[Piece, int]]:
        """The same the other way round: which pieces may start no later than when."""
        for one in self.ends:
            yield one, self.piece.start - self.add - (0 if self.begun else one.minutes)


@dataclass(frozen=True, slots=True)
class Near:
    """A piece that starts no longer than so many minutes before another does."""

    piece: Piece
    then: Piece
    most: int

    def least(self) -> int:
        """The minute before which the piece may not start, as the others stand."""
        return self.then.start - self.most

    def latest(self) -> Iterator[tuple[Piece, int]]:
        """The same the other way round: which pieces may start no later than when."""
        yield self.then, self.piece.start + self.most


@dataclass(frozen=True, slots=True)
class Around:
    """A piece that goes around what takes its hands, or with all that follows it at once (`minutes`
    in all) around when it cannot be."""

    piece: Piece
    taken: Sequence[Span]
    minutes: int

    def least(self) -> int:
        """The minute before which the piece may not start, as the others stand."""
        start = self.piece.start
        for a, b in self.taken:
            if start < b and start + self.minutes > a:
                start = b
        return start

    def latest(self) -> Iterator[tuple[Piece, int]]:
        """The same the other way round: which pieces may start no later than when."""
        start = self.piece.start
        for a, b in reversed(self.taken):
            if start < b and start + self.minutes > a:
                start = a - self.minutes
        yield self.piece, start


Rule = After | InTurn | Near | Around
