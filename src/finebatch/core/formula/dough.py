"""A dough: a formula with its method, as a card writes it down."""

from dataclasses import dataclass
from typing import Literal

from finebatch.core.larder.measuring import CupHabit
from finebatch.core.measures.units import Unit
from finebatch.core.refusal import Fault, Refusal
from finebatch.core.values import Range

Family = Literal["drop", "rolled", "shortbread", "twice_baked"]
Mixing = Literal["creamed", "rubbed_in", "melted", "oil", "whisked"]
PartKind = Literal["wash", "filling", "coating", "topping", "icing", "dip", "dusting"]


@dataclass(frozen=True, slots=True)
class Line:
    """One ingredient with its amount as written; no ingredient while none is chosen.

    `text` is the line as it stood on the card it was read from. `chosen` is what is taken of a
    range. `cup` and `egg` are what this line assumes where the dough assumes something else.
    """

    amount: str
    unit: Unit
    ingredient: str | None
    text: str = ""
    chosen: str = ""
    cup: CupHabit | None = None
    egg: str | None = None


@dataclass(frozen=True, slots=True)
class Step:
    """One step of the method: minutes of hands and of waiting, the cue to look for, a caution."""

    text: str
    hands_min: int = 0
    wait_min: int = 0
    cue: str = ""
    caution: str = ""


@dataclass(frozen=True, slots=True)
class Part:
    """A small formula beside the dough; each piece takes `per_piece_g` grams of it."""

    kind: PartKind
    name: str
    lines: tuple[Line, ...]
    per_piece_g: float


@dataclass(frozen=True, slots=True)
class Card:
    """A dough as written.

    No `steps` stands for the usual ones of the mixing method. `stated_pieces` and `stated_oven` are
    what the written card says of yield and baking. `settled` are the checks that the baker has
    dismissed for good.
    """

    name: str
    family: Family
    mixing: Mixing
    lines: tuple[Line, ...]
    steps: tuple[Step, ...] = ()
    parts: tuple[Part, ...] = ()
    stated_pieces: int | None = None
    stated_oven: str = ""
    note: str = ""
    cup: CupHabit | None = None
    egg: str | None = None
    settled: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class WeighedLine:
    """A line in grams and percent of the flour and grain; both absent where unknown.

    `range_g` is kept where the card leaves room for taste. `assumed` is the cup habit or the egg
    that the grams rest on.
    """

    ingredient: str | None
    grams: float | None
    percent: float | None
    range_g: Range | None = None
    assumed: str | None = None


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
        return self.known_g()

    def known_g(self) -> dict[str, float]:
        """Grams by ingredient key of the lines that could be weighed."""
        grams: dict[str, float] = {}
        for line in self.lines:
            if line.ingredient is not None and line.grams is not None:
                grams[line.ingredient] = grams.get(line.ingredient, 0.0) + line.grams
        return grams
