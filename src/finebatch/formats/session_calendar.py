"""The run sheet as iCalendar (RFC 5545) with alarms.

Read in again, a later file of the same session mends the entries of the one before: their UIDs
stay, their SEQUENCE goes up, and what is not to be done any more is cancelled.
"""

from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from uuid import UUID, uuid5

from icalendar import Alarm, Calendar, Event

from finebatch.core.plan.keys import JobKey
from finebatch.core.session.in_calendar import InCalendar
from finebatch.formats.moments import local
from finebatch.formats.printable import printable
from finebatch.formats.run_sheet import RunSheetJob

ALARM_BEFORE = timedelta(minutes=1)
LONG_AHEAD = timedelta(minutes=5)
"""Jobs at the oven ring a minute before, the others five."""
OVEN_JOBS = frozenset({"load", "turn", "out", "shape"})


def write_calendar(
    name: str, told: Sequence[RunSheetJob], has: InCalendar, stamp: datetime
) -> bytes:
    """The jobs of the hands as events, each with an alarm, and those that a calendar `has` of an
    earlier plan as cancelled ones; `stamp` is now."""
    calendar = Calendar()
    calendar.add("prodid", "-//Fine Batch//Run sheet//EN")
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("name", printable(name))
    calendar.add("x-wr-calname", printable(name))
    for job in told:
        event = _event(job.key, job.start, job.end, has, stamp)
        event.add("summary", printable(job.what))
        about = f"{job.dough}; {job.who}".strip("; ")
        event.add("description", printable("\n".join([about, *job.steps])))
        event.add("location", job.place)
        if job.kind == "heat":  # an oven gets hot by itself
            event.add("transp", "TRANSPARENT")
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", printable(job.what))
        alarm.add("trigger", -(ALARM_BEFORE if job.kind in OVEN_JOBS else LONG_AHEAD))
        event.add_component(alarm)
        calendar.add_component(event)
    for key, (start, end) in has.called_off.items():
        event = _event(key, local(start), local(end), has, stamp)
        event.add("summary", f"Called off: {JobKey.read(key).said}")
        event.add("status", "CANCELLED")
        event.add("transp", "TRANSPARENT")
        calendar.add_component(event)
    written: bytes = calendar.to_ical()
    return written


def _event(key: str, start: datetime, end: datetime, has: InCalendar, stamp: datetime) -> Event:
    event = Event()
    event.add("uid", f"{uuid5(UUID(has.session), key)}")
    event.add("dtstamp", stamp.astimezone(UTC))
    event.add("last-modified", local(has.changed_at).astimezone(UTC))
    event.add("sequence", has.sequence)
    event.add("dtstart", start.astimezone(UTC))
    event.add("dtend", end.astimezone(UTC))
    return event
