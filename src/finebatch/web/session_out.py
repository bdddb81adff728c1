"""A session as the API gives it: planned, running or finished."""

from collections.abc import Sequence

from sqlalchemy.orm import Session

from finebatch.core.book.firmness import Firmness
from finebatch.core.formula.dough import Family
from finebatch.core.heat.cues import Cues
from finebatch.core.heat.minutes import USUAL_DONENESS
from finebatch.core.heat.oven import STEADY, HotSide
from finebatch.core.larder.ingredient import Larder
from finebatch.core.piece.kinds import Kind as PieceKind
from finebatch.core.piece.kinds import TwiceBaked, batch_grams
from finebatch.core.plan.explain import HoldUp, door_openings, heat_changes
from finebatch.core.plan.habits import Planning
from finebatch.core.plan.prepare import Joins
from finebatch.core.plan.schedule import Place, Plan
from finebatch.core.plan.windows import windows
from finebatch.core.plan.work import HAND_JOBS, Kind, Work
from finebatch.core.session.wish import MINUTE, Asked, Snapshot, Wish
from finebatch.facts import formula
from finebatch.store.models import ActivityRow, DoughRow, SessionRow
from finebatch.web.types import Out
from finebatch.workflow.kitchen.fridge import FeltEvent, latest_felt
from finebatch.workflow.kitchen.larder import get_larder
from finebatch.workflow.session import baking, plans
from finebatch.workflow.session.asking import pool_names


class ActivityOut(Out):
    """One activity. Times in UTC ms; `due_at` is exact for a tray in the oven.

    `who` is the pair of hands, 0 the baker's own; `earliest_at` and `latest_at` are what the jobs
    before and after leave it to begin in, while it is planned (null: nothing holds it).
    """

    key: str
    kind: Kind
    dough: str | None
    tray: str | None
    place: Place
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
    critical: bool
    pause_from_at: int | None
    pause_to_at: int | None
    to_shelf: int | None
    earliest_at: int | None
    latest_at: int | None


class TrayWorkOut(Out):
    """One tray: its dough's letter, pieces, and the minutes of its bakes, those added included.

    `took_min` are the minutes that its first bake really took, `oven_c` what the thermometer read
    meanwhile, in the mean; null until they are known.
    """

    name: str
    dough: str
    pieces: int
    bakes: list[int]
    scraps: bool
    size: str
    pinned_shelf: int | None
    took_min: float | None
    oven_c: float | None


class SessionDoughOut(Out):
    """One dough of a session: a piece's mass in g, °C on the dial, pieces kept for another day.

    `dough_id` is null once the dough was thrown away; `laid` pieces were portioned before.
    `felt` is how firm it was when it was last felt in this session.
    """

    letter: str
    dough_id: int | None
    name: str
    grams: float
    kind: PieceKind
    slice_mm: float | None
    oven_c: float
    family: Family
    joins: Joins
    kept: int
    laid: bool
    felt: Firmness | None
    cues: Cues


class SheetNowOut(Out):
    """Where a sheet is, and the tray on it."""

    name: str
    state: baking.SheetState
    tray: str | None


class LearntOut(Out):
    """From how many bakes its minutes in the oven, from how many jobs those of the hands, and from
    how many doughs that were felt those in the cold are reckoned."""

    bakes: int
    jobs: int
    felt: int


class SessionOut(Out):
    """A session: planned, running or finished. Times in UTC ms, `now` the server's clock.

    `searching` says that better plans are being looked for; `ovens` are the shelves of each,
    `happened` counts what was said while baking, `openings` how often a door is opened,
    `sheet_names` what sheet 1, 2, … are called.
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
    happened: int
    can_undo: bool
    sheets: int
    sheet_names: list[str]
    sheets_now: list[SheetNowOut]
    shelves: int
    ovens: list[int]
    openings: int
    heat_changes: int
    hot_sides: list[HotSide]
    workers: list[str]
    doughs: list[SessionDoughOut]
    trays: list[TrayWorkOut]
    activities: list[ActivityOut]
    hold_ups: list[HoldUp]
    wish: Wish | None
    learnt: LearntOut


def _dough_out(
    session: Session, asked: Asked, larder: Larder, felt: FeltEvent | None
) -> SessionDoughOut:
    there = asked.dough_id is not None and session.get(DoughRow, asked.dough_id) is not None
    piece = asked.question.setting.piece
    wanted = asked.question.setting.doneness or USUAL_DONENESS[asked.question.family]
    return SessionDoughOut(
        letter=asked.letter,
        dough_id=asked.dough_id if there else None,
        name=asked.name,
        grams=batch_grams(piece, asked.question.composition(larder).density_g_cm3),
        kind=piece.kind,
        slice_mm=piece.slice_mm if isinstance(piece, TwiceBaked) else None,
        oven_c=asked.question.setting.oven_c,
        family=asked.question.family,
        joins=asked.joins,
        kept=asked.kept,
        laid=asked.laid,
        felt=felt.firmness if felt else None,
        cues=formula.cues()[asked.question.family, wanted],
    )


def _sheet_names(pools: Sequence[int], snapshot: Snapshot) -> list[str]:
    """What the baker calls each sheet and pan, in the order in which they are numbered."""
    known = pool_names(snapshot.items[0].question.kitchen) if snapshot.items else ()
    names = known if len(known) == len(pools) else ("sheet",) * len(pools)
    return [
        name if there == 1 and pool else f"{name} {n}"
        for pool, (name, there) in enumerate(zip(names, pools, strict=True))
        for n in range(1, there + 1)
    ]


def _hot_sides(ovens: int, snapshot: Snapshot) -> list[HotSide]:
    """Where each oven browns first."""
    planning = snapshot.items[0].question.kitchen.planning if snapshot.items else Planning()
    second = planning.second.nature if planning.second else STEADY
    return [planning.oven.hot_side, second.hot_side][:ovens]


def _sheets_now(row: SessionRow, names: Sequence[str]) -> list[SheetNowOut]:
    """Where each sheet is; while planned all are free."""
    states = baking.sheet_states(row)
    found = [(name, *states.get(n, ("free", None))) for n, name in enumerate(names, start=1)]
    return [
        SheetNowOut.model_validate({"name": name, "state": state, "tray": tray})
        for name, state, tray in found
    ]


def _activities(row: SessionRow, work: Work, plan: Plan) -> list[ActivityOut]:
    """Every activity with its moments, and while it is planned the window of each job."""
    done, due = baking.done_or_seen(row), baking.due_at(row)
    left = windows(work, plan) if row.state == "planned" else {}

    def at(minute: int | None) -> int | None:
        return None if minute is None else row.start_at + minute * MINUTE

    def out(a: ActivityRow) -> ActivityOut:
        window = left.get(a.key)
        plain = {
            name: getattr(a, name)
            for name in (
                "key",
                "kind",
                "dough",
                "tray",
                "place",
                "sheet",
                "shelf",
                "oven",
                "who",
                "label",
                "critical",
                "to_shelf",
            )
        }
        moments = {
            "start_at": at(a.start),
            "end_at": at(a.end),
            "due_at": due[a.key],
            "done_at": done.get(a.key),
            "pause_from_at": at(a.pause_from),
            "pause_to_at": at(a.pause_to),
            "earliest_at": at(window.earliest) if window else None,
            "latest_at": at(window.latest) if window else None,
        }
        return ActivityOut.model_validate({**plain, **moments, "hands": a.kind in HAND_JOBS})

    return [out(a) for a in row.activities]


def session_out(
    session: Session, row: SessionRow, now: int, *, searching: bool = False
) -> SessionOut:
    """A session as the API gives it."""
    work = baking.work_now(row)
    snapshot, larder = row.snapshot, get_larder(session)
    finish, plan = plans.finish_of(row), plans.plan_of(row)
    planned, felt = row.state == "planned", latest_felt(row)
    names = _sheet_names(work.kitchen.pools, snapshot)
    return SessionOut(
        id=row.id,
        name=snapshot.name,
        state=row.state,
        now=now,
        changed_at=row.changed_at,
        start_at=row.start_at,
        finish_at=row.start_at + finish * MINUTE,
        ready_by=row.ready_by,
        gap_min=max(finish - row.bound, 0) if planned else 0,
        proven=planned and row.bound >= finish,
        searching=searching,
        stale=planned and plans.is_stale(session, row),
        said=row.said,
        happened=len(row.events),
        can_undo=bool(row.events) or row.state == "given_up",
        sheets=work.kitchen.sheets,
        sheet_names=names,
        sheets_now=_sheets_now(row, names),
        shelves=work.kitchen.shelves,
        ovens=[oven.shelves for oven in work.kitchen.ovens],
        openings=door_openings(plan),
        heat_changes=heat_changes(plan),
        hot_sides=_hot_sides(len(work.kitchen.ovens), snapshot),
        workers=[worker.name for worker in work.kitchen.workers],
        doughs=[
            _dough_out(session, asked, larder, felt.get(asked.letter)) for asked in snapshot.items
        ],
        trays=[
            TrayWorkOut(
                name=t.name,
                dough=t.dough,
                pieces=t.pieces,
                size=t.size,
                scraps=t.scraps,
                bakes=[b.length for b in t.bakes],
                pinned_shelf=t.shelf,
                took_min=baking.baked_minutes(row, t.name),
                oven_c=baking.baked_at_c(session, row, t.name),
            )
            for t in work.trays
        ],
        activities=_activities(row, work, plan),
        hold_ups=list(plans.explain(plan)),
        wish=snapshot.wish,
        learnt=LearntOut(
            bakes=sum(asked.timed for asked in snapshot.items),
            jobs=snapshot.hands.portion.jobs + snapshot.hands.mix.jobs,
            felt=snapshot.cold.jobs,
        ),
    )
