"""What a kind of portioning says of itself, to a baker and to the screens."""

from dataclasses import dataclass
from typing import Literal

from finebatch.core.values import Range

As = Literal[
    "figure", "ball", "count", "choice", "scoop", "cutter", "pan", "evenness", "shared_out"
]
"""How something is asked for: a figure, a ball's width where that is what is told, whole pieces by
steps, one of some ways; by a scoop, cutter or pan of the kitchen; how even portions are; or in how
many pieces all of the dough goes."""
Value = bool | str
DrawnIn = Literal["form", "portion", "slice", "shape"]
"""A job of the hands beside which a drawing helps."""


@dataclass(frozen=True, slots=True)
class InProportion:
    """A field that changes in proportion, with the power of the factor."""

    field: str
    power: int


@dataclass(frozen=True, slots=True)
class When:
    """A field, and the values of it at which something is asked."""

    field: str
    values: tuple[Value, ...]


@dataclass(frozen=True, slots=True)
class Handle:
    """A figure that a baker moves on a ruler.

    `typed` is what the field to type it in is called; `range` and `step` are the ruler's. What is
    set to nothing by a move stands in `clears`: until then the figure is not what is told, but what
    comes out.
    """

    field: str
    label: str
    typed: str
    unit: str
    range: Range
    step: float
    along: tuple[InProportion, ...] = ()
    clears: tuple[str, ...] = ()


MASS = Handle("grams", "Mass of a piece", "A piece weighs", "g", (10, 90), 1)
THICKNESS = Handle("thickness_mm", "Thickness on the ruler", "Thickness", "mm", (2, 20), 0.5)
"""What several kinds have in common; the range of the ruler is that of most."""


@dataclass(frozen=True, slots=True)
class Way:
    """One of some ways: its value, and what it is called."""

    value: Value
    label: str


@dataclass(frozen=True, slots=True)
class Ask:
    """Something else that is set of a piece.

    `aside` is the heading under which it is folded away. Of its box a cutter's own outline usually
    fills a `share`.
    """

    field: str
    label: str
    shown_as: As = "figure"
    unit: str = "mm"
    step: float = 1
    ways: tuple[Way, ...] = ()
    when: When | None = None
    aside: str = ""
    share: float = 1.0


@dataclass(frozen=True, slots=True)
class Advice:
    """A sentence beside the fields; a caution stands out."""

    text: str
    caution: bool = False


@dataclass(frozen=True, slots=True)
class Says:
    """A kind in words.

    `label` completes “the dough is …”; `tab` names its own drawing, if it has one. On a tray lie
    `counted`, on what is called `holder`; `across` names the baked width (nothing where the holder
    decides it) and `whole` the whole piece, where that is another thing. `work` is what is done to
    make the pieces, `after` what cannot wait once a tray is out, `hot` what is done then; `slab`
    says that there is one to roll.
    `portioned` tells a tray that is not portioned piece by piece, of the `{grams}` that it takes
    and its `{pieces}`; `unweighed` says why pieces are not weighed one by one. Its own drawing is
    shown beside the jobs that it is `drawn_in`. Some of a dough's pieces may differ in one of its
    choices, its `also_field`. `measured` asks for the width that goes into the book; a photograph
    of the tray shows it, or not (`by_photo`).
    """

    label: str
    tab: str = ""
    counted: Literal["pieces", "logs"] = "pieces"
    holder: Literal["tray", "pan"] = "tray"
    across: str = "across"
    whole: str = ""
    after: str = ""
    hot: str = "Shape"
    work: str = "Portion"
    slab: bool = False
    portioned: str = ""
    unweighed: str = ""
    notes: tuple[Advice, ...] = ()
    drawn_in: tuple[DrawnIn, ...] = ("portion",)
    also_field: str = ""
    measured: str = "How wide are they, across the middle"
    by_photo: bool = True
