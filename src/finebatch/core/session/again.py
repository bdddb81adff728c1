"""A session that is planned again: what was wished of it, at its next time."""

from collections.abc import Callable, Collection
from dataclasses import dataclass, replace
from typing import Annotated

from annotated_types import Len

from finebatch.core.session.wish import Away, Wish
from finebatch.core.values import FromOutside, Moment, Text


@dataclass(frozen=True, slots=True)
class KeptSession(FromOutside):
    """A session under a name, to be planned again; `at` is when it began (UTC ms)."""

    name: Annotated[Text, Len(1, 120)]
    wish: Wish
    at: Moment


def planned_again(kept: KeptSession, there: Collection[int], moved: Callable[[int], int]) -> Wish:
    """What is wished of it the next time: each of its times `moved`, as it was ready by one, or
    started at one; one that was started at once is again. Doughs that are not `there` are left
    out, and so is what is of its own day alone: jobs and trays that were put by hand."""
    wish = kept.wish
    timed = wish.ready_by is not None or wish.start_at is not None

    def at(moment: int | None) -> int | None:
        return moved(moment) if timed and moment is not None else None

    occasion = wish.occasion
    if occasion is not None:
        free = [replace(f, from_at=moved(f.from_at), to_at=moved(f.to_at)) for f in occasion.free]
        kinds = tuple(kind for kind in occasion.kinds if kind.dough_id in there)
        occasion = replace(occasion, at=moved(occasion.at), free=tuple(free), kinds=kinds)
    return replace(
        wish,
        items=tuple(
            replace(item, bake_from=at(item.bake_from))
            for item in wish.items
            if item.dough_id in there
        ),
        start_at=at(wish.start_at),
        ready_by=at(wish.ready_by),
        away=tuple(Away(moved(a.from_at), moved(a.to_at)) for a in wish.away) if timed else (),
        pins=(),
        shelf_pins=(),
        name=kept.name,
        occasion=occasion if occasion is not None and timed and occasion.kinds else None,
    )
