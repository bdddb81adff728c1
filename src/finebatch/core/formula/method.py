"""The method of a dough: the usual steps of each way of mixing, in the dough's own words."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from finebatch.core.formula.dough import Card, Mixing
from finebatch.core.formula.step import Step
from finebatch.core.larder.ingredient import Ingredient, Larder

GROUPS: Mapping[str, tuple[str, ...]] = {
    "fat": ("fat", "oil", "nut_butter"),
    "sweet": ("sugar", "icing_sugar", "polyol", "syrup"),
    "egg": ("egg",),
    "wet": ("liquid", "flavour"),
    "dry": ("flour", "starch", "grain", "nutmeal", "cocoa", "dry", "leavener", "salt", "spice"),
    "pieces": ("piece", "chip", "melting_candy", "fruit", "filling", "decoration"),
}
"""What goes into the bowl together, by the roles of the ingredients."""

_BRACKETS = re.compile(r"\s*\([^)]*\)")


@dataclass(frozen=True, slots=True, kw_only=True)
class StepTemplate(Step):
    """A usual step. `text` names groups in braces; it is left out when one of `needs` is empty."""

    mixing: Mixing
    needs: tuple[str, ...]


def short_name(ingredient: Ingredient) -> str:
    """An ingredient's name as it stands in a sentence: no brackets, small letters."""
    return _BRACKETS.sub("", ingredient.name).lower()


def _listed(names: Sequence[str]) -> str:
    unique = list(dict.fromkeys(names))
    if len(unique) < 2:
        return "".join(unique)
    return f"{', '.join(unique[:-1])} and {unique[-1]}"


def usual_steps(card: Card, templates: Sequence[StepTemplate], larder: Larder) -> tuple[Step, ...]:
    """The mixing method's steps for this card, naming what it has in them."""
    keys = [line.ingredient for line in card.lines if line.ingredient in larder]
    found = {
        group: _listed([short_name(larder[k]) for k in keys if k and larder[k].role in roles])
        for group, roles in GROUPS.items()
    }
    steps = []
    for template in templates:
        if template.mixing != card.mixing or not all(found[group] for group in template.needs):
            continue
        text = template.text
        if "{sweet}" in text and not found["sweet"]:
            text = text.replace(" with {sweet}", "")
        steps.append(
            Step(
                text.format_map(found),
                template.hands_min,
                template.wait_min,
                template.cue,
                template.caution,
                template.kind,
            )
        )
    return tuple(steps)


def method_of(card: Card, templates: Sequence[StepTemplate], larder: Larder) -> tuple[Step, ...]:
    """The card's own steps, else the usual ones."""
    return card.steps or usual_steps(card, templates, larder)
