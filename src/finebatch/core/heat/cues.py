"""By what a baker sees that a tray is done: for each family and wanted doneness."""

from dataclasses import dataclass, replace
from typing import Annotated

from annotated_types import Interval

from finebatch.core.formula.dough import Colour, Doneness, Family
from finebatch.core.heat.colour import STEPS


@dataclass(frozen=True, slots=True)
class Cues:
    """What edges, top and underside look like, how it feels and smells.

    `colour_from` and `colour_to` are steps of the colour strip, counted from 1.
    """

    family: Family
    doneness: Doneness
    edges: str
    top: str
    underside: str
    touch: str
    smell: str
    colour_from: Annotated[int, Interval(ge=1, le=7)]
    colour_to: Annotated[int, Interval(ge=1, le=7)]

    def coloured(self, wanted: Colour | None) -> "Cues":
        """The same where another colour is wanted than the usual one."""
        low, high = STEPS[wanted] if wanted else (self.colour_from, self.colour_to)
        if wanted is None or (self.colour_from <= low and high <= self.colour_to):
            return self
        return replace(self, edges=wanted, underside=wanted, colour_from=low, colour_to=high)
