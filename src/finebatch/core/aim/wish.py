"""What a baker wants to come out of a dough, and how near is near enough."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval, MaxLen

from finebatch.core.formula.dough import Colour, Doneness
from finebatch.core.values import FromOutside, Range

Sense = Literal["about", "at_most", "at_least"]
Figure = Literal["width", "height", "minutes", "sugar"]
"""What is told of a piece by a figure."""
FIGURES: tuple[Figure, ...] = ("width", "height", "minutes", "sugar")
Free = Literal["egg", "milk", "gluten"]
"""What a dough may be wanted without."""
WITHOUT: Mapping[Free, str] = {"egg": "eggs", "milk": "milk", "gluten": "gluten"}

NEAR: Mapping[Figure, Range] = {
    "width": (1.0, 0.015),
    "height": (0.5, 0.05),
    "minutes": (0.5, 0.05),
    "sugar": (0.5, 0.0),
}
"""How far from a wished figure still meets it: at least so much (mm, min, g in 100 g), and at least
this share of it. A ruler tells half a millimetre either way, and no baker half a minute."""

FOREVER = 1e9
HAIR = 0.02
"""What is wished at most or at least is met to this share of what is near enough."""


@dataclass(frozen=True, slots=True)
class Wished(FromOutside):
    """A figure that is wanted: about so much, at most or at least."""

    NEEDED = ("figure",)

    figure: Annotated[float, Interval(gt=0, le=1000)]
    sense: Sense = "about"


@dataclass(frozen=True, slots=True)
class Aim(FromOutside):
    """What is wanted of a piece and its dough; what is None is left as it comes.

    Lengths in mm. `sugar_pct` is the most sugar in 100 g of the baked piece, `keeps_days` for how
    long it has to keep at least. `from_house`: only of what is in the house.
    """

    width_mm: Wished | None = None
    height_mm: Wished | None = None
    minutes: Wished | None = None
    sugar_pct: Annotated[float, Interval(ge=0, le=100)] | None = None
    keeps_days: Annotated[int, Interval(ge=1, le=365)] | None = None
    doneness: Doneness | None = None
    colour: Colour | None = None
    without: Annotated[tuple[Free, ...], MaxLen(3)] = ()
    from_house: bool = False

    def of(self, figure: Figure) -> Wished | None:
        """What is wished of a figure."""
        if figure == "sugar":
            return None if self.sugar_pct is None else Wished(self.sugar_pct, "at_most")
        return {"width": self.width_mm, "height": self.height_mm, "minutes": self.minutes}[figure]

    @property
    def ranges(self) -> Mapping[Figure, Range]:
        """From and to of each figure that is wished, with what is near enough."""
        wished = {figure: self.of(figure) for figure in FIGURES}
        return {f: range_of(f, wish) for f, wish in wished.items() if wish is not None}


def near(figure: Figure, at: float) -> float:
    """How far from `at` still meets a wish for it."""
    least, share = NEAR[figure]
    return max(least, share * at)


def range_of(figure: Figure, wish: Wished) -> Range:
    """From and to that meet a wish."""
    by = near(figure, wish.figure)
    match wish.sense:
        case "about":
            return wish.figure - by, wish.figure + by
        case "at_most":
            return -FOREVER, wish.figure + HAIR * by
        case "at_least":
            return wish.figure - HAIR * by, FOREVER


def beyond(value: float, wanted: Range) -> float:
    """How far a figure is outside of what is wanted: below zero under it, above over it."""
    low, high = wanted
    return min(value - low, 0.0) or max(value - high, 0.0)
