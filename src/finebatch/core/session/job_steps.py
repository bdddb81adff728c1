"""Which steps of the method are done in which job: each once, in the order of the card."""

import re
from collections.abc import Iterator, Mapping, Sequence
from itertools import chain, cycle

from finebatch.core.formula.step import Stage
from finebatch.core.method.programme import Programme, Stretch
from finebatch.core.method.steps import LIES, TypedStep
from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.work import DoughWork, TrayWork, Work

Steps = Mapping[JobKey, tuple[TypedStep, ...]]

STAGES: Mapping[JobKind, Stage] = {
    "ready": "get_ready",
    "stand": "get_ready",
    "heat": "get_ready",
    "mix": "mix",
    "wait": "mix",
    "form": "shape",
    "chill": "chill",
    "take": "chill",
    "fetch": "chill",
    "temper": "chill",
    "portion": "make",
    "load": "bake",
    "bake": "bake",
    "turn": "bake",
    "out": "bake",
    "shape": "bake",
    "rest": "after",
    "slice": "after",
    "rack": "after",
    "cool": "after",
    "sheet": "after",
    "wash": "between",
    "clear": "between",
    "part": "finish",
    "finish": "finish",
    "set": "finish",
    "freeze": "keep",
}
"""The part of the work that a job belongs to; what stands on a tray belongs to making it."""


def job_steps(work: Work, programmes: Mapping[str, Programme]) -> Steps:
    """The steps of each job and of each wait, by its key; none for what no step is told of.

    `programmes` are those of the doughs that are mixed in the session, by letter.
    """
    found: dict[JobKey, tuple[TypedStep, ...]] = {}
    for dough in work.doughs:
        programme = programmes.get(dough.letter)
        if programme is None:
            continue
        trays = work.trays_of(dough.letter)
        told = [_on_tray(tray, programme) for tray in trays]
        if not dough.from_cold:
            told.insert(0, _before_trays(dough, programme))
        for key, steps in chain(*told, _lost(dough, trays, programme)):
            found[key] = (*found.get(key, ()), *steps)
    return {key: steps for key, steps in found.items() if steps}


def oven_steps(programmes: Mapping[str, Programme]) -> tuple[TypedStep, ...]:
    """What the cards say of turning the oven on: done when it is first."""
    return tuple(step for programme in programmes.values() for step in programme.heat)


_OF_SCRAPS = re.compile(r"\bre-?roll\b|\b(?:scraps|trimmings)\b", re.IGNORECASE)
"""What is done with scraps is told of the trays that are cut from them."""
_NONE = Stretch("mix", (), 1)
"""A job of which the method says nothing."""


def _hands(stretch: Stretch) -> tuple[TypedStep, ...]:
    """The steps of a stretch that take hands: what only waits is told of the wait."""
    return tuple(s for s in stretch.steps if s.kind not in LIES)


def _waits(stretch: Stretch) -> tuple[TypedStep, ...]:
    return tuple(s for s in stretch.steps if s.kind in LIES)


def _before_trays(
    dough: DoughWork, programme: Programme
) -> Iterator[tuple[JobKey, tuple[TypedStep, ...]]]:
    letter = dough.letter
    for n, stretch in enumerate(programme.ready[: len(dough.before)]):
        yield JobKey(letter, "ready", n), stretch.steps
    mixing = cycle([one for one in programme.makes if one.kind == "mix"] or [_NONE])
    forming = cycle([one for one in programme.makes if one.kind == "form"] or [_NONE])
    for n, (make, key) in enumerate(zip(dough.makes, dough.made, strict=True)):
        stretch = next(mixing) if make.kind == "mix" else next(forming)
        last = n == len(dough.makes) - 1
        cold = JobKey(letter, "chill", 0 if last and make.kind == "form" else key.round + 1)
        there = make.wait_min or (last and make.kind == "form" and dough.chill_min)
        # What does not wait in this session is told with the job before it.
        yield key, _hands(stretch) if there else stretch.steps
        if there:
            yield key.to("wait") if make.kind == "mix" else cold, _waits(stretch)
    yield JobKey(letter, "fetch"), _out(dough, programme)
    if dough.temper_min:
        yield JobKey(letter, "temper"), tuple(s for s in programme.out if s.kind == "temper")
    for n in range(len(dough.parts)):
        yield JobKey(letter, "part", n), programme.part if n == len(dough.parts) - 1 else ()


def _out(dough: DoughWork, programme: Programme) -> tuple[TypedStep, ...]:
    """What is done when it leaves the cold; that it stands only where that is no wait of its
    own."""
    return tuple(s for s in programme.out if s.kind != "temper" or not dough.temper_min)


def _lost(
    dough: DoughWork, trays: Sequence[TrayWork], programme: Programme
) -> Iterator[tuple[JobKey, tuple[TypedStep, ...]]]:
    """What is told in jobs that this session does not have, with the nearest that it has: a card
    may say what to do with a rest of which there is none."""
    last = trays[-1]
    if dough.freeze_min:
        yield JobKey(dough.letter, "freeze"), programme.keep
    elif programme.keep:
        yield JobKey(last.name, "cool"), programme.keep
    for tray in trays:
        if not tray.shape_min:
            yield JobKey(tray.name, "rest", len(tray.bakes) - 1), programme.on_tray("shape")
        if not tray.finish_min:
            yield JobKey(tray.name, "cool"), programme.on_tray("finish")
        if not (tray.finish_min and tray.set_min):
            yield JobKey(tray.name, "cool"), programme.on_tray("set")
        if len(tray.bakes) == 1:
            yield JobKey(tray.name, "rest"), programme.on_tray("slice")
            yield JobKey(tray.name, "bake"), programme.on_tray("bake", 1)
        if not any(bake.turn_after is not None for bake in tray.bakes):
            yield JobKey(tray.name, "bake"), programme.on_tray("turn")
    if not dough.parts:
        yield JobKey(last.name, "cool"), programme.part
    if not dough.fetch_min and not dough.from_cold:
        yield JobKey(trays[0].name, "portion"), _out(dough, programme)


def _on_tray(
    tray: TrayWork, programme: Programme
) -> Iterator[tuple[JobKey, tuple[TypedStep, ...]]]:
    name, last = tray.name, len(tray.bakes) - 1
    stand = programme.stand
    for one in programme.trays:
        steps = tuple(step for step in one.steps if step is not stand)
        if one.job == "portion" and not tray.scraps:
            steps = tuple(s for s in steps if not _OF_SCRAPS.search(s.text)) or steps
        number = one.round if one.job in ("bake", "turn", "out", "rest") else 0
        if one.job == "rest" and not one.round and last and programme.on_tray("slice") == ():
            number = last
        yield JobKey(name, one.job, number), steps
    if stand is not None:
        yield JobKey(name, "stand"), (stand,)
