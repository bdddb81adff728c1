"""A step of the method that says what it is: its kind, its minutes, where, on what, from whom."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.formula.step import Per, Stage, StepKind, Where

GET_READY: frozenset[StepKind] = frozenset(
    {"weigh", "soften", "toast", "melt", "chop", "zest", "infuse", "line"}
)
"""Done before the first fat is creamed; some of them in the midst of mixing as well."""
COOLED: frozenset[StepKind] = frozenset({"toast", "melt", "infuse", "soften"})
"""Kinds after which something cools or softens: a second time that such a step names is waited."""
MIXING: frozenset[StepKind] = frozenset(
    {"cream", "beat_in", "rub_in", "whisk", "fold_in", "bring_together", "knead"}
)
"""By these there is a dough."""
COLD: frozenset[StepKind] = frozenset({"chill", "freeze"})
LIES: frozenset[StepKind] = COLD | {"rest_bench"}
"""A dough, or a tray of it, lies somewhere before the oven."""
SHAPING: frozenset[StepKind] = frozenset(
    {"roll", "cut", "slice", "scoop", "ball", "rope", "pipe", "press_pan", "spread"}
)
"""By these a dough becomes pieces."""

MAKES: frozenset[StepKind] = SHAPING | {
    "press",
    "dent",
    "score",
    "prick",
    "coat",
    "wash",
    "top",
    "fill",
}
"""What is done to pieces before they are baked."""
DECORATES: frozenset[StepKind] = frozenset(
    {"ice", "dip", "drizzle", "dust", "sandwich", "decorate"}
)
ON_PIECES: frozenset[StepKind] = MAKES | DECORATES | {"recut", "curve"}
"""What is done with pieces: a time that a card names with it is the oven's, or a wait."""

Origin = Literal["card", "usual", "habit"]
"""From the card, from the usual method of such a dough, or from the kitchen's habit."""


PLACES: Mapping[Where, str] = {
    "bench": "on the bench",
    "bowl": "in the bowl",
    "stove": "on the stove",
    "fridge": "in the fridge",
    "freezer": "in the freezer",
    "oven": "in the oven",
    "sheet": "on the sheet",
    "rack": "on the rack",
}
"""Where something is done, in words."""


@dataclass(frozen=True, slots=True)
class StepHabits:
    """What a kind of step usually takes: its stage, minutes of hands for a batch of a kilogram and
    what a batch of another size adds or saves for each (`per_kg_min`), seconds a piece, minutes of
    waiting after it, and where it is done. `source` says where the figures are from.
    """

    kind: StepKind
    label: str
    stage: Stage
    per: Per
    where: Where
    hands_min: Annotated[float, Interval(ge=0)]
    per_kg_min: Annotated[float, Interval(ge=0)]
    each_s: Annotated[float, Interval(ge=0)]
    wait_min: Annotated[int, Interval(ge=0)]
    source: str

    def hands_for(self, kg: float) -> float:
        """Minutes of hands for a batch of so many kilograms; never less than half of the usual."""
        return max(self.hands_min + self.per_kg_min * (kg - 1), self.hands_min / 2)


STEP = "step "


def step_of(kind: StepKind) -> str:
    """The key of the pace of a kind of step: how long it takes against the others of its job."""
    return f"{STEP}{kind}"


Habits = Mapping[StepKind, StepHabits]


@dataclass(frozen=True, slots=True)
class TypedStep:
    """One step: `hands_min` of work on the whole dough or, of a tray's, `each_s` seconds on each
    piece; then at least `wait_min` and at most `wait_most_min` of waiting. Minutes of hands that
    nobody has said are none, and the usual ones are taken. What it is `per` and `where` it is done
    are as usual for its kind where nobody has said that.

    `card_step` is the line of the card's method that says it, from 1; none for what is usual.
    """

    kind: StepKind
    text: str
    hands_min: float | None = None
    each_s: float | None = None
    wait_min: float = 0.0
    wait_most_min: float | None = None
    where: Where | None = None
    per: Per | None = None
    cue: str = ""
    caution: str = ""
    origin: Origin = "card"
    card_step: int | None = None
