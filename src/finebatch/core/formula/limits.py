"""How much of anything a card may hold: the same limits on every way in.

What is within them can be kept, opened and given out; what is not is refused with the reason.
"""

from collections.abc import Iterator, Sequence
from dataclasses import fields, replace
from typing import TypeVar

from annotated_types import Ge, Le, MaxLen

from finebatch.core.formula.dough import (
    MOST_CHECK,
    MOST_LINES,
    MOST_PART_LINES,
    MOST_PARTS,
    MOST_SETTLED,
    MOST_STEPS,
    Card,
    Line,
    Part,
)
from finebatch.core.formula.step import Step
from finebatch.core.refusal import Fault
from finebatch.core.values import can_be_kept, limits_of

_OF = {kind: limits_of(kind) for kind in (Line, Step, Part, Card)}
_LETTERS: dict[type, dict[str, int]] = {
    kind: {name: limits[MaxLen].max_length for name, limits in fields_.items() if MaxLen in limits}
    for kind, fields_ in _OF.items()
}
_NUMBERS: dict[type, dict[str, tuple[float, float]]] = {
    kind: {name: (limits[Ge].ge, limits[Le].le) for name, limits in fields_.items() if Ge in limits}
    for kind, fields_ in _OF.items()
}
_COUNTS: dict[type, dict[str, tuple[int, str]]] = {
    Card: {
        "lines": (MOST_LINES, "lines"),
        "steps": (MOST_STEPS, "steps"),
        "parts": (MOST_PARTS, "parts"),
        "settled": (MOST_SETTLED, "dismissed checks"),
    },
    Part: {"lines": (MOST_PART_LINES, "lines in a part")},
}

_NEEDED: dict[type, tuple[str, ...]] = {Part: ("name",)}

Of = TypeVar("Of", Card, Line, Part, Step)


def faults_of(card: Card) -> list[Fault]:
    """What a card has too much of, with where it is."""
    return list(_faults(card, ""))


def _faults(of: Card | Line | Part | Step, where: str) -> Iterator[Fault]:
    kind = type(of)
    for name, (most, what) in _COUNTS.get(kind, {}).items():
        found = len(getattr(of, name))
        if found > most:
            message = f"A dough has at most {most} {what}; this one has {found:,}."
            yield Fault(where + name, message)
    for name, (low, high) in _NUMBERS.get(kind, {}).items():
        number = getattr(of, name)
        if number is not None and not low <= number <= high:
            yield Fault(where + name, f"Give {low:g} to {high:g}, not {_short(number)}.")
    for name in _NEEDED.get(kind, ()):
        if not getattr(of, name).strip():
            yield Fault(where + name, "Write something here.")
    for field in fields(of):
        value = getattr(of, field.name)
        if isinstance(value, str):
            yield from _text_faults(value, where + field.name, _LETTERS[kind].get(field.name))
        elif isinstance(value, tuple):
            for place, inner in enumerate(value[: MOST_LINES + 1]):
                at = f"{where}{field.name}.{place}"
                if isinstance(inner, str):
                    yield from _text_faults(inner, at, MOST_CHECK)
                elif isinstance(inner, Line | Step | Part):
                    yield from _faults(inner, f"{at}.")


def _text_faults(text: str, where: str, most: int | None) -> Iterator[Fault]:
    if most is not None and len(text) > most:
        yield Fault(where, f"Write at most {most} letters; this is {len(text):,}.")
    if not can_be_kept(text):
        yield Fault(where, "There is a broken character in this text. Type it again.")


def _short(number: float) -> str:
    # An integer of any length may stand in a file; its digits may not be written out.
    return f"{number:g}" if isinstance(number, float) or abs(number) < 10**15 else "so many"


def within(card: Card) -> Card:
    """A card as it can be shown, of one that an earlier version kept without looking: texts are
    cut, figures that cannot be are put to the nearest that can, and the note says that."""
    faults = faults_of(card)
    if not faults:
        return card
    return brought_within(_within(card), [fault.field for fault in faults])


def brought_within(mended: Card, where: Sequence[str]) -> Card:
    """The card with a note of what had to be brought within what it can hold."""
    said = "Brought within what a card can hold: " + ", ".join(where[:8]) + "."
    return replace(mended, note=f"{said}\n{mended.note}"[: _LETTERS[Card]["note"]])


def _within(of: Of) -> Of:
    kind = type(of)
    new: dict[str, object] = {}
    for name, (low, high) in _NUMBERS.get(kind, {}).items():
        number = getattr(of, name)
        if number is not None:
            # What is no number at all is not above the least either.
            new[name] = min(number, high) if number >= low else low
    for field in fields(of):
        value = getattr(of, field.name)
        if isinstance(value, str):
            new[field.name] = as_kept(value)[: _LETTERS[kind].get(field.name)]
            if field.name in _NEEDED.get(kind, ()):
                new[field.name] = new[field.name] or "?"
        elif isinstance(value, tuple):
            most = _COUNTS[kind][field.name][0]
            new[field.name] = tuple(
                as_kept(inner)[:MOST_CHECK] if isinstance(inner, str) else _within(inner)
                for inner in value[:most]
            )
    return replace(of, **new)  # type: ignore[arg-type]


def as_kept(text: str) -> str:
    """A text without what cannot be written to a file."""
    return text.encode("utf-8", "replace").decode().replace("\0", "")
