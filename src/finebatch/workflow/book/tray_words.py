"""What is asked of the process that measures a photograph of a tray, and what it answers.

Apart from that process (`tray_apart`): who only asks need not load what measures.
"""

from typing import Literal, TypedDict

Corner = tuple[float, float]
Found = Literal["sure", "about", "none"]
"""Whether the sheet's corners are known, are to be looked at, or are not found at all."""


class Asked(TypedDict):
    """A photograph (base64), the corners of the sheet's bottom as shares of its width and height
    (upper left, upper right, lower right, lower left; none: they are looked for), the sheet's inner
    size (mm) and colour, whether it is lined, whether pieces lie beside it, about how high and
    wide they are, and where they were to lie (mm)."""

    photo: str
    corners: list[Corner] | None
    sheet_mm: tuple[float, float]
    sheet_rgb: tuple[float, float, float]
    lined: bool
    beside: bool
    height_mm: float
    about_mm: float
    places_mm: list[Corner]


class Seen(TypedDict):
    """A piece as it was seen: where, its mean and its least width and the one across that (mm); its
    outline as shares of the photograph's width and height."""

    middle_mm: tuple[float, float]
    sizes_mm: tuple[float, float, float]
    step: float
    outline: list[Corner]
    touches: list[int]
    gap_mm: float | None


class Answer(TypedDict):
    """The corners that were gone by, how well they are known, the pieces, and circles where one
    should lie and none is seen."""

    found: Found
    corners: list[Corner]
    pieces: list[Seen]
    empty: list[list[Corner]]
