"""Plan a session file on the command line."""

import json
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Annotated

import typer

from finebatch.cli_cards import plan_from_cards
from finebatch.cli_data import stop
from finebatch.cli_words import say
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.told import work_after
from finebatch.core.plan.work import Work
from finebatch.core.refusal import Refusal
from finebatch.core.session.over_words import overs_said, would_do
from finebatch.core.session.words import line
from finebatch.formats.moments import day_and_time
from finebatch.formats.planned import file_plan, read_plan, told_in
from finebatch.formats.session_file import FilePlan, SessionFile, read_session, schema

SECONDS = 5.0
MOST_BYTES = 1_000_000


def _read(file: Path) -> SessionFile:
    try:
        if file.stat().st_size > MOST_BYTES:
            raise stop(f"{file} is larger than 1 MB. A session file is far smaller.", 2)
        return read_session(file.read_text(encoding="utf-8"))
    except OSError as error:
        raise stop(f"{file} cannot be read ({error.strerror}).", 2) from error
    except UnicodeDecodeError as error:
        raise stop(f"{file} is no text in UTF-8.", 2) from error
    except Refusal as refusal:
        lines = [f"  {fault.field}: {fault.message}" for fault in refusal.faults]
        raise stop(
            "\n".join([f"{file} is no session that can be planned:", *lines]), 2
        ) from refusal


def plan_session(
    file: Annotated[
        Path | None, typer.Argument(help="A session as JSON (docs/session.schema.json).")
    ] = None,
    *,
    card: Annotated[
        list[Path] | None, typer.Option("--card", help="A card as text, in place of a session.")
    ] = None,
    kitchen: Annotated[
        Path | None, typer.Option("--kitchen", help="Of cards: a kitchen as JSON.")
    ] = None,
    sheets: Annotated[
        int | None, typer.Option("--sheets", min=1, max=12, help="Of cards: how many sheets.")
    ] = None,
    shelves: Annotated[
        int | None, typer.Option("--shelves", min=1, max=4, help="Of cards: shelves of the oven.")
    ] = None,
    start: Annotated[str | None, typer.Option("--start", help="Of cards: when to begin.")] = None,
    ready_by: Annotated[
        str | None, typer.Option("--ready-by", help="Of cards: when all is to be ready.")
    ] = None,
    seconds: Annotated[
        float, typer.Option("--seconds", min=0.1, max=600, help="How long to look.")
    ] = SECONDS,
    as_json: Annotated[
        bool, typer.Option("--json", help="Every activity, for machines to read.")
    ] = False,
) -> None:
    """Plan a session file, or cards: who does what, when, where, on which sheet.

    Exit status 2 when it cannot be read or planned.
    """
    from finebatch.core.plan.replan import rest_after
    from finebatch.core.plan.solver import best_plan

    if card:
        if file is not None or (start and ready_by):
            raise stop("Give a session or cards, and a start or a ready-by, not both.", 2)
        plan_from_cards(
            card,
            kitchen=kitchen,
            sheets=sheets,
            shelves=shelves,
            start=start,
            ready_by=ready_by,
            seconds=seconds,
            as_json=as_json,
        )
        return
    if file is None:
        raise stop("Give a session file, or cards: finebatch plan --card FILE.txt", 2)
    session = _read(file)
    now = datetime.now(UTC).astimezone().replace(second=0, microsecond=0)
    under_way = session.plan if session.events else None
    if under_way is not None:
        base = min(a.start for a in under_way.activities)
    elif session.ready_by is not None and session.ready_by < now:
        raise stop(f"{file}: ready_by has passed. Choose a later time.", 2)
    elif session.ready_by is not None:
        base = max(now, session.ready_by - timedelta(days=14))
    else:
        base = session.start or now
    work = None
    try:
        work = session.work(base)
        if under_way is None:
            plan = best_plan(work, seconds)
        else:
            told = told_in(session.events, base)
            work, plan = rest_after(work, read_plan(under_way, work_after(work, told), base), told)
    except Refusal as refusal:
        why = _refused(session, work, refusal, seconds)
        raise stop(f"{file}: {why}", 2) from refusal
    found = file_plan(work, plan, base)
    if as_json:
        say(json.dumps(found.model_dump(mode="json"), indent=1, ensure_ascii=False))
        return
    _say(session, work, plan, found)


def _refused(session: SessionFile, work: Work | None, refusal: Refusal, seconds: float) -> str:
    """Why a session cannot be planned: what waits for too long, by how much, and what would do."""
    fault = refusal.faults[0]
    if session.events:
        return f"{fault.field}: {fault.message}"
    if work is None or work.pins:
        return fault.message
    near, names = quick_plan(work), _names(session)
    return " ".join([*overs_said(work, near, names)[:1], would_do(work, near, names, seconds / 4)])


def _names(session: SessionFile) -> dict[str, str]:
    return {dough.letter: dough.name for dough in session.doughs}


def _say(session: SessionFile, work: Work, plan: Plan, found: FilePlan) -> None:
    jobs = {f"{a.id}": a for a in plan.activities}
    for activity in found.activities:
        job = jobs[activity.id]
        if job.told:
            who = f"{activity.who}: " if len(work.kitchen.workers) > 1 else ""
            where = f", sheet {job.sheet}" if job.sheet else ""
            where += f", shelf {job.shelf}" if job.shelf else ""
            say(f"{day_and_time(activity.start)}  {who}{line(job)}{where}")
    say("")
    for over in overs_said(work, plan, _names(session)):
        say(over)
    say(f"Ready {day_and_time(found.finish)}.", nl=False)
    gap = plan.finish - plan.bound
    in_time = session.ready_by is not None and found.finish <= session.ready_by
    best = f" No plan {'begins later' if in_time else 'is ready sooner'}: proven."
    if not plan.proven:
        best = f" At most {gap} min from the {'latest possible start' if in_time else 'best'}."
    say(f"{best} By hand: {day_and_time(found.by_hand)}.")
    if session.ready_by is not None and found.finish > session.ready_by:
        late = round((found.finish - session.ready_by).total_seconds() / 60)
        say(f"That is {late} min after the wanted {day_and_time(session.ready_by)}.")


def print_schema() -> None:
    """Print the JSON Schema of session files."""
    say(json.dumps(schema(), indent=1, ensure_ascii=False))
