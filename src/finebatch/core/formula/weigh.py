"""From a card's lines to grams and baker's percentages."""

from collections.abc import Sequence

from finebatch.core.formula.dough import Line, WeighedDough, WeighedLine
from finebatch.core.larder.ingredient import Larder
from finebatch.core.refusal import Fault, Refusal

BASE_ROLES = frozenset({"flour", "starch", "grain"})
MAX_LINES = 200
MAX_LINE_G = 50_000.0
"""Fifty kilograms in one line: past any home kitchen, so a slip of the keyboard."""


def weigh_line(line: Line, larder: Larder, field: str) -> float:
    """Grams of one line; `Refusal` at `field` says which part of the line is wrong and why."""
    ingredient = larder.find(line.ingredient, f"{field}.ingredient")
    if not line.amount > 0:
        raise Refusal(Fault(f"{field}.amount", "Give an amount above zero, or take the line out."))
    grams = ingredient.grams(line.amount, line.unit, field=f"{field}.unit")
    if grams > MAX_LINE_G:
        message = f"That is over {MAX_LINE_G / 1000:.0f} kg. Check the amount and its unit."
        raise Refusal(Fault(f"{field}.amount", message))
    return grams


def weigh(lines: Sequence[Line], larder: Larder) -> WeighedDough:
    """Weigh every line and set it against the flour and grain (= 100 %).

    Raises `Refusal` with every faulty line at once, and for a card of no or too many lines.
    """
    if not lines:
        raise Refusal(Fault("lines", "Add a first ingredient."))
    if len(lines) > MAX_LINES:
        message = f"A dough has at most {MAX_LINES} lines; this one has {len(lines):,}."
        raise Refusal(Fault("lines", message))
    grams: list[float] = []
    faults: list[Fault] = []
    for number, line in enumerate(lines):
        try:
            grams.append(weigh_line(line, larder, f"lines.{number}"))
        except Refusal as refusal:
            faults.extend(refusal.faults)
    if faults:
        raise Refusal(*faults)
    base_g = sum(
        g for g, line in zip(grams, lines, strict=True)
        if larder[line.ingredient].role in BASE_ROLES
    )  # fmt: skip
    weighed = tuple(
        WeighedLine(line.ingredient, g, 100 * g / base_g if base_g else None)
        for g, line in zip(grams, lines, strict=True)
    )
    return WeighedDough(weighed, sum(grams), base_g)
