"""When something is taken: hands, a shelf, a sheet."""

from collections.abc import Sequence

from finebatch.core.plan.work import Span


class Busy:
    """Spans in which something is taken, and whether another fits."""

    def __init__(self, spans: Sequence[Span] = ()) -> None:
        self.spans: list[Span] = list(spans)

    def clash(self, start: int, end: int) -> int | None:
        """The end of a span that (start, end) overlaps; none when it is free."""
        # Asked tens of thousands of times a plan: a plain loop takes half as long.
        latest = None
        for a, b in self.spans:
            if start < b and end > a and (latest is None or b > latest):
                latest = b
        return latest

    def count(self, start: int, end: int) -> int:
        """How many are taken at most at once within (start, end)."""
        inside = [(a, b) for a, b in self.spans if a < end and b > start]
        if len(inside) < 2:
            return len(inside)
        moments = [start, *(a for a, _ in inside if a > start)]
        return max(sum(a <= m < b for a, b in inside) for m in moments)
