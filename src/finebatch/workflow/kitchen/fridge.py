"""What a fridge does, learnt from how dough felt in the sessions that were baked to their end."""

from collections.abc import Iterator
from dataclasses import dataclass

from pydantic import TypeAdapter
from sqlalchemy.orm import Session

from finebatch.core.book.firmness import Felt, Firmness, learn_cold
from finebatch.core.book.hands import Pace
from finebatch.core.heat.chilling import chill
from finebatch.core.larder.ingredient import Larder
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.network import fetched, mixed
from finebatch.core.refusal import Refusal
from finebatch.core.session.wish import MINUTE
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.core.tray.question import chill_shape
from finebatch.store.models import SessionRow
from finebatch.workflow.kitchen.hands import finished
from finebatch.workflow.kitchen.larder import get_larder

_FIRMNESS: TypeAdapter[Firmness] = TypeAdapter(Firmness)
FROM_BOWL_C = 23.0
"""How warm dough usually comes from the bowl (household practice)."""


@dataclass(frozen=True, slots=True)
class FeltEvent:
    """How a dough felt, by the job that it was felt for, when (UTC ms), and for how many minutes it
    then waits."""

    job: JobKey
    at: int
    minutes: int
    firmness: Firmness


def felt_events(row: SessionRow) -> list[FeltEvent]:
    """How the doughs of a session felt, in order."""
    return [
        FeltEvent(e.job, e.at, e.minutes or 0, _FIRMNESS.validate_python(e.what))
        for e in row.events
        if e.kind == "felt" and e.job is not None
    ]


def latest_felt(row: SessionRow) -> dict[str, FeltEvent]:
    """How each dough was last felt, by its letter."""
    doughs = {a.id: a.dough for a in row.plan.activities}
    felt = ((doughs.get(event.job), event) for event in felt_events(row))
    return {letter: event for letter, event in felt if letter is not None}


def cold_pace(session: Session, kitchen: KitchenSetting) -> Pace:
    """How many times the usual minutes this fridge takes; the usual while nothing is learnt."""
    if not kitchen.learns:
        return Pace()
    larder = get_larder(session)
    return learn_cold([felt for row in finished(session) for _, felt in felts(row, larder)])


def felts(row: SessionRow, larder: Larder) -> Iterator[tuple[int | None, Felt]]:
    """What was felt of doughs that were mixed and chilled in a session, with the dough's number."""
    events = felt_events(row)
    if not events:
        return
    work = row.work
    asked_of = {asked.letter: asked for asked in row.snapshot.items}
    done = {event.job: event.at for event in row.events if event.kind == "done"}
    tray_of = {tray.name: tray.dough for tray in work.trays}
    for event in events:
        letter = tray_of.get(event.job.whose)
        asked = asked_of.get(letter or "")
        if letter is None or asked is None or asked.joins != "fresh":
            continue
        dough = work.dough(letter)
        put_in = done.get(mixed(dough))
        if put_in is None or not dough.chill_min:
            continue
        kitchen = asked.question.kitchen
        shape, job = chill_shape(asked.question, larder)
        try:
            found = chill(
                shape,
                job,
                "fridge",
                start_c=FROM_BOWL_C,
                air_c=kitchen.fridge_c,
                room_c=kitchen.room_c,
            )
        except Refusal:  # that fridge never gets a dough there; nothing is learnt from it
            continue
        out = done.get(fetched(dough), event.at)
        minutes = (min(event.at, out) - put_in) / MINUTE - dough.makes[-1].wait_min
        yield asked.dough_id, Felt(minutes, event.firmness, found.cooling, found.to_c)
