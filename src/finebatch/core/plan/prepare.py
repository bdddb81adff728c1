"""From foreseen trays to the work that the planner places: how long each job takes these hands."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.formula.dough import Family, Mixing, PartKind
from finebatch.core.formula.step import Step
from finebatch.core.measures.rounding import whole_minutes
from finebatch.core.piece.kinds.every import AnyKind
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.tray import TrayAnswer
from finebatch.core.plan.work import (
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
BATTER_WITHIN_MIN = 45
"""A whisked batter sinks: it is in the oven within this (household practice)."""
LONGEST_LABEL = 48
TAKE_MIN = 1
FIRST_WITHIN_MIN = 30
"""Dough that has come to its working temperature stays workable on the bench for so long: about
what a disc, log or lump takes from the middle of its range to the warm end (see `chilling`)."""
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
    """How long a kind of part takes: to make, on each piece, and to set; when it is wanted."""

    kind: PartKind
    hands_min: Annotated[int, Interval(ge=1)]
    wanted: Literal["portion", "finish"]
    each_s: Annotated[float, Interval(ge=0)]
    set_min: Annotated[int, Interval(ge=0)]
    source: str


@dataclass(frozen=True, slots=True)
class Sized:
    """More pieces of the same dough in another size, foreseen on trays of their own."""

    answer: TrayAnswer
    piece: Portioning
    word: str


@dataclass(frozen=True, slots=True)
class Portioned:
    """One dough of a session, foreseen in trays.

    `trays` are the pieces on each tray; all of the answer's when not given. `kept` pieces are
    portioned for another day. `also` are its pieces of another size. `oven_c` is a still oven's
    setting. `out` are the steps out of the cold with the minutes that each waits, for one that does
    not join fresh; then it is tempered for `temper_min`. `laid` pieces were portioned before and
    are only laid out. `pace` is how much longer than usual this baker takes to portion, `mixes`
    how often the bowl is filled, `pool` the kind of sheet or pan. Without `turns` a tray is left
    alone in the oven; `cold_on_sheet`: it stays on its sheet until it is cold.
    """

    letter: str
    answer: TrayAnswer
    piece: Portioning
    habits: FamilyHabits
    steps: Sequence[Step]
    mixing: Mixing
    parts: Sequence[tuple[PartKind, str]]
    oven_c: float
    chill_min: int
    joins: Joins = "fresh"
    out: Sequence[Make] = ()
    temper_min: int = 0
    night_temper_min: int = 0
    laid: bool = False
    trays: Sequence[int] | None = None
    kept: int = 0
    pace: float = 1.0
    also: Sized | None = None
    mixes: int = 1
    mix_pace: float = 1.0
    pool: int = 0
    turns: bool = True
    cold_on_sheet: bool = False


def bake_of(minutes: float, oven_c: float = 180, *, turns: bool = True) -> Bake:
    """A stay in the oven in whole minutes, turned at half unless it is too short for that."""
    whole = whole_minutes(minutes)
    turn = whole // 2 if turns and whole >= LEAST_TURN_MIN else None
    return Bake(whole, turn, round(oven_c))


def _label(text: str) -> str:
    """A step in short: its first sentence, no longer than a line."""
    first = text.split(". ", maxsplit=1)[0].split("; ", maxsplit=1)[0]
    short = first.strip().rstrip(".") or PLAIN_MIX
    if len(short) <= LONGEST_LABEL:
        return short
    return short[:LONGEST_LABEL].rsplit(" ", 1)[0] + "…"


def makes(steps: Sequence[Step], pace: float = 1.0) -> tuple[Make, ...]:
    """The jobs of mixing, at that pace: steps up to each wait are one job."""
    found: list[Make] = []
    hands = 0
    for step in steps:
        hands += step.hands_min
        if step.wait_min:
            found.append(Make(_label(step.text), _at(hands, pace), step.wait_min))
            hands = 0
    if hands or not found:
        found.append(Make(PLAIN_MIX, _at(hands, pace)))
    return tuple(found)


def _at(minutes: int, pace: float) -> int:
    return max(round(minutes * pace), 1)


def _minutes(seconds: float) -> int:
    return math.ceil(seconds / 60)


def _dough_work(dough: Portioned, habits: Mapping[PartKind, PartHabits]) -> DoughWork:
    each = dough.habits.portion_s * dough.pace
    batter = dough.mixing == "whisked" or dough.piece.IS_BATTER
    fresh = dough.joins == "fresh"
    return DoughWork(
        dough.letter,
        makes(dough.steps, dough.mix_pace) * dough.mixes if fresh else tuple(dough.out),
        chill_min=dough.chill_min if fresh else 0,
        temper_min=dough.temper_min,
        bake_within=BATTER_WITHIN_MIN + dough.chill_min if batter and fresh else None,
        freeze_min=_wrap_min(dough, each) if dough.kept else 0,
        parts=tuple(
            PartWork(f"{name or kind}", habits[kind].hands_min, habits[kind].wanted)
            for kind, name in dough.parts
        ),
        first_within=_first_within(dough),
        night_temper_min=dough.night_temper_min,
    )


def _wrap_min(dough: Portioned, each_s: float) -> int:
    """Minutes to put the rest of a dough away: dropped doughs as portions, which takes as long as
    portioning does; any other as one log, disc or lump."""
    if dough.piece.KEPT_AS == "portions":
        return WRAP_MIN + _minutes(dough.kept * each_s)
    return WRAP_MIN + SHAPE_REST_MIN


def _first_within(dough: Portioned) -> int | None:
    if dough.joins == "fresh":
        return None
    return LAID_WITHIN_MIN if dough.laid else FIRST_WITHIN_MIN


def _shape_min(dough: Portioned, pieces: int) -> tuple[int, int]:
    """Minutes of hot work on a tray, and how soon it has to begin."""
    hot = dough.piece.hot_work
    return (_minutes(pieces * hot.each_s), hot.within_min) if hot else (0, 2)


def _all_trays(dough: Portioned, habits: Mapping[PartKind, PartHabits]) -> tuple[TrayWork, ...]:
    """The trays of a dough; pieces of another size lie on trays of their own."""
    own = _tray_works(dough, habits)
    if dough.also is None:
        return own
    sized = replace(dough, answer=dough.also.answer, piece=dough.also.piece, trays=None, also=None)
    return own + _tray_works(sized, habits, start=len(own), size=dough.also.word)


def _tray_works(
    dough: Portioned, habits: Mapping[PartKind, PartHabits], *, start: int = 0, size: str = ""
) -> tuple[TrayWork, ...]:
    answer, usual = dough.answer, dough.habits
    bakes = [bake_of(answer.foreseen.minutes, dough.oven_c, turns=dough.turns)]
    if answer.second is not None:
        # Slices are turned over half way, whatever is done with trays.
        bakes.append(bake_of(answer.second.minutes, dough.oven_c))
    rests = dough.piece.RESTS_ON_SHEET
    rest = usual.rest_min if rests else 0
    cool = usual.cool_min
    if dough.cold_on_sheet and rests and answer.second is None:
        rest, cool = max(rest, cool), 0
    kinds = [habits[kind] for kind, _ in dough.parts]
    each_s = LAY_OUT_S if dough.laid else usual.portion_s
    raw_s = each_s * dough.pace + sum(k.each_s for k in kinds if k.wanted == "portion")
    done = [k for k in kinds if k.wanted == "finish"]
    first = answer.making.first_pieces if answer.making else None
    found, before = [], 0
    for number, pieces in enumerate(answer.yields.trays if dough.trays is None else dough.trays):
        shape_min, within = _shape_min(dough, pieces)
        found.append(
            TrayWork(
                name=f"{dough.letter}{start + number + 1}",
                dough=dough.letter,
                pieces=pieces,
                portion_min=LAY_SHEET_MIN + _minutes(pieces * raw_s),
                bakes=tuple(bakes),
                rest_min=rest,
                cool_min=cool,
                slice_min=SLICE_LOG_MIN * pieces if len(bakes) > 1 else 0,
                shape_min=shape_min,
                shape_within=within,
                finish_min=_minutes(pieces * sum(k.each_s for k in done)) if done else 0,
                set_min=max((k.set_min for k in done), default=0),
                sharp=dough.piece.KNIFE and not dough.laid,
                pool=dough.pool,
                size=size,
                # A tray most of whose pieces are cut from scraps waits for them.
                scraps=first is not None and before + pieces / 2 >= first,
            )
        )
        before += pieces
    return tuple(found)


def prepare(
    doughs: Sequence[Portioned], kitchen: Kitchen, habits: Mapping[PartKind, PartHabits]
) -> Work:
    """The work of baking these doughs in this kitchen."""
    works = tuple(_dough_work(dough, habits) for dough in doughs)
    trays = tuple(tray for dough in doughs for tray in _all_trays(dough, habits))
    return Work(works, trays, kitchen)


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
        )
        if d.letter == letter
        else d
        for d in work.doughs
    )
    return replace(work, doughs=doughs)
