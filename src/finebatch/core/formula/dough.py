"""A dough: a formula with its method, as a card writes it down."""

from dataclasses import dataclass
from typing import Literal

from finebatch.core.measures.units import Unit

Family = Literal["drop", "rolled", "shortbread", "twice_baked"]
Mixing = Literal["creamed", "rubbed_in", "melted", "oil", "whisked"]


@dataclass(frozen=True, slots=True)
class Line:
    """One ingredient with its amount as written."""

    amount: float
    unit: Unit
    ingredient: str


@dataclass(frozen=True, slots=True)
class WeighedLine:
    """A line in grams; `percent` is of the flour and grain, absent when there is none."""

    ingredient: str
    grams: float
    percent: float | None


@dataclass(frozen=True, slots=True)
class WeighedDough:
    """A whole dough in grams. `base_g` is the flour, starch and grain that count as 100 %."""

    lines: tuple[WeighedLine, ...]
    total_g: float
    base_g: float

    def formula_g(self) -> dict[str, float]:
        """Grams by ingredient key, lines of the same ingredient added up."""
        grams: dict[str, float] = {}
        for line in self.lines:
            grams[line.ingredient] = grams.get(line.ingredient, 0.0) + line.grams
        return grams
