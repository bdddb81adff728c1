"""An oven watched by its thermometer: the trace, what it tells, and the record that it leaves."""

from dataclasses import dataclass, replace

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from finebatch.core.heat.oven import OvenNature, dial_c
from finebatch.core.heat.probe import OvenReading, judge_oven
from finebatch.core.measures.figures import degrees, dial
from finebatch.core.refusal import refuse
from finebatch.core.session.wish import MINUTE
from finebatch.store.models import OvenWatchRow, ProbeRow
from finebatch.workflow.errors import Conflict
from finebatch.workflow.kitchen.equipment import change_kitchen, get_kitchen

KEPT_MS = 12 * 60 * MINUTE
"""A trace is kept for so long."""
MOST_OFF_C, MOST_SWING_C = 60.0, 80.0


@dataclass(frozen=True, slots=True)
class Watch:
    """A watch with its trace (minutes from its beginning, °C) and what it tells so far."""

    row: OvenWatchRow
    trace: tuple[tuple[float, float], ...]
    reading: OvenReading | None

    def dial_for(self, wanted_c: float) -> float | None:
        """What to set the dial to for air of `wanted_c` °C; None while it is not known."""
        if self.reading is None:
            return None
        return dial_c(wanted_c, OvenNature(offset_c=self.reading.offset_c))


def note_probe(session: Session, celsius: float, now: int) -> None:
    """Keep one reading of the thermometer, and let go of those that are too old."""
    session.merge(ProbeRow(at=now, celsius=celsius))
    session.execute(delete(ProbeRow).where(ProbeRow.at < now - KEPT_MS))


def open_row(session: Session) -> OvenWatchRow | None:
    """The watch that is on."""
    query = select(OvenWatchRow).where(OvenWatchRow.ended_at.is_(None))
    return session.scalars(query.order_by(OvenWatchRow.id.desc())).first()


def begin(session: Session, oven: int, dial: float, now: int) -> Watch:
    """Watch an oven at this setting of its dial from now on; ends the watch before it."""
    if oven == 2 and get_kitchen(session).planning.second is None:
        raise refuse("oven", "There is no second oven. Add it on the Kitchen screen first.")
    stop(session)
    row = OvenWatchRow(oven=oven, dial_c=dial, began_at=now)
    session.add(row)
    session.flush()
    return watched(session, row)


def stop(session: Session) -> None:
    """End the watch that is on; as it was not kept, it leaves nothing behind."""
    row = open_row(session)
    if row is not None:
        session.delete(row)
        session.flush()


def watched(session: Session, row: OvenWatchRow) -> Watch:
    """A watch with its trace."""
    query = select(ProbeRow).where(ProbeRow.at >= row.began_at).order_by(ProbeRow.at)
    if row.ended_at is not None:
        query = query.where(ProbeRow.at <= row.ended_at)
    trace = tuple(((p.at - row.began_at) / MINUTE, p.celsius) for p in session.scalars(query))
    return Watch(row, trace, judge_oven(trace, row.dial_c))


def keep(session: Session, now: int) -> Watch:
    """Make what the watch tells the oven's record: minutes and plans use it from now on."""
    row = open_row(session)
    if row is None:
        raise Conflict("No oven is being watched. Begin a watch first.")
    found = watched(session, row)
    reading = found.reading
    if reading is None:
        raise Conflict("It is too early to tell. Let the oven cycle for some minutes more.")
    if abs(reading.offset_c) > MOST_OFF_C or reading.swing_c > MOST_SWING_C:
        raise Conflict(
            f"{degrees(reading.mean_c)} at a dial of {dial(row.dial_c)}: that is no oven's offset. "
            "Check the setting of the dial and where the thermometer stands."
        )
    row.mean_c, row.swing_c, row.ready_min = reading.mean_c, reading.swing_c, reading.ready_min
    kitchen = get_kitchen(session)
    planning = kitchen.planning
    offset, swing = round(reading.offset_c, 1), round(reading.swing_c, 1)
    if row.oven == 2 and planning.second is not None:
        nature = replace(planning.second.nature, offset_c=offset, swing_c=swing)
        planning = replace(planning, second=replace(planning.second, nature=nature))
    else:
        nature = replace(planning.oven, offset_c=offset, swing_c=swing)
        planning = replace(planning, oven=nature)
    change_kitchen(session, replace(kitchen, planning=planning))
    row.ended_at = now
    return found


def records(session: Session) -> list[OvenWatchRow]:
    """What was kept of each oven, newest first."""
    query = select(OvenWatchRow).where(OvenWatchRow.mean_c.is_not(None))
    return list(session.scalars(query.order_by(OvenWatchRow.id.desc()).limit(50)))
