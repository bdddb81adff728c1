"""Minutes and widths from three sources: the law, the card and own bakes, each a Gaussian in ln."""

import math
from dataclasses import dataclass
from typing import Literal

MINUTES_LAW_SD, CARD_SD = 0.12, 0.07
"""What the law misses in doughs of other formulas (`make bench`: 12 %), and how surely a card knows
its own minutes: its range, about 12 % either way, holds most bakes."""

APART = 2.0
"""Card and law that part by more than so many standard deviations are not of the same bake."""

CARD_WIDTH_SD, LEAST_FLOW = 0.08, 0.15
"""How surely a card knows how wide its pieces bake (“3 inches” is one to the nearest half or so); a
piece that flows less than this share of what dough flows is as wide as it was cut."""

By = Literal["all", "card", "reckoned"]
"""What minutes or widths go by: all that is known, the card as it is, or what is reckoned."""


@dataclass(frozen=True, slots=True)
class SaidWidth:
    """How wide the card says that its own piece bakes (mm), and by how much in ln its dough flows
    farther than the law says, with that one's standard deviation: another piece or oven is reckoned
    from there."""

    mm: float
    shift: float
    sd: float


@dataclass(frozen=True, slots=True)
class OnCard:
    """What the card says of a bake, and how much each of it counts: by how much in ln its `minutes`
    are longer than the law's, and its width."""

    minutes: float | None = None
    minutes_by: By = "all"
    width: SaidWidth | None = None
    width_by: By = "all"


SILENT = OnCard()
"""A card that says nothing of it."""


@dataclass(frozen=True, slots=True)
class WidthSources:
    """Widths (mm) by each source; `card_share` is how much of what is used the card weighs, 0 to 1;
    `apart` says that card and law part by more than both allow."""

    law: float
    reckoned: float
    card: float
    card_share: float
    apart: bool


@dataclass(frozen=True, slots=True)
class Joined:
    """A shift in ln and its variance, once the card is heard, and the card's share of it."""

    shift: float
    variance: float
    card_share: float


def join_width(shift: float, variance: float, said: SaidWidth | None, by: By) -> Joined:
    """Put together what is reckoned of a dough's flow and what its card says."""
    if said is None or by == "reckoned":
        return Joined(shift, variance, 0.0)
    if by == "card":
        return Joined(said.shift, said.sd**2, 1.0)
    share = variance / (variance + said.sd**2)
    return Joined(shift + share * (said.shift - shift), variance * (1 - share), share)


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


def weigh_minutes(law: float, known: MinutesKnown, said: float | None, by: By = "all") -> Sources:
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
