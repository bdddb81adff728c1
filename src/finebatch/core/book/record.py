"""What a baker writes down after a bake: what was measured, seen, felt and tasted."""

from collections.abc import Container
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval, Len, MaxLen

from finebatch.core.book.pictured import MOST_PIECES, Pictured
from finebatch.core.measures.figures import degrees_between, length_between, millimetres
from finebatch.core.refusal import Fault, Refusal
from finebatch.core.values import FromOutside, Id, Text

COLOURS = ("raw", "pale", "blond", "gold", "amber", "brown", "dark")
"""The colour strip, lightest first; the book keeps the step's number, counted from 1."""

Edges = Literal["even", "ragged", "lacy", "dark"]
Texture = Literal["soft", "tender", "chewy", "sandy", "crisp", "crumbly", "hard", "tough", "greasy"]
Verdict = Literal["again", "change", "never"]
TASTES = (
    "buttery",
    "nutty",
    "caramel",
    "toasted",
    "spicy",
    "fruity",
    "floral",
    "salty",
    "sweet",
    "bitter",
    "bland",
    "floury",
    "eggy",
    "soapy",
)
"""Words for taste to choose from; a baker's own may stand beside them."""

Measured = Annotated[float, Interval(ge=-1e6, le=1e6)]
"""Any figure; one that cannot be is refused with what can (see `check_record`)."""

NARROWEST_MM, WIDEST_MM = 10.0, 400.0
LOWEST_MM, HIGHEST_MM = 1.0, 120.0
COOLEST_C, HOTTEST_C = 50.0, 350.0
MOST_TASTES = 12
MOST_WIDTHS = MOST_PIECES
MOST_MINUTES = 240.0
MOST_NOTE = 2000


@dataclass(frozen=True, slots=True)
class Seen(FromOutside):
    """What was seen, felt and tasted; nothing of it is compulsory.

    Heights in mm; `oven_c` is what a thermometer in the oven read; `troubles` are keys of
    `troubles.csv`; `version` the number of the dough's version that was baked; `pictured` what a
    photograph of the tray measured.
    """

    heights_mm: Annotated[tuple[Measured, ...], MaxLen(24)] = ()
    oven_c: Measured | None = None
    edges: Edges | None = None
    texture: Annotated[tuple[Texture, ...], MaxLen(9)] = ()
    tastes: Annotated[tuple[Annotated[Text, Len(1, 30)], ...], MaxLen(MOST_TASTES)] = ()
    verdict: Verdict | None = None
    troubles: Annotated[tuple[Annotated[Text, MaxLen(40)], ...], MaxLen(14)] = ()
    version: Annotated[int, Interval(ge=1, le=100_000)] | None = None
    pictured: Pictured | None = None


@dataclass(frozen=True, slots=True)
class Record(FromOutside):
    """What a baker writes down: widths in mm, minutes, the colour's step, a note, what was seen."""

    NEEDED = ("widths_mm",)

    dough_id: Id
    session_id: Id | None = None
    tray: Annotated[Text, MaxLen(8)] | None = None
    widths_mm: Annotated[tuple[Measured, ...], MaxLen(MOST_WIDTHS)] = ()
    minutes: Measured | None = None
    colour: Annotated[int, Interval(ge=1, le=len(COLOURS))] | None = None
    note: Annotated[Text, MaxLen(MOST_NOTE)] = ""
    seen: Seen = Seen()


def check_record(record: Record, troubles: Container[str]) -> None:
    """`Refusal` for figures that cannot be, and for a trouble that is none of `troubles`."""
    faults = [
        Fault(
            f"widths_mm.{n}",
            f"{millimetres(width, 1)} is not the width of a piece. Give "
            f"{length_between(NARROWEST_MM, WIDEST_MM, small=True)}.",
        )
        for n, width in enumerate(record.widths_mm)
        if not NARROWEST_MM <= width <= WIDEST_MM
    ]
    if record.minutes is not None and not 1 <= record.minutes <= MOST_MINUTES:
        faults.append(Fault("minutes", f"Give 1 to {MOST_MINUTES:g} minutes in the oven."))
    seen = record.seen
    faults += [
        Fault(
            f"seen.heights_mm.{n}",
            f"{millimetres(height, 1)} is not the height of a piece. Give "
            f"{length_between(LOWEST_MM, HIGHEST_MM, small=True)}.",
        )
        for n, height in enumerate(seen.heights_mm)
        if not LOWEST_MM <= height <= HIGHEST_MM
    ]
    if seen.oven_c is not None and not COOLEST_C <= seen.oven_c <= HOTTEST_C:
        faults.append(Fault("seen.oven_c", f"Give {degrees_between(COOLEST_C, HOTTEST_C)}."))
    strange = [key for key in seen.troubles if key not in troubles]
    if strange:
        faults.append(Fault("seen.troubles", f"There is no trouble called “{strange[0]}”."))
    said = replace(seen, version=None) != Seen()
    figures = (record.minutes, record.colour, record.note.strip() or None, said or None)
    if not record.widths_mm and all(figure is None for figure in figures):
        faults.append(Fault("widths_mm", "Measure a piece, or write down what came out."))
    if faults:
        raise Refusal(*faults)
