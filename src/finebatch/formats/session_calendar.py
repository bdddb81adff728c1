"""The run sheet as iCalendar (RFC 5545) with alarms, and a calendar read in as busy times."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from dateutil.rrule import rrulestr
from icalendar import Alarm, Calendar, Component, Event

from finebatch.core.refusal import refuse
from finebatch.formats.run_sheet import Told

ALARM_BEFORE = timedelta(minutes=1)
LONG_AHEAD = timedelta(minutes=5)
"""Jobs at the oven ring a minute before, the others five."""
OVEN_JOBS = frozenset({"load", "turn", "out", "shape"})
MOST_LETTERS = 1_000_000
MOST_BUSY = 40
MOST_REPEATS = 400


def write_calendar(name: str, told: Sequence[Told], uid: str, stamp: datetime) -> bytes:
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
        event.add("description", f"{job.dough}; {job.who}".strip("; "))
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


@dataclass(frozen=True, slots=True)
class Busy:
    """A time that a calendar says is taken."""

    start: datetime
    end: datetime
    what: str


@dataclass(frozen=True, slots=True)
class BusyTimes:
    """The busy times of a calendar, soonest first, and how many entries are no such times."""

    times: tuple[Busy, ...]
    left_out: int


def read_calendar(text: str, now: datetime, until: datetime) -> BusyTimes:
    """Read a calendar's events between two moments as times away; repeats are counted out.

    Whole days and free or cancelled entries are left out. `Refusal` for what is no calendar.
    """
    if len(text) > MOST_LETTERS:
        raise refuse("text", "That calendar is larger than 1 MB. Give out fewer days of it.")
    try:
        calendar = Calendar.from_ical(text)
        found, left = [], 0
        for event in calendar.walk("VEVENT"):
            spans = list(_spans(event, now, until))
            found += spans
            left += not spans
    except (ValueError, TypeError, KeyError, IndexError, AttributeError, OverflowError) as error:
        raise refuse(
            "text", "That is no calendar that can be read. Give it out again as iCalendar (.ics)."
        ) from error
    found.sort(key=lambda busy: (busy.start, busy.end))
    if len(found) > MOST_BUSY:
        raise refuse(
            "text",
            f"There are {len(found)} busy times in the next days; at most {MOST_BUSY} are planned "
            "around. Give out fewer days.",
        )
    return BusyTimes(tuple(found), left)


def _spans(event: Component, now: datetime, until: datetime) -> Iterator[Busy]:
    free = str(event.get("TRANSP", "")).upper() == "TRANSPARENT"
    gone = str(event.get("STATUS", "")).upper() == "CANCELLED"
    start = event.decoded("DTSTART", None)
    if free or gone or not isinstance(start, datetime):
        return
    length = _length(event, start)
    for begin in _repeats(event, start, now - length, until):
        end = begin + length
        if end > now and begin < until and length > timedelta(0):
            yield Busy(begin, end, str(event.get("SUMMARY", "")))


def _aware(moment: datetime) -> datetime:
    """A floating time is the kitchen's own."""
    return moment.astimezone() if moment.tzinfo is None else moment


def _length(event: Component, start: datetime) -> timedelta:
    end = event.decoded("DTEND", None)
    if isinstance(end, datetime):
        return _aware(end) - _aware(start)
    length = event.decoded("DURATION", None)
    return length if isinstance(length, timedelta) else timedelta(0)


def _repeats(
    event: Component, start: datetime, after: datetime, until: datetime
) -> Iterator[datetime]:
    rule = event.get("RRULE")
    if rule is None:
        yield _aware(start)
        return
    without = {_aware(d) for d in _excluded(event)}
    # Counted out by the wall clock, so that a daily supper stays at six when the clocks change.
    wall = start.replace(tzinfo=None)
    written = rule.to_ical().decode().replace("Z", "")
    times = rrulestr(written, dtstart=wall)
    zone = start.tzinfo
    low = after.astimezone(zone).replace(tzinfo=None)
    for number, moment in enumerate(times.xafter(low, inc=True)):
        begin = _aware(moment.replace(tzinfo=zone))
        if begin >= until or number >= MOST_REPEATS:
            return
        if begin not in without:
            yield begin


def _excluded(event: Component) -> Iterator[datetime]:
    lists = event.get("EXDATE", [])
    for each in lists if isinstance(lists, list) else [lists]:
        for value in each.dts:
            if isinstance(value.dt, datetime):
                yield value.dt
            elif isinstance(value.dt, date):
                yield datetime(value.dt.year, value.dt.month, value.dt.day, tzinfo=UTC)
