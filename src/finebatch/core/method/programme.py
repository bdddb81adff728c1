"""The programme of a dough: its typed steps put where they are done, in stretches of work.

It is the source of the planner's work: a stretch is one job of the hands, with its steps in it and
the wait after it. What the card leaves out is filled in as usual, and says so.
"""

import math
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

from finebatch.core.formula.dough import Family
from finebatch.core.formula.step import StepKind
from finebatch.core.method.steps import (
    COLD,
    COOLED,
    DECORATES,
    GET_READY,
    LIES,
    MAKES,
    MIXING,
    Habits,
    TypedStep,
    step_of,
)

LiesAs = Literal["log", "disc", "lump"]
"""As what a dough lies in the cold."""
StretchKind = Literal["ready", "mix", "form"]
"""What comes before the trays: getting ready, mixing, and shaping for the cold."""
TrayJob = Literal[
    "portion", "bake", "turn", "out", "shape", "rest", "slice", "rack", "cool", "finish", "set"
]
"""What is done with a tray, as the planner's jobs are called."""

MIXES: frozenset[StepKind] = MIXING | {"sift"}
FORMS: frozenset[StepKind] = frozenset({"divide", "disc", "log", "lump", "wrap"})
_COOLS = re.compile(r"\b(?:cool|cold|lukewarm)\b", re.IGNORECASE)
_ON_THE_SHEET: frozenset[StepKind] = frozenset({"log"})
"""What a dough that is baked twice is shaped to where it bakes, not for the cold."""
FINISHES: frozenset[StepKind] = DECORATES | {"coat", "make_part"}
_JOB_OF: Mapping[StepKind, TrayJob] = {
    "bake": "bake",
    "second_bake": "bake",
    "turn": "turn",
    "out": "out",
    "recut": "shape",
    "curve": "shape",
    "rest_sheet": "rest",
    "slice_log": "slice",
    "to_rack": "rack",
    "cool": "cool",
    "set": "set",
    "pack": "set",
}


@dataclass(frozen=True, slots=True)
class Stretch:
    """One job of the hands before the trays, and the wait after it, in minutes. `cold` says that
    it lies in the fridge or freezer meanwhile."""

    kind: StretchKind
    steps: tuple[TypedStep, ...]
    hands_min: int
    wait_min: int = 0
    wait_most_min: int | None = None
    cold: bool = False


@dataclass(frozen=True, slots=True)
class TraySteps:
    """What is done in one job on a tray; in `round` 1 of a dough that is baked twice."""

    job: TrayJob
    steps: tuple[TypedStep, ...]
    round: int = 0


@dataclass(frozen=True, slots=True)
class Programme:
    """All steps of a dough, by the job in which they are done.

    `ready` are the stretches that come before mixing, each by itself; `makes` follow one another:
    mixing, then shaping for the cold. `out` is done when the dough comes out of the cold, `heat`
    when the oven is turned on, `part` when a wash or an icing is made, `keep` when the rest of the
    dough is put away. It has to be in the oven `bake_within` minutes after it is mixed, where the
    card says so.
    """

    ready: tuple[Stretch, ...] = ()
    makes: tuple[Stretch, ...] = ()
    out: tuple[TypedStep, ...] = ()
    heat: tuple[TypedStep, ...] = ()
    part: tuple[TypedStep, ...] = ()
    keep: tuple[TypedStep, ...] = ()
    trays: tuple[TraySteps, ...] = ()
    bake_within: float | None = None

    def on_tray(self, job: TrayJob, number: int = 0) -> tuple[TypedStep, ...]:
        """The steps of one job on each tray."""
        found = (one.steps for one in self.trays if (one.job, one.round) == (job, number))
        return next(found, ())

    def kinds(self, job: TrayJob) -> frozenset[StepKind]:
        """The kinds of steps in a job on a tray, whatever the round."""
        return frozenset(s.kind for one in self.trays if one.job == job for s in one.steps)

    def wait(self, job: TrayJob, number: int = 0) -> TypedStep | None:
        """The step of that job that waits, where the card says for how long."""
        timed = (step for step in self.on_tray(job, number) if step.wait_min)
        return next(timed, None)

    @property
    def mixing(self) -> tuple[TypedStep, ...]:
        """All that is done before the trays, in order."""
        return tuple(s for one in (*self.ready, *self.makes) for s in one.steps)

    @property
    def stand(self) -> TypedStep | None:
        """What portioned trays wait for before they are baked: to be firm again, or dry."""
        waits = (s for s in self.on_tray("portion") if s.kind in LIES)
        return next((step for step in waits if step.wait_min), None)

    @property
    def temper_min(self) -> float:
        """Minutes on the bench once out of the cold, as the card says."""
        return sum(step.wait_min for step in self.out)


@dataclass(frozen=True, slots=True)
class About:
    """What of a dough its usual steps depend on: a batch of so many kilograms, whether its fat is
    to be soft, the minutes in the cold, and as what it lies there. `paces` are how long this
    baker takes for each kind of stretch, against the usual, and for each kind of step within it."""

    family: Family
    kg: float
    soft_fat: str = ""
    chill_min: int = 0
    kept_as: LiesAs = "lump"
    without: frozenset[StepKind] = frozenset()
    paces: Mapping[str, float] = field(default_factory=dict)


@dataclass(slots=True)
class _Making:
    about: About
    habits: Habits
    ready: list[list[TypedStep]] = field(default_factory=list)
    makes: list[tuple[StretchKind, list[TypedStep], TypedStep | None]] = field(default_factory=list)
    open: list[TypedStep] = field(default_factory=list)
    forming: list[TypedStep] = field(default_factory=list)
    out: list[TypedStep] = field(default_factory=list)
    heat: list[TypedStep] = field(default_factory=list)
    part: list[TypedStep] = field(default_factory=list)
    keep: list[TypedStep] = field(default_factory=list)
    trays: dict[tuple[TrayJob, int], list[TypedStep]] = field(default_factory=dict)
    mixed: bool = False
    made: bool = False
    bakes: int = 0

    def take(self, step: TypedStep) -> None:
        """Put a step where it is done."""
        step, kind = self._cooled(step), step.kind
        if kind == "heat_oven":
            self.heat.append(step)
        elif self.bakes or kind in _JOB_OF:
            self._after(step)
        elif self.made or kind in MAKES or self._log_on_tray(kind):
            self.made = True
            self.trays.setdefault(("portion", 0), []).append(step)
        elif kind in GET_READY and not self.mixed:
            self._ready(step)
        elif kind in MIXES | GET_READY or kind == "rest_bench":
            self._mix(step)
        elif kind in FORMS:
            self.forming.append(step)
        elif kind in COLD:
            self._chill(step)
        elif kind in ("take_out", "temper"):
            self.out.append(step)
        elif kind == "turn_log":
            self.forming.append(step)
        else:
            self._after(step)

    def _cooled(self, step: TypedStep) -> TypedStep:
        """What is toasted or melted and then left to cool waits as long as is usual, where the card
        names no minutes."""
        cools = step.kind == "soften" or _COOLS.search(step.text)
        if step.kind not in COOLED or step.wait_min or not cools:
            return step
        return replace(step, wait_min=self.habits[step.kind].wait_min)

    def _log_on_tray(self, kind: StepKind) -> bool:
        return self.about.family == "twice_baked" and kind in _ON_THE_SHEET

    def _ready(self, step: TypedStep) -> None:
        """Each wait by itself: while nuts cool the butter softens."""
        if step.wait_min or step.kind == "soften":
            self.ready.append([step])
            return
        self._together().append(step)

    def _together(self) -> list[TypedStep]:
        """What is got ready in one, for nothing waits after it."""
        found = next((one for one in self.ready if one and not one[-1].wait_min), None)
        if found is None:
            found = []
            self.ready.append(found)
        return found

    def _mix(self, step: TypedStep) -> None:
        self.mixed |= step.kind in MIXES
        if self.forming:
            # What is worked on after it was divided is mixing all the same.
            self.open += self.forming
            self.forming = []
        self.open.append(step)
        if step.wait_min:
            self.makes.append(("mix", self.open, step))
            self.open = []

    def _chill(self, step: TypedStep) -> None:
        self._close()
        self.makes.append(("form", [*self.forming, step], step))
        self.forming = []

    def _close(self) -> None:
        if self.open:
            self.makes.append(("mix", self.open, None))
            self.open = []

    def _after(self, step: TypedStep) -> None:
        kind = step.kind
        if kind in ("bake", "second_bake"):
            self.bakes += 1
        number = 1 if self.bakes > 1 and self.about.family == "twice_baked" else 0
        job = _JOB_OF.get(kind)
        if kind in ("make_part", "keep_rest"):
            (self.part if kind == "make_part" else self.keep).append(step)
            return
        if job is None:
            job = "finish" if kind in FINISHES else "cool"
        if job in ("finish", "set", "cool", "rack", "slice", "shape"):
            number = 0
        self.trays.setdefault((job, number), []).append(step)

    # What the card leaves out

    def fill(self) -> None:
        """The usual steps that it does not name."""
        self._close()
        ready = {step.kind for steps in self.ready for step in steps}
        chilled = any(kind == "form" for kind, _, _ in self.makes)
        if "weigh" not in ready:
            self._usual_ready("weigh", "Weigh everything out.", "habit")
        if self.about.soft_fat and "soften" not in ready:
            words = f"Take {self.about.soft_fat} out of the fridge."
            self._usual_ready("soften", words, "usual")
        stands = any(step.kind in COLD for step in self.trays.get(("portion", 0), ()))
        if self.about.chill_min and not chilled and not stands:
            self._usual_chill()
        elif self.forming:
            self.makes.append(("form", self.forming, None))

    def _usual_ready(self, kind: StepKind, text: str, origin: Literal["usual", "habit"]) -> None:
        if kind in self.about.without:
            return
        wait = self.habits[kind].wait_min
        step = TypedStep(kind, text, wait_min=wait, origin=origin)
        if kind == "soften":
            self.ready.insert(0, [step])
            return
        self._together().insert(0, step)

    def _usual_chill(self) -> None:
        shape: dict[str, tuple[StepKind, str]] = {
            "log": ("log", "Shape it into logs."),
            "disc": ("disc", "Flatten it to a disc."),
        }
        formed = {step.kind for step in self.forming}
        usual: list[tuple[StepKind, str]] = []
        if self.about.kept_as in shape and not formed & {"log", "disc", "divide", "lump"}:
            usual.append(shape[self.about.kept_as])
        if "wrap" not in formed:
            usual.append(("wrap", "Wrap it airtight."))
        steps = [
            TypedStep(kind, text, origin="usual")
            for kind, text in usual
            if kind not in self.about.without
        ]
        words = "Put it into the fridge."
        wait = TypedStep("chill", words, wait_min=self.about.chill_min, origin="usual")
        self.makes.append(("form", [*self.forming, *steps, wait], wait))
        self.forming = []

    # The answer

    def programme(self) -> Programme:
        """What was taken and filled in, with its minutes."""
        makes = [self._stretch(kind, steps, wait) for kind, steps, wait in self.makes]
        ready = [self._stretch("ready", steps, steps[-1]) for steps in self.ready]
        last = max((n for n, one in enumerate(makes) if one.cold), default=None)
        if last is not None:
            # The tray's own setting says how long it is chilled before it is portioned.
            least, most = self.about.chill_min, makes[last].wait_most_min
            most = most if most is not None and most > least else None
            cold = least > 0
            makes[last] = replace(makes[last], wait_min=least, wait_most_min=most, cold=cold)
        return Programme(
            tuple(ready),
            tuple(makes),
            tuple(self.out),
            tuple(self.heat),
            tuple(self.part),
            tuple(self.keep),
            tuple(TraySteps(job, tuple(steps), n) for (job, n), steps in self.trays.items()),
        )

    def _stretch(
        self, kind: StretchKind, steps: Sequence[TypedStep], wait: TypedStep | None
    ) -> Stretch:
        pace = self.about.paces.get(kind, 1.0)
        paces = self.about.paces
        own = sum(self.hands(step) * paces.get(step_of(step.kind), 1.0) for step in steps)
        hands = round(own * pace)
        if wait is None:
            return Stretch(kind, tuple(steps), max(hands, 1))
        most = None if wait.wait_most_min is None else math.floor(wait.wait_most_min)
        return Stretch(
            kind,
            tuple(steps),
            max(hands, 1),
            math.ceil(wait.wait_min),
            most,
            cold=wait.kind in COLD,
        )

    def hands(self, step: TypedStep) -> float:
        """Minutes of hands of a step: as the card or the baker says, else as usual."""
        if step.hands_min is not None:
            return step.hands_min
        return self.habits[step.kind].hands_for(self.about.kg)


def programme_of(steps: Iterable[TypedStep], about: About, habits: Habits) -> Programme:
    """The programme of a dough with those steps, in their order; what they leave out as usual."""
    making = _Making(about, habits)
    for step in steps:
        if step.origin == "card" or step.kind not in about.without:
            making.take(step)
    making.fill()
    return making.programme()
