"""A programme told step by step, with the minutes that the plan counts for each."""

from collections.abc import Iterator
from dataclasses import dataclass

from finebatch.core.formula.step import Per, Stage, StepKind, Where
from finebatch.core.method.programme import Programme
from finebatch.core.method.steps import Habits, Origin, TypedStep


@dataclass(frozen=True, slots=True)
class ToldStep:
    """One step as the plan counts it: minutes of hands on all of the dough, or on a tray, or
    seconds on each piece; minutes of waiting, least and most.

    `card_step` is the line of the card's method, from 1; none for a step of the usual method or a
    habit of the kitchen. `by_card` says that its minutes are the card's, not the usual ones,
    `each_by_card` the same of its seconds.
    """

    kind: StepKind
    label: str
    stage: Stage
    text: str
    cue: str
    caution: str
    hands_min: float
    each_s: float
    wait_min: float
    wait_most_min: float | None
    per: Per
    where: Where
    origin: Origin
    card_step: int | None
    by_card: bool
    each_by_card: bool


def told_steps(programme: Programme, habits: Habits, kg: float) -> tuple[ToldStep, ...]:
    """All steps in the order in which they are done, for a batch of so many kilograms."""
    return tuple(_told(step, habits, kg) for step in _in_order(programme))


def _in_order(programme: Programme) -> Iterator[TypedStep]:
    for stretch in (*programme.ready, *programme.makes):
        yield from stretch.steps
    yield from programme.out
    yield from programme.heat
    for one in programme.trays:
        if one.job not in ("finish", "set"):
            yield from one.steps
    yield from programme.part
    for one in programme.trays:
        if one.job in ("finish", "set"):
            yield from one.steps
    yield from programme.keep


def _told(step: TypedStep, habits: Habits, kg: float) -> ToldStep:
    usual = habits[step.kind]
    return ToldStep(
        step.kind,
        usual.label,
        usual.stage,
        step.text,
        step.cue,
        step.caution,
        round(usual.hands_for(kg) if step.hands_min is None else step.hands_min, 1),
        usual.each_s if step.each_s is None else step.each_s,
        step.wait_min,
        step.wait_most_min,
        step.per or usual.per,
        step.where or usual.where,
        step.origin,
        step.card_step,
        step.hands_min is not None or step.wait_min > 0,
        step.each_s is not None,
    )


def minutes_before_trays(programme: Programme) -> int:
    """Minutes from the first thing that is got ready to a dough that can be portioned."""
    ready = max((one.hands_min + one.wait_min for one in programme.ready), default=0)
    made = sum(one.hands_min + one.wait_min for one in programme.makes)
    return round(ready + made + programme.temper_min)
