"""The Plan screen: the doughs of a session placed in time."""

from typing import Annotated

from fastapi import Path

from finebatch.core.plan.explain import door_openings
from finebatch.core.plan.helps import HelpKind
from finebatch.core.plan.placed import Plan
from finebatch.core.session.occasion import Occasion
from finebatch.core.session.wish import Wish
from finebatch.store.database import Database
from finebatch.web import routing
from finebatch.web.deps import Config, Data, Now, Planner
from finebatch.web.types import Out
from finebatch.workflow.errors import Missing
from finebatch.workflow.kitchen.thrown import Thrown, told
from finebatch.workflow.session import calm, plans, session_rows
from finebatch.workflow.session import ideas as helps
from finebatch.workflow.session.occasions import Proposal, propose
from finebatch.workflow.session.search import Searches
from finebatch.workflow.session.shown import ShownSession, show

router = routing.begin("plan")


def planned(wish: Wish, data: Database, now: int, planner: Searches) -> ShownSession:
    """The quick plan of a wish, and the search for better ones begun."""
    planner.stop()
    session_id = plans.plan_quick(data, wish, now)
    planner.begin(session_id)
    searched = planner.searching()
    with data.reading() as session:
        row = session_rows.find_session(session, session_id)
        return show(session, row, now, searching=searched == session_id)


@router.get("/plan")
def get_plan(data: Data, now: Now, planner: Planner) -> ShownSession | None:
    """The plan that has not been started; null when there is none."""
    searched = planner.searching()
    with data.reading() as session:
        row = session_rows.planned_row(session)
        if row is None:
            return None
        return show(session, row, now, searching=searched == row.id)


@router.put("/plan")
def make_plan(body: Wish, data: Data, now: Now, planner: Planner) -> ShownSession:
    """Plan a session: a quick plan at once, better ones as they are found (ask again)."""
    return planned(body, data, now, planner)


@router.post("/plan/occasion")
def from_occasion(body: Occasion, data: Data, now: Now) -> Proposal:
    """What to plan for an occasion: each dough as large as its count wants, in whole eggs, on the
    day that its keeping quality asks for. Nothing is kept: ask for the plan with its `wish`."""
    with data.reading() as session:
        return propose(session, body, now)


@router.post("/plan/stop")
def stop_search(data: Data, now: Now, planner: Planner) -> ShownSession | None:
    """Look no further: the best plan so far stands."""
    planner.stop()
    with data.reading() as session:
        row = session_rows.planned_row(session)
        return show(session, row, now) if row else None


@router.delete("/plan")
def drop_plan(data: Data, planner: Planner, now: Now) -> Thrown | None:
    """Throw the plan that has not been started away, into the bin; null where there is none."""
    planner.stop()
    with data.writing() as session:
        thrown = plans.throw_plan(session, now)
        return None if thrown is None else told(thrown)


class CalmOut(Out):
    """How calm a plan is: minutes from its begin to its finish, turns of the dial, openings of the
    door, changes between doughs while they are portioned, pauses of ten minutes or more."""

    minutes: int
    heat_changes: int
    openings: int
    dough_changes: int
    pauses: int


class OtherPlanOut(Out):
    """The plan that there is beside the one shown (the calmer one beside the soonest, or the other
    way round), and how calm each is."""

    plan: ShownSession
    this: CalmOut
    other: CalmOut


def _calm(plan: Plan) -> CalmOut:
    from finebatch.core.plan.calmer import calm_of  # it takes time to load

    found = calm_of(plan)
    return CalmOut(
        minutes=plan.finish - plan.begin,
        heat_changes=found.heat_changes,
        openings=door_openings(plan),
        dough_changes=found.dough_changes,
        pauses=found.pauses,
    )


@router.get("/plan/other")
def other_plan(data: Data, now: Now, config: Config) -> OtherPlanOut | None:
    """The calmer plan, or where that is shown the soonest; null where there is none. Nothing is
    kept: ask for the plan with `calm` to have it."""
    with data.reading() as session:
        row = session_rows.planned_row(session)
        if row is None:
            raise Missing("A plan")
        session_id = row.id
    found = calm.beside(data, session_id, config.plan_seconds)
    if found is None:
        return None
    with data.reading() as session:
        shown = show(session, found.row, now)
    return OtherPlanOut(plan=shown, this=_calm(found.mine), other=_calm(found.row.plan))


class IdeaOut(Out):
    """One thing that might help; `number` names it."""

    number: int
    what: HelpKind
    letter: str | None
    first_c: int | None


class HelpOut(Out):
    """What an idea brings: minutes sooner, planned anew; null where no plan was found."""

    number: int
    saves_min: int | None


class ByHandOut(Out):
    """When a clever baker without a computer would be done; null where their rules keep not every
    window."""

    finish_at: int | None


@router.get("/plan/by-hand")
def by_hand(data: Data) -> ByHandOut:
    """How the planned session would go by hand, begun at the same time."""
    with data.reading() as session:
        row = session_rows.planned_row(session)
        return ByHandOut(finish_at=helps.by_hand_at(row) if row else None)


@router.get("/plan/ideas")
def list_ideas(data: Data) -> list[IdeaOut]:
    """What may be tried to be ready sooner."""
    with data.reading() as session:
        row = session_rows.planned_row(session)
        found = helps.ideas_of(row) if row else ()
        return [
            IdeaOut(number=n, what=idea.what, letter=idea.letter, first_c=idea.first_c)
            for n, idea in enumerate(found)
        ]


@router.post("/plan/ideas/{number}")
def try_idea(number: Annotated[int, Path(ge=0, le=20)], data: Data, config: Config) -> HelpOut:
    """Plan the session again with that one thing changed, and keep nothing of it."""
    with data.reading() as session:
        row = session_rows.planned_row(session)
        if row is None:
            raise Missing("A plan")
        session_id = row.id
    found = helps.help_of(data, session_id, number, config.plan_seconds)
    return HelpOut(number=number, saves_min=found.saves_min)
