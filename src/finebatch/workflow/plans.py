"""The plan of a session: what is asked for on the Plan screen, kept until it is started."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.formula.method import method_of
from finebatch.core.heat.oven import conventional_c
from finebatch.core.piece.layout import share_out
from finebatch.core.piece.tray import TrayAnswer
from finebatch.core.plan.explain import HoldUp, critical_chain, hold_ups, mark_critical
from finebatch.core.plan.prepare import Joins, Portioned, prepare
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.schedule import Placed, Plan
from finebatch.core.plan.shift import shift_plan, shift_work
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import MOST_DOUGHS, Kitchen, Pin, Work
from finebatch.core.refusal import refuse
from finebatch.facts import formula, tables
from finebatch.store.database import Database
from finebatch.store.models import ActivityRow, SessionRow
from finebatch.workflow.doughs import Dough, get_dough
from finebatch.workflow.errors import Missing
from finebatch.workflow.kitchen import KitchenSetting, change_kitchen, get_kitchen
from finebatch.workflow.larder import get_larder
from finebatch.workflow.trays import TrayQuestion, answer, chill_for, lessons, question

MINUTE = 60_000
A_YEAR = 366 * 24 * 60 * MINUTE
A_FORTNIGHT = 14 * 24 * 60 * MINUTE
LETTERS = "ABCDEFGHIJKL"


@dataclass(frozen=True, slots=True)
class Item:
    """One dough of a session: so many of its pieces (all when none is given), the rest kept cold.

    `joins` says whether it is mixed in the session or comes out of the cold.
    """

    dough_id: int
    pieces: int | None = None
    joins: Joins = "fresh"


@dataclass(frozen=True, slots=True)
class TimedPin:
    """A job that the baker has put at a time (UTC ms)."""

    job: str
    start_at: int


@dataclass(frozen=True, slots=True)
class ShelfPin:
    """A tray that the baker wants on a shelf, counted from the top."""

    tray: str
    shelf: int


@dataclass(frozen=True, slots=True)
class Away:
    """When the baker is away or asleep (UTC ms)."""

    from_at: int
    to_at: int


@dataclass(frozen=True, slots=True)
class Wish:
    """What shall be baked, with what, and either a start or a ready-by time (UTC ms)."""

    items: tuple[Item, ...]
    sheets: int
    shelves: int
    start_at: int | None = None
    ready_by: int | None = None
    away: tuple[Away, ...] = ()
    pins: tuple[TimedPin, ...] = ()
    shelf_pins: tuple[ShelfPin, ...] = ()
    first_c: int | None = None


@dataclass(frozen=True, slots=True)
class Asked:
    """One dough of a session as it was when it was planned. `kept` pieces are not baked."""

    letter: str
    dough_id: int | None
    name: str
    question: TrayQuestion
    joins: Joins = "fresh"
    kept: int = 0


@dataclass(frozen=True, slots=True)
class Snapshot:
    """What a session was planned from."""

    name: str
    items: tuple[Asked, ...] = field(default_factory=tuple)
    wish: Wish | None = None


_WORK = TypeAdapter(Work)
_SNAPSHOT = TypeAdapter(Snapshot)


def work_of(row: SessionRow) -> Work:
    """The work that a session was planned for."""
    return _WORK.validate_python(row.work)


def snapshot_of(row: SessionRow) -> Snapshot:
    """The doughs, portions and kitchen as they were when the session was planned."""
    return _SNAPSHOT.validate_python(row.snapshot)


def asked_of(row: SessionRow, dough_id: int) -> Asked:
    """A session's dough by its number; `Missing` when it is not in it."""
    found = next((item for item in snapshot_of(row).items if item.dough_id == dough_id), None)
    if found is None:
        raise Missing("This dough in that session")
    return found


def _portioned(
    session: Session, letter: str, item: Item, kitchen: KitchenSetting
) -> tuple[Asked, Portioned]:
    dough = get_dough(session, item.dough_id)
    asked = question(dough, dough.tray, kitchen)
    larder = get_larder(session)
    found = answer(asked, larder, lessons(session).of_dough(item.dough_id))
    trays, kept = _some(dough, asked, found, item)
    temper = 0
    if item.joins == "fresh" and asked.setting.chill_min >= 4 * 60:
        warm = chill_for(asked, larder, "fridge", start_c=kitchen.room_c).temper_min
        temper = round(warm or 0)
    portioned = Portioned(
        letter=letter,
        answer=found,
        piece=asked.setting.piece,
        habits=tables.families()[asked.family],
        steps=method_of(dough.card, formula.step_templates(), larder),
        mixing=asked.mixing,
        parts=[(part.kind, part.name) for part in dough.card.parts],
        oven_c=conventional_c(asked.setting.oven_c, kitchen.oven_mode),
        chill_min=asked.setting.chill_min,
        joins=item.joins,
        temper_min=temper,
        trays=trays,
        kept=kept,
        pace=kitchen.planning.pace,
    )
    return Asked(letter, item.dough_id, dough.card.name, asked, item.joins, kept), portioned


def _some(
    dough: Dough, asked: TrayQuestion, found: TrayAnswer, item: Item
) -> tuple[Sequence[int] | None, int]:
    """The trays of the pieces that are wanted, and how many pieces are left for another day."""
    if item.pieces is None:
        return None, 0
    there = found.yields.pieces
    if item.pieces > there:
        raise refuse(
            "items",
            f"“{dough.card.name}” gives {there}, not {item.pieces}. Ask for fewer, or scale the "
            "dough on its own screen.",
        )
    if not found.layouts:
        raise refuse("items", f"“{dough.card.name}” is baked by the pan: take all of it.")
    shared = share_out(asked.kitchen.sheet, found.footprint, item.pieces)
    return shared.trays, there - item.pieces


def _check_times(wish: Wish, now: int) -> None:
    for name, at in (("start_at", wish.start_at), ("ready_by", wish.ready_by)):
        if at is None:
            continue
        if at < now - MINUTE:
            raise refuse(name, "That time has passed. Choose a later one.")
        if at > now + A_YEAR:
            raise refuse(name, "That is more than a year away. Choose a nearer day.")
    for span in wish.away:
        if span.to_at <= span.from_at:
            raise refuse("away", "A time away ends after it begins. Change one of the two.")
        if span.to_at - span.from_at > A_FORTNIGHT:
            raise refuse("away", "Nobody is away for more than a fortnight in a session.")


def _base(wish: Wish, now: int) -> int:
    """Minute 0 of the planning: the wanted start, or the next whole minute."""
    soonest = -(-now // MINUTE) * MINUTE
    if wish.start_at is not None:
        return wish.start_at
    if wish.ready_by is not None and wish.ready_by - soonest > A_FORTNIGHT:
        return wish.ready_by - A_FORTNIGHT
    return soonest


def _kitchen(wish: Wish, kitchen: KitchenSetting, base: int) -> Kitchen:
    spans = []
    for away in wish.away:
        start, end = (away.from_at - base) // MINUTE, -(-(away.to_at - base) // MINUTE)
        if end > 0 and start < 2 * A_FORTNIGHT // MINUTE:
            spans.append((max(start, 0), end))
    return kitchen.planning.kitchen(wish.sheets, wish.shelves, spans)


def ask(session: Session, wish: Wish, base: int) -> tuple[Snapshot, Work]:
    """The work of a wish, with minute 0 at `base`; `Refusal` where something cannot be."""
    if not wish.items:
        raise refuse("items", "There is nothing to bake yet: add a dough.")
    if len(wish.items) > MOST_DOUGHS:
        raise refuse("items", f"At most {MOST_DOUGHS} doughs are planned at once.")
    if len({item.dough_id for item in wish.items}) < len(wish.items):
        raise refuse("items", "Each dough is in a session once. Scale it to bake more of it.")
    kitchen = replace(get_kitchen(session), sheets=wish.sheets, shelves=wish.shelves)
    found = [
        _portioned(session, letter, item, kitchen)
        for letter, item in zip(LETTERS, wish.items, strict=False)
    ]
    work = prepare([p for _, p in found], _kitchen(wish, kitchen, base), tables.part_habits())
    shelf_of = {pin.tray: pin.shelf for pin in wish.shelf_pins}
    trays = tuple(
        replace(tray, shelf=shelf_of[tray.name])
        if shelf_of.get(tray.name, 0) in range(1, wish.shelves + 1) else tray
        for tray in work.trays
    )  # fmt: skip
    pins = tuple(Pin(pin.job, max((pin.start_at - base) // MINUTE, 0)) for pin in wish.pins)
    ready = None if wish.ready_by is None else (wish.ready_by - base) // MINUTE
    work = replace(work, trays=trays, pins=pins, ready_by=ready, first_c=wish.first_c)
    names = [asked.name for asked, _ in found]
    name = names[0] if len(names) == 1 else f"{names[0]} and {len(names) - 1} more"
    return Snapshot(name, tuple(asked for asked, _ in found), wish), work


def plan_quick(database: Database, wish: Wish, now: int) -> int:
    """Plan a session at once, as good as can be without a search; the session's id.

    Takes the place of the plan that was there. A ready-by that cannot be kept is planned as soon
    as can be; the session then ends after it, and says by how much.
    """
    _check_times(wish, now)
    base = _base(wish, now)
    with database.writing() as session:
        snapshot, work = ask(session, wish, base)
        plan = quick_plan(work)
        spare = 0 if work.ready_by is None else work.ready_by - plan.finish
        if spare > 0 and not any(worker.away for worker in work.kitchen.workers):
            plan = shift_plan(plan, spare)
        kitchen = get_kitchen(session)
        if (kitchen.sheets, kitchen.shelves) != (wish.sheets, wish.shelves):
            change_kitchen(session, replace(kitchen, sheets=wish.sheets, shelves=wish.shelves))
        row = planned_row(session) or SessionRow(state="planned")
        row.dough_id = wish.items[0].dough_id if len(wish.items) == 1 else None
        row.snapshot = _SNAPSHOT.dump_python(snapshot, mode="json")
        row.ready_by, row.changed_at, row.said = wish.ready_by, now, None
        _keep(row, work, plan, base)
        session.add(row)
        session.flush()
        return row.id


def _keep(row: SessionRow, work: Work, plan: Plan, base: int) -> None:
    """Keep a plan with the session's minute 0 at its first job."""
    begin = plan.begin
    row.start_at = base + begin * MINUTE
    keep_work(row, shift_work(work, -begin))
    moved = shift_plan(plan, -begin)
    row.bound = moved.bound
    write_activities(row, moved)


def improve(database: Database, session_id: int, seconds: float, go_on: Callable[[], bool]) -> None:
    """Search for better plans and keep each one as it comes, while `go_on` says so."""
    with database.reading() as session:
        row = find_session(session, session_id)
        work, base = work_of(row), row.start_at

    # The search starts from minute 0 again: a later start is what it may find.
    if work.ready_by is not None:
        with database.reading() as session:
            wish = snapshot_of(find_session(session, session_id)).wish
            assert wish is not None
            base = _base(wish, row.changed_at)
            _, work = ask(session, wish, base)

    def keep(plan: Plan) -> bool:
        if not go_on():
            return False
        with database.writing() as session:
            row = session.get(SessionRow, session_id)
            if row is None or row.state != "planned" or not go_on():
                return False
            _keep(row, work, plan, base)
        return True

    def tell(plan: Plan) -> bool:
        fits = work.ready_by is None or plan.finish > work.ready_by
        return keep(plan) if fits else go_on()

    keep(best_plan(work, seconds, tell))


def keep_work(row: SessionRow, work: Work) -> None:
    """Put this work in place of what the session was planned for."""
    row.work = _WORK.dump_python(work, mode="json")


def note(database: Database, session_id: int, words: str) -> None:
    """Keep a word on the plan that has not been started."""
    with database.writing() as session:
        row = session.get(SessionRow, session_id)
        if row is not None and row.state == "planned":
            row.said = words


def write_activities(row: SessionRow, plan: Plan) -> None:
    """Put a plan's activities in place of the session's earlier ones."""
    row.activities = [
        ActivityRow(
            key=a.id, kind=a.kind, tray=a.tray, place=a.place, start=a.start, end=a.end,
            sheet=a.sheet, shelf=a.shelf, critical=a.critical, dough=a.dough, oven=a.oven,
            who=a.who, label=a.label,
        )
        for a in mark_critical(plan).activities
    ]  # fmt: skip


def planned_row(session: Session) -> SessionRow | None:
    """The plan that has not been started, if there is one."""
    query = select(SessionRow).where(SessionRow.state == "planned").order_by(SessionRow.id.desc())
    return session.scalars(query).first()


def find_session(session: Session, session_id: int) -> SessionRow:
    """A session by id; `Missing` when there is none."""
    row = session.get(SessionRow, session_id)
    if row is None:
        raise Missing("This session")
    return row


def is_stale(session: Session, row: SessionRow) -> bool:
    """Whether the doughs, their trays or the kitchen would now give other work than was planned."""
    wish, planned = snapshot_of(row).wish, work_of(row)
    if wish is None:
        return True
    kitchen = get_kitchen(session)
    if (kitchen.sheets, kitchen.shelves) != (wish.sheets, wish.shelves):
        return True
    try:
        _, work = ask(session, wish, row.start_at)
    except ValueError:
        return True
    same_kitchen = replace(work.kitchen, workers=planned.kitchen.workers)
    helpers = len(work.kitchen.workers) == len(planned.kitchen.workers)
    return (work.doughs, work.trays, same_kitchen, helpers) != (
        planned.doughs, planned.trays, planned.kitchen, True,
    )  # fmt: skip


def plan_of(row: SessionRow) -> Plan:
    """The plan as it now stands, read back from the session's activities."""
    found = tuple(
        Placed(a.key, a.kind, a.tray, a.place, a.start, a.end, a.sheet, a.shelf, a.critical,  # type: ignore[arg-type]
               a.dough, a.oven, a.who, a.label)
        for a in row.activities
    )  # fmt: skip
    return Plan(found, finish_of(row), row.bound)


def finish_of(row: SessionRow) -> int:
    """The minute at which all is ready."""
    return max(a.end for a in row.activities if a.kind in ("cool", "finish", "set"))


def explain(row: SessionRow) -> tuple[HoldUp, ...]:
    """What holds the finish up."""
    return hold_ups(critical_chain(plan_of(row)))
