"""A job in a baker's words: for Bake and its voice, the run sheet, the calendar and every file.

No other place puts a job into words.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from finebatch.core.care.keeping import KeptAs, RawIn
from finebatch.core.care.warm import NOT_WARM
from finebatch.core.formula.dough import Doneness
from finebatch.core.formula.step import Stage, StepKind
from finebatch.core.heat.cues import Cues
from finebatch.core.heat.minutes import DONE_AT_C, out_at_c
from finebatch.core.heat.oven import HotSide
from finebatch.core.measures.figures import degrees, dial, grams, millimetres
from finebatch.core.method.steps import PLACES, Origin, TypedStep
from finebatch.core.piece.kinds.every import KINDS, PieceKind
from finebatch.core.piece.kinds.says import Says
from finebatch.core.plan.keys import JobKind
from finebatch.core.plan.placed import Placed
from finebatch.core.plan.work import PLAIN_MIX
from finebatch.core.session.amounts import Amounts
from finebatch.core.session.bowls import Bowlful
from finebatch.core.session.job_steps import STAGES, Steps

HOT = "Hot sheet and shelf: dry oven gloves, children stand back."


@dataclass(frozen=True, slots=True)
class SaidStep:
    """One step in a job: the baker's words or the usual ones, minutes of hands (on all of it) and
    of waiting after it, and whose it is. `card_step` is the line of the card's method, from 1,
    `amounts` how much of what it names goes in."""

    kind: StepKind
    text: str
    cue: str
    hands_min: float
    wait_min: float
    origin: Origin
    card_step: int | None
    amounts: str = ""


@dataclass(frozen=True, slots=True)
class Said:
    """A job in words: for one line, for the large print, with what, the cue, the caution, the
    steps of the colour strip that are right, where a colour tells, and what is done in it, step by
    step where that says more."""

    short: str
    title: str
    detail: str
    cue: str
    caution: str | None = None
    colour_from: int | None = None
    colour_to: int | None = None
    steps: tuple[SaidStep, ...] = ()


@dataclass(frozen=True, slots=True)
class DoughSaid:
    """What the words take of a dough: its name, the piece (kind, g, thickness of a slice in mm),
    the oven's setting (°C), how far it is baked and by what one sees that, pieces kept for another
    day, as what and in what (if it `waits` at all), whether they were laid out before, and to what
    the dough is worked for them."""

    letter: str
    name: str
    kind: PieceKind
    grams: float
    oven_c: float
    cues: Cues
    doneness: Doneness
    slice_mm: float | None = None
    kept: int = 0
    keep_as: KeptAs = "dough"
    keep_in: RawIn = "freezer"
    waits: bool = True
    laid: bool = False
    worked: str = ""

    @property
    def says(self) -> Says:
        """What its kind says of itself."""
        return KINDS[self.kind].SAYS


@dataclass(frozen=True, slots=True)
class TraySaid:
    """What the words take of a tray: pieces, minutes of each bake, scraps, the word of its size."""

    name: str
    pieces: int
    bakes: tuple[int, ...]
    scraps: bool = False
    size: str = ""


@dataclass(frozen=True, slots=True)
class Scene:
    """What a session's jobs are said by. `heats` are the heatings of all ovens, in order,
    `steps` what of the method is done in each job, `oven` what is said of turning it on, `bowls`
    what each mixing of a dough is of, where one bowl does not hold it, `amounts` what its steps
    name."""

    doughs: Mapping[str, DoughSaid] = field(default_factory=dict)
    trays: Mapping[str, TraySaid] = field(default_factory=dict)
    heats: Sequence[Placed] = ()
    ovens: int = 1
    sheet_names: Sequence[str] = ()
    hot_sides: Sequence[HotSide] = ()
    steps: Steps = field(default_factory=dict)
    oven: Sequence[TypedStep] = ()
    bowls: Mapping[str, Sequence[Bowlful]] = field(default_factory=dict)
    amounts: Mapping[str, Amounts] = field(default_factory=dict)

    def dough(self, job: Placed) -> DoughSaid | None:
        """The dough that a job is of; the first where it is of none."""
        return self.doughs.get(job.dough or "", next(iter(self.doughs.values()), None))


def length(minutes: int) -> str:
    """Minutes as one says them: ``45 min``, ``1 h 05``."""
    hours, rest = divmod(minutes, 60)
    if not hours:
        return f"{rest} min"
    return f"{hours} h {rest:02}" if rest else f"{hours} h"


def say(job: Placed, scene: Scene) -> Said:
    """A job of the hands, or of the oven's dial, in words."""
    said = _SAY.get(job.kind, _rack)(job, scene)
    steps = steps_along(job, scene)
    if not steps or (len(steps) == 1 and said.title == steps[0].text.rstrip(" .;,")):
        return said
    told = tuple(
        SaidStep(
            s.kind,
            s.text if s.where is None else f"{s.text.rstrip(' .')} ({PLACES[s.where]}).",
            s.cue,
            s.hands_min or 0.0,
            s.wait_min,
            s.origin,
            s.card_step,
            _amounts(job, s, scene),
        )
        for s in steps
    )
    cautions = [c for c in (*(s.caution for s in steps), said.caution) if c]
    caution = max(cautions, key=len) if cautions else None
    return replace(said, steps=told, caution=caution)


def _amounts(job: Placed, step: TypedStep, scene: Scene) -> str:
    """How much goes in with a step: of a dough that is mixed in several bowls its share."""
    letter = job.dough or ""
    named = scene.amounts.get(letter, {}).get((step.card_step, step.text), ())
    bowls = scene.bowls.get(letter, ()) if job.kind == "mix" else ()
    share = bowls[job.id.round].share if job.id.round < len(bowls) else 1.0
    return ", ".join(f"{name} {grams(g * share)}" for name, g in named)


def steps_along(job: Placed, scene: Scene) -> Sequence[TypedStep]:
    """The steps in a job, with those of the wait that follows it."""
    along = _SEEN_WITH.get(job.kind)
    after = scene.steps.get(job.id.to(along), ()) if along else ()
    return (*steps_in(job, scene), *after)


_SEEN_WITH: Mapping[JobKind, JobKind] = {
    "form": "chill",
    "mix": "wait",
    "portion": "stand",
    "load": "bake",
    "rack": "rest",
    "finish": "set",
}
"""The wait that follows a job: what the card says of it is read with the job."""


def steps_in(job: Placed, scene: Scene) -> Sequence[TypedStep]:
    """The steps of the method that are done in a job, or while something waits."""
    if job.kind == "heat":
        return scene.oven if scene.heats and job.id == scene.heats[0].id else ()
    return scene.steps.get(job.id, ())


def _several(scene: Scene) -> bool:
    return len(scene.doughs) > 1


def _pieces(job: Placed, scene: Scene) -> str:
    tray, dough = scene.trays.get(job.tray or ""), scene.dough(job)
    what = dough.says.counted if dough is not None else "pieces"
    return f"{tray.pieces if tray else 0} {what}"


def _on(job: Placed, scene: Scene) -> str:
    names = scene.sheet_names
    return f" on {names[job.sheet - 1]}" if job.sheet and job.sheet <= len(names) else ""


def _of(job: Placed, scene: Scene) -> str:
    dough = scene.dough(job)
    return dough.name if dough else ""


def lower(text: str) -> str:
    """With a small letter first, for the middle of a line."""
    return text[:1].lower() + text[1:]


def _heat(job: Placed, scene: Scene) -> Said:
    """Turning the oven on, or its dial to another heat: whoever does it need not wait there."""
    own = [heat for heat in scene.heats if heat.oven == job.oven]
    place = next((n for n, heat in enumerate(own) if heat.id == job.id), 0)
    before = own[place - 1] if place else None
    oven = _oven_of(job, scene.ovens)
    cold = before is None or before.dial_c == job.dial_c or job.off_min > 0
    return Said(
        short=f"{oven} on, {dial(job.dial_c or 0)}"
        if cold
        else f"{oven} to {dial(job.dial_c or 0)}",
        title=f"Turn {oven} on" if cold else f"Turn {oven} to {dial(job.dial_c or 0)}",
        detail=f"dial at {dial(job.dial_c or 0)}; ready in {length(job.end - job.start)}",
        cue="Shelves where they are wanted, the thermometer in the middle."
        if cold
        else "Door shut: the next tray waits until it is there.",
        caution="Look inside first: nothing is kept in it." if cold else None,
    )


def _mix(job: Placed, scene: Scene) -> Said:
    plain = f"Mix dough {job.dough}" if _several(scene) else "Mix the dough"
    bowls = scene.bowls.get(job.dough or "", ())
    of = f"; {bowls[job.id.round]}" if job.id.round < len(bowls) else ""
    return Said(
        short=lower(plain),
        title=job.what if job.what and job.what != PLAIN_MIX else plain,
        detail=f"{_of(job, scene)}, about {length(job.end - job.start)}{of}",
        cue="Stop as soon as the flour is gone, or it turns tough.",
        caution="Raw flour and egg: do not taste. Mixer off before a hand goes in.",
    )


def _ready(job: Placed, scene: Scene) -> Said:
    return Said(
        short=lower(job.what) or "get ready",
        title=job.what or "Get ready",
        detail=f"{_of(job, scene)}, about {length(job.end - job.start)}",
        cue="Everything at hand before the first fat is creamed.",
    )


def _form(job: Placed, scene: Scene) -> Said:
    which = f"dough {job.dough}" if _several(scene) else "the dough"
    return Said(
        short=lower(job.what) or f"wrap {which}",
        title=job.what or f"Wrap {which}",
        detail=f"{_of(job, scene)}, about {length(job.end - job.start)}",
        cue="Airtight, and flat or thin: so it is cold all through sooner. Then into the fridge.",
        caution="Raw flour and egg: do not taste. Hands washed after.",
    )


def _fetch(job: Placed, scene: Scene) -> Said:
    which = f"dough {job.dough}" if _several(scene) else "the dough"
    return Said(
        short=f"{which} out of the fridge",
        title=f"Take {which} out of the fridge",
        detail=_of(job, scene),
        cue="It gives a little under a thumb; what is not worked at once goes back.",
        caution=f"With egg or dairy: {NOT_WARM}.",
    )


def _take(job: Placed, scene: Scene) -> Said:
    which = f"dough {job.dough}" if _several(scene) else "the dough"
    title = job.what.replace(" it ", f" {which} ")
    return Said(
        short=lower(title),
        title=title,
        detail=_of(job, scene),
        cue="Wrapped, on a plate: it thaws there while other things go on."
        if job.cold == "thaws"
        else "Wrapped until it is worked, so that no water settles on it.",
        caution=f"With egg or dairy: {NOT_WARM}.",
    )


def _part(job: Placed, scene: Scene) -> Said:
    return Said(
        short=f"make the {job.what}",
        title=f"Make the {job.what}",
        detail=f"for {_of(job, scene)}, about {length(job.end - job.start)}",
        cue="Keep it covered until it is wanted.",
    )


def _freeze(job: Placed, scene: Scene) -> Said:
    dough = scene.dough(job)
    rest = f"dough {job.dough}" if _several(scene) else "the dough"
    kept, where = (dough.kept, dough.keep_in) if dough else (0, "freezer")
    return Said(
        short=f"wrap the rest of {job.dough}",
        title=_KEPT.get(dough.keep_as if dough else "dough", "Wrap {rest}").format(
            rest=f"the rest of {rest}"
        ),
        detail=f"{_of(job, scene)}: {kept} pieces for another day, into the {where}",
        cue="Airtight, with the day on it. Done puts it into the cold store; its label can be "
        "printed at the end.",
        caution="Raw flour and egg: do not taste. Hands washed after.",
    )


_KEPT: Mapping[KeptAs, str] = {
    "log": "Roll {rest} into a log, wrap it",
    "disc": "Flatten {rest} to a disc, wrap it",
    "portions": "Portion {rest}, wrap the pieces",
}
"""How the rest of a dough is put away; in any other shape it is wrapped as a lump."""


def _wash(job: Placed, scene: Scene) -> Said:
    return Said(
        short="wash the bowl",
        title="Wash bowl and beaters",
        detail=f"after {_of(job, scene)}",
        cue="Dry before the next dough goes in. No less between doughs that look alike: traces of "
        "nuts, egg and milk stay behind.",
        caution="Mixer unplugged. Hands washed as well after raw egg and flour.",
    )


def _clear(_job: Placed, _scene: Scene) -> Said:
    return Said(
        short="clear up",
        title="Clear up",
        detail="the oven off; all washed; what was kept in the cold has its day on it",
        cue="Oven off, and nothing left in it.",
        caution="The oven and its racks stay hot for a while.",
    )


def _shape(job: Placed, scene: Scene) -> Said:
    dough, name = scene.dough(job), f"tray {job.tray}"
    return Said(
        short=f"shape {name}",
        title=f"{dough.says.hot if dough else 'Shape'} {name}",
        detail=_pieces(job, scene),
        cue=(dough.says.after if dough else "") or "At once, while they are soft.",
        caution="Hot wafers and pans burn: a cloth, and children stand back.",
    )


_FINISHES: Mapping[StepKind, str] = {
    "ice": "Ice",
    "dip": "Dip",
    "drizzle": "Drizzle",
    "dust": "Dust",
    "sandwich": "Sandwich",
    "decorate": "Decorate",
    "coat": "Coat",
}


def finished_by(job: Placed, scene: Scene) -> str:
    """What the card does last with cold pieces, where it says that."""
    told = (_FINISHES.get(step.kind) for step in steps_in(job, scene))
    return next(filter(None, told), "Finish")


def _finish(job: Placed, scene: Scene) -> Said:
    name = f"{finished_by(job, scene)} tray {job.tray}"
    return Said(
        short=lower(name),
        title=name,
        detail=f"{_pieces(job, scene)}, cold all through",
        cue="Icing runs off what is warm.",
    )


def _portion(job: Placed, scene: Scene) -> Said:
    dough, tray, name = scene.dough(job), scene.trays.get(job.tray or ""), f"tray {job.tray}"
    pieces, on = _pieces(job, scene), _on(job, scene)
    if dough is not None and dough.laid:
        return Said(
            short=f"lay out {name}",
            title=f"Lay out {name}",
            detail=f"{pieces}{on}, as they were portioned",
            cue="As cold as they are: they are foreseen so.",
        )
    each, work = grams(dough.grams if dough else 0), dough.says.work if dough else "Portion"
    if dough is not None and dough.says.portioned:
        detail = dough.says.portioned.format(grams=each, pieces=pieces)
    else:
        sized = f", the {tray.size} ones" if tray and tray.size else f" of {each}"
        sized += f", {dough.worked}" if dough and dough.worked else ""
        detail = f"{pieces}{sized}{on}{', from the scraps' if tray and tray.scraps else ''}"
    return Said(
        short=f"{lower(work)} {name}",
        title=f"{work} {name}",
        detail=detail,
        cue="All the same size bake the same.",
    )


def _minutes(job: Placed, scene: Scene) -> int:
    tray = scene.trays.get(job.tray or "")
    return tray.bakes[job.id.round] if tray and job.id.round < len(tray.bakes) else 0


def _load(job: Placed, scene: Scene) -> Said:
    dough = scene.dough(job)
    at = job.dial_c if job.dial_c is not None else dough.oven_c if dough else 180.0
    return Said(
        short=f"tray {job.tray} into the oven",
        title=f"Tray {job.tray} into the oven",
        detail=f"shelf {job.shelf or 1}, {_minutes(job, scene)} min, dial at {dial(at)}",
        cue="Slices flat on the sheet, cut side up."
        if job.id.round
        else "Press done when the door is shut: the minutes count from then.",
        caution=HOT,
    )


def _turn(job: Placed, scene: Scene) -> Said:
    name = f"tray {job.tray}"
    if job.id.round:
        detail = "turn each slice over"
    elif job.to_shelf:
        detail = f"to shelf {job.to_shelf}, front to back"
    else:
        sides, oven = scene.hot_sides, job.oven or 1
        side = sides[oven - 1] if oven <= len(sides) else "even"
        # What browns first changes sides.
        detail = "front to back" + ("" if side == "even" else f": the {side} is hotter")
    return Said(
        short=f"turn {name}",
        title=f"Swap {name} with {job.partner}" if job.to_shelf else f"Turn {name}",
        detail=detail,
        cue="Be quick: an open door costs heat.",
        caution=HOT,
    )


def _out(job: Placed, scene: Scene) -> Said:
    dough = scene.dough(job)
    after = dough.says.after if dough else ""
    cue = after or _done_cue(dough, second=job.id.round > 0)
    return Said(
        short=f"take tray {job.tray} out",
        title=f"Take tray {job.tray} out{_then_off(job, scene.ovens)}",
        detail=f"{_pieces(job, scene)}, {_minutes(job, scene)} min in all",
        cue=f"{cue} {_off(job, scene)}".strip(),
        caution=HOT,
        colour_from=dough.cues.colour_from if dough else None,
        colour_to=dough.cues.colour_to if dough else None,
    )


def _off(job: Placed, scene: Scene) -> str:
    """Why the oven is turned off after a tray: it would stand hot and empty for long."""
    if not job.off_min:
        return ""
    return f"Nothing goes into {_oven_of(job, scene.ovens)} for {length(job.off_min)}."


def _then_off(job: Placed, ovens: int) -> str:
    """That the oven is turned off after a tray."""
    if not job.off_min:
        return ""
    return f", then turn {_oven_of(job, ovens)} off"


def _oven_of(job: Placed, ovens: int) -> str:
    """What the oven of a job is called where there are so many."""
    return f"oven {job.oven or 1}" if ovens > 1 else "the oven"


def _done_cue(dough: DoughSaid | None, *, second: bool) -> str:
    """By what one sees that it is done; slices that dry again are told by their touch."""
    if second:
        return "Dry to the touch on both sides; they harden as they cool."
    if dough is None:
        return ""
    cues = dough.cues
    return (
        f"Edges {cues.edges}; top {cues.top}; underneath {cues.underside}; {cues.touch}; "
        f"smells {cues.smell}. {goes_on(dough.doneness)}"
    )


def goes_on(doneness: Doneness) -> str:
    """That a piece goes on baking on its hot sheet, and where a probe tells, from what to what."""
    out_c = out_at_c(doneness)
    if out_c is None:
        return "It goes on cooking on the sheet."
    return (
        f"Out at about {degrees(out_c)} inside: on the hot sheet it goes on to "
        f"{degrees(DONE_AT_C[doneness])}."
    )


def _slice(job: Placed, scene: Scene) -> Said:
    dough = scene.dough(job)
    slice_mm = dough.slice_mm if dough and dough.slice_mm is not None else 13.0
    return Said(
        short=f"slice tray {job.tray}",
        title=f"Slice tray {job.tray}",
        detail=f"{_pieces(job, scene)}, slices of {millimetres(slice_mm, 1)}, laid flat",
        cue="Serrated knife, long strokes; press a crumbling end together.",
        caution="The logs are still hot inside, the knife is sharp.",
    )


def _rack(job: Placed, scene: Scene) -> Said:
    return Said(
        short=f"tray {job.tray} to the rack",
        title=f"Tray {job.tray} to the rack",
        detail=f"{_pieces(job, scene)}; then cool, wipe and line the sheet",
        cue="They have set when one lifts without bending.",
    )


_SAY: Mapping[JobKind, Callable[[Placed, Scene], Said]] = {
    "heat": _heat,
    "ready": _ready,
    "mix": _mix,
    "form": _form,
    "fetch": _fetch,
    "take": _take,
    "wash": _wash,
    "clear": _clear,
    "part": _part,
    "freeze": _freeze,
    "shape": _shape,
    "finish": _finish,
    "portion": _portion,
    "load": _load,
    "turn": _turn,
    "out": _out,
    "slice": _slice,
}


_LIES: Mapping[JobKind, str] = {
    "stand": "stands",
    "wait": "rests on the bench",
    "chill": "is in the fridge",
    "temper": "comes to working temperature",
    "bake": "is in the oven",
    "rest": "stays on the sheet",
    "cool": "cools on the rack",
    "set": "sets",
    "sheet": "is off its sheet, which is cooled, wiped and lined",
}
"""What nobody does: something lies somewhere."""


def lies(job: Placed) -> str:
    """What goes on while nobody does anything, in words."""
    what = f"Tray {job.tray}" if job.tray else f"Dough {job.dough}"
    if job.kind == "chill" and job.cold == "thaws":
        return f"{what} thaws in the fridge"
    if job.kind == "stand" and not job.tray:
        return f"{job.what}: softens or cools"
    return f"{what} {_LIES[job.kind]}"


def stage_of(job: Placed) -> Stage:
    """The part of the work that a job belongs to."""
    return "make" if job.kind == "stand" and job.tray else STAGES[job.kind]


_LINES: Mapping[JobKind, str] = {
    "portion": "Portion tray {job.tray}",
    "load": "Tray {job.tray} into the oven",
    "turn": "Turn tray {job.tray}",
    "out": "Take tray {job.tray} out",
    "shape": "Shape or re-cut tray {job.tray}",
    "slice": "Slice tray {job.tray}",
    "rack": "Tray {job.tray} to the rack",
    "finish": "Finish tray {job.tray}",
    "fetch": "Take dough {job.dough} out of the fridge",
    "freeze": "Wrap the rest of dough {job.dough}",
    "wash": "Wash the bowl after dough {job.dough}",
    "clear": "Clear up",
    "part": "Dough {job.dough}: make the {job.what}",
}


def line(job: Placed) -> str:
    """A job in one line of a list in which trays and doughs go by their letters."""
    if job.kind == "heat":
        oven = _oven_of(job, job.oven or 1)
        return f"Turn {oven} to {dial(job.dial_c or 0)} on its dial"
    if job.kind in ("ready", "mix", "form", "take"):
        return f"Dough {job.dough}: {job.what or 'mix'}"
    told = _LINES[job.kind].format(job=job)
    if job.kind == "load" and job.dial_c is not None:
        return f"{told}, dial at {dial(job.dial_c)}"
    return told + (_then_off(job, job.oven or 1) if job.kind == "out" else "")


def place_of(job: Placed) -> str:
    """Where a job is done: the sheet, and the shelf of the oven."""
    parts = []
    if job.shelf is not None:
        oven = f"oven {job.oven}, " if job.oven and job.oven > 1 else ""
        parts.append(f"{oven}shelf {job.shelf}")
    if job.sheet is not None:
        parts.append(f"sheet {job.sheet}")
    return ", ".join(parts) or job.place
