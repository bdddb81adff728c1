"""What can be changed of a dough and its tray, each by the steps in which a baker can."""

import math
from abc import ABC, abstractmethod
from collections.abc import Iterator
from dataclasses import dataclass, replace
from fractions import Fraction

from annotated_types import Ge, Le

from finebatch.core.aim.distance import JOBS, STEP_C, handle_at, job_of
from finebatch.core.aim.trial import Changed, Dough
from finebatch.core.formula.dough import Card
from finebatch.core.formula.scaling import measured_line, step_of
from finebatch.core.measures.amounts import parse_amount
from finebatch.core.measures.temperatures import celsius_of, fahrenheit_of
from finebatch.core.piece.effects import FRIDGE_C
from finebatch.core.piece.kinds.portioning import Portioning, moved
from finebatch.core.piece.kinds.says import Handle
from finebatch.core.values import Range, limits_of

MOST_LINES_MOVED = 16
LINE_RANGE: Range = (0.5, 2.0)
"""An ingredient is halved or doubled at most: beyond that it is another dough."""
PIECE_MORE, PIECE_MOST = 1.5, 3.0
"""A figure of the piece goes as far as its ruler, or to half as much again, and never farther than
to three times or a third."""
OVEN_BY_C, OVEN_C = 30.0, (140.0, 220.0)
"""How far the dial is turned at most, and between what it is set (household recipes)."""
OVEN_STEP_C, OVEN_STEP_F, DOUGH_STEP_C = 5.0, 5.0, 1.0


@dataclass(frozen=True, slots=True)
class Item(ABC):
    """One thing that can be changed: from what it `was`, within a `range`, by a `step`.

    `ratio` says that a baker thinks of it in shares (grams), not in differences (degrees).
    """

    key: str
    was: float
    range: Range
    step: float
    ratio: bool

    @abstractmethod
    def put(self, dough: Dough, changed: Changed, value: float) -> Changed:
        """The same with that value of it, exactly."""

    def nearest(self, value: float) -> Range:
        """What it can be set to just below and just above a value."""
        return _about(value, self.step)

    def unit(self, value: float) -> float:
        """A value as the search has it: the logarithm of its share of what it was, or °C over
        ten."""
        return math.log(value / self.was) if self.ratio else (value - self.was) / STEP_C

    def value(self, unit: float) -> float:
        """The same backwards."""
        return self.was * math.exp(unit) if self.ratio else self.was + STEP_C * unit


def _about(value: float, step: float) -> Range:
    steps = math.floor(value / step + 1e-9)
    return steps * step, (steps + 1) * step


@dataclass(frozen=True, slots=True)
class LineItem(Item):
    """The amount of one line of the card, by its place, in its own unit."""

    place: int

    def put(self, dough: Dough, changed: Changed, value: float) -> Changed:
        """The line times what makes it that amount."""
        factors = list(changed.factors)
        factors[self.place] = value / self.was
        return replace(changed, factors=tuple(factors))


@dataclass(frozen=True, slots=True)
class HandleItem(Item):
    """A figure of the piece."""

    handle: Handle

    def put(self, dough: Dough, changed: Changed, value: float) -> Changed:
        """The piece with that handle moved."""
        piece, lot = changed.setting.piece, dough.origin.lot
        if self.handle.clears:
            piece = piece.weighing(value, lot)
        else:
            piece = moved(piece, self.handle, value / handle_at(piece, self.handle, lot))
        return replace(changed, setting=replace(changed.setting, piece=piece))


@dataclass(frozen=True, slots=True)
class OvenItem(Item):
    """What the dial is set to, °C, by steps of its own scale."""

    in_fahrenheit: bool

    def put(self, dough: Dough, changed: Changed, value: float) -> Changed:
        """Another setting of the dial."""
        return replace(changed, setting=replace(changed.setting, oven_c=value))

    def nearest(self, value: float) -> Range:
        """The marks of the dial about a temperature."""
        if not self.in_fahrenheit:
            return _about(value, self.step)
        low, high = _about(fahrenheit_of(value), OVEN_STEP_F)
        return celsius_of(low), celsius_of(high)


@dataclass(frozen=True, slots=True)
class DoughTempItem(Item):
    """How cold the dough goes into the oven, °C."""

    def put(self, dough: Dough, changed: Changed, value: float) -> Changed:
        """A colder or warmer dough."""
        return replace(changed, setting=replace(changed.setting, dough_temp_c=value))


def _lines(dough: Dough) -> list[LineItem]:
    """The lines that may be changed: of a very long card those that weigh most."""
    grams = [line.grams or 0.0 for line in dough.weighed.lines]
    found = sorted(_all_lines(dough), key=lambda item: -grams[item.place])[:MOST_LINES_MOVED]
    return sorted(found, key=lambda item: item.place)


def _all_lines(dough: Dough) -> Iterator[LineItem]:
    follows_eggs = any(line.unit == "of_eggs" for line in dough.card.lines)
    for place, (line, weighed) in enumerate(
        zip(dough.card.lines, dough.weighed.lines, strict=True)
    ):
        ingredient = dough.larder.known(line.ingredient)
        if ingredient is None or not weighed.grams or line.unit in ("of_eggs", "pinch"):
            continue
        if job_of(ingredient) not in JOBS or (follows_eggs and ingredient.role == "egg"):
            continue
        amount = parse_amount(line.amount, unit=line.unit)
        if amount.is_range:
            continue
        was = float(amount.middle)
        low, high = (share * was for share in LINE_RANGE)
        step = float(step_of(line, was))
        yield LineItem(f"line:{place}", was, (max(low, step), high), step, True, place)


def _limits(piece: Portioning, handle: Handle) -> Range:
    """The least and the most that a figure of the piece can be kept with."""
    found = limits_of(type(piece)).get(handle.field, {})
    least, most = found.get(Ge), found.get(Le)
    return float(least.ge) if least else 0.0, float(most.le) if most else math.inf


def _handles(dough: Dough) -> Iterator[HandleItem]:
    piece, lot = dough.asked.setting.piece, dough.origin.lot
    for handle in piece.HANDLES:
        was = handle_at(piece, handle, lot)
        least, most = _limits(piece, handle)
        low = max(min(handle.range[0], was / PIECE_MORE), was / PIECE_MOST, least)
        high = min(max(handle.range[1], was * PIECE_MORE), was * PIECE_MOST, most)
        key = f"handle:{handle.field}"
        yield HandleItem(key, was, (low, high), handle.step, True, handle)


def items_of(dough: Dough) -> tuple[Item, ...]:
    """All that can be changed of a dough by steps: its lines, its piece, oven and dough."""
    setting = dough.asked.setting
    oven, cold = setting.oven_c, setting.dough_temp_c
    found: list[Item] = [*_lines(dough), *_handles(dough)]
    low, high = min(OVEN_C[0], oven), max(OVEN_C[1], oven)
    reach = (max(oven - OVEN_BY_C, low), min(oven + OVEN_BY_C, high))
    in_f = dough.asked.kitchen.reads.temperature == "F"
    found.append(OvenItem("oven", oven, reach, OVEN_STEP_C, False, in_f))
    if cold >= FRIDGE_C:
        reach = (FRIDGE_C, max(dough.asked.kitchen.room_c, cold))
        found.append(DoughTempItem("dough_temp", cold, reach, DOUGH_STEP_C, False))
    return tuple(found)


def jobs_of(dough: Dough, items: tuple[Item, ...]) -> Iterator[tuple[str, tuple[LineItem, ...]]]:
    """Lines that do one job together, where there are several."""
    by_job: dict[str, list[LineItem]] = {}
    for item in items:
        if isinstance(item, LineItem):
            ingredient = dough.larder.find(dough.card.lines[item.place].ingredient or "", "lines")
            by_job.setdefault(job_of(ingredient), []).append(item)
    return ((job, tuple(own)) for job, own in by_job.items() if len(own) > 1)


def card_of(dough: Dough, changed: Changed) -> Card:
    """The card with each line as it is measured out."""
    lines = []
    for line, factor in zip(dough.card.lines, changed.factors, strict=True):
        if factor == 1.0:
            lines.append(line)
            continue
        was = float(parse_amount(line.amount, unit=line.unit).middle)
        step = step_of(line, was)
        lines.append(measured_line(line, max(round(Fraction(was * factor) / step), 1) * step))
    return replace(dough.card, lines=tuple(lines))
