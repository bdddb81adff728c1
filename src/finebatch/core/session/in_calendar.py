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
    0, and when the session had changed, UTC ms), and every job that any of them had."""

    session: Annotated[Text, Len(1, 60)]
    sequence: Annotated[int, Ge(0)] = 0
    changed_at: Moment = 0
    jobs: Spans = field(default_factory=dict)

    def given_out(self, jobs: Spans, changed_at: int) -> "InCalendar":
        """What it has when these jobs are given out to it; a file of the same plan changes
        nothing."""
        if not self.jobs:
            return replace(self, changed_at=changed_at, jobs=dict(jobs))
        if changed_at == self.changed_at:
            return self
        return InCalendar(self.session, self.sequence + 1, changed_at, {**self.jobs, **jobs})

    def called_off(self, jobs: Spans) -> Spans:
        """The jobs that it has and that are not among these, with when they would have been."""
        return {key: span for key, span in self.jobs.items() if key not in jobs}
