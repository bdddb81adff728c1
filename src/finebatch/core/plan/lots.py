"""A batter that sinks before all of it is baked is mixed in several lots."""

import math
from collections.abc import Sequence
from dataclasses import replace

from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.network import mixed_for
from finebatch.core.plan.quick import quick_times
from finebatch.core.plan.work import DoughWork, Make, TrayWork, Work


def in_lots(work: Work) -> Work:
    """The work with each batter that is too large for its window mixed in as few lots as keep it.
    Where a tray alone takes longer, its window is what one lot a tray takes (see `overs`)."""
    for dough in work.doughs:
        if dough.bake_within is not None and dough.at_once:
            makes = tuple(once(dough.makes)) if dough.lots > 1 else dough.makes
            wanted = dough.sinks_after or dough.bake_within
            whole = replace(dough, makes=makes, lots=1, bake_within=wanted, sinks_after=None)
            work = _fewest_lots(_split(work, whole, 1), whole)
    return work


def _alone(work: Work, dough: DoughWork, trays: Sequence[TrayWork]) -> Work:
    """That dough alone, with everybody there."""
    everybody = tuple(replace(worker, away=()) for worker in work.kitchen.workers)
    kitchen = replace(work.kitchen, workers=everybody)
    return Work((dough,), tuple(trays), kitchen)


def _fewest_lots(work: Work, dough: DoughWork) -> Work:
    assert dough.bake_within is not None
    trays = work.trays_of(dough.letter)
    alone = _alone(work, dough, trays)
    for lots in range(1, len(trays) + 1):
        waits = _longest_wait(_split(alone, dough, lots))
        if waits <= dough.bake_within:
            return _split(work, dough, lots)
    stretched = replace(dough, bake_within=waits, sinks_after=dough.bake_within)
    return _split(work, stretched, len(trays))


def most_on_a_tray(work: Work, letter: str, within: int) -> int | None:
    """How many pieces a tray of a batter may hold to be in the oven so many minutes after it is
    mixed for that tray alone: really planned so. None where one piece takes too long."""
    whole = work.dough(letter)
    dough = replace(whole, makes=tuple(once(whole.makes)), lots=1, bake_within=None)
    worst = max(work.trays_of(letter), key=lambda tray: tray.portion_min / tray.pieces)
    low, high = 0, max(tray.pieces for tray in work.trays_of(letter))
    while high - low > 1:
        pieces = (low + high) // 2
        minutes = max(math.ceil(worst.portion_min * pieces / worst.pieces), 1)
        tray = replace(worst, pieces=pieces, portion_min=minutes, lot=0)
        if _longest_wait(_alone(work, dough, [tray])) <= within:
            low = pieces
        else:
            high = pieces
    return low or None


def once(makes: Sequence[Make]) -> Sequence[Make]:
    """The jobs of one bowl, where several alike are mixed one after the other."""
    for length in range(1, len(makes) + 1):
        times, rest = divmod(len(makes), length)
        if not rest and tuple(makes) == tuple(makes[:length]) * times:
            return makes[:length]
    return makes


def _split(work: Work, dough: DoughWork, lots: int) -> Work:
    """The work with that dough in so many lots, its trays shared out in order."""
    one = once(dough.makes)
    bowls = -(-len(dough.makes) // len(one) // lots)
    split = replace(dough, makes=tuple(one) * bowls * lots, lots=lots)
    own = [tray.name for tray in work.trays_of(dough.letter)]
    return replace(
        work,
        doughs=tuple(split if d.letter == dough.letter else d for d in work.doughs),
        trays=tuple(
            replace(tray, lot=own.index(tray.name) * lots // len(own))
            if tray.dough == dough.letter
            else tray
            for tray in work.trays
        ),
    )


def _longest_wait(work: Work) -> int:
    """The longest that any tray of its only dough waits between its mixing and the oven."""
    jobs, dough = quick_times(work).jobs, work.doughs[0]
    waits = [0]
    for tray in work.trays:
        made = mixed_for(dough, tray)
        if made is not None:
            waits.append(jobs[JobKey(tray.name, "load")].start - jobs[made[0]].end)
    return max(waits)
