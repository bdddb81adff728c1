"""Minutes from three sources: the law, the card and own bakes, each a Gaussian in ln of minutes."""

import math
from dataclasses import dataclass
from typing import Literal

MINUTES_LAW_SD, CARD_SD = 0.12, 0.07
"""What the law misses in doughs of other formulas (`make bench`: 12 %), and how surely a card knows
its own minutes: its range, about 12 % either way, holds most bakes."""

APART = 2.0
"""Card and law that part by more than so many standard deviations are not of the same bake."""

MinutesBy = Literal["all", "card", "reckoned"]
"""What a bake's minutes go by: all that is known, the card as it is, or what is reckoned."""


@dataclass(frozen=True, slots=True)
class MinutesKnown:
    """What bakes say of a dough's minutes, in ln of those by the law.

    `shift` of this dough in this kitchen, and the `variance` of what of it is the dough's own;
    `kitchen` is the shift of any dough here, `own` where this dough's bakes alone come to; `timed`
    of them were taken.
    """

    shift: float = 0.0
    variance: float = MINUTES_LAW_SD**2
    kitchen: float = 0.0
    own: float | None = None
    timed: int = 0


@dataclass(frozen=True, slots=True)
class Sources:
    """Minutes by each source, None where it says nothing, and those that are used. `card_share` is
    how much of what is used the card weighs, 0 to 1; `apart` says that card and law part by more
    than both allow."""

    used: float
    law: float
    reckoned: float
    card: float | None
    own: float | None
    timed: int
    card_share: float
    apart: bool


def weigh_minutes(
    law: float, known: MinutesKnown, said: float | None, by: MinutesBy = "all"
) -> Sources:
    """Put together what `law` (min) foresees, what bakes have taught, and what the card says: that
    it takes `said` longer in ln than the law, in the kitchen that it was written in."""
    share = 0.0
    shift = known.shift
    if said is not None and by != "reckoned":
        share = 1.0 if by == "card" else known.variance / (known.variance + CARD_SD**2)
        # A card is tried in this kitchen; as it is, it is taken at its word.
        here = said + (0.0 if by == "card" else known.kitchen)
        shift += share * (here - shift)
    return Sources(
        used=law * math.exp(shift),
        law=law * math.exp(known.kitchen),
        reckoned=law * math.exp(known.shift),
        card=None if said is None else law * math.exp(said),
        own=None if known.own is None else law * math.exp(known.own),
        timed=known.timed,
        card_share=share,
        apart=said is not None and abs(said) > APART * math.hypot(MINUTES_LAW_SD, CARD_SD),
    )
