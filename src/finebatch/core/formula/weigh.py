"""From a card's lines to grams and baker's percentages."""

from collections.abc import Sequence
from dataclasses import replace

from finebatch.core.formula.dough import MOST_LINES, Card, Line, WeighedDough, WeighedLine
from finebatch.core.larder.ingredient import Ingredient, Larder
from finebatch.core.larder.measuring import USUAL, Measuring
from finebatch.core.measures.amounts import Amount, parse_amount
from finebatch.core.measures.figures import kilograms
from finebatch.core.measures.units import RATIO_UNITS, VOLUME_UNITS
from finebatch.core.refusal import Fault, Refusal, refuse

BASE_ROLES = ("flour", "starch", "grain")
MAX_LINE_G = 50_000.0
"""Fifty kilograms in one line: past any home kitchen, so a slip of the keyboard."""


def _taken(line: Line, amount: Amount, field: str) -> float:
    """What is taken of a range: what the baker chose, else its middle."""
    if not amount.is_range or not line.chosen.strip():
        return float(amount.middle)
    chosen = parse_amount(line.chosen, field=f"{field}.chosen", unit=line.unit)
    if not amount.low <= chosen.low <= chosen.high <= amount.high:
        raise refuse(f"{field}.chosen", f"Choose within {line.amount.strip()}.")
    return float(chosen.middle)


def _assumed(line: Line, ingredient: Ingredient, measuring: Measuring) -> str | None:
    if line.unit in VOLUME_UNITS and ingredient.depends_on_habit:
        return measuring.cup
    natural = ingredient.natural_unit
    if ingredient.role == "egg" and natural is not None and line.unit == natural.unit:
        return measuring.egg
    return None


def weigh_line(
    line: Line, larder: Larder, field: str, measuring: Measuring = USUAL, eggs_g: float = 0.0
) -> WeighedLine:
    """One line in grams; `Refusal` names every part of the line that is wrong, and why.

    `eggs_g` is what the dough's eggs weigh, for a line that is written as a ratio of them.
    """
    faults: list[Fault] = []
    amount, ingredient = None, None
    try:
        amount = parse_amount(line.amount, field=f"{field}.amount", unit=line.unit)
    except Refusal as refusal:
        faults.extend(refusal.faults)
    try:
        ingredient = larder.find(line.ingredient or "", f"{field}.ingredient")
    except Refusal as refusal:
        faults.extend(refusal.faults)
    if ingredient is None or amount is None:
        raise Refusal(*faults)
    here = measuring.where(line.cup, line.egg)
    if line.unit == "of_eggs":
        if eggs_g <= 0:
            message = "This line is a ratio of the eggs: add the eggs, counted or weighed."
            raise refuse(f"{field}.unit", message)
        each = eggs_g
    elif line.unit == "egg_weight":
        each = here.egg_g
    else:
        each = ingredient.grams(1.0, line.unit, here, field=f"{field}.unit")
    grams = each * _taken(line, amount, field)
    if grams > MAX_LINE_G:
        message = f"That is over {kilograms(MAX_LINE_G)}. Check the amount and its unit."
        raise refuse(f"{field}.amount", message)
    range_g = (float(amount.low) * each, float(amount.high) * each) if amount.is_range else None
    assumed = _assumed(line, ingredient, here)
    return WeighedLine(line.ingredient, grams, None, range_g, assumed)


def _is_egg(line: Line, larder: Larder) -> bool:
    known = line.ingredient is not None and line.ingredient in larder
    return known and line.unit not in RATIO_UNITS and larder[line.ingredient or ""].role == "egg"


def weigh(lines: Sequence[Line], larder: Larder, measuring: Measuring = USUAL) -> WeighedDough:
    """Weigh every line and set it against the flour and grain (= 100 %).

    Lines that cannot be weighed are named in the result's faults. Raises `Refusal` for a card of
    too many lines.
    """
    if len(lines) > MOST_LINES:
        message = f"A dough has at most {MOST_LINES} lines; this one has {len(lines):,}."
        raise refuse("lines", message)
    found: dict[int, WeighedLine] = {}
    faults: list[Fault] = []
    eggs_g, base_g = 0.0, 0.0
    # The eggs come first: other lines may be written as a ratio of them.
    order = sorted(range(len(lines)), key=lambda n: not _is_egg(lines[n], larder))
    for number in order:
        line = lines[number]
        if not line.amount.strip() and line.ingredient is not None and line.ingredient in larder:
            # Salt, a little: it counts as nothing until there is an amount, and stops nothing.
            found[number] = WeighedLine(line.ingredient, None, None)
            continue
        try:
            weighed = weigh_line(line, larder, f"lines.{number}", measuring, eggs_g)
        except Refusal as refusal:
            faults.extend(refusal.faults)
            found[number] = WeighedLine(line.ingredient, None, None)
            continue
        found[number] = weighed
        assert weighed.grams is not None
        assert line.ingredient is not None
        base_g += weighed.grams * larder.share_of(line.ingredient, BASE_ROLES)
        if _is_egg(line, larder):
            eggs_g += weighed.grams
    if not lines:
        faults.append(Fault("lines", "Add a first ingredient."))
    faults.sort(key=lambda fault: [int(p) if p.isdigit() else -1 for p in fault.field.split(".")])
    ordered = [found[n] for n in range(len(lines))]
    weighed_lines = tuple(
        replace(w, percent=100 * w.grams / base_g if base_g and w.grams is not None else None)
        for w in ordered
    )
    total_g = sum(w.grams for w in ordered if w.grams is not None)
    return WeighedDough(weighed_lines, total_g, base_g, tuple(faults))


def weigh_card(card: Card, larder: Larder, measuring: Measuring = USUAL) -> WeighedDough:
    """A card weighed by its own habits where it has any, else by the kitchen's."""
    return weigh(card.lines, larder, measuring.where(card.cup, card.egg))
