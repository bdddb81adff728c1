"""A session as it is shown: planned, running or finished, with every job in words."""

from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.book.firmness import Firmness
from finebatch.core.formula.dough import Family
from finebatch.core.heat.minutes import USUAL_DONENESS
from finebatch.core.heat.oven import STEADY, HotSide
from finebatch.core.larder.ingredient import Larder
from finebatch.core.plan.explain import HoldUp, door_openings, heat_changes
from finebatch.core.plan.habits import Planning
from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.placed import Cold, Placed, Station
from finebatch.core.plan.prepare import Joins
from finebatch.core.plan.windows import windows
from finebatch.core.plan.work import COOL_JOBS, HOT_JOBS, MAY_BE_LEFT_OUT, Work
from finebatch.core.session.amounts import amounts_of
from finebatch.core.session.bowls import bowls_of
from finebatch.core.session.job_steps import job_steps, oven_steps
from finebatch.core.session.over_words import overs_said
from finebatch.core.session.stretches import Worked, stretches
from finebatch.core.session.wish import (
    MINUTE,
    Asked,
    Snapshot,
    Wish,
    names_of,
    programmes_of,
)
from finebatch.core.session.words import DoughSaid, Said, Scene, TraySaid, say
from finebatch.facts import tables
from finebatch.store.models import DoughRow, SessionRow
from finebatch.workflow.kitchen.fridge import FeltEvent, latest_felt
from finebatch.workflow.kitchen.larder import get_larder
from finebatch.workflow.kitchen.ticks import ticks_of
from finebatch.workflow.session import baking, plans
from finebatch.workflow.session.asking import pool_names
from finebatch.workflow.session.closing import ToClose, to_close
from finebatch.workflow.session.weighing import may_be_weighed


@dataclass(frozen=True, slots=True)
class ShownJob:
    """One activity. Times in UTC ms; `due_at` is exact for a tray in the oven.

    `round` counts from 0: a second bake's jobs are of round 1. `who` is the pair of hands, 0 the
    baker's own; `earliest_at` and `latest_at` are what the jobs before and after leave it to begin
    in, while it is planned (null: nothing holds it). `dial_c` is the oven's dial, `partner` the
    tray that a tray changes shelves with, `what` the step's own words or what the part is called,
    `cold` why a dough lies in the cold; `label` is that of them which there is, as text. `said` are
    its words, of one that somebody does. `may_be_felt`: the dough comes out of the cold, and may be
    too soft or too hard to portion; `may_be_weighed`: something is weighed in it; `may_be_pinned`:
    it can be put at a time, where what is hot goes by the oven; `ticked` are the places of its
    steps that are done, from 0.
    """

    key: JobKey
    kind: JobKind
    round: int
    dough: str | None
    tray: str | None
    place: Station
    hands: bool
    start_at: int
    end_at: int
    due_at: int
    done_at: int | None
    sheet: int | None
    oven: int | None
    shelf: int | None
    who: int | None
    label: str
    dial_c: float | None
    partner: str | None
    what: str
    cold: Cold | None
    critical: bool
    pause_from_at: int | None
    pause_to_at: int | None
    to_shelf: int | None
    earliest_at: int | None
    latest_at: int | None
    hot: bool
    may_be_left_out: bool
    may_be_felt: bool
    may_be_weighed: bool
    may_be_pinned: bool
    ticked: tuple[int, ...]
    said: Said | None


@dataclass(frozen=True, slots=True)
class ShownStretch:
    """What the hands do in one go: from when to when (UTC ms), the keys of its jobs, what is done
    with each dough, and what trays go into the oven and come out of it meanwhile."""

    start_at: int
    end_at: int
    jobs: tuple[JobKey, ...]
    worked: tuple[Worked, ...]
    trays_said: str


@dataclass(frozen=True, slots=True)
class ShownTray:
    """One tray: its dough's letter, pieces, and the minutes of its bakes, those added included.

    `took_min` are the minutes that its first bake really took, `took_again_min` its second one,
    `oven_c` what the thermometer read
    meanwhile, in the mean; null until they are known.
    """

    name: str
    dough: str
    pieces: int
    bakes: tuple[int, ...]
    scraps: bool
    size: str
    pinned_shelf: int | None
    took_min: float | None
    took_again_min: float | None
    oven_c: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownDough(DoughSaid):
    """One dough of a session: a piece's mass in g, °C on the dial, pieces kept for another day.

    `dough_id` is null once the dough was thrown away; `laid` pieces were portioned before.
    `felt` is how firm it was when it was last felt in this session; each of what lies on a tray is
    cut into `each_gives` pieces. The dough is made `times` over.
    """

    dough_id: int | None
    family: Family
    joins: Joins
    felt: Firmness | None
    each_gives: int = 1
    times: float = 1.0


@dataclass(frozen=True, slots=True)
class ShownSheet:
    """Where a sheet is, and the tray on it."""

    name: str
    state: baking.SheetState
    tray: str | None


@dataclass(frozen=True, slots=True)
class LearntFrom:
    """From how many bakes its minutes in the oven, from how many jobs those of the hands, and from
    how many doughs that were felt those in the cold are reckoned."""

    bakes: int
    jobs: int
    felt: int


@dataclass(frozen=True, slots=True)
class ShownSession:
    """A session: planned, running or finished. Times in UTC ms, `now` the server's clock.

    `searching` says that better plans are being looked for; `ovens` are the shelves of each,
    `happened` counts what was said while baking, `said_by` is the device of the home network on
    which the last of it was said (none: this machine), `closing` is what is left once it is baked,
    `overs` is what the plan does not keep, `openings` how often a door is opened, `sheet_names`
    what sheet 1, 2, … are called.
    """

    id: int
    name: str
    state: str
    now: int
    changed_at: int
    start_at: int
    finish_at: int
    ready_by: int | None
    gap_min: int
    proven: bool
    searching: bool
    stale: bool
    said: str | None
    overs: tuple[str, ...]
    happened: int
    said_by: str | None
    can_undo: bool
    sheets: int
    sheet_names: tuple[str, ...]
    sheets_now: tuple[ShownSheet, ...]
    shelves: int
    ovens: tuple[int, ...]
    openings: int
    heat_changes: int
    hot_sides: tuple[HotSide, ...]
    workers: tuple[str, ...]
    doughs: tuple[ShownDough, ...]
    trays: tuple[ShownTray, ...]
    activities: tuple[ShownJob, ...]
    stretches: tuple[ShownStretch, ...]
    hold_ups: tuple[HoldUp, ...]
    closing: tuple[ToClose, ...]
    wish: Wish | None
    learnt: LearntFrom


def _there(session: Session, snapshot: Snapshot) -> set[int]:
    """The session's doughs that were not thrown away since."""
    wanted = [asked.dough_id for asked in snapshot.items if asked.dough_id is not None]
    return set(session.scalars(select(DoughRow.id).where(DoughRow.id.in_(wanted))))


def _dough(asked: Asked, there: set[int], larder: Larder, felt: FeltEvent | None) -> ShownDough:
    setting, piece = asked.question.setting, asked.question.setting.piece
    wanted = setting.doneness or USUAL_DONENESS[asked.question.family]
    return ShownDough(
        letter=asked.letter,
        dough_id=asked.dough_id if asked.dough_id in there else None,
        name=asked.name,
        grams=piece.raw(asked.question.lot(larder)).grams,
        kind=piece.kind,
        slice_mm=piece.slice_mm,
        oven_c=asked.question.setting.oven_c,
        family=asked.question.family,
        joins=asked.joins,
        kept=asked.kept,
        keep_as=asked.keep_as,
        keep_in=asked.keep_in,
        waits=asked.waits,
        each_gives=asked.each_gives,
        times=asked.times,
        laid=asked.laid,
        worked=piece.worked(),
        felt=felt.firmness if felt else None,
        cues=tables.cues()[asked.question.family, wanted].coloured(setting.colour),
        doneness=wanted,
    )


def _sheet_names(pools: Sequence[int], snapshot: Snapshot) -> tuple[str, ...]:
    """What the baker calls each sheet and pan, in the order in which they are numbered."""
    known = pool_names(snapshot.items[0].question.kitchen) if snapshot.items else ()
    names = known if len(known) == len(pools) else ("sheet",) * len(pools)
    return tuple(
        name if there == 1 and pool else f"{name} {n}"
        for pool, (name, there) in enumerate(zip(names, pools, strict=True))
        for n in range(1, there + 1)
    )


def _hot_sides(ovens: int, snapshot: Snapshot) -> tuple[HotSide, ...]:
    """Where each oven browns first."""
    planning = snapshot.items[0].question.kitchen.planning if snapshot.items else Planning()
    second = planning.second.nature if planning.second else STEADY
    return (planning.oven.hot_side, second.hot_side)[:ovens]


def _sheets_now(row: SessionRow, names: Sequence[str]) -> tuple[ShownSheet, ...]:
    """Where each sheet is; while planned all are free."""
    states = baking.sheet_states(row)
    return tuple(
        ShownSheet(name, *states.get(n, ("free", None))) for n, name in enumerate(names, start=1)
    )


def _trays(session: Session, row: SessionRow, work: Work) -> tuple[ShownTray, ...]:
    return tuple(
        ShownTray(
            name=tray.name,
            dough=tray.dough,
            pieces=tray.pieces,
            size=tray.size,
            scraps=tray.scraps,
            bakes=tuple(bake.length for bake in tray.bakes),
            pinned_shelf=tray.shelf,
            took_min=baking.baked_minutes(row, tray.name),
            took_again_min=baking.baked_minutes(row, tray.name, 1),
            oven_c=baking.baked_at_c(session, row, tray.name),
        )
        for tray in work.trays
    )


def _scene(
    row: SessionRow,
    doughs: Sequence[ShownDough],
    trays: Sequence[ShownTray],
    names: Sequence[str],
    work: Work,
    larder: Larder,
) -> Scene:
    """What the session's jobs are said by."""
    programmes = programmes_of(row.snapshot)
    return Scene(
        doughs={dough.letter: dough for dough in doughs},
        trays={t.name: TraySaid(t.name, t.pieces, t.bakes, t.scraps, t.size) for t in trays},
        heats=[a for a in row.plan.activities if a.kind == "heat"],
        ovens=len(work.kitchen.ovens),
        sheet_names=names,
        hot_sides=_hot_sides(len(work.kitchen.ovens), row.snapshot),
        steps=job_steps(work, programmes),
        oven=oven_steps(programmes),
        bowls={d.letter: bowls_of(d, work.trays_of(d.letter)) for d in work.doughs},
        amounts={
            asked.letter: amounts_of(asked.programme.mixing, asked.question.formula_g, larder)
            for asked in row.snapshot.items
            if asked.programme is not None
        },
    )


def scene_of(session: Session, row: SessionRow) -> Scene:
    """What a session's jobs are said by, read from what is kept of it."""
    work, larder = baking.work_now(row), get_larder(session)
    names = _sheet_names(work.kitchen.pools, row.snapshot)
    there = _there(session, row.snapshot)
    doughs = tuple(_dough(asked, there, larder, None) for asked in row.snapshot.items)
    return _scene(row, doughs, _trays(session, row, work), names, work, larder)


def _label(job: Placed) -> str:
    """What is told of a job in one word, as text."""
    if job.dial_c is not None:
        return f"{job.dial_c:g}"
    if job.kind == "chill":
        return {"thaws": "thaws in the fridge", "waits": "waits in the cold"}.get(
            job.cold or "", ""
        )
    return job.partner or job.what


def _jobs(row: SessionRow, work: Work, scene: Scene) -> tuple[ShownJob, ...]:
    """Every activity with its moments, and while it is planned the window of each job."""
    done, due = baking.done_or_seen(row), baking.due_at(row)
    cold = {a.dough for a in row.plan.activities if a.kind in ("chill", "temper")}
    felt = cold - {letter for letter, dough in scene.doughs.items() if dough.laid}
    ticks = ticks_of(row)
    left = windows(work, row.plan) if row.state == "planned" else {}

    def at(minute: int | None) -> int | None:
        return None if minute is None else row.start_at + minute * MINUTE

    def shown(a: Placed) -> ShownJob:
        window, pause = left.get(a.id), a.pause or (None, None)
        return ShownJob(
            key=a.id,
            kind=a.kind,
            round=a.id.round,
            dough=a.dough,
            tray=a.tray,
            place=a.place,
            hands=a.hands,
            start_at=row.start_at + a.start * MINUTE,
            end_at=row.start_at + a.end * MINUTE,
            due_at=due[a.id],
            done_at=done.get(a.id),
            sheet=a.sheet,
            oven=a.oven,
            shelf=a.shelf,
            who=a.who,
            label=_label(a),
            dial_c=a.dial_c,
            partner=a.partner,
            what=a.what,
            cold=a.cold,
            critical=a.critical,
            pause_from_at=at(pause[0]),
            pause_to_at=at(pause[1]),
            to_shelf=a.to_shelf,
            earliest_at=at(window.earliest) if window else None,
            latest_at=at(window.latest) if window else None,
            hot=a.kind in HOT_JOBS,
            may_be_left_out=a.kind in MAY_BE_LEFT_OUT,
            may_be_felt=a.kind == "portion" and a.dough in felt,
            may_be_weighed=may_be_weighed(row.snapshot, a),
            may_be_pinned=a.kind in COOL_JOBS,
            ticked=tuple(sorted(ticks.get(a.id, ()))),
            said=say(a, scene) if a.told else None,
        )

    return tuple(shown(a) for a in row.plan.activities)


def _stretches(row: SessionRow, scene: Scene) -> tuple[ShownStretch, ...]:
    return tuple(
        ShownStretch(
            row.start_at + one.start * MINUTE,
            row.start_at + one.end * MINUTE,
            tuple(job.id for job in one.jobs),
            one.worked,
            one.trays_said,
        )
        for one in stretches(row.plan.activities, scene)
    )


def show(session: Session, row: SessionRow, now: int, *, searching: bool = False) -> ShownSession:
    """A session as it is now."""
    work, snapshot, plan = baking.work_now(row), row.snapshot, row.plan
    planned, felt, larder = row.state == "planned", latest_felt(row), get_larder(session)
    names = _sheet_names(work.kitchen.pools, snapshot)
    there = _there(session, snapshot)
    doughs = tuple(_dough(a, there, larder, felt.get(a.letter)) for a in snapshot.items)
    trays = _trays(session, row, work)
    scene = _scene(row, doughs, trays, names, work, larder)
    return ShownSession(
        id=row.id,
        name=snapshot.name,
        state=row.state,
        now=now,
        changed_at=row.changed_at,
        start_at=row.start_at,
        finish_at=row.start_at + plan.finish * MINUTE,
        ready_by=row.ready_by,
        gap_min=max(plan.finish - plan.bound, 0) if planned else 0,
        proven=planned and plan.proven,
        searching=searching,
        stale=planned and plans.is_stale(session, row),
        said=row.said,
        overs=overs_said(work, plan, names_of(snapshot)) if planned else (),
        happened=len(row.events),
        said_by=row.events[-1].by if row.events else None,
        can_undo=bool(row.events) or row.state == "given_up",
        sheets=work.kitchen.sheets,
        sheet_names=names,
        sheets_now=_sheets_now(row, names),
        shelves=work.kitchen.shelves,
        ovens=tuple(oven.shelves for oven in work.kitchen.ovens),
        openings=door_openings(plan),
        heat_changes=heat_changes(plan),
        hot_sides=_hot_sides(len(work.kitchen.ovens), snapshot),
        workers=tuple(worker.name for worker in work.kitchen.workers),
        doughs=doughs,
        trays=trays,
        activities=_jobs(row, work, scene),
        stretches=_stretches(row, scene),
        hold_ups=plans.explain(plan),
        closing=to_close(session, row),
        wish=snapshot.wish,
        learnt=LearntFrom(
            bakes=sum(asked.timed for asked in snapshot.items),
            jobs=snapshot.hands.jobs,
            felt=snapshot.cold.jobs,
        ),
    )
