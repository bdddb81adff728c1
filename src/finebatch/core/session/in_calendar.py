"""What a baker's calendar has of a session: each file of it that is given out later mends the same
entries there, and calls off what is not to be done any more."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Annotated

from annotated_types import Ge, Len

from finebatch.core.values import FromOutside, Moment, Text

Spans = Mapping[str, tuple[Moment, Moment]]
"""When jobs begin and end (UTC ms), by key."""


@dataclass(frozen=True, slots=True)
class InCalendar(FromOutside):
    """The session's name for the whole world, which of its plans was given out last (counted from
    0, and when the session had changed, UTC ms), every job that any of them had, and which of those
    the last one has no more."""

    session: Annotated[Text, Len(1, 60)]
    sequence: Annotated[int, Ge(0)] = 0
    changed_at: Moment = 0
    jobs: Spans = field(default_factory=dict)
    gone: tuple[str, ...] = ()

    def given_out(self, jobs: Spans, changed_at: int) -> "InCalendar":
        """What it has when these jobs are given out to it; a file of the same plan changes
        nothing."""
        gone = tuple(key for key in self.jobs if key not in jobs)
        next_one = replace(self, changed_at=changed_at, jobs={**self.jobs, **jobs}, gone=gone)
        if next_one == self or not self.jobs:
            return next_one
        return replace(next_one, sequence=self.sequence + 1)

    @property
    def called_off(self) -> Spans:
        """The jobs that are not to be done any more, with when they would have been."""
        return {key: self.jobs[key] for key in self.gone}
