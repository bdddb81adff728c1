"""What would help: the session really planned again with one thing changed."""

from dataclasses import dataclass, replace
from typing import Literal

from finebatch.core.heat.minutes import TWO_SHELVES_FACTOR
from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.prepare import bake_of, mixed_before
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.schedule import times_of
from finebatch.core.plan.shift import shift_plan
from finebatch.core.plan.work import Oven, TrayWork, Work, Worker
from finebatch.core.refusal import Refusal

HelpKind = Literal["sheet", "shelf", "helper", "evening", "order"]
AT_HAND: tuple[HelpKind, ...] = ("sheet", "shelf", "helper")


@dataclass(frozen=True, slots=True)
class Idea:
    """One thing to change. `letter` is the dough that is mixed the evening before; `first_c` the
    oven's setting to begin with."""

    what: HelpKind
    letter: str | None = None
    first_c: int | None = None


@dataclass(frozen=True, slots=True)
class Help:
    """What an idea brings: the minutes that it saves (none or fewer: it does not help). It is not
    known where no plan was found with it."""

    idea: Idea
    saves_min: int | None


def ideas(work: Work) -> tuple[Idea, ...]:
    """What may be tried for this session, the plainest first."""
    found = [Idea("sheet"), Idea("shelf"), Idea("helper")]
    waits = [dough for dough in work.doughs if dough.makes and dough.chill_min]
    if waits:
        longest = max(waits, key=lambda d: (d.ready_min, d.letter))
        found.append(Idea("evening", letter=longest.letter))
    settings = work.settings_c
    if len(settings) > 1 and work.first_c is None:
        found += [Idea("order", first_c=settings[0]), Idea("order", first_c=settings[-1])]
    return tuple(found)


def changed(work: Work, idea: Idea) -> Work:
    """The work with that thing changed."""
    k = work.kitchen
    match idea.what:
        case "sheet":
            return replace(work, kitchen=replace(k, sheets=k.sheets + 1))
        case "shelf":
            first: Oven = replace(k.ovens[0], shelves=k.ovens[0].shelves + 1)
            trays = tuple(map(_two_at_once, work.trays)) if first.shelves == 2 else work.trays
            kitchen = replace(k, ovens=(first, *k.ovens[1:]))
            return replace(work, trays=trays, kitchen=kitchen)
        case "helper":
            return replace(work, kitchen=replace(k, workers=(*k.workers, Worker("a helper"))))
        case "evening":
            return mixed_before(work, idea.letter or "")
        case "order":
            return replace(work, first_c=idea.first_c)


def _two_at_once(tray: TrayWork) -> TrayWork:
    """A tray that is baked beside another: its first bake takes longer, and is turned later."""
    bake, *others = tray.bakes
    longer = bake_of(
        bake.minutes * TWO_SHELVES_FACTOR, bake.oven_c, turns=bake.turn_after is not None
    )
    return replace(tray, bakes=(replace(longer, extra=bake.extra), *others))


def try_idea(work: Work, idea: Idea, at_hand: Plan, seconds: float) -> Help:
    """Plan the session again with the idea, from the plan at hand where that stays as it is: more
    of anything is never worse. How much sooner it is ready."""
    from finebatch.core.plan.solver import best_plan  # it takes time to load

    soonest = replace(changed(work, idea), ready_by=None)
    try:
        whole = _soonest(work, at_hand, seconds)
        plan = best_plan(soonest, seconds, begin=times_of(whole.activities))
    except Refusal:
        return Help(idea, None)
    return Help(idea, whole.finish - plan.finish)


def _soonest(work: Work, at_hand: Plan, seconds: float) -> Plan:
    """The plan at hand, begun at once: one that was to be ready by some time begins later than it
    has to. Where somebody is away by then, it is planned again."""
    if work.ready_by is None:
        return at_hand
    from finebatch.core.plan.solver import best_plan  # it takes time to load

    sooner, at_once = shift_plan(at_hand, -at_hand.begin), replace(work, ready_by=None)
    if not find_faults(sooner, at_once):
        return sooner
    return best_plan(at_once, seconds, begin=times_of(at_hand.activities))


@dataclass(frozen=True, slots=True)
class Remedy:
    """What keeps every window of a session that has no such plan: one thing more, or so many trays
    of a dough fewer. It was found by really planning it."""

    what: HelpKind | None
    letter: str | None = None
    fewer: int = 0


def remedy(work: Work, letter: str | None, seconds: float) -> Remedy | None:
    """What would do, the least first; none where nothing that was tried does. `letter` is the
    dough that waits for too long."""
    for what in AT_HAND:
        if _has_a_plan(changed(work, Idea(what)), seconds):
            return Remedy(what)
    trays = work.trays_of(letter) if letter else ()
    for fewer in range(1, len(trays)):
        left_out = {tray.name for tray in trays[-fewer:]}
        rest = tuple(tray for tray in work.trays if tray.name not in left_out)
        if _has_a_plan(replace(work, trays=rest), seconds):
            return Remedy(None, letter, fewer)
    return None


def _has_a_plan(work: Work, seconds: float) -> bool:
    """Whether any plan of it keeps every window."""
    from finebatch.core.plan.solver import best_plan  # it takes time to load

    work = replace(work, ready_by=None, pins=())
    if not find_faults(quick_plan(work), work):
        return True
    try:
        best_plan(work, seconds)
    except Refusal:
        return False
    return True
