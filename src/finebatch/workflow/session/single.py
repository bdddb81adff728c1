"""One tray at once, without a plan: the dough is ready to be portioned, the oven is heated."""

from dataclasses import replace

from sqlalchemy.orm import Session

from finebatch.core.plan.quick import quick_plan
from finebatch.core.session.wish import Item, Wish
from finebatch.store.models import SessionRow
from finebatch.workflow.kitchen.equipment import get_kitchen
from finebatch.workflow.session.asking import ask, base_of
from finebatch.workflow.session.baking import check_free
from finebatch.workflow.session.plans import keep_plan


def bake_one_tray(session: Session, dough_id: int, now: int) -> SessionRow:
    """Start baking one tray of a dough that is mixed and chilled already; the plan that there may
    be stays as it is. `Conflict` while a session is being baked."""
    check_free(session)
    kitchen = get_kitchen(session)
    wish = Wish((Item(dough_id),), kitchen.sheets, kitchen.shelves)
    base = base_of(wish, now)
    snapshot, work = ask(session, wish, base)
    ready = replace(
        work.doughs[0],
        before=(),
        makes=(),
        fetch_min=0,
        chill_min=0,
        chill_most=None,
        temper_min=0,
        bake_within=None,
        freeze_min=0,
        parts=(),
    )
    work = replace(work, doughs=(ready,), trays=work.trays[:1])
    row = SessionRow(
        dough_id=dough_id,
        state="running",
        ready_by=None,
        changed_at=now,
        said=None,
        snapshot=replace(snapshot, name=f"One tray: {snapshot.name}", wish=None),
    )
    keep_plan(row, work, quick_plan(work), base)
    session.add(row)
    session.flush()
    return row
