"""A finding: what does not agree, why, what is likely meant, and the one change that mends it."""

from dataclasses import dataclass

from finebatch.core.formula.dough import Line
from finebatch.core.measures.units import Unit


@dataclass(frozen=True, slots=True)
class Mend:
    """What one press changes: a line's amount, or what the card states of oven or yield; `remove`
    takes the line out. `before` and `after` are what stands there now and then; one that is
    `tenfold` is asked for a second time.
    """

    label: str
    line: int | None = None
    amount: str | None = None
    unit: Unit | None = None
    stated_oven: str | None = None
    stated_pieces: int | None = None
    oven_c: float | None = None
    step: int | None = None
    step_text: str | None = None
    remove: bool = False
    before: str = ""
    after: str = ""
    tenfold: bool = False


_UNIT_WORDS: dict[Unit, str] = {"of_eggs": "× eggs", "egg_weight": "eggs’ weight", "each": ""}


def in_words(line: Line) -> str:
    """An amount with its unit: “8 oz”."""
    return f"{line.amount} {_UNIT_WORDS.get(line.unit, line.unit)}".strip()


@dataclass(frozen=True, slots=True)
class Check:
    """One finding. `key` stays the same while the evidence does, so that it can be dismissed.

    `where` is the dotted path of what it is about, such as ``lines.2``.
    """

    key: str
    where: str
    title: str
    evidence: str
    likely: str
    mend: Mend | None = None
