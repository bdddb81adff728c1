"""A plan that was made from cards, as JSON: each activity in words, with the steps in it."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from finebatch.core.formula.step import StepKind
from finebatch.core.measures.figures import read_in
from finebatch.core.method.steps import TypedStep
from finebatch.core.plan.keys import JobKind
from finebatch.core.plan.placed import Placed, Plan
from finebatch.core.plan.quick import by_hand_min
from finebatch.core.plan.work import Work
from finebatch.core.session.over_words import overs_said
from finebatch.core.session.words import Scene, lies, place_of, say, stage_of, steps_in
from finebatch.formats.moments import later

USUAL_KIND: dict[JobKind, StepKind] = {
    "ready": "weigh",
    "stand": "rest_bench",
    "heat": "heat_oven",
    "mix": "beat_in",
    "wait": "rest_bench",
    "form": "wrap",
    "chill": "chill",
    "take": "take_out",
    "fetch": "take_out",
    "temper": "temper",
    "portion": "scoop",
    "load": "bake",
    "bake": "bake",
    "turn": "turn",
    "out": "out",
    "shape": "recut",
    "rest": "rest_sheet",
    "slice": "slice_log",
    "rack": "to_rack",
    "cool": "cool",
    "sheet": "line",
    "part": "make_part",
    "finish": "ice",
    "set": "set",
    "freeze": "keep_rest",
    "wash": "wash_bowl",
    "clear": "clear_up",
}
"""What is done in a job of which the card says nothing."""


def write_card_plan(work: Work, plan: Plan, scene: Scene, base: datetime) -> dict[str, Any]:
    """The plan with its minute 0 at `base`: `finish` is when all is cold and set."""

    def at(minute: int) -> str:
        return later(base, minute).isoformat()

    begin = plan.begin if work.ready_by is not None else 0
    return {
        "start": at(plan.begin),
        "finish": at(plan.finish),
        "bound": at(plan.bound),
        "proven": plan.proven,
        "by_hand": at(begin + by_hand_min(work)),
        "overs": list(overs_said(work, plan, {d.letter: d.name for d in scene.doughs.values()})),
        "doughs": [{"letter": dough.letter, "name": dough.name} for dough in scene.doughs.values()],
        "trays": [{"name": tray.name, "pieces": tray.pieces} for tray in scene.trays.values()],
        "activities": [
            _activity(job, work, scene) | {"start": at(job.start), "end": at(job.end)}
            for job in plan.activities
        ],
    }


def _activity(job: Placed, work: Work, scene: Scene) -> dict[str, Any]:
    said = say(job, scene) if job.told else None
    steps = steps_in(job, scene)
    title = read_in(said.title if said else lies(job))
    workers = work.kitchen.workers
    return {
        "id": f"{job.id}",
        "kind": job.kind,
        "stage": stage_of(job),
        "dough": job.dough,
        "tray": job.tray,
        "title": title,
        "says": read_in(said.detail) if said else title,
        "cue": read_in(said.cue) if said else "",
        "caution": read_in(said.caution) if said and said.caution else "",
        "from": _origin(job, steps),
        "steps": [_step(step, job) for step in steps] or [_usual(job, title)],
        "place": "fridge" if job.place == "cold" else place_of(job),
        "who": workers[job.who].name if job.who is not None else None,
        "oven": job.oven,
        "shelf": job.shelf,
        "sheet": job.sheet,
        "dial_c": job.dial_c,
    }


HABITS: frozenset[JobKind] = frozenset({"wash", "clear"})
"""What the kitchen does between and after doughs, whatever their cards say."""


def _origin(job: Placed, steps: Sequence[TypedStep]) -> str:
    """Whose a job is: the card's where it says any of it."""
    if job.kind in HABITS:
        return "habit"
    found = {step.origin for step in steps}
    return next((origin for origin in ("card", "usual", "habit") if origin in found), "usual")


def _step(step: TypedStep, job: Placed) -> dict[str, Any]:
    hands = step.hands_min
    if hands is None:
        hands = float(job.end - job.start) if job.hands else 0.0
    return {
        "card_step": step.card_step,
        "kind": step.kind,
        "text": step.text,
        "hands_min": hands,
        "wait_min": step.wait_min,
    }


def _usual(job: Placed, title: str) -> dict[str, Any]:
    minutes = job.end - job.start
    return {
        "card_step": None,
        "kind": USUAL_KIND[job.kind],
        "text": title,
        "hands_min": minutes if job.hands else 0,
        "wait_min": 0 if job.hands else minutes,
    }
