"""From the occasion: for so many people or pieces, in these kinds, by that hour.

Each kind's dough is made as large as its count wants, in whole eggs, and is baked on the day that
its keeping quality asks for: what keeps longest first, what is best fresh last.
"""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval, Len, MaxLen

from finebatch.core.care.keeping import DAY_MS
from finebatch.core.larder.ingredient import Larder
from finebatch.core.larder.measuring import Measuring
from finebatch.core.refusal import Refusal, refuse
from finebatch.core.tray.question import TrayQuestion
from finebatch.core.tray.scaled import LEAST_TIMES, MOST_TIMES
from finebatch.core.values import FromOutside, Id, Moment, Text

EACH = 4.0
"""Pieces for a guest where there are several kinds (household practice: three to five)."""
PLAIN_STEP = 1 / 8
"""In such shares of its card a dough without eggs is made."""
MOST_PIECES, MOST_KINDS, MOST_SPANS = 2000, 12, 20
KEPT_OVER = 1 / 3
"""Where a whole egg's dough gives so much more than was asked for, the rest is kept cold."""
EggUnit = Literal["egg", "white", "yolk"]
EGGS: tuple[tuple[str, EggUnit], ...] = (
    ("egg_whole", "egg"),
    ("egg_white", "white"),
    ("egg_yolk", "yolk"),
)
"""What counts in a dough: its whole eggs, else its whites, else its yolks."""
MOST_LOOKS = 40
MOST_OUTCOMES = 50


@dataclass(frozen=True, slots=True)
class OccasionKind(FromOutside):
    """One kind: so many of its pieces (its share of all, when none is given), of `each_g` or that
    bake `wide_mm` wide where not as its Tray screen has them; `whole_cards` makes its card once or
    several times over, and the pieces as large as gives just so many."""

    dough_id: Id
    pieces: Annotated[int, Interval(ge=1, le=MOST_PIECES)] | None = None
    each_g: Annotated[float, Interval(ge=1, le=5000)] | None = None
    wide_mm: Annotated[float, Interval(ge=5, le=600)] | None = None
    whole_cards: bool = False


@dataclass(frozen=True, slots=True)
class FreeTime(FromOutside):
    """Hours in which the baker can bake (UTC ms)."""

    from_at: Moment
    to_at: Moment


@dataclass(frozen=True, slots=True)
class Occasion(FromOutside):
    """What is to be on the table `at` that hour (UTC ms): `pieces` in all, or `each` for so many
    `people`, in those kinds. It is baked in the `free` hours; without any, from now on."""

    at: Moment
    kinds: Annotated[tuple[OccasionKind, ...], Len(1, MOST_KINDS)]
    pieces: Annotated[int, Interval(ge=1, le=MOST_PIECES)] | None = None
    people: Annotated[int, Interval(ge=1, le=500)] | None = None
    each: Annotated[float, Interval(ge=0.5, le=50)] = EACH
    free: Annotated[tuple[FreeTime, ...], MaxLen(MOST_SPANS)] = ()
    name: Annotated[Text, Len(1, 120)] | None = None


@dataclass(frozen=True, slots=True)
class KindOutcome(FromOutside):
    """How much of a kind was baked for an occasion, and how much was left."""

    dough_id: Id
    baked: Annotated[int, Interval(ge=0, le=MOST_PIECES)]
    left: Annotated[int, Interval(ge=0, le=MOST_PIECES)] = 0

    @property
    def eaten(self) -> int:
        """What was eaten."""
        return max(self.baked - self.left, 0)


@dataclass(frozen=True, slots=True)
class Outcome(FromOutside):
    """What came of an occasion at that time (UTC ms)."""

    at: Moment
    kinds: Annotated[tuple[KindOutcome, ...], MaxLen(MOST_KINDS)]


@dataclass(frozen=True, slots=True)
class KeptOccasion(FromOutside):
    """An occasion that comes again, as it was planned last, and what came of it, latest last."""

    occasion: Occasion
    outcomes: Annotated[tuple[Outcome, ...], MaxLen(MOST_OUTCOMES)] = ()


def as_eaten(kept: KeptOccasion) -> Occasion:
    """The occasion with as many of each kind as were eaten the last time; where none of a kind was
    left perhaps more were wanted, and as many as were baked are."""
    if not kept.outcomes:
        return kept.occasion
    told = list(kept.outcomes[-1].kinds)
    kinds = tuple(_as_told(kind, told) for kind in kept.occasion.kinds)
    given = [kind.pieces for kind in kinds]
    if all(pieces is not None for pieces in given):
        total = sum(pieces or 0 for pieces in given)
        return replace(kept.occasion, kinds=kinds, pieces=total, people=None)
    return replace(kept.occasion, kinds=kinds)


def _as_told(kind: OccasionKind, told: list[KindOutcome]) -> OccasionKind:
    """The kind with as many pieces as were eaten; the same dough may come twice, and what was told
    of it is used once."""
    for number, one in enumerate(told):
        if one.dough_id == kind.dough_id:
            return replace(kind, pieces=max(told.pop(number).eaten, 1))
    return kind


def counts(occasion: Occasion) -> tuple[int, ...]:
    """How many pieces are wanted of each kind: those given, and an equal share of what is left."""
    given = sum(kind.pieces or 0 for kind in occasion.kinds)
    open_kinds = sum(kind.pieces is None for kind in occasion.kinds)
    if occasion.pieces is not None:
        total = occasion.pieces
    elif occasion.people is not None:
        total = math.ceil(occasion.people * occasion.each)
    elif open_kinds:
        raise refuse("pieces", "Say for how many people, or how many pieces in all.")
    else:
        total = given
    left = total - given
    if open_kinds and left < open_kinds:
        already = f"; {given} of them are given already" if given else ""
        raise refuse(
            "kinds",
            f"{total} pieces in all are not enough for these kinds{already}. Ask for more in all, "
            "or for fewer kinds.",
        )
    share = math.ceil(left / open_kinds) if open_kinds else 0
    found = tuple(kind.pieces or share for kind in occasion.kinds)
    if max(found) > MOST_PIECES:
        raise refuse("pieces", f"At most {MOST_PIECES:,} pieces of a kind are planned at once.")
    return found


@dataclass(frozen=True, slots=True)
class Batch:
    """How large a dough is made: so many times its card, with so many eggs (yolks or whites where
    it has no whole ones; None without any), and the pieces that it gives."""

    times: float
    eggs: float | None
    pieces: int


@dataclass(frozen=True, slots=True)
class EggShare:
    """The share of a dough that has one whole egg in it, one white or yolk where it has no whole
    ones."""

    of: EggUnit
    share: float


def egg_share(asked: TrayQuestion, larder: Larder, measuring: Measuring) -> EggShare | None:
    """What counts in a dough; None of one without eggs."""
    for key, unit in EGGS:
        grams = asked.formula_g.get(key, 0.0)
        if grams > 0 and key in larder:
            return EggShare(unit, larder[key].grams(1, unit, measuring) / grams)
    return None


def batch_for(
    wanted: int, gives: Callable[[float], int], egg: float | None, least: float | None
) -> Batch:
    """The smallest dough that gives so many pieces: in whole eggs, each of them `egg` of the card,
    or in shares of `least`. `gives` tells how many pieces a dough of so many times its card makes.

    Raises `Refusal` where no dough of a sensible size does.
    """
    step = least or egg or PLAIN_STEP
    first, last = math.ceil(LEAST_TIMES / step - 1e-9), math.floor(MOST_TIMES / step + 1e-9)
    number = max(math.ceil(wanted / max(gives(1.0), 1) / step - 1e-9), first, 1)
    for _ in range(MOST_LOOKS):
        if number > last:
            break
        pieces = gives(number * step)
        if pieces < wanted:
            number += max(math.floor(number * (wanted - pieces) / (2 * wanted)), 1)
        elif number > max(first, 1) and gives((number - 1) * step) >= wanted:
            number -= 1
        else:
            times = min(max(number * step, LEAST_TIMES), MOST_TIMES)
            return Batch(times, None if egg is None else number * step / egg, pieces)
    raise too_many(wanted)


def too_many(wanted: int) -> Refusal:
    """Nobody makes so much of a dough at once."""
    return refuse(
        "kinds",
        f"{wanted} pieces are more than {MOST_TIMES:.0f} times this dough. Ask for fewer, or for "
        "another kind beside it.",
    )


@dataclass(frozen=True, slots=True)
class ToBake:
    """What decides the day of a kind: how long it keeps once baked (days, the cautious end) and how
    much work it is (minutes)."""

    keeps_days: float
    minutes: float


def days_for(kinds: Sequence[ToBake], free: Sequence[FreeTime], at: int) -> list[int]:
    """For each kind in which of the free hours, in order, it is baked: what keeps shortest in the
    last, the others before by how long they keep, as much work in each as it has room for, and
    nothing sooner than it keeps."""
    lengths = [max(span.to_at - span.from_at, 1) for span in free]
    room, total = sum(lengths), sum(kind.minutes for kind in kinds)
    found, done = [len(free) - 1] * len(kinds), 0.0
    for n in sorted(range(len(kinds)), key=lambda n: (kinds[n].keeps_days, -kinds[n].minutes)):
        # From the last hours backwards, where so much of the work lies after it.
        after, place = done / total * room if total else 0.0, len(free) - 1
        while place > 0 and after >= lengths[place]:
            after -= lengths[place]
            place -= 1
        while place < len(free) - 1 and at - free[place].to_at > kinds[n].keeps_days * DAY_MS:
            place += 1
        found[n] = place
        done += kinds[n].minutes
    return found
