"""A dough: a formula with its method, as a card writes it down."""

from dataclasses import dataclass
from typing import Literal

from finebatch.core.measures.units import Unit
from finebatch.core.refusal import Fault, Refusal

Family = Literal["drop", "rolled", "shortbread", "twice_baked"]
Mixing = Literal["creamed", "rubbed_in", "melted", "oil", "whisked"]


@dataclass(frozen=True, slots=True)
class Line:
    """One ingredient with its amount as written; no ingredient while none is chosen."""

    amount: str
    unit: Unit
    ingredient: str | None


@dataclass(frozen=True, slots=True)
class WeighedLine:
    """A line in grams and percent of the flour and grain; both absent where unknown."""

    ingredient: str | None
    grams: float | None
    percent: float | None


@dataclass(frozen=True, slots=True)
class WeighedDough:
    """A whole dough in grams. `base_g` is the flour, starch and grain that count as 100 %.

    `faults` name the lines that could not be weighed; the totals leave those out.
    """

    lines: tuple[WeighedLine, ...]
    total_g: float
    base_g: float
    faults: tuple[Fault, ...]

    def formula_g(self) -> dict[str, float]:
        """Grams by ingredient key, lines of the same ingredient added up.

        Raises `Refusal` while any line is faulty: a dough is not foreseen from half its card.
        """
        if self.faults:
            raise Refusal(*self.faults)
        grams: dict[str, float] = {}
        for line in self.lines:
            if line.ingredient is not None and line.grams is not None:
                grams[line.ingredient] = grams.get(line.ingredient, 0.0) + line.grams
        return grams
