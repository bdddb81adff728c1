"""Cards in requests and answers: a dough's lines, steps and parts, and its tray."""

from typing import Annotated

from pydantic import Field

from finebatch.core.formula import limits
from finebatch.core.formula.dough import (
    Card,
    Family,
    Line,
    Mixing,
    Part,
    PartKind,
    Step,
)
from finebatch.core.larder.measuring import CupHabit
from finebatch.core.measures.units import Unit
from finebatch.web.types import Text, ValueBody

Key = Annotated[Text, Field(max_length=limits.MOST_KEY)]
EggName = Annotated[Text, Field(max_length=limits.MOST_EGG)]


class LineBody(ValueBody):
    """One line as written; `text` is the line as it stood on the card it was read from."""

    amount: Annotated[Text, Field(max_length=limits.MOST_AMOUNT)]
    unit: Unit
    ingredient: Key | None
    text: Annotated[Text, Field(max_length=limits.MOST_WRITTEN)] = ""
    chosen: Annotated[Text, Field(max_length=limits.MOST_AMOUNT)] = ""
    cup: CupHabit | None = None
    egg: EggName | None = None

    def line(self) -> Line:
        """The core's line."""
        return Line(**self.model_dump())


class StepBody(ValueBody):
    """One step of the method."""

    text: Annotated[Text, Field(max_length=limits.MOST_STEP)]
    hands_min: Annotated[int, Field(ge=0, le=limits.MOST_HANDS_MIN)] = 0
    wait_min: Annotated[int, Field(ge=0, le=limits.MOST_WAIT_MIN)] = 0
    cue: Annotated[Text, Field(max_length=limits.MOST_CUE)] = ""
    caution: Annotated[Text, Field(max_length=limits.MOST_CUE)] = ""

    def step(self) -> Step:
        """The core's step."""
        return Step(**self.model_dump())


class PartBody(ValueBody):
    """A small formula beside the dough, and how much of it a piece takes."""

    kind: PartKind
    name: Annotated[Text, Field(min_length=1, max_length=limits.MOST_PART_NAME)]
    lines: Annotated[list[LineBody], Field(max_length=limits.MOST_PART_LINES)]
    per_piece_g: Annotated[float, Field(ge=0, le=limits.MOST_PER_PIECE_G)]

    def part(self) -> Part:
        """The core's part."""
        return Part(self.kind, self.name, tuple(x.line() for x in self.lines), self.per_piece_g)


class CardBody(ValueBody):
    """A dough as written. No steps stand for the usual ones of its mixing method."""

    name: Annotated[Text, Field(max_length=limits.MOST_WRITTEN)]
    family: Family
    mixing: Mixing = "creamed"
    lines: Annotated[list[LineBody], Field(max_length=20_000)]
    steps: Annotated[list[StepBody], Field(max_length=200)] = []
    parts: Annotated[list[PartBody], Field(max_length=50)] = []
    stated_pieces: Annotated[int, Field(ge=1, le=limits.MOST_PIECES)] | None = None
    stated_oven: Annotated[Text, Field(max_length=limits.MOST_WRITTEN)] = ""
    note: Annotated[Text, Field(max_length=limits.MOST_NOTE)] = ""
    cup: CupHabit | None = None
    egg: EggName | None = None
    settled: Annotated[
        list[Annotated[Text, Field(max_length=limits.MOST_CHECK)]],
        Field(max_length=limits.MOST_SETTLED),
    ] = []

    def card(self) -> Card:
        """The core's card."""
        plain = {name: getattr(self, name) for name in CardBody.model_fields}
        return Card(
            **{
                **plain,
                "lines": tuple(x.line() for x in self.lines),
                "steps": tuple(x.step() for x in self.steps),
                "parts": tuple(x.part() for x in self.parts),
                "settled": tuple(self.settled),
            }
        )
