"""What is not changed by steps: swaps, how far it is baked, how it is mixed, rested and laid."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import islice

from finebatch.core.aim.trial import Dough
from finebatch.core.aim.wish import WITHOUT, Aim, Free
from finebatch.core.care.cautions import MAY_HOLD
from finebatch.core.care.keeping import Keeping, KeptIn, is_filled, keeping_of
from finebatch.core.formula.dough import MOST_LINES, Doneness, Mixing
from finebatch.core.formula.swaps import Offer, Swap, offers
from finebatch.core.heat.minutes import DONE_AT_C, USUAL_DONENESS
from finebatch.core.larder.ingredient import Ingredient
from finebatch.core.larder.stock import makes_of
from finebatch.core.piece.effects import FREEZER_C, Surface

BRINGS: Mapping[Free, frozenset[str]] = {
    "egg": frozenset({"eggs"}),
    "milk": frozenset({"milk"}),
    "gluten": frozenset({"wheat", "gluten"}),
}
"""Which of the larder's allergens a dough without it has none of."""
MOST_LEAVES, MOST_BRANCHES, MOST_SWAPS = 4, 2, 8
"""Of the ways to make all swaps that are needed so many are looked at, two for each line."""
NOTHING_THERE = (
    "Nothing is written down of what is in the house. Add its packs in the larder, "
    "or leave that out."
)
MOST_OFFERS = 40
"""So many swaps of one thing are looked at: more than any household card has."""
LEFT_OUT = frozenset({"piece", "chip", "fruit", "melting_candy", "decoration"})
"""What may be left out of a dough that is wanted without it, and is still that dough."""
LAID_ON: tuple[Surface, ...] = ("parchment", "silicone")
MIXED: tuple[Mixing, ...] = ("creamed", "melted")


@dataclass(frozen=True, slots=True)
class Facts:
    """What the search knows beside the dough: swaps, how long things keep, and what is in the
    house of each ingredient (g); None where nothing of it is written down."""

    swaps: Sequence[Swap]
    keepings: Mapping[str, Keeping]
    there_g: Mapping[str, float] | None = None


@dataclass(frozen=True, slots=True)
class Begun:
    """The doughs that an answer is looked for from, and what nothing can be done about."""

    doughs: tuple[Dough, ...]
    lacks: tuple[str, ...]


def keeps_days(dough: Dough, keepings: Mapping[str, Keeping]) -> float:
    """How long its baked pieces keep at least, in a tin or, filled, in the fridge."""
    place: KeptIn = "fridge" if is_filled(dough.card) else "tin"
    done = dough.asked.setting.doneness
    return keepings[keeping_of(dough.card, dough.larder, "baked", place, done)].from_days


def _brings(ingredient: Ingredient | None, free: Sequence[Free]) -> bool:
    if ingredient is None:
        return False
    unwanted = frozenset().union(*(BRINGS[f] for f in free)) if free else frozenset()
    return bool(unwanted & set(ingredient.allergens))


def _fitting(dough: Dough, aim: Aim, facts: Facts) -> list[Offer]:
    """The swaps of one line that bring nothing unwanted, nothing that is not in the house where
    only that counts, and no more lines than a card has."""
    house = aim.from_house and facts.there_g is not None
    found = []
    for offer in offers(dough.card, dough.weighed, facts.swaps, dough.larder):
        given = [key for key, _ in offer.swap.gives]
        if offer.line is None or len(offer.card.lines) > MOST_LINES:
            continue
        if any(_brings(dough.larder.known(key), aim.without) for key in given):
            continue
        if not house or not any(_missing(key, dough, facts) for key in given):
            found.append(offer)
    return found


def _offers(dough: Dough, aim: Aim, facts: Facts, key: str) -> list[Offer]:
    """The fitting swaps of an ingredient, those last that may hold something by their label."""
    of_it = [
        offer
        for offer in _fitting(dough, aim, facts)
        if offer.line is not None and dough.card.lines[offer.line].ingredient == key
    ]
    return sorted(of_it, key=lambda o: any(_may(k, dough) for k, _ in o.swap.gives))


def _may(key: str, dough: Dough) -> bool:
    known = dough.larder.known(key)
    return known is not None and any(a.startswith(MAY_HOLD) for a in known.allergens)


def _missing(key: str, dough: Dough, facts: Facts) -> bool:
    there = facts.there_g or {}
    needed = {key: 100.0}
    return bool(makes_of(needed, there, dough.larder).short) and there.get(key, 0.0) <= 0


def _unwanted(dough: Dough, aim: Aim, facts: Facts) -> list[str]:
    """The dough's ingredients that have to go: for what they bring, or as the house has none."""
    grams = dough.weighed.known_g()
    found = [key for key in grams if _brings(dough.larder.known(key), aim.without)]
    if aim.from_house and facts.there_g is not None:
        short = makes_of(grams, facts.there_g, dough.larder).short
        found += [k for k in short if facts.there_g.get(k, 0.0) <= 0 and k not in found]
    return found


def _leaves(dough: Dough, aim: Aim, facts: Facts, stuck: set[str], left: int) -> Iterator[Dough]:
    """The doughs with every unwanted ingredient swapped; what nothing takes the place of is told
    in `stuck`, and stays."""
    todo = [key for key in _unwanted(dough, aim, facts) if key not in stuck]
    if not todo or left == 0:
        yield dough
        return
    ways = _offers(dough, aim, facts, todo[0])
    if not ways and dough.larder[todo[0]].role in LEFT_OUT:
        lines = tuple(line for line in dough.card.lines if line.ingredient != todo[0])
        without = dough.with_card(replace(dough.card, lines=lines))
        yield from _leaves(without, aim, facts, stuck, left - 1)
        return
    if not ways:
        stuck.add(todo[0])
        yield from _leaves(dough, aim, facts, stuck, left)
        return
    for offer in ways[:MOST_BRANCHES]:
        swapped = dough.with_card(offer.card, offer.swap.note, offer.swap.caution, offer.said)
        yield from _leaves(swapped, aim, facts, stuck, left - 1)


def _parts(dough: Dough, free: Sequence[Free]) -> Iterator[str]:
    """What in the parts beside the dough brings what is not wanted."""
    for part in dough.card.parts:
        for line in part.lines:
            known = dough.larder.known(line.ingredient)
            for one in free:
                if known is not None and _brings(known, (one,)):
                    yield (
                        f"{known.name} in “{part.name}” brings {WITHOUT[one]}: change that part, "
                        "or leave it out."
                    )


def _stuck_words(dough: Dough, stuck: set[str], aim: Aim) -> Iterator[str]:
    for key in sorted(stuck):
        name = dough.larder[key].name
        wants = [WITHOUT[f] for f in aim.without if _brings(dough.larder[key], (f,))]
        if wants:
            yield f"{name} brings {' and '.join(wants)}; nothing known here takes its place."
        else:
            yield f"There is no {name} in the house, and nothing in the house takes its place."


def _done(dough: Dough, aim: Aim, facts: Facts) -> tuple[list[Dough], list[str]]:
    """The dough baked as far as is wished; where it has to keep longer than it does, as far as
    that takes."""
    setting = dough.asked.setting
    if aim.colour:
        setting = replace(setting, colour=aim.colour)
    usual = setting.doneness or USUAL_DONENESS[dough.family]
    steps = list(DONE_AT_C)
    if aim.doneness:
        ways: list[Doneness | None] = [aim.doneness if aim.doneness != usual else setting.doneness]
    else:
        others = sorted(steps, key=lambda d: abs(steps.index(d) - steps.index(usual)))
        ways = [setting.doneness, *(d for d in others if d != usual)]
    doughs = [dough.baked(replace(setting, doneness=done)) for done in ways]
    if aim.keeps_days is None:
        return doughs[:1], []
    keeping = [d for d in doughs if keeps_days(d, facts.keepings) >= aim.keeps_days]
    if keeping:
        return keeping[:1], []
    longest = max(doughs, key=lambda d: keeps_days(d, facts.keepings))
    days = keeps_days(longest, facts.keepings)
    return [doughs[0]], [
        f"However it is baked, it keeps {days:g} days at most: freeze it to keep it longer."
    ]


def begin(dough: Dough, aim: Aim, facts: Facts) -> Begun:
    """The dough as is wished of what is not a matter of steps."""
    stuck: set[str] = set()
    leaves = list(islice(_leaves(dough, aim, facts, stuck, MOST_SWAPS), MOST_LEAVES))
    lacks = [NOTHING_THERE] if aim.from_house and facts.there_g is None else []
    lacks += [*_stuck_words(dough, stuck, aim), *_parts(dough, aim.without)]
    found = []
    for leaf in leaves:
        baked, said = _done(leaf, aim, facts)
        found += baked
        lacks += [words for words in said if words not in lacks]
    return Begun(tuple(found), tuple(lacks))


def others(dough: Dough, aim: Aim, facts: Facts) -> Iterator[Dough]:
    """The dough with one thing changed that is not changed by steps: another way to mix, to rest
    and to lay it, from the freezer, or a swap."""
    setting = dough.asked.setting
    for surface in LAID_ON:
        if surface != setting.surface:
            yield dough.baked(replace(setting, surface=surface))
    if not setting.rested:
        yield dough.baked(replace(setting, rested=True))
    if setting.dough_temp_c > FREEZER_C:
        yield dough.baked(replace(setting, dough_temp_c=FREEZER_C))
    for mixing in MIXED:
        if mixing != dough.card.mixing and dough.card.mixing in MIXED:
            yield dough.with_card(replace(dough.card, mixing=mixing))
    for offer in _fitting(dough, aim, facts)[:MOST_OFFERS]:
        yield dough.with_card(offer.card, offer.swap.note, offer.swap.caution, offer.said)
