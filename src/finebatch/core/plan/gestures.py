"""How long hands take for what the method tells to do with a tray, and with each piece on it.

A step says its minutes of the whole dough or of each tray, or its seconds a piece; what it does not
say is as usual for its kind. What makes the pieces (rolling and cutting, scooping, slicing) is in
the family's seconds a piece, unless its steps say minutes of their own.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from finebatch.core.method.steps import SHAPING, Habits, TypedStep, step_of


@dataclass(frozen=True, slots=True)
class OnTray:
    """A tray of so many `pieces`, of all those of its dough. `paces` are how long these hands take
    for each kind of step within its job."""

    pieces: int
    of_all: int
    habits: Habits
    paces: Mapping[str, float]

    def seconds(self, step: TypedStep) -> float:
        """Seconds of a step on this tray, by these hands."""
        return self.usual_s(step) * self.paces.get(step_of(step.kind), 1.0)

    def usual_s(self, step: TypedStep) -> float:
        """The same by anybody's hands."""
        usual = self.habits[step.kind]
        per = step.per or usual.per
        if per == "piece" and (step.each_s is not None or not step.hands_min):
            return self.pieces * (usual.each_s if step.each_s is None else step.each_s)
        minutes = usual.hands_min if step.hands_min is None else step.hands_min
        if per == "tray":
            return 60 * minutes
        return 60 * minutes * self.pieces / max(self.of_all, 1)

    def all_seconds(self, steps: Iterable[TypedStep]) -> float:
        """Seconds of several."""
        return sum(map(self.seconds, steps))

    def portioning_s(self, steps: Sequence[TypedStep], family_s: float) -> float:
        """Seconds to make the pieces of this tray and do with them what is told: `family_s` a piece
        is what making them usually takes."""
        shaping = [step for step in steps if step.kind in SHAPING]
        told = [step for step in shaping if says_how_long(step)]
        left = 1 - len(told) / len(shaping) if shaping else 1.0
        others = [step for step in steps if step.kind not in SHAPING]
        return self.pieces * family_s * left + self.all_seconds([*told, *others])


def says_how_long(step: TypedStep) -> bool:
    """Whether somebody has said how long hands take for it."""
    return bool(step.hands_min) or step.each_s is not None
