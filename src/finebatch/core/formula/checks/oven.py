"""Oven settings that do not agree with each other, or with any bake."""

import re
from collections.abc import Iterator, Sequence

from finebatch.core.formula.checks.check import Check, Mend
from finebatch.core.formula.dough import Card
from finebatch.core.measures.figures import degrees, degrees_apart, dial
from finebatch.core.measures.temperatures import (
    FAN_LOWER_C,
    Temperature,
    celsius_of,
    fahrenheit_of,
    find_temperatures,
    nearest_gas,
)

LOWEST_C, HIGHEST_C = 110.0, 245.0
"""Ovens for cookies stay inside this."""

ROUNDING_C, GAS_ROUNDING_C, FAN_ROUNDING_C = 7.0, 9.0, 6.0
"""How far two ways of saying one setting may be apart by rounding alone."""


def _texts(card: Card) -> Iterator[tuple[str, int | None, str]]:
    """Where a card speaks of the oven: the path, the step's number, the text."""
    if card.stated_oven:
        yield "stated_oven", None, card.stated_oven
    for n, step in enumerate(card.steps):
        yield f"steps.{n}", n, step.text


COOLEST_OVEN: dict[str, float] = {"C": 90.0, "F": 150.0, "gas": 0.0}
_SPEAKS_OF_OVEN = re.compile(r"\b(?:bak(?:e|ed|ing)|oven|pre-?heat)\b", re.IGNORECASE)


def is_of_oven(group: Sequence[Temperature], text: str) -> bool:
    """Whether a temperature is an oven's: not that of a syrup or a bowl over hot water."""
    warm = all(one.value < COOLEST_OVEN[one.scale] for one in group)
    return not warm or _SPEAKS_OF_OVEN.search(text) is not None


def _nearest_5(value: float) -> int:
    return 5 * round(value / 5)


def _rewrite(
    label: str, text: str, step: int | None, changes: list[tuple[Temperature, str]]
) -> Mend:
    for old, new in sorted(changes, key=lambda change: -change[0].start):
        written = text[old.start : old.end]
        trailing = written[len(written.rstrip()) :]
        text = text[: old.start] + new + trailing + text[old.end :]
    if step is None:
        return Mend(label, stated_oven=text)
    return Mend(label, step=step, step_text=text)


def possible(celsius: float) -> bool:
    """Whether an oven for cookies is set so."""
    return LOWEST_C <= celsius <= HIGHEST_C


def _alone(one: Temperature, text: str, step: int | None, where: str) -> Check | None:
    """A single setting that no oven for cookies is set to."""
    if one.scale == "gas" or possible(one.celsius):
        return None
    other = "F" if one.scale == "C" else "C"
    meant = celsius_of(one.value) if one.scale == "C" else one.value
    likely, mend = "Check the card.", None
    if possible(meant):
        written = f"{one.value:g} °{other}"
        likely = f"{written}, that is about {dial(5 * round(meant / 5))}."
        mend = _rewrite(f"Make it {written}", text, step, [(one, written)])
    return Check(
        f"oven:{where}:{one}",
        where,
        "No oven bakes cookies at that",
        f"“{text}”: that is {degrees(one.celsius)}.",
        likely,
        mend,
    )


def _pair(
    c: Temperature,
    f: Temperature,
    gas: Temperature | None,
    text: str,
    step: int | None,
    where: str,
) -> Check | None:
    """°C beside °F: swapped, or badly rounded. A gas mark that agrees with one of them decides."""
    if abs(c.value - f.celsius) <= ROUNDING_C:
        return None
    key, evidence = (
        f"oven:{where}:{c}:{f}",
        f"“{text}”: {f} is {f.celsius:.0f} °C, not {c.value:g}.",
    )
    if abs(f.value - celsius_of(c.value)) <= ROUNDING_C:
        changes = [(c, f"{c.value:g} °F"), (f, f"{f.value:g} °C")]
        mend = _rewrite(f"Make it {f.value:g} °C, {c.value:g} °F", text, step, changes)
        return Check(
            key,
            where,
            "°C and °F are swapped",
            evidence,
            f"{f.value:g} °C, which is {c.value:g} °F.",
            mend,
        )
    keep_c = possible(c.value) and (not possible(f.celsius) or c.value % 10 == 0)
    if gas:
        keep_c = abs(gas.celsius - c.value) <= abs(gas.celsius - f.celsius)
        evidence = f"{evidence} {gas} is about {dial(gas.celsius)}."
    if keep_c:
        right = f"{_nearest_5(fahrenheit_of(c.value))} °F"
        mend = _rewrite(f"Make it {right}", text, step, [(f, right)])
        likely = f"{c}, that is {right}."
    else:
        right = f"{_nearest_5(f.celsius)} °C"
        mend = _rewrite(f"Make it {right}", text, step, [(c, right)])
        likely = f"{f}, that is {right}."
    return Check(key, where, "°C and °F do not match", evidence, likely, mend)


def _gas(
    gas: Temperature, other: Temperature, text: str, step: int | None, where: str
) -> Check | None:
    if abs(gas.celsius - other.celsius) <= GAS_ROUNDING_C:
        return None
    right = nearest_gas(other.celsius)
    mend = _rewrite(f"Make it gas {right}", text, step, [(gas, f"gas {right}")])
    return Check(
        f"oven:{where}:{gas}:{other}",
        where,
        "The gas mark does not match",
        f"“{text}”: {gas} is about {dial(gas.celsius)}, not {degrees(other.celsius)}.",
        f"{other}, about gas {right}.",
        mend,
    )


def _fan(
    fan: Temperature, still: Temperature, text: str, step: int | None, where: str
) -> Check | None:
    wanted = still.celsius - FAN_LOWER_C
    if abs(fan.celsius - wanted) <= FAN_ROUNDING_C + 4:
        return None
    in_f = fan.scale == "F"
    right = f"{_nearest_5(fahrenheit_of(wanted) if in_f else wanted)} °{'F' if in_f else 'C'} fan"
    return Check(
        f"oven:{where}:{fan}:{still}",
        where,
        "The fan setting does not match",
        f"“{text}”: a fan oven is set {degrees_apart(FAN_LOWER_C)} lower than "
        f"{degrees(still.celsius)}.",
        right + ".",
        _rewrite(f"Make it {right}", text, step, [(fan, right)]),
    )


def _group(
    group: list[Temperature], text: str, step: int | None, where: str
) -> Iterator[Check | None]:
    still = [t for t in group if not t.fan]
    by_scale = {t.scale: t for t in reversed(still)}
    c, f, gas = by_scale.get("C"), by_scale.get("F"), by_scale.get("gas")
    if c and f:
        pair = _pair(c, f, gas, text, step, where)
        yield pair
        if pair:
            return
    elif c or f:
        alone = _alone(c or f, text, step, where)  # type: ignore[arg-type]
        yield alone
        if alone:
            return
    reference = c or f
    if gas and reference:
        yield _gas(gas, reference, text, step, where)
    for fan in (t for t in group if t.fan):
        if reference or gas:
            yield _fan(fan, reference or gas, text, step, where)  # type: ignore[arg-type]


def oven_settings(card: Card) -> list[Check]:
    """Every oven setting that the card states, against itself."""
    found: list[Check] = []
    for where, step, text in _texts(card):
        for group in find_temperatures(text):
            if where != "stated_oven" and not is_of_oven(group, text):
                continue
            found += [check for check in _group(group, text, step, where) if check]
    return found
