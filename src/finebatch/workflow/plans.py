"""The plan of one dough: asked for on the Plan screen, kept as a session until it is started."""

from dataclasses import dataclass, replace
from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.formula.method import method_minutes, method_of
from finebatch.core.plan.explain import HoldUp, critical_chain, hold_ups, mark_critical
from finebatch.core.plan.prepare import prepare
from finebatch.core.plan.schedule import Placed, Plan
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import Work
from finebatch.core.refusal import refuse
from finebatch.facts import formula, tables
from finebatch.store.database import Database
from finebatch.store.models import ActivityRow, SessionRow
from finebatch.workflow.doughs import find_row, get_dough
from finebatch.workflow.errors import Missing
from finebatch.workflow.kitchen import change_kitchen, get_kitchen
from finebatch.workflow.larder import get_larder
from finebatch.workflow.trays import TrayQuestion, answer, lessons, question

MINUTE = 60_000
A_YEAR = 366 * 24 * 60 * MINUTE

_WORK = TypeAdapter(Work)
_QUESTION = TypeAdapter(TrayQuestion)


@dataclass(frozen=True, slots=True)
class Wish:
    """Sheets and shelves to use, and either a start or a ready-by time (UTC milliseconds)."""

    sheets: int
    shelves: int
    start_at: int | None
    ready_by: int | None


def work_of(row: SessionRow) -> Work:
    """The work that a session was planned for."""
    return _WORK.validate_python(row.work)


def question_of(row: SessionRow) -> TrayQuestion:
    """The dough, portion and kitchen as they were when the session was planned."""
    return _QUESTION.validate_python(row.snapshot["question"])


def _ask(session: Session, dough_id: int, wish: Wish) -> tuple[str, TrayQuestion, Work]:
    dough = get_dough(session, dough_id)
    kitchen = replace(get_kitchen(session), sheets=wish.sheets, shelves=wish.shelves)
    asked = question(dough, dough.tray, kitchen)
    larder = get_larder(session)
    found = answer(asked, larder, lessons(session).of_dough(dough_id))
    work = prepare(
        found,
        tables.families()[asked.family],
        mix_min=method_minutes(method_of(dough.card, formula.step_templates(), larder)),
        chill_min=asked.setting.chill_min,
        oven_c=asked.setting.oven_c,
        sheets=wish.sheets,
        shelves=wish.shelves,
    )
    return dough.card.name, asked, work


def _check_times(wish: Wish, now: int) -> None:
    for field, at in (("start_at", wish.start_at), ("ready_by", wish.ready_by)):
        if at is None:
            continue
        if at < now - MINUTE:
            raise refuse(field, "That time has passed. Choose a later one.")
        if at > now + A_YEAR:
            raise refuse(field, "That is more than a year away. Choose a nearer day.")


def plan_dough(database: Database, dough_id: int, wish: Wish, now: int, seconds: float) -> int:
    """Plan a dough's trays and keep the plan in place of its earlier one; the session's id.

    The search runs outside any transaction. A ready-by that cannot be kept is planned from now;
    the session then ends after it, and says by how much.
    """
    _check_times(wish, now)
    with database.reading() as session:
        name, asked, work = _ask(session, dough_id, wish)
    plan = best_plan(work, seconds)
    begin = wish.start_at if wish.start_at is not None else -(-now // MINUTE) * MINUTE
    if wish.ready_by is not None:
        begin = max(wish.ready_by - plan.finish * MINUTE, begin)
    with database.writing() as session:
        find_row(session, dough_id)
        kitchen = get_kitchen(session)
        change_kitchen(session, replace(kitchen, sheets=wish.sheets, shelves=wish.shelves))
        row = planned_row(session, dough_id) or SessionRow(dough_id=dough_id, state="planned")
        row.snapshot = {"name": name, "question": _QUESTION.dump_python(asked, mode="json")}
        row.work = _WORK.dump_python(work, mode="json")
        row.start_at, row.ready_by, row.bound = begin, wish.ready_by, plan.bound
        row.changed_at, row.said = now, None
        write_activities(row, plan)
        session.add(row)
        session.flush()
        return row.id


def write_activities(row: SessionRow, plan: Plan) -> None:
    """Put a plan's activities in place of the session's earlier ones."""
    row.activities = [
        ActivityRow(
            key=a.id, kind=a.kind, tray=a.tray, place=a.place, start=a.start, end=a.end,
            sheet=a.sheet, shelf=a.shelf, critical=a.critical,
        )
        for a in mark_critical(plan).activities
    ]  # fmt: skip


def planned_row(session: Session, dough_id: int) -> SessionRow | None:
    """The dough's plan that has not been started, if there is one."""
    query = select(SessionRow).where(SessionRow.dough_id == dough_id, SessionRow.state == "planned")
    return session.scalars(query).first()


def find_session(session: Session, session_id: int) -> SessionRow:
    """A session by id; `Missing` when there is none."""
    row = session.get(SessionRow, session_id)
    if row is None:
        raise Missing("This session")
    return row


def is_stale(session: Session, row: SessionRow) -> bool:
    """Whether the dough, its tray or the kitchen would now give other work than was planned."""
    if row.dough_id is None:
        return False
    kitchen: dict[str, Any] = row.work["kitchen"]
    wish = Wish(kitchen["sheets"], kitchen["shelves"], None, None)
    try:
        _, _, work = _ask(session, row.dough_id, wish)
    except ValueError:
        return True
    return bool(_WORK.dump_python(work, mode="json") != row.work)


def plan_of(row: SessionRow) -> Plan:
    """The plan as it now stands, read back from the session's activities."""
    found = tuple(
        Placed(a.key, a.kind, a.tray, a.place, a.start, a.end, a.sheet, a.shelf, a.critical)  # type: ignore[arg-type]
        for a in row.activities
    )
    return Plan(found, max(a.end for a in found if a.kind == "cool"), row.bound)


def explain(row: SessionRow) -> tuple[HoldUp, ...]:
    """What holds the finish up."""
    return hold_ups(critical_chain(plan_of(row)))
