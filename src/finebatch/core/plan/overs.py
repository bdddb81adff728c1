"""Windows that a plan does not keep, by how much, and how few pieces on a tray would keep them."""

from collections.abc import Iterator
from dataclasses import dataclass

from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.lots import most_on_a_tray
from finebatch.core.plan.network import Link, mixed_for, network
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.work import Work


@dataclass(frozen=True, slots=True)
class Over:
    """A link between two jobs of which the second begins `wait` minutes after the first has ended,
    longer than it may.

    `fewer` are the pieces on a tray with which it was found to be kept, where fewer would do.
    """

    link: Link
    wait: int
    fewer: int | None = None

    @property
    def after(self) -> JobKey:
        """The job that is waited with."""
        return self.link.after

    @property
    def most(self) -> int:
        """The most minutes that would do."""
        return self.link.most or 0

    @property
    def minutes(self) -> int:
        """Minutes over its window."""
        return self.wait - self.most


def find_overs(work: Work, plan: Plan) -> tuple[Over, ...]:
    """What of a plan waits for too long, the worst first; none of what is kept."""
    at = {a.id: a for a in plan.activities}
    found = [
        Over(link, at[link.after].start - at[link.before].end)
        for link in network(work).links
        if link.most is not None and {link.before, link.after} <= at.keys()
    ]
    found += _sunk(work, plan)
    return tuple(sorted((over for over in found if over.minutes > 0), key=lambda o: -o.minutes))


def _sunk(work: Work, plan: Plan) -> Iterator[Over]:
    """Trays that take so long to fill that their batter sinks though it is mixed for them alone."""
    at = {a.id: a for a in plan.activities}
    for dough in work.doughs:
        if dough.sinks_after is None:
            continue
        trays = work.trays_of(dough.letter)
        worst = max(trays, key=lambda tray: tray.portion_min)
        made, load = mixed_for(dough, worst), JobKey(worst.name, "load")
        if made is None or load not in at or made[0] not in at:
            continue
        wait = at[load].start - at[made[0]].end
        fewer = most_on_a_tray(work, dough.letter, dough.sinks_after)
        yield Over(Link(made[0], load, 0, dough.sinks_after), wait, fewer)
