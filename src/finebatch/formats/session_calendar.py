"""The run sheet as iCalendar (RFC 5545) with alarms."""

from collections.abc import Sequence
from datetime import UTC, datetime, timedelta

from icalendar import Alarm, Calendar, Event

from finebatch.formats.run_sheet import RunSheetJob

ALARM_BEFORE = timedelta(minutes=1)
LONG_AHEAD = timedelta(minutes=5)
"""Jobs at the oven ring a minute before, the others five."""
OVEN_JOBS = frozenset({"load", "turn", "out", "shape"})


def write_calendar(name: str, told: Sequence[RunSheetJob], uid: str, stamp: datetime) -> bytes:
    """The jobs of the hands as events, each with an alarm. `uid` makes their names unique."""
    calendar = Calendar()
    calendar.add("prodid", "-//Fine Batch//Run sheet//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    for job in told:
        event = Event()
        event.add("uid", f"{job.key}.{uid}@finebatch.local")
        event.add("dtstamp", stamp.astimezone(UTC))
        event.add("dtstart", job.start.astimezone(UTC))
        event.add("dtend", job.end.astimezone(UTC))
        event.add("summary", job.what)
        about = f"{job.dough}; {job.who}".strip("; ")
        event.add("description", "\n".join([about, *job.steps]))
        event.add("location", job.place)
        if job.kind == "heat":  # an oven gets hot by itself
            event.add("transp", "TRANSPARENT")
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", job.what)
        alarm.add("trigger", -(ALARM_BEFORE if job.kind in OVEN_JOBS else LONG_AHEAD))
        event.add_component(alarm)
        calendar.add_component(event)
    written: bytes = calendar.to_ical()
    return written
