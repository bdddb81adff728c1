"""How long a session takes by hand: the methods that the planner is set beside.

Two are plain habits; the strong hand is a clever home baker without a computer: the best of a few
fixed rules, under all the windows.
"""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import replace
from itertools import chain, zip_longest

from finebatch.core.plan.greedy import Greedy
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.network import mixed_for
from finebatch.core.plan.placed import Times
from finebatch.core.plan.schedule import finish_of
from finebatch.core.plan.work import DoughWork, TrayWork, Work


def plain_method(work: Work) -> int:
    """One dough after the other from mixing to rack, one tray in the oven at a time, the next one
    filled while it bakes; its finish in minutes."""
    ovens = tuple(replace(oven, shelves=1) for oven in work.kitchen.ovens)
    greedy = Greedy(replace(work, kitchen=replace(work.kitchen, ovens=ovens)), together=True)
    for dough in work.doughs:
        greedy.dough(dough)
        trays = work.trays_of(dough.letter)
        for tray in trays:
            greedy.mix_for(tray)
            greedy.tray(tray)
        racked = [greedy.jobs[JobKey(tray.name, "rack")].end for tray in trays]
        greedy.not_before = max([greedy.not_before, *racked])
    return finish_of(work, greedy.jobs)


def sensible_method(work: Work) -> int:
    """All doughs mixed first, longest chill first, then the trays in the order in which their
    doughs are ready, one oven temperature after the other, in loads of as many trays as there
    are shelves; its finish in minutes."""
    greedy = Greedy(work, together=True)
    for dough in longest_first(work):
        greedy.dough(dough)

    def ready(dough: DoughWork) -> int:
        made = mixed_for(dough, work.trays_of(dough.letter)[0])
        return 0 if made is None else greedy.workable(dough, made[0])

    in_turn = [
        work.trays_of(dough.letter)
        for dough in sorted(work.doughs, key=lambda d: (ready(d), d.letter))
    ]
    settings = list(dict.fromkeys(trays[0].bakes[0].oven_c for trays in in_turn if trays))
    for oven_c in settings:
        for trays in in_turn:
            if trays and trays[0].bakes[0].oven_c == oven_c:
                for tray in trays:
                    greedy.mix_for(tray)
                    greedy.tray(tray)
    return finish_of(work, greedy.jobs)


Settings = Callable[[Sequence[float]], Sequence[float]]
RULES: tuple[tuple[Settings, bool], ...] = (
    (lambda settings: settings, False),
    (lambda settings: settings, True),
    (sorted, False),
    (lambda settings: sorted(settings, reverse=True), False),
)
"""In which order the oven's settings come, of those in the order in which doughs are ready; and
whether the trays of doughs of one setting take turns."""


def crowded(work: Work) -> bool:
    """Whether there are more doughs than bowls or places in the fridge."""
    mixed = [dough for dough in work.doughs if dough.makes and not dough.from_cold]
    return len(mixed) > min(work.kitchen.bowls, work.kitchen.fridge)


def longest_first(work: Work) -> list[DoughWork]:
    """The doughs of each day after those of the day before, the longest chilled first."""
    return sorted(work.doughs, key=lambda d: (d.begin_from, -d.ready_min, d.letter))


def mix_first(greedy: Greedy, work: Work, from_min: Mapping[str, int]) -> None:
    """Mix all doughs that may wait, the longest chilled first."""
    for dough in longest_first(work):
        if not dough.may_not_wait:
            greedy.not_before = from_min.get(dough.letter, 0)
            greedy.dough(dough)


def baked_whole(greedy: Greedy, dough: DoughWork, *, full: bool) -> bool:
    """Mix and bake a dough in one where it may not wait, or where bowls and fridge are `full`;
    whether it was."""
    if full:
        greedy.in_turn(dough)
    elif dough.may_not_wait:
        greedy.batch(dough)
    return full or dough.may_not_wait


def by_rules(work: Work, later: Mapping[str, int] | None = None) -> Iterator[Times]:
    """The session by each rule of the strong hand: the dough that is chilled longest is mixed
    first, trays go in as their doughs come ready, the oven's settings grouped, every free shelf
    used, the next tray filled while one bakes. Doughs named in `later` are not begun before that
    minute."""
    from_min = later or {}
    tried: set[tuple[tuple[float, ...], bool]] = set()
    for order, in_turns in RULES:
        greedy = Greedy(work)
        full = crowded(work)
        if not full:
            mix_first(greedy, work, from_min)
        doughs = sorted(work.doughs, key=lambda d: (_ready(greedy, work, d), d.letter))
        found = dict.fromkeys(_first_c(work, dough) for dough in doughs)
        settings = tuple(order(tuple(found)))
        if (settings, in_turns) in tried:
            continue
        tried.add((settings, in_turns))
        for oven_c in settings:
            trays = []
            for dough in (d for d in doughs if _first_c(work, d) == oven_c):
                greedy.not_before = from_min.get(dough.letter, 0)
                if not baked_whole(greedy, dough, full=full):
                    trays.append(work.trays_of(dough.letter))
            for tray in _in_turns(trays) if in_turns else chain.from_iterable(trays):
                greedy.not_before = from_min.get(tray.dough, 0)
                greedy.tray(tray)
        greedy.clean()
        yield greedy.times


def _first_c(work: Work, dough: DoughWork) -> float:
    trays = work.trays_of(dough.letter)
    return trays[0].bakes[0].oven_c if trays else 0.0


def _ready(greedy: Greedy, work: Work, dough: DoughWork) -> int:
    """When its first tray can be portioned, once it is mixed; else how long it takes until then."""
    trays = work.trays_of(dough.letter)
    made = mixed_for(dough, trays[0]) if trays else None
    if made is None:
        return 0
    return greedy.workable(dough, made[0]) if made[0] in greedy.jobs else dough.ready_min


def _in_turns(trays: Sequence[Sequence[TrayWork]]) -> Iterator[TrayWork]:
    for row in zip_longest(*trays):
        yield from (tray for tray in row if tray is not None)
