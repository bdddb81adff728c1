"""How long dough and baked pieces keep, and where."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.formula.dough import Card, Doneness, Family
from finebatch.core.larder.ingredient import Larder
from finebatch.core.refusal import refuse

KeptIn = Literal["fridge", "freezer", "tin"]
RawAs = Literal["dough", "disc", "log", "portions"]
"""In what shape the rest of a dough is put away."""
RawIn = Literal["fridge", "freezer"]
"""Where raw dough keeps."""
KeptAs = Literal["dough", "disc", "log", "portions", "slices", "baked"]
"""In what shape it is kept: a lump, a disc to roll, a log, portioned pieces, slices, baked ones."""
DAY_MS = 24 * 60 * 60 * 1000
SOON_DAYS = 1.5
"""What has less than this left is due soon."""

_BAKED: Mapping[Family, str] = {
    "drop": "baked_drop",
    "rolled": "baked_rolled",
    "shortbread": "baked_shortbread",
    "twice_baked": "baked_twice",
}
_SOFT: frozenset[Doneness] = frozenset({"soft_centre", "chewy"})
_DRY: frozenset[Doneness] = frozenset({"crisp", "dry"})


def _baked_as(family: Family, done: Doneness | None) -> str:
    """The row of what is baked: of a soft piece that is baked crisp, as crisp ones keep, and of a
    crisp one that is baked soft, as soft ones do."""
    if done in _SOFT:
        return _BAKED["drop"]
    return _BAKED["rolled"] if family == "drop" and done in _DRY else _BAKED[family]


@dataclass(frozen=True, slots=True)
class Keeping:
    """How many days something keeps in a place, from and to, and what to mind."""

    key: str
    what: str
    place: KeptIn
    from_days: Annotated[float, Interval(gt=0)]
    to_days: Annotated[float, Interval(gt=0)]
    advice: str


def keeping_key(
    form: KeptAs,
    place: KeptIn,
    family: Family,
    *,
    perishable: bool,
    filled: bool,
    done: Doneness | None = None,
) -> str:
    """The row of the keeping table for something kept; `Refusal` for where it does not keep.

    `perishable` is a dough with egg or dairy, `filled` are pieces with jam or cream; `done` is how
    far they are baked, where that is set.
    """
    if form == "baked":
        if place == "freezer":
            return "baked_frozen"
        if filled:
            if place == "tin":
                raise refuse("place", "Filled pieces spoil in a tin. Keep them in the fridge.")
            return "baked_filled"
        if place == "fridge":
            raise refuse("place", "Baked pieces go soft in the fridge. Use a tin or the freezer.")
        return _baked_as(family, done)
    if place == "tin":
        raise refuse("place", "Raw dough keeps in the fridge or the freezer only.")
    if place == "freezer":
        return "dough_frozen"
    return "dough_egg" if perishable else "dough_plain"


def is_perishable(card: Card, larder: Larder) -> bool:
    """Whether there is egg or dairy other than butter in a dough."""
    keys = [line.ingredient for line in card.lines if line.ingredient is not None]
    found = [larder[key] for key in keys if key in larder]
    return any(i.role == "egg" or ("milk" in i.allergens and i.role != "fat") for i in found)


def is_filled(card: Card) -> bool:
    """Whether there is a filling in its pieces."""
    return any(part.kind == "filling" for part in card.parts)


def keeping_of(
    card: Card, larder: Larder, form: KeptAs, place: KeptIn, done: Doneness | None = None
) -> str:
    """The row of the keeping table for what is made of a card and baked so far; `Refusal` for where
    it does not keep."""
    perishable, filled = is_perishable(card, larder), is_filled(card)
    return keeping_key(form, place, card.family, perishable=perishable, filled=filled, done=done)


def use_by(since: int, keeping: Keeping, best_by: int | None = None) -> int:
    """Until when it may be used (UTC ms), the cautious end of its days: never later than it
    already was due (`best_by`), unless it was frozen and so stopped ageing."""
    by = since + round(keeping.from_days * DAY_MS)
    if best_by is None or keeping.place == "freezer":
        return by
    return min(by, best_by)


def thawed_use_by(frozen_at: int, due_before: int, now: int, keeping: Keeping) -> int:
    """Until when something out of the freezer may be used: what was left when it went in, and at
    most the days of its new place."""
    left = max(due_before - frozen_at, 0)
    return now + min(left, round(keeping.from_days * DAY_MS))
