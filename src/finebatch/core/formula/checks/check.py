"""A finding: what does not agree, why, what is likely meant, and the one change that mends it."""

from dataclasses import dataclass

from finebatch.core.measures.units import Unit


@dataclass(frozen=True, slots=True)
class Mend:
    """What one press changes: a line's amount, or what the card states of oven or yield."""

    label: str
    line: int | None = None
    amount: str | None = None
    unit: Unit | None = None
    stated_oven: str | None = None
    stated_pieces: int | None = None
    oven_c: float | None = None
    step: int | None = None
    step_text: str | None = None


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
