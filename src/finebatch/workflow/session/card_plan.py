"""A session planned from cards alone: as the app does it, and not kept."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from tempfile import TemporaryDirectory

from finebatch.core.plan.lots import in_lots
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.work import MOST_DOUGHS, Kitchen, Work
from finebatch.core.refusal import refuse
from finebatch.core.session.wish import Item, Wish
from finebatch.core.session.words import Scene
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.store.database import Database
from finebatch.workflow.dough.dough_files import bring_in
from finebatch.workflow.kitchen.equipment import change_kitchen
from finebatch.workflow.session.plans import improve, plan_quick
from finebatch.workflow.session.session_rows import find_session
from finebatch.workflow.session.shown import scene_of


@dataclass(frozen=True, slots=True)
class CardPlan:
    """A plan of cards, with its minute 0 at `start_at` (UTC ms), and what its jobs are said by."""

    work: Work
    plan: Plan
    scene: Scene
    start_at: int


def plan_cards(
    cards: Sequence[tuple[str, str]],
    kitchen: KitchenSetting,
    *,
    seconds: float,
    now: int,
    start_at: int | None = None,
    ready_by: int | None = None,
    places: Kitchen | None = None,
) -> CardPlan:
    """The plan of cards, each a file's name and text, in this kitchen; with `places` in those
    ovens, by those hands. `Refusal` for a card that cannot be read whole, or planned."""
    if len(cards) > MOST_DOUGHS:
        raise refuse("card", f"At most {MOST_DOUGHS} doughs are planned at once.")
    with TemporaryDirectory() as folder:
        database = Database(Path(folder) / "cards.sqlite3")
        try:
            with database.writing() as session:
                change_kitchen(session, kitchen)
                doughs = [
                    dough.id for name, text in cards for dough in bring_in(session, name, text, now)
                ]
            items = tuple(Item(dough) for dough in doughs)
            wish = Wish(items, kitchen.sheets, kitchen.shelves, start_at, ready_by)
            planned = plan_quick(database, wish, now)
            if places is not None:
                with database.writing() as session:
                    row = find_session(session, planned)
                    others = places.other_sheets or row.work.kitchen.other_sheets
                    there = replace(row.work, kitchen=replace(places, other_sheets=others))
                    row.work = in_lots(there)
            improve(database, planned, seconds, lambda: True)
            with database.reading() as session:
                row = find_session(session, planned)
                return CardPlan(row.work, row.plan, scene_of(session, row), row.start_at)
        finally:
            database.close()
