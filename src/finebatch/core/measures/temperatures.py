"""Oven settings as cards write them: °C, °F, gas marks, with or without fan."""

import re
from dataclasses import dataclass
from typing import Literal

TemperatureScale = Literal["C", "F", "gas"]

FAN_LOWER_C = 20.0
"""A fan oven is set about 20 °C lower for the same bake (household tables)."""

_DEGREES = r"(?:°|º|degrees?|degs?\.?)"
_FAN = r"(?:fan(?:[- ]assisted)?|convection)"
_TEMPERATURE = re.compile(
    rf"(?P<fan_before>\b{_FAN}\s*(?:oven)?\s*(?:at|to|:)?\s*)?"
    rf"(?<![\w.,])(?<!\d/)(?P<value>\d{{2,3}})(?P<mark>\s*{_DEGREES})?\s*(?P<scale>(?:C|F|celsius|fahrenheit)\b)?"
    rf"(?P<fan_after>\s*,?\s*\(?\s*{_FAN}\b(?!\s*(?:oven)?\s*(?:at|to|:)?\s*\d))?",
    re.IGNORECASE,
)
_PARTS = {"¼": 0.25, "1/4": 0.25, "½": 0.5, "1/2": 0.5, "¾": 0.75, "3/4": 0.75}
_GAS = re.compile(
    r"\bgas(?:\s*mark)?\s*(?=[\d¼½¾])(?P<whole>\d{1,2}(?![\d/]))?\s*(?P<part>[¼½¾]|[13]/[24])?"
    r"(?![\d/])",
    re.IGNORECASE,
)
_BETWEEN = re.compile(r"\b(?:then|minutes?|mins?|after|reduce|lower|turn)\b", re.IGNORECASE)
MOST_BETWEEN = 18
"""Letters that may stand between two ways of saying one setting."""


@dataclass(frozen=True, slots=True)
class Temperature:
    """An oven temperature as written; `start` and `end` are its place in the text."""

    value: float
    scale: TemperatureScale
    fan: bool
    start: int
    end: int

    @property
    def celsius(self) -> float:
        """The setting in °C, as the dial says it (fan not taken into account)."""
        if self.scale == "C":
            return self.value
        return celsius_of(self.value) if self.scale == "F" else gas_celsius(self.value)

    def __str__(self) -> str:
        fan = " fan" if self.fan else ""
        if self.scale == "gas":
            part = next((sign for sign, size in _PARTS.items() if size == self.value % 1), "")
            return f"gas {int(self.value) or ''}{part}"
        return f"{self.value:g} °{self.scale}{fan}"


def celsius_of(fahrenheit: float) -> float:
    """°F to °C."""
    return (fahrenheit - 32) / 1.8


def fahrenheit_of(celsius: float) -> float:
    """°C to °F."""
    return celsius * 1.8 + 32


def gas_celsius(mark: float) -> float:
    """A gas mark in °C: mark 1 is 275 °F and each mark 25 °F more; ½ is 250 and ¼ is 225 °F."""
    return celsius_of(250 + 25 * mark if mark >= 1 else 200 + 100 * mark)


def nearest_gas(celsius: float) -> str:
    """The gas mark nearest to °C: ``¼``, ``½``, ``1`` to ``10``."""
    marks = {"¼": 0.25, "½": 0.5} | {str(n): float(n) for n in range(1, 11)}
    return min(marks, key=lambda mark: abs(gas_celsius(marks[mark]) - celsius))


def _gas_value(match: re.Match[str]) -> float:
    return float(match["whole"] or 0) + _PARTS.get(match["part"] or "", 0.0)


def _scale(match: re.Match[str]) -> TemperatureScale | None:
    """The scale as written; a bare number with a degree sign or a fan goes by its size."""
    if match["scale"]:
        return "F" if match["scale"][0] in "fF" else "C"
    if match["mark"] or match["fan_before"] or match["fan_after"]:
        return "F" if float(match["value"]) > 260 else "C"
    return None


def find_temperatures(text: str) -> list[list[Temperature]]:
    """Oven settings in a text, in groups: those of one group say the same setting in other ways."""
    found = [
        Temperature(
            float(m["value"]), scale, bool(m["fan_before"] or m["fan_after"]), m.start(), m.end()
        )
        for m in _TEMPERATURE.finditer(text)
        if (scale := _scale(m))
    ]
    found += [
        Temperature(_gas_value(m), "gas", False, m.start(), m.end()) for m in _GAS.finditer(text)
    ]
    groups: list[list[Temperature]] = []
    for one in sorted(found, key=lambda t: t.start):
        between = text[groups[-1][-1].end : one.start] if groups else ""
        if groups and len(between) <= MOST_BETWEEN and not _BETWEEN.search(between):
            groups[-1].append(one)
        else:
            groups.append([one])
    return groups
