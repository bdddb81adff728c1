"""Written lines beside what they mean: how many are read right, wrong, or asked about."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval, MaxLen

from finebatch.core.formula.reading import Reader, ReadLine

LineVerdict = Literal["right", "wrong", "asked"]


Positive = Annotated[float, Interval(gt=0, le=1e6)]


@dataclass(frozen=True, slots=True)
class LineCase:
    """A line and its meaning; `grams`, `range_grams` and `conflict` are absent where they are not
    judged."""

    text: Annotated[str, MaxLen(500)]
    ingredient: str | None
    grams: float | None = None
    tolerance_pct: Annotated[float, Interval(ge=0)] = 1.0
    range_grams: tuple[Positive, Positive] | None = None
    conflict: bool | None = None


@dataclass(frozen=True, slots=True)
class JudgedLine:
    """A line as read, and whether that is right; wrong ones that are asked about count as asked."""

    read: ReadLine
    verdict: LineVerdict


def _near(found: float | None, wanted: float, tolerance_pct: float) -> bool:
    return found is not None and abs(found - wanted) <= wanted * tolerance_pct / 100 + 1e-9


def _main(key: str | None, reader: Reader) -> tuple[str, ...]:
    """What a mixture mostly is: self-raising flour is flour."""
    made_of = reader.larder[key].made_of if key else ()
    return (max(made_of, key=lambda part: part[1])[0],) if made_of else ()


def judge_line(case: LineCase, reader: Reader) -> JudgedLine:
    """Read one line and set it beside its meaning."""
    read = reader.read(case.text)
    right = case.ingredient in (read.ingredient, *_main(read.ingredient, reader))
    if case.grams is not None:
        right &= _near(read.grams, case.grams, case.tolerance_pct)
    if case.range_grams is not None:
        right &= read.range_g is not None and all(
            _near(found, wanted, max(case.tolerance_pct, 1.0))
            for found, wanted in zip(read.range_g, case.range_grams, strict=True)
        )
    if case.conflict is not None:
        right &= read.conflict == case.conflict
    return JudgedLine(read, "right" if right else "asked" if read.asks else "wrong")


def judge_lines(cases: Sequence[LineCase], reader: Reader) -> list[JudgedLine]:
    """Read all lines and set them beside their meanings."""
    return [judge_line(case, reader) for case in cases]
