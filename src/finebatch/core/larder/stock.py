"""What is in the house: packs of an ingredient, what is taken of which, what is to be bought."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated

from annotated_types import Interval, Len

from finebatch.core.larder.ingredient import Larder
from finebatch.core.values import FromOutside, Moment, Text

MOST_G = 100_000.0
SMALL_SHARE = 0.02
"""What is less than this share of a dough (salt, leaveners, spices) is taken as being there."""
BROUGHT_ROUND_G = 0.5
"""So little is not bought."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Pack(FromOutside):
    """So much of an ingredient (g), bought in packs of `pack_g` at a `price` each (in the baker's
    own money), to be used by a day (UTC ms)."""

    ingredient: Annotated[Text, Len(1, 60)]
    grams: Annotated[float, Interval(ge=0, le=MOST_G)]
    pack_g: Annotated[float, Interval(gt=0, le=MOST_G)] | None = None
    price: Annotated[float, Interval(ge=0, le=100_000)] | None = None
    use_by: Moment | None = None


@dataclass(frozen=True, slots=True)
class Taken:
    """So much of one of the packs, by its place."""

    place: int
    grams: float


def _soonest_due(packs: Sequence[Pack]) -> list[int]:
    """The places of packs in the order in which they are used: what has to be used first, first."""
    return sorted(
        range(len(packs)), key=lambda n: (packs[n].use_by is None, packs[n].use_by or 0, n)
    )


def take(packs: Sequence[Pack], grams: float) -> list[Taken]:
    """From which packs of an ingredient so much is taken; no more than there is."""
    found = []
    for place in _soonest_due(packs):
        some = min(packs[place].grams, grams)
        if some > 0:
            found.append(Taken(place, some))
            grams -= some
    return found


def good_at(packs: Sequence[Pack], at: int) -> list[Pack]:
    """Those that may still be used at that moment (UTC ms)."""
    return [pack for pack in packs if pack.use_by is None or pack.use_by >= at]


@dataclass(frozen=True, slots=True)
class ToBuy:
    """What is needed of an ingredient beside what is there (g), in how many packs of how much where
    its packs are known, and what those cost; what all that is needed costs, by the mass."""

    there_g: float
    buy_g: float
    packs: int | None = None
    pack_g: float | None = None
    price: float | None = None
    cost: float | None = None


def to_buy(needed_g: float, packs: Sequence[Pack], at: int) -> ToBuy:
    """What is to be bought so that so much is there at that moment (UTC ms)."""
    there = sum(pack.grams for pack in good_at(packs, at))
    short = max(needed_g - there, 0.0)
    buy = short if short > BROUGHT_ROUND_G else 0.0
    known = next((pack for pack in reversed(packs) if pack.pack_g), None)
    number = price = None
    if known is not None and known.pack_g:
        number = math.ceil(buy / known.pack_g - 1e-9)
        price = None if known.price is None else number * known.price
    each = price_per_g(packs)
    return ToBuy(
        min(there, needed_g),
        buy,
        number,
        known.pack_g if known else None,
        price,
        None if each is None else each * needed_g,
    )


def price_per_g(packs: Sequence[Pack]) -> float | None:
    """What a gram costs, by the latest pack with a price; None where none has one."""
    known = next((p for p in reversed(packs) if p.price is not None and p.pack_g), None)
    return None if known is None or not known.pack_g else (known.price or 0.0) / known.pack_g


@dataclass(frozen=True, slots=True)
class Makes:
    """How often a dough can be made of what is there, and what is short for once, in g by
    ingredient."""

    times: float
    short: Mapping[str, float]


def makes_of(formula_g: Mapping[str, float], there_g: Mapping[str, float], larder: Larder) -> Makes:
    """How often a dough can be made; water and what is small in it are taken as being there."""
    total = sum(formula_g.values())
    wanted = {
        key: grams
        for key, grams in formula_g.items()
        if grams > total * SMALL_SHARE and not _from_the_tap(key, larder)
    }
    times = min((there_g.get(key, 0.0) / grams for key, grams in wanted.items()), default=0.0)
    short = {
        key: grams - there_g.get(key, 0.0)
        for key, grams in wanted.items()
        if there_g.get(key, 0.0) < grams - BROUGHT_ROUND_G
    }
    return Makes(times, short)


def _from_the_tap(key: str, larder: Larder) -> bool:
    known = larder.known(key)
    return known is not None and known.water_pct > 99
