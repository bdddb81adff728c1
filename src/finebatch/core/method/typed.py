"""The steps of a card, each typed: its kind and its minutes, from its words or as the baker set
them."""

from collections.abc import Iterator, Mapping, Sequence

from finebatch.core.formula.card_text import read_step
from finebatch.core.formula.step import Step, StepKind, Where
from finebatch.core.method.clauses import Clause, clauses_of
from finebatch.core.method.steps import COOLED, LIES, ON_PIECES, Origin, TypedStep

WAITING: frozenset[StepKind] = frozenset(
    {"rest_bench", "chill", "freeze", "temper", "bake", "second_bake", "rest_sheet", "cool", "set"}
)
"""Kinds that are a wait and nothing else."""
LONGEST_STIRRED = 8.0
"""For so many minutes somebody stands by a pan; longer it is in the oven, or steeps."""


def typed_steps(steps: Sequence[Step], origin: Origin = "card") -> tuple[TypedStep, ...]:
    """The steps of a method in order, typed. One whose kind is given is one step; the words of any
    other say what it is, which may be several."""
    by_line: dict[int, list[Clause]] = {}
    for clause in clauses_of(["" if step.kind else step.text for step in steps]):
        by_line.setdefault(clause.line, []).append(clause)
    found: list[TypedStep] = []
    for number, step in enumerate(steps, start=1):
        line = number if origin == "card" else None
        if step.kind is not None:
            found.append(_given(step, step.kind, origin, line))
        else:
            found += _read(step, by_line.get(number, []), origin, line)
    return tuple(found)


def _given(step: Step, kind: StepKind, origin: Origin, line: int | None) -> TypedStep:
    return TypedStep(
        _lying(kind, step.where),
        step.text,
        hands_min=float(step.hands_min) if step.hands_min or kind in WAITING else None,
        each_s=step.each_s or None,
        wait_min=float(step.wait_min),
        wait_most_min=None if step.wait_most_min is None else float(step.wait_most_min),
        where=step.where,
        per=step.per,
        cue=step.cue,
        caution=step.caution,
        origin=origin,
        card_step=line,
    )


_LIES_IN: Mapping[Where, StepKind] = {
    "fridge": "chill",
    "freezer": "freeze",
    "bench": "rest_bench",
}


def _lying(kind: StepKind, where: Where | None) -> StepKind:
    """What lies somewhere is called by where it lies."""
    return _LIES_IN.get(where, kind) if where is not None and kind in LIES else kind


def _read(
    step: Step, clauses: Sequence[Clause], origin: Origin, line: int | None
) -> Iterator[TypedStep]:
    """What the words of a step say, and where the baker has set other minutes those."""
    read = read_step(step.text)
    hands = float(step.hands_min) if step.hands_min != read.hands_min else None
    wait = float(step.wait_min) if step.wait_min != read.wait_min else None
    last = len(clauses) - 1
    waits = [n for n, clause in enumerate(clauses) if clause.kind in WAITING]
    waited = waits[-1] if waits else last
    for n, clause in enumerate(clauses):
        worked, least, most = _minutes(clause)
        if hands is not None and clause.kind not in WAITING:
            worked = hands / max(len(clauses) - len(waits), 1)
        if wait is not None and n == waited:
            least, most = wait, None
        yield TypedStep(
            _lying(clause.kind, step.where),
            clause.text,
            hands_min=worked,
            wait_min=least,
            wait_most_min=most,
            where=step.where,
            per=step.per,
            cue=step.cue if n == last else "",
            caution=step.caution if n == last else "",
            origin=origin,
            card_step=line,
        )


def _minutes(clause: Clause) -> tuple[float | None, float, float | None]:
    """Minutes of hands (none where it names none), and of waiting, least and most."""
    times = list(clause.minutes)
    if clause.kind in WAITING:
        low, high = times[0] if times else (0.0, 0.0)
        return 0.0, low, high if high > low else None
    if clause.kind in ON_PIECES:
        return None, 0.0, None
    worked = None if not times else (times[0][0] + times[0][1]) / 2
    if clause.kind in COOLED and len(times) > 1:
        return worked, times[1][0], None
    if clause.kind in COOLED and worked is not None and worked > LONGEST_STIRRED:
        return 1.0, worked, None
    return worked, 0.0, None
