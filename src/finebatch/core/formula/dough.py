"""A dough: a formula with its method, as a card writes it down."""

from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval, Len, MaxLen

from finebatch.core.formula.step import Step, StepKind
from finebatch.core.larder.measuring import CupHabit
from finebatch.core.measures.units import Unit
from finebatch.core.refusal import Fault, Refusal
from finebatch.core.values import FromOutside, Range, Text

Family = Literal["drop", "rolled", "shortbread", "twice_baked"]
Mixing = Literal["creamed", "rubbed_in", "melted", "oil", "whisked"]
Colour = Literal["pale", "golden", "brown"]
"""How dark a piece is wanted."""
Doneness = Literal["soft_centre", "chewy", "set", "crisp", "dry"]
"""How far a piece is baked."""
PartKind = Literal["wash", "filling", "coating", "topping", "icing", "dip", "dusting", "bench"]
"""What stands beside the dough; the bench is what the work takes: flour to roll on, butter for the
tin. It goes into no piece."""


MOST_NAME = 80
MOST_LINES, MOST_STEPS, MOST_PARTS, MOST_SETTLED = 200, 60, 12, 200
"""As many of each as a card is kept with."""
READ_LINES, READ_STEPS, READ_PARTS = 20_000, 200, 50
"""As many of each as are looked at, to say how many too many there are."""
MOST_PART_LINES = 50
MOST_CHECK = 700
"""The most letters of a check that was dismissed."""

AmountText = Annotated[Text, MaxLen(40)]
Egg = Annotated[Text, MaxLen(30)]
Written = Annotated[Text, MaxLen(500)]


@dataclass(frozen=True, slots=True)
class Line(FromOutside):
    """One ingredient with its amount as written; no ingredient while none is chosen.

    `text` is the line as it stood on the card it was read from. `chosen` is what is taken of a
    range. `cup` and `egg` are what this line assumes where the dough assumes something else.
    """

    amount: AmountText
    unit: Unit
    ingredient: Annotated[Text, MaxLen(60)] | None
    text: Written = ""
    chosen: AmountText = ""
    cup: CupHabit | None = None
    egg: Egg | None = None


@dataclass(frozen=True, slots=True)
class Part(FromOutside):
    """A small formula beside the dough; each piece takes `per_piece_g` grams of it, none of what is
    for the bench."""

    kind: PartKind
    name: Annotated[Text, Len(1, 60)]
    lines: Annotated[tuple[Line, ...], MaxLen(MOST_PART_LINES)]
    per_piece_g: Annotated[float, Interval(ge=0, le=500)]


@dataclass(frozen=True, slots=True)
class Card(FromOutside):
    """A dough as written.

    No `steps` stands for the usual ones of the mixing method. `stated_pieces`,
    `stated_width_mm` (of a baked piece) and `stated_oven` are what the written card says of yield
    and baking. `settled` are the checks that the baker has
    dismissed for good, `without` the usual steps and habits that are left out for this dough.
    """

    NEEDED = ("lines",)

    name: Written
    family: Family
    mixing: Mixing = "creamed"
    lines: Annotated[tuple[Line, ...], MaxLen(READ_LINES)] = ()
    steps: Annotated[tuple[Step, ...], MaxLen(READ_STEPS)] = ()
    parts: Annotated[tuple[Part, ...], MaxLen(READ_PARTS)] = ()
    stated_pieces: Annotated[int, Interval(ge=1, le=100_000)] | None = None
    stated_width_mm: Annotated[float, Interval(ge=10, le=400)] | None = None
    stated_oven: Written = ""
    note: Annotated[Text, MaxLen(5000)] = ""
    cup: CupHabit | None = None
    egg: Egg | None = None
    settled: Annotated[tuple[Annotated[Text, MaxLen(MOST_CHECK)], ...], MaxLen(MOST_SETTLED)] = ()
    without: Annotated[tuple[StepKind, ...], MaxLen(MOST_STEPS)] = ()


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
