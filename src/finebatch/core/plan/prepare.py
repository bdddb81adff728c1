"""From foreseen trays to the work that the planner places: how long each job takes these hands."""

import math
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.care.keeping import KeptAs
from finebatch.core.care.warm import WARM_MOST_MIN
from finebatch.core.formula.dough import Family, Mixing, PartKind
from finebatch.core.formula.step import StepKind
from finebatch.core.measures.rounding import whole_minutes
from finebatch.core.method.programme import Programme, Stretch
from finebatch.core.method.steps import COLD, Habits, TypedStep
from finebatch.core.piece.kinds.every import AnyKind
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.sizes import Sized
from finebatch.core.piece.tray import TrayAnswer
from finebatch.core.plan.gestures import OnTray, says_how_long
from finebatch.core.plan.lots import in_lots
from finebatch.core.plan.work import (
    BATTER_WITHIN_MIN,
    PLAIN_MIX,
    Bake,
    DoughWork,
    Kitchen,
    Make,
    PartWork,
    TrayWork,
    Work,
)

LAY_SHEET_MIN = 1
LEAST_TURN_MIN = 6
SLICE_LOG_MIN = 4
WRAP_MIN = 2
SHAPE_REST_MIN = 2
"""To shape what is left into a log or a disc (household practice: two to four minutes in all)."""
STANDS_MIN = 15
LONGEST_LABEL = 48
TAKE_MIN = 1
FIRST_WITHIN_MIN = 30
"""Dough that has come to its working temperature stays workable on the bench for so long: about
what a disc, log or lump takes from the middle of its range to the warm end (see `chilling`)."""
HOT_WITHIN_MIN = 2
"""What is cut hot shatters once it is cold: the knife is there by then (household practice)."""
LONGEST_WINDOW = 240
"""A longer upper end of a card's chilling is no window: it only says that it may lie."""
REST_BY_G = ((40.0, 3), (100.0, 5))
LARGE_REST_MIN = 12
"""Minutes on the sheet of a drop piece of less than so many grams, and of a larger one: it grows
with the size (household practice: three to five, ten to fifteen over 100 g)."""
LAID_WITHIN_MIN = 10
"""Portions are laid out about as cold as they were kept: small ones warm by a third in that time
(see `chilling`)."""
LAY_OUT_S = 3.0
"""Seconds to lay a piece that was portioned before on its sheet (household practice)."""

Joins = Literal["fresh", "fridge", "freezer"]
"""Where a dough comes from: mixed in the session, or kept cold from before."""


@dataclass(frozen=True, slots=True)
class FamilyHabits:
    """A family's usual portion, dough and oven (°C) and times (minutes, seconds)."""

    family: Family
    label: str
    piece: AnyKind
    dough_temp_c: float
    oven_c: float
    chill_min: Annotated[int, Interval(ge=0)]
    portion_s: Annotated[float, Interval(gt=0)]
    rest_min: Annotated[int, Interval(ge=0)]
    cool_min: Annotated[int, Interval(ge=0)]
    source: str


@dataclass(frozen=True, slots=True)
class PartHabits:
    """How long a kind of part takes: to make, on each piece, and to set; when it is wanted, and how
    long before that it may be made."""

    kind: PartKind
    hands_min: Annotated[int, Interval(ge=1)]
    wanted: Literal["portion", "finish"]
    each_s: Annotated[float, Interval(ge=0)]
    set_min: Annotated[int, Interval(ge=0)]
    within_min: Annotated[int, Interval(ge=1)]
    source: str


@dataclass(frozen=True, slots=True)
class Portioned:
    """One dough of a session, foreseen in trays.

    `trays` are the pieces on each tray; all of the answer's when not given. `kept` pieces are
    kept for another day, `keep_as` where not as is usual. `also` are its pieces of other sizes.
    `oven_c` is a still oven's setting. `out` are the steps out of the cold with the minutes that
    each waits, for one that does not join fresh; then it is tempered for `temper_min`. `laid`
    pieces were portioned before and are only laid out. `pace` is how much longer than usual this
    baker takes to portion, `paces` to do other jobs, `shares` those of each bowl, `pool`
    the kind of sheet or pan. Without `turns` a tray is left alone in the oven; in all the dough is
    warm for `warm_most` minutes; `cold_on_sheet`: a tray stays on its sheet until it is cold.
    None is portioned before minute `bake_from`.
    """

    letter: str
    answer: TrayAnswer
    piece: Portioning
    habits: FamilyHabits
    programme: Programme
    mixing: Mixing
    parts: Sequence[tuple[PartKind, str]]
    oven_c: float
    joins: Joins = "fresh"
    out: Sequence[Make] = ()
    temper_min: int = 0
    night_temper_min: int = 0
    laid: bool = False
    trays: Sequence[int] | None = None
    kept: int = 0
    pace: float = 1.0
    paces: Mapping[str, float] = field(default_factory=dict)
    also: Sequence[Sized] = ()
    shares: Sequence[float] = (1.0,)
    pool: int = 0
    turns: bool = True
    warm_most: int = WARM_MOST_MIN
    cold_on_sheet: bool = False
    bake_from: int = 0
    keep_as: KeptAs | None = None


def bake_of(minutes: float, oven_c: float = 180, *, turns: bool = True) -> Bake:
    """A stay in the oven in whole minutes, turned at half unless it is too short for that."""
    whole = whole_minutes(minutes)
    turn = whole // 2 if turns and whole >= LEAST_TURN_MIN else None
    return Bake(whole, turn, round(oven_c))


def _label(text: str) -> str:
    """A step in short: its first sentence, no longer than a line."""
    first = text.split(". ", maxsplit=1)[0].split("; ", maxsplit=1)[0]
    short = first.strip().rstrip(".,;") or PLAIN_MIX
    if len(short) <= LONGEST_LABEL:
        return short
    return short[:LONGEST_LABEL].rsplit(" ", 1)[0] + "…"


def _small(text: str) -> str:
    return text[:1].lower() + text[1:]


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def _make(stretch: Stretch) -> Make:
    """A stretch of the method as one job: called by what is done last in it where something waits
    for that, by all of it where it is no mixing."""
    steps = [step for step in stretch.steps if step.kind not in COLD] or stretch.steps
    words = [_label(step.text) for step in steps]
    if stretch.kind != "mix":
        label = _label(", ".join([*words[:1], *map(_small, words[1:])]))
    else:
        label = words[-1] if stretch.wait_min and words else PLAIN_MIX
    return Make(
        _capital(label), stretch.hands_min, stretch.wait_min, stretch.kind, cold=stretch.cold
    )


def _makes(programme: Programme, mixes: int) -> tuple[tuple[Make, ...], int, int | None]:
    """The jobs of mixing and forming, as often as the bowl is filled; then the minutes in the cold
    after the last of them, least and most."""
    mixing = [_make(one) for one in programme.makes if one.kind == "mix"] or [Make(PLAIN_MIX, 1)]
    forming = [one for one in programme.makes if one.kind == "form"]
    found = mixing * mixes + [_make(one) for one in forming]
    last = forming[-1] if forming else None
    if last is None or not last.cold:
        return tuple(found), 0, None
    found[-1] = replace(found[-1], wait_min=0, cold=False)
    most = last.wait_most_min
    return tuple(found), last.wait_min, most if most is None or most <= LONGEST_WINDOW else None


def _minutes(seconds: float) -> int:
    return math.ceil(seconds / 60)


def _dough_work(dough: Portioned, habits: Mapping[PartKind, PartHabits]) -> DoughWork:
    each = dough.habits.portion_s * dough.pace
    fresh, programme = dough.joins == "fresh", dough.programme
    makes, chill, chill_most = _makes(programme, len(dough.shares))
    temper = dough.temper_min
    if fresh:
        temper = max(temper, math.ceil(programme.temper_min))
    return DoughWork(
        dough.letter,
        makes if fresh else tuple(dough.out),
        chill_min=chill if fresh else 0,
        chill_most=chill_most if fresh else None,
        temper_min=temper,
        bake_within=bake_within(dough.mixing, dough.piece, programme, dough.habits.family)
        if fresh
        else None,
        freeze_min=_wrap_min(dough, each) if dough.kept else 0,
        parts=tuple(
            PartWork(
                f"{name or kind}",
                _at_pace(habits[kind].hands_min, dough, "part"),
                habits[kind].wanted,
                habits[kind].within_min,
            )
            for kind, name in dough.parts
        ),
        first_within=_first_within(dough),
        night_temper_min=dough.night_temper_min,
        before=tuple(_make(one) for one in programme.ready) if fresh else (),
        fetch_min=TAKE_MIN if fresh and chill else 0,
        fetched_within=FIRST_WITHIN_MIN,
        warm_most=dough.warm_most,
        bake_from=dough.bake_from,
        shares=tuple(dough.shares) if len(set(dough.shares)) > 1 else (),
    )


def bake_within(
    mixing: Mixing, piece: Portioning, programme: Programme, family: Family
) -> int | None:
    """Minutes after mixing by which a dough has to be in the oven: as its card says, else as a
    batter does that may not wait (what is whisked and dropped, or spread). None for what lies in
    the cold before it is baked, and for a batter that its card lets stand: it does not sink."""
    if any(one.cold for one in programme.makes):
        return None
    if programme.bake_within is not None:
        return max(math.floor(programme.bake_within), 1)
    if any(one.wait_min >= STANDS_MIN for one in programme.makes):
        return None
    batter = piece.IS_BATTER or (mixing == "whisked" and family == "drop")
    return BATTER_WITHIN_MIN if batter else None


def _wrap_min(dough: Portioned, each_s: float) -> int:
    """Minutes to put the rest of a dough away: as portions it takes as long as portioning does, as
    a log, disc or lump a few minutes in all."""
    if (dough.keep_as or dough.piece.KEPT_AS) == "portions":
        return _at_pace(WRAP_MIN + _minutes(dough.kept * each_s), dough, "freeze")
    return _at_pace(WRAP_MIN + SHAPE_REST_MIN, dough, "freeze")


def _at_pace(minutes: float, dough: Portioned, job: str) -> int:
    """Whole minutes of a job by these hands."""
    return max(round(minutes * dough.paces.get(job, 1.0)), 1)


def _first_within(dough: Portioned) -> int | None:
    if dough.joins == "fresh":
        return None
    return LAID_WITHIN_MIN if dough.laid else FIRST_WITHIN_MIN


def _shape_min(dough: Portioned, on_tray: OnTray) -> tuple[int, int]:
    """Minutes of hot work on a tray, and how soon it has to begin."""
    steps = dough.programme.on_tray("shape")
    hot = dough.piece.hot_work
    if hot:
        told = any(says_how_long(step) for step in steps)
        seconds = on_tray.all_seconds(steps) if told else on_tray.pieces * hot.each_s
        return _minutes(seconds), hot.within_min
    return (_minutes(on_tray.all_seconds(steps)), HOT_WITHIN_MIN) if steps else (0, 2)


_AS_PART: Mapping[StepKind, PartKind] = {
    "wash": "wash",
    "fill": "filling",
    "sandwich": "filling",
    "coat": "coating",
    "top": "topping",
    "decorate": "topping",
    "ice": "icing",
    "dip": "dip",
    "dust": "dusting",
}
"""Gestures by which a part is put on: it is not reckoned twice."""


def _part_s(steps: Sequence[TypedStep], parts: Sequence[PartHabits]) -> float:
    """Seconds on each piece for the parts that are put on though no step says so."""
    put_on = {_AS_PART[step.kind] for step in steps if step.kind in _AS_PART}
    return sum(part.each_s for part in parts if part.kind not in put_on)


def _slice_min(dough: Portioned, on_tray: OnTray) -> int:
    """Minutes to slice the baked logs of a tray."""
    told = [step for step in dough.programme.on_tray("slice") if says_how_long(step)]
    minutes = on_tray.all_seconds(told) / 60 if told else SLICE_LOG_MIN * on_tray.pieces
    return _at_pace(minutes, dough, "slice")


def _rests(dough: Portioned, *, twice: bool) -> tuple[int, int, int | None]:
    """Minutes on the sheet, cooling after it, and on the sheet before slicing where the card says
    so: as the card says, else by how large and how fragile a piece is."""
    usual, programme = dough.habits, dough.programme
    rest, cool = _usual_rest(dough), usual.cool_min
    said = programme.wait("rest", 1 if twice else 0)
    cut = programme.wait("rest", 0) if twice else None
    if said is not None:
        rest = math.ceil(said.wait_min)
    elif _till_cold(dough) and not twice:
        rest, cool = max(rest, cool), 0
    return rest, cool, None if cut is None else math.ceil(cut.wait_min)


def _usual_rest(dough: Portioned) -> int:
    if not dough.piece.RESTS_ON_SHEET:
        return 0
    grams, rest = dough.answer.each_g, dough.habits.rest_min
    if dough.habits.family != "drop":
        return rest
    return next((minutes for most, minutes in REST_BY_G if grams < most), LARGE_REST_MIN)


_TILL_COLD = re.compile(r"\b(?:cool|cold|complet\w+)\b", re.IGNORECASE)


def _till_cold(dough: Portioned) -> bool:
    """Whether pieces stay on the sheet, or in the pan, until they are cold."""
    if not dough.piece.RESTS_ON_SHEET:
        return False
    rests = dough.programme.on_tray("rest")
    told = any(_TILL_COLD.search(step.text) and not step.wait_min for step in rests)
    in_pan = dough.piece.SAYS.holder == "pan" and not rests
    return told or in_pan or dough.cold_on_sheet


def _all_trays(
    dough: Portioned, habits: Mapping[PartKind, PartHabits], gestures: Habits
) -> tuple[TrayWork, ...]:
    """The trays of a dough; pieces of another size lie on trays of their own."""
    found = _tray_works(dough, habits, gestures)
    for also in dough.also:
        sized = replace(dough, answer=also.answer, piece=also.piece, trays=None, also=())
        found += _tray_works(sized, habits, gestures, start=len(found), size=also.word)
    return found


def _tray_works(
    dough: Portioned,
    habits: Mapping[PartKind, PartHabits],
    gestures: Habits,
    *,
    start: int = 0,
    size: str = "",
) -> tuple[TrayWork, ...]:
    answer, usual = dough.answer, dough.habits
    bakes = [bake_of(answer.foreseen.minutes, dough.oven_c, turns=dough.turns)]
    if answer.second is not None:
        # Slices are turned over half way, whatever is done with trays.
        bakes.append(bake_of(answer.second.minutes, dough.oven_c))
    rest, cool, cut_rest = _rests(dough, twice=answer.second is not None)
    kinds = [habits[kind] for kind, _ in dough.parts if kind != "bench"]
    put_on = [kind for kind in kinds if kind.wanted == "portion"]
    making, finishing = (dough.programme.on_tray(job) for job in ("portion", "finish"))
    made_s = usual.portion_s + _part_s(making, put_on)
    last = [kind for kind in kinds if kind.wanted == "finish"]
    finish_s = _part_s(finishing, last)
    finishes = bool(last) or any(says_how_long(s) or gestures[s.kind].each_s for s in finishing)
    set_min = max((kind.set_min for kind in last), default=0)
    said = dough.programme.wait("set")
    set_min = set_min if said is None else math.ceil(said.wait_min)
    stand = dough.programme.stand
    first = answer.making.first_pieces if answer.making else None
    found, before = [], 0
    trays = answer.yields.trays if dough.trays is None else dough.trays
    for number, pieces in enumerate(trays):
        on_tray = OnTray(pieces, sum(trays), gestures, dough.paces)
        shape_min, within = _shape_min(dough, on_tray)
        portion_s = pieces * LAY_OUT_S if dough.laid else on_tray.portioning_s(making, made_s)
        finish = (pieces * finish_s + on_tray.all_seconds(finishing)) * dough.paces.get("finish", 1)
        found.append(
            TrayWork(
                name=f"{dough.letter}{start + number + 1}",
                dough=dough.letter,
                pieces=pieces,
                portion_min=LAY_SHEET_MIN + _minutes(portion_s * dough.pace),
                bakes=tuple(bakes),
                rest_min=rest,
                cool_min=cool,
                slice_min=_slice_min(dough, on_tray) if len(bakes) > 1 else 0,
                shape_min=shape_min,
                shape_within=within,
                finish_min=_minutes(finish),
                set_min=set_min if finishes else 0,
                sharp=dough.piece.KNIFE and not dough.laid,
                pool=dough.pool,
                size=size,
                stand_min=0 if stand is None or dough.laid else math.ceil(stand.wait_min),
                cut_rest_min=cut_rest,
                # A tray most of whose pieces are cut from scraps waits for them.
                scraps=first is not None and before + pieces / 2 >= first,
            )
        )
        before += pieces
    return tuple(found)


def prepare(
    doughs: Sequence[Portioned],
    kitchen: Kitchen,
    habits: Mapping[PartKind, PartHabits],
    gestures: Habits,
) -> Work:
    """The work of baking these doughs in this kitchen: `habits` are those of parts, `gestures` what
    each kind of step takes."""
    works = tuple(_dough_work(dough, habits) for dough in doughs)
    trays = tuple(tray for dough in doughs for tray in _all_trays(dough, habits, gestures))
    return in_lots(Work(works, trays, kitchen))


def mixed_before(work: Work, letter: str) -> Work:
    """The same work with that dough mixed and chilled the evening before."""
    out = (Make("Take it out of the fridge", TAKE_MIN, kind="take"),)
    doughs = tuple(
        replace(
            d,
            before=(),
            fetch_min=0,
            makes=out,
            chill_min=0,
            freeze_min=0,
            bake_within=None,
            temper_min=d.night_temper_min,
            first_within=FIRST_WITHIN_MIN,
            lots=1,
        )
        if d.letter == letter
        else d
        for d in work.doughs
    )
    trays = tuple(replace(t, lot=0) if t.dough == letter else t for t in work.trays)
    return replace(work, doughs=doughs, trays=trays)
