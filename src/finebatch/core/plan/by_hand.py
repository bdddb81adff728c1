"""How long a session takes by hand: the two methods that the planner is set beside."""

from dataclasses import replace

from finebatch.core.plan.greedy import Greedy
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.network import mixed_for
from finebatch.core.plan.schedule import finish_of
from finebatch.core.plan.work import DoughWork, Work


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
    for dough in sorted(work.doughs, key=lambda d: (-d.ready_min, d.letter)):
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
