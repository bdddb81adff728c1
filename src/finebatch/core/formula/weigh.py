"""From a card's lines to grams and baker's percentages."""

from collections.abc import Sequence

from finebatch.core.formula.dough import Line, WeighedDough, WeighedLine
from finebatch.core.larder.ingredient import Larder
from finebatch.core.measures.amounts import parse_amount
from finebatch.core.refusal import Fault, Refusal, refuse

BASE_ROLES = ("flour", "starch", "grain")
MAX_LINES = 200
MAX_LINE_G = 50_000.0
"""Fifty kilograms in one line: past any home kitchen, so a slip of the keyboard."""


def weigh_line(line: Line, larder: Larder, field: str) -> float:
    """Grams of one line; `Refusal` names every part of the line that is wrong, and why."""
    faults: list[Fault] = []
    amount, ingredient = 0.0, None
    try:
        amount = parse_amount(line.amount, field=f"{field}.amount")
    except Refusal as refusal:
        faults.extend(refusal.faults)
    try:
        ingredient = larder.find(line.ingredient or "", f"{field}.ingredient")
    except Refusal as refusal:
        faults.extend(refusal.faults)
    if ingredient is None or faults:
        raise Refusal(*faults)
    grams = ingredient.grams(amount, line.unit, field=f"{field}.unit")
    if grams > MAX_LINE_G:
        message = f"That is over {MAX_LINE_G / 1000:.0f} kg. Check the amount and its unit."
        raise refuse(f"{field}.amount", message)
    return grams


def weigh(lines: Sequence[Line], larder: Larder) -> WeighedDough:
    """Weigh every line and set it against the flour and grain (= 100 %).

    Lines that cannot be weighed are named in the result's faults. Raises `Refusal` for a card of
    too many lines.
    """
    if len(lines) > MAX_LINES:
        message = f"A dough has at most {MAX_LINES} lines; this one has {len(lines):,}."
        raise refuse("lines", message)
    grams: list[float | None] = []
    faults: list[Fault] = []
    base_g = 0.0
    for number, line in enumerate(lines):
        try:
            found = weigh_line(line, larder, f"lines.{number}")
        except Refusal as refusal:
            faults.extend(refusal.faults)
            grams.append(None)
            continue
        grams.append(found)
        if line.ingredient and larder[line.ingredient].role in BASE_ROLES:
            base_g += found
    if not lines:
        faults.append(Fault("lines", "Add a first ingredient."))
    weighed = tuple(
        WeighedLine(line.ingredient, g, 100 * g / base_g if base_g and g is not None else None)
        for g, line in zip(grams, lines, strict=True)
    )
    return WeighedDough(weighed, sum(g for g in grams if g is not None), base_g, tuple(faults))
