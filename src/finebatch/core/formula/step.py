"""A step of the method, as a card writes it down, and the kinds of steps that there are."""

from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval, MaxLen

from finebatch.core.values import FromOutside, Text

Stage = Literal[
    "get_ready",
    "mix",
    "shape",
    "chill",
    "make",
    "bake",
    "after",
    "finish",
    "keep",
    "between",
]
"""The parts of the work, in order; what is between doughs comes between them."""

StepKind = Literal[
    # get ready
    "weigh",
    "soften",
    "toast",
    "melt",
    "chop",
    "zest",
    "infuse",
    "sift",
    "line",
    "heat_oven",
    # mix
    "cream",
    "beat_in",
    "rub_in",
    "whisk",
    "fold_in",
    "bring_together",
    "knead",
    "rest_bench",
    # shape and chill
    "divide",
    "disc",
    "log",
    "lump",
    "wrap",
    "chill",
    "freeze",
    "turn_log",
    "take_out",
    "temper",
    # make the pieces
    "roll",
    "cut",
    "slice",
    "scoop",
    "ball",
    "press",
    "dent",
    "rope",
    "pipe",
    "spread",
    "press_pan",
    "score",
    "prick",
    "coat",
    "wash",
    "top",
    "fill",
    # bake
    "bake",
    "turn",
    "out",
    "recut",
    "curve",
    "second_bake",
    # after
    "rest_sheet",
    "slice_log",
    "to_rack",
    "cool",
    # finish
    "make_part",
    "ice",
    "dip",
    "drizzle",
    "dust",
    "sandwich",
    "decorate",
    "set",
    "pack",
    # keep, between
    "keep_rest",
    "wash_bowl",
    "clear_up",
]

Per = Literal["session", "dough", "tray", "piece"]
Where = Literal["bench", "bowl", "stove", "fridge", "freezer", "oven", "sheet", "rack"]
"""What a step's minutes are of, and where it is done."""
Saying = Annotated[Text, MaxLen(300)]
StepText = Annotated[Text, MaxLen(1000)]


@dataclass(frozen=True, slots=True)
class Step(FromOutside):
    """One step of the method: minutes of hands and of waiting, the cue to look for, a caution.

    Without a `kind` its words say what it is, which may be several things one after the other.
    Given one it is just that; it then waits for at most `wait_most_min` where that is given, and
    takes `each_s` seconds a piece. Minutes or seconds of 0 are not said: the usual ones are taken.
    Its minutes of hands are `per` the whole dough or a tray, and it is done `where` that is said;
    else as is usual for its kind.
    """

    text: StepText
    hands_min: Annotated[int, Interval(ge=0, le=240)] = 0
    wait_min: Annotated[int, Interval(ge=0, le=2880)] = 0
    cue: Saying = ""
    caution: Saying = ""
    kind: StepKind | None = None
    wait_most_min: Annotated[int, Interval(ge=0, le=2880)] | None = None
    each_s: Annotated[float, Interval(ge=0, le=600)] = 0.0
    per: Literal["dough", "tray", "piece"] | None = None
    where: Where | None = None
