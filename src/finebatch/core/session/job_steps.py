"""Which steps of the method are done in which job: each once, in the order of the card."""

import re
from collections.abc import Iterator, Mapping
from itertools import cycle

from finebatch.core.formula.step import Stage
from finebatch.core.method.programme import COLD, Programme, Stretch
from finebatch.core.method.steps import TypedStep
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
        if not dough.from_cold:
            found |= dict(_before_trays(dough, programme))
        for tray in work.trays_of(dough.letter):
            found |= dict(_on_tray(tray, programme))
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
    return tuple(s for s in stretch.steps if s.kind not in COLD and s.kind != "rest_bench")


def _waits(stretch: Stretch) -> tuple[TypedStep, ...]:
    return tuple(s for s in stretch.steps if s.kind in COLD or s.kind == "rest_bench")


def _before_trays(
    dough: DoughWork, programme: Programme
) -> Iterator[tuple[JobKey, tuple[TypedStep, ...]]]:
    letter = dough.letter
    for n, stretch in enumerate(programme.ready[: len(dough.before)]):
        yield JobKey(letter, "ready", n), stretch.steps
    mixing = cycle([one for one in programme.makes if one.kind == "mix"] or [_NONE])
    forming = iter([one for one in programme.makes if one.kind == "form"])
    for n, (make, key) in enumerate(zip(dough.makes, dough.made, strict=True)):
        stretch = next(mixing) if make.kind == "mix" else next(forming, _NONE)
        yield key, _hands(stretch)
        if make.kind == "mix":
            yield key.to("wait"), _waits(stretch)
        elif n < len(dough.makes) - 1:
            yield JobKey(letter, "chill", key.round + 1), _waits(stretch)
        else:
            yield JobKey(letter, "chill"), _waits(stretch)
    out = tuple(step for step in programme.out if step.kind != "temper")
    yield JobKey(letter, "fetch"), out
    yield JobKey(letter, "temper"), tuple(s for s in programme.out if s.kind == "temper")
    for n in range(len(dough.parts)):
        yield JobKey(letter, "part", n), programme.part if n == len(dough.parts) - 1 else ()


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
