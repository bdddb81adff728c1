"""Figures within words, to be read in the units of any kitchen.

Whatever says a figure in a sentence says it here. The figure stands in the text in both systems,
marked as Unicode marks an annotated text: the metric figure, the other one, and what it measures.
Whoever shows the text to somebody (a response, a file for people, the command line) has it read
by `read_in`; the baker's own words are not marked and stay as they were written.
"""

import re
from fractions import Fraction
from typing import Literal

from finebatch.core.measures.kitchen_units import METRIC, KitchenUnits
from finebatch.core.measures.temperatures import fahrenheit_of
from finebatch.core.measures.units import VolumeUnit, cups_in, grams_in

Measure = Literal["temperature", "length", "mass", "volume", "clock"]

ANCHOR = "\ufff9"
"""Begins a marked figure (Unicode's interlinear annotation anchor)."""
_SEPARATOR, _END = "\ufffa", "\ufffb"
_FIGURE = re.compile(
    f"{ANCHOR}([^{ANCHOR}{_SEPARATOR}{_END}]*){_SEPARATOR}"
    f"(temperature|length|mass|volume|clock)=([^{ANCHOR}{_SEPARATOR}{_END}]*){_END}"
)

MM_IN = 25.4
"""Millimetres in an inch (by definition)."""
OZ_IN_LB = 16
LEAST_WHOLE_G = 10
"""From so many grams on a changed amount is told in whole grams."""
LEAST_TOLD_OZ, LEAST_HUNDREDTHS = 0.0005, 0.095
LEAST_TENTHS = 0.995
"""From so many ounces on they are told in tenths, below in hundredths."""
_SPOONS: tuple[tuple[VolumeUnit, float, int], ...] = (
    ("cup", 0.25, 4),
    ("tbsp", 1, 2),
    ("tsp", 0, 4),
)
"""Cups and spoons with the least of each, and into how many parts each is divided."""
NEARLY_WHOLE = 0.03
"""Degrees by which a setting may miss the whole one that it was set to (it is kept rounded)."""
_TO_RANGE = " to "


def _marked(measure: Measure, metric: str, other: str) -> str:
    return f"{ANCHOR}{metric}{_SEPARATOR}{measure}={other}{_END}"


def _is_metric(measure: str, units: KitchenUnits) -> bool:
    match measure:
        case "temperature":
            return units.temperature == "C"
        case "length":
            return units.length == "metric"
        case "mass":
            return units.mass == "metric"
        case "volume":
            return units.volume == "metric"
        case _:
            return units.clock == "24 h"


def read_in(text: str, units: KitchenUnits = METRIC) -> str:
    """The text as that kitchen reads it: each marked figure in its unit. A text without any is
    returned as it is, and so are marks that are no figure's."""
    if ANCHOR not in text:
        return text
    return _FIGURE.sub(lambda m: m[1] if _is_metric(m[2], units) else m[3], text)


def degrees(celsius: float, fahrenheit: float | None = None) -> str:
    """A temperature in °C, to the whole degree; `fahrenheit` where a round one is usual there (a
    fridge at 40 °F for 4 °C)."""
    other = fahrenheit_of(celsius) if fahrenheit is None else fahrenheit
    return _marked("temperature", f"{_whole(celsius)} °C", f"{_whole(other)} °F")


def degrees_to_a_tenth(celsius: float) -> str:
    """A temperature that is close to another one."""
    return _marked(
        "temperature",
        f"{_trimmed(celsius, 1)} °C",
        f"{_trimmed(fahrenheit_of(celsius), 1)} °F",
    )


def degrees_apart(celsius: float) -> str:
    """By how many degrees one temperature is above another."""
    return _marked("temperature", f"{_whole(celsius)} °C", f"{_whole(celsius * 1.8)} °F")


def degrees_between(low_c: float, high_c: float) -> str:
    """A range of temperatures."""
    low_f, high_f = fahrenheit_of(low_c), fahrenheit_of(high_c)
    return _marked(
        "temperature",
        f"{_whole(low_c)}{_TO_RANGE}{_whole(high_c)} °C",
        f"{_whole(low_f)}{_TO_RANGE}{_whole(high_f)} °F",
    )


def dial(celsius: float) -> str:
    """What an oven is set to, as a dial of the kitchen's scale has it.

    A whole degree of that scale stays as it was set. What was set in the other scale is put to the
    nearest five degrees of this one: 350 °F is 175 °C, and 180 °C is 355 °F.
    """
    fahrenheit = fahrenheit_of(celsius)
    in_c, in_f = _is_whole(celsius), _is_whole(fahrenheit) and not _is_whole(celsius)
    return _marked(
        "temperature",
        f"{_whole(celsius) if in_c else _nearest_5(celsius)} °C",
        f"{_whole(fahrenheit) if in_f else _nearest_5(fahrenheit)} °F",
    )


def _is_whole(value: float) -> bool:
    return abs(value - round(value)) < NEARLY_WHOLE


def _nearest_5(value: float) -> str:
    return _whole(5 * round(value / 5))


def _whole(value: float) -> str:
    return f"{round(value)}".replace("-", "−")


def millimetres(mm: float, digits: int = 0) -> str:
    """A length that bakers have in millimetres."""
    return _marked("length", f"{_trimmed(mm, digits)} mm", inches(mm))


def centimetres(mm: float, digits: int = 1) -> str:
    """A length in mm that bakers have in centimetres."""
    return _marked("length", f"{_trimmed(mm / 10, digits)} cm", inches(mm))


def by(across_mm: float, down_mm: float) -> str:
    """A length by another, in centimetres."""
    metric = f"{_trimmed(across_mm / 10, 1)} × {_trimmed(down_mm / 10, 1)} cm"
    return _marked("length", metric, f"{inch_figure(across_mm)} × {inches(down_mm)}")


def length_between(low_mm: float, high_mm: float, *, small: bool = False) -> str:
    """A range of lengths in mm, in centimetres, or in millimetres where it is `small`."""
    scale, unit = (1.0, "mm") if small else (10.0, "cm")
    low, high = (_trimmed(mm / scale, 0 if small else 1) for mm in (low_mm, high_mm))
    return _marked(
        "length",
        f"{low}{_TO_RANGE}{high} {unit}",
        f"{inch_figure(low_mm)}{_TO_RANGE}{inches(high_mm)}",
    )


def area(cm2: float) -> str:
    """An area in cm², or in square inches."""
    return _marked(
        "length", f"{_trimmed(cm2, 1)} cm²", f"{_trimmed(100 * cm2 / MM_IN**2, 1)} sq in"
    )


def inches(mm: float) -> str:
    """A length in inches with its unit: ``2 1/4 in``."""
    return f"{inch_figure(mm)} in"


def inch_figure(mm: float) -> str:
    """A length in inches as a ruler has it: in eighths from one inch up, in sixteenths below; what
    is less than a thirty-second in hundredths."""
    whole = abs(mm) / MM_IN
    parts = 8 if whole >= 1 - 1 / 32 else 16
    nearest = Fraction(round(whole * parts), parts)
    sign = "−" if mm < 0 else ""
    if nearest == 0 and whole >= 0.005:
        return f"{sign}{whole:.2f}"
    if nearest == 0:
        return "0"
    return sign + _as_fraction(nearest)


def grams(g: float, digits: int | None = None) -> str:
    """A mass in g: whole grams from 100 up, tenths below, unless `digits` are asked for."""
    places = (0 if g >= 100 else 1) if digits is None else digits
    return _marked("mass", f"{_trimmed(g, places)} g", ounces(g))


def grams_between(low_g: float, high_g: float) -> str:
    """A range of masses."""
    low, high = (_trimmed(g, 0 if g >= 100 else 1) for g in (low_g, high_g))
    low_oz = low_g / grams_in("oz")
    return _marked(
        "mass",
        f"{low}{_TO_RANGE}{high} g",
        f"{_trimmed(low_oz, 1 if low_oz >= LEAST_TENTHS else 2)}{_TO_RANGE}{ounces(high_g)}",
    )


def grams_changed(before_g: float, after_g: float) -> str:
    """A mass before and after a change."""
    before, after = (_trimmed(g, 0 if g >= LEAST_WHOLE_G else 1) for g in (before_g, after_g))
    return _marked("mass", f"{before} → {after} g", f"{ounces(before_g)} → {ounces(after_g)}")


def kilograms(g: float) -> str:
    """A mass in g that bakers have in kilograms."""
    return _marked("mass", f"{_trimmed(g / 1000, 1)} kg", ounces(g))


def ounces(g: float) -> str:
    """A mass in ounces with its unit: hundredths below an ounce (two digits of very little), tenths
    above; pounds and ounces from one pound up."""
    oz = g / grams_in("oz")
    if abs(oz) < LEAST_HUNDREDTHS:
        return f"{oz:.2g} oz" if abs(oz) >= LEAST_TOLD_OZ else "0 oz"
    if abs(oz) < LEAST_TENTHS:
        return f"{_trimmed(oz, 2)} oz"
    tenths = round(oz, 1)
    if tenths < OZ_IN_LB:
        return f"{tenths:g} oz"
    pounds, rest = divmod(tenths, OZ_IN_LB)
    return f"{pounds:.0f} lb {_trimmed(rest, 1)} oz" if round(rest, 1) else f"{pounds:.0f} lb"


def millilitres(ml: float) -> str:
    """A volume in ml, or in cups and spoons."""
    return _marked("volume", f"{_trimmed(ml, 1)} ml", spoons(ml))


def spoons(ml: float) -> str:
    """A volume in quarters of a cup, halves of a tablespoon or quarters of a teaspoon."""
    cups = ml * cups_in("ml")
    unit, _, parts = next(s for s in _SPOONS if cups / cups_in(s[0]) >= s[1])
    return f"{_as_fraction(Fraction(round(cups / cups_in(unit) * parts), parts))} {unit}"


def _as_fraction(amount: Fraction) -> str:
    over = amount - int(amount)
    told = [str(int(amount))] if amount >= 1 or not over else []
    return " ".join([*told, *([f"{over.numerator}/{over.denominator}"] if over else [])])


def _trimmed(value: float, digits: int) -> str:
    text = f"{value:.{digits}f}".replace("-", "−")
    return text.rstrip("0").rstrip(".") if "." in text else text


def clock(hour: int, minute: int) -> str:
    """The time of day."""
    twelve = f"{hour % 12 or 12}:{minute:02} {'am' if hour < 12 else 'pm'}"
    return _marked("clock", f"{hour:02}:{minute:02}", twelve)


_WRITTEN = re.compile(
    r"(?P<low>[−-]?\d+(?:\.\d+)?)(?: (?P<by>to|×) (?P<high>[−-]?\d+(?:\.\d+)?))?"
    r" (?P<unit>°C|mm|cm|g)\b"
    r"(?P<apart> (?:hotter|cooler|warmer|lower|higher))?"
)
_IN_MM = {"mm": 1, "cm": 10}
USUAL_F = {4.0: 40.0, -18.0: 0.0}
"""Round figures in °F that go with round ones in °C on appliances (usual household guidance)."""


def marked(text: str) -> str:
    """A text of the app's own (a shipped table's) with the metric figures in it marked."""
    return _WRITTEN.sub(_mark_written, text)


def _mark_written(found: re.Match[str]) -> str:
    low, unit = _number(found["low"]), found["unit"]
    apart = found["apart"] or ""
    high = None if found["high"] is None else _number(found["high"])
    match unit:
        case "°C" if apart:
            return degrees_apart(low) + apart
        case "°C":
            between = None if high is None else degrees_between(low, high)
            return between or degrees(low, USUAL_F.get(low))
        case "g":
            return grams(low) if high is None else grams_between(low, high)
        case _:
            scale = _IN_MM[unit]
            if high is not None and found["by"] == "×":
                return by(low * scale, high * scale)
            if high is not None:
                return length_between(low * scale, high * scale, small=unit == "mm")
            return millimetres(low, 1) if unit == "mm" else centimetres(low * scale)


def _number(text: str) -> float:
    return float(text.replace("−", "-"))
