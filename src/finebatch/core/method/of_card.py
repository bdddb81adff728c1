"""The programme of a card: its own steps typed, those that it leaves out as usual."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from finebatch.core.formula.card_says import says_of
from finebatch.core.formula.dough import Card
from finebatch.core.formula.method import StepTemplate, short_name, usual_steps
from finebatch.core.larder.ingredient import Larder
from finebatch.core.method.programme import MIXES, About, LiesAs, Programme, programme_of
from finebatch.core.method.steps import Habits, TypedStep
from finebatch.core.method.typed import typed_steps

SOFTENED = ("butter", "margarine")
"""Fats that are too hard to cream straight from the fridge, by the beginning of their keys."""


def lies_as(kept: str) -> LiesAs:
    """As what a dough lies in the cold before it is portioned, by what its rest is kept as."""
    return "log" if kept == "log" else "disc" if kept == "disc" else "lump"


@dataclass(frozen=True, slots=True)
class Usual:
    """The usual methods: steps of each way of mixing, and what each kind of step takes."""

    templates: Sequence[StepTemplate]
    habits: Habits


def steps_of(card: Card, usual: Usual, larder: Larder) -> tuple[TypedStep, ...]:
    """The steps of a card, typed. Where it has none, or none that mixes, the usual ones do that."""
    own = typed_steps(card.steps)
    if any(step.kind in MIXES for step in own):
        return own
    mixing = typed_steps(usual_steps(card, usual.templates, larder), "usual")
    return (*mixing, *own)


def _soft_fat(card: Card, larder: Larder) -> str:
    """The fat that has to be soft before it is creamed; nothing where none has."""
    if card.mixing != "creamed":
        return ""
    keys = [line.ingredient for line in card.lines if line.ingredient in larder]
    fat = next((key for key in keys if key and key.startswith(SOFTENED)), None)
    return "" if fat is None else f"the {short_name(larder[fat])}"


def programme_of_card(
    card: Card,
    usual: Usual,
    larder: Larder,
    *,
    kg: float,
    chill_min: int,
    kept_as: LiesAs,
    paces: Mapping[str, float] | None = None,
) -> Programme:
    """What is done for a batch of `kg` kilograms of a card's dough, chilled for so many minutes
    before it is portioned. `paces` are how long this baker takes to get ready, to
    mix and to form, against the usual."""
    about = About(
        card.family,
        kg,
        _soft_fat(card, larder),
        chill_min,
        kept_as,
        frozenset(card.without),
        paces or {},
    )
    made = programme_of(steps_of(card, usual, larder), about, usual.habits)
    return replace(made, bake_within=says_of(card).bake_within_min)
