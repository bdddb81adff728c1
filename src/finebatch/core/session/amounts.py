"""How much goes in with a step of the method: the ingredients that it names, each where it is named
first."""

import re
from collections.abc import Iterable, Mapping
from functools import lru_cache

from finebatch.core.formula.method import short_name
from finebatch.core.larder.ingredient import Larder
from finebatch.core.method.steps import TypedStep

Amounts = Mapping[tuple[int | None, str], tuple[tuple[str, float], ...]]
"""By line of the card and words of a step, what it names: name and grams."""

_SAYS_LITTLE = frozenset(
    {"powder", "extract", "tartar", "ammonia", "chips", "bits", "pieces", "seeds", "seed", "zest"}
)
"""Last words of a name that do not tell what it is."""
_AS_SAID: Mapping[str, str] = {
    "whole egg": r"eggs?(?! (?:whites?|yolks?|wash))",
    "egg yolk": r"yolks?",
    "egg white": r"egg whites?|whites",
    "baking soda": r"(?:baking |bicarbonate of )?soda|bicarb\w*",
    "baking powder": r"baking powder",
    "citrus zest": r"zests?",
    "sesame seeds": r"sesame(?: seeds?)?",
}


@lru_cache(maxsize=512)
def _pattern(name: str) -> re.Pattern[str]:
    """By what words a step names an ingredient."""
    said = _AS_SAID.get(name)
    if said is None:
        words = name.split()
        word = words[-2] if len(words) > 1 and words[-1] in _SAYS_LITTLE else words[-1]
        said = rf"{re.escape(word.removesuffix('s'))}s?"
    return re.compile(rf"\b(?:{said})\b", re.IGNORECASE)


def _own_word(name: str) -> str:
    """The word that tells it from others of its kind: brown of brown sugar."""
    words = name.split()
    return words[-2] if len(words) > 1 else ""


def amounts_of(
    steps: Iterable[TypedStep], formula_g: Mapping[str, float], larder: Larder
) -> Amounts:
    """What goes in with each of those steps, in their order, of a dough of so many grams of each
    ingredient."""
    left = {
        short_name(larder[key]): grams
        for key, grams in formula_g.items()
        if key in larder and grams > 0
    }
    found = {}
    for step in steps:
        named = [name for name in left if _pattern(name).search(step.text)]
        # "Brown sugar" is no white one.
        told = step.text.casefold().split()
        sure = {_pattern(name).pattern for name in named if _own_word(name) in told}
        named = [n for n in named if _pattern(n).pattern not in sure or _own_word(n) in told]
        if named:
            found[step.card_step, step.text] = tuple((name, left.pop(name)) for name in named)
    return found
